namespace Jovitar.Server.Access;

/// <summary>How answers that not everyone may have are kept: by this one browser for a while, and only for who is signed in now.</summary>
internal static class ForStaff
{
    public static void Private(HttpContext http)
    {
        http.Response.Headers.CacheControl = "private, max-age=3600";
        // Another session has another cookie: what one browser keeps for it is not shown to the next who sits down.
        http.Response.Headers.Vary = "Cookie";
    }
}
