using System.Globalization;
using System.Net;
using Jovitar.Core.Pages;
using Jovitar.Server.Access;
using Jovitar.Server.Platform;
using Jovitar.Server.Site.Drawing;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Site.Embedding;

/// <summary>
/// Pages, albums and categories on other websites: the frame that stands there, what makes it as high as its photos, and what tells
/// other programs of it (oEmbed 1.0). Whoever asks, they get what everybody may see.
/// </summary>
internal static class EmbedEndpoints
{
    /// <summary>Where the script is that a line brings along.</summary>
    public const string Script = "/embed.js";

    /// <param name="site">Doors that are open to everybody and stand in no description.</param>
    public static void MapEmbedding(this IEndpointRouteBuilder site)
    {
        foreach (var kind in Enum.GetValues<SiteKind>())
        {
            var path = $"{SiteAddress.Embed}{PageVersion.PathOf(kind, "{address}")}";
            site.MapGet(path, (string address, HttpContext http, SiteDoor door, CancellationToken ct) => Frame(kind, address, http, door, ct));
            site.MapGet($"{SiteAddress.View}{path}", (string address, [AsParameters] Asked asked, HttpContext http, SiteDoor door, CancellationToken ct) => View(kind, address, asked, http, door, ct));
        }

        site.MapGet(OEmbed.Path, Offer);
        site.MapGet(Script, (HttpContext http, SiteAssets built) =>
        {
            // Lines that stand on other websites name it for good: it is asked for again after a while.
            http.Response.Headers.CacheControl = "public, max-age=3600";
            return TypedResults.Bytes(built.EmbedScript, "text/javascript; charset=utf-8");
        }).WithMetadata(AlwaysOpen.Instance);
    }

    /// <summary>Lines for other websites, for those who put them there.</summary>
    public static void MapEmbeds(this IEndpointRouteBuilder api) =>
        api.MapGet("/embeds", Line).RequireAuthorization(Security.Editors).WithTags("Embeds").WithSummary("The line that shows a page, an album or a category on another website");

    static async Task Frame(SiteKind kind, string address, HttpContext http, SiteDoor door, CancellationToken ct)
    {
        if (await door.FindAsync(kind, address, await door.EveryoneAsync(ct), ct) is { } version)
        {
            if (SiteEndpoints.IsFresh(http, $"e{door.Tag(version)}"))
            {
                return;
            }

            // A line goes on working when the address of what it shows changes: nobody has to paste it again.
            if (await door.Renderer.EmbedAsync(version, Read(http.Request.Query), http.Request.Query) is { } shown)
            {
                await SiteEndpoints.SendAsync(http, shown, ct);
                return;
            }

            http.Response.Headers.Remove("ETag");
        }

        http.Response.StatusCode = StatusCodes.Status404NotFound;
        http.Response.Headers.CacheControl = "no-cache";
        await SiteEndpoints.SendAsync(http, await door.Renderer.MissingEmbedAsync(ct), ct);
    }

    static async Task<Results<Ok<SiteView>, NotFound<Problem>, BadRequest<Problem>>> View(SiteKind kind, string address, Asked asked, HttpContext http, SiteDoor door, CancellationToken ct)
    {
        http.Response.Headers.CacheControl = "no-cache";
        return await door.FindAsync(kind, address, await door.EveryoneAsync(ct), ct) is { } version && await door.Renderer.ModelAsync(version) is { } page
            ? SiteEndpoints.Answer(EmbedBlocks.Of(page, Read(http.Request.Query)), asked, http, null)
            : Problems.Gone("page");
    }

    /// <summary>What another program may show at a link to this site (oEmbed 1.0 §2.3).</summary>
    /// <param name="url">What it is a link to.</param>
    static async Task<IResult> Offer(string? url, string? format, string? maxwidth, string? maxheight, HttpContext http, SiteDoor door, SettingsStore settings, CancellationToken ct)
    {
        http.Response.Headers.CacheControl = "no-cache";
        // What everybody may see programs of every website may read.
        http.Response.Headers.AccessControlAllowOrigin = "*";
        if (format is not (null or "" or "json" or "xml"))
        {
            return Problems.Json(StatusCodes.Status501NotImplemented, "format", "There is JSON and XML.");
        }

        var root = door.Origin.Of(http.Request);
        if (EmbedLink.Of(url, root) is not { } link || await door.FindAsync(link.Kind, link.Address, await door.EveryoneAsync(ct), ct) is not { } version || await door.Renderer.ModelAsync(version) is not { } page)
        {
            return Nothing();
        }

        var offer = new OEmbed(root, (await settings.ReadAsync(ct)).Title, Number(maxwidth), Number(maxheight));
        if ((link.Photo is not { } photo ? offer.Of(page, link.Embed) : page.Find(photo, link.Walk) is var (walk, n) ? offer.Of(walk.Photos[n]) : null) is not { } told)
        {
            return Nothing();
        }

        return format == "xml" ? TypedResults.Bytes(told.Xml(), "text/xml; charset=utf-8") : TypedResults.Text(told.Json(), "application/json; charset=utf-8");

        static IResult Nothing() => Problems.Json(StatusCodes.Status404NotFound, "gone", "There is nothing at this address that everybody may see.");
        static int? Number(string? text) => int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var number) && number > 0 ? number : null;
    }

    /// <param name="of">Where it is on the site, like /album/regatta.</param>
    static async Task<Results<Ok<EmbedLine>, NotFound<Problem>>> Line(string of, string? layout, string? size, string? most, HttpContext http, SiteDoor door, CancellationToken ct)
    {
        var root = door.Origin.Of(http.Request);
        var embed = Embed.Read(name => name switch { "layout" => layout, "size" => size, _ => most });
        return EmbedLink.Of(of, root) is { Photo: null } link && await door.FindAsync(link.Kind, link.Address, await door.EveryoneAsync(ct), ct) is { } version && await door.Renderer.ModelAsync(version) is { } page && EmbedBlocks.Has(page)
            ? TypedResults.Ok(EmbedLine.Of(root, page, embed))
            : Problems.Gone("page");
    }

    static Embed Read(IQueryCollection query) => Embed.Read(name => query[name]);
}

/// <summary>What stands on another website.</summary>
/// <param name="Title">Of what it shows.</param>
/// <param name="Address">Of what it shows: where a website asks for the line itself.</param>
/// <param name="Most">So many photos of a block stand there at most.</param>
/// <param name="Source">Where the frame is, from the site's root.</param>
/// <param name="Line">What is pasted there.</param>
public sealed record EmbedLine(string Title, string Address, int Most, string Source, string Line)
{
    /// <summary>Of a page.</summary>
    /// <param name="root">The site's address.</param>
    internal static EmbedLine Of(Uri root, SitePage page, Embed embed) =>
        new(page.Title, new Uri(root, page.Path).AbsoluteUri, embed.Most, SourceOf(page, embed), Write(root, page, embed, "width:100%", null));

    internal static string SourceOf(SitePage page, Embed embed) => $"{SiteAddress.Embed}{page.Path}{embed.Query}";

    /// <summary>The line: a frame, and the script that makes it as high as its photos; where a website takes no scripts, it is scrolled.</summary>
    /// <param name="width">How wide the frame is, as its style says it.</param>
    /// <param name="height">How high it is at first, CSS pixels; null for as high as its photos are in a usual column.</param>
    internal static string Write(Uri root, SitePage page, Embed embed, string width, int? height)
    {
        var high = height ?? EmbedBlocks.Height(EmbedBlocks.Of(page, embed), OEmbed.UsualWidth);
        return string.Create(
            CultureInfo.InvariantCulture,
            $"<iframe src=\"{WebUtility.HtmlEncode(new Uri(root, SourceOf(page, embed)).AbsoluteUri)}\" title=\"{WebUtility.HtmlEncode(page.Title)}\" loading=\"lazy\" style=\"{width};height:{high}px;border:0\"></iframe><script async src=\"{new Uri(root, EmbedEndpoints.Script)}\"></script>");
    }
}
