using System.Text.Json;
using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Sales.Invoicing;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Jovitar.Server.Sales.Ordering;
using Npgsql;

namespace Jovitar.Server.Sales.Forgetting;

/// <summary>
/// Forgets who bought: name, addresses, what they said and what was noted of them go, and the link of the order opens nothing any more. What was sold
/// stays, and so do invoices, which name their buyers for as long as the law asks. It cannot be taken back.
/// </summary>
internal sealed class ForgettingStore(NpgsqlDataSource db, ActRunner acts, ShopStore shops)
{
    /// <summary>Who forgets where nobody asks for it.</summary>
    const string Worker = "The shop";

    /// <summary>So many orders or invoices are looked at in one go.</summary>
    const int Step = 200;

    /// <summary>So many orders of one buyer are forgotten at once.</summary>
    const int Most = 1000;

    /// <summary>Forgets the buyer of an order, in all orders of the same address of which nothing is left to do.</summary>
    /// <param name="expected">The version that was looked at.</param>
    public Task<(OrderOutcome Outcome, Done Done)> ForgetAsync(Actor who, OrderId id, long expected, CancellationToken ct) => acts.RunAsync(
        who, ActKind.Orders,
        async act =>
        {
            var orders = await LockAsync(act, "lower(o.email) = lower((select s.email from sale_order as s where s.id = @id)) and o.email <> ''", ct, ("id", id.Value), ("most", Most));
            var outcome = orders.FirstOrDefault(o => o.Id == id) is { } order
                ? order.Version != expected ? OrderOutcome.Stale : order.CanForget ? OrderOutcome.Written : OrderOutcome.CannotBe
                : await HasAsync(act, id, ct) ? OrderOutcome.CannotBe : OrderOutcome.Gone;
            if (outcome != OrderOutcome.Written)
            {
                return act.Drop(outcome);
            }

            await ForgetAndSayAsync(act, [.. orders.Where(o => o.CanForget)], ct);
            return outcome;
        },
        ct);

    /// <summary>Forgets whose account it was, in all their orders of which nothing is left to do, as a part of an act.</summary>
    public static async Task ForgetAsync(Act act, Guid account, CancellationToken ct) =>
        await ForgetAsync(act, [.. (await LockAsync(act, "o.account = @account and o.forgotten is null", ct, ("account", account), ("most", Most))).Where(o => o.CanForget)], ct);

    static async Task<bool> HasAsync(Act act, OrderId id, CancellationToken ct)
    {
        await using var find = act.Command("select exists (select from sale_order where id = @id)", ("id", id.Value));
        return (bool)(await find.ExecuteScalarAsync(ct))!;
    }

    static async Task<IReadOnlyList<KeptOrder>> LockAsync(Act act, string which, CancellationToken ct, params (string, object?)[] parameters)
    {
        // One after the other in the same order, whoever locks them.
        await using var find = act.Command($"select {OrderStore.Columns} from sale_order as o where {which} order by o.id limit @most for no key update of o", parameters);
        return await find.AllAsync(OrderStore.Read, ct);
    }

    static Task ForgetAndSayAsync(Act act, IReadOnlyList<KeptOrder> orders, CancellationToken ct)
    {
        (act.IsKept, act.Says) = (true, _ => OrderWords.Forgot([.. orders.Select(o => o.Number)]));
        return ForgetAsync(act, orders, ct);
    }

    static async Task ForgetAsync(Act act, IReadOnlyList<KeptOrder> orders, CancellationToken ct)
    {
        if (orders.Count == 0)
        {
            return;
        }

        var ids = orders.Select(o => o.Id).Values();
        await act.RunAsync(
            """
            update sale_order as o
               set name = '', email = '', note = '', account = null, content = s.content::jsonb, forgotten = @now, version = version + 1,
                   -- Of no secret: nothing opens it.
                   secret = sha256(uuid_send(gen_random_uuid()))
              from unnest(@ids, @contents) as s(id, content)
             where o.id = s.id
            """,
            ct, ("ids", ids), ("contents", orders.Select(o => JsonSerializer.Serialize(PlacedSaid.Of(o.Placed.Forgotten()), PriceStore.Json)).ToArray()), ("now", act.Now));
        // Nor is it remembered what was noted of them before.
        await act.RunAsync("update act_change set before = before - 'note', after = after - 'note' where kind = 'sale_order' and thing = any(@ids)", ct, ("ids", ids));
        await act.RunAsync("delete from act_change where kind = 'sale_order' and thing = any(@ids) and before = '{}' and after = '{}'", ct, ("ids", ids));
        // Letters that have left, where no other order is theirs.
        await act.RunAsync(
            """
            delete from letter as l
             where lower(l.to_address) = any(select lower(e) from unnest(@emails) as e) and l.due is null
               and not exists (select from sale_order as o where lower(o.email) = lower(l.to_address))
            """,
            ct, ("emails", orders.Select(o => o.Placed.Buyer.Email).ToArray()));
    }

    /// <summary>Forgets whom it is time to forget: mostly nobody.</summary>
    public async Task ForgetAsync(DateTimeOffset now, CancellationToken ct)
    {
        var rule = (await shops.ReadAsync(ct)).Shop.Forgetting;
        if (rule.PlacedBefore(now) is { } placed)
        {
            await ForgetOrdersAsync(placed, ct);
        }

        while (await ForgetInvoicesAsync(rule.WrittenBefore(now), ct) == Step)
        {
        }
    }

    async Task ForgetOrdersAsync(DateTimeOffset before, CancellationToken ct)
    {
        var (at, last, isMore) = (DateTimeOffset.UnixEpoch, Guid.Empty, true);
        while (isMore)
        {
            await using var find = db.Command(
                """
                select placed, id
                  from sale_order
                 where forgotten is null and (placed, id) > (@at, @last) and placed < @before
                 order by placed, id
                 limit @most
                """,
                ("at", at), ("last", last), ("before", before), ("most", Step));
            var some = await find.AllAsync(r => (Placed: r.Get<DateTimeOffset>("placed"), Id: r.Get<Guid>("id")), ct);
            isMore = some.Count == Step;
            if (some.Count > 0)
            {
                (at, last) = some[^1];
                await ForgetSomeAsync([.. some.Select(s => s.Id)], ct);
            }
        }
    }

    async Task ForgetSomeAsync(Guid[] ids, CancellationToken ct) => await acts.RunAsync(
        Actor.Worker(Worker), ActKind.Orders,
        async act =>
        {
            var orders = await LockAsync(act, "o.id = any(@ids) and o.forgotten is null", ct, ("ids", ids), ("most", Step));
            if (orders.Where(o => o.CanForget).ToArray() is not { Length: > 0 } some)
            {
                return act.Drop(false);
            }

            await ForgetAndSayAsync(act, some, ct);
            return true;
        },
        ct);

    /// <returns>So many were looked at.</returns>
    async Task<int> ForgetInvoicesAsync(DateTimeOffset before, CancellationToken ct)
    {
        await using var tx = await db.BeginAsync(ct);
        await using var find = tx.Command(
            """
            select i.number, i.content::text as content
              from invoice as i
              left join sale_order as o on o.id = i.sale_order
             where not i.forgotten and i.written < @before and (o.id is null or o.forgotten is not null)
             order by i.written, i.number
             limit @most
               for update of i
            """,
            ("before", before), ("most", Step));
        var some = await find.AllAsync(r => (Number: r.Get<long>("number"), Invoice: JsonSerializer.Deserialize<InvoiceSaid>(r.Get<string>("content"), PriceStore.Json)!.Read()), ct);
        if (some.Count > 0)
        {
            await tx.RunAsync(
                """
                update invoice as i
                   set content = s.content::jsonb, forgotten = true
                  from unnest(@numbers, @contents) as s(number, content)
                 where i.number = s.number
                """,
                ct, ("numbers", some.Select(s => s.Number).ToArray()), ("contents", some.Select(s => JsonSerializer.Serialize(InvoiceSaid.Of(s.Invoice.Forgotten()), PriceStore.Json)).ToArray()));
            await tx.CommitAsync(ct);
        }

        return some.Count;
    }
}
