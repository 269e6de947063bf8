using Jovitar.Core.Access;
using Jovitar.Core.Acts;
using Jovitar.Core.Watermarks;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Watermarks;

/// <summary>Of what it is said who gets its photos without the watermark.</summary>
/// <param name="Kind">"album" or "category"; "site" for all there is.</param>
internal sealed record MarkingOf(string Kind, Guid Thing);

/// <summary>Who gets the photos of a thing without the watermark, as it is said of the thing itself.</summary>
/// <param name="Called">The groups and members who do, where it is some.</param>
internal sealed record OwnMarking(string Kind, Guid Thing, string Name, Whom Marking, IReadOnlyList<Chosen> Called);

/// <summary>How a change of who is spared ended.</summary>
internal enum MarkingOutcome
{
    Written,
    Gone,
    Stale,
}

/// <summary>Says who of the visitors gets photos without the watermark.</summary>
internal sealed class MarkingStore(NpgsqlDataSource db, ActRunner acts)
{
    /// <summary>What it is said of: the table, and where its name is.</summary>
    static readonly Dictionary<string, (string Name, string Is)> Kinds = new(StringComparer.Ordinal)
    {
        ["album"] = ("working_name", "id = @id and binned is null"),
        ["category"] = ("name", "id = @id and binned is null"),
        ["site"] = ("''", "@id = '00000000-0000-0000-0000-000000000000'"),
    };

    public static bool IsKind(string kind) => Kinds.ContainsKey(kind);

    static string TableOf(string kind) => kind == "site" ? "watermark" : Kinds.ContainsKey(kind) ? kind : throw new ArgumentOutOfRangeException(nameof(kind));

    static Whom Read(NpgsqlDataReader r) => new(Enum.Parse<ForWhom>(r.Get<string>("unmarked"))) { Chosen = r.Get<Guid[]>("unmarked_for") };

    static string Sql(string kind) => $"select {Kinds[kind].Name} as name, unmarked, unmarked_for from {TableOf(kind)} where {Kinds[kind].Is}";

    /// <returns>Null when it is not there.</returns>
    public async Task<OwnMarking?> FindAsync(MarkingOf of, CancellationToken ct)
    {
        await using var command = db.Command(Sql(of.Kind), ("id", of.Thing));
        return await command.FirstAsync(r => Tuple.Create(r.Get<string>("name"), Read(r)), ct) is var (name, marking)
            ? new OwnMarking(of.Kind, of.Thing, name, marking, await CalledAsync(marking.Chosen, ct))
            : null;
    }

    /// <summary>So many things that say so are listed at most.</summary>
    const int MostListed = 200;

    /// <summary>Those that say so, the site first, and how many there are.</summary>
    public async Task<(IReadOnlyList<OwnMarking> Listed, int All)> ListAsync(CancellationToken ct)
    {
        await using var command = db.Command(
            """
            with said as (
              select 'site' as kind, @site as id, '' as name, unmarked, unmarked_for, 0 as place from watermark
              union all
              select 'category', id, name, unmarked, unmarked_for, 1
                from category
               where unmarked <> 'Everyone' and binned is null
              union all
              select 'album', id, working_name, unmarked, unmarked_for, 2
                from album
               where unmarked <> 'Everyone' and binned is null)
            select *, count(*) over ()::int as all from said order by place, name, id limit @most
            """,
            ("site", Mark.Site), ("most", MostListed));
        var found = await command.AllAsync(r => (Kind: r.Get<string>("kind"), Id: r.Get<Guid>("id"), Name: r.Get<string>("name"), Marking: Read(r), All: r.Get<int>("all")), ct);
        var called = (await CalledAsync([.. found.SelectMany(m => m.Marking.Chosen).Distinct()], ct)).ToDictionary(c => c.Id);
        return ([.. found.Select(m => new OwnMarking(m.Kind, m.Id, m.Name, m.Marking, [.. m.Marking.Chosen.Select(called.GetValueOrDefault).OfType<Chosen>()]))], found[0].All);
    }

    async Task<IReadOnlyList<Chosen>> CalledAsync(IReadOnlyCollection<Guid> ids, CancellationToken ct)
    {
        if (ids.Count == 0)
        {
            return [];
        }

        await using var command = db.Command(AudienceStore.ChosenOf, ("ids", ids.ToArray()));
        return await command.AllAsync(AudienceStore.ReadChosen, ct);
    }

    /// <summary>Says it; visitors have it at once.</summary>
    /// <param name="was">What it was when it was looked at: who said something else since is not overruled.</param>
    public async Task<(MarkingOutcome Outcome, Done Done)> SayAsync(Actor who, MarkingOf of, Whom marking, Whom was, CancellationToken ct) => await acts.RunAsync(
        who, ActKind.Watermark,
        async act =>
        {
            await using var find = act.Command($"{Sql(of.Kind)} for no key update", ("id", of.Thing));
            if (await find.FirstAsync(r => Tuple.Create(r.Get<string>("name"), Read(r)), ct) is not var (name, now))
            {
                return act.Drop(MarkingOutcome.Gone);
            }

            if (now != was.AsKept())
            {
                return act.Drop(MarkingOutcome.Stale);
            }

            var chosen = await AudienceStore.KeptChosenAsync(act, marking.AsKept().Chosen, ct);
            if (marking.Who == ForWhom.Chosen && chosen.Count == 0)
            {
                return act.Drop(MarkingOutcome.Stale);
            }

            act.Says = _ => MarkWords.Said(of.Kind, name, marking.Who, chosen);
            await act.RunAsync(
                $"update {TableOf(of.Kind)} set unmarked = @who, unmarked_for = @chosen where {Kinds[of.Kind].Is}",
                ct, ("who", marking.Who.ToString()), ("chosen", chosen.Select(c => c.Id).Order().ToArray()), ("id", of.Thing));
            return MarkingOutcome.Written;
        },
        ct);

    /// <summary>
    /// Has all pages drawn anew when the watermark is another or is on others, or when something of photos is reserved for others, by whatever
    /// act: what is said of one album or category is true of its photos wherever they stand.
    /// </summary>
    public static async Task FollowAsync(Act act, IReadOnlySet<string> kinds, CancellationToken ct)
    {
        if (kinds.Overlaps(Concerned))
        {
            await act.RunAsync(
                """
                update site
                   set version = version + 1
                 where ((select key from watermark) <> '' or exists (select from category where reserves <> '{}')
                     or exists (select from album where reserves <> '{}')
                     or exists (select from act_change as c where c.act = @act and c.before ? 'reserves'))
                   and exists (
                   select
                     from act_change as c
                     left join album as a on a.id = c.thing and c.kind in ('album', 'album_photo')
                     left join category as g on g.id = c.other and c.kind in ('album_category', 'photo_category')
                    where c.act = @act and (
                      c.kind in ('album', 'category') and c.before is not null
                        and c.before ?| '{unmarked,unmarked_for,reserves}'
                      or (a.unmarked <> 'Everyone' or a.reserves <> '{}') and (c.kind = 'album_photo' or c.before ? 'binned')
                      or g.marks <> '{}'
                      or c.kind = 'album_photo' and exists (
                        select from album_category as ac join category as m on m.id = ac.category and m.marks <> '{}'
                         where ac.album = c.thing)
                      or c.kind = 'category' and c.before ?| '{parent,binned}'
                        and exists (select from category as m where m.marks <> '{}')))
                    or exists (select from act_change as c where c.act = @act and c.kind = 'watermark')
                """,
                ct, ("act", act.Id.Value));
        }
    }

    static readonly string[] Concerned = ["watermark", "album", "category", "album_photo", "album_category", "photo_category"];
}
