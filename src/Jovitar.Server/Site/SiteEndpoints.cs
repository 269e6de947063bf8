using Jovitar.Core;
using Jovitar.Core.Records;
using Jovitar.Core.Themes;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Comments;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Storing;
using Jovitar.Server.Site.Buying;
using Jovitar.Server.Site.Contributions;
using Jovitar.Server.Site.Drawing;
using Jovitar.Server.Site.Embedding;
using Jovitar.Server.Site.Entering;
using Jovitar.Server.Site.Favourites;
using Jovitar.Server.Site.Finding;
using Jovitar.Server.Themes;
using Jovitar.Server.Visits;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
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
        site.MapFinding();
        site.MapEmbedding();
        site.MapTalk();
        site.MapEntering();
        site.MapSigningIn();
        site.MapJoining();
        site.MapMemberAccount();
        site.MapContributingPages();
        site.MapBuying();
        app.MapSeeingAs();
        site.MapGet("/i/{picture}/{recipe:int}-{width:int}.webp", Rendition);
        site.MapGet("/i/{picture}/{recipe:int}-card.jpg", Card);
        foreach (var kind in Enum.GetValues<SiteKind>())
        {
            var path = PageVersion.PathOf(kind, "{address}");
            site.MapGet(path, (string address, HttpContext http, SiteDoor door, CancellationToken ct) => Page(kind, address, http, door, ct));
            site.MapGet($"{path}/photo/{{photo}}", (string address, PhotoId photo, [FromQuery(Name = "in")] int? walk, HttpContext http, SiteDoor door, TalkStore talk, CancellationToken ct) => Photo(kind, address, photo, walk ?? 1, http, door, talk, ct));
            app.MapGet($"{SiteAddress.View}{path}", (string address, [AsParameters] Asked asked, HttpContext http, SiteDoor door, CancellationToken ct) => View(kind, address, asked, http, door, ct))
                .AllowAnonymous().WithTags("Site").WithSummary("Photos in their places, for a choice, a width and a part of them");
        }

        app.MapSaving();
        app.MapChoosing();
        app.MapContributing();

        // A photo that was opened in the viewer: nothing is asked and nothing told.
        site.MapPost("/site/seen/{photo}", (PhotoId photo, HttpContext http, VisitCounter visits) =>
        {
            visits.Look(http, photo.Value);
            return TypedResults.NoContent();
        });
        var drafts = app.MapGroup("/preview").RequireAuthorization(Security.Editors).ExcludeFromDescription();
        drafts.MapGet("/closed", Closed);
        drafts.MapEntrySheets();
        drafts.MapGet("/{page}/view", DraftView);
        drafts.MapGet("/{page}/look/view", OtherLookView);
        drafts.MapGet("/{page}", Draft);
        drafts.MapGet("/{page}/photo/{photo}", DraftPhoto);
        app.MapGet("/api/renditions/{picture}/{width:int}", StaffRendition).RequireAuthorization(Security.Editors).ExcludeFromDescription();
        app.MapFallback(Missing).AllowAnonymous().ExcludeFromDescription();
    }

    static async Task Start(HttpContext http, SiteIndexStore indexes, SettingsStore settings, SiteStore store, SiteDoor door, SiteAssets built, CancellationToken ct)
    {
        // A page that was withdrawn since is none to begin at: the list of the others is there instead.
        var (site, sight) = (await settings.ReadAsync(ct), await door.SightAsync(http, ct));
        if (site.Front.StartsAt is { } page && await store.AddressAsync(page, ct) is { } address && await door.FindAsync(SiteKind.Page, address, sight, ct) is { } found && found.Id == page.Value)
        {
            await Page(SiteKind.Page, address, http, door, ct);
            return;
        }

        var version = $"{await indexes.StartVersionAsync(ct)}-{site.Version}-{sight.Key}-{built.Version}";
        if (!IsFresh(http, $"s{version}"))
        {
            await SendAsync(http, await door.Renderer.StartPageAsync(version, door.Origin.Of(http.Request), sight, ct), ct);
        }
    }

    static async Task Page(SiteKind kind, string address, HttpContext http, SiteDoor door, CancellationToken ct)
    {
        var sight = await door.SightAsync(http, ct);
        if (await door.FindAsync(kind, address, sight, ct) is not { } version)
        {
            await door.TurnAwayAsync(http, kind, address, sight, ct);
        }
        else if (version.Address != address)
        {
            Redirect(http, version.Path);
        }
        else
        {
            if (kind != SiteKind.Favourites)
            {
                door.Visits.Look(http, version.Id);
            }

            door.Note(http, Recorded.Opened, version, sight);
            if (IsFresh(http, door.Tag(version)))
            {
                return;
            }

            if (await door.Renderer.PageAsync(version, door.Origin.Of(http.Request), http.Request.Query, ct) is { } page)
            {
                await SendAsync(http, page, ct);
                return;
            }

            // Somebody has withdrawn it since it was looked for.
            http.Response.Headers.Remove("ETag");
            await Missing(http, door.Renderer, ct);
        }
    }

    static async Task Photo(SiteKind kind, string address, PhotoId photo, int walk, HttpContext http, SiteDoor door, TalkStore talks, CancellationToken ct)
    {
        var sight = await door.SightAsync(http, ct);
        if (await door.FindAsync(kind, address, sight, ct) is not { } version)
        {
            await door.TurnAwayAsync(http, kind, address, sight, ct);
        }
        else if (await door.Renderer.ModelAsync(version) is not { } page || page.Find(photo, walk) is not var (found, n))
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
            door.Note(http, Recorded.Opened, version, sight);
            // What is said about it comes and goes without the page.
            var talk = await talks.OfAsync(photo, sight, ct);
            if (!IsFresh(http, $"{door.Tag(version)}-{talk?.Version()}"))
            {
                var shown = talk is null ? null : new TalkShown(talk, Writing.Nothing, http.Request.Query.ContainsKey(TalkEndpoints.Sent));
                await SendAsync(http, await door.Renderer.PhotoPageAsync(page, new Narrowed(found, Choices.Read(page, http.Request.Query), page.Path, draft: false), n, door.Origin.Of(http.Request), shown, ct), ct);
            }
        }
    }

    /// <summary>A former address leads to the present one; kept for a moment only, for it may come into use again.</summary>
    static void Redirect(HttpContext http, string to)
    {
        http.Response.Headers.CacheControl = "public, max-age=60";
        http.Response.Redirect($"{to}{http.Request.QueryString}", permanent: true);
    }

    static async Task<Results<Ok<SiteView>, NotFound<Problem>, BadRequest<Problem>>> View(SiteKind kind, string address, Asked asked, HttpContext http, SiteDoor door, CancellationToken ct)
    {
        http.Response.Headers.CacheControl = "no-cache";
        return await door.FindAsync(kind, address, await door.SightAsync(http, ct), ct) is { } version ? Answer(await door.Renderer.ModelAsync(version), asked, http, null) : Problems.Gone("page");
    }

    /// <param name="look">"draft" for the page as the theme's draft has it.</param>
    static async Task Draft(PageId page, int? version, string? look, HttpContext http, SiteStore store, SiteRenderer renderer, ThemeStore themes, CancellationToken ct)
    {
        // Whoever its gates let in finds it so.
        var sight = Sight.Somebody;
        http.Response.Headers.CacheControl = "no-store";
        var other = look == "draft" ? await DraftLookAsync(themes, ct) : null;
        if ((version is { } number ? await store.VersionAsync(page, number, sight, ct) : await store.PageAsync(page, draft: true, sight, ct, other)) is { } model)
        {
            var drawn = new DrawnPage(model, Choices.Read(model, http.Request.Query), $"/preview/{page}", draft: true, other is null ? null : $"/preview/{page}/look/view");
            await SendAsync(http, await renderer.PageAsync(drawn, root: null, ct, other), ct);
        }
        else
        {
            await Missing(http, renderer, ct);
        }
    }

    /// <summary>What visitors find while the site is closed, for those who decide it.</summary>
    static async Task Closed(HttpContext http, SiteRenderer renderer, CancellationToken ct)
    {
        http.Response.Headers.CacheControl = "no-store";
        await SendAsync(http, await renderer.ClosedPageAsync(ct), ct);
    }

    static async Task<Results<Ok<SiteView>, NotFound<Problem>, BadRequest<Problem>>> DraftView(PageId page, [AsParameters] Asked asked, HttpContext http, SiteStore store, CancellationToken ct) =>
        Answer(await store.PageAsync(page, draft: true, Sight.Somebody, ct), asked, http, $"/preview/{page}");

    /// <summary>The same of the page as the theme's draft has it.</summary>
    static async Task<Results<Ok<SiteView>, NotFound<Problem>, BadRequest<Problem>>> OtherLookView(PageId page, [AsParameters] Asked asked, HttpContext http, SiteStore store, ThemeStore themes, CancellationToken ct) =>
        Answer(await store.PageAsync(page, draft: true, Sight.Somebody, ct, await DraftLookAsync(themes, ct)), asked, http, $"/preview/{page}");

    static async Task<Look> DraftLookAsync(ThemeStore themes, CancellationToken ct) => (await themes.ReadAsync(ct)).Draft.Look();

    /// <param name="draft">Where the draft is; null for what visitors have.</param>
    internal static Results<Ok<SiteView>, NotFound<Problem>, BadRequest<Problem>> Answer(SitePage? page, Asked asked, HttpContext http, string? draft)
    {
        if (!double.IsFinite(asked.Width) || !double.IsFinite(asked.Window ?? 0))
        {
            return Problems.Invalid("The width is a number of CSS pixels.", new Dictionary<string, string> { ["width"] = "Give a number." });
        }

        if (page?.Walks.FirstOrDefault(w => w.Number == (asked.In ?? 1)) is not { } walk)
        {
            return Problems.Gone("page");
        }

        var width = Math.Clamp(asked.Width, NarrowestView, WidestView);
        return TypedResults.Ok(new Narrowed(walk, Choices.Read(page, http.Request.Query), draft ?? page.Path, draft is not null)
            .In(width, asked.Window ?? width, new SitePart(asked.At ?? 0, asked.Count ?? SitePart.Most, asked.Top, asked.Bottom)));
    }

    static async Task DraftPhoto(PageId page, PhotoId photo, [FromQuery(Name = "in")] int? walk, HttpContext http, SiteStore store, SiteRenderer renderer, CancellationToken ct)
    {
        http.Response.Headers.CacheControl = "no-store";
        if (await store.PageAsync(page, draft: true, Sight.Somebody, ct) is { } model && model.Find(photo, walk ?? 1) is var (found, n))
        {
            await SendAsync(http, await renderer.PhotoPageAsync(model, new Narrowed(found, Choices.Read(model, http.Request.Query), $"/preview/{page}", draft: true), n, root: null, talk: null, ct), ct);
        }
        else
        {
            await Missing(http, renderer, ct);
        }
    }

    /// <summary>A rendition for visitors: what everyone may see whatever lies between may keep; what only some may see nothing keeps.</summary>
    static async Task<IResult> Rendition(string picture, int recipe, int width, HttpContext http, RenditionService renditions, SightStore sights, Storage storage, CancellationToken ct)
    {
        if (recipe != Core.Photos.Renditions.Recipe)
        {
            return ForVisitors(http, storage, picture, null, "image/webp", "");
        }

        // What is kept for few was refused to everyone a moment ago: that need not be found out again for each picture of a page.
        var sight = await sights.LookAsync(http, ct);
        if (!sight.IsEveryone && await renditions.KnownAsync(picture, width, sight) is { } known)
        {
            return ForFew(known);
        }

        var file = await renditions.FindAsync(picture, width, await sights.EveryoneAsync(ct), ct);
        return file is null && !sight.IsEveryone && await renditions.FindAsync(picture, width, sight, ct) is { } restricted
            ? ForFew(restricted)
            : ForVisitors(http, storage, picture, file, "image/webp", $"{width}");

        FileAnswer ForFew(Stored found)
        {
            SightStore.KeepNowhere(http);
            return storage.Answer(found, "image/webp");
        }
    }

    /// <summary>The picture that others show beside a link.</summary>
    static async Task<IResult> Card(string picture, int recipe, HttpContext http, RenditionService renditions, SightStore sights, Storage storage, CancellationToken ct) =>
        ForVisitors(http, storage, picture, recipe == Core.Photos.Renditions.Recipe ? await renditions.CardAsync(picture, await sights.EveryoneAsync(ct), ct) : null, "image/jpeg", "card");

    static IResult ForVisitors(HttpContext http, Storage storage, string picture, Stored? file, string type, string form)
    {
        http.Response.Headers.CacheControl = file is null ? "no-store" : KnownRenditions.ForVisitors;
        return file is null ? TypedResults.NotFound() : storage.Answer(file, type, tag: KnownRenditions.Tag(picture, form));
    }

    /// <summary>A rendition for the workroom, under an address of its own that nothing between may keep.</summary>
    static async Task<IResult> StaffRendition(string picture, int width, HttpContext http, RenditionService renditions, Storage storage, CancellationToken ct)
    {
        if (await renditions.FindAsync(picture, width, Sight.Somebody with { Viewer = http.User.Viewer() }, ct) is not { } file)
        {
            http.Response.Headers.CacheControl = "no-store";
            return TypedResults.NotFound();
        }

        ForStaff.Private(http);
        return storage.Answer(file, "image/webp", tag: KnownRenditions.Tag(picture, $"{width}"));
    }

    internal static async Task Missing(HttpContext http, SiteRenderer renderer, CancellationToken ct)
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

    /// <summary>Sets the tag of this answer's version; when the visitor has that version already, answers 304 and is done.</summary>
    internal static bool IsFresh(HttpContext http, string version)
    {
        if (SeeingAs.Of(http) is not null)
        {
            // Theirs says as whom they see it: what the browser keeps from before does not.
            return false;
        }

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

    internal static async Task SendAsync(HttpContext http, Rendered page, CancellationToken ct)
    {
        var headers = http.Response.Headers;
        headers.ContentSecurityPolicy = page.Policy;
        headers.ContentType = "text/html; charset=utf-8";
        if (SeeingAs.Of(http) is { } said)
        {
            var marked = await SeeingAs.MarkedAsync(http, page.Html, said);
            headers.ContentLength = marked.Length;
            await http.Response.Body.WriteAsync(marked, ct);
            return;
        }

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

/// <summary>What a visitor's script asks for.</summary>
/// <param name="In">Which walk of the page, from 1; the first unless said.</param>
/// <param name="Width">How wide the block is, CSS pixels.</param>
/// <param name="Window">How wide the window is, CSS pixels; as wide as the block unless said.</param>
/// <param name="At">The first place of the part that is asked for, from 0.</param>
/// <param name="Top">Instead of places: what stands between two heights of the block, CSS pixels.</param>
internal sealed record Asked(int? In, double Width, double? Window, int? At, int? Count, double? Top, double? Bottom);
