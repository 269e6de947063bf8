using Jovitar.Core.People;

namespace Jovitar.Server.Access.Entries;

/// <summary>What a browser shows that came in by an entry link or a passcode: a secret of its own, a new one whenever it comes in again.</summary>
internal static class EntryCookie
{
    const string Name = "jovitar-entry";

    /// <summary>So long one who came in needs nothing more, as long as what they came in with is good.</summary>
    public static readonly TimeSpan Life = TimeSpan.FromDays(90);

    /// <summary>Who asks is known by this; null for who shows nothing.</summary>
    public static byte[]? Holder(HttpRequest request) => request.Cookies.TryGetValue(Name, out var secret) ? LinkSecret.Hash(secret) : null;

    /// <summary>Gives the browser a secret.</summary>
    public static void Give(HttpContext http, string secret)
    {
        http.Response.Cookies.Append(Name, secret, new CookieOptions
        {
            HttpOnly = true,
            SameSite = SameSiteMode.Lax,
            Secure = http.Request.IsHttps,
            MaxAge = Life,
            IsEssential = true,
        });
    }

    /// <summary>Takes it off the browser.</summary>
    public static void Take(HttpContext http) => http.Response.Cookies.Delete(Name);
}
