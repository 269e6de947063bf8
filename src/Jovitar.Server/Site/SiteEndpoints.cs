using Jovitar.Core;
using Jovitar.Server.Access;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.Net.Http.Headers;

namespace Jovitar.Server.Site;

/// <summary>What visitors open, and drafts for staff.</summary>
internal static class SiteEndpoints
{
    const int NarrowestView = 120;
    const int WidestView = 8000;

    public static void MapSite(this IEndpointRouteBuilder app)
    {
        app.MapGet("/", Start).ExcludeFromDescription();
        app.MapGet("/i/{hash}/{recipe:int}-{width:int}.webp", Rendition).ExcludeFromDescription();
        app.MapGet("/site/view/{address}", View).WithTags("Site").WithSummary("A page's photos in their places, for a choice and a width");
        app.MapGet("/preview/{page}/view", DraftView).RequireAuthorization(Security.Editors).ExcludeFromDescription();
        app.MapGet("/preview/{page}", Draft).RequireAuthorization(Security.Editors).ExcludeFromDescription();
        app.MapGet("/preview/{page}/photo/{photo}", DraftPhoto).RequireAuthorization(Security.Editors).ExcludeFromDescription();
        app.MapGet("/{address}", Page).ExcludeFromDescription();
        app.MapGet("/{address}/photo/{photo}", Photo).ExcludeFromDescription();
        app.MapFallback(Missing).ExcludeFromDescription();
    }

    static async Task Start(HttpContext http, SiteStore store, SiteRenderer renderer, SiteAssets assets, CancellationToken ct)
    {
        var (entries, version) = await store.StartAsync(ct);
        var settings = await store.SettingsAsync(ct);
        if (!Fresh(http, $"s{version}-{settings.Version}-{assets.Version}"))
        {
            await SendAsync(http, await renderer.StartPageAsync(entries, ct), ct);
        }
    }

    static async Task Page(string address, string? show, HttpContext http, SiteStore store, SiteRenderer renderer, SiteAssets assets, CancellationToken ct)
    {
        var version = await store.FindAsync(address, ct);
        if (version is not { Published: true })
        {
            await Missing(http, renderer, ct);
        }
        else if (version.Address != address)
        {
            http.Response.Redirect($"/{version.Address}{http.Request.QueryString}", permanent: true);
        }
        else if (!Fresh(http, $"{version.Id.Value:N}-{version.Version}-{version.Site}-{assets.Version}") && await renderer.AlbumPageAsync(version, show, ct) is { } page)
        {
            await SendAsync(http, page, ct);
        }
    }

    static async Task Photo(string address, PhotoId photo, string? show, HttpContext http, SiteStore store, SiteRenderer renderer, SiteAssets assets, CancellationToken ct)
    {
        var version = await store.FindAsync(address, ct);
        if (version is not { Published: true } || await renderer.PageAsync(version, ct) is not { } page || Number(page, photo) is not { } n)
        {
            await Missing(http, renderer, ct);
        }
        else if (version.Address != address)
        {
            http.Response.Redirect($"/{version.Address}/photo/{photo}{http.Request.QueryString}", permanent: true);
        }
        else if (!Fresh(http, $"{version.Id.Value:N}-{version.Version}-{version.Site}-{assets.Version}"))
        {
            await SendAsync(http, await renderer.PhotoPageAsync(page, new Narrowed(page, show, $"/{page.Address}"), n, $"/{page.Address}", false, ct), ct);
        }
    }

    static async Task<Results<Ok<SiteView>, NotFound<Problem>>> View(string address, string? show, double width, HttpContext http, SiteStore store, SiteRenderer renderer, CancellationToken ct)
    {
        http.Response.Headers.CacheControl = "no-cache";
        return await store.FindAsync(address, ct) is { Published: true } version && await renderer.PageAsync(version, ct) is { } page
            ? TypedResults.Ok(new Narrowed(page, show, $"/{page.Address}").At(Math.Clamp(width, NarrowestView, WidestView)))
            : Problems.Gone("page");
    }

    static async Task Draft(PageId page, string? show, HttpContext http, SiteStore store, SiteRenderer renderer, CancellationToken ct)
    {
        http.Response.Headers.CacheControl = "no-store";
        if (await store.ReadAsync(page, draft: true, ct) is { } model)
        {
            await SendAsync(http, await renderer.AlbumPageAsync(model, new Narrowed(model, show, $"/preview/{page}"), $"/preview/{page}", true, ct), ct);
        }
        else
        {
            await Missing(http, renderer, ct);
        }
    }

    static async Task<Results<Ok<SiteView>, NotFound<Problem>>> DraftView(PageId page, string? show, double width, SiteStore store, CancellationToken ct) =>
        await store.ReadAsync(page, draft: true, ct) is { } model
            ? TypedResults.Ok(new Narrowed(model, show, $"/preview/{page}").At(Math.Clamp(width, NarrowestView, WidestView)))
            : Problems.Gone("page");

    static async Task DraftPhoto(PageId page, PhotoId photo, string? show, HttpContext http, SiteStore store, SiteRenderer renderer, CancellationToken ct)
    {
        http.Response.Headers.CacheControl = "no-store";
        if (await store.ReadAsync(page, draft: true, ct) is { } model && Number(model, photo) is { } n)
        {
            await SendAsync(http, await renderer.PhotoPageAsync(model, new Narrowed(model, show, $"/preview/{page}"), n, $"/preview/{page}", true, ct), ct);
        }
        else
        {
            await Missing(http, renderer, ct);
        }
    }

    static async Task<IResult> Rendition(string hash, int recipe, int width, HttpContext http, RenditionService renditions, CancellationToken ct)
    {
        var staff = http.User.Identity is { IsAuthenticated: true };
        if (recipe != Core.Photos.Renditions.Recipe || await renditions.FindAsync(hash, width, staff, ct) is not { } path)
        {
            http.Response.Headers.CacheControl = "no-store";
            return TypedResults.NotFound();
        }

        // Staff see what visitors may not, so what they get is for their own browser only.
        http.Response.Headers.CacheControl = staff ? "private, max-age=31536000, immutable" : PublicRenditions.ForVisitors;
        return TypedResults.PhysicalFile(path, "image/webp", entityTag: new EntityTagHeaderValue(PublicRenditions.Tag(hash, width)));
    }

    static async Task Missing(HttpContext http, SiteRenderer renderer, CancellationToken ct)
    {
        http.Response.StatusCode = StatusCodes.Status404NotFound;
        if (http.Request.Path.StartsWithSegments("/api"))
        {
            await http.Response.WriteAsJsonAsync(new Problem("urn:jovitar:gone", "There is nothing at this address.", StatusCodes.Status404NotFound), options: null, contentType: "application/problem+json", ct);
            return;
        }

        http.Response.Headers.CacheControl = "no-cache";
        await SendAsync(http, await renderer.MissingPageAsync(ct), ct);
    }

    static int? Number(SitePage page, PhotoId photo)
    {
        for (var i = 0; i < page.Photos.Count; i++)
        {
            if (page.Photos[i].Id == photo)
            {
                return i;
            }
        }

        return null;
    }

    /// <summary>Sets the tag of this answer's version; when the visitor has that version already, answers 304 and is done.</summary>
    static bool Fresh(HttpContext http, string version)
    {
        var tag = new EntityTagHeaderValue($"\"{version}\"", isWeak: true);
        http.Response.Headers.ETag = tag.ToString();
        http.Response.Headers.CacheControl = "no-cache";
        http.Response.Headers.Vary = "Accept-Encoding";
        if (http.Request.GetTypedHeaders().IfNoneMatch.Any(t => t.Compare(tag, useStrongComparison: false)))
        {
            http.Response.StatusCode = StatusCodes.Status304NotModified;
            // What a 304 carries replaces what the browser keeps (RFC 9111 §4.3.4): the policy it has names the page's own style sheet.
            http.Response.Headers.Remove("Content-Security-Policy");
            return true;
        }

        return false;
    }

    static async Task SendAsync(HttpContext http, Rendered page, CancellationToken ct)
    {
        var headers = http.Response.Headers;
        headers.ContentSecurityPolicy = page.Policy;
        headers.ContentType = "text/html; charset=utf-8";
        var brotli = http.Request.Headers.AcceptEncoding.ToString().Contains("br", StringComparison.Ordinal);
        if (brotli)
        {
            headers.ContentEncoding = "br";
        }

        var bytes = brotli ? page.Brotli : page.Html;
        headers.ContentLength = bytes.Length;
        if (!HttpMethods.IsHead(http.Request.Method))
        {
            await http.Response.Body.WriteAsync(bytes, ct);
        }
    }
}
