using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Server.Access.Entries;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Access.Audiences;

/// <summary>A group of members before a thing.</summary>
/// <param name="Seeing">So many of its members can see it.</param>
internal sealed record GroupBefore(Guid Id, string Name, int Members, int Seeing);

/// <summary>An entry link or passcode on a way to a thing.</summary>
/// <param name="Why">Why its holders do not see it, a sentence each; empty where they do.</param>
internal sealed record EntryBefore(Guid Id, string Name, EntryKind Kind, IReadOnlyList<string> Why);

/// <summary>A member before a thing.</summary>
/// <param name="Why">Why they do not see it, a sentence each; empty where they do.</param>
internal sealed record MemberBefore(Guid Id, string Name, string Email, IReadOnlyList<string> Why);

/// <summary>Who can see a thing, by name.</summary>
/// <param name="Everyone">Why visitors who have not signed in do not see it, a sentence each; empty where they do.</param>
/// <param name="Members">How many members there are.</param>
/// <param name="Seeing">So many of them can see it.</param>
/// <param name="Found">How many there are of those that were asked for.</param>
/// <param name="Window">Some of these, by why they do not see it and by name.</param>
/// <param name="Staff">Who works here: they see everything.</param>
internal sealed record Viewers(
    string Name, IReadOnlyList<string> Everyone, IReadOnlyList<GroupBefore> Groups, IReadOnlyList<EntryBefore> Entries, int Members, int Seeing, int Found, IReadOnlyList<MemberBefore> Window, IReadOnlyList<string> Staff);

/// <summary>Which members are asked for.</summary>
/// <param name="Words">Any part of a name or an address; empty for all.</param>
/// <param name="Seeing">Those who can see it, or those who cannot.</param>
internal sealed record MembersAsked(string Words, bool Seeing, int From, int Count);

/// <summary>Says by name who can see a thing. For each it is the one decision that says so: it is made once for all whom the same gates let in.</summary>
internal sealed class ViewerStore(NpgsqlDataSource db, AccessStore access, SightStore sights)
{
    const int MostEntries = 100;
    const int MostStaff = 100;

    /// <summary>A thing as somebody comes upon it, with what it is called.</summary>
    sealed record Found(string Name, Thing Thing);

    sealed record Known(Guid Id, string Name, string Email, Guid[] Groups, bool IsSought);

    /// <param name="kind">"page", "album", "category" or "photo".</param>
    /// <returns>Null when it is not there.</returns>
    public async Task<Viewers?> OfAsync(string kind, Guid id, MembersAsked asked, CancellationToken ct)
    {
        var (everyone, now) = (await sights.EveryoneAsync(ct), access.Now);
        if (await FindAsync(kind, id, everyone, ct) is not { } found)
        {
            return null;
        }

        var ways = await WaysAsync(kind, id, everyone, ct);
        Gate[] gates = [.. Core.Access.Access.GatesOf(found.Thing).Concat(ways).DistinctBy(g => g.Thing)];
        async Task<IReadOnlyList<string>> WhyAsync(Viewer viewer)
        {
            // On how many pages they find it depends on who they are; a page or a category is the same to all.
            var seen = kind is "page" or "category" ? found : await FindAsync(kind, id, Sight.Of(viewer, everyone.Gates, now, everyone), ct);
            return seen is null ? [] : AudienceLine.WhyNot(viewer, seen.Thing, now, ways);
        }

        var members = await MembersAsync(asked.Words, ct);
        var why = new Dictionary<Guid, IReadOnlyList<string>>();
        foreach (var alike in Alike.Of(members.Select(m => (m.Id, (IReadOnlyList<Guid>)m.Groups)), gates, now))
        {
            var same = await WhyAsync(alike.One);
            foreach (var member in alike.Members)
            {
                why[member] = same;
            }
        }

        var seeing = members.Where(m => why[m.Id].Count == 0).ToLookup(_ => true);
        var within = members.SelectMany(m => m.Groups.Select(g => (Group: g, Sees: why[m.Id].Count == 0))).ToLookup(m => m.Group, m => m.Sees);
        // Those of whom the same is true beneath each other, so that it is said once.
        Known[] wanted = [.. members.Where(m => m.IsSought && (why[m.Id].Count == 0) == asked.Seeing).OrderBy(m => string.Join(' ', why[m.Id]), StringComparer.Ordinal)];
        return new Viewers(
            found.Name, await WhyAsync(Viewer.Nobody),
            [.. (await GroupsAsync(ct)).Select(g => new GroupBefore(g.Id, g.Name, within[g.Id].Count(), within[g.Id].Count(sees => sees)))],
            await EntriesAsync(gates, now, WhyAsync, ct), members.Count, seeing[true].Count(), wanted.Length,
            [.. wanted.Skip(asked.From).Take(asked.Count).Select(m => new MemberBefore(m.Id, m.Name, m.Email, why[m.Id]))],
            await StaffAsync(ct));
    }

    async Task<Found?> FindAsync(string kind, Guid id, Sight sight, CancellationToken ct)
    {
        if (kind == "photo")
        {
            await using var name = db.Command("select coalesce(nullif(title, ''), file_name) from photo where id = @id and binned is null", ("id", id));
            return await name.ExecuteScalarAsync(ct) is string called && await access.PhotoAsync(PhotoId.From(id), sight, ct) is { } photo ? new Found(called, photo) : null;
        }

        await using var command = db.Command(
            $"""
            select {AudienceStore.NameOf(kind)} as name, {AccessStore.ThingColumns(kind)}
              from {AudienceStore.TableOf(kind)} as t
             {AccessStore.ThingJoins(kind)}
             where id = @id and binned is null
            """,
            ("id", id), ("shut", sight.Shut));
        return await command.FirstAsync(r => new Found(r.Get<string>("name"), AccessStore.ThingOf(kind, r, sight.Gates)), ct);
    }

    /// <summary>The gates on the ways to a thing that do not let everyone in.</summary>
    async Task<IReadOnlyList<Gate>> WaysAsync(string kind, Guid id, Sight everyone, CancellationToken ct)
    {
        if (kind == "photo")
        {
            return await access.WaysAsync(PhotoId.From(id), everyone, ct);
        }

        await using var command = db.Command($"select {AccessStore.AlbumWays("a")} as ways from album as a where a.id = @id and @kind = 'album'", ("id", id), ("kind", kind));
        return everyone.Gates.Of([.. (await command.FirstAsync(r => r.Get<Guid[]>("ways"), ct) ?? []).Intersect(everyone.Shut)]);
    }

    async Task<IReadOnlyList<Known>> MembersAsync(string words, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            select a.id, a.name, a.email, lower(a.name || ' ' || a.email) like @like as is_sought,
                   array(select m."group" from member_of as m where m.account = a.id) as groups
              from account as a
             where a.role = 'Member'
             order by lower(a.name), a.id
            """,
            ("like", $"%{Database.LikeText(words.ToLowerInvariant())}%"));
        return await command.AllAsync(r => new Known(r.Get<Guid>("id"), r.Get<string>("name"), r.Get<string>("email"), r.Get<Guid[]>("groups"), r.Get<bool>("is_sought")), ct);
    }

    async Task<IReadOnlyList<Chosen>> GroupsAsync(CancellationToken ct)
    {
        await using var command = db.CreateCommand("select id, name, true as is_group from member_group order by name_key");
        return await command.AllAsync(AudienceStore.ReadChosen, ct);
    }

    /// <summary>What opens one of some gates, with what its holders meet.</summary>
    async Task<IReadOnlyList<EntryBefore>> EntriesAsync(IReadOnlyList<Gate> gates, DateTimeOffset now, Func<Viewer, Task<IReadOnlyList<string>>> why, CancellationToken ct)
    {
        Guid[] held = [.. gates.Where(g => g.Audience.Who == Admitted.Holders).Select(g => g.Thing)];
        await using var command = db.Command(
            $"""
            select e.id, e.name, e.kind, e.thing
              from entry as e
             where e.thing = any(@things) and {EntryStore.IsGood}
             order by lower(e.name), e.id
             limit @most
            """,
            ("things", held), ("now", now), ("most", MostEntries));
        var entries = await command.AllAsync(r => (Id: r.Get<Guid>("id"), Name: r.Get<string>("name"), Kind: Enum.Parse<EntryKind>(r.Get<string>("kind")), Thing: r.Get<Guid>("thing")), ct);
        var before = new List<EntryBefore>();
        foreach (var same in entries.GroupBy(e => e.Thing))
        {
            var met = await why(Viewer.Nobody with { Holds = new HashSet<Guid> { same.Key } });
            before.AddRange(same.Select(e => new EntryBefore(e.Id, e.Name, e.Kind, met)));
        }

        return before;
    }

    async Task<IReadOnlyList<string>> StaffAsync(CancellationToken ct)
    {
        await using var command = db.Command("select name from account where role in ('Editor', 'Owner') order by lower(name), id limit @most", ("most", MostStaff));
        return await command.AllAsync(r => r.Get<string>("name"), ct);
    }
}
