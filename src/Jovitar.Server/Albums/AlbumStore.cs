using System.ComponentModel.DataAnnotations;
using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Acts;
using Jovitar.Core.Albums;
using Jovitar.Core.Narrowings;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Acts;
using Jovitar.Server.Narrowings;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Albums;

/// <summary>The picture an album is known by: the chosen one, else the highest rated, the first of them; where none is rated, its first.</summary>
/// <param name="Shown">It can be shown already.</param>
internal sealed record Cover(string Picture, int Width, int Height, bool Shown);

/// <summary>An album as it is listed.</summary>
/// <param name="Without">So many photos are held out of it that its rule might find.</param>
/// <param name="Held">Its photos that no visitor sees for want of clearance; null where there are none.</param>
internal sealed record AlbumLine(
    AlbumId Id, string WorkingName, string Title, string Description, int Photos, Cover? Cover, PageId? Page, AudienceLine Audience, PhotoId? ChosenCover, AlbumFilling Filling, int Without,
    AlbumStanding Standing, HeldPhotos? Held, long Version);

/// <summary>How an album keeps itself.</summary>
/// <param name="Search">What the address of a sheet says that shows what fills it; empty for all photos, null for an album picked by hand.</param>
/// <param name="Most">So many its rule may find.</param>
/// <param name="Sort">What its photos are kept in the order of; place is made by hand.</param>
public sealed record AlbumFilling(
    [Words(NarrowingEndpoints.LongestSearch)] string? Search, [Range(1, Filling.Largest)] int Most, SheetSort Sort, bool Reversed = false);

/// <summary>New words or a new cover for an album; what is null stays. An empty <c>Cover</c> id returns to the first photo.</summary>
public sealed record AlbumChange(
    [Words(AlbumWords.LongestName)] string? WorkingName = null, [Words(AlbumWords.LongestTitle)] string? Title = null, [Words(AlbumWords.LongestText)] string? Description = null, PhotoId? Cover = null);

/// <summary>How long the words of an album may be, UTF-16 code units.</summary>
internal static class AlbumWords
{
    public const int LongestName = 160;
    public const int LongestTitle = 300;
    public const int LongestText = 10_000;
}

/// <summary>How a write to an album ended.</summary>
internal enum AlbumOutcome
{
    Written,
    Gone,
    Stale,

    /// <summary>Its photos are kept in an order; nobody moves them by hand.</summary>
    KeptInOrder,
}

/// <summary>Albums, their words and their covers.</summary>
internal sealed class AlbumStore(NpgsqlDataSource db, ActRunner acts, AccessStore access, SightStore sights, IndexKeeper keeper)
{
    /// <summary>Of so many photos of an album that are rated alike, the first in its order is found.</summary>
    const int MostAlike = 500;

    /// <summary>Albums by their working names.</summary>
    /// <param name="only">These alone; null for all there are.</param>
    public async Task<IReadOnlyList<AlbumLine>> ListAsync(IReadOnlyCollection<AlbumId>? only, CancellationToken ct)
    {
        var (site, everyone) = (await access.SiteAsync(ct), await sights.EveryoneAsync(ct));
        var wanted = only?.Select(a => a.Value).ToArray();
        var index = await keeper.CurrentAsync(ct);
        var shown = new Narrowing("", ForVisitors.Shown(site.ClearanceNeeded));
        Narrowing HeldOf(Guid album) => HeldPhotos.Among(new NarrowingPart(PartKind.Album, false, [album.ToString()]), site.ClearanceNeeded);
        // Of few albums each is counted, of all of them all at once.
        var held = wanted is null ? index.Holding(PartKind.Album, new Narrowing("", [ForVisitors.Held(site.ClearanceNeeded)])) : wanted.Distinct().ToDictionary(a => a, a => index.Count(HeldOf(a)));
        var rated = index.HighestRated(PartKind.Album, MostAlike, shown, wanted?.ToHashSet()).SelectMany(r => r.Value.Select(p => (Album: r.Key, Photo: p))).ToArray();
        await using var command = db.Command(
            $"""
            with rated as (
              select distinct on (ap.album) ap.album, ap.photo
                from unnest(@of, @rated) as r(album, photo)
                join album_photo as ap on ap.album = r.album and ap.photo = r.photo
               order by ap.album, ap.place, ap.photo)
            select a.id, a.working_name, a.title, a.description, a.cover, a.version, a.rule, a.most, a.sort, a.reversed,
                   (select count(*) from album_without as o where o.album = a.id) as without,
                   (select count(*) from album_photo as ap where ap.album = a.id) as photos,
                   c.picture, c.width, c.height, c.stage,
                   (select pg.id from page as pg where pg.album = a.id and pg.binned is null order by pg.made limit 1) as page,
                   {StandingStore.Columns}, {AccessStore.AlbumGates("a")} as gates, {AccessStore.AlbumWays("a")} as ways,
                   {AccessStore.ByLink("a")}, pages.*
              from album as a
             cross join lateral (
               {AccessStore.ShownOnOfAlbums} and oa.id = a.id) as pages
              left join rated on rated.album = a.id
              left join lateral (
                select p.picture, p.width, p.height, p.stage
                  from photo as p
                 where p.id = coalesce(a.cover, rated.photo,
                   (select ap.photo from album_photo as ap where ap.album = a.id order by ap.place, ap.photo limit 1))) as c on true
             where a.binned is null and (@only::uuid[] is null or a.id = any(@only::uuid[]))
             order by lower(a.working_name), a.id
            """,
            ("only", wanted), ("shut", everyone.Shut), ("of", rated.Select(r => r.Album).ToArray()), ("rated", rated.Select(r => r.Photo).ToArray()));
        return await command.AllAsync(
            r => new AlbumLine(
                new AlbumId(r.Get<Guid>("id")), r.Get<string>("working_name"), r.Get<string>("title"), r.Get<string>("description"), (int)r.Get<long>("photos"),
                r.MaybeText("picture") is { } picture ? new Cover(picture, r.Get<int>("width"), r.Get<int>("height"), r.Get<short>("stage") > 0) : null,
                r.MaybeId("page") is { } page ? new PageId(page) : null,
                AudienceLine.Of(
                    new AlbumThing(Binned: false, AccessStore.On(r), held.GetValueOrDefault(r.Get<Guid>("id"))) { Gates = everyone.Gates.Of(r.Get<Guid[]>("gates")), ByLinkAlone = r.Get<bool>("by_link") }, site, access.Now,
                    [.. everyone.Gates.Of([.. r.Get<Guid[]>("ways").Intersect(everyone.Shut)])]),
                r.MaybeId("cover") is { } cover ? new PhotoId(cover) : null,
                FillingStore.Line(FillingStore.Read(r)), (int)r.Get<long>("without"), StandingStore.Read(r),
                HeldPhotos.Of(HeldOf(r.Get<Guid>("id")), held.GetValueOrDefault(r.Get<Guid>("id"))), r.Get<long>("version")),
            ct);
    }

    public async Task<AlbumLine?> FindAsync(AlbumId id, CancellationToken ct) => await ListAsync([id], ct) is [var line] ? line : null;

    public async Task<AlbumId> MakeAsync(Actor who, string workingName, string title, string description, CancellationToken ct) =>
        (await MakeAsync(who, workingName, title, description, null, ct)).Made!.Value;

    /// <summary>Makes an album.</summary>
    /// <param name="filling">How it keeps itself; null for one picked by hand.</param>
    /// <returns>Null, and why, where it cannot be filled so.</returns>
    public async Task<(AlbumId? Made, string? Fault)> MakeAsync(Actor who, string workingName, string title, string description, Filling? filling, CancellationToken ct) => (await acts.RunAsync<(AlbumId?, string?)>(
        who, ActKind.MadeAlbum,
        async act =>
        {
            act.Says = _ => $"Made album “{workingName.Trim()}”.";
            var id = await MakeAsync(act, workingName, title, description, ct);
            if (filling is not null)
            {
                if (filling.Rule is { } rule && await FillingStore.FaultAsync(act, id, rule, ct) is { } fault)
                {
                    return act.Drop<(AlbumId?, string?)>((null, fault));
                }

                await FillingStore.WriteAsync(act, id, filling, ct);
            }

            return (id, null);
        },
        ct)).Answer;

    /// <summary>Makes one within another act.</summary>
    public static async Task<AlbumId> MakeAsync(Act act, string workingName, string title, string description, CancellationToken ct)
    {
        var id = new AlbumId(Guid.CreateVersion7(act.Now));
        await act.RunAsync(
            "insert into album (id, working_name, title, description, address, made) values (@id, @name, @title, @description, @address, @now)", ct,
            ("id", id.Value), ("name", workingName.Trim()), ("title", title.Trim()), ("description", description.Trim()),
            ("address", await Addresses.FreeAsync(act, "album", StandingStore.Wish(title, workingName), id.Value, ct)), ("now", act.Now));
        return id;
    }

    /// <summary>The album of this working name, whatever its case; made when there is none. Two who ask at once get the same.</summary>
    public async Task<AlbumId> NamedAsync(Actor who, string workingName, CancellationToken ct)
    {
        var (id, _) = await acts.RunAsync(
            who, ActKind.MadeAlbum,
            async act =>
            {
                act.Says = _ => $"Made album “{workingName.Trim()}”.";
                await act.RunAsync("lock table album in share row exclusive mode", ct);
                await using var find = act.Command(
                    "select id from album where lower(working_name) = lower(@name) and binned is null order by made limit 1", ("name", workingName.Trim()));
                return await find.ExecuteScalarAsync(ct) is Guid found ? new AlbumId(found) : await MakeAsync(act, workingName, "", "", ct);
            },
            ct);
        return id;
    }

    public async Task<(AlbumOutcome Outcome, Done Done)> ChangeAsync(Actor who, AlbumId id, AlbumChange change, long expected, CancellationToken ct) =>
        await acts.RunAsync(
            who, ActKind.AlbumWords,
            async act =>
            {
                if (await TakeAsync(act, id, expected, ct) is not (AlbumOutcome.Written, var name))
                {
                    return act.Drop(await ThereAsync(act, id, ct) ? AlbumOutcome.Stale : AlbumOutcome.Gone);
                }

                act.GoesOn = id.Value;
                act.Says = tally => Core.Acts.ActWords.AlbumWords(name, tally);
                await act.LockAsync("photo", change.Cover is { } cover ? [cover.Value] : [], ct);
                await act.RunAsync(
                    """
                    update album
                       set working_name = coalesce(@name::text, working_name),
                           title = coalesce(@title::text, title),
                           description = coalesce(@description::text, description),
                           cover = case
                             when @cover::uuid is null then cover
                             when @cover::uuid = @none then null
                             else coalesce((select p.id from photo as p where p.id = @cover::uuid and p.binned is null), cover) end,
                           version = version + 1
                     where id = @id
                    """,
                    ct, ("id", id.Value), ("name", change.WorkingName?.Trim()), ("title", change.Title?.Trim()), ("description", change.Description?.Trim()), ("cover", change.Cover?.Value), ("none", Guid.Empty));
                await ReaddressAsync(act, id, ct);
                return AlbumOutcome.Written;
            },
            ct);

    /// <summary>An address that nobody has said and no visitor knows goes by the words of today.</summary>
    static async Task ReaddressAsync(Act act, AlbumId id, CancellationToken ct)
    {
        await using var read = act.Command(
            $"select title, working_name, address from album as t where id = @id and not address_said and not ({Addresses.IsKnown("album")})", ("id", id.Value));
        if (await read.FirstAsync(r => Tuple.Create(StandingStore.Wish(r.Get<string>("title"), r.Get<string>("working_name")), r.Get<string>("address")), ct) is var (wish, address)
            && address != wish && await Addresses.FreeAsync(act, "album", wish, id.Value, ct) is var free && free != address)
        {
            await act.RunAsync("update album set address = @free where id = @id", ct, ("id", id.Value), ("free", free));
        }
    }

    /// <summary>Throws an album in the bin with its pages; its photos stay.</summary>
    public async Task<Done?> RemoveAsync(Actor who, AlbumId id, CancellationToken ct)
    {
        var (there, done) = await acts.RunAsync(
            who, ActKind.Binned,
            async act =>
            {
                await using var mark = act.Command("update album set binned = @now, version = version + 1 where id = @id and binned is null returning working_name", ("id", id.Value), ("now", act.Now));
                if (await mark.ExecuteScalarAsync(ct) is not string name)
                {
                    return act.Drop(false);
                }

                act.Says = _ => Core.Acts.ActWords.Binned("album", name);
                return true;
            },
            ct);
        return there ? done : null;
    }

    /// <summary>Locks an album for a change, if it still is the version expected.</summary>
    public static async Task<(AlbumOutcome Outcome, string Name)> TakeAsync(Act act, AlbumId id, long? expected, CancellationToken ct)
    {
        await using var take = act.Command("select version, working_name from album where id = @id and binned is null for no key update", ("id", id.Value));
        return await take.FirstAsync(r => Tuple.Create(r.Get<long>("version"), r.Get<string>("working_name")), ct) is var (version, name)
            ? (expected is null || version == expected ? AlbumOutcome.Written : AlbumOutcome.Stale, name)
            : (AlbumOutcome.Gone, "");
    }

    static async Task<bool> ThereAsync(Act act, AlbumId id, CancellationToken ct)
    {
        await using var find = act.Command("select exists (select from album where id = @id and binned is null)", ("id", id.Value));
        return (bool)(await find.ExecuteScalarAsync(ct))!;
    }
}
