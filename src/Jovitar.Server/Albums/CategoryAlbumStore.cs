using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Albums;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Albums;

/// <summary>An album as the index of a category lists it.</summary>
/// <param name="Within">The categories of this one and those beneath it that it stands in.</param>
/// <param name="PutFirst">It stands ahead of the others here.</param>
internal sealed record CategoryAlbum(AlbumId Id, string WorkingName, int Photos, string? Picture, bool PutFirst, IReadOnlyList<CategoryId> Within, AlbumStanding Standing, long Version);

/// <summary>The albums that stand in a category.</summary>
internal sealed class CategoryAlbumStore(NpgsqlDataSource db, ActRunner acts, AlbumStore albums)
{
    /// <summary>What the index of a category lists, in its order, also what visitors do not see.</summary>
    /// <returns>Null when the category is not there.</returns>
    public async Task<IReadOnlyList<CategoryAlbum>?> ListAsync(CategoryId id, CancellationToken ct)
    {
        await using var find = db.Command("select beneath, sort from category where id = @id and binned is null", ("id", id.Value));
        if (await find.FirstAsync(r => Tuple.Create(r.Get<bool>("beneath"), Enum.Parse<IndexSort>(r.Get<string>("sort"), ignoreCase: true)), ct) is not var (beneath, sort))
        {
            return null;
        }

        await using var command = db.Command(
            """
            with recursive within as (
              select @id as id
              union
              select c.id from category as c join within as w on c.parent = w.id where @beneath and c.binned is null)
            select ac.album, array_agg(ac.category) as within, min(ac.place) filter (where ac.category = @id) as place,
                   coalesce(bool_or(ac.put_first) filter (where ac.category = @id), false) as put_first, min(a.made)::date as made,
                   min(coalesce(nullif(a.title, ''), a.working_name)) as title
              from within as w
              join album_category as ac on ac.category = w.id
              join album as a on a.id = ac.album and a.binned is null
             group by ac.album
            """,
            ("id", id.Value), ("beneath", beneath));
        var standing = (await command.AllAsync(
            r => (
                Album: new AlbumId(r.Get<Guid>("album")), Title: r.Get<string>("title"), Made: r.Get<DateOnly>("made"), Place: r.Maybe<long>("place"), PutFirst: r.Get<bool>("put_first"),
                Within: (IReadOnlyList<CategoryId>)[.. r.Get<Guid[]>("within").Select(CategoryId.From)]),
            ct)).ToDictionary(s => s.Album);
        var lines = (await albums.ListAsync(standing.Keys, ct)).ToDictionary(a => a.Id);
        var order = AlbumIndex.Order(
            lines.Values.Select(a => (Line: a, Stands: standing[a.Id])).Select(a => new IndexEntry(
                a.Line.Id, a.Stands.Title, a.Line.Standing.Dated ?? a.Stands.Made, a.Stands.Place, a.Stands.PutFirst || a.Line.Standing.PutFirst)),
            sort);
        return
        [
            .. order.Select(e => lines[e.Album]).Select(a => new CategoryAlbum(
                a.Id, a.WorkingName, a.Photos, a.Cover is { Shown: true } cover ? cover.Picture : null, standing[a.Id].PutFirst, standing[a.Id].Within, a.Standing, a.Version)),
        ];
    }

    /// <summary>Places an album before another, or at the end, in a category whose albums stand as somebody has placed them. All that stand there have a place afterwards.</summary>
    public async Task<(AlbumOutcome Outcome, Done Done)> MoveAsync(Actor who, CategoryId category, AlbumId album, AlbumId? before, CancellationToken ct) => await acts.RunAsync(
        who, ActKind.Standing,
        async act =>
        {
            await act.HoldAsync("category", [category.Value], ct);
            await using var find = act.Command("select sort from category where id = @id and binned is null", ("id", category.Value));
            if (await find.ExecuteScalarAsync(ct) is not string sort)
            {
                return act.Drop(AlbumOutcome.Gone);
            }

            if (Enum.Parse<IndexSort>(sort, ignoreCase: true) != IndexSort.Hand)
            {
                return act.Drop(AlbumOutcome.KeptInOrder);
            }

            await act.RunAsync(
                """
                select from album
                 where id in (select album from album_category where category = @category)
                 order by id
                   for no key update
                """,
                ct, ("category", category.Value));
            await using var read = act.Command(
                """
                select a.id, a.working_name, coalesce(nullif(a.title, ''), a.working_name) as title, ac.place,
                       a.put_first or ac.put_first as put_first
                  from album_category as ac
                  join album as a on a.id = ac.album
                 where ac.category = @category
                """,
                ("category", category.Value));
            var all = await read.AllAsync(
                r => (Name: r.Get<string>("working_name"), Entry: new IndexEntry(new AlbumId(r.Get<Guid>("id")), r.Get<string>("title"), default, r.Maybe<long>("place"), r.Get<bool>("put_first"))), ct);
            if (all.FirstOrDefault(a => a.Entry.Album == album).Name is not { } name)
            {
                return act.Drop(AlbumOutcome.Gone);
            }

            // By their places alone: those put first keep theirs for when they stand as the others again.
            var order = AlbumIndex.Order(all.Select(a => a.Entry with { PutFirst = false }), IndexSort.Hand);
            var (ids, moved) = (order.Select(e => e.Album).ToArray(), new HashSet<AlbumId> { album });
            var wanted = before is { } at ? Ordering.MoveBefore(ids, moved, at) : Ordering.Move(ids, moved, int.MaxValue);
            var places = order.ToDictionary(e => e.Album, e => e.Place);
            var assigned = Places.Assign([.. wanted.Select(a => new Standing<AlbumId>(a, a == album ? null : places[a]))]);
            act.Says = _ => Core.Acts.ActWords.PlacedAlbum(name);
            await act.RunAsync(
                """
                update album_category as ac
                   set place = m.place
                  from unnest(@albums, @places) as m(album, place)
                 where ac.category = @category and ac.album = m.album
                """,
                ct,
                ("category", category.Value), ("albums", assigned.Select(m => m.Thing).Values()), ("places", assigned.Select(m => m.Place).ToArray()));
            return AlbumOutcome.Written;
        },
        ct);
}
