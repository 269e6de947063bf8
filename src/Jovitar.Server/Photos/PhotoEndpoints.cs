using System.ComponentModel.DataAnnotations;
using Jovitar.Core;
using Jovitar.Core.Photos;
using Jovitar.Core.Access;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Acts;
using Jovitar.Server.Narrowings;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Storing;
using Jovitar.Server.Taxonomy;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace Jovitar.Server.Photos;

public sealed record PhotoList([Required, AtMost(Hand.Most)] IReadOnlyList<PhotoId> Photos);

/// <summary>What is decided about several photos; what is null stays as it is.</summary>
/// <param name="Decision">Empty, keep, doubt or leave_out.</param>
/// <param name="Rating">0 to 5; 0 takes a rating back.</param>
public sealed record DecidePhotos(
    IReadOnlyList<PhotoId>? Photos = null, bool? InHand = null,
    [OneOf(Decisions.None, Decisions.Keep, Decisions.Doubt, Decisions.LeaveOut)] string? Decision = null, [Range(0, 5)] int? Rating = null) : Reach(Photos, InHand);

/// <summary>Photos as frames show them.</summary>
internal sealed record SheetPhotos(IReadOnlyList<SheetPhoto> Photos);

/// <summary>How many photos a sheet has.</summary>
internal sealed record SheetTotal(int Total);

/// <summary>Tags to put on several photos, by name, and to take off them.</summary>
public sealed record TagPhotos(
    [Required, AtMost(PhotoEndpoints.MostAtOnce)] IReadOnlyList<string> Add, [Required, AtMost(PhotoEndpoints.MostAtOnce)] IReadOnlyList<TagId> Remove,
    IReadOnlyList<PhotoId>? Photos = null, bool? InHand = null) : Reach(Photos, InHand);

/// <summary>Categories to put several photos in, and to take them out of.</summary>
public sealed record CategorisePhotos(
    [Required, AtMost(PhotoEndpoints.MostAtOnce)] IReadOnlyList<CategoryId> Add, [Required, AtMost(PhotoEndpoints.MostAtOnce)] IReadOnlyList<CategoryId> Remove,
    IReadOnlyList<PhotoId>? Photos = null, bool? InHand = null) : Reach(Photos, InHand);

/// <summary>A photo as it is after a write, and what the write came to.</summary>
internal sealed record Written(Plate Plate, Done Done);

/// <summary>The sheet, the plate, and what is done with photos in hand.</summary>
internal static class PhotoEndpoints
{
    /// <summary>So many tags or categories are put on at once.</summary>
    public const int MostAtOnce = 100;

    public static void MapPhotos(this IEndpointRouteBuilder api)
    {
        var photos = api.MapGroup("/photos").RequireAuthorization(Security.Editors).WithTags("Photos");
        photos.MapGet("", Window).WithSummary("A window of the sheet, and how many photos the whole has");
        photos.MapGet("/total", Total).WithSummary("How many photos are found");
        photos.MapGet("/counts", Counts).WithSummary("How many photos are found, and how many would be with each choice of the narrowing");
        photos.MapGet("/between", Between).WithSummary("The photos from one to another");
        photos.MapPost("/these", These).WithSummary("Photos by name");
        photos.MapPost("/decision", Decide).WithSummary("Decides about photos in hand, or rates them");
        photos.MapPost("/tags", ChangeTags).WithSummary("Adds and removes tags on photos in hand");
        photos.MapPost("/categories", ChangeCategories).WithSummary("Adds and removes categories on photos in hand");
        photos.MapGet("/{photo}", Show).WithSummary("One photo with its words");
        photos.MapGet("/{photo}/neighbours", Neighbours).WithSummary("What stands before and after a photo in a sheet");
        photos.MapPatch("/{photo}", Change).NeedsVersion().WithSummary("Writes a photo's words");
        photos.MapGet("/{photo}/preview", Preview).WithSummary("The small picture out of the file itself").ExcludeFromDescription();
        photos.MapGet("/{photo}/original", Original).WithSummary("The original as it came in").ExcludeFromDescription();
    }

    static async Task<Ok<SheetWindow>> Window([AsParameters] SheetQuery query, int? at, SheetStore sheet, CancellationToken ct) => TypedResults.Ok(await sheet.WindowAsync(query, Math.Max(0, at ?? 0), ct));

    static async Task<Ok<SheetTotal>> Total([AsParameters] SheetQuery query, SheetStore sheet, CancellationToken ct) => TypedResults.Ok(new SheetTotal(await sheet.TotalAsync(query, ct)));

    static async Task<Ok<SheetCounts>> Counts([AsParameters] SheetQuery query, CountStore counts, CancellationToken ct) => TypedResults.Ok(await counts.CountAsync(query.Narrowing(), inBin: false, ct));

    static async Task<Ok<PhotoList>> Between([AsParameters] SheetQuery query, PhotoId one, PhotoId other, SheetStore sheet, CancellationToken ct) =>
        TypedResults.Ok(new PhotoList(await sheet.BetweenAsync(query, one, other, Hand.Most, ct)));

    static async Task<Ok<SheetPhotos>> These(PhotoList wanted, SheetStore sheet, CancellationToken ct) => TypedResults.Ok(new SheetPhotos(await sheet.TheseAsync(wanted.Photos, ct)));

    static async Task<Results<Ok<Plate>, NotFound<Problem>>> Show(PhotoId photo, PhotoStore store, CancellationToken ct) =>
        await store.FindAsync(photo, ct) is { } plate ? TypedResults.Ok(plate) : Problems.Gone("photo");

    static async Task<Results<Ok<SheetNeighbours>, NotFound<Problem>>> Neighbours(PhotoId photo, [AsParameters] SheetQuery query, SheetStore sheet, CancellationToken ct) =>
        await sheet.NeighboursAsync(query, photo, ct) is { } neighbours ? TypedResults.Ok(neighbours) : Problems.Gone("photo");

    static async Task<Results<Ok<Written>, NotFound<Problem>, BadRequest<Problem>, Stale>> Change(
        PhotoId photo, PhotoChange change, [FromHeader(Name = "If-Match")] long version, Actor who, PhotoStore store, CancellationToken ct)
    {
        if (change.Wrong() is { } wrong)
        {
            return Problems.Invalid(wrong);
        }

        var (outcome, done) = await store.ChangeAsync(who, photo, change, version, ct);
        return outcome switch
        {
            WordsOutcome.Stale => Problems.Stale("photo"),
            WordsOutcome.Written when await store.FindAsync(photo, ct) is { } plate => TypedResults.Ok(new Written(plate, done)),
            _ => Problems.Gone("photo"),
        };
    }

    static async Task<Ok<Done>> Decide(DecidePhotos body, Actor who, HandStore hand, PhotoStore store, CancellationToken ct) =>
        TypedResults.Ok(await store.DecideAsync(who, await hand.ReachedAsync(who, body, ct), body.Decision, body.Rating, ct));

    static async Task<Ok<Done>> ChangeTags(TagPhotos body, Actor who, HandStore hand, TagStore tags, CancellationToken ct) =>
        TypedResults.Ok(await tags.ChangeAsync(who, new TagChange(await hand.ReachedAsync(who, body, ct), body.Add, body.Remove), ct));

    static async Task<Ok<Done>> ChangeCategories(CategorisePhotos body, Actor who, HandStore hand, CategoryStore categories, CancellationToken ct) =>
        TypedResults.Ok(await categories.ChangePhotosAsync(who, new CategoryChange(await hand.ReachedAsync(who, body, ct), body.Add, body.Remove), ct));

    static async Task<Results<FileAnswer, NotFound<Problem>>> Preview(PhotoId photo, HttpContext http, PhotoStore store, AccessStore access, Storage storage, CancellationToken ct)
    {
        if (await access.PhotoAsync(photo, Sight.Somebody, ct) is not { } thing || !access.May(http.User.Viewer(), Right.See, thing)
            || await store.OriginalAsync(photo, ct) is not { } original || await storage.FindAsync(StorageKeys.Preview(original.Hash)) is not { } file)
        {
            return Problems.Gone("preview");
        }

        ForStaff.Private(http);
        return storage.Answer(file, "image/jpeg");
    }

    static async Task<Results<FileAnswer, NotFound<Problem>>> Original(PhotoId photo, HttpContext http, PhotoStore store, AccessStore access, Storage storage, CancellationToken ct)
    {
        if (await access.PhotoAsync(photo, Sight.Somebody, ct) is not { } thing || !access.May(http.User.Viewer(), Right.SeeOriginal, thing)
            || await store.OriginalAsync(photo, ct) is not { } original || await storage.FindAsync(StorageKeys.Original(original.Hash)) is not { } file)
        {
            return Problems.Gone("original");
        }

        ForStaff.Private(http);
        return storage.Answer(file, original.MediaType, original.FileName);
    }
}
