using System.Security.Claims;
using System.Security.Cryptography;
using System.Text;
using Jovitar.Core.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.DataProtection.KeyManagement;
using Microsoft.AspNetCore.HttpOverrides;
using Microsoft.AspNetCore.Identity;

namespace Jovitar.Server.Access;

/// <summary>A right in the workroom that an operation asks for.</summary>
internal sealed record RightNeeded(Right Right) : IAuthorizationRequirement;

/// <summary>Asks the one decision.</summary>
internal sealed class RightHandler(AccessStore access) : AuthorizationHandler<RightNeeded>
{
    protected override Task HandleRequirementAsync(AuthorizationHandlerContext context, RightNeeded requirement)
    {
        if (access.May(context.User.Viewer(), requirement.Right, new TheWorkroom()))
        {
            context.Succeed(requirement);
        }

        return Task.CompletedTask;
    }
}

/// <summary>Cookies, anti-forgery, and the headers that keep foreign script out.</summary>
internal static class Security
{
    /// <summary>May change what is in the workroom.</summary>
    public const string Editors = "editors";

    /// <summary>May look after the site itself.</summary>
    public const string Owners = "owners";

    /// <summary>Is signed in, whatever the account may do: one's own sessions and password.</summary>
    public const string SignedIn = "signed-in";

    const string SessionClaim = "session";

    /// <summary>What every page may load: only from here, no inline script.</summary>
    /// <param name="styles">Further sources of styles, as the policy names them; empty for none.</param>
    /// <param name="elsewhere">Where videos may come from besides, played or in a frame; null for nowhere.</param>
    /// <param name="framedAnywhere">Other websites may show it in a frame.</param>
    public static string ContentPolicy(string styles = "", IReadOnlyList<string>? elsewhere = null, bool framedAnywhere = false)
    {
        var media = string.Join(' ', elsewhere ?? []);
        return $"default-src 'none'; script-src 'self'; style-src 'self' {styles}; img-src 'self' data: blob:; font-src 'self'; connect-src 'self'; media-src 'self' {media}; frame-src 'self' {media}; frame-ancestors {(framedAnywhere ? "*" : "'self'")}; base-uri 'none'; form-action 'self'; manifest-src 'self'";
    }

    /// <summary>A style sheet within a page, as the policy names it (CSP level 3, hash-source).</summary>
    public static string StyleSource(string css) => $"'sha256-{Convert.ToBase64String(SHA256.HashData(Encoding.UTF8.GetBytes(css)))}'";

    /// <summary>Who asks, for the decision.</summary>
    public static Viewer Viewer(this ClaimsPrincipal user) =>
        user.Identity is { IsAuthenticated: true } && Enum.TryParse<Role>(user.FindFirstValue(ClaimTypes.Role), out var role) ? new Viewer(role) : Core.Access.Viewer.Nobody;

    /// <summary>The member who asks; null for anybody else.</summary>
    public static Guid? Member(this ClaimsPrincipal user) => user.Viewer().Role == Role.Member ? Actor.Of(user).Account : null;

    /// <summary>The session of who asks; empty for nobody.</summary>
    public static Guid Session(this ClaimsPrincipal user) => Guid.TryParse(user.FindFirstValue(SessionClaim), out var id) ? id : Guid.Empty;

    /// <param name="proxies">Whose forwarded headers are believed.</param>
    public static void AddSecurity(this IServiceCollection services, IReadOnlyList<System.Net.IPNetwork> proxies)
    {
        services.AddDataProtection().SetApplicationName("Jovitar");
        services.AddOptions<KeyManagementOptions>().Configure<DataProtectionKeys>((options, keys) => options.XmlRepository = keys);
        services.AddSingleton<DataProtectionKeys>();
        services.AddSingleton<IPasswordHasher<Account>, PasswordHasher<Account>>();
        services.AddSingleton<IAuthorizationHandler, RightHandler>();
        services.AddAuthentication(CookieAuthenticationDefaults.AuthenticationScheme).AddCookie(options =>
        {
            options.Cookie.Name = "jovitar";
            options.Cookie.HttpOnly = true;
            options.Cookie.SameSite = SameSiteMode.Lax;
            options.Cookie.SecurePolicy = CookieSecurePolicy.SameAsRequest;
            options.ExpireTimeSpan = SessionStore.Life;
            options.SlidingExpiration = true;
            options.Events.OnValidatePrincipal = ValidateAsync;
            options.Events.OnRedirectToLogin = context => Refuse(context.HttpContext, StatusCodes.Status401Unauthorized, "signed-out", "Sign in to go on.");
            options.Events.OnRedirectToAccessDenied = context => Refuse(context.HttpContext, StatusCodes.Status403Forbidden, "forbidden", "Your account may not do this.");
        });
        // What does not say whom it is open to is open to editors only.
        var editors = new AuthorizationPolicyBuilder().RequireAuthenticatedUser().AddRequirements(new RightNeeded(Right.Change)).Build();
        services.AddAuthorizationBuilder()
            .AddPolicy(Editors, editors)
            .AddPolicy(Owners, policy => policy.RequireAuthenticatedUser().AddRequirements(new RightNeeded(Right.LookAfter)))
            .AddPolicy(SignedIn, policy => policy.RequireAuthenticatedUser())
            .SetFallbackPolicy(editors);
        services.AddAntiforgery(options =>
        {
            options.HeaderName = "X-Jovitar-Forgery";
            options.Cookie.Name = "jovitar-forgery";
            options.Cookie.HttpOnly = true;
            options.Cookie.SameSite = SameSiteMode.Strict;
            options.Cookie.SecurePolicy = CookieSecurePolicy.SameAsRequest;
        });
        services.Configure<ForwardedHeadersOptions>(options =>
        {
            options.ForwardedHeaders = ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto;
            // Only what the operator names is believed; not even this machine by itself.
            options.KnownProxies.Clear();
            options.KnownIPNetworks.Clear();
            foreach (var proxy in proxies)
            {
                options.KnownIPNetworks.Add(proxy);
            }
        });
    }

    /// <summary>A cookie is worth what its row says now: who it is, what they may, or nothing.</summary>
    static async Task ValidateAsync(CookieValidatePrincipalContext context)
    {
        var sessions = context.HttpContext.RequestServices.GetRequiredService<SessionStore>();
        if (context.Principal?.Session() is not { } id || await sessions.FindAsync(id, Origin(context.HttpContext), context.HttpContext.RequestAborted) is not { } found)
        {
            context.RejectPrincipal();
            return;
        }

        context.ReplacePrincipal(Principal(found));
    }

    static ClaimsPrincipal Principal(SignedIn who) => new(new ClaimsIdentity(
        [new Claim(SessionClaim, who.Session.ToString()), new Claim(ClaimTypes.NameIdentifier, who.Account.ToString()), new Claim(ClaimTypes.Name, who.Name), new Claim(ClaimTypes.Role, who.Role.ToString())],
        CookieAuthenticationDefaults.AuthenticationScheme));

    static string Origin(HttpContext http) => http.RequestServices.GetRequiredService<SiteOrigin>().TextOf(http.Request);

    /// <summary>Begins a session and hands out its cookie.</summary>
    public static async Task SignInAsync(HttpContext http, Account account, SessionStore sessions, CancellationToken ct)
    {
        if (Actor.Of(http.User).Account is { } before)
        {
            // Whoever was signed in here is not any more.
            await sessions.EndAsync(before, http.User.Session(), ct);
        }

        var id = await sessions.BeginAsync(account.Id, http.Request.Headers.UserAgent.ToString(), http.Connection.RemoteIpAddress, Origin(http), ct);
        await http.SignInAsync(CookieAuthenticationDefaults.AuthenticationScheme, Principal(new SignedIn(id, account.Id, account.Name, account.Role)));
    }

    /// <summary>The policy of a PDF that is shown: browsers' own viewers do not open in a sandbox, and run no script of a page's.</summary>
    public const string OfPdf = "script-src 'none'; frame-ancestors 'none'";

    /// <summary>Sets the headers that every answer carries.</summary>
    public static void UseSecurityHeaders(this IApplicationBuilder app)
    {
        var policy = ContentPolicy();
        app.Use((http, next) =>
        {
            var headers = http.Response.Headers;
            headers.ContentSecurityPolicy = policy;
            headers.XContentTypeOptions = "nosniff";
            headers["Referrer-Policy"] = "same-origin";
            headers["Cross-Origin-Opener-Policy"] = "same-origin";
            headers["Permissions-Policy"] = "camera=(), microphone=(), geolocation=()";
            return next(http);
        });
    }

    /// <summary>Every unsafe request to the API must carry the token that only our own pages can read.</summary>
    public static void UseForgeryCheck(this IApplicationBuilder app) => app.Use(async (http, next) =>
    {
        var unsafeMethod = !(HttpMethods.IsGet(http.Request.Method) || HttpMethods.IsHead(http.Request.Method) || HttpMethods.IsOptions(http.Request.Method));
        if (unsafeMethod && http.Request.Path.StartsWithSegments("/api") && !await http.RequestServices.GetRequiredService<IAntiforgery>().IsRequestValidAsync(http))
        {
            await Refuse(http, StatusCodes.Status400BadRequest, "forgery", "This request did not come from an open page of the workroom. Load the page again.");
            return;
        }

        await next(http);
    });

    static Task Refuse(HttpContext http, int status, string kind, string sentence) => Problems.Json(status, kind, sentence).ExecuteAsync(http);
}
