using System.Globalization;
using Jovitar.Core.Photos;
using Jovitar.Server.Platform.Storing;

namespace Jovitar.Server.Site;

/// <summary>
/// Sends renditions that were decided to be public a moment ago before routing, signing in and the rest are asked: most of what
/// visitors fetch. Anything else (a cookie, a part of a file, a tag to compare) takes the long way.
/// </summary>
internal static class PublicRenditions
{
    const int HashLength = 64;

    public static void UsePublicRenditions(this WebApplication app)
    {
        var renditions = app.Services.GetRequiredService<RenditionService>();
        var storage = app.Services.GetRequiredService<Storage>();
        app.Use(async (http, next) =>
        {
            var headers = http.Request.Headers;
            if (!HttpMethods.IsGet(http.Request.Method) || headers.Cookie.Count > 0 || headers.Range.Count > 0 || headers.IfNoneMatch.Count > 0
                || !TryRead(http.Request.Path.Value, out var hash, out var width) || await renditions.KnownAsync(hash, width) is not { } file)
            {
                await next(http);
                return;
            }

            var answer = http.Response;
            answer.ContentType = "image/webp";
            answer.Headers.CacheControl = ForVisitors;
            answer.Headers.ETag = Tag(hash, width);
            await storage.SendAsync(answer, file, http.RequestAborted);
        });
    }

    /// <summary>A public rendition may be kept for a year: its address never means anything else.</summary>
    public const string ForVisitors = "public, max-age=31536000, immutable";

    public static string Tag(string hash, int width) => $"\"{hash[..16]}-{Renditions.Recipe}-{width}\"";

    /// <summary>Reads <c>/i/HASH/RECIPE-WIDTH.webp</c> with today's recipe.</summary>
    static bool TryRead(string? path, out string hash, out int width)
    {
        (hash, width) = ("", 0);
        var middle = string.Create(CultureInfo.InvariantCulture, $"/{Renditions.Recipe}-");
        if (path is null || !path.StartsWith("/i/", StringComparison.Ordinal) || !path.EndsWith(".webp", StringComparison.Ordinal)
            || path.Length <= 3 + HashLength + middle.Length + 5 || !path.AsSpan(3 + HashLength).StartsWith(middle, StringComparison.Ordinal)
            || !int.TryParse(path.AsSpan(3 + HashLength + middle.Length, path.Length - 3 - HashLength - middle.Length - 5), NumberStyles.None, CultureInfo.InvariantCulture, out width))
        {
            return false;
        }

        hash = path.Substring(3, HashLength);
        return true;
    }
}
