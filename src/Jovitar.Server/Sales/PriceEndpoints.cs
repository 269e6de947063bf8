using System.ComponentModel.DataAnnotations;
using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Describing;
using Jovitar.Core.Sales;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace Jovitar.Server.Sales;

internal sealed record PriceLists(IReadOnlyList<PriceListLine> Lists, IReadOnlyList<string> Currencies);

/// <summary>A price list to begin.</summary>
/// <param name="Currency">Its code in ISO 4217.</param>
public sealed record PriceListBegun([Required, Words(PriceList.LongestName)] string Name, [Required] string Currency);

/// <summary>A price list as it is kept now, and the act that did it.</summary>
internal sealed record PriceListKept(PriceListSeen Seen, Done Done);

/// <summary>What a file says of a price list, and what taking it in would come to.</summary>
/// <param name="Encoding">How its letters were read; Doubtful says that this was guessed.</param>
/// <param name="Unknown">Columns that are passed over.</param>
/// <param name="Changed">So many options would be changed or added; <paramref name="Added"/> of them added.</param>
/// <param name="Rejected">The first of the rows that are not written; <paramref name="RejectedCount"/> says how many.</param>
/// <param name="Changes">The first of the changes, each in words.</param>
internal sealed record PricePreview(
    string Encoding, bool Doubtful, IReadOnlyList<string> Unknown, int Rows, int Changed, int Added, int RejectedCount, IReadOnlyList<RejectedRow> Rejected, IReadOnlyList<string> Changes);

/// <summary>What taking a file in came to.</summary>
internal sealed record PricesDone(Done Done, int Changed, int Added, int RejectedCount);

/// <summary>Price lists.</summary>
internal static class PriceEndpoints
{
    const int MostNamed = 50;
    const int MostBytes = 1 << 20;
    const int MostChanges = 5;

    public static void MapPrices(this IEndpointRouteBuilder api)
    {
        var prices = api.MapGroup("/prices").RequireAuthorization(Security.Editors).WithTags("Prices");
        prices.MapGet("", List).WithSummary("Price lists, and the currencies that there are");
        prices.MapPost("", Make).WithSummary("Begins a price list");
        prices.MapGet("/{list}", Show).WithSummary("A price list with its options, and the albums that sell by it");
        prices.MapPut("/{list}", Write).NeedsVersion().WithSummary("Writes a price list anew; every sales gallery has it at once");
        prices.MapDelete("/{list}", LetGo).NeedsVersion().WithSummary("Lets a price list go that nothing is sold by");
        prices.MapGet("/{list}/table.csv", Table).WithSummary("The options of a price list as a spreadsheet's file");
        prices.MapPost("/{list}/table/preview", Preview).Accepts<byte[]>("text/csv").WithMetadata(new RequestSizeLimitAttribute(MostBytes)).WithSummary("What taking a file in would come to");
        prices.MapPost("/{list}/table", TakeIn).Accepts<byte[]>("text/csv").WithMetadata(new RequestSizeLimitAttribute(MostBytes)).WithSummary("Takes the options of a file in, as one act; what is not in it stays");
    }

    static async Task<Ok<PriceLists>> List(PriceStore store, CancellationToken ct) => TypedResults.Ok(new PriceLists(await store.ListAsync(ct), [.. Currency.All.Select(c => c.Code)]));

    static async Task<Results<Ok<PriceListSeen>, NotFound<Problem>>> Show(PriceListId list, PriceStore store, CancellationToken ct) =>
        await store.FindAsync(list, ct) is { } seen ? TypedResults.Ok(seen) : Problems.Gone("price list");

    static async Task<Results<Ok<PriceListKept>, NotFound<Problem>, BadRequest<Problem>, Conflict<Problem>>> Make(PriceListBegun body, Actor who, PriceStore store, CancellationToken ct)
    {
        if (Currency.Find(body.Currency) is not { } currency)
        {
            return Problems.Invalid("There is no such currency.");
        }

        var list = PriceList.Empty(body.Name, currency).AsKept();
        if (list.Fault() is { } fault)
        {
            return Problems.Invalid(fault);
        }

        var (outcome, id, done) = await store.MakeAsync(who, list, ct);
        return outcome == PriceOutcome.Taken ? Problems.Taken(IsTaken, "name")
            : outcome == PriceOutcome.TooMany ? Problems.Invalid($"There are {PriceStore.Most} price lists already; let one go first.")
            : await store.FindAsync(id, ct) is { } seen ? TypedResults.Ok(new PriceListKept(seen, done)) : Problems.Gone("price list");
    }

    static async Task<Results<Ok<PriceListKept>, NotFound<Problem>, BadRequest<Problem>, Conflict<Problem>, Stale>> Write(
        PriceListId list, PriceListSaid body, [FromHeader(Name = "If-Match")] long version, Actor who, PriceStore store, CancellationToken ct)
    {
        if (body.Options.Count > PriceList.Most)
        {
            return Problems.Invalid($"A price list has {PriceList.Most} options at most.");
        }

        var (read, wrong, faults) = body.Read();
        if (read is null)
        {
            return Problems.Invalid(wrong!, faults.ToDictionary(f => f.Key.ToString(), f => f.Value));
        }

        var (outcome, done) = await store.WriteAsync(who, list, read, version, ct);
        return outcome switch
        {
            PriceOutcome.Stale => Problems.Stale("price list"),
            PriceOutcome.Taken => Problems.Taken(IsTaken, "name"),
            PriceOutcome.Written when await store.FindAsync(list, ct) is { } seen => TypedResults.Ok(new PriceListKept(seen, done)),
            _ => Problems.Gone("price list"),
        };
    }

    static async Task<Results<Ok<Done>, NotFound<Problem>, Conflict<Problem>, Stale>> LetGo(PriceListId list, [FromHeader(Name = "If-Match")] long version, Actor who, PriceStore store, CancellationToken ct)
    {
        var (outcome, done) = await store.LetGoAsync(who, list, version, ct);
        return outcome switch
        {
            PriceOutcome.Stale => Problems.Stale("price list"),
            PriceOutcome.InUse => Problems.Conflict("in-use", "Albums sell by this price list. Say of them what they sell by first."),
            PriceOutcome.Written => TypedResults.Ok(done),
            _ => Problems.Gone("price list"),
        };
    }

    static async Task<Results<FileContentHttpResult, NotFound<Problem>>> Table(PriceListId list, HttpContext http, PriceStore store, CancellationToken ct)
    {
        if (await store.ReadAsync(list, ct) is not { } read)
        {
            return Problems.Gone("price list");
        }

        using var to = new MemoryStream();
        await using (var csv = new CsvRows(to))
        {
            await csv.AddAsync(PriceTable.Columns);
            foreach (var option in read.Options)
            {
                await csv.AddAsync(PriceTable.Cells(option));
            }
        }

        http.Response.Headers.CacheControl = "private, no-store";
        return TypedResults.File(to.ToArray(), "text/csv; charset=utf-8", new LeavingNames().Next($"{read.Name}, prices.csv"));
    }

    static async Task<Results<Ok<PricePreview>, NotFound<Problem>, BadRequest<Problem>>> Preview(PriceListId list, string? encoding, HttpContext http, PriceStore store, CancellationToken ct)
    {
        var (csv, at, wrong) = await ReadAsync(http, encoding, ct);
        if (csv is null)
        {
            return Problems.Invalid(wrong!);
        }

        if (await store.ReadAsync(list, ct) is not { } before)
        {
            return Problems.Gone("price list");
        }

        var taken = Taken(before, csv, at);
        return TypedResults.Ok(new PricePreview(
            csv.Encoding, csv.Doubtful, csv.Unknown(PriceTable.Columns), csv.Lines.Count, taken.Changed + taken.Added, taken.Added, csv.Rejected.Count + taken.Rejected.Count,
            [.. csv.Rejected.Concat(taken.Rejected.Select(r => new RejectedRow(r.Line, r.Why))).OrderBy(r => r.Line).Take(MostNamed)], PriceWords.Changes(before, taken.List, MostChanges)));
    }

    static async Task<Results<Ok<PricesDone>, NotFound<Problem>, BadRequest<Problem>>> TakeIn(
        PriceListId list, [Words(300)] string? name, string? encoding, HttpContext http, Actor who, PriceStore store, CancellationToken ct)
    {
        var (csv, at, wrong) = await ReadAsync(http, encoding, ct);
        if (csv is null)
        {
            return Problems.Invalid(wrong!);
        }

        var (taken, done) = await store.TakeInAsync(who, list, before => Taken(before, csv, at), Text.Name(name ?? "a table"), ct);
        return taken is null ? Problems.Gone("price list") : TypedResults.Ok(new PricesDone(done, taken.Changed, taken.Added, csv.Rejected.Count + taken.Rejected.Count));
    }

    static async Task<(CsvText? Csv, IReadOnlyDictionary<string, int> At, string? Wrong)> ReadAsync(HttpContext http, string? encoding, CancellationToken ct)
    {
        var (csv, wrong) = await CsvText.ReadAsync(http.Request, encoding, ct);
        if (csv is null)
        {
            return (null, new Dictionary<string, int>(), wrong);
        }

        var (at, twice) = csv.Columns(PriceTable.Columns);
        return (twice ?? PriceTable.Lacks([.. at.Keys])) is { } not ? (null, at, not) : (csv, at, null);
    }

    static PriceTaken Taken(PriceList before, CsvText csv, IReadOnlyDictionary<string, int> at)
    {
        var (list, changed, added, rejected) = PriceTable.Taken(
            before, csv.Lines.Select(l => (l.Number, (Func<string, string?>)(column => at.TryGetValue(column, out var i) ? l.Cells.ElementAtOrDefault(i) ?? "" : null))));
        return new PriceTaken(list, changed, added, rejected);
    }

    const string IsTaken = "Another price list is called so already.";
}
