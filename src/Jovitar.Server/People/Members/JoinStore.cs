using Jovitar.Core.Acts;
using Jovitar.Core.People;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Mailing;
using Npgsql;

namespace Jovitar.Server.People.Members;

/// <summary>Somebody who asked to become a member and waits.</summary>
/// <param name="IsKnown">Their address is a member's, or of somebody who works here.</param>
internal sealed record JoinLine(Guid Id, string Name, string Email, string Words, DateTimeOffset Made, bool IsKnown);

/// <summary>Those who wait, the eldest first.</summary>
/// <param name="All">How many there are.</param>
internal sealed record JoinWindow(Joining Joining, bool HasMail, IReadOnlyList<JoinLine> Waiting, int All);

/// <summary>Visitors who ask to become members: noted without looking anybody up, then accepted, by staff or by itself.</summary>
internal sealed class JoinStore(NpgsqlDataSource db, ActRunner acts, MemberStore members, WayInStore ways, SettingsStore settings, MailSettings mail, TimeProvider clock, ILogger<JoinStore> log)
{
    const int MostListed = 100;

    /// <summary>The condition that a wish waits for staff: they asked while somebody had to accept it, or no letter can be written any more (<c>@mail</c>).</summary>
    /// <param name="wish">What the wish is called.</param>
    public static string Waits(string wish) => $"(not {wish}.is_free or not @mail)";

    /// <summary>Says how visitors become members; they are told so at once.</summary>
    public async Task<Done> SayAsync(Actor who, Joining joining, CancellationToken ct)
    {
        var (_, done) = await acts.RunAsync(
            who, ActKind.Members,
            async act =>
            {
                act.IsKept = await act.RunAsync("update site set joining = @joining, version = version + 1 where joining <> @joining", ct, ("joining", joining.ToString())) > 0;
                act.Says = _ => MemberWords.Join(joining);
                return 0;
            },
            ct);
        return done;
    }

    /// <summary>Notes that somebody asks. Nothing is looked up: the answer is the same, and takes as long, whether they are known or not.</summary>
    /// <param name="origin">Where the site was asked at.</param>
    public async Task WishAsync(JoinWish wish, string origin, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            insert into member_wish (id, email, email_key, name, words, origin, made, is_free)
            select @id, @email, @key, @name, @words, @origin, @now, joining = 'Open' and @mail
              from site
             where joining <> 'Closed' and (select count(*) from member_wish) < @most
            on conflict (email_key) do nothing
            """,
            ("id", Guid.CreateVersion7(clock.GetUtcNow())), ("email", wish.Email), ("key", AccountStore.Key(wish.Email)), ("name", wish.Name), ("words", wish.Words), ("origin", origin), ("now", clock.GetUtcNow()),
            ("mail", mail.IsSet), ("most", JoinWish.MostWaiting));
        await command.ExecuteNonQueryAsync(ct);
    }

    public async Task<JoinWindow> ListAsync(CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select w.id, w.name, w.email, w.words, w.made, count(*) over ()::int as all,
                   exists (select from account as a where a.email_key = w.email_key and a.role <> 'None') as is_known
              from member_wish as w
             where {Waits("w")}
             order by w.made, w.id
             limit @most
            """,
            ("most", MostListed), ("mail", mail.IsSet));
        var all = await command.AllAsync(
            r => (Line: new JoinLine(r.Get<Guid>("id"), r.Get<string>("name"), r.Get<string>("email"), r.Get<string>("words"), r.Get<DateTimeOffset>("made"), r.Get<bool>("is_known")), All: r.Get<int>("all")), ct);
        return new JoinWindow((await settings.ReadAsync(ct)).Joining, mail.IsSet, [.. all.Select(a => a.Line)], all is [var first, ..] ? first.All : 0);
    }

    /// <summary>Makes members of some who wait, and puts them into a group; each gets a letter where the site writes any.</summary>
    /// <param name="group">Null for none.</param>
    /// <param name="origin">The site's address.</param>
    /// <returns>What became of it; null with a sentence where there is no such group, or no room.</returns>
    public async Task<(MembersAdded? Added, string Refused)> AcceptAsync(Actor who, IReadOnlyList<Guid> wishes, Guid? group, string origin, CancellationToken ct)
    {
        var (answer, _) = await acts.RunAsync(
            who, ActKind.Members,
            async act =>
            {
                await act.RunAsync("lock table account in share row exclusive mode", ct);
                await using var find = act.Command(
                    $"select w.name, w.email from member_wish as w where w.id = any(@wishes) and {Waits("w")} order by w.made, w.id for update", ("wishes", wishes.ToArray()), ("mail", mail.IsSet));
                var answer = await members.AddAsync(act, await find.AllAsync(r => new NewMember(r.Get<string>("name"), r.Get<string>("email")), ct), [], group, mail.IsSet, origin, ct);
                await act.RunAsync($"delete from member_wish as w where w.id = any(@wishes) and {Waits("w")}", ct, ("wishes", wishes.ToArray()), ("mail", mail.IsSet));
                return answer;
            },
            ct);
        if (answer.Added is null)
        {
            return answer;
        }

        // Where all of them were members already nothing was done; they wait no longer either.
        await using var done = db.Command("delete from member_wish as w where w.id = any(@wishes) and exists (select from account as a where a.email_key = w.email_key)", ("wishes", wishes.ToArray()));
        await done.ExecuteNonQueryAsync(ct);
        return answer;
    }

    /// <summary>Refuses some who wait: they are forgotten, and may ask again.</summary>
    public async Task<Done> RefuseAsync(Actor who, IReadOnlyList<Guid> wishes, CancellationToken ct)
    {
        var (_, done) = await acts.RunAsync(
            who, ActKind.Members,
            async act =>
            {
                await using var take = act.Command($"delete from member_wish as w where w.id = any(@wishes) and {Waits("w")} returning w.name", ("wishes", wishes.ToArray()), ("mail", mail.IsSet));
                var refused = await take.AllAsync(r => r.Get<string>("name"), ct);
                (act.IsKept, act.Says) = (refused.Count > 0, _ => MemberWords.Refused(refused));
                return 0;
            },
            ct);
        return done;
    }

    /// <summary>Answers the eldest who asked while nobody had to accept it: whoever is known gets a letter to sign in with, others become members and get theirs.</summary>
    /// <param name="said">The site's address as the operator says it; null for none.</param>
    /// <returns>False when nobody is left.</returns>
    public async Task<bool> AnswerAsync(string? said, CancellationToken ct)
    {
        await using var find = db.CreateCommand(
            """
            select w.id, w.name, w.email, w.origin, exists (select from account as a where a.email_key = w.email_key) as is_known,
                   (select o.address from known_origin as o order by (o.address = w.origin) desc, o.seen desc limit 1) as known
              from member_wish as w
             where w.is_free
             order by w.made, w.id
             limit 1
            """);
        if (await find.FirstAsync(r => new Free(r.Get<Guid>("id"), r.Get<string>("name"), r.Get<string>("email"), r.Get<string>("origin"), r.Get<bool>("is_known"), r.MaybeText("known")), ct) is not { } wish)
        {
            return false;
        }

        const string Take = "delete from member_wish where id = @id";
        (MembersAdded? Added, string Refused)? answer = null;
        if (!wish.IsKnown && (said ?? wish.Known) is { } origin)
        {
            (answer, _) = await acts.RunAsync<(MembersAdded?, string)?>(
                Actor.Worker(MemberWords.WhoAsked), ActKind.Members,
                async act =>
                {
                    // The table before the row, as whoever accepts takes them.
                    await act.RunAsync("lock table account in share row exclusive mode", ct);
                    return await act.RunAsync(Take, ct, ("id", wish.Id)) > 0
                        ? await members.AddAsync(act, [new NewMember(wish.Name, wish.Email)], [], null, write: true, origin, ct)
                        : act.Drop<(MembersAdded?, string)?>(null);
                },
                ct);
            if (answer is { Added: not null })
            {
                return true;
            }
        }

        // Another process has answered meanwhile where it is not there any more.
        await using var take = db.Command(Take, ("id", wish.Id));
        if (await take.ExecuteNonQueryAsync(ct) == 0)
        {
            return true;
        }

        if (wish.IsKnown)
        {
            await ways.WishAsync(wish.Email, wish.Origin, ct);
        }
        else if (answer is not null)
        {
            log.LogWarning("Somebody asked to become a member, and there is no room for more");
        }
        else
        {
            log.LogWarning("Somebody asked to become a member, but nobody has signed in yet since links are sent, and Jovitar__Address is not set: where the site is to be reached is not known");
        }

        return true;
    }

    /// <summary>Somebody who waits for nobody.</summary>
    /// <param name="Known">Where the site is reached, as far as that is known.</param>
    sealed record Free(Guid Id, string Name, string Email, string Origin, bool IsKnown, string? Known);
}
