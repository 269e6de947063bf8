using System.Globalization;
using Jovitar.Core.People;
using Jovitar.Server.Sales.Ordering;

namespace Jovitar.Server.Site.Buying;

/// <summary>What a browser shows whose visitor put something into a basket without having signed in; and, for what stands beside the link to it, how many things there are.</summary>
internal static class BasketCookie
{
    const string Name = "jovitar-basket";

    /// <summary>A number, which the site's script reads: nothing else of a basket can be told by it.</summary>
    const string Count = "jovitar-basket-things";

    /// <summary>What the browser shows; null for nothing.</summary>
    public static byte[]? Secret(HttpRequest request) => request.Cookies.TryGetValue(Name, out var secret) ? LinkSecret.Hash(secret) : null;

    /// <summary>The same; who shows nothing is given something.</summary>
    public static byte[] SecretOrNew(HttpContext http)
    {
        if (http.Request.Cookies.TryGetValue(Name, out var shown) && LinkSecret.Hash(shown) is { } known)
        {
            // It is kept from now on as long as the basket is.
            http.Response.Cookies.Append(Name, shown, Options(http, readable: false));
            return known;
        }

        var secret = LinkSecret.New();
        http.Response.Cookies.Append(Name, secret, Options(http, readable: false));
        return LinkSecret.Hash(secret)!;
    }

    /// <summary>Takes it off the browser.</summary>
    public static void Take(HttpContext http) => http.Response.Cookies.Delete(Name);

    /// <summary>Tells the browser how many things there are.</summary>
    public static void Tell(HttpContext http, int things)
    {
        if (things == 0)
        {
            http.Response.Cookies.Delete(Count);
        }
        else
        {
            http.Response.Cookies.Append(Count, things.ToString(CultureInfo.InvariantCulture), Options(http, readable: true));
        }
    }

    static CookieOptions Options(HttpContext http, bool readable) => new() { HttpOnly = !readable, SameSite = SameSiteMode.Lax, Secure = http.Request.IsHttps, MaxAge = BasketStore.Kept, IsEssential = true };
}
