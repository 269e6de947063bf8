using Jovitar.Core;
using Jovitar.Core.Narrowings;
using Jovitar.Core.Photos;
using Jovitar.Server.Narrowings;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Photos;

/// <summary>A photo as a frame of the sheet shows it.</summary>
/// <param name="Renditions">The widths that are made already; others are not worth asking for yet.</param>
internal sealed record SheetPhoto(
    PhotoId Id, string Picture, string FileName, string Title, int Width, int Height, string State, string? Failure, bool Preview, DateTime? Taken, int Rating, string Decision, IReadOnlyList<int> Renditions);

/// <summary>One window of a sheet.</summary>
/// <param name="Total">How many photos the whole sheet has.</param>
/// <param name="Step">So many photos a window; the next begins so much later.</param>
internal sealed record SheetWindow(int Total, int Step, IReadOnlyList<SheetPhoto> Photos);

/// <summary>A photo's neighbours in a sheet.</summary>
/// <param name="Position">Its place, 1 = first.</param>
internal sealed record SheetNeighbours(PhotoId? Before, PhotoId? After, int Position, int Total);

/// <summary>Windows of the sheet: the index finds which photos, the database gives their rows by key.</summary>
internal sealed class SheetStore(NpgsqlDataSource db, IndexKeeper keeper)
{
    /// <summary>Photos a window.</summary>
    public const int Step = 120;

    const string Columns = "p.id, p.picture, p.file_name, p.title, p.width, p.height, p.state, p.failure, p.preview, p.taken, p.rating, p.decision, p.stage";

    static SheetPhoto Read(NpgsqlDataReader r) => new(
        new PhotoId(r.Get<Guid>("id")), r.Get<string>("picture"), r.Get<string>("file_name"), r.Get<string>("title"), r.Get<int>("width"), r.Get<int>("height"), r.Get<string>("state"), r.MaybeText("failure"),
        r.Get<bool>("preview"), r.Maybe<DateTime>("taken"), r.Get<short>("rating"), r.Get<string>("decision"), Renditions.There(r.Get<short>("stage"), r.Get<int>("width")));

    /// <summary>The window that begins at a place, 0 = first.</summary>
    public async Task<SheetWindow> WindowAsync(SheetQuery query, int at, CancellationToken ct)
    {
        var index = await keeper.CurrentAsync(ct);
        var found = index.Window(query.Narrowing(), query.SortedBy(), query.Down(), at, Step, await ByHandAsync(query, ct));
        return new SheetWindow(found.Total, Step, await TheseAsync([.. found.Photos.Select(PhotoId.From)], ct));
    }

    /// <summary>How many photos a sheet has, without reading any.</summary>
    public async Task<int> TotalAsync(SheetQuery query, CancellationToken ct) => (await keeper.CurrentAsync(ct)).Count(query.Narrowing());

    /// <summary>The first photos of a sheet.</summary>
    public async Task<IReadOnlyList<PhotoId>> FoundAsync(SheetQuery query, int most, CancellationToken ct)
    {
        var index = await keeper.CurrentAsync(ct);
        return [.. index.Window(query.Narrowing(), query.SortedBy(), query.Down(), 0, most, await ByHandAsync(query, ct)).Photos.Select(PhotoId.From)];
    }

    /// <summary>The photos from one to another in a sheet, both counted in, however they are named.</summary>
    public async Task<IReadOnlyList<PhotoId>> BetweenAsync(SheetQuery query, PhotoId one, PhotoId other, int most, CancellationToken ct)
    {
        var index = await keeper.CurrentAsync(ct);
        return [.. index.Between(query.Narrowing(), query.SortedBy(), query.Down(), one.Value, other.Value, most, await ByHandAsync(query, ct)).Select(PhotoId.From)];
    }

    public async Task<SheetNeighbours?> NeighboursAsync(SheetQuery query, PhotoId photo, CancellationToken ct)
    {
        var index = await keeper.CurrentAsync(ct);
        static PhotoId? Maybe(Guid? id) => id is { } there ? new PhotoId(there) : null;
        return index.Stands(query.Narrowing(), query.SortedBy(), query.Down(), photo.Value, await ByHandAsync(query, ct)) is { } at ? new SheetNeighbours(Maybe(at.Before), Maybe(at.After), at.Position, at.Total) : null;
    }

    /// <summary>Photos by name, in the order asked for; those that are gone are left out.</summary>
    public async Task<IReadOnlyList<SheetPhoto>> TheseAsync(IReadOnlyList<PhotoId> photos, CancellationToken ct)
    {
        await using var command = db.Command(
                $"""
                select {Columns}
                  from unnest(@ids) with ordinality as wanted(id, n)
                  join photo as p on p.id = wanted.id
                 where p.binned is null
                 order by wanted.n
                """,
            ("ids", photos.Select(p => p.Value).ToArray()));
        return await command.AllAsync(Read, ct);
    }

    /// <summary>The order made by hand in the album that is shown; null when the sheet has another order.</summary>
    async Task<IReadOnlyList<Guid>?> ByHandAsync(SheetQuery query, CancellationToken ct)
    {
        if (query.SortedBy() != SheetSort.Place || query.ByHand() is not { } album)
        {
            return null;
        }

        await using var command = db.Command("select photo from album_photo where album = @album order by place, photo", ("album", album.Value));
        return await command.AllAsync(r => r.GetGuid(0), ct);
    }
}
