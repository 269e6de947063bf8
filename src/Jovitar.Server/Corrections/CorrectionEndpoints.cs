using System.ComponentModel.DataAnnotations;
using Jovitar.Core;
using Jovitar.Core.Corrections;
using Jovitar.Core.Photos;
using Jovitar.Imaging;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Photos;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Corrections;

/// <summary>A rectangle in parts of the turned picture's frame.</summary>
public sealed record CropSaid([Range(-4.0, 4.0)] double X, [Range(-4.0, 4.0)] double Y, [Range(0.0, 4.0)] double Width, [Range(0.0, 4.0)] double Height)
{
    internal Crop Value => new(X, Y, Width, Height);
}

/// <summary>How strongly each colour counts in black and white.</summary>
public sealed record GreysSaid([Range(0, 100)] int Red, [Range(0, 100)] int Green, [Range(0, 100)] int Blue)
{
    internal Greys Value => new(Red, Green, Blue);

    internal static GreysSaid Of(Greys greys) => new(greys.Red, greys.Green, greys.Blue);
}

/// <summary>A place in a picture, in parts of its width and height.</summary>
public sealed record SpotSaid([Range(0.0, 1.0)] double X, [Range(0.0, 1.0)] double Y)
{
    internal Spot Value => new(X, Y);
}

/// <summary>A correction, as <see cref="Correction"/> has it.</summary>
/// <param name="Crop">What is seen, whether somebody chose it or it follows from the straightening.</param>
/// <param name="IsCropped">Somebody chose it.</param>
internal sealed record CorrectionSaid(int Turns, double Angle, CropSaid Crop, bool IsCropped, int Brightness, int Contrast, GreysSaid? Greys, SpotSaid? Focus)
{
    public static CorrectionSaid Of(Correction c, PixelSize original)
    {
        var crop = Framing.Crop(c, original);
        return new CorrectionSaid(
            c.Turns, c.Angle, new CropSaid(crop.X, crop.Y, crop.Width, crop.Height), c.Crop is not null, c.Brightness, c.Contrast, c.Greys is { } g ? GreysSaid.Of(g) : null,
            c.Focus is { } f ? new SpotSaid(f.X, f.Y) : null);
    }
}

/// <summary>A photo to be corrected.</summary>
/// <param name="Original">Names the picture as it came in.</param>
/// <param name="Width">Of that, upright, pixels.</param>
/// <param name="Renditions">The widths it can be had in.</param>
/// <param name="IsPart">It is a print cut from a scan.</param>
/// <param name="Shapes">The shapes it can be cropped to.</param>
/// <param name="UsualGreys">What black and white begins with.</param>
internal sealed record CorrectionPlate(
    PhotoId Photo, string Name, string Original, int Width, int Height, IReadOnlyList<int> Renditions, CorrectionSaid Correction, bool IsPart, IReadOnlyList<ShapeSaid> Shapes, GreysSaid UsualGreys);

/// <summary>A shape to crop to.</summary>
/// <param name="Ratio">The longer side over the shorter; 0 for the photo's own.</param>
internal sealed record ShapeSaid(CropShape Shape, double Ratio);

/// <summary>What is to be changed in the corrections of photos; what is null or false stays.</summary>
/// <param name="Reset">As they came in.</param>
/// <param name="Turn">More quarter turns clockwise.</param>
/// <param name="Angle">Degrees clockwise.</param>
/// <param name="Shape">Crops to a shape about the middle, as large as it goes.</param>
/// <param name="InColour">Takes black and white back.</param>
/// <param name="InMiddle">Takes the focus back.</param>
/// <param name="Like">Takes over the correction of this photo, but for its focus.</param>
public sealed record CorrectPhotos(
    bool? Reset = null, [Range(-3, 3)] int? Turn = null, [Range(-Correction.MostAngle, Correction.MostAngle)] double? Angle = null, CropSaid? Crop = null, CropShape? Shape = null,
    [Range(-Correction.MostTone, Correction.MostTone)] int? Brightness = null, [Range(-Correction.MostTone, Correction.MostTone)] int? Contrast = null, GreysSaid? Greys = null, bool? InColour = null,
    SpotSaid? Focus = null, bool? InMiddle = null, PhotoId? Like = null, IReadOnlyList<PhotoId>? Photos = null, bool? InHand = null) : Reach(Photos, InHand);

/// <summary>A print on a scan.</summary>
/// <param name="Corners">Where it lies, in parts of the upright scan: upper left, upper right, lower right, lower left of the print.</param>
public sealed record PrintSaid(double Angle, CropSaid Crop, IReadOnlyList<SpotSaid> Corners);

internal sealed record PrintsFound(IReadOnlyList<PrintSaid> Prints);

/// <summary>A print to be cut out of a scan.</summary>
public sealed record CutPrint([Range(-Correction.MostAngle, Correction.MostAngle)] double Angle, [Required] CropSaid Crop);

public sealed record CutPrints([Required, AtMost(Prints.Most)] IReadOnlyList<CutPrint> Prints);

/// <summary>The photos that were made, and the act that takes them back.</summary>
internal sealed record PrintsCut(IReadOnlyList<PhotoId> Photos, Done Done);

/// <summary>How photos are corrected; their originals never change.</summary>
internal static class CorrectionEndpoints
{
    public static void MapCorrections(this IEndpointRouteBuilder api)
    {
        var corrections = api.MapGroup("/corrections").RequireAuthorization(Security.Editors).WithTags("Corrections");
        corrections.MapPost("", Change).WithSummary("Corrects photos");
        corrections.MapGet("/tones", ToneTables).WithSummary("Tables of tones for a preview: of one brightness with every contrast from -100 to 100, or the other way round; 256 bytes each")
            .Produces<byte[]>(contentType: "application/octet-stream");
        var photos = api.MapGroup("/photos/{photo}").RequireAuthorization(Security.Editors).WithTags("Corrections");
        photos.MapGet("/correction", Show).WithSummary("How a photo is corrected, and its picture as it came in");
        photos.MapGet("/prints", Find).WithSummary("The prints that lie on a scan");
        photos.MapPost("/prints", Cut).WithSummary("Makes prints on a scan photos of their own");
    }

    static async Task<Results<Ok<CorrectionPlate>, NotFound<Problem>>> Show(PhotoId photo, CorrectionStore store, CancellationToken ct)
    {
        if (await store.FindAsync(photo, ct) is not { } p)
        {
            return Problems.Gone("photo");
        }

        return TypedResults.Ok(new CorrectionPlate(
            p.Id, p.Name, new PictureName(p.Hash, "").ToString(), p.Original.Width, p.Original.Height, Renditions.For(p.Original.Width), CorrectionSaid.Of(p.Correction, p.Original), p.IsPart,
            [.. Enum.GetValues<CropShape>().Where(s => s != CropShape.AsShot || !p.IsPart).Select(s => new ShapeSaid(s, CropShapes.Ratio(s)))], GreysSaid.Of(Greys.Usual)));
    }

    static async Task<Results<Ok<Done>, NotFound<Problem>>> Change(CorrectPhotos body, Actor who, HandStore hand, CorrectionStore store, CancellationToken ct)
    {
        var like = body.Like is { } model ? await store.FindAsync(model, ct) : null;
        if (body.Like is not null && like is null)
        {
            return Problems.Gone("photo");
        }

        // What is taken over from a print on a scan is its light: its place there says nothing to others.
        var light = like is { IsPart: true } ? like.Correction : null;
        var change = new CorrectionChange
        {
            Reset = body.Reset ?? false,
            Turn = body.Turn ?? 0,
            Angle = body.Angle,
            Crop = body.Crop?.Value,
            Shape = body.Shape,
            Brightness = body.Brightness ?? light?.Brightness,
            Contrast = body.Contrast ?? light?.Contrast,
            Greys = body.Greys?.Value ?? light?.Greys,
            InColour = body.InColour ?? light is { Greys: null },
            Focus = body.Focus?.Value,
            InMiddle = body.InMiddle ?? false,
            Like = light is null ? like?.Correction : null,
        };
        return TypedResults.Ok(await store.ChangeAsync(who, await hand.ReachedAsync(who, body, ct), change, ct));
    }

    static Results<FileContentHttpResult, BadRequest<Problem>> ToneTables([Range(-100, 100)] int? brightness, [Range(-100, 100)] int? contrast, HttpContext http)
    {
        if (brightness is null == contrast is null)
        {
            return Problems.Invalid("Say either a brightness or a contrast.");
        }

        // They follow from two numbers alone, in this version of the program.
        http.Response.Headers.CacheControl = "private, max-age=3600";
        var all = Enumerable.Range(-Correction.MostTone, (2 * Correction.MostTone) + 1);
        return TypedResults.Bytes([.. all.SelectMany(other => Tones.Table(brightness ?? other, contrast ?? other))], "application/octet-stream");
    }

    static async Task<Results<Ok<PrintsFound>, NotFound<Problem>, BadRequest<Problem>>> Find(PhotoId photo, CorrectionStore store, PrintStore prints, CancellationToken ct)
    {
        if (await store.FindAsync(photo, ct) is not { } scan)
        {
            return Problems.Gone("photo");
        }

        try
        {
            return TypedResults.Ok(new PrintsFound([.. (await prints.FindAsync(scan, ct)).Select(c => Print(c, scan.Original))]));
        }
        catch (PictureException)
        {
            return Problems.Invalid("The original of this photo cannot be read any more.");
        }
    }

    static PrintSaid Print(Correction c, PixelSize original)
    {
        var crop = Framing.Crop(c, original);
        return new PrintSaid(c.Angle, new CropSaid(crop.X, crop.Y, crop.Width, crop.Height), [.. Framing.Corners(c, original).Select(s => new SpotSaid(s.X, s.Y))]);
    }

    static async Task<Results<Ok<PrintsCut>, NotFound<Problem>, BadRequest<Problem>>> Cut(PhotoId photo, CutPrints body, Actor who, CorrectionStore store, PrintStore prints, CancellationToken ct)
    {
        if (await store.FindAsync(photo, ct) is not { } scan)
        {
            return Problems.Gone("photo");
        }

        Correction[] cuts = [.. body.Prints.Select(p => new Correction { Angle = p.Angle, Crop = p.Crop.Value }.Within(scan.Original)).Where(c => c.ChangesPixels).DistinctBy(c => c.Key)];
        if (cuts.Length == 0)
        {
            return Problems.Invalid("Mark what is to be cut out.");
        }

        var (made, done) = await prints.CutAsync(who, scan, cuts, ct);
        return TypedResults.Ok(new PrintsCut(made, done));
    }
}
