using Jovitar.Core.Access;
using Jovitar.Core.Acts;
using Jovitar.Core.People;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.People.Members;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Mailing;
using Npgsql;

namespace Jovitar.Server.People;

/// <summary>How far a letter has come.</summary>
internal enum LetterState
{
    /// <summary>None was written: the link is handed on by people.</summary>
    None,
    Waiting,
    Sent,
    Failed,
}

/// <summary>An invitation that nobody has taken up yet.</summary>
/// <param name="By">Who asked them.</param>
/// <param name="HandsOver">Whoever asked them hands the site over to them, and is out once they come.</param>
/// <param name="IsOver">Its link is not good any more.</param>
/// <param name="Fault">Why its letter is not there yet; empty where all is well.</param>
internal sealed record InvitationLine(Guid Id, string Name, string Email, Role Role, bool HandsOver, string By, DateTimeOffset Made, DateTimeOffset Expires, bool IsOver, LetterState Letter, string Fault);

/// <summary>What somebody is asked to take up.</summary>
internal sealed record Invited(Guid Id, string Name, string Email, Role Role, string By, Guid? HandsOver);

/// <summary>Invitations to work on the site: each a link that is good once, for a few days, and of which only a hash is kept.</summary>
internal sealed class InvitationStore(NpgsqlDataSource db, ActRunner acts, LetterStore letters, MailSettings mail, SettingsStore settings, TimeProvider clock)
{
    public async Task<IReadOnlyList<InvitationLine>> ListAsync(CancellationToken ct)
    {
        var now = clock.GetUtcNow();
        await using var command = db.Command(
            """
            select i.id, i.name, i.email, i.role, i.hands_over is not null as hands_over, i.by_name, i.made, i.expires,
                   i.expires <= @now as is_over,
                   case when l.id is null then 'None'
                        when l.sent is not null then 'Sent'
                        when l.due is not null then 'Waiting'
                        else 'Failed' end as letter,
                   coalesce(l.fault, '') as fault
              from invitation as i
              left join letter as l on l.id = i.letter
             order by i.made desc, i.id
            """,
            ("now", now));
        return await command.AllAsync(
            r => new InvitationLine(
                r.Get<Guid>("id"), r.Get<string>("name"), r.Get<string>("email"), Enum.Parse<Role>(r.Get<string>("role")), r.Get<bool>("hands_over"), r.Get<string>("by_name"), r.Get<DateTimeOffset>("made"), r.Get<DateTimeOffset>("expires"),
                r.Get<bool>("is_over"), Enum.Parse<LetterState>(r.Get<string>("letter")), r.Get<string>("fault")),
            ct);
    }

    /// <summary>Asks somebody. Whoever was asked at the same address before has another link now, and theirs is shut.</summary>
    /// <param name="handsOver">Whoever asks hands the site over to them.</param>
    /// <param name="origin">The site's address, <c>https://photos.example.org</c>.</param>
    /// <returns>The link; null where somebody with this address works here already, or there is room for nobody more, with a sentence that says which.</returns>
    public async Task<(string? Link, string Refused)> InviteAsync(Actor who, string email, string name, Role role, bool handsOver, string origin, CancellationToken ct)
    {
        var title = (await settings.ReadAsync(ct)).Title;
        var (answer, _) = await acts.RunAsync(
            who, ActKind.People,
            async act =>
            {
                await act.RunAsync("lock table account in share row exclusive mode", ct);
                await using var read = act.Command(
                    """
                    select exists (select from account where email_key = @key and role <> 'Member') as here,
                           ((select count(*) from account where role <> 'Member')
                             + (select count(*) from invitation where email_key <> @key))::int as others
                    """,
                    ("key", AccountStore.Key(email)));
                var (isHere, others) = (await read.FirstAsync(r => Tuple.Create(r.Get<bool>("here"), r.Get<int>("others")), ct))!;
                if (StaffRules.AgainstInviting(isHere, others) is { } against)
                {
                    return act.Drop(((string?)null, against));
                }

                var link = await WriteAsync(act, email, name, role, handsOver ? act.Who.Account : null, title, origin, ct);
                (act.IsKept, act.Says) = (true, _ => handsOver ? PeopleWords.HandsOver(name) : PeopleWords.Invited(name, role));
                return (link, "");
            },
            ct);
        return answer;
    }

    /// <summary>Asks somebody again, with a new link and from now on.</summary>
    /// <returns>The link; null where the invitation is gone.</returns>
    public async Task<string?> InviteAgainAsync(Actor who, Guid invitation, string origin, CancellationToken ct)
    {
        var title = (await settings.ReadAsync(ct)).Title;
        var (link, _) = await acts.RunAsync(
            who, ActKind.People,
            async act =>
            {
                await using var read = act.Command("select id, name, email, role, by_name, hands_over from invitation where id = @invitation for update", ("invitation", invitation));
                if (await read.FirstAsync(Read, ct) is not { } invited)
                {
                    return act.Drop((string?)null);
                }

                (act.IsKept, act.Says) = (true, _ => invited.HandsOver is null ? PeopleWords.Invited(invited.Name, invited.Role) : PeopleWords.HandsOver(invited.Name));
                return await WriteAsync(act, invited.Email, invited.Name, invited.Role, invited.HandsOver, title, origin, ct);
            },
            ct);
        return link;
    }

    /// <summary>Writes an invitation, and its letter where letters are written.</summary>
    async Task<string?> WriteAsync(Act act, string email, string name, Role role, Guid? handsOver, string title, string origin, CancellationToken ct)
    {
        // The invitation before its letter, whoever writes them.
        await act.RunAsync("select from invitation where email_key = @key for update", ct, ("key", AccountStore.Key(email)));
        var secret = LinkSecret.New();
        var (link, expires) = ($"{origin}/workroom/invited#{secret}", act.Now.AddDays(StaffRules.InvitationDays));
        Guid? letter = null;
        if (mail.IsSet)
        {
            var written = handsOver is null ? Letters.Invitation(title, name, act.Who.Name, role, link, expires) : Letters.HandingOver(title, name, act.Who.Name, link, expires);
            letter = await letters.PutAsync(act, name, email, written.Subject, written.Text, expires, ct);
        }

        // The letter with the link that is shut now says nothing any more that holds.
        await act.RunAsync("delete from letter where id = (select letter from invitation where email_key = @key)", ct, ("key", AccountStore.Key(email)));
        await act.RunAsync(
            """
            insert into invitation as i (id, email, email_key, name, role, hands_over, hash, by_name, made, expires, letter)
            values (@id, @email, @key, @name, @role, @hands_over::uuid, @hash, @by, @now, @expires, @letter)
            on conflict (email_key) do update
              set email = excluded.email, name = excluded.name, role = excluded.role,
                  hands_over = excluded.hands_over, hash = excluded.hash,
                  by_name = excluded.by_name, made = excluded.made, expires = excluded.expires, letter = excluded.letter
            """,
            ct, ("id", Guid.CreateVersion7(act.Now)), ("email", email), ("key", AccountStore.Key(email)), ("name", name), ("role", role.ToString()), ("hands_over", handsOver), ("hash", LinkSecret.Hash(secret)),
            ("by", act.Who.Name), ("now", act.Now), ("expires", expires), ("letter", letter));
        return link;
    }

    /// <summary>Takes an invitation back; its link is shut.</summary>
    /// <returns>False where it is gone.</returns>
    public async Task<bool> TakeBackAsync(Actor who, Guid invitation, CancellationToken ct)
    {
        var (isThere, _) = await acts.RunAsync(
            who, ActKind.People,
            async act =>
            {
                await using var delete = act.Command(
                    """
                    with gone as (delete from invitation where id = @invitation returning name, letter),
                         unsaid as (delete from letter where id in (select letter from gone))
                    select name from gone
                    """,
                    ("invitation", invitation));
                if (await delete.ExecuteScalarAsync(ct) is not string name)
                {
                    return act.Drop(false);
                }

                (act.IsKept, act.Says) = (true, _ => PeopleWords.TookBack(name));
                return true;
            },
            ct);
        return isThere;
    }

    /// <summary>What a link asks one to take up; null where it is shut or has run out.</summary>
    public async Task<Invited?> FindAsync(string secret, CancellationToken ct)
    {
        await using var command = db.Command(
            "select id, name, email, role, by_name, hands_over from invitation where hash = @hash and expires > @now", ("hash", LinkSecret.Hash(secret)), ("now", clock.GetUtcNow()));
        return await command.FirstAsync(Read, ct);
    }

    /// <summary>Takes an invitation up: the link is shut, and there is an account.</summary>
    /// <param name="name">What they are called, as they say it themselves.</param>
    /// <returns>The account; null where the link is shut or has run out.</returns>
    public async Task<Account?> AcceptAsync(string secret, string name, string passwordHash, CancellationToken ct)
    {
        var (account, _) = await acts.RunAsync(
            Actor.Worker(name), ActKind.People,
            async act =>
            {
                // Before the invitation's row, as whoever invites takes them.
                await act.RunAsync("lock table account in share row exclusive mode", ct);
                // A letter that has not left yet says nothing any more that holds.
                await using var take = act.Command(
                    """
                    with taken as (
                           delete from invitation
                            where hash = @hash and expires > @now
                           returning id, name, email, role, by_name, hands_over, letter),
                         unsaid as (delete from letter where id in (select letter from taken))
                    select id, name, email, role, by_name, hands_over from taken
                    """,
                    ("hash", LinkSecret.Hash(secret)), ("now", act.Now));
                if (await take.FirstAsync(Read, ct) is not { } invited)
                {
                    return act.Drop((Account?)null);
                }

                // A member who takes it up is not one any more: staff see everything. Who was signed in as one signs in anew.
                var made = new Account(Guid.CreateVersion7(act.Now), invited.Email, name, invited.Role, passwordHash);
                if (await act.RunAsync("delete from account where email_key = @key and role = 'Member'", ct, ("key", AccountStore.Key(made.Email))) > 0)
                {
                    await act.RunAsync(MemberStore.Told, ct);
                }

                await act.RunAsync(
                    """
                    insert into account (id, email, email_key, name, role, password_hash, made)
                    values (@id, @email, @key, @name, @role, @password, @now)
                    """,
                    ct, ("id", made.Id), ("email", made.Email), ("key", AccountStore.Key(made.Email)), ("name", made.Name), ("role", made.Role.ToString()), ("password", passwordHash), ("now", act.Now));
                // Whoever handed it over is out, if they are an owner still: what they did stays, under their name.
                await using var leave = act.Command("delete from account where id = @before::uuid and role = 'Owner' returning name", ("before", invited.HandsOver));
                var before = await leave.ExecuteScalarAsync(ct) as string;
                act.Who = new Actor(made.Id, made.Name);
                (act.IsKept, act.Says) = (true, _ => before is null ? PeopleWords.Joined(made.Role) : PeopleWords.TookOver(before));
                return made;
            },
            ct);
        return account;
    }

    static Invited Read(NpgsqlDataReader r) => new(r.Get<Guid>("id"), r.Get<string>("name"), r.Get<string>("email"), Enum.Parse<Role>(r.Get<string>("role")), r.Get<string>("by_name"), r.MaybeId("hands_over"));
}
