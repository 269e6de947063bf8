using Jovitar.Core.Themes;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace Jovitar.Server.Themes;

/// <summary>A theme of those that ship, with all that it says.</summary>
internal sealed record ShippedTheme(ThemeName Name, Look Look);

/// <summary>How the site looks.</summary>
/// <param name="Look">What comes of the draft.</param>
/// <param name="Unreadable">What of it cannot be read well where visitors may see it.</param>
/// <param name="Shipped">The themes there are.</param>
internal sealed record SiteTheme(Look Look, IReadOnlyList<Unreadable> Unreadable, IReadOnlyList<ShippedTheme> Shipped, OpenedTheme Opened)
{
    static readonly ShippedTheme[] All = [.. Enum.GetValues<ThemeName>().Select(n => new ShippedTheme(n, Core.Themes.Look.Of(n)))];

    public static SiteTheme Of(OpenedTheme opened)
    {
        var look = opened.Draft.Look();
        return new SiteTheme(look, look.Unreadable(), All, opened);
    }
}

/// <summary>The theme as it is after a write, and what the write came to.</summary>
internal sealed record ThemeWritten(SiteTheme Theme, Done Done);

/// <summary>How the site looks.</summary>
internal static class ThemeEndpoints
{
    public static void MapThemes(this IEndpointRouteBuilder api)
    {
        var theme = api.MapGroup("/theme").RequireAuthorization(Security.Editors).WithTags("Themes");
        theme.MapGet("", Show).WithSummary("How the site looks, as a draft");
        theme.MapPut("", Write).NeedsVersion().WithSummary("Changes how the site is to look; visitors have it when it is published");
        theme.MapPost("/logos", Bring).Accepts<byte[]>("application/octet-stream").WithMetadata(new RequestSizeLimitAttribute(Logo.MostBytes)).WithSummary("Brings a picture for the site's head; the body is its bytes");
        theme.MapPost("/publishing", Publish).NeedsVersion().WithSummary("Visitors have the site as the draft looks");
    }

    /// <summary>The picture in the site's head, for visitors and for those who choose it.</summary>
    public static void MapLogo(this IEndpointRouteBuilder app) => app.MapGet("/logo/{picture}.webp", Picture).AllowAnonymous().WithMetadata(AlwaysOpen.Instance).ExcludeFromDescription();

    static async Task<Results<FileContentHttpResult, NotFound>> Picture(string picture, HttpContext http, LogoStore logos, CancellationToken ct)
    {
        var found = await logos.FindAsync(picture, http.User.Viewer(), ct);
        // It is named by its bytes: what everybody may see may be kept for as long as anybody likes.
        http.Response.Headers.CacheControl = found is { ForEverybody: true } ? "public, max-age=31536000, immutable" : "no-store";
        return found is var (bytes, _) ? TypedResults.Bytes(bytes, "image/webp") : TypedResults.NotFound();
    }

    static async Task<Results<Ok<Logo>, BadRequest<Problem>>> Bring(HttpContext http, LogoStore logos, CancellationToken ct)
    {
        var bytes = new MemoryStream();
        await http.Request.Body.CopyToAsync(bytes, ct);
        return await logos.BringAsync(bytes.ToArray(), ct) is { } logo
            ? TypedResults.Ok(logo)
            : Problems.Invalid($"That is no picture that can stand in the head. Take a PNG, JPEG, WebP, GIF or SVG that is at most {Logo.Longest} times as wide as high.");
    }

    static async Task<Ok<SiteTheme>> Show(ThemeStore store, CancellationToken ct) => TypedResults.Ok(SiteTheme.Of(await store.ReadAsync(ct)));

    static async Task<Results<Ok<ThemeWritten>, Stale, BadRequest<Problem>>> Write(Theme body, [FromHeader(Name = "If-Match")] long version, Actor who, ThemeStore store, LogoStore logos, CancellationToken ct)
    {
        if (body.Fault() is { } fault)
        {
            return Problems.Invalid(fault);
        }

        var logo = body.Logo is { } said ? await logos.KnownAsync(said, ct) : null;
        return body.Logo is not null && logo is null ? Problems.Invalid("The picture for the head is not there. Bring it once more.")
            : await store.WriteAsync(who, (body with { Logo = logo }).Bounded(), version, ct) is { } done ? TypedResults.Ok(await WrittenAsync(store, done, ct))
            : Problems.Stale("theme");
    }

    static async Task<Results<Ok<ThemeWritten>, Stale>> Publish([FromHeader(Name = "If-Match")] long version, Actor who, ThemeStore store, CancellationToken ct) =>
        await store.PublishAsync(who, version, ct) is { } done ? TypedResults.Ok(await WrittenAsync(store, done, ct)) : Problems.Stale("theme");

    static async Task<ThemeWritten> WrittenAsync(ThemeStore store, Done done, CancellationToken ct) => new(SiteTheme.Of(await store.ReadAsync(ct)), done);
}
