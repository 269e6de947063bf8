using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Core.Sales.Payments;
using Jovitar.Server.Acts;
using Jovitar.Server.People;
using Jovitar.Server.Platform;
using Jovitar.Server.Sales.Ordering;
using Npgsql;

namespace Jovitar.Server.Sales.Payments;

/// <summary>A payment of an order.</summary>
/// <param name="Service">Where it is paid.</param>
/// <param name="Reference">Its name there; null until the service has answered.</param>
/// <param name="Page">Where its buyer pays.</param>
internal sealed record KeptPayment(PaymentId Id, OrderId Order, string Service, string? Reference, string? Page, PaymentStanding Standing, DateTimeOffset Opened);

/// <summary>Payments: opened for an order, and heard of, however often and in whatever order, with the same end.</summary>
internal sealed class PaymentStore(NpgsqlDataSource db, ActRunner acts, PaymentDesk desk, BuyerLetters buyers, OwnerLetters owners, SettingsStore settings, TimeProvider clock)
{
    /// <summary>A page to pay at that is older is asked about before its buyer is led there once more: it may have ended.</summary>
    static readonly TimeSpan Young = TimeSpan.FromHours(1);

    /// <summary>The service is asked about one payment at most so often, whoever looks.</summary>
    static readonly TimeSpan AskedAgain = TimeSpan.FromSeconds(2);

    /// <summary>Nobody pays at a page that was never made.</summary>
    static readonly TimeSpan NeverOpened = TimeSpan.FromDays(1);

    /// <summary>So many are asked about in one go.</summary>
    const int Step = 50;

    internal const string Columns = "p.id, p.sale_order, p.service, p.reference, p.page, p.currency, p.amount, p.state, p.came, p.came_in, p.returned, p.opened";

    /// <summary>What went back of an order <c>@order</c> in its own currency: through services, and by hand.</summary>
    internal const string Returned =
        """
        (select coalesce(sum(p.returned), 0) from payment as p where p.sale_order = @order and p.came_in = p.currency)
          + (select coalesce(sum(r.amount), 0) from refund as r where r.sale_order = @order and r.payment is null)
        """;

    internal static KeptPayment Read(NpgsqlDataReader r)
    {
        var asked = new Money(r.Get<long>("amount"), Currency.Find(r.Get<string>("currency"))!);
        Money? came = r.Maybe<long>("came") is { } minor ? new Money(minor, Currency.Find(r.Get<string>("came_in"))!) : null;
        return new KeptPayment(
            new PaymentId(r.Get<Guid>("id")), new OrderId(r.Get<Guid>("sale_order")), r.Get<string>("service"), r.MaybeText("reference"), r.MaybeText("page"),
            new PaymentStanding(Enum.Parse<PaymentState>(r.Get<string>("state")), asked, came, r.Get<long>("returned")), r.Get<DateTimeOffset>("opened"));
    }

    /// <summary>The payments of an order, the first one first.</summary>
    public async Task<IReadOnlyList<KeptPayment>> OfAsync(OrderId order, CancellationToken ct)
    {
        await using var command = db.Command($"select {Columns} from payment as p where p.sale_order = @order order by p.id", ("order", order.Value));
        return await command.AllAsync(Read, ct);
    }

    /// <summary>Opens a payment of an order, or finds the one that is open.</summary>
    /// <param name="back">Where the buyer comes back to.</param>
    /// <param name="notices">Where the service says what has become of it.</param>
    /// <returns>Where the buyer pays; null where there is nothing to be paid (any more), or no service.</returns>
    /// <exception cref="PaymentsAwayException"/>
    /// <exception cref="PaymentsRefuseException"/>
    public async Task<string?> OpenAsync(KeptOrder order, string back, string notices, CancellationToken ct)
    {
        if (desk.Service is not { } service)
        {
            return null;
        }

        foreach (var open in (await OfAsync(order.Id, ct)).Where(p => p.Standing.State == PaymentState.Open && p.Opened < clock.GetUtcNow() - Young))
        {
            await LookAsync(open, ct);
        }

        if (await BeginAsync(order.Id, service.Name, ct) is not { } payment)
        {
            return null;
        }

        if (payment.Page is { } page)
        {
            return page;
        }

        try
        {
            var title = $"Order {order.Number} from {(await settings.ReadAsync(ct)).Title}";
            var place = await service.OpenAsync(new PaymentAsked(payment.Id, payment.Standing.Asked, title, order.Placed.Buyer.Email, back, notices), ct);
            await using var write = db.Command("update payment set reference = @reference, page = @page where id = @id", ("id", payment.Id.Value), ("reference", place.Reference), ("page", place.Page));
            await write.ExecuteNonQueryAsync(ct);
            return place.Page;
        }
        catch (PaymentsRefuseException)
        {
            await HearAsync(new PaymentNotice(payment.Id, PaymentNews.Ended, null), ct);
            throw;
        }
    }

    /// <summary>The payment of an order that is open; a new one where none is. Two who open one at once have the same.</summary>
    Task<KeptPayment?> BeginAsync(OrderId order, string service, CancellationToken ct) => Database.AgainAsync(
        async () =>
        {
            var now = clock.GetUtcNow();
            await using var tx = await db.BeginAsync(ct);
            await using var find = tx.Command(
                """
                select currency, total
                  from sale_order
                 where id = @order and paid is null and state <> 'Cancelled' and total > 0
                   for no key update
                """,
                ("order", order.Value));
            if (await find.FirstAsync(r => Tuple.Create(r.Get<string>("currency"), r.Get<long>("total")), ct) is not var (currency, total))
            {
                return null;
            }

            await tx.RunAsync(
                "update payment set state = 'Ended' where sale_order = @order and state = 'Open' and service <> @service", ct, ("order", order.Value), ("service", service));
            await tx.RunAsync(
                """
                insert into payment (id, sale_order, service, currency, amount, opened)
                values (@id, @order, @service, @currency, @total, @now)
                on conflict (sale_order) where state = 'Open' do nothing
                """,
                ct, ("id", Guid.CreateVersion7(now)), ("order", order.Value), ("service", service), ("currency", currency), ("total", total), ("now", now));
            await using var read = tx.Command($"select {Columns} from payment as p where p.sale_order = @order and p.state = 'Open'", ("order", order.Value));
            var payment = await read.FirstAsync(Read, ct);
            await tx.CommitAsync(ct);
            return payment;
        },
        ct);

    /// <summary>Hears what a payment service says; twice is as good as once. What is about no payment of ours is another site's.</summary>
    public async Task HearAsync(PaymentNotice notice, CancellationToken ct)
    {
        await using var find = db.Command($"select {Columns} from payment as p where p.id = @id", ("id", notice.Payment.Value));
        // Notices come in storms; what says nothing new locks nothing.
        if (await find.FirstAsync(Read, ct) is not { } known || known.Standing.After(notice) is var after && after == known.Standing)
        {
            return;
        }

        if (notice.News == PaymentNews.Ended)
        {
            // Nothing has become of the order, so it is no act. What was paid meanwhile stays.
            await using var end = db.Command("update payment set state = 'Ended' where id = @id and state = 'Open'", ("id", notice.Payment.Value));
            await end.ExecuteNonQueryAsync(ct);
            return;
        }

        await acts.RunAsync(Actor.Worker(PaymentDesk.Worker), ActKind.Payments, act => HearAsync(act, known.Order, notice, ct), ct);
    }

    async Task<bool> HearAsync(Act act, OrderId id, PaymentNotice notice, CancellationToken ct)
    {
        if (await OrderStore.LockAsync(act, id, ct) is not { } order)
        {
            return act.Drop(false);
        }

        await using var find = act.Command($"select {Columns} from payment as p where p.id = @id for no key update", ("id", notice.Payment.Value));
        var payment = (await find.FirstAsync(Read, ct))!;
        var after = payment.Standing.After(notice);
        if (after == payment.Standing)
        {
            return act.Drop(false);
        }

        await act.RunAsync(
            """
            update payment
               set state = @state, came = @came::bigint, came_in = @in, returned = @returned, is_extra = is_extra or @extra
             where id = @id
            """,
            ct, ("id", payment.Id.Value), ("state", after.State.ToString()), ("came", after.Came?.Minor), ("in", after.Came?.Currency.Code), ("returned", after.Returned),
            ("extra", payment.Standing.Came is null && after.Came is not null && order.Standing.IsPaid));
        // Also where somebody had noted that it was paid: who takes that back leaves this alone.
        var isPaid = after.State == PaymentState.Paid && payment.Standing.State != PaymentState.Paid;
        await using var all = act.Command("select came, state = 'Paid' as pays, is_extra from payment where sale_order = @order and came_in = currency", ("order", id.Value));
        var overpaid = Refunds.Overpaid(order.Placed.Total.Minor, await all.AllAsync(r => new CameIn(r.Get<long>("came"), r.Get<bool>("pays"), r.Get<bool>("is_extra")), ct));
        await act.RunAsync(
            $"""
            update sale_order
               set paid = case when @pays then @now else paid end,
                   returned = {Returned},
                   overpaid = @overpaid,
                   version = version + 1
             where id = @order
            """,
            ct, ("order", id.Value), ("pays", isPaid), ("now", act.Now), ("overpaid", overpaid));
        act.IsKept = true;
        act.Says = _ => OrderWords.Heard(payment.Standing, after, order.Number);
        await TellAsync(act, order, payment.Standing, after, ct);
        return true;
    }

    async Task TellAsync(Act act, KeptOrder order, PaymentStanding before, PaymentStanding after, CancellationToken ct)
    {
        if (before.Came is not null || after.Came is not { } came)
        {
            return;
        }

        if (after.State == PaymentState.Paid)
        {
            await buyers.PutAsync(act, order.Placed.Buyer, act.Now, site => OrderLetters.Paid(site, order.Number, order.Placed), ct);
        }

        if (OrderWords.ToLookAt(order.Standing, after, came) is { } says)
        {
            await owners.PutAsync(act, act.Now, (site, owner, origin) => OrderLetters.LookAt(site, owner, order.Number, says, origin is null ? null : $"{origin}/workroom/orders?order={order.Id}"), ct);
        }
    }

    /// <summary>Asks the service what has become of a payment, and hears it; unless somebody has done so a moment ago.</summary>
    /// <exception cref="PaymentsAwayException"/>
    public async Task LookAsync(KeptPayment payment, CancellationToken ct)
    {
        var now = clock.GetUtcNow();
        await using (var claim = db.Command(
            "update payment set asked = @now where id = @id and (asked is null or asked < @before)", ("id", payment.Id.Value), ("now", now), ("before", now - AskedAgain)))
        {
            if (await claim.ExecuteNonQueryAsync(ct) == 0)
            {
                return;
            }
        }

        if (payment.Reference is null)
        {
            if (payment.Opened < now - NeverOpened)
            {
                await HearAsync(new PaymentNotice(payment.Id, PaymentNews.Ended, null), ct);
            }
        }
        else if (desk.Service is { } service && service.Name == payment.Service)
        {
            try
            {
                foreach (var notice in await service.AskAsync(payment.Id, payment.Reference, ct))
                {
                    await HearAsync(notice, ct);
                }
            }
            catch (PaymentsRefuseException)
            {
                // The service does not know it: nobody will pay it there.
                await HearAsync(new PaymentNotice(payment.Id, PaymentNews.Ended, null), ct);
            }
        }
    }

    /// <summary>Whether an order was being paid just now; the service was asked about it.</summary>
    public async Task<bool> IsOpenAsync(OrderId order, CancellationToken ct)
    {
        if ((await OfAsync(order, ct)).FirstOrDefault(p => p.Standing.State == PaymentState.Open && p.Page is not null) is not { } open)
        {
            return false;
        }

        try
        {
            await LookAsync(open, ct);
        }
        catch (PaymentsAwayException)
        {
            // It is asked again.
        }

        return true;
    }

    /// <summary>Those that are open and are to be asked about: soon after they were opened, and less and less often.</summary>
    public async Task<IReadOnlyList<KeptPayment>> DueAsync(DateTimeOffset now, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select {Columns}
              from payment as p
             where p.state = 'Open'
               and (p.asked is null or p.asked < @now - greatest(interval '1 minute', (@now - p.opened) / 10))
               and p.opened < @now - interval '1 minute'
             order by p.asked nulls first
             limit @most
            """,
            ("now", now), ("most", Step));
        return await command.AllAsync(Read, ct);
    }
}
