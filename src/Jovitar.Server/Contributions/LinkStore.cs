using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Acts;
using Jovitar.Core.Contributions;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Contributions;

/// <summary>A contribution link as staff have it.</summary>
/// <param name="Path">Where it is opened, from the site's root.</param>
/// <param name="IsOpen">Photos are taken by it now.</param>
/// <param name="Contributions">So many were sent by it.</param>
/// <param name="Waiting">So many of their photos wait.</param>
internal sealed record LinkLine(
    Guid Id, string Title, string Words, string Agree, AlbumId? Album, string? AlbumName, DateTimeOffset? Ends, bool ForMembers, int Most, string Path, bool IsOpen, int Contributions, int Waiting, string MadeBy, long Version);

/// <summary>A contribution link as whoever opens it finds it.</summary>
internal sealed record LinkFound(Guid Id, LinkWords Words, CallForPhotos Thing);

/// <summary>How a write to a contribution link ended.</summary>
internal enum LinkOutcome
{
    Written,
    Gone,
    Stale,
    Full,
}

/// <summary>Contribution links: who has one sends photos in, with its instructions.</summary>
internal sealed class LinkStore(NpgsqlDataSource db, ActRunner acts, TimeProvider clock)
{
    /// <summary>Where one is opened.</summary>
    public const string Path = "/send";

    /// <summary>So many are good at the same time.</summary>
    public const int Most = 100;

    /// <summary>Those that were not withdrawn, the latest first.</summary>
    public async Task<IReadOnlyList<LinkLine>> ListAsync(CancellationToken ct)
    {
        var now = clock.GetUtcNow();
        await using var command = db.Command(
            """
            select l.*, a.working_name, coalesce(s.sent, 0) as sent, coalesce(s.waiting, 0) as waiting
              from contribution_link as l
              left join album as a on a.id = l.album and a.binned is null
             cross join lateral (
               select count(distinct c.id)::int as sent, count(p.id)::int as waiting
                 from contribution as c
                 left join contribution_photo as p on p.contribution = c.id and p.state = 'Waiting'
                where c.link = l.id and c.sent is not null) as s
             where l.revoked is null
             order by l.made desc, l.id
             limit @most
            """,
            ("most", Most));
        return await command.AllAsync(
            r =>
            {
                var words = Read(r);
                var name = r.MaybeText("working_name");
                return new LinkLine(
                    r.Get<Guid>("id"), words.Title, words.Words, words.Agree, name is null ? null : new AlbumId(r.Get<Guid>("album")), name, words.Ends, words.ForMembers, words.Most, $"{Path}/{r.Get<string>("secret")}",
                    words.Thing(withdrawn: false, now).IsOpen, r.Get<int>("sent"), r.Get<int>("waiting"), r.Get<string>("made_by"), r.Get<long>("version"));
            },
            ct);
    }

    static LinkWords Read(NpgsqlDataReader r) => new(r.Get<string>("title"), r.Get<string>("words"), r.Get<string>("agree"), r.Maybe<DateTimeOffset>("ends"), r.Get<bool>("for_members"), r.Get<int>("most"));

    /// <summary>What a link asks for; null for one that is none.</summary>
    public async Task<LinkFound?> FindAsync(string secret, CancellationToken ct)
    {
        if (EntrySecret.Hash(EntryKind.Link, secret) is not { } hash)
        {
            return null;
        }

        await using var command = db.Command("select * from contribution_link where hash = @hash", ("hash", hash));
        return await command.FirstAsync(Found, ct);
    }

    /// <summary>The same by its id.</summary>
    public static async Task<LinkFound?> HeldAsync(Transaction tx, Guid link, DateTimeOffset now, CancellationToken ct)
    {
        await using var command = tx.Command("select * from contribution_link where id = @link for share", ("link", link));
        return await command.FirstAsync(r => Found(r, now), ct);
    }

    LinkFound Found(NpgsqlDataReader r) => Found(r, clock.GetUtcNow());

    static LinkFound Found(NpgsqlDataReader r, DateTimeOffset now)
    {
        var words = Read(r);
        return new LinkFound(r.Get<Guid>("id"), words, words.Thing(r.Maybe<DateTimeOffset>("revoked") is not null, now));
    }

    static (string, object?)[] Parameters(LinkWords words, AlbumId? album) =>
        [("title", words.Title), ("words", words.Words), ("agree", words.Agree), ("album", album?.Value), ("ends", words.Ends), ("members", words.ForMembers), ("most", words.Most)];

    /// <summary>Makes one.</summary>
    /// <param name="words">As they are kept.</param>
    public async Task<LinkOutcome> MakeAsync(Actor who, LinkWords words, AlbumId? album, CancellationToken ct) => (await acts.RunAsync(
        who, ActKind.Contributions,
        async act =>
        {
            await act.RunAsync("lock table contribution_link in share row exclusive mode", ct);
            await using var count = act.Command("select count(*) from contribution_link where revoked is null");
            if ((long)(await count.ExecuteScalarAsync(ct))! >= Most)
            {
                return act.Drop(LinkOutcome.Full);
            }

            (act.IsKept, act.Says) = (true, _ => ContributionWords.MadeLink(words.Title));
            var secret = EntrySecret.New(EntryKind.Link);
            await act.RunAsync(
                """
                insert into contribution_link (id, title, words, agree, album, ends, for_members, most, secret, hash, made, made_by)
                values (@id, @title, @words, @agree, (select a.id from album as a where a.id = @album::uuid and a.binned is null),
                  @ends::timestamptz, @members, @most, @secret, @hash, @now, @by)
                """,
                ct, [("id", Guid.CreateVersion7(act.Now)), ("secret", secret), ("hash", EntrySecret.Hash(EntryKind.Link, secret)), ("now", act.Now), ("by", act.Who.Name), .. Parameters(words, album)]);
            return LinkOutcome.Written;
        },
        ct)).Answer;

    /// <summary>Has one ask for something else. Where accepted photos are put holds for what is sent from then on.</summary>
    /// <param name="expected">The version that was read.</param>
    public async Task<LinkOutcome> ChangeAsync(Actor who, Guid link, LinkWords words, AlbumId? album, long expected, CancellationToken ct) => (await acts.RunAsync(
        who, ActKind.Contributions,
        async act =>
        {
            await using var find = act.Command("select version from contribution_link where id = @link and revoked is null for no key update", ("link", link));
            if (await find.ExecuteScalarAsync(ct) is not long version)
            {
                return act.Drop(LinkOutcome.Gone);
            }

            if (version != expected)
            {
                return act.Drop(LinkOutcome.Stale);
            }

            (act.IsKept, act.Says) = (true, _ => ContributionWords.ChangedLink(words.Title));
            await act.RunAsync(
                """
                update contribution_link
                   set title = @title, words = @words, agree = @agree,
                       album = (select a.id from album as a where a.id = @album::uuid and a.binned is null),
                       ends = @ends::timestamptz, for_members = @members, most = @most, version = version + 1
                 where id = @link
                """,
                ct, [("link", link), .. Parameters(words, album)]);
            return LinkOutcome.Written;
        },
        ct)).Answer;

    /// <summary>Withdraws one: nothing more comes by it; what was sent stays.</summary>
    /// <returns>False when it is not there.</returns>
    public async Task<bool> WithdrawAsync(Actor who, Guid link, CancellationToken ct) => (await acts.RunAsync(
        who, ActKind.Contributions,
        async act =>
        {
            await using var revoke = act.Command("update contribution_link set revoked = @now where id = @link and revoked is null returning title", ("link", link), ("now", act.Now));
            if (await revoke.ExecuteScalarAsync(ct) is not string title)
            {
                return act.Drop(false);
            }

            (act.IsKept, act.Says) = (true, _ => ContributionWords.WithdrewLink(title));
            return true;
        },
        ct)).Answer;
}
