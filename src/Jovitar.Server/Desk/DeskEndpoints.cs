using Jovitar.Core;
using Jovitar.Core.Intake;
using Jovitar.Server.Access;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;
using Npgsql;

namespace Jovitar.Server.Desk;

/// <summary>The figures at the ends of the contents' lines.</summary>
/// <param name="Waiting">Photos whose sheet rendition is still to be made.</param>
/// <param name="Larger">Photos whose larger renditions are still to be made.</param>
/// <param name="Unpacking">Entries of ZIPs still to be unpacked.</param>
/// <param name="SecondsLeft">How long what waits will take at the pace of the last minute; null while there is nothing to judge by.</param>
/// <param name="Repeats">Photos that nearly repeat another and are not decided on.</param>
/// <param name="LeftOut">Photos left out everywhere.</param>
internal sealed record Figures(
    int Photos, int Waiting, int Larger, int Failed, int Albums, int Pages, int Published, int AlbumsNowhere, int PhotosWithoutTitle, int PhotosWithoutAlt, int PhotosInNoAlbum, long Bytes,
    int Files, int Unpacking, int? SecondsLeft, int Repeats, int Binned, int LeftOut);

/// <summary>Failed photos of one cause.</summary>
internal sealed record FailedPhotos(string Sentence, string Remedy, int Count, IReadOnlyList<PhotoId> Photos, IReadOnlyList<string> Names);

internal sealed record AlbumNowhere(AlbumId Id, string WorkingName, int Photos, bool HasDraft);

/// <summary>What waits, what runs, how much there is.</summary>
internal sealed record DeskState(Figures Figures, IReadOnlyList<FailedPhotos> Failed, IReadOnlyList<AlbumNowhere> Nowhere);

/// <summary>What the first screen and the contents show.</summary>
internal sealed class DeskStore(NpgsqlDataSource db, TimeProvider clock)
{
    const int MostListed = 50;
    const int MostRetried = 2000;
    const int MostNamed = 8;

    public async Task<Figures> FiguresAsync(CancellationToken ct)
    {
        await using var command = db.Command(
            """
            select (select count(*) from photo where state <> 'binned'),
                   (select count(*) from photo where stage < 2 and state <> 'failed' and state <> 'binned' and stage = 0), (select count(*) from photo where stage < 2 and state <> 'failed' and state <> 'binned' and stage = 1),
                   (select count(*) from photo where state = 'failed'),
                   (select count(*) from album), (select count(*) from page), (select count(*) from page where published is not null),
                   (select count(*) from album as a where not exists (select from page as pg where pg.album = a.id and pg.published is not null)),
                   (select count(*) from photo where title = '' and state <> 'binned'), (select count(*) from photo where alt = '' and state <> 'binned'),
                   (select count(*) from photo as p where state <> 'binned' and not exists (select from album_photo as ap where ap.photo = p.id)),
                   (select coalesce(sum(bytes), 0)::bigint from photo) + (select coalesce(sum(bytes), 0)::bigint from file),
                   (select count(*) from file), (select coalesce(sum(greatest(entries - done, 1)), 0) from unpacking where ended is null),
                   (select count(*) from photo where ready_at > @since), (select min(ready_at) from photo where ready_at > @since),
                   (select count(distinct photo) from photo_near where not settled), (select count(*) from bin), (select count(*) from photo where decision = 'leave_out')
            """,
            ("since", clock.GetUtcNow() - TimeLeft.Window));
        return (await command.FirstAsync(
            r =>
            {
                int Count(int column) => (int)r.GetInt64(column);
                var pace = r.Maybe<DateTimeOffset>(15) is { } first ? TimeLeft.Estimate(Count(1), Count(14), clock.GetUtcNow() - first) : null;
                return new Figures(
                    Count(0), Count(1), Count(2), Count(3), Count(4), Count(5), Count(6), Count(7), Count(8), Count(9), Count(10), r.GetInt64(11), Count(12), Count(13),
                    Count(1) == 0 ? 0 : pace is { } left ? (int)Math.Ceiling(left.TotalSeconds) : null, Count(16), Count(17), Count(18));
            },
            ct))!;
    }

    public async Task<DeskState> StateAsync(CancellationToken ct)
    {
        await using var failed = db.Command(
            """
            select coalesce(failure_cause, 'Unreadable'), min(failure), count(*), (array_agg(id order by arrived desc))[1:@most], (array_agg(file_name order by arrived desc))[1:@names]
              from photo where state = 'failed' group by 1 order by 3 desc, 1
            """,
            ("most", MostRetried), ("names", MostNamed));
        await using var nowhere = db.Command(
            """
            select a.id, a.working_name, (select count(*) from album_photo as ap where ap.album = a.id), exists (select from page as pg where pg.album = a.id)
              from album as a
             where not exists (select from page as pg where pg.album = a.id and pg.published is not null)
             order by lower(a.working_name), a.id limit @most
            """,
            ("most", MostListed));
        return new DeskState(
            await FiguresAsync(ct),
            await failed.AllAsync(
                r =>
                {
                    var remedy = Enum.TryParse<IntakeProblem>(r.GetString(0), out var problem) ? IntakeRefusal.Remedy(problem) : "";
                    var sentence = r.GetString(1);
                    return new FailedPhotos(
                        remedy.Length > 0 && sentence.EndsWith(remedy, StringComparison.Ordinal) ? sentence[..^remedy.Length].TrimEnd() : sentence, remedy, (int)r.GetInt64(2),
                        [.. r.GetFieldValue<Guid[]>(3).Select(g => new PhotoId(g))], r.GetFieldValue<string[]>(4));
                },
                ct),
            await nowhere.AllAsync(r => new AlbumNowhere(new AlbumId(r.GetGuid(0)), r.GetString(1), (int)r.GetInt64(2), r.GetBoolean(3)), ct));
    }
}

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
