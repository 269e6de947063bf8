using Jovitar.Core;
using Jovitar.Server.Access;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;
using Npgsql;

namespace Jovitar.Server.Desk;

/// <summary>The figures at the ends of the contents' lines.</summary>
/// <param name="Waiting">Photos whose sheet rendition is still to be made.</param>
/// <param name="Larger">Photos whose larger renditions are still to be made.</param>
internal sealed record Figures(int Photos, int Waiting, int Larger, int Failed, int Albums, int Pages, int Published, int AlbumsNowhere, int PhotosWithoutTitle, int PhotosWithoutAlt, int PhotosInNoAlbum, long Bytes);

internal sealed record FailedPhoto(PhotoId Id, string FileName, string Reason);

internal sealed record AlbumNowhere(AlbumId Id, string WorkingName, int Photos, bool HasDraft);

/// <summary>What waits, what runs, how much there is.</summary>
internal sealed record DeskState(Figures Figures, IReadOnlyList<FailedPhoto> Failed, IReadOnlyList<AlbumNowhere> Nowhere);

/// <summary>What the first screen and the contents show.</summary>
internal sealed class DeskStore(NpgsqlDataSource db)
{
    const int MostListed = 50;

    public async Task<Figures> FiguresAsync(CancellationToken ct)
    {
        await using var command = db.CreateCommand(
            """
            select (select count(*) from photo),
                   (select count(*) from photo where stage < 2 and state <> 'failed' and stage = 0), (select count(*) from photo where stage < 2 and state <> 'failed' and stage = 1),
                   (select count(*) from photo where state = 'failed'),
                   (select count(*) from album), (select count(*) from page), (select count(*) from page where published is not null),
                   (select count(*) from album as a where not exists (select from page as pg where pg.album = a.id and pg.published is not null)),
                   (select count(*) from photo where title = ''), (select count(*) from photo where alt = ''),
                   (select count(*) from photo as p where not exists (select from album_photo as ap where ap.photo = p.id)),
                   (select coalesce(sum(bytes), 0)::bigint from photo)
            """);
        return (await command.FirstAsync(
            r => new Figures((int)r.GetInt64(0), (int)r.GetInt64(1), (int)r.GetInt64(2), (int)r.GetInt64(3), (int)r.GetInt64(4), (int)r.GetInt64(5), (int)r.GetInt64(6),
                (int)r.GetInt64(7), (int)r.GetInt64(8), (int)r.GetInt64(9), (int)r.GetInt64(10), r.GetInt64(11)), ct))!;
    }

    public async Task<DeskState> StateAsync(CancellationToken ct)
    {
        await using var failed = db.Command("select id, file_name, failure from photo where state = 'failed' order by arrived desc limit @most", ("most", MostListed));
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
            await failed.AllAsync(r => new FailedPhoto(new PhotoId(r.GetGuid(0)), r.GetString(1), r.GetString(2)), ct),
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
    }
}
