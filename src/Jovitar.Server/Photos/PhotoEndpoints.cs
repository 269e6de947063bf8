using Jovitar.Core;
using Jovitar.Server.Access;
using Jovitar.Server.Platform;
using Jovitar.Server.Taxonomy;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Npgsql;

namespace Jovitar.Server.Photos;

internal sealed record PhotoList(IReadOnlyList<PhotoId> Photos);

/// <summary>Tags or categories to add to, and take from, several photos.</summary>
internal sealed record TagChange(IReadOnlyList<PhotoId> Photos, IReadOnlyList<string> Add, IReadOnlyList<TagId> Remove);

internal sealed record CategoryChange(IReadOnlyList<PhotoId> Photos, IReadOnlyList<CategoryId> Add, IReadOnlyList<CategoryId> Remove);

/// <summary>What a change of several photos came to, and what would take it back.</summary>
/// <param name="Changed">How many photos were changed.</param>
/// <param name="Added">What was newly put on, photo by photo.</param>
/// <param name="Removed">What was taken off, photo by photo.</param>
internal sealed record Tagged(int Changed, IReadOnlyList<TagMark> Added, IReadOnlyList<TagMark> Removed);

internal sealed record TagMark(PhotoId Photo, TagId Tag, string Name);

internal sealed record Categorised(int Changed, IReadOnlyList<CategoryMark> Added, IReadOnlyList<CategoryMark> Removed);

internal sealed record CategoryMark(PhotoId Photo, CategoryId Category);

/// <summary>The sheet, the plate, and what is done with photos in hand.</summary>
internal static class PhotoEndpoints
{
    /// <summary>So many can be in hand at once.</summary>
    public const int MostInHand = 5000;

    public static void MapPhotos(this IEndpointRouteBuilder api)
    {
        var photos = api.MapGroup("/photos").RequireAuthorization(Security.Editors).WithTags("Photos");
        photos.MapGet("", Window).WithSummary("A window of the sheet").ProducesProblem(400);
        photos.MapGet("/map", Map).WithSummary("The outline of the sheet: its length and where each window begins");
        photos.MapGet("/between", Between).WithSummary("The photos from one to another");
        photos.MapPost("/these", These).WithSummary("Photos by name");
        photos.MapPost("/tags", ChangeTags).WithSummary("Adds and removes tags on photos in hand");
        photos.MapPost("/categories", ChangeCategories).WithSummary("Adds and removes categories on photos in hand");
        photos.MapGet("/{photo}", Show).WithSummary("One photo with its words");
        photos.MapGet("/{photo}/neighbours", Neighbours).WithSummary("What stands before and after a photo in a sheet");
        photos.MapPatch("/{photo}", Change).WithSummary("Writes a photo's words");
        photos.MapGet("/{photo}/preview", Preview).WithSummary("The small picture out of the file itself").ExcludeFromDescription();
        photos.MapGet("/{photo}/original", Original).WithSummary("The original as it came in").ExcludeFromDescription();
    }

    static async Task<Results<Ok<SheetWindow>, BadRequest<Problem>>> Window([AsParameters] SheetQuery query, string? from, SheetStore sheet, CancellationToken ct)
    {
        try
        {
            return TypedResults.Ok(await sheet.WindowAsync(query, SheetKey.Read(from), ct));
        }
        catch (PostgresException e) when (e.SqlState is PostgresErrorCodes.InvalidDatetimeFormat or PostgresErrorCodes.InvalidTextRepresentation)
        {
            return Problems.Invalid("This place in the sheet belongs to another order.");
        }
    }

    static async Task<Ok<SheetMap>> Map([AsParameters] SheetQuery query, SheetStore sheet, CancellationToken ct) => TypedResults.Ok(await sheet.MapAsync(query, ct));

    static async Task<Ok<PhotoList>> Between([AsParameters] SheetQuery query, PhotoId one, PhotoId other, SheetStore sheet, CancellationToken ct) =>
        TypedResults.Ok(new PhotoList(await sheet.BetweenAsync(query, one, other, MostInHand, ct)));

    static async Task<Ok<SheetWindow>> These(PhotoList wanted, SheetStore sheet, CancellationToken ct) =>
        TypedResults.Ok(new SheetWindow(await sheet.TheseAsync([.. wanted.Photos.Take(MostInHand)], ct)));

    static async Task<Results<Ok<Plate>, NotFound<Problem>>> Show(PhotoId photo, PhotoStore store, CancellationToken ct) =>
        await store.FindAsync(photo, ct) is { } plate ? TypedResults.Ok(plate) : Problems.Gone("photo");

    static async Task<Results<Ok<SheetNeighbours>, NotFound<Problem>>> Neighbours(PhotoId photo, [AsParameters] SheetQuery query, SheetStore sheet, CancellationToken ct) =>
        await sheet.NeighboursAsync(query, photo, ct) is { } neighbours ? TypedResults.Ok(neighbours) : Problems.Gone("photo");

    static async Task<Results<Ok<Plate>, NotFound<Problem>, Conflict<Problem>, BadRequest<Problem>>> Change(
        PhotoId photo, PhotoChange change, [FromHeader(Name = "If-Match")] long version, PhotoStore store, CancellationToken ct)
    {
        if (change.Faults() is { Count: > 0 } faults)
        {
            return Problems.Invalid(faults.First().Value, faults);
        }

        var written = await store.ChangeAsync(photo, change, version, ct);
        return await store.FindAsync(photo, ct) is not { } plate ? Problems.Gone("photo") : written ? TypedResults.Ok(plate) : Problems.Stale("photo");
    }

    static async Task<Results<Ok<Tagged>, BadRequest<Problem>>> ChangeTags(TagChange change, TaxonomyStore taxonomy, CancellationToken ct) =>
        change.Photos.Count > MostInHand ? TooMany() : TypedResults.Ok(await taxonomy.ChangeTagsAsync(change, ct));

    static async Task<Results<Ok<Categorised>, BadRequest<Problem>>> ChangeCategories(CategoryChange change, TaxonomyStore taxonomy, CancellationToken ct) =>
        change.Photos.Count > MostInHand ? TooMany() : TypedResults.Ok(await taxonomy.ChangeCategoriesAsync(change, ct));

    static BadRequest<Problem> TooMany() => Problems.Invalid($"At most {MostInHand:#,0} photos can be changed at once.");

    static async Task<Results<PhysicalFileHttpResult, NotFound<Problem>>> Preview(PhotoId photo, HttpContext http, PhotoStore store, Storage storage, CancellationToken ct)
    {
        http.Response.Headers.CacheControl = "private, max-age=600";
        return await store.OriginalAsync(photo, ct) is { } original && File.Exists(storage.Preview(original.Hash)) ? TypedResults.PhysicalFile(storage.Preview(original.Hash), "image/jpeg") : Problems.Gone("preview");
    }

    static async Task<Results<PhysicalFileHttpResult, NotFound<Problem>>> Original(PhotoId photo, PhotoStore store, Storage storage, CancellationToken ct) =>
        await store.OriginalAsync(photo, ct) is { } original && File.Exists(storage.Original(original.Hash))
            ? TypedResults.PhysicalFile(storage.Original(original.Hash), original.MediaType, original.FileName)
            : Problems.Gone("original");
}
