using Jovitar.Core.Acts;
using Jovitar.Core.Contributions;
using Jovitar.Core.People;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Mailing;
using Npgsql;

namespace Jovitar.Server.People.Members;

/// <summary>A member.</summary>
/// <param name="Groups">The groups that they are in.</param>
/// <param name="Contributing">Whether they send photos in.</param>
/// <param name="Seen">When a browser of theirs was last here, as far as one is still signed in.</param>
internal sealed record MemberLine(Guid Id, string Name, string Email, IReadOnlyList<Guid> Groups, Contributing Contributing, DateTimeOffset? Seen);

/// <summary>A window of the members.</summary>
/// <param name="Found">How many there are of those that were asked for.</param>
/// <param name="All">How many there are.</param>
internal sealed record MemberWindow(IReadOnlyList<MemberLine> Members, int Found, int All);

/// <summary>What became of a list.</summary>
/// <param name="Added">So many are members now who were not.</param>
/// <param name="Joined">So many are in the group now who were not.</param>
/// <param name="Working">So many work on the site, and see everything anyway.</param>
/// <param name="Letters">So many get a letter.</param>
internal sealed record MembersAdded(int Added, int Joined, int Working, int Letters, IReadOnlyList<LineRefused> Refused);

/// <summary>Members: visitors whom the site knows by their address.</summary>
internal sealed class MemberStore(NpgsqlDataSource db, ActRunner acts, LetterStore letters, MailSettings mail, SettingsStore settings, TimeProvider clock)
{
    /// <summary>Whether visitors are told where to sign in.</summary>
    public const string Told =
        """
        update site
           set has_members = not has_members, version = version + 1
         where has_members <> exists (select from account where role = 'Member')
        """;

    /// <summary>The condition that a member is among those who are asked for; nothing that is not asked for stands in it, so that the indexes are used.</summary>
    static string Sought(bool words, bool group) => string.Join(
        "\n               and ",
        [
            "a.role = 'Member'",
            .. words ? (string[])["lower(a.name || ' ' || a.email) like @like"] : [],
            .. group ? (string[])["a.id in (select m.account from member_of as m where m.\"group\" = @group)"] : [],
        ]);

    /// <param name="words">Any part of a name or an address; empty for all.</param>
    /// <param name="group">Only those in it; null for all.</param>
    public async Task<MemberWindow> ListAsync(string words, Guid? group, int from, int count, CancellationToken ct)
    {
        var like = $"%{Database.LikeText(words.ToLowerInvariant())}%";
        var sought = Sought(words.Length > 0, group is not null);
        await using var command = db.Command(
            $"""
            select a.id, a.name, a.email, a.contributing,
                   array(select m."group" from member_of as m where m.account = a.id) as groups,
                   (select max(s.seen) from session as s where s.account = a.id and s.expires > @now) as seen
              from account as a
             where {sought}
             order by lower(a.name), a.id
            offset @from
             limit @count
            """,
            ("like", like), ("group", group), ("now", clock.GetUtcNow()), ("from", from), ("count", count));
        var members = await command.AllAsync(
            r => new MemberLine(r.Get<Guid>("id"), r.Get<string>("name"), r.Get<string>("email"), r.Get<Guid[]>("groups"), Enum.Parse<Contributing>(r.Get<string>("contributing")), r.Maybe<DateTimeOffset>("seen")), ct);
        await using var sum = db.Command(
            $"""
            select (select count(*)::int from account as a where {sought}) as found,
                   (select count(*)::int from account where role = 'Member') as all
            """,
            ("like", like), ("group", group));
        var (found, all) = (await sum.FirstAsync(r => Tuple.Create(r.Get<int>("found"), r.Get<int>("all")), ct))!;
        return new MemberWindow(members, found, all);
    }

    /// <summary>All of them as CSV (RFC 4180): what they are called, their address, and their groups.</summary>
    public async Task<byte[]> TableAsync(CancellationToken ct)
    {
        await using var command = db.CreateCommand(
            """
            select a.name, a.email,
                   array(
                     select g.name
                       from member_of as m
                       join member_group as g on g.id = m."group"
                      where m.account = a.id
                      order by g.name_key) as groups
              from account as a
             where a.role = 'Member'
             order by lower(a.name), a.id
            """);
        var to = new MemoryStream();
        await using (var csv = new CsvRows(to))
        {
            await csv.AddAsync(["name", "e-mail", "groups"]);
            foreach (var row in await command.AllAsync(r => (string[])[r.Get<string>("name"), r.Get<string>("email"), string.Join("; ", r.Get<string[]>("groups"))], ct))
            {
                await csv.AddAsync(row);
            }
        }

        return to.ToArray();
    }

    /// <summary>Makes everybody of a list a member, and puts them into a group.</summary>
    /// <param name="group">Null for none.</param>
    /// <param name="write">Those who were none yet get a letter that lets them in at once.</param>
    /// <param name="origin">The site's address, <c>https://photos.example.org</c>.</param>
    /// <returns>What became of it; null with a sentence where there is no such group, or no room.</returns>
    public async Task<(MembersAdded? Added, string Refused)> AddAsync(Actor who, string list, Guid? group, bool write, string origin, CancellationToken ct)
    {
        var (members, refused) = MemberRules.Read(list);
        var (answer, _) = await acts.RunAsync(who, ActKind.Members, act => AddAsync(act, members, refused, group, write && mail.IsSet, origin, ct), ct);
        return answer;
    }

    /// <summary>The same within an act.</summary>
    /// <param name="write">They get letters.</param>
    public async Task<(MembersAdded? Added, string Refused)> AddAsync(Act act, IReadOnlyList<NewMember> members, IReadOnlyList<LineRefused> refused, Guid? group, bool write, string origin, CancellationToken ct)
    {
        var title = (await settings.ReadAsync(ct)).Title;
        string[] keys = [.. members.Select(m => AccountStore.Key(m.Email))];
        await act.RunAsync("lock table account in share row exclusive mode", ct);
        // Whoever removes the group waits for this, or this for them.
        await act.RunAsync("select from member_group where id = @group::uuid for key share", ct, ("group", group));
        await using var look = act.Command(
            """
            select (select count(*)::int from account where role = 'Member' and email_key <> all(@keys)) as others,
                   (select count(*)::int from account where role <> 'Member' and email_key = any(@keys)) as working,
                   (select name from member_group where id = @group::uuid) as called
            """,
            ("keys", keys), ("group", group));
        var (others, working, called) = (await look.FirstAsync(r => Tuple.Create(r.Get<int>("others"), r.Get<int>("working"), r.MaybeText("called")), ct))!;
        if (group is not null && called is null)
        {
            return act.Drop(((MembersAdded?)null, "This group is gone. Choose another."));
        }

        if (others + keys.Length > MemberRules.Most)
        {
            return act.Drop(((MembersAdded?)null, $"There is room for {MemberRules.Most:#,0} members."));
        }

        await using var insert = act.Command(
            """
            insert into account (id, email, email_key, name, role, password_hash, made)
            select w.id, w.email, w.key, w.name, 'Member', '', @now
              from unnest(@ids, @emails, @keys, @names) as w(id, email, key, name)
            on conflict (email_key) do nothing
            returning id, name, email
            """,
            ("ids", members.Select(_ => Guid.CreateVersion7(act.Now)).ToArray()), ("emails", members.Select(m => m.Email).ToArray()), ("keys", keys), ("names", members.Select(MemberRules.Called).ToArray()),
            ("now", act.Now));
        var added = await insert.AllAsync(r => (Id: r.Get<Guid>("id"), Name: r.Get<string>("name"), Email: r.Get<string>("email")), ct);
        var joined = group is null ? 0 : await act.RunAsync(
            """
            insert into member_of (account, "group", since)
            select a.id, @group, @now from account as a where a.email_key = any(@keys) and a.role = 'Member'
            on conflict do nothing
            """,
            ct, ("keys", keys), ("group", group), ("now", act.Now));
        var answer = new MembersAdded(added.Count, joined, working, write ? added.Count : 0, refused);
        if (added.Count + joined == 0)
        {
            return act.Drop(((MembersAdded?)answer, ""));
        }

        if (answer.Letters > 0)
        {
            foreach (var member in added)
            {
                var (link, expires) = await LinkAsync(act, member.Id, origin, ct);
                // Of who asked for it themselves nothing is known but the address.
                var (letter, to) = act.Who.Account is null ? (Letters.Joined(title, link, expires), "") : (Letters.Membership(title, member.Name, act.Who.Name, link, expires), member.Name);
                await letters.PutAsync(act, to, member.Email, letter.Subject, letter.Text, expires, ct);
            }
        }

        await act.RunAsync(Told, ct);
        (act.IsKept, act.Says) = (true, _ => MemberWords.Added(added.Count, joined, called ?? ""));
        return (answer, "");
    }

    /// <summary>Makes a link that signs somebody in once, in a while; the database keeps its hash alone.</summary>
    static async Task<(string Link, DateTimeOffset Expires)> LinkAsync(Act act, Guid member, string origin, CancellationToken ct)
    {
        var (secret, expires) = (LinkSecret.New(), act.Now.AddDays(MemberRules.LinkDays));
        await act.RunAsync("insert into way_in (hash, account, expires) values (@hash, @account, @expires)", ct, ("hash", LinkSecret.Hash(secret)), ("account", member), ("expires", expires));
        return ($"{origin}{WayInStore.MemberPath}/{secret}", expires);
    }

    /// <summary>Makes a link to hand on. One that was made before is shut.</summary>
    /// <returns>Null where they are no member any more.</returns>
    public Task<string?> LinkAsync(Actor who, Guid member, string origin, CancellationToken ct) => ChangeAsync(
        who, member,
        async (act, name) =>
        {
            await act.RunAsync("delete from way_in where account = @member", ct, ("member", member));
            var (link, _) = await LinkAsync(act, member, origin, ct);
            (act.IsKept, act.Says) = (true, _ => MemberWords.SentLink(name));
            return link;
        },
        ct);

    /// <summary>Gives a member another name.</summary>
    /// <returns>False where they are no member any more.</returns>
    public async Task<bool> RenameAsync(Actor who, Guid member, string next, CancellationToken ct) => await ChangeAsync(
        who, member,
        async (act, name) =>
        {
            act.IsKept = await act.RunAsync("update account set name = @next where id = @member and name <> @next", ct, ("member", member), ("next", next)) > 0;
            act.Says = _ => MemberWords.Renamed(name, next);
            return "";
        },
        ct) is not null;

    /// <summary>Puts a member into groups and takes them out of others; what others changed of them meanwhile stays.</summary>
    /// <returns>False where they are no member any more.</returns>
    public async Task<bool> MoveAsync(Actor who, Guid member, IReadOnlyList<Guid> into, IReadOnlyList<Guid> outOf, CancellationToken ct) => await ChangeAsync(
        who, member,
        async (act, name) =>
        {
            await act.RunAsync("select from member_group where id = any(@into) order by id for key share", ct, ("into", into.ToArray()));
            await using var add = act.Command(
                """
                with added as (
                  insert into member_of (account, "group", since)
                  select @member, g.id, @now from member_group as g where g.id = any(@into)
                  on conflict do nothing
                  returning "group")
                select g.name from added as a join member_group as g on g.id = a."group" order by g.name_key
                """,
                ("member", member), ("into", into.ToArray()), ("now", act.Now));
            var come = await add.AllAsync(r => r.Get<string>("name"), ct);
            await using var take = act.Command(
                """
                with gone as (
                  delete from member_of
                   where account = @member and "group" = any(@out) and "group" <> all(@into)
                  returning "group")
                select g.name from gone as d join member_group as g on g.id = d."group" order by g.name_key
                """,
                ("member", member), ("out", outOf.ToArray()), ("into", into.ToArray()));
            var left = await take.AllAsync(r => r.Get<string>("name"), ct);
            (act.IsKept, act.Says) = (come.Count + left.Count > 0, _ => MemberWords.Moved(name, come, left));
            return "";
        },
        ct) is not null;

    /// <summary>Ends a membership: their browsers are signed out and their links are shut, at once.</summary>
    /// <returns>False where they are no member any more.</returns>
    public async Task<bool> RemoveAsync(Actor who, Guid member, CancellationToken ct) => await ChangeAsync(
        who, member,
        async (act, name) =>
        {
            await act.RunAsync("delete from account where id = @member", ct, ("member", member));
            await act.RunAsync(Told, ct);
            (act.IsKept, act.Says) = (true, _ => MemberWords.Removed(name));
            return "";
        },
        ct) is not null;

    /// <param name="change">What is done with the member, by their name; what it answers.</param>
    async Task<string?> ChangeAsync(Actor who, Guid member, Func<Act, string, Task<string>> change, CancellationToken ct)
    {
        var (answer, _) = await acts.RunAsync(
            who, ActKind.Members,
            async act =>
            {
                // The table before its rows, as whoever adds and invites takes them.
                await act.RunAsync("lock table account in row exclusive mode", ct);
                await using var find = act.Command("select name from account where id = @member and role = 'Member' for no key update", ("member", member));
                return await find.ExecuteScalarAsync(ct) is string name ? await change(act, name) : act.Drop((string?)null);
            },
            ct);
        return answer;
    }
}
