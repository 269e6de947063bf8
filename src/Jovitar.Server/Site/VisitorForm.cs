using Microsoft.AspNetCore.Http.Features;

namespace Jovitar.Server.Site;

/// <summary>What visitors send from forms of the site's pages, which need no script.</summary>
internal static class VisitorForm
{
    /// <summary>Of a visitor's answer, bytes; its longest words take less.</summary>
    const int LongestBody = 32 * 1024;

    /// <summary>Another website had a visitor's browser send it (Fetch Metadata Request Headers, §2.4): they know nothing of it.</summary>
    public static bool IsFromElsewhere(HttpContext http) => http.Request.Headers["Sec-Fetch-Site"].ToString() is "cross-site" or "same-site";

    /// <summary>The fields of a form; null where it is none, or too large.</summary>
    public static async Task<IFormCollection?> ReadAsync(HttpContext http, CancellationToken ct)
    {
        if (!http.Request.HasFormContentType || http.Request.ContentLength is null or > LongestBody)
        {
            return null;
        }

        if (http.Features.Get<IHttpMaxRequestBodySizeFeature>() is { IsReadOnly: false } limit)
        {
            limit.MaxRequestBodySize = LongestBody;
        }

        try
        {
            return await http.Request.ReadFormAsync(new FormOptions { ValueCountLimit = 16, ValueLengthLimit = LongestBody, MultipartBodyLengthLimit = LongestBody }, ct);
        }
        catch (InvalidDataException)
        {
            return null;
        }
    }
}
