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
internal sealed class ForgettingStore(NpgsqlDataSource db, ActRunner acts, ShopStore shops, ILogger<ForgettingStore> log)
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
    /// <param name="email">Also of orders that they placed without signing in.</param>
    public static async Task ForgetAsync(Act act, Guid account, string email, CancellationToken ct)
    {
        var orders = await LockAsync(act, "(o.account = @account or lower(o.email) = lower(@email)) and o.forgotten is null", ct, ("account", account), ("email", email), ("most", Most));
        await ForgetAsync(act, [.. orders.Where(o => o.CanForget)], ct);
    }

    static async Task<bool> HasAsync(Act act, OrderId id, CancellationToken ct)
    {
        await using var find = act.Command("select exists (select from sale_order where id = @id)", ("id", id.Value));
        return (bool)(await find.ExecuteScalarAsync(ct))!;
    }

    static async Task<IReadOnlyList<KeptOrder>> LockAsync(Act act, string which, CancellationToken ct, params (string, object?)[] parameters)
    {
        // One after the other in the same order, whoever locks them; and read once they are, with what others have done until then.
        await using var hold = act.Command($"select o.id from sale_order as o where {which} order by o.id limit @most for no key update", parameters);
        var ids = await hold.AllAsync(r => r.GetGuid(0), ct);
        await using var find = act.Command($"select {OrderStore.Columns} from sale_order as o where o.id = any(@ids) order by o.id", ("ids", ids.ToArray()));
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
                   -- Of no secret, so that nothing opens it; nor does a basket lead to whose it was.
                   secret = sha256(uuid_send(gen_random_uuid())), basket = gen_random_uuid()
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
            await PagesAsync(
                """
                select o.placed as at, o.id
                  from sale_order as o
                 where o.forgotten is null and (o.placed, o.id) > (@at, @last) and o.placed < @before
                 order by o.placed, o.id
                 limit @most
                """,
                Guid.Empty, placed, ForgetSomeAsync, ct);
        }

        await PagesAsync(
            """
            select i.written as at, i.number as id
              from invoice as i
              left join sale_order as o on o.id = i.sale_order
             where not i.forgotten and (i.written, i.number) > (@at, @last) and i.written < @before
               and (o.id is null or o.forgotten is not null)
             order by i.written, i.number
             limit @most
            """,
            0L, rule.WrittenBefore(now), ForgetInvoicesAsync, ct);
    }

    /// <summary>Does something with all that a query finds, some at a time, and one by one where that fails: one that cannot be read keeps no other waiting.</summary>
    async Task PagesAsync<Id>(string sql, Id first, DateTimeOffset before, Func<Id[], CancellationToken, Task> forget, CancellationToken ct)
    {
        var (at, last, isMore) = (DateTimeOffset.UnixEpoch, first, true);
        while (isMore)
        {
            await using var find = db.Command(sql, ("at", at), ("last", last), ("before", before), ("most", Step));
            var some = await find.AllAsync(r => (At: r.Get<DateTimeOffset>("at"), Id: r.Get<Id>("id")), ct);
            isMore = some.Count == Step;
            if (some.Count > 0)
            {
                (at, last) = some[^1];
                await TryAsync([.. some.Select(s => s.Id)], forget, ct);
            }
        }
    }

    async Task TryAsync<Id>(Id[] ids, Func<Id[], CancellationToken, Task> forget, CancellationToken ct)
    {
        try
        {
            await forget(ids, ct);
        }
        catch (Exception e) when (e is not (OperationCanceledException or NpgsqlException))
        {
            if (ids is [var one])
            {
                log.LogError(e, "Who bought could not be forgotten of {Id}; it is tried again", one);
                return;
            }

            foreach (var id in ids)
            {
                await TryAsync([id], forget, ct);
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

    async Task ForgetInvoicesAsync(long[] numbers, CancellationToken ct)
    {
        await using var tx = await db.BeginAsync(ct);
        await using var find = tx.Command(
            "select number, content::text as content from invoice where number = any(@numbers) and not forgotten order by number for update", ("numbers", numbers));
        var some = await find.AllAsync(r => (Number: r.Get<long>("number"), Invoice: JsonSerializer.Deserialize<InvoiceSaid>(r.Get<string>("content"), PriceStore.Json)!.Read()), ct);
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
}
