using Jovitar.Core.Access;
using Jovitar.Core.Acts;
using Jovitar.Core.People;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.People;

/// <summary>Somebody who works on the site.</summary>
/// <param name="Seen">When a browser of theirs was last here, as far as one is still signed in.</param>
internal sealed record StaffLine(Guid Id, string Name, string Email, Role Role, DateTimeOffset Made, DateTimeOffset? Seen, bool HasSecondStep, bool IsOneself);

/// <summary>What became of a change: done, refused with a sentence, or they are not there.</summary>
/// <param name="Refused">Null where nothing spoke against it.</param>
internal sealed record PeopleChange(bool IsThere, string? Refused)
{
    public static readonly PeopleChange Done = new(IsThere: true, null);
    public static readonly PeopleChange Gone = new(IsThere: false, null);
}

/// <summary>Those who work on the site, and what an owner changes of them. Each change holds from the next request on, in every process.</summary>
internal sealed class PeopleStore(NpgsqlDataSource db, ActRunner acts, TimeProvider clock)
{
    public async Task<IReadOnlyList<StaffLine>> StaffAsync(Guid oneself, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            select a.id, a.name, a.email, a.role, a.made,
                   (select max(s.seen) from session as s where s.account = a.id and s.expires > @now) as seen,
                   exists (select from second_step as t where t.account = a.id and t.since is not null) as has_second_step
              from account as a
             where a.role in ('Editor', 'Owner')
             order by (a.role = 'Owner') desc, lower(a.name), a.id
            """,
            ("now", clock.GetUtcNow()));
        return await command.AllAsync(
            r => new StaffLine(
                r.Get<Guid>("id"), r.Get<string>("name"), r.Get<string>("email"), Enum.Parse<Role>(r.Get<string>("role")), r.Get<DateTimeOffset>("made"), r.Maybe<DateTimeOffset>("seen"),
                r.Get<bool>("has_second_step"), r.Get<Guid>("id") == oneself),
            ct);
    }

    /// <summary>Gives somebody another part.</summary>
    public Task<PeopleChange> MakeAsync(Actor who, Guid account, Role next, CancellationToken ct) => ChangeAsync(
        who, account, (colleague, owners) => StaffRules.AgainstRole(colleague, next, owners), "update account set role = @role where id = @account and role <> @role", name => PeopleWords.Made(name, next), ct,
        ("role", next.ToString()));

    /// <summary>Takes somebody out. Their browsers, their links and what they had in hand go with them; what they did stays, under their name.</summary>
    public Task<PeopleChange> TakeOutAsync(Actor who, Guid account, CancellationToken ct) =>
        ChangeAsync(who, account, StaffRules.AgainstLeaving, "delete from account where id = @account", PeopleWords.TookOut, ct);

    /// <summary>Signs all browsers of somebody's out, and shuts the links that would sign them in.</summary>
    public Task<PeopleChange> SignOutAsync(Actor who, Guid account, CancellationToken ct) => ChangeAsync(
        who, account, (_, _) => null, "with ways as (delete from way_in where account = @account) delete from session where account = @account", PeopleWords.SignedOut, ct);

    /// <summary>Takes off the second step of somebody who lost their phone and their codes on paper.</summary>
    public Task<PeopleChange> SecondStepOffAsync(Actor who, Guid account, CancellationToken ct) =>
        ChangeAsync(who, account, (_, _) => null, "delete from second_step where account = @account and since is not null", PeopleWords.SecondStepOff, ct);

    /// <param name="against">What speaks against it, with how many owners there are.</param>
    /// <param name="change">Writes it; an act only where it writes something.</param>
    async Task<PeopleChange> ChangeAsync(
        Actor who, Guid account, Func<Colleague, int, string?> against, string change, Func<string, string> says, CancellationToken ct, params (string, object?)[] more)
    {
        var (answer, _) = await acts.RunAsync(
            who, ActKind.People,
            async act =>
            {
                // Two owners who take each other out at the same moment: the second finds who is left.
                await act.RunAsync("lock table account in share row exclusive mode", ct);
                await using var read = act.Command(
                    """
                    select name, role, (select count(*)::int from account where role = 'Owner') as owners
                      from account
                     where id = @account and role <> 'Member'
                    """,
                    ("account", account));
                if (await read.FirstAsync(r => Tuple.Create(r.Get<string>("name"), Enum.Parse<Role>(r.Get<string>("role")), r.Get<int>("owners")), ct) is not var (name, role, owners))
                {
                    return act.Drop(PeopleChange.Gone);
                }

                if (against(new Colleague(role, account == who.Account), owners) is { } refused)
                {
                    return act.Drop(new PeopleChange(IsThere: true, refused));
                }

                act.IsKept = await act.RunAsync(change, ct, [("account", account), .. more]) > 0;
                act.Says = _ => says(name);
                return PeopleChange.Done;
            },
            ct);
        return answer;
    }
}
