using System.Security.Cryptography;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Opening;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Site.Finding;

/// <summary>What programs ask for that find pages and follow them: the feed, the site map, what they are to leave alone.</summary>
internal static class FindingEndpoints
{
    const string Xml = "application/xml; charset=utf-8";

    /// <param name="site">Doors that are open to everybody and stand in no description.</param>
    public static void MapFinding(this IEndpointRouteBuilder site)
    {
        site.MapGet(SiteFeed.Path, Feed);
        foreach (var kind in new[] { SiteKind.Album, SiteKind.Category })
        {
            site.MapGet($"{PageVersion.PathOf(kind, "{address}")}/{PhotoFeeds.Name}", (string address, HttpContext http, SiteDoor door, PhotoFeeds feeds, SettingsStore settings, CancellationToken ct) =>
                Photos(kind, address, http, door, feeds, settings, ct));
        }

        site.MapGet(SiteMap.Path, Index);
        site.MapGet("/sitemap/{part:int}.xml", Part);
        site.MapGet("/robots.txt", Robots);
    }

    static async Task Feed(HttpContext http, SiteIndexStore indexes, SettingsStore settings, SiteOrigin origin, SightStore sights, CancellationToken ct)
    {
        var (site, root, everyone) = (await settings.ReadAsync(ct), origin.Of(http.Request), await sights.EveryoneAsync(ct));
        if (!SiteEndpoints.IsFresh(http, $"f{await indexes.StartVersionAsync(ct)}-{site.Version}-{everyone.Key}-{root.Authority}"))
        {
            http.Response.ContentType = $"{SiteFeed.Type}; charset=utf-8";
            await http.Response.Body.WriteAsync(SiteFeed.Write(site, await indexes.FeedAsync(everyone, ct), root), ct);
        }
    }

    static async Task Photos(SiteKind kind, string address, HttpContext http, SiteDoor door, PhotoFeeds feeds, SettingsStore settings, CancellationToken ct)
    {
        // Feed readers hold nothing.
        var everyone = await door.EveryoneAsync(ct);
        if (await door.FindAsync(kind, address, everyone, ct) is not { } version || await door.Renderer.ModelAsync(version) is not { } page)
        {
            http.Response.StatusCode = StatusCodes.Status404NotFound;
            return;
        }

        // What a category gathers changes with any photo of any album in it: the feed itself says whether it did.
        var feed = await feeds.WriteAsync(await settings.ReadAsync(ct), page, everyone, door.Origin.Of(http.Request), ct);
        if (!SiteEndpoints.IsFresh(http, $"p{Convert.ToHexStringLower(SHA256.HashData(feed))[..16]}"))
        {
            http.Response.ContentType = $"{SiteFeed.Type}; charset=utf-8";
            await http.Response.Body.WriteAsync(feed, ct);
        }
    }

    static async Task<FileContentHttpResult> Index(HttpContext http, SiteMapStore store, SiteOrigin origin, CancellationToken ct)
    {
        http.Response.Headers.CacheControl = "no-cache";
        return TypedResults.Bytes(SiteMap.Index(origin.Of(http.Request), SiteMap.Parts((await store.PagesAsync(ct)).Count)), Xml);
    }

    static async Task<Results<FileContentHttpResult, NotFound>> Part(int part, HttpContext http, SiteMapStore store, SiteOrigin origin, CancellationToken ct)
    {
        http.Response.Headers.CacheControl = "no-cache";
        var pages = await store.PagesAsync(ct);
        if (part < 1 || part > SiteMap.Parts(pages.Count))
        {
            return TypedResults.NotFound();
        }

        MappedPage[] these = [.. pages.Skip((part - 1) * SiteMap.MostPages).Take(SiteMap.MostPages)];
        return TypedResults.Bytes(SiteMap.Part(origin.Of(http.Request), these, await store.PhotosAsync(these, ct)), Xml);
    }

    /// <summary>What programs that gather pages are asked to leave alone (Robots Exclusion Protocol, RFC 9309), and where the site map is.</summary>
    /// <remarks>A site that is not to be listed is open to them all the same: only who reads a page reads that it is not to be listed.</remarks>
    static async Task<ContentHttpResult> Robots(HttpContext http, SiteOrigin origin, SiteGate gate, CancellationToken ct)
    {
        var map = (await gate.FrontAsync(ct)).IsListed ? $"\nSitemap: {new Uri(origin.Of(http.Request), SiteMap.Path)}\n" : "";
        return TypedResults.Text($"User-agent: *\nDisallow: /workroom\nDisallow: /api/\nDisallow: /preview/\nDisallow: /site/\nDisallow: /enter/\n{map}", "text/plain; charset=utf-8");
    }
}
