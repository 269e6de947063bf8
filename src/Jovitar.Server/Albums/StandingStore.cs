using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Pages;
using Jovitar.Core.Photos;
using Jovitar.Core.Taxonomy;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Jovitar.Server.Taxonomy;
using Npgsql;

namespace Jovitar.Server.Albums;

/// <summary>A category that an album stands in.</summary>
/// <param name="PutFirst">It stands there ahead of the others.</param>
public sealed record AlbumPlace(CategoryId Category, bool PutFirst = false);

/// <summary>Where an album stands, and what visitors come to by its cover.</summary>
/// <param name="Address">The last part of its own page's address, behind <c>/album/</c>.</param>
/// <param name="Dated">A date of its own; null goes by the day it was made.</param>
/// <param name="Shown">In view; out of view no visitor sees it anywhere.</param>
/// <param name="PutFirst">Ahead of the others in every index.</param>
/// <param name="Opens">What its cover opens: its own id for its own page, a page's; null for the page that was made for it, else its own.</param>
/// <param name="ByLot">Every visit finds its photos in another order, on its own page and wherever they stand in the album's order.</param>
/// <param name="Comments">Visitors may comment on its photos.</param>
/// <param name="Ratings">Visitors may rate its photos.</param>
/// <param name="TalkKnown">Those alone whom the site knows: members, and who came by an entry link or a passcode.</param>
/// <param name="Tags">By name.</param>
public sealed record AlbumStanding(
    [Words(PageAddress.Longest * 2)] string Address, DateOnly? Dated, bool Shown, bool PutFirst, Guid? Opens, bool ByLot, bool Comments, bool Ratings, bool TalkKnown,
    [AtMost(AlbumStanding.Most)] IReadOnlyList<AlbumPlace> Categories, [AtMost(AlbumStanding.Most)] IReadOnlyList<string> Tags)
{
    /// <summary>Most categories, and most tags, of one album.</summary>
    public const int Most = 200;
}

/// <summary>Where albums stand: in which categories, at which address, in view or out of it.</summary>
internal sealed class StandingStore(ActRunner acts)
{
    /// <summary>The columns of an album called <c>a</c> that <see cref="Read"/> reads.</summary>
    public const string Columns =
        """
        a.address, a.dated, a.shown, a.put_first, a.opens, a.by_lot, a.has_comments, a.has_ratings, a.talk_known,
               array(select ac.category from album_category as ac where ac.album = a.id order by ac.category) as categories,
               array(select ac.put_first from album_category as ac where ac.album = a.id order by ac.category) as firsts,
               array(select t.name from album_tag as at join tag as t on t.id = at.tag where at.album = a.id order by t.key) as tags
        """;

    public static AlbumStanding Read(NpgsqlDataReader r) => new(
        r.Get<string>("address"), r.Maybe<DateOnly>("dated"), r.Get<bool>("shown"), r.Get<bool>("put_first"), r.MaybeId("opens"), r.Get<bool>("by_lot"), r.Get<bool>("has_comments"), r.Get<bool>("has_ratings"), r.Get<bool>("talk_known"),
        [.. r.Get<Guid[]>("categories").Zip(r.Get<bool[]>("firsts"), (category, first) => new AlbumPlace(new CategoryId(category), first))], r.Get<string[]>("tags"));

    /// <summary>An album's address made from its title, or as long as it has none from its working name.</summary>
    public static string Wish(string title, string workingName) => PageAddress.From(title.Trim().Length > 0 ? title : workingName).Value;

    /// <summary>Says where an album stands.</summary>
    /// <returns>Besides the outcome: the sentence that says what is wrong with the address, where that is so.</returns>
    public async Task<(AlbumOutcome Outcome, string? Fault, Done Done)> SayAsync(Actor who, AlbumId id, AlbumStanding standing, long expected, CancellationToken ct)
    {
        if (!PageAddress.TryParse(standing.Address, out var address, out var fault))
        {
            return (AlbumOutcome.Written, fault, Done.Nothing);
        }

        var names = TagName.All(standing.Tags);
        var places = standing.Categories.DistinctBy(c => c.Category).ToArray();
        var ((outcome, wrong), done) = await acts.RunAsync<(AlbumOutcome, string?)>(
            who, ActKind.Standing,
            async act =>
            {
                var tags = await TagStore.MakeSureAsync(act, names, ct);
                await act.HoldAsync("category", places.Select(p => p.Category).Values(), ct);
                var (taken, name) = await AlbumStore.TakeAsync(act, id, expected, ct);
                if (taken != AlbumOutcome.Written)
                {
                    return act.Drop<(AlbumOutcome, string?)>((taken, null));
                }

                if (await Addresses.IsTakenAsync(act, "album", address.Value, id.Value, ct))
                {
                    return act.Drop<(AlbumOutcome, string?)>((AlbumOutcome.Written, $"Another album has the address “{address}”."));
                }

                await using var read = act.Command($"select {Columns} from album as a where a.id = @id", ("id", id.Value));
                var before = (await read.FirstAsync(Read, ct))!;
                await act.RunAsync(
                    """
                    update album
                       set address = @address, address_said = address_said or address <> @address, dated = @dated::date, shown = @shown,
                           put_first = @first, opens = @opens::uuid, by_lot = @lot, has_comments = @comments,
                           has_ratings = @ratings, talk_known = @known, version = version + 1
                     where id = @id
                    """,
                    ct, ("id", id.Value), ("address", address.Value), ("dated", standing.Dated), ("shown", standing.Shown), ("first", standing.PutFirst), ("opens", standing.Opens), ("lot", standing.ByLot),
                    ("comments", standing.Comments), ("ratings", standing.Ratings), ("known", standing.TalkKnown));
                await PlacesAsync(act, id, places, ct);
                await TagsAsync(act, id, tags, ct);
                act.Says = await SaysAsync(act, name, before, standing with { Categories = places }, ct);
                return (AlbumOutcome.Written, null);
            },
            ct);
        return (outcome, wrong, done);
    }

    static async Task PlacesAsync(Act act, AlbumId id, IReadOnlyList<AlbumPlace> places, CancellationToken ct)
    {
        (string, object?)[] parameters =
            [("id", id.Value), ("categories", places.Select(p => p.Category).Values()), ("firsts", places.Select(p => p.PutFirst).ToArray()), ("said", Said.Person)];
        await act.RunAsync("delete from album_category where album = @id and category <> all(@categories)", ct, parameters);
        await act.RunAsync(
            """
            insert into album_category (album, category, put_first, said_by)
            select @id, c.id, w.put_first, @said
              from unnest(@categories, @firsts) as w(category, put_first)
              join category as c on c.id = w.category and c.binned is null
            on conflict (album, category) do update set put_first = excluded.put_first where album_category.put_first <> excluded.put_first
            """,
            ct, parameters);
    }

    static async Task TagsAsync(Act act, AlbumId id, IReadOnlyList<TagId> tags, CancellationToken ct)
    {
        (string, object?)[] parameters = [("id", id.Value), ("tags", tags.Values()), ("said", Said.Person)];
        await act.RunAsync("delete from album_tag where album = @id and tag <> all(@tags)", ct, parameters);
        await act.RunAsync("insert into album_tag (album, tag, said_by) select @id, t, @said from unnest(@tags) as t on conflict do nothing", ct, parameters);
    }

    /// <summary>What was said, as far as it differs from before: in view or not before all else, then where it came to stand.</summary>
    static async Task<Func<ActTally, string>> SaysAsync(Act act, string name, AlbumStanding before, AlbumStanding now, CancellationToken ct)
    {
        var (was, stands) = (before.Categories.Select(c => c.Category).ToHashSet(), now.Categories.Select(c => c.Category).ToHashSet());
        await using var read = act.Command("select id, name from category where id = any(@ids) order by place", ("ids", was.Union(stands).Values()));
        var names = await read.AllAsync(r => (Id: new CategoryId(r.Get<Guid>("id")), Name: r.Get<string>("name")), ct);
        string[] into = [.. names.Where(n => stands.Contains(n.Id) && !was.Contains(n.Id)).Select(n => n.Name)];
        string[] outOf = [.. names.Where(n => was.Contains(n.Id) && !stands.Contains(n.Id)).Select(n => n.Name)];
        var talk = (before.Comments, before.Ratings, before.TalkKnown) == (now.Comments, now.Ratings, now.TalkKnown) ? null : Core.Acts.CommentWords.Album(name, now.Comments, now.Ratings, now.TalkKnown);
        return _ => before.Shown == now.Shown && talk is not null ? talk : Core.Acts.ActWords.Standing(name, before.Shown == now.Shown ? null : now.Shown, into, outOf);
    }
}
