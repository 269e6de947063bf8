using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Core.Sales.Payments;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Jovitar.Server.Sales.Ordering;
using Npgsql;

namespace Jovitar.Server.Sales.Payments;

/// <summary>A refund that its service is to be asked for.</summary>
internal sealed record AskedRefund(RefundId Id, OrderId Order, KeptPayment Payment, Money Amount);

/// <summary>Money that goes back to buyers: asked for once, and done once, whatever is pressed or breaks off meanwhile.</summary>
internal sealed class RefundStore(NpgsqlDataSource db, ActRunner acts, PaymentDesk desk, BuyerLetters buyers)
{
    /// <summary>So many are asked for again in one go.</summary>
    const int Step = 20;

    /// <summary>What came of an order by services, with what went back of it, and what is to.</summary>
    const string Came =
        $"""
        select {PaymentStore.Columns},
               (select coalesce(sum(r.amount), 0)::bigint
                  from refund as r
                 where r.payment = p.id and r.state <> 'Refused') as to_return
          from payment as p
         where p.sale_order = @order and p.came is not null
         order by p.id
        """;

    /// <summary>What can go back of an order now.</summary>
    public async Task<Refundable> OfAsync(KeptOrder order, CancellationToken ct)
    {
        await using var command = db.Command(Came, ("order", order.Id.Value));
        return Of(order, await command.AllAsync(Read, ct));
    }

    static (KeptPayment Payment, long Asked) Read(NpgsqlDataReader r) => (PaymentStore.Read(r), r.Get<long>("to_return"));

    static Refundable Of(KeptOrder order, IEnumerable<(KeptPayment Payment, long Asked)> came) =>
        Refunds.Of(order.Placed.Total, order.Standing.IsPaid, order.Returned, came.Select(c => new PaymentToRefund(c.Payment.Id, c.Payment.Standing, c.Asked)));

    /// <summary>Gives money of an order back. By a service it is asked for; it is tried until the service has answered.</summary>
    /// <param name="typed">How much.</param>
    /// <param name="expected">The version that was looked at.</param>
    /// <returns>Beside how it ended, why not, where that is to be said.</returns>
    public async Task<(OrderOutcome Outcome, string? Wrong, Done Done)> RefundAsync(Actor who, OrderId id, string typed, long expected, CancellationToken ct)
    {
        var ((outcome, wrong, refund), done) = await acts.RunAsync(who, ActKind.Payments, act => AskAsync(act, id, typed, expected, ct), ct);
        if (outcome != OrderOutcome.Written || refund is null)
        {
            return (outcome, wrong, done);
        }

        try
        {
            await DoAsync(refund, ct);
            return (outcome, null, done);
        }
        catch (PaymentsAwayException)
        {
            // It stands written, and is asked for again.
            return (outcome, null, done);
        }
        catch (PaymentsRefuseException e)
        {
            return (OrderOutcome.CannotBe, e.Message, done);
        }
    }

    async Task<(OrderOutcome, string?, AskedRefund?)> AskAsync(Act act, OrderId id, string typed, long expected, CancellationToken ct)
    {
        if (await OrderStore.LockAsync(act, id, ct) is not { } order)
        {
            return act.Drop<(OrderOutcome, string?, AskedRefund?)>((OrderOutcome.Gone, null, null));
        }

        if (order.Version != expected)
        {
            return act.Drop<(OrderOutcome, string?, AskedRefund?)>((OrderOutcome.Stale, null, null));
        }

        await using var command = act.Command($"{Came} for no key update of p", ("order", id.Value));
        var came = await command.AllAsync(Read, ct);
        var refundable = Of(order, came);
        var payment = came.Select(c => c.Payment).FirstOrDefault(p => p.Id == refundable.By);
        var (amount, wrong) = Refunds.Read(typed, refundable.Most);
        wrong ??= payment is not null && payment.Service != desk.Service?.Name ? "It was paid at a payment service that is not set up any more: give it back there." : null;
        if (amount is not { } money || wrong is not null)
        {
            return act.Drop<(OrderOutcome, string?, AskedRefund?)>((OrderOutcome.CannotBe, wrong, null));
        }

        var refund = new RefundId(Guid.CreateVersion7(act.Now));
        await act.RunAsync(
            """
            insert into refund (id, sale_order, payment, amount, state, made)
            values (@id, @order, @payment::uuid, @amount, @state, @now)
            """,
            ct,
            ("id", refund.Value), ("order", id.Value), ("payment", payment?.Id.Value), ("amount", money.Minor), ("state", payment is null ? "Done" : "Asked"), ("now", act.Now));
        await FollowAsync(act, id, ct);
        act.IsKept = true;
        act.Says = _ => payment is null ? OrderWords.GaveBack(money, order.Number) : OrderWords.GivesBack(money, order.Number);
        if (payment is null)
        {
            await TellAsync(act, order, money, ct);
        }

        return (OrderOutcome.Written, null, payment is null ? null : new AskedRefund(refund, id, payment, money));
    }

    static Task<int> FollowAsync(Act act, OrderId order, CancellationToken ct) => act.RunAsync(
        $"update sale_order set returned = {PaymentStore.Returned}, version = version + 1 where id = @order", ct, ("order", order.Value));

    Task TellAsync(Act act, KeptOrder order, Money amount, CancellationToken ct) =>
        buyers.PutAsync(act, order.Placed.Buyer, act.Now, site => OrderLetters.GaveBack(site, order.Number, order.Placed, amount), ct);

    /// <summary>Has the service send money back, and writes down that it did; or that it does not.</summary>
    /// <exception cref="PaymentsAwayException"/>
    /// <exception cref="PaymentsRefuseException"/>
    public async Task DoAsync(AskedRefund refund, CancellationToken ct)
    {
        if (desk.Service is not { } service || service.Name != refund.Payment.Service || refund.Payment.Reference is not { } reference)
        {
            return;
        }

        try
        {
            await service.RefundAsync(refund.Id, refund.Payment.Id, reference, refund.Amount, ct);
        }
        catch (PaymentsRefuseException)
        {
            await EndAsync(refund, "Refused", ct);
            throw;
        }

        await EndAsync(refund, "Done", ct);
    }

    /// <summary>Writes how a refund ended; a second time is none.</summary>
    async Task EndAsync(AskedRefund refund, string state, CancellationToken ct) => await acts.RunAsync(
        Actor.Worker(PaymentDesk.Worker), ActKind.Payments,
        async act =>
        {
            if (await OrderStore.LockAsync(act, refund.Order, ct) is not { } order
                || await act.RunAsync("update refund set state = @state where id = @id and state = 'Asked'", ct, ("id", refund.Id.Value), ("state", state)) == 0)
            {
                return act.Drop(false);
            }

            // A notice of the same may have come first: what went back is told as all of it until then.
            await act.RunAsync(
                """
                update payment
                   set returned = greatest(
                         returned, (select coalesce(sum(r.amount), 0) from refund as r where r.payment = @payment and r.state = 'Done'))
                 where id = @payment
                """,
                ct, ("payment", refund.Payment.Id.Value));
            await FollowAsync(act, refund.Order, ct);
            act.IsKept = true;
            if (state == "Done")
            {
                act.Says = _ => OrderWords.GaveBack(refund.Amount, order.Number);
                await TellAsync(act, order, refund.Amount, ct);
            }
            else
            {
                act.Says = _ => OrderWords.NotGivenBack(refund.Amount, order.Number);
            }

            return true;
        },
        ct);

    /// <summary>Those that a service did not answer about yet.</summary>
    /// <param name="before">They were asked for before then: whoever did waits no longer.</param>
    public async Task<IReadOnlyList<AskedRefund>> DueAsync(string service, DateTimeOffset before, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select r.id as refund, r.amount as back, {PaymentStore.Columns}
              from refund as r
              join payment as p on p.id = r.payment
             where r.state = 'Asked' and r.made < @before and p.service = @service
             order by r.made
             limit @most
            """,
            ("service", service), ("before", before), ("most", Step));
        return await command.AllAsync(
            r =>
            {
                var payment = PaymentStore.Read(r);
                return new AskedRefund(new RefundId(r.Get<Guid>("refund")), payment.Order, payment, payment.Standing.Came!.Value with { Minor = r.Get<long>("back") });
            },
            ct);
    }
}
