using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Server.Access;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Storing;
using Jovitar.Server.Visits;
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
        var site = app.MapGroup("").AllowAnonymous().ExcludeFromDescription();
        site.MapGet("/", Start);
        site.MapGet("/i/{picture}/{recipe:int}-{width:int}.webp", Rendition);
        foreach (var kind in Enum.GetValues<SiteKind>())
        {
            var path = PageVersion.PathOf(kind, "{address}");
            site.MapGet(path, (string address, string? show, HttpContext http, SiteDoor door, CancellationToken ct) => Page(kind, address, show, http, door, ct));
            site.MapGet($"{path}/photo/{{photo}}", (string address, PhotoId photo, string? show, HttpContext http, SiteDoor door, CancellationToken ct) => Photo(kind, address, photo, show, http, door, ct));
            app.MapGet($"/site/view{path}", (string address, string? show, double width, HttpContext http, SiteDoor door, CancellationToken ct) => View(kind, address, show, width, http, door, ct))
                .AllowAnonymous().WithTags("Site").WithSummary("The photos in their places, for a choice and a width");
        }

        // A photo that was opened in the viewer: nothing is asked and nothing told.
        site.MapPost("/site/seen/{photo}", (PhotoId photo, HttpContext http, VisitCounter visits) =>
        {
            visits.Look(http, photo.Value);
            return TypedResults.NoContent();
        });
        var drafts = app.MapGroup("/preview").RequireAuthorization(Security.Editors).ExcludeFromDescription();
        drafts.MapGet("/{page}/view", DraftView);
        drafts.MapGet("/{page}", Draft);
        drafts.MapGet("/{page}/photo/{photo}", DraftPhoto);
        app.MapGet("/api/pages/{page}/notes", Notes).RequireAuthorization(Security.Editors).WithTags("Pages").WithSummary("What the software notices of a page's draft: which layout suits, which photos are too small");
        app.MapGet("/api/renditions/{picture}/{width:int}", StaffRendition).RequireAuthorization(Security.Editors).ExcludeFromDescription();
        app.MapFallback(Missing).AllowAnonymous().ExcludeFromDescription();
    }

    static async Task Start(HttpContext http, SiteIndexStore indexes, SettingsStore site, SiteRenderer renderer, SiteAssets assets, CancellationToken ct)
    {
        var version = $"{await indexes.StartVersionAsync(ct)}-{(await site.ReadAsync(ct)).Version}-{assets.Version}";
        if (!IsFresh(http, $"s{version}"))
        {
            await SendAsync(http, await renderer.StartPageAsync(version, ct), ct);
        }
    }

    static async Task Page(SiteKind kind, string address, string? show, HttpContext http, SiteDoor door, CancellationToken ct)
    {
        if (await door.FindAsync(kind, address, ct) is not { } version)
        {
            await Missing(http, door.Renderer, ct);
        }
        else if (version.Address != address)
        {
            Redirect(http, version.Path);
        }
        else
        {
            door.Visits.Look(http, version.Id);
            if (!IsFresh(http, door.Tag(version)) && await door.Renderer.AlbumPageAsync(version, show, ct) is { } page)
            {
                await SendAsync(http, page, ct);
            }
        }
    }

    static async Task Photo(SiteKind kind, string address, PhotoId photo, string? show, HttpContext http, SiteDoor door, CancellationToken ct)
    {
        if (await door.FindAsync(kind, address, ct) is not { } version || await door.Renderer.PageAsync(version, ct) is not { } page || Number(page, photo) is not { } n)
        {
            await Missing(http, door.Renderer, ct);
        }
        else if (version.Address != address)
        {
            Redirect(http, $"{version.Path}/photo/{photo}");
        }
        else
        {
            door.Visits.Look(http, photo.Value);
            if (!IsFresh(http, door.Tag(version)))
            {
                await SendAsync(http, await door.Renderer.PhotoPageAsync(page, new Narrowed(page, show, page.Path), n, page.Path, false, ct), ct);
            }
        }
    }

    /// <summary>A former address leads to the present one; kept for a moment only, for it may come into use again.</summary>
    static void Redirect(HttpContext http, string to)
    {
        http.Response.Headers.CacheControl = "public, max-age=60";
        http.Response.Redirect($"{to}{http.Request.QueryString}", permanent: true);
    }

    static async Task<Results<Ok<SiteView>, NotFound<Problem>, BadRequest<Problem>>> View(SiteKind kind, string address, string? show, double width, HttpContext http, SiteDoor door, CancellationToken ct)
    {
        http.Response.Headers.CacheControl = "no-cache";
        if (!double.IsFinite(width))
        {
            return NoWidth();
        }

        return await door.FindAsync(kind, address, ct) is { } version && await door.Renderer.PageAsync(version, ct) is { } page
            ? TypedResults.Ok(new Narrowed(page, show, page.Path).At(Math.Clamp(width, NarrowestView, WidestView)))
            : Problems.Gone("page");
    }

    static BadRequest<Problem> NoWidth() => Problems.Invalid("The width is a number of CSS pixels.", new Dictionary<string, string> { ["width"] = "Give a number." });

    static async Task Draft(PageId page, string? show, HttpContext http, SiteStore store, SiteRenderer renderer, CancellationToken ct)
    {
        http.Response.Headers.CacheControl = "no-store";
        if (await store.PageAsync(page, draft: true, ct) is { } model)
        {
            await SendAsync(http, await renderer.AlbumPageAsync(model, new Narrowed(model, show, $"/preview/{page}"), $"/preview/{page}", true, ct), ct);
        }
        else
        {
            await Missing(http, renderer, ct);
        }
    }

    static async Task<Results<Ok<SiteView>, NotFound<Problem>, BadRequest<Problem>>> DraftView(PageId page, string? show, double width, SiteStore store, CancellationToken ct) =>
        !double.IsFinite(width) ? NoWidth()
        : await store.PageAsync(page, draft: true, ct) is { } model ? TypedResults.Ok(new Narrowed(model, show, $"/preview/{page}").At(Math.Clamp(width, NarrowestView, WidestView)))
        : Problems.Gone("page");

    static async Task<Results<Ok<PageNotes>, NotFound<Problem>>> Notes(PageId page, SiteStore store, CancellationToken ct) =>
        await store.PageAsync(page, draft: true, ct) is { } model ? TypedResults.Ok(PageNotes.Of(model)) : Problems.Gone("page");

    static async Task DraftPhoto(PageId page, PhotoId photo, string? show, HttpContext http, SiteStore store, SiteRenderer renderer, CancellationToken ct)
    {
        http.Response.Headers.CacheControl = "no-store";
        if (await store.PageAsync(page, draft: true, ct) is { } model && Number(model, photo) is { } n)
        {
            await SendAsync(http, await renderer.PhotoPageAsync(model, new Narrowed(model, show, $"/preview/{page}"), n, $"/preview/{page}", true, ct), ct);
        }
        else
        {
            await Missing(http, renderer, ct);
        }
    }

    /// <summary>A rendition for visitors: only ever what everyone may see, whoever asks, so that whatever lies between may keep it.</summary>
    static async Task<IResult> Rendition(string picture, int recipe, int width, HttpContext http, RenditionService renditions, Storage storage, CancellationToken ct)
    {
        if (recipe != Core.Photos.Renditions.Recipe || await renditions.FindAsync(picture, width, Viewer.Nobody, ct) is not { } file)
        {
            http.Response.Headers.CacheControl = "no-store";
            return TypedResults.NotFound();
        }

        http.Response.Headers.CacheControl = PublicRenditions.ForVisitors;
        return storage.Answer(file, "image/webp", tag: PublicRenditions.Tag(picture, width));
    }

    /// <summary>A rendition for the workroom, under an address of its own that nothing between may keep.</summary>
    static async Task<IResult> StaffRendition(string picture, int width, HttpContext http, RenditionService renditions, Storage storage, CancellationToken ct)
    {
        if (await renditions.FindAsync(picture, width, http.User.Viewer(), ct) is not { } file)
        {
            http.Response.Headers.CacheControl = "no-store";
            return TypedResults.NotFound();
        }

        ForStaff.Private(http);
        return storage.Answer(file, "image/webp", tag: PublicRenditions.Tag(picture, width));
    }

    static async Task Missing(HttpContext http, SiteRenderer renderer, CancellationToken ct)
    {
        http.Response.StatusCode = StatusCodes.Status404NotFound;
        if (http.Request.Path.StartsWithSegments("/api"))
        {
            await Problems.Json(StatusCodes.Status404NotFound, "gone", "There is nothing at this address.").ExecuteAsync(http);
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
    static bool IsFresh(HttpContext http, string version)
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
        await http.Response.Body.WriteAsync(bytes, ct);
    }
}

/// <summary>What an answer to a visitor is made with.</summary>
internal sealed class SiteDoor(SiteStore store, SiteRenderer renderer, SiteAssets assets, AccessStore access, VisitCounter visits)
{
    public VisitCounter Visits => visits;

    public SiteRenderer Renderer => renderer;

    /// <summary>What is at an address, if visitors may see it.</summary>
    public async Task<PageVersion?> FindAsync(SiteKind kind, string address, CancellationToken ct) =>
        await store.FindAsync(kind, address, ct) is { } version && access.May(Viewer.Nobody, Right.See, version.Thing) ? version : null;

    public string Tag(PageVersion version) => $"{version.Id:N}-{version.Version}-{version.Site}-{assets.Version}";
}
