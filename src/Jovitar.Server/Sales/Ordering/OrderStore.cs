using System.Text.Json;
using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.People;
using Jovitar.Core.Sales.Forgetting;
using Jovitar.Core.Sales.Invoicing;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Core.Sales.Payments;
using Jovitar.Server.Acts;
using Jovitar.Server.People;
using Jovitar.Server.Platform;
using Jovitar.Server.Sales.Coupons;
using Npgsql;

namespace Jovitar.Server.Sales.Ordering;

/// <summary>An order, and where it stands.</summary>
/// <param name="Paid">When its money came.</param>
/// <param name="Returned">What went back of it, minor units.</param>
/// <param name="Overpaid">What came beyond its price, minor units.</param>
/// <param name="Note">Of those who sell, for themselves.</param>
/// <param name="Fetched">How often the file of each line was fetched.</param>
/// <param name="Invoicing">When it has its invoice.</param>
/// <param name="Forgotten">When its buyer was.</param>
/// <param name="IsOnItsWayBack">Money of it is.</param>
/// <param name="Version">Expected by the next write.</param>
internal sealed record KeptOrder(OrderId Id, long Number, DateTimeOffset At, PlacedOrder Placed, OrderStanding Standing, DateTimeOffset? Paid, long Returned, long Overpaid, string Note, IReadOnlyList<int> Fetched, InvoiceTime Invoicing,
    DateTimeOffset? Forgotten, bool IsOnItsWayBack, long Version)
{
    /// <summary>Its buyer can be forgotten.</summary>
    public bool CanForget => Forgotten is null && ForgettingRule.CanForget(Standing, IsOnItsWayBack);
}

/// <summary>How placing an order ended.</summary>
internal enum PlacingOutcome
{
    Placed,

    /// <summary>The basket holds something else than was ordered, a coupon of it is another, or the last of an edition was sold meanwhile.</summary>
    Changed,

    /// <summary>Its buyer has used a coupon that is for each buyer once.</summary>
    CouponUsed,
}

/// <summary>How a change of an order ended.</summary>
internal enum OrderOutcome
{
    Written,
    Gone,
    Stale,

    /// <summary>That cannot be done where it stands.</summary>
    CannotBe,
}

/// <summary>Orders: placed once, whatever is pressed how often, and moved on by those who sell.</summary>
internal sealed class OrderStore(NpgsqlDataSource db, ActRunner acts, BuyerLetters buyers, OwnerLetters owners, TimeProvider clock)
{
    /// <summary>Where an order is opened by whoever placed it; its secret stands behind it.</summary>
    public const string Path = "/order";

    internal const string Columns =
        """
        o.id, o.number, o.placed, o.content::text as content, o.state, o.delivery, o.paid, o.returned, o.overpaid, o.note,
          o.invoicing, o.forgotten, o.version,
          exists (select from refund as f where f.sale_order = o.id and f.state = 'Asked') as on_its_way_back,
          array(select l.fetched from sale_order_line as l where l.sale_order = o.id order by l.place) as fetched
        """;

    internal static KeptOrder Read(NpgsqlDataReader r)
    {
        var (paid, returned, overpaid) = (r.Maybe<DateTimeOffset>("paid"), r.Get<long>("returned"), r.Get<long>("overpaid"));
        var placed = JsonSerializer.Deserialize<PlacedSaid>(r.Get<string>("content"), PriceStore.Json)!.Read();
        return new KeptOrder(
            new OrderId(r.Get<Guid>("id")), r.Get<long>("number"), r.Get<DateTimeOffset>("placed"), placed,
            new OrderStanding(Enum.Parse<OrderState>(r.Get<string>("state")), paid is not null, Enum.Parse<Delivery>(r.Get<string>("delivery")), Refunds.Of(placed.Total.Minor, Refunds.OfPrice(returned, overpaid))), paid, returned, overpaid, r.Get<string>("note"),
            r.Get<int[]>("fetched"), Enum.Parse<InvoiceTime>(r.Get<string>("invoicing")), r.Maybe<DateTimeOffset>("forgotten"), r.Get<bool>("on_its_way_back"), r.Get<long>("version"));
    }

    /// <summary>An order that nobody else changes until the act is done; null when it is not there.</summary>
    public static async Task<KeptOrder?> LockAsync(Act act, OrderId id, CancellationToken ct)
    {
        await using var find = act.Command($"select {Columns} from sale_order as o where o.id = @id for no key update", ("id", id.Value));
        return await find.FirstAsync(Read, ct);
    }

    /// <summary>Places an order of what a basket holds, which is empty then.</summary>
    /// <param name="basket">As it was when the order was summed, with the coupons that take something off: where it holds something else by now, nothing is placed.</param>
    /// <param name="secret">Of the link that opens it; who sends the same once more finds the order that was placed with it.</param>
    /// <param name="account">Of who is signed in.</param>
    /// <param name="origin">Where the site is; null where nobody is to be told.</param>
    /// <param name="invoicing">When it has its invoice.</param>
    public async Task<PlacingOutcome> PlaceAsync(Basket basket, PlacedOrder order, string secret, byte[] hash, Guid? account, string? origin, InvoiceTime invoicing, CancellationToken ct)
    {
        try
        {
            return await PlaceOnceAsync(basket, order, secret, hash, account, origin, invoicing, ct);
        }
        catch (PostgresException e) when (e.SqlState == PostgresErrorCodes.UniqueViolation)
        {
            // Another basket has placed one with the same secret in the same moment: nobody who means well sends that.
            return PlacingOutcome.Changed;
        }
    }

    Task<PlacingOutcome> PlaceOnceAsync(Basket basket, PlacedOrder order, string secret, byte[] hash, Guid? account, string? origin, InvoiceTime invoicing, CancellationToken ct) => Database.AgainAsync(
        async () =>
        {
            var now = clock.GetUtcNow();
            await using var tx = await db.BeginAsync(ct);
            // One at a time of a basket: a second press waits for the first, and finds what that one placed.
            await tx.RunAsync("select from basket where id = @basket for update", ct, ("basket", basket.Id));
            if (await IsPlacedAsync(tx, hash, basket.Id, ct))
            {
                return PlacingOutcome.Placed;
            }

            // Whoever empties the bin meanwhile waits, and finds that the order needs them; or they are gone, and so is the line.
            await tx.RunAsync("select from photo where id = any(@photos) order by id for share", ct, ("photos", basket.Lines.Select(l => l.Photo).Distinct().Values()));
            await using var take = tx.Command(
                """
                delete from basket_line as l
                 using unnest(@ids, @counts) as s(id, count)
                 where l.basket = @basket and l.id = s.id and l.count = s.count
                """,
                ("basket", basket.Id), ("ids", basket.Lines.Select(l => l.Id).ToArray()), ("counts", basket.Lines.Select(l => l.Count).ToArray()));
            if (await take.ExecuteNonQueryAsync(ct) != basket.Lines.Count)
            {
                return PlacingOutcome.Changed;
            }

            if (await CouponStore.TakeAsync(tx, basket.Coupons, order, clock.Today(), ct) is not CouponTaking.Taken and var taking)
            {
                return taking == CouponTaking.UsedBefore ? PlacingOutcome.CouponUsed : PlacingOutcome.Changed;
            }

            // The next number, while nobody else has it: without gaps.
            await using var count = tx.Command("update order_count set last = last + 1 returning last");
            var number = (long)(await count.ExecuteScalarAsync(ct))!;
            // So nobody else places one now: what is left of an edition is left.
            if (!await EditionStore.AreLeftAsync(tx, order, ct))
            {
                return PlacingOutcome.Changed;
            }

            var id = Guid.CreateVersion7(now);
            await tx.RunAsync(
                """
                insert into sale_order
                  (id, number, secret, basket, account, placed, name, email, content, currency, total, things, delivery, paid, invoicing,
                   goods, taken_off, postage, taxed)
                values
                  (@id, @number, @hash, @basket, @account::uuid, @now, @name, @email, @content::jsonb, @currency, @total,
                   @things, @delivery, @paid::timestamptz, @invoicing, @goods, @off, @postage, @taxed)
                """,
                ct, ("id", id), ("number", number), ("hash", hash), ("basket", basket.Id), ("account", account), ("now", now), ("name", order.Buyer.Name), ("email", order.Buyer.Email),
                ("content", JsonSerializer.Serialize(PlacedSaid.Of(order), PriceStore.Json)), ("currency", order.Total.Currency.Code), ("total", order.Total.Minor), ("things", order.Lines.Sum(l => l.Count)),
                ("delivery", order.Way.Delivery.ToString()), ("paid", order.Total.Minor == 0 ? now : null), ("invoicing", invoicing.ToString()),
                ("goods", order.Goods.Minor), ("off", order.TakenOff.Minor), ("postage", order.Way.Costs.Minor), ("taxed", order.Taxed.Minor));
            await tx.RunAsync(
                """
                insert into sale_order_line (sale_order, place, photo, option, count, amount, cost)
                select @id, s.n, s.photo, s.option, s.count, s.amount, s.cost
                  from unnest(@photos, @options, @counts, @amounts, @costs) with ordinality as s(photo, option, count, amount, cost, n)
                """,
                ct, ("id", id), ("photos", order.Lines.Select(l => l.Photo.Value).ToArray()), ("options", order.Lines.Select(l => l.Option.Id).ToArray()), ("counts", order.Lines.Select(l => l.Count).ToArray()),
                ("amounts", order.Lines.Select(l => l.Amount.Minor).ToArray()), ("costs", order.Lines.Select(l => l.Costs?.Minor).ToArray()));
            await CouponStore.UseAsync(tx, basket.Coupons, id, ct);
            await tx.RunAsync("delete from basket_coupon where basket = @basket", ct, ("basket", basket.Id));
            if (origin is not null)
            {
                await TellAsync(tx, id, number, order, $"{origin}{Path}/{secret}", now, ct);
            }

            await tx.CommitAsync(ct);
            return PlacingOutcome.Placed;
        },
        ct);

    static async Task<bool> IsPlacedAsync(Transaction tx, byte[] hash, Guid basket, CancellationToken ct)
    {
        await using var command = tx.Command("select exists (select from sale_order where secret = @hash and basket = @basket)", ("hash", hash), ("basket", basket));
        return (bool)(await command.ExecuteScalarAsync(ct))!;
    }

    async Task TellAsync(Transaction tx, Guid id, long number, PlacedOrder order, string link, DateTimeOffset now, CancellationToken ct)
    {
        await buyers.PutAsync(tx, order.Buyer, now, site => OrderLetters.Placed(site, number, order, link), ct);
        await owners.PutAsync(tx, now, (site, owner, origin) => OrderLetters.Came(site, owner, number, order, origin is null ? null : $"{origin}/workroom/orders?order={id}"), ct);
    }

    /// <summary>Whether an order was placed with a secret; whoever sends a form twice is led to it.</summary>
    public async Task<bool> HasAsync(byte[] hash, CancellationToken ct)
    {
        await using var command = db.Command("select exists (select from sale_order where secret = @hash)", ("hash", hash));
        return (bool)(await command.ExecuteScalarAsync(ct))!;
    }

    /// <summary>The order that a link opens; null for none.</summary>
    public async Task<KeptOrder?> FindAsync(byte[] hash, CancellationToken ct)
    {
        await using var command = db.Command($"select {Columns} from sale_order as o where o.secret = @hash", ("hash", hash));
        return await command.FirstAsync(Read, ct);
    }

    /// <returns>Null when it is not there.</returns>
    public async Task<KeptOrder?> FindAsync(OrderId id, CancellationToken ct)
    {
        await using var command = db.Command($"select {Columns} from sale_order as o where o.id = @id", ("id", id.Value));
        return await command.FirstAsync(Read, ct);
    }

    /// <summary>Takes one of the times that the file of a line may be fetched.</summary>
    /// <param name="line">From 1.</param>
    /// <param name="most">Null for as often as they like.</param>
    /// <returns>False where all are taken.</returns>
    public async Task<bool> FetchAsync(OrderId id, int line, int? most, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            update sale_order_line
               set fetched = fetched + 1
             where sale_order = @id and place = @line and (@most::int is null or fetched < @most)
            """,
            ("id", id.Value), ("line", line), ("most", most));
        return await command.ExecuteNonQueryAsync(ct) == 1;
    }

    /// <summary>Takes an order a step further.</summary>
    /// <param name="expected">The version that was looked at.</param>
    public Task<(OrderOutcome Outcome, Done Done)> StepAsync(Actor who, OrderId id, OrderStep step, long expected, CancellationToken ct) => ChangeAsync(
        who, id, expected,
        async (act, order) =>
        {
            if (order.Standing.After(step) is not { } after)
            {
                return OrderOutcome.CannotBe;
            }

            act.Says = _ => OrderWords.Done(step, order.Number);
            await act.RunAsync(
                """
                update sale_order
                   set state = @state, paid = case when @pays then coalesce(paid, @now) else paid end, version = version + 1
                 where id = @id
                """,
                ct, ("id", id.Value), ("state", after.State.ToString()), ("pays", step == OrderStep.Pay), ("now", act.Now));
            return OrderOutcome.Written;
        },
        ct);

    /// <summary>Writes what those who sell note of an order.</summary>
    public Task<(OrderOutcome Outcome, Done Done)> NoteAsync(Actor who, OrderId id, string note, long expected, CancellationToken ct) => ChangeAsync(
        who, id, expected,
        async (act, order) =>
        {
            act.Says = _ => OrderWords.Noted(order.Number);
            await act.RunAsync("update sale_order set note = @note, version = version + 1 where id = @id", ct, ("id", id.Value), ("note", note));
            return OrderOutcome.Written;
        },
        ct);

    /// <summary>Makes an order a new link; the former one opens nothing any more. Its buyer has it by letter, where the site writes any.</summary>
    /// <param name="origin">Where the site is.</param>
    /// <param name="expected">The version that was looked at.</param>
    public async Task<(OrderOutcome Outcome, string Link, Done Done)> LinkAsync(Actor who, OrderId id, string origin, long expected, CancellationToken ct)
    {
        var secret = LinkSecret.New();
        var link = $"{origin}{Path}/{secret}";
        var (outcome, done) = await ChangeAsync(
            who, id, expected,
            async (act, order) =>
            {
                if (order.Forgotten is not null)
                {
                    return OrderOutcome.CannotBe;
                }

                (act.IsKept, act.Says) = (true, _ => OrderWords.Linked(order.Number));
                await act.RunAsync("update sale_order set secret = @hash, version = version + 1 where id = @id", ct, ("id", id.Value), ("hash", LinkSecret.Hash(secret)));
                await buyers.PutAsync(act, order.Placed.Buyer, act.Now, site => OrderLetters.Linked(site, order.Number, order.Placed, link), ct);
                return OrderOutcome.Written;
            },
            ct, ActKind.Entry);
        return (outcome, link, done);
    }

    Task<(OrderOutcome Outcome, Done Done)> ChangeAsync(
        Actor who, OrderId id, long expected, Func<Act, KeptOrder, Task<OrderOutcome>> change, CancellationToken ct, ActKind kind = ActKind.Orders) => acts.RunAsync(
        who, kind,
        async act =>
        {
            var outcome = await LockAsync(act, id, ct) is not { } order ? OrderOutcome.Gone : order.Version != expected ? OrderOutcome.Stale : await change(act, order);
            return outcome == OrderOutcome.Written ? outcome : act.Drop(outcome);
        },
        ct);
}
