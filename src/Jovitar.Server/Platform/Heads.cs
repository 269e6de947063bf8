namespace Jovitar.Server.Platform;

/// <summary>Answers HEAD as GET, without the body (RFC 9110 §9.3.2): to everything that does not speak of HEAD itself.</summary>
internal static class Heads
{
    /// <summary>Nobody fetches what is made for this request: what takes long to make need not be made.</summary>
    public static bool IsHead(HttpContext http) => http.Items.ContainsKey(typeof(Heads));

    public static void UseHeads(this IApplicationBuilder app) => app.Use(async (http, next) =>
    {
        if (!HttpMethods.IsHead(http.Request.Method) || http.Request.Path.StartsWithSegments("/api/uploads"))
        {
            await next(http);
            return;
        }

        http.Request.Method = HttpMethods.Get;
        http.Items[typeof(Heads)] = true;
        var body = http.Response.Body;
        http.Response.Body = Stream.Null;
        try
        {
            await next(http);
        }
        finally
        {
            http.Response.Body = body;
            http.Request.Method = HttpMethods.Head;
        }
    });
}
