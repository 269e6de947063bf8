using Jovitar.Core.Access;
using Jovitar.Core.Acts;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Access.Audiences;

/// <summary>What an audience is of.</summary>
/// <param name="Kind">"page", "album" or "category".</param>
internal sealed record AudienceOf(string Kind, Guid Thing);

/// <summary>The audience that a thing has of its own.</summary>
/// <param name="Above">What else keeps visitors out of it: the gates of its categories.</param>
/// <param name="IsSeen">But for all these gates visitors would see it.</param>
/// <param name="Address">The last part of its own address; empty for what has none.</param>
/// <param name="Pages">Of an album, on how many pages it was put by hand.</param>
internal sealed record OwnAudience(string Name, Audience Audience, IReadOnlyList<Gate> Above, bool IsSeen, string Address = "", int Pages = 0);

/// <summary>How a change of an audience ended.</summary>
internal enum AudienceOutcome
{
    Written,
    Gone,
    Stale,
}

/// <summary>Says who of the visitors may see a page, an album or a category.</summary>
internal sealed class AudienceStore(NpgsqlDataSource db, ActRunner acts, AccessStore access, SightStore sights)
{
    /// <summary>What has an audience, and where its name is.</summary>
    static readonly Dictionary<string, string> Names = new(StringComparer.Ordinal)
    {
        ["page"] = "page_title(draft)",
        ["album"] = "working_name",
        ["category"] = "name",
    };

    public static IReadOnlyCollection<string> Kinds => Names.Keys;

    public static string NameOf(string kind) => Names[kind];

    public static string TableOf(string kind) => Names.ContainsKey(kind) ? kind : throw new ArgumentOutOfRangeException(nameof(kind));

    /// <summary>What is read of a row for <see cref="Read"/>.</summary>
    public const string Columns = "audience, seen_from, seen_until, chosen";

    public static Audience Read(NpgsqlDataReader r) =>
        new(Enum.Parse<Admitted>(r.Get<string>("audience")), r.Maybe<DateTimeOffset>("seen_from"), r.Maybe<DateTimeOffset>("seen_until")) { Chosen = r.Get<Guid[]>("chosen") };

    /// <summary>Those of some groups and members that there are.</summary>
    public async Task<IReadOnlyList<Chosen>> ChosenAsync(IReadOnlyCollection<Guid> ids, CancellationToken ct)
    {
        if (ids.Count == 0)
        {
            return [];
        }

        await using var command = db.Command(ChosenOf, ("ids", ids.ToArray()));
        return await command.AllAsync(ReadChosen, ct);
    }

    /// <summary>What the groups and members <c>@ids</c> are called.</summary>
    public const string ChosenOf =
        """
        select id, name, true as is_group from member_group where id = any(@ids)
        union all
        select id, name, false from account where id = any(@ids) and role = 'Member'
        """;

    public static Chosen ReadChosen(NpgsqlDataReader r) => new(r.Get<Guid>("id"), r.Get<string>("name"), r.Get<bool>("is_group"));

    /// <returns>Null when it is not there.</returns>
    public async Task<OwnAudience?> FindAsync(AudienceOf of, CancellationToken ct)
    {
        var gates = (await sights.EveryoneAsync(ct)).Gates;
        await using var command = db.Command(
            $"""
            select {NameOf(of.Kind)} as name, t.address, {Columns}, {AccessStore.ThingColumns(of.Kind)}
              from {TableOf(of.Kind)} as t
             {AccessStore.ThingJoins(of.Kind)}
             where id = @id and binned is null
            """,
            ("id", of.Thing), ("shut", Sight.Somebody.Shut));
        return await command.FirstAsync(
            r =>
            {
                var thing = AccessStore.ThingOf(of.Kind, r, gates);
                return new OwnAudience(
                    r.Get<string>("name"), Read(r), [.. Core.Access.Access.GatesOf(thing).Where(g => g.Thing != of.Thing)], access.May(Viewer.Somebody, Right.See, thing), r.Get<string>("address"), r.Get<int>("on_pages"));
            },
            ct);
    }

    /// <summary>Says it; visitors have it at once.</summary>
    /// <param name="was">What it was when it was looked at: who said something else since is not overruled.</param>
    public async Task<(AudienceOutcome Outcome, Done Done)> SayAsync(Actor who, AudienceOf of, Audience audience, Audience was, CancellationToken ct) => await acts.RunAsync(
        who, ActKind.Audience,
        async act =>
        {
            await using var find = act.Command(
                $"""
                select {NameOf(of.Kind)} as name, {Columns}
                  from {TableOf(of.Kind)}
                 where id = @id and binned is null
                   for no key update
                """,
                ("id", of.Thing));
            if (await find.FirstAsync(r => Tuple.Create(r.Get<string>("name"), Read(r)), ct) is not var (name, now))
            {
                return act.Drop(AudienceOutcome.Gone);
            }

            if (now != was)
            {
                return act.Drop(AudienceOutcome.Stale);
            }

            if (await KeptAsync(act, audience, ct) is not var (kept, chosen))
            {
                return act.Drop(AudienceOutcome.Stale);
            }

            act.Says = _ => AudienceWords.Said(of.Kind, name, kept, chosen);
            await act.RunAsync(
                $"""
                update {TableOf(of.Kind)}
                   set audience = @who, seen_from = @from::timestamptz, seen_until = @until::timestamptz, chosen = @chosen
                 where id = @id
                """,
                ct, ("who", kept.Who.ToString()), ("from", kept.From), ("until", kept.Until), ("chosen", kept.Chosen.ToArray()), ("id", of.Thing));
            if (kept.Who == Admitted.WithLink && now.Who != Admitted.WithLink)
            {
                await HideAsync(act, of, ct);
            }

            return AudienceOutcome.Written;
        },
        ct);

    /// <summary>Gives what is found by its link alone an address that nobody guesses; none that it had before leads there, and nobody who looked at it before writes that one back.</summary>
    static async Task HideAsync(Act act, AudienceOf of, CancellationToken ct)
    {
        await Addresses.HoldAsync(act, ct);
        await using var find = act.Command($"select address from {TableOf(of.Kind)} where id = @id", ("id", of.Thing));
        var address = (string)(await find.ExecuteScalarAsync(ct))!;
        await act.RunAsync($"update {TableOf(of.Kind)} set address = @address, address_said = true, version = version + 1 where id = @id", ct, ("address", HiddenAddress.Of(address)), ("id", of.Thing));
        await act.RunAsync("delete from former_address where kind = @kind and thing = @id", ct, ("kind", of.Kind), ("id", of.Thing));
    }

    /// <summary>An audience as an act keeps it, with the groups and members that it is for.</summary>
    /// <returns>Null where none of these is there any more.</returns>
    public static async Task<(Audience Kept, IReadOnlyList<Chosen> Chosen)?> KeptAsync(Act act, Audience audience, CancellationToken ct)
    {
        var kept = audience.AsKept();
        var chosen = await KeptChosenAsync(act, kept.Chosen, ct);
        return kept.Who == Admitted.Chosen && chosen.Count == 0 ? null : (kept with { Chosen = [.. chosen.Select(c => c.Id)] }, chosen);
    }

    /// <summary>Those of some groups and members that an act may say something for: they stay for as long as it takes, and who has left is not named any more.</summary>
    public static async Task<IReadOnlyList<Chosen>> KeptChosenAsync(Act act, IReadOnlyList<Guid> wanted, CancellationToken ct)
    {
        // A group that something is for is not removed: whoever removes it waits for this, or this for them.
        await act.RunAsync("select from member_group where id = any(@ids) order by id for key share", ct, ("ids", wanted.ToArray()));
        await using var look = act.Command(ChosenOf, ("ids", wanted.ToArray()));
        return await look.AllAsync(ReadChosen, ct);
    }
}
