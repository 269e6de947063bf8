using System.Text;
using Jovitar.Core.Access;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Site.Drawing;
using Microsoft.AspNetCore.Authorization;

namespace Jovitar.Server.Site.Entering;

/// <summary>
/// Staff look at the site as some visitor: every door lets them in where it would let in that one, each page says so at its top,
/// and nothing can be changed meanwhile. A cookie of the browser's session says as whom; it is worth nothing to anybody but staff.
/// </summary>
internal static class SeeingAs
{
    /// <summary>Where a form of the workroom begins it.</summary>
    public const string Path = "/site/as";

    /// <summary>Where the line at the top of a page ends it.</summary>
    public const string Ending = "/site/as/end";

    const string Cookie = "jovitar-as";
    static readonly object Key = new();

    /// <summary>As whom who asks looks, within a sentence; null for as themselves.</summary>
    public static string? Of(HttpContext http) => http.Items.TryGetValue(Key, out var said) ? (string)said! : null;

    public static void MapSeeingAs(this IEndpointRouteBuilder app)
    {
        var doors = app.MapGroup("").RequireAuthorization(Security.Editors).ExcludeFromDescription();
        doors.MapPost(Path, BeginAsync);
        doors.MapPost(Ending, EndAsync);
    }

    static async Task BeginAsync(HttpContext http, SiteStore store, CancellationToken ct)
    {
        EnteringEndpoints.Hide(http);
        if (VisitorForm.IsFromElsewhere(http) || await VisitorForm.ReadAsync(http, ct) is not { } form || SeenAs.Read(form["as"]) is not { } wanted)
        {
            http.Response.StatusCode = StatusCodes.Status400BadRequest;
            return;
        }

        http.Response.Cookies.Append(Cookie, wanted.ToString(), new CookieOptions { HttpOnly = true, SameSite = SameSiteMode.Lax, Secure = http.Request.IsHttps, IsEssential = true });
        var kind = form["kind"].ToString();
        EnteringEndpoints.See(http, AudienceStore.Kinds.Contains(kind) && Guid.TryParse(form["thing"], out var thing) ? await store.PathAsync(kind, thing, ct) ?? "/" : "/");
    }

    static async Task EndAsync(HttpContext http, CancellationToken ct)
    {
        EnteringEndpoints.Hide(http);
        var form = VisitorForm.IsFromElsewhere(http) ? null : await VisitorForm.ReadAsync(http, ct);
        if (form is not null)
        {
            http.Response.Cookies.Delete(Cookie);
        }

        EnteringEndpoints.See(http, form?["to"].ToString() ?? "/");
    }

    /// <summary>Stands before every door that is open to anybody and to nobody more than visitors.</summary>
    public static void UseSeeingAs(this WebApplication app)
    {
        var sights = app.Services.GetRequiredService<SightStore>();
        app.Use(async (http, next) =>
        {
            if (http.Request.Cookies[Cookie] is not { } cookie || !http.User.Viewer().IsStaff || http.GetEndpoint()?.Metadata is not { } door
                || door.GetMetadata<IAllowAnonymous>() is null || door.GetMetadata<AlwaysOpen>() is not null || http.Request.Path.StartsWithSegments("/api")
                || http.Request.Path.StartsWithSegments(SiteAddress.Embed)
                || SeenAs.Read(cookie) is not { } wanted || await sights.StandAsAsync(http, wanted, http.RequestAborted) is not { } said)
            {
                await next(http);
                return;
            }

            http.Items[Key] = said;
            if (HttpMethods.IsGet(http.Request.Method) || HttpMethods.IsHead(http.Request.Method))
            {
                await next(http);
                return;
            }

            http.Response.StatusCode = StatusCodes.Status403Forbidden;
            var renderer = http.RequestServices.GetRequiredService<SiteRenderer>();
            await SiteEndpoints.SendAsync(http, await renderer.OnlyLookingPageAsync(http.RequestAborted), http.RequestAborted);
        });
    }

    /// <summary>The same page with the line at its top that says as whom it is seen.</summary>
    public static async Task<byte[]> MarkedAsync(HttpContext http, byte[] html, string said)
    {
        // Only here: see ClosedSite.
        var renderer = http.RequestServices.GetRequiredService<SiteRenderer>();
        var line = Encoding.UTF8.GetBytes(await renderer.SeenAsLineAsync(said, $"{http.Request.Path}{http.Request.QueryString}"));
        var body = html.AsSpan().IndexOf("<body"u8);
        var at = body < 0 ? 0 : body + html.AsSpan(body).IndexOf((byte)'>') + 1;
        return [.. html.AsSpan(0, at), .. line, .. html.AsSpan(at)];
    }
}
