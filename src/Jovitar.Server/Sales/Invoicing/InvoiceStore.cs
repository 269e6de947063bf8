using System.Text.Json;
using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Invoicing;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Core.Sales.Payments;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Mailing;
using Jovitar.Server.Sales.Ordering;
using Jovitar.Server.Sales.Papers;
using Npgsql;

namespace Jovitar.Server.Sales.Invoicing;

/// <summary>An invoice or a credit note among those of an order.</summary>
/// <param name="Number">The running number alone.</param>
/// <param name="Called">As it stands on it.</param>
internal sealed record InvoiceLine(long Number, string Called, InvoiceKind Kind, DateTimeOffset Written, Money Amount);

/// <summary>Invoices: written once each, with numbers that run without gaps, and never changed, except that they name a buyer no longer who is forgotten once the law asks for it no longer.</summary>
internal sealed class InvoiceStore(NpgsqlDataSource db, ActRunner acts, ShopStore shops, SettingsStore settings, PaperStore papers, BuyerLetters buyers, ILogger<InvoiceStore> log)
{
    /// <summary>Who writes them where nobody asks for one.</summary>
    const string Worker = "The shop";

    /// <summary>So many orders are looked at in one go.</summary>
    const int Step = 50;

    /// <summary>So many invoices are read whole at once.</summary>
    const int Whole = 200;

    const string Lines = "select i.number, i.called, i.kind, i.written, i.currency, i.amount from invoice as i where i.sale_order = @order order by i.number";

    static InvoiceLine ReadLine(NpgsqlDataReader r) => new(
        r.Get<long>("number"), r.Get<string>("called"), Enum.Parse<InvoiceKind>(r.Get<string>("kind")), r.Get<DateTimeOffset>("written"), new Money(r.Get<long>("amount"), Currency.Find(r.Get<string>("currency"))!));

    static Invoice Read(NpgsqlDataReader r) => JsonSerializer.Deserialize<InvoiceSaid>(r.Get<string>("content"), PriceStore.Json)!.Read();

    /// <summary>What was written of an order, the first one first.</summary>
    public async Task<IReadOnlyList<InvoiceLine>> OfAsync(OrderId order, CancellationToken ct)
    {
        await using var command = db.Command(Lines, ("order", order.Value));
        return await command.AllAsync(ReadLine, ct);
    }

    /// <returns>Null where there is none such of that order.</returns>
    public async Task<Invoice?> FindAsync(OrderId order, long number, CancellationToken ct)
    {
        await using var command = db.Command("select content::text as content from invoice where number = @number and sale_order = @order", ("number", number), ("order", order.Value));
        return await command.FirstAsync(Read, ct);
    }

    /// <summary>The running number of the last one; 0 while there is none.</summary>
    public async Task<long> LastAsync(CancellationToken ct)
    {
        await using var command = db.Command("select last from invoice_count");
        return (long)(await command.ExecuteScalarAsync(ct))!;
    }

    /// <summary>Those that were written in a year (UTC), by their numbers, some at a time.</summary>
    public async IAsyncEnumerable<IReadOnlyList<Invoice>> OfYearAsync(int year, [System.Runtime.CompilerServices.EnumeratorCancellation] CancellationToken ct)
    {
        var from = new DateTimeOffset(year, 1, 1, 0, 0, 0, TimeSpan.Zero);
        var (at, number, isMore) = (from, 0L, true);
        while (isMore)
        {
            await using var command = db.Command(
                """
                select number, written, content::text as content
                  from invoice
                 where (written, number) > (@at, @number) and written < @until
                 order by written, number
                 limit @most
                """,
                ("at", at), ("number", number), ("until", from.AddYears(1)), ("most", Whole));
            var some = await command.AllAsync(r => (Number: r.Get<long>("number"), Written: r.Get<DateTimeOffset>("written"), Invoice: Read(r)), ct);
            isMore = some.Count == Whole;
            if (some.Count > 0)
            {
                (at, number) = (some[^1].Written, some[^1].Number);
                yield return [.. some.Select(s => s.Invoice)];
            }
        }
    }

    /// <summary>Writes what is to be written by now of orders of which something has changed since their papers were looked at, the eldest first: mostly nothing.</summary>
    public async Task SettleAsync(CancellationToken ct)
    {
        await using var command = db.Command("select id from sale_order where to_bill order by placed, id limit @most", ("most", Step));
        var due = await command.AllAsync(r => new OrderId(r.Get<Guid>("id")), ct);
        if (due.Count == 0)
        {
            return;
        }

        var terms = await TermsAsync(ct);
        foreach (var order in due)
        {
            try
            {
                await SettleAsync(order, terms, ct);
            }
            catch (Exception e) when (e is not (OperationCanceledException or NpgsqlException))
            {
                // One that cannot be written keeps no other waiting.
                log.LogError(e, "The invoice of order {Order} could not be written; it is tried again", order);
            }
        }
    }

    async Task SettleAsync(OrderId id, Terms terms, CancellationToken ct) => await acts.RunAsync(
        Actor.Worker(Worker), ActKind.Invoices,
        async act =>
        {
            if (await OrderStore.LockAsync(act, id, ct) is not { } order)
            {
                return act.Drop(false);
            }

            // Where none are written any more, what was written is still taken back.
            await WriteAsync(act, order, terms.Rule.Of(order.Invoicing), terms, ct);
            await act.RunAsync("update sale_order set to_bill = false where id = @id", ct, ("id", id.Value));
            return true;
        },
        ct);

    /// <summary>Writes the invoice of an order because somebody asks for it, paid or not.</summary>
    /// <param name="expected">The version that was looked at.</param>
    public async Task<(OrderOutcome Outcome, Done Done)> AskAsync(Actor who, OrderId id, long expected, CancellationToken ct)
    {
        var terms = await TermsAsync(ct);
        return await acts.RunAsync(
            who, ActKind.Invoices,
            async act =>
            {
                var order = await OrderStore.LockAsync(act, id, ct);
                var outcome = order is null ? OrderOutcome.Gone : order.Version != expected ? OrderOutcome.Stale
                    : !(await WriteAsync(act, order, terms.Rule.Of(InvoiceTime.Now), terms, ct)).Any(i => i.Kind == InvoiceKind.Invoice) ? OrderOutcome.CannotBe
                    : OrderOutcome.Written;
                if (outcome != OrderOutcome.Written)
                {
                    return act.Drop(outcome);
                }

                await act.RunAsync("update sale_order set invoicing = 'Now', to_bill = false, version = version + 1 where id = @id", ct, ("id", id.Value));
                return outcome;
            },
            ct);
    }

    /// <summary>How invoices are written by now.</summary>
    sealed record Terms(InvoiceRule Rule, string Site, Func<Invoice, byte[]> Draw);

    async Task<Terms> TermsAsync(CancellationToken ct) => new((await shops.ReadAsync(ct)).Shop.Invoices, (await settings.ReadAsync(ct)).Title, await papers.InvoicesAsync(ct));

    /// <summary>Whether somebody can have the invoice of an order written now.</summary>
    /// <param name="written">What was written of it.</param>
    public static bool CanBeAsked(KeptOrder order, InvoiceRule rule, IEnumerable<InvoiceLine> written) => Next(order, rule.Of(InvoiceTime.Now), written).Any(s => s.Kind == InvoiceKind.Invoice);

    static IReadOnlyList<InvoiceStep> Next(KeptOrder order, InvoiceTime time, IEnumerable<InvoiceLine> written) =>
        Billing.Next(order.Standing, time, order.Placed.Total.Minor, Refunds.OfPrice(order.Returned, order.Overpaid), Billing.Balance(written.Select(w => (w.Kind, w.Amount.Minor))));

    /// <summary>Writes what is to be written of an order that is locked; its buyer has a letter with each.</summary>
    /// <returns>What that was.</returns>
    async Task<IReadOnlyList<Invoice>> WriteAsync(Act act, KeptOrder order, InvoiceTime time, Terms terms, CancellationToken ct)
    {
        var rule = terms.Rule;
        await using var read = act.Command(Lines, ("order", order.Id.Value));
        var written = await read.AllAsync(ReadLine, ct);
        var last = written.LastOrDefault(w => w.Kind == InvoiceKind.Invoice) is { } line ? new InvoiceNamed(line.Called, Day(line.Written)) : null;
        var made = new List<Invoice>();
        foreach (var step in Next(order, time, written))
        {
            // The next number, while nobody else has it: without gaps.
            await using var count = act.Command("update invoice_count set last = case when last = 0 then @first else last + 1 end returning last", ("first", rule.First));
            var number = (long)(await count.ExecuteScalarAsync(ct))!;
            var total = order.Placed.Total;
            var invoice = new Invoice(
                step.Kind, rule.Call(number), Day(act.Now), terms.Site, rule.Seller, rule.TaxNumber, rule.Foot, order.Number, Day(order.At), order.Paid is { } paid ? Day(paid) : null, order.Placed with { Message = "" },
                step.Kind == InvoiceKind.Invoice ? null : last, total with { Minor = step.Amount }, Billing.TaxOf(order.Placed, step));
            await act.RunAsync(
                """
                insert into invoice (number, called, sale_order, kind, written, content, currency, amount)
                values (@number, @called, @order, @kind, @now, @content::jsonb, @currency, @amount)
                """,
                ct, ("number", number), ("called", invoice.Called), ("order", order.Id.Value), ("kind", step.Kind.ToString()), ("now", act.Now),
                ("content", JsonSerializer.Serialize(InvoiceSaid.Of(invoice), PriceStore.Json)), ("currency", total.Currency.Code), ("amount", step.Amount));
            await buyers.PutAsync(act, invoice.Placed.Buyer, act.Now, _ => OrderLetters.Invoiced(invoice), ct, () => new LetterPaper(invoice.FileName, terms.Draw(invoice)));
            made.Add(invoice);
            last = step.Kind == InvoiceKind.Invoice ? new InvoiceNamed(invoice.Called, invoice.Day) : last;
        }

        (act.IsKept, act.Says) = (made.Count > 0, _ => OrderWords.Wrote(made, order.Number));
        return made;
    }

    static DateOnly Day(DateTimeOffset at) => DateOnly.FromDateTime(at.UtcDateTime);
}
