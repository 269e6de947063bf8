using Jovitar.Core.Access;
using Jovitar.Core.People;
using Jovitar.Server.Access;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Mailing;
using Npgsql;

namespace Jovitar.Server.People;

/// <summary>Links in letters that sign somebody in: each good once, for half an hour, and of which only a hash is kept.</summary>
internal sealed class WayInStore(NpgsqlDataSource db, LetterStore letters, SettingsStore settings, TimeProvider clock, ILogger<WayInStore> log)
{
    /// <summary>Where members sign in on the site, without a script; a link's secret behind it.</summary>
    public const string MemberPath = "/sign-in";

    /// <summary>A wish that waited longer than its link would hold is forgotten.</summary>
    static readonly TimeSpan Patience = StaffRules.WayInLife;

    /// <summary>Notes that somebody asked for one. Nothing is looked up: the answer is the same, and takes as long, whether there is such an account or not.</summary>
    /// <param name="origin">Where the site was asked at.</param>
    public async Task WishAsync(string email, string origin, CancellationToken ct)
    {
        await using var command = db.Command("insert into way_in_wish (email_key, origin, made) values (@key, @origin, @now)", ("key", AccountStore.Key(email)), ("origin", origin), ("now", clock.GetUtcNow()));
        await command.ExecuteNonQueryAsync(ct);
    }

    /// <summary>Writes the letter of the eldest wish, where there is such an account.</summary>
    /// <param name="said">The site's address as the operator says it; null for none.</param>
    /// <returns>False when no wish is left.</returns>
    public async Task<bool> AnswerAsync(string? said, CancellationToken ct)
    {
        var now = clock.GetUtcNow();
        await using var tx = await db.BeginAsync(ct);
        await using var take = tx.Command(
            """
            with wish as (
              delete from way_in_wish
               where id = (select id from way_in_wish order by id limit 1 for update skip locked)
              returning email_key, origin, made)
            select w.made, a.id as account, a.name, a.email, coalesce(a.role = 'Member', false) as is_member,
                   (select o.address from known_origin as o order by (o.address = w.origin) desc, o.seen desc limit 1) as known
              from wish as w
              left join account as a on a.email_key = w.email_key and a.role <> 'None'
            """);
        if (await take.FirstAsync(r => new Wish(r.Get<DateTimeOffset>("made"), r.MaybeId("account"), r.MaybeText("name") ?? "", r.MaybeText("email") ?? "", r.Get<bool>("is_member"), r.MaybeText("known")), ct) is not { } wish)
        {
            return false;
        }

        await tx.RunAsync("delete from way_in where expires <= @now", ct, ("now", now));
        if (wish.Account is { } account && wish.Made > now - Patience)
        {
            if ((said ?? wish.Known) is { } origin)
            {
                var (secret, expires) = (LinkSecret.New(), now + StaffRules.WayInLife);
                await tx.RunAsync("insert into way_in (hash, account, expires) values (@hash, @account, @expires)", ct, ("hash", LinkSecret.Hash(secret)), ("account", account), ("expires", expires));
                var title = (await settings.ReadAsync(ct)).Title;
                var letter = wish.IsMember
                    ? Letters.MemberWayIn(title, wish.Name, $"{origin}{MemberPath}/{secret}", expires)
                    : Letters.WayIn(title, wish.Name, $"{origin}/workroom/way-in#{secret}", expires);
                await letters.PutAsync(tx, wish.Name, wish.Email, letter.Subject, letter.Text, expires, ct);
            }
            else
            {
                log.LogWarning("A letter was asked for, but nobody has signed in yet since links are sent, and Jovitar__Address is not set: where the site is to be reached is not known");
            }
        }

        await tx.CommitAsync(ct);
        return true;
    }

    sealed record Wish(DateTimeOffset Made, Guid? Account, string Name, string Email, bool IsMember, string? Known);

    /// <summary>Whom a link signs in; null where it was used or has run out.</summary>
    public async Task<Account?> FindAsync(string secret, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            select a.id, a.email, a.name, a.role, a.password_hash
              from way_in as w
              join account as a on a.id = w.account
             where w.hash = @hash and w.expires > @now
            """,
            ("hash", LinkSecret.Hash(secret)), ("now", clock.GetUtcNow()));
        return await command.FirstAsync(r => new Account(r.Get<Guid>("id"), r.Get<string>("email"), r.Get<string>("name"), Enum.Parse<Role>(r.Get<string>("role")), r.Get<string>("password_hash")), ct);
    }

    /// <summary>Uses a link up.</summary>
    /// <returns>False where somebody else did meanwhile, or it has run out.</returns>
    public async Task<bool> UseAsync(string secret, CancellationToken ct)
    {
        await using var command = db.Command("delete from way_in where hash = @hash and expires > @now", ("hash", LinkSecret.Hash(secret)), ("now", clock.GetUtcNow()));
        return await command.ExecuteNonQueryAsync(ct) == 1;
    }
}
