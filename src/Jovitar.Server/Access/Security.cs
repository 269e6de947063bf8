using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.DataProtection.KeyManagement;
using Microsoft.AspNetCore.Identity;

namespace Jovitar.Server.Access;

/// <summary>Cookies, anti-forgery, and the headers that keep foreign script out.</summary>
internal static class Security
{
    public const string Editors = "editors";

    /// <summary>What every page may load: only from here, no inline script.</summary>
    /// <param name="styles">Further sources of styles, as the policy names them; empty for none.</param>
    public static string ContentPolicy(string styles = "") =>
        $"default-src 'none'; script-src 'self'; style-src 'self' {styles}; img-src 'self' data: blob:; font-src 'self'; connect-src 'self'; frame-src 'self'; frame-ancestors 'self'; base-uri 'none'; form-action 'self'; manifest-src 'self'";

    public static void AddSecurity(this IServiceCollection services)
    {
        services.AddDataProtection().SetApplicationName("Jovitar");
        services.AddOptions<KeyManagementOptions>().Configure<DataProtectionKeys>((options, keys) => options.XmlRepository = keys);
        services.AddSingleton<DataProtectionKeys>();
        services.AddSingleton<IPasswordHasher<Account>, PasswordHasher<Account>>();
        services.AddAuthentication(CookieAuthenticationDefaults.AuthenticationScheme).AddCookie(options =>
        {
            options.Cookie.Name = "jovitar";
            options.Cookie.HttpOnly = true;
            options.Cookie.SameSite = SameSiteMode.Lax;
            options.Cookie.SecurePolicy = CookieSecurePolicy.SameAsRequest;
            options.ExpireTimeSpan = TimeSpan.FromDays(14);
            options.SlidingExpiration = true;
            options.Events.OnRedirectToLogin = context => Refuse(context.HttpContext, StatusCodes.Status401Unauthorized, "signed-out", "Sign in to go on.");
            options.Events.OnRedirectToAccessDenied = context => Refuse(context.HttpContext, StatusCodes.Status403Forbidden, "forbidden", "Your account may not do this.");
        });
        services.AddAuthorizationBuilder().AddPolicy(Editors, policy => policy.RequireAuthenticatedUser());
        services.AddAntiforgery(options =>
        {
            options.HeaderName = "X-Jovitar-Forgery";
            options.Cookie.Name = "jovitar-forgery";
            options.Cookie.HttpOnly = true;
            options.Cookie.SameSite = SameSiteMode.Strict;
            options.Cookie.SecurePolicy = CookieSecurePolicy.SameAsRequest;
        });
    }

    /// <summary>Sets the headers that every answer carries.</summary>
    public static void UseSecurityHeaders(this IApplicationBuilder app) => Apply(app, ContentPolicy());

    static void Apply(IApplicationBuilder app, string policy) => app.Use((http, next) =>
    {
        var headers = http.Response.Headers;
        headers.ContentSecurityPolicy = policy;
        headers.XContentTypeOptions = "nosniff";
        headers["Referrer-Policy"] = "same-origin";
        headers["Cross-Origin-Opener-Policy"] = "same-origin";
        headers["Permissions-Policy"] = "camera=(), microphone=(), geolocation=()";
        return next(http);
    });

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

    static Task Refuse(HttpContext http, int status, string kind, string sentence)
    {
        http.Response.StatusCode = status;
        return http.Response.WriteAsJsonAsync(new Problem($"urn:jovitar:{kind}", sentence, status), options: null, contentType: "application/problem+json");
    }
}
