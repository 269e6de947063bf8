using System.ComponentModel.DataAnnotations;
using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Describing;
using Jovitar.Core.Photos;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Photos;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace Jovitar.Server.Describing;

/// <summary>A photo's row of a table that is typed down.</summary>
/// <param name="Version">What it was read at; a row that is out of date is not written.</param>
public sealed record TypedRow(PhotoId Photo, IReadOnlyDictionary<WordField, string> Words, long Version);

/// <summary>Rows that were typed or pasted.</summary>
public sealed record TypedRows([Required, AtMost(Hand.Most)] IReadOnlyList<TypedRow> Rows);

/// <summary>A row of the table as it is read.</summary>
internal sealed record TableRow(SheetPhoto Photo, IReadOnlyDictionary<WordField, string> Words, long Version);

internal sealed record TableRows(IReadOnlyList<TableRow> Rows);

/// <summary>Words as a table: typed down here, or as the file of a spreadsheet.</summary>
internal static class TableEndpoints
{
    /// <summary>Bytes of a file of words: 200,000 rows with captions have about half of it.</summary>
    const int MostBytes = 64 << 20;

    public static void MapTables(this IEndpointRouteBuilder api)
    {
        var words = api.MapGroup("/words").RequireAuthorization(Security.Editors).WithTags("Describing");
        words.MapGet("/table.csv", Write).ExcludeFromDescription().WithSummary("The words of all photos, or of what is in hand, as CSV");
        words.MapPost("/table/preview", Preview).Accepts<byte[]>("text/csv").WithMetadata(new RequestSizeLimitAttribute(MostBytes)).WithSummary("What writing a CSV would come to");
        words.MapPost("/table", TakeIn).Accepts<byte[]>("text/csv").WithMetadata(new RequestSizeLimitAttribute(MostBytes)).WithSummary("Writes the words of a CSV");
        words.MapPost("/rows", Rows).WithSummary("Rows of the table of words");
        words.MapPut("/rows", Type).WithSummary("Writes rows that were typed or pasted");
    }

    static async Task<PushStreamHttpResult> Write(bool? inHand, HttpContext http, Actor who, HandStore hand, SheetStore sheet, TableStore tables, SettingsStore settings, CancellationToken ct)
    {
        var photos = inHand == true ? await hand.ReachedAsync(who, new Reach(InHand: true), ct) : await sheet.FoundAsync(new SheetQuery(), int.MaxValue, ct);
        http.Response.Headers.CacheControl = "private, no-store";
        var name = new LeavingNames().Next($"{(await settings.ReadAsync(ct)).Title}, words of {ActWords.Photos(photos.Count)}.csv");
        return TypedResults.Stream(to => tables.WriteAsync(photos, to, http.RequestAborted), "text/csv; charset=utf-8", name);
    }

    static async Task<Results<Ok<TablePreview>, BadRequest<Problem>>> Preview(string? encoding, bool? clears, HttpContext http, TableStore tables, CancellationToken ct)
    {
        var (csv, unread) = await CsvText.ReadAsync(http.Request, encoding, ct);
        if (csv is null)
        {
            return Problems.Invalid(unread!);
        }

        var (preview, wrong) = await tables.PreviewAsync(csv, clears == true, ct);
        return preview is null ? Problems.Invalid(wrong!) : TypedResults.Ok(preview);
    }

    static async Task<Results<Ok<RowsDone>, BadRequest<Problem>>> TakeIn([Words(300)] string? name, string? encoding, bool? clears, HttpContext http, Actor who, TableStore tables, CancellationToken ct)
    {
        var (csv, unread) = await CsvText.ReadAsync(http.Request, encoding, ct);
        if (csv is null)
        {
            return Problems.Invalid(unread!);
        }

        var (done, wrong) = await tables.TakeInAsync(who, csv, Text.Name(name ?? "a table"), clears == true, ct);
        return done is null ? Problems.Invalid(wrong!) : TypedResults.Ok(done);
    }

    static async Task<Ok<TableRows>> Rows(PhotoList body, SheetStore sheet, DescribingStore store, CancellationToken ct)
    {
        var photos = body.Photos.Distinct().ToArray();
        var frames = (await sheet.TheseAsync(photos, ct)).ToDictionary(p => p.Id.Value);
        var rows = await store.RowsAsync(photos, ct);
        return TypedResults.Ok(new TableRows(
            [.. rows.Where(r => frames.ContainsKey(r.Photo.Id)).Select(r => new TableRow(frames[r.Photo.Id], WordFields.All.ToDictionary(f => f, f => r.Photo[f]), r.Version))]));
    }

    static async Task<Results<Ok<RowsDone>, BadRequest<Problem>>> Type(TypedRows body, Actor who, RowStore rows, CancellationToken ct)
    {
        foreach (var row in body.Rows)
        {
            if (row.Words.Any(w => !Enum.IsDefined(w.Key) || w.Value is null || !Text.IsSound(w.Value) || w.Value.Length > PhotoWords.LongestText))
            {
                return Problems.Invalid("A cell has characters in it that cannot be kept, or is too long.");
            }

            if (row.Words.TryGetValue(WordField.Link, out var link) && link.Trim().Length > 0 && !WordFields.IsLink(link.Trim()))
            {
                return Problems.Invalid("A link begins with https:// or http://, or is a mail address after mailto:.");
            }
        }

        if (body.Rows.DistinctBy(r => r.Photo).Count() < body.Rows.Count)
        {
            return Problems.Invalid("A photo has one row.");
        }

        return TypedResults.Ok(await rows.WriteAsync(who, [.. body.Rows.Select(r => new WordsRow(r.Photo.Value, r.Words, Version: r.Version))], null, ct));
    }
}
