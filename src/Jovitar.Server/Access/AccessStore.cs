using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Corrections;
using Jovitar.Core.Photos;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Access;

/// <summary>A photo as a picture of its original.</summary>
/// <param name="Original">Its size, upright, pixels.</param>
internal sealed record PictureThing(PhotoThing Thing, Correction Correction, PixelSize Original);

/// <summary>Loads what the decision who may see depends on: the one place where it is read.</summary>
internal sealed class AccessStore(NpgsqlDataSource db, TimeProvider clock)
{
    /// <summary>The columns a photo's part of the decision rests on, of a photo called <c>p</c>; read by <see cref="Photo"/>.</summary>
    public const string PhotoColumns = "p.state, p.decision, p.binned is not null as is_binned";

    /// <summary>On how many pages albums stand, visitors' and drafts; joined behind whatever is called <c>album_id</c>.</summary>
    public const string PagesOfAlbums =
        """
        select count(*) filter (where pg.published is not null) as published_pages,
               count(*) filter (where pg.published is null) as drafts
          from page as pg
         where pg.binned is null
        """;

    public DateTimeOffset Now => clock.GetUtcNow();

    /// <summary>Reads a photo's part from a row with <see cref="PhotoColumns"/>.</summary>
    public static PhotoThing Photo(NpgsqlDataReader r, int publishedPages, int drafts) =>
        new(State(r.Get<string>("state")), r.Get<string>("decision") == Decisions.LeaveOut, r.Get<bool>("is_binned"), publishedPages, drafts);

    static PhotoState State(string state) => state switch
    {
        "ready" => PhotoState.Ready,
        "failed" => PhotoState.Failed,
        _ => PhotoState.Waiting,
    };

    /// <summary>The photos that are made from an original: one, or of a scan the whole and each print on it.</summary>
    public async Task<IReadOnlyList<PictureThing>> PicturesAsync(byte[] hash, CancellationToken ct)
    {
        await using var command = db.Command(PhotoSql("p.hash = @hash"), ("hash", hash));
        return await command.AllAsync(
            r => new PictureThing(
                Photo(r, (int)r.Get<long>("published_pages"), (int)r.Get<long>("drafts")), CorrectionText.Read(r.MaybeText("correction")), new PixelSize(r.Get<int>("own_width"), r.Get<int>("own_height"))),
            ct);
    }

    /// <summary>A photo; null when there is none.</summary>
    public async Task<PhotoThing?> PhotoAsync(PhotoId photo, CancellationToken ct)
    {
        await using var command = db.Command(PhotoSql("p.id = @photo"), ("photo", photo.Value));
        return await command.FirstAsync(r => Photo(r, (int)r.Get<long>("published_pages"), (int)r.Get<long>("drafts")), ct);
    }

    static string PhotoSql(string which) =>
        $"""
        select {PhotoColumns}, p.correction::text as correction, p.own_width, p.own_height, pages.*
          from photo as p
         cross join lateral (
           {PagesOfAlbums} and pg.album in (select ap.album from album_photo as ap where ap.photo = p.id)) as pages
         where {which}
        """;

    /// <summary>A file; null when there is none.</summary>
    public async Task<FileThing?> FileAsync(FileId file, CancellationToken ct)
    {
        await using var command = db.Command("select binned is not null as is_binned from file where id = @file", ("file", file.Value));
        return await command.FirstAsync(r => new FileThing(r.Get<bool>("is_binned")), ct);
    }

    /// <summary>Decides for a viewer, now.</summary>
    public bool May(Viewer viewer, Right right, Thing thing) => Core.Access.Access.Decide(viewer, right, thing, Now).Allowed;
}
