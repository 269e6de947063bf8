using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Site;

/// <summary>What visitors send from forms of the site's pages, which need no script.</summary>
internal static class VisitorForm
{
    /// <summary>Of a visitor's answer, bytes; its longest words take less.</summary>
    const int LongestBody = 32 * 1024;

    /// <summary>Another website had a visitor's browser send it (Fetch Metadata Request Headers, §2.4): they know nothing of it.</summary>
    public static bool IsFromElsewhere(HttpContext http) => http.Request.Headers["Sec-Fetch-Site"].ToString() is "cross-site" or "same-site";

    static readonly TimeSpan Minute = TimeSpan.FromMinutes(1);

    /// <summary>Refuses what a script of ours sent for nobody who looks at a page of ours, or what nobody does with a hand.</summary>
    /// <param name="what">By which it is counted.</param>
    /// <param name="most">So often within a minute from one network.</param>
    public static async Task<JsonHttpResult<Problem>?> RefusedAsync(HttpContext http, TryCount tries, string what, int most, CancellationToken ct)
    {
        SightStore.KeepNowhere(http);
        if (IsFromElsewhere(http))
        {
            return Problems.Json(StatusCodes.Status400BadRequest, "invalid", "This could not be read. Do it on the page itself.");
        }

        var wait = await tries.WaitAsync(Minute, ct, ($"{what} {TryCount.Network(http.Connection.RemoteIpAddress)}", most));
        await tries.ForgetAsync(ct);
        return wait is null ? null : Problems.Json(StatusCodes.Status429TooManyRequests, "too-many", "That was a lot at once. Wait a minute.");
    }

    /// <summary>The fields of a form; null where it is none, or too large.</summary>
    /// <param name="most">So many fields.</param>
    public static async Task<IFormCollection?> ReadAsync(HttpContext http, CancellationToken ct, int most = 16)
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
            return await http.Request.ReadFormAsync(new FormOptions { ValueCountLimit = most, ValueLengthLimit = LongestBody, MultipartBodyLengthLimit = LongestBody }, ct);
        }
        catch (InvalidDataException)
        {
            return null;
        }
    }
}
