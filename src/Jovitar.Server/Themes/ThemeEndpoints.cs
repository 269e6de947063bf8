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
        theme.MapPost("/publishing", Publish).NeedsVersion().WithSummary("Visitors have the site as the draft looks");
    }

    static async Task<Ok<SiteTheme>> Show(ThemeStore store, CancellationToken ct) => TypedResults.Ok(SiteTheme.Of(await store.ReadAsync(ct)));

    static async Task<Results<Ok<ThemeWritten>, Stale, BadRequest<Problem>>> Write(Theme body, [FromHeader(Name = "If-Match")] long version, Actor who, ThemeStore store, CancellationToken ct) =>
        body.Fault() is { } fault ? Problems.Invalid(fault)
        : await store.WriteAsync(who, body.Bounded(), version, ct) is { } done ? TypedResults.Ok(await WrittenAsync(store, done, ct))
        : Problems.Stale("theme");

    static async Task<Results<Ok<ThemeWritten>, Stale>> Publish([FromHeader(Name = "If-Match")] long version, Actor who, ThemeStore store, CancellationToken ct) =>
        await store.PublishAsync(who, version, ct) is { } done ? TypedResults.Ok(await WrittenAsync(store, done, ct)) : Problems.Stale("theme");

    static async Task<ThemeWritten> WrittenAsync(ThemeStore store, Done done, CancellationToken ct) => new(SiteTheme.Of(await store.ReadAsync(ct)), done);
}
