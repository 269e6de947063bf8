using Jovitar.Server.Access;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Desk;

/// <summary>The first screen, the figures of the contents, and the news of both.</summary>
internal static class DeskEndpoints
{
    public static void MapDesk(this IEndpointRouteBuilder api)
    {
        var desk = api.MapGroup("/desk").RequireAuthorization(Security.Editors).WithTags("Desk");
        desk.MapGet("", async Task<Ok<DeskState>> (DeskStore store, CancellationToken ct) => TypedResults.Ok(await store.StateAsync(ct))).WithSummary("What waits, what runs, how much there is");
        desk.MapGet("/figures", async Task<Ok<Figures>> (DeskStore store, CancellationToken ct) => TypedResults.Ok(await store.FiguresAsync(ct))).WithSummary("The figures of the contents");
        desk.MapGet("/news", (DeskNews news, HttpContext http, CancellationToken ct) =>
        {
            // No compression and no buffer between: each line goes out as it is written.
            http.Response.Headers["X-Accel-Buffering"] = "no";
            return TypedResults.ServerSentEvents(news.ListenAsync(ct));
        }).ExcludeFromDescription();
    }
}
