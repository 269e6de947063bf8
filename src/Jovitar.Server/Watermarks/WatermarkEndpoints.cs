using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Watermarks;
using Jovitar.Imaging;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Storing;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace Jovitar.Server.Watermarks;

/// <summary>Who gets the photos of a thing without the watermark, in words.</summary>
/// <param name="Kind">"album" or "category"; "site" for all there is.</param>
/// <param name="Called">The groups and members who do, where it is some.</param>
/// <param name="Spares">Who is spared, within a sentence.</param>
internal sealed record MarkingShown(string Kind, Guid Thing, string Name, Whom Marking, IReadOnlyList<Chosen> Called, string Spares)
{
    public static MarkingShown Of(OwnMarking own) => new(own.Kind, own.Thing, own.Name, own.Marking, own.Called, Whom.Said(own.Marking.Who, own.Called));
}

/// <summary>A photo to look at a watermark on.</summary>
/// <param name="Width">Pixels; likewise its height.</param>
internal sealed record WatermarkExample(PhotoId Photo, string Name, int Width, int Height);

/// <summary>The watermark, what it is on, and photos of several shapes to look at it on.</summary>
/// <param name="IsSeen">There is something of it to be seen.</param>
/// <param name="Markings">What says who gets photos without it: the site, and the first of the albums and categories that say something of their own.</param>
/// <param name="MoreMarkings">So many more say something.</param>
internal sealed record WatermarkShown(Watermark Watermark, bool IsSeen, IReadOnlyList<MarkingShown> Markings, int MoreMarkings, IReadOnlyList<WatermarkExample> Examples, long Edited);

/// <summary>The watermark as it is after a write, and what the write came to.</summary>
internal sealed record WatermarkWritten(WatermarkShown Watermark, Done Done);

/// <summary>Who gets the photos of a thing without the watermark, and whether there is one.</summary>
internal sealed record MarkingOpened(MarkingShown Marking, bool HasWatermark);

/// <param name="Was">What it was when it was looked at.</param>
public sealed record MarkingWish(Whom Marking, Whom Was);

/// <summary>A watermark that somebody tries, as an address says it.</summary>
/// <param name="Picture">The name of its picture; empty for none.</param>
internal sealed record WatermarkAsked(string Kind, string Words, string Lettering, string Picture, string Place, int Size, int Strength, int Inset)
{
    /// <returns>Null where it names something that there is not.</returns>
    public Watermark? Watermark(WatermarkPicture? picture) =>
        Enum.TryParse<WatermarkKind>(Kind, ignoreCase: true, out var kind) && Enum.TryParse<Lettering>(Lettering, ignoreCase: true, out var lettering) && Enum.TryParse<WatermarkPlace>(Place, ignoreCase: true, out var place)
            ? new Watermark(kind, Words, lettering, picture, place, Size, Strength, Inset)
            : null;
}

/// <summary>The watermark, and who gets photos without it.</summary>
internal static class WatermarkEndpoints
{
    /// <summary>How wide it is looked at, pixels.</summary>
    const int PreviewWidth = 960;

    public static void MapWatermarks(this IEndpointRouteBuilder api)
    {
        var watermark = api.MapGroup("/watermark").RequireAuthorization(Security.Editors).WithTags("Watermarks");
        watermark.MapGet("", Show).WithSummary("The watermark, what it is on, and photos to look at it on");
        watermark.MapPut("", Write).NeedsVersion().WithSummary("Makes the watermark another one; visitors who get photos with it have it at once");
        watermark.MapPost("/pictures", Bring).Accepts<byte[]>("application/octet-stream").WithMetadata(new RequestSizeLimitAttribute(WatermarkPicture.MostBytes)).WithSummary("Brings a picture to be the watermark; the body is its bytes");
        watermark.MapGet("/preview/{photo}", Preview).ExcludeFromDescription();
        var markings = api.MapGroup("/markings/{kind}/{thing}").RequireAuthorization(Security.Editors).WithTags("Watermarks");
        markings.MapGet("", ShowMarking).WithSummary("Who gets the photos of an album, a category or the site without the watermark");
        markings.MapPut("", Say).WithSummary("Says who does; visitors have it at once");
    }

    static async Task<WatermarkShown> ShownAsync(WatermarkStore store, MarkingStore markings, ExampleStore examples, CancellationToken ct)
    {
        var (opened, (listed, all)) = (await store.ReadAsync(ct), await markings.ListAsync(ct));
        return new WatermarkShown(opened.Watermark, !opened.Watermark.IsNothing, [.. listed.Select(MarkingShown.Of)], all - listed.Count, await examples.ListAsync(ct), opened.Edited);
    }

    static async Task<Ok<WatermarkShown>> Show(WatermarkStore store, MarkingStore markings, ExampleStore examples, CancellationToken ct) => TypedResults.Ok(await ShownAsync(store, markings, examples, ct));

    static async Task<Results<Ok<WatermarkWritten>, Stale, BadRequest<Problem>>> Write(
        Watermark body, [FromHeader(Name = "If-Match")] long version, Actor who, WatermarkStore store, MarkingStore markings, ExampleStore examples, CancellationToken ct)
    {
        if (body.Faults() is { Count: > 0 } faults)
        {
            return Problems.Invalid(faults.First().Value, faults);
        }

        var picture = body.Picture is { } said ? await store.KnownAsync(said.Picture, ct) : null;
        if (body.Picture is not null && picture is null)
        {
            return Problems.Invalid("The picture for the watermark is not there. Bring it once more.");
        }

        var kept = (body with { Picture = picture }).AsKept();
        if (!kept.IsNothing && await store.DrawAsync(kept, ct) is null)
        {
            return Problems.Invalid("Nothing could be seen of this watermark. Take other words, or another picture.", new Dictionary<string, string> { ["words"] = "Nothing could be seen of these." });
        }

        return await store.WriteAsync(who, kept, version, ct) is { } done ? TypedResults.Ok(new WatermarkWritten(await ShownAsync(store, markings, examples, ct), done)) : Problems.Stale("watermark");
    }

    static async Task<Results<Ok<WatermarkPicture>, BadRequest<Problem>>> Bring(HttpContext http, WatermarkStore store, CancellationToken ct)
    {
        var bytes = new MemoryStream();
        await http.Request.Body.CopyToAsync(bytes, ct);
        return await store.BringAsync(bytes.ToArray(), ct) is { } picture
            ? TypedResults.Ok(picture)
            : Problems.Invalid($"That is no picture that can be a watermark. Take a PNG, WebP or SVG with a ground that can be seen through, or a JPEG or GIF, at most {WatermarkPicture.Longest} times as wide as high.");
    }

    /// <summary>A photo with a watermark that nobody has yet.</summary>
    static async Task<IResult> Preview(PhotoId photo, [AsParameters] WatermarkAsked asked, HttpContext http, WatermarkStore store, ExampleStore examples, Storage storage, CancellationToken ct)
    {
        http.Response.Headers.CacheControl = "no-store";
        var wanted = asked.Watermark(await store.KnownAsync(asked.Picture, ct));
        if (wanted is null || wanted.Faults().Count > 0 || await examples.RenditionAsync(photo, PreviewWidth, ct) is not { } key || await storage.LocalAsync(key) is not { } local)
        {
            return TypedResults.NotFound();
        }

        using var rendition = local;
        if (await store.DrawAsync(wanted.AsKept(), ct) is { } stamp)
        {
            try
            {
                return TypedResults.Bytes(await Task.Run(() => Picture.Marked(rendition.Path, PreviewWidth, stamp), ct), "image/webp");
            }
            catch (PictureException)
            {
                return TypedResults.NotFound();
            }
        }

        return await storage.FindAsync(key) is { } plain ? storage.Answer(plain, "image/webp") : TypedResults.NotFound();
    }

    static async Task<Results<Ok<MarkingOpened>, NotFound<Problem>>> ShowMarking(string kind, Guid thing, WatermarkStore store, MarkingStore markings, CancellationToken ct) =>
        MarkingStore.IsKind(kind) && await markings.FindAsync(new MarkingOf(kind, thing), ct) is { } found
            ? TypedResults.Ok(new MarkingOpened(MarkingShown.Of(found), !(await store.ReadAsync(ct)).Watermark.IsNothing))
            : Problems.Gone("thing");

    static async Task<Results<Ok<Done>, NotFound<Problem>, BadRequest<Problem>, Conflict<Problem>>> Say(string kind, Guid thing, MarkingWish body, Actor who, MarkingStore markings, CancellationToken ct)
    {
        if (body.Marking.Fault("Choose who gets photos without the watermark.") is { } fault)
        {
            return Problems.Invalid(fault);
        }

        var (outcome, done) = MarkingStore.IsKind(kind) ? await markings.SayAsync(who, new MarkingOf(kind, thing), body.Marking, body.Was, ct) : (MarkingOutcome.Gone, Done.Nothing);
        return outcome switch
        {
            MarkingOutcome.Stale => Problems.Taken("Somebody else said who gets photos without the watermark while you looked, or who was chosen is gone. Look again before you say it.", "watermark"),
            MarkingOutcome.Gone => Problems.Gone("thing"),
            _ => TypedResults.Ok(done),
        };
    }
}
