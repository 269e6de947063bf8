using Jovitar.Core.Describing;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Sales;

/// <summary>Files that bookkeeping takes along of a year (UTC), named by the site and the year.</summary>
internal sealed class YearFile(SettingsStore settings, TimeProvider clock)
{
    /// <summary>Answers with one that goes out while it is being made.</summary>
    /// <param name="year">Null for this year.</param>
    /// <param name="what">What it has: “orders”.</param>
    /// <param name="ending">Of its name.</param>
    /// <param name="type">Its media type.</param>
    /// <param name="write">Writes it, to its end.</param>
    public async Task<Results<PushStreamHttpResult, BadRequest<Problem>>> SendAsync(HttpContext http, int? year, string what, string ending, string type, Func<int, Stream, Task> write)
    {
        var of = year ?? clock.GetUtcNow().Year;
        if (of is < 1 or > 9998)
        {
            return Problems.Invalid("There is no such year.");
        }

        http.Response.Headers.CacheControl = "private, no-store";
        var title = (await settings.ReadAsync(http.RequestAborted)).Title;
        return TypedResults.Stream(to => write(of, to), type, new LeavingNames().Next(FormattableString.Invariant($"{title}, {what} {of}{ending}")));
    }
}
