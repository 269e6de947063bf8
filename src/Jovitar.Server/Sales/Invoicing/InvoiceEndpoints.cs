using Jovitar.Core;
using Jovitar.Core.Describing;
using Jovitar.Core.Sales.Invoicing;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Jovitar.Server.Sales.Ordering;
using Jovitar.Server.Sales.Papers;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace Jovitar.Server.Sales.Invoicing;

/// <summary>Invoices and credit notes, for those who sell and their bookkeeping.</summary>
internal static class InvoiceEndpoints
{
    public static void MapInvoices(this IEndpointRouteBuilder api)
    {
        var orders = api.MapGroup("/orders/{order}/invoices").RequireAuthorization(Security.Editors).WithTags("Invoices");
        orders.MapPost("", Ask).NeedsVersion().WithSummary("Writes the invoice of an order now, paid or not");
        orders.MapGet("/{number:int}", Show).ExcludeFromDescription().WithSummary("An invoice or a credit note of an order, as PDF");
        var all = api.MapGroup("/invoices").RequireAuthorization(Security.Editors).WithTags("Invoices");
        all.MapGet("/table.csv", Table).WithSummary("The invoices of a year, as a spreadsheet’s file for bookkeeping");
        all.MapGet("/papers.zip", Papers).WithSummary("The invoices of a year, as PDF in a ZIP, with their table");
    }

    static async Task<Results<Ok<OrderKept>, NotFound<Problem>, Conflict<Problem>, Stale>> Ask(OrderId order, [FromHeader(Name = "If-Match")] long version, Actor who, InvoiceStore invoices, OrderDoor door, CancellationToken ct)
    {
        var (outcome, done) = await invoices.AskAsync(who, order, version, ct);
        return await door.AnswerAsync(order, outcome, done, ct);
    }

    static async Task<Results<FileContentHttpResult, NotFound<Problem>>> Show(OrderId order, int number, HttpContext http, InvoiceStore invoices, PaperStore papers, CancellationToken ct) =>
        await invoices.FindAsync(order, number, ct) is { } invoice ? PaperEndpoints.Shown(http, (await papers.InvoicesAsync(ct))(invoice), invoice.FileName) : Problems.Gone("invoice");

    /// <param name="year">In which they were written (UTC); this year unless said.</param>
    static Task<Results<PushStreamHttpResult, BadRequest<Problem>>> Table(int? year, HttpContext http, InvoiceStore invoices, YearFile file) =>
        file.SendAsync(http, year, "invoices", ".csv", "text/csv; charset=utf-8", (of, to) => WriteAsync(of, to, invoices, _ => Task.CompletedTask, http.RequestAborted));

    /// <param name="year">In which they were written (UTC); this year unless said.</param>
    static Task<Results<PushStreamHttpResult, BadRequest<Problem>>> Papers(int? year, HttpContext http, InvoiceStore invoices, PaperStore papers, YearFile file) =>
        file.SendAsync(http, year, "invoices", ".zip", "application/zip", (of, to) => ZipAsync(of, to, invoices, papers, http.RequestAborted));

    /// <summary>Writes the table of a year.</summary>
    /// <param name="with">What is done with each invoice besides.</param>
    static async Task WriteAsync(int year, Stream to, InvoiceStore invoices, Func<Invoice, Task> with, CancellationToken ct)
    {
        await using var csv = new CsvRows(to);
        await csv.AddAsync(InvoiceTable.Columns);
        await foreach (var some in invoices.OfYearAsync(year, ct))
        {
            foreach (var invoice in some)
            {
                foreach (var row in InvoiceTable.Rows(invoice))
                {
                    await csv.AddAsync(row);
                }

                await with(invoice);
            }
        }
    }

    static Task ZipAsync(int year, Stream to, InvoiceStore invoices, PaperStore papers, CancellationToken ct) => ZipOut.SendAsync(
        to,
        async zip =>
        {
            var (names, draw) = (new LeavingNames(), await papers.InvoicesAsync(ct));
            using var table = new MemoryStream();
            await WriteAsync(year, table, invoices, invoice => zip.PackedAsync(names.Next(invoice.FileName), new MemoryStream(draw(invoice)), ct), ct);
            await zip.TextAsync(names.Next($"invoices {year}.csv"), table.ToArray(), ct);
        },
        ct);
}
