using Jovitar.Server.Access;
using Jovitar.Server.Opening;
using Jovitar.Server.Platform;
using Jovitar.Server.Site.Drawing;
using Microsoft.AspNetCore.Authorization;

namespace Jovitar.Server.Site;

/// <summary>
/// Stands before every door that is open to anybody and does not say that it always is: on a closed site staff find everything as
/// visitors will, and nothing between may keep it; visitors find a page that says so.
/// </summary>
internal static class ClosedSite
{
    public static void UseClosedSite(this WebApplication app)
    {
        var gate = app.Services.GetRequiredService<SiteGate>();
        app.Use(async (http, next) =>
        {
            if (http.GetEndpoint()?.Metadata is not { } door || door.GetMetadata<IAllowAnonymous>() is null || door.GetMetadata<AlwaysOpen>() is not null)
            {
                await next(http);
                return;
            }

            var front = await gate.FrontAsync(http.RequestAborted);
            if (!front.IsListed)
            {
                http.Response.Headers["X-Robots-Tag"] = "noindex";
            }

            if (gate.LetsIn(http.User.Viewer(), front))
            {
                if (!front.IsOpen)
                {
                    http.Response.OnStarting(() =>
                    {
                        http.Response.Headers.CacheControl = "private, no-store";
                        return Task.CompletedTask;
                    });
                }

                await next(http);
                return;
            }

            await TurnAwayAsync(http);
        });
    }

    /// <summary>503, not 404: whoever gathers pages comes back later and forgets none (RFC 9110 §15.6.4; for robots.txt, RFC 9309 §2.3.1.4).</summary>
    static async Task TurnAwayAsync(HttpContext http)
    {
        // Only here: the server describes its API before the web part, which pages are drawn with, is built from that.
        var renderer = http.RequestServices.GetRequiredService<SiteRenderer>();
        http.Response.StatusCode = StatusCodes.Status503ServiceUnavailable;
        http.Response.Headers.CacheControl = "no-store";
        if (http.Request.Path.StartsWithSegments(SiteAddress.View) || http.Request.Path.StartsWithSegments("/api"))
        {
            await Problems.Json(StatusCodes.Status503ServiceUnavailable, "closed", "This site is not open yet.").ExecuteAsync(http);
        }
        else if (http.Request.Path.StartsWithSegments(SiteAddress.Embed))
        {
            await SiteEndpoints.SendAsync(http, await renderer.MissingEmbedAsync(http.RequestAborted), http.RequestAborted);
        }
        else if (http.Request.Headers.Accept.ToString().Contains("text/html", StringComparison.Ordinal))
        {
            await SiteEndpoints.SendAsync(http, await renderer.ClosedPageAsync(http.RequestAborted), http.RequestAborted);
        }
    }
}
