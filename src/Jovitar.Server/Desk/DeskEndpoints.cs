using System.Runtime.CompilerServices;
using Jovitar.Core.Access;
using Jovitar.Server.Access;
using Microsoft.AspNetCore.Http.HttpResults;
using Npgsql;

namespace Jovitar.Server.Desk;

/// <summary>The first screen, the figures of the contents, and the news of both.</summary>
internal static class DeskEndpoints
{
    static readonly TimeSpan LookAgain = TimeSpan.FromSeconds(4);

    public static void MapDesk(this IEndpointRouteBuilder api)
    {
        var desk = api.MapGroup("/desk").RequireAuthorization(Security.Editors).WithTags("Desk");
        desk.MapGet("", async Task<Ok<DeskState>> (DeskStore store, CancellationToken ct) => TypedResults.Ok(await store.StateAsync(ct))).WithSummary("What waits, what runs, how much there is");
        desk.MapGet("/figures", async Task<Ok<Figures>> (DeskStore store, CancellationToken ct) => TypedResults.Ok(await store.FiguresAsync(ct))).WithSummary("The figures of the contents");
        desk.MapGet("/news", (DeskNews news, SessionStore sessions, AccessStore access, HttpContext http, CancellationToken ct) =>
        {
            // No compression and no buffer between: each line goes out as it is written.
            http.Response.Headers["X-Accel-Buffering"] = "no";
            return TypedResults.ServerSentEvents(WhileWelcome(news.ListenAsync(ct), http.User.Session(), sessions, access, ct));
        }).ExcludeFromDescription();
    }
    /// <summary>Who was let go while they listened hears nothing more, within <see cref="LookAgain"/>.</summary>
    static async IAsyncEnumerable<T> WhileWelcome<T>(IAsyncEnumerable<T> news, Guid session, SessionStore sessions, AccessStore access, [EnumeratorCancellation] CancellationToken ct)
    {
        var looked = access.Now;
        await foreach (var item in news.WithCancellation(ct))
        {
            if (access.Now - looked > LookAgain)
            {
                looked = access.Now;
                if (!await IsWelcomeAsync(session, sessions, access, ct))
                {
                    yield break;
                }
            }

            yield return item;
        }
    }

    static async Task<bool> IsWelcomeAsync(Guid session, SessionStore sessions, AccessStore access, CancellationToken ct)
    {
        try
        {
            return await sessions.FindAsync(session, origin: "", ct) is { } found && access.May(new Viewer(found.Role), Right.Change, new TheWorkroom());
        }
        catch (NpgsqlException)
        {
            // The database is away, and with it all news: the line waits for both.
            return true;
        }
    }
}
