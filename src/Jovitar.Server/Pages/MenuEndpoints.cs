using Jovitar.Core.Pages;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace Jovitar.Server.Pages;

/// <summary>The menu as it is after a write, and what the write came to.</summary>
internal sealed record MenuWritten(OpenedMenu Menu, Done Done);

/// <summary>The site's menu.</summary>
internal static class MenuEndpoints
{
    public static void MapMenu(this IEndpointRouteBuilder api)
    {
        var menu = api.MapGroup("/menu").RequireAuthorization(Security.Editors).WithTags("Pages");
        menu.MapGet("", Show).WithSummary("The site's menu");
        menu.MapPut("", Write).NeedsVersion().WithSummary("Writes the site's menu; visitors have it at once");
    }

    static async Task<Ok<OpenedMenu>> Show(MenuStore store, CancellationToken ct) => TypedResults.Ok(await store.ReadAsync(ct));

    static async Task<Results<Ok<MenuWritten>, Stale, BadRequest<Problem>>> Write(
        Menu body, [FromHeader(Name = "If-Match")] long version, Actor who, MenuStore store, CancellationToken ct)
    {
        if (body.Faults() is { Count: > 0 } faults)
        {
            return Problems.Invalid(faults.First().Value, faults);
        }

        return await store.WriteAsync(who, body, version, ct) is { } done ? TypedResults.Ok(new MenuWritten(await store.ReadAsync(ct), done)) : Problems.Stale("menu");
    }
}
