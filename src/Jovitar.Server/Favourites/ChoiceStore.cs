using Jovitar.Core;
using Jovitar.Core.Favourites;
using Jovitar.Core.People;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Albums;
using Jovitar.Server.People;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Favourites;

/// <summary>What one visitor chose of an album.</summary>
/// <param name="Photos">In the order in which they were chosen.</param>
internal sealed record Choice(string Words, DateTimeOffset? Sent, IReadOnlyList<Guid> Photos);

/// <summary>How something that a visitor did with their choice ended.</summary>
/// <param name="Asked">The album still asks for favourites.</param>
/// <param name="Refusal">Why it was not done; null where it was.</param>
internal sealed record ChoiceTaken(bool Asked, Refusal? Refusal, Choosing? Choosing)
{
    public static readonly ChoiceTaken NotAsked = new(false, null, null);
}

/// <summary>Favourites that visitors choose where an album asks for them: kept here, so that every device of theirs has the same, and whoever asked has them.</summary>
internal sealed class ChoiceStore(NpgsqlDataSource db, OwnerLetters owners, TimeProvider clock)
{
    /// <summary>The condition that a choice <c>c</c> of an album is somebody's.</summary>
    static string Theirs(KnownAs who) => $"c.album = @album and {(who.Member is null ? "c.entry = @entry::uuid" : "c.account = @account::uuid")}";

    static (string, object?)[] Of(AlbumId album, KnownAs who) => [("album", album.Value), ("account", who.Member), ("entry", who.Entry)];

    /// <summary>What somebody has chosen; nothing where they have not begun. Null where nobody is like that any more.</summary>
    public async Task<Choice?> FindAsync(AlbumId album, KnownAs who, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select coalesce(c.words, '') as words, c.sent,
                   array(select cp.photo from choice_photo as cp where cp.choice = c.id order by cp.at, cp.photo) as photos
              from (select) as one
              left join account as a on a.id = @account::uuid
              left join entry as e on e.id = @entry::uuid
              left join choice as c on {Theirs(who)}
             where coalesce(a.id, e.id) is not null
            """,
            Of(album, who));
        return await command.FirstAsync(r => new Choice(r.Get<string>("words"), r.Maybe<DateTimeOffset>("sent"), r.Get<Guid[]>("photos")), ct);
    }

    /// <summary>Chooses a photo, or lets go of it. Whoever chooses by the same entry at the same time waits for this.</summary>
    /// <param name="unseen">Of those they have chosen, the ones that they do not see any more: those count for nothing.</param>
    public Task<ChoiceTaken> MarkAsync(AlbumId album, KnownAs who, PhotoId photo, bool chosen, IReadOnlyCollection<Guid> unseen, CancellationToken ct) => ChangeAsync(
        album, who,
        async (tx, choice, choosing, now) =>
        {
            if (!chosen)
            {
                await tx.RunAsync("delete from choice_photo where choice = @choice and photo = @photo", ct, ("choice", choice.Id), ("photo", photo.Value));
                return choosing.Refuses(choice.Sent, now);
            }

            if (choosing.RefusesMore(choice.Sent, await CountAsync(tx, choice.Id, [.. unseen, photo.Value], ct), now) is { } refusal)
            {
                return refusal;
            }

            await tx.RunAsync(
                "insert into choice_photo (choice, photo, at) select @choice, p.id, @now from photo as p where p.id = @photo on conflict do nothing",
                ct, ("choice", choice.Id), ("photo", photo.Value), ("now", now));
            return null;
        },
        ct);

    /// <summary>Says that somebody is done, and tells the owners.</summary>
    /// <param name="words">What they say with it.</param>
    /// <param name="unseen">As above: with nothing else there is nothing to send.</param>
    public Task<ChoiceTaken> SendAsync(AlbumId album, KnownAs who, string words, IReadOnlyCollection<Guid> unseen, CancellationToken ct) => ChangeAsync(
        album, who,
        async (tx, choice, choosing, now) =>
        {
            if (choosing.Refuses(choice.Sent, now) is { } refusal)
            {
                return refusal;
            }

            if (await CountAsync(tx, choice.Id, unseen, ct) is var photos && photos == 0)
            {
                return Refusal.Empty;
            }

            await tx.RunAsync("update choice set words = @words, sent = @now, noted = null where id = @choice", ct, ("choice", choice.Id), ("words", words), ("now", now));
            await TellAsync(tx, album, choice, photos, words, now, ct);
            return null;
        },
        ct);

    sealed record Begun(Guid Id, string Name, DateTimeOffset? Sent);

    /// <summary>Does something with a choice, which is begun where there is none. What is refused leaves no trace.</summary>
    Task<ChoiceTaken> ChangeAsync(AlbumId album, KnownAs who, Func<Transaction, Begun, Choosing, DateTimeOffset, Task<Refusal?>> change, CancellationToken ct) => Database.AgainAsync(
        async () =>
        {
            var now = clock.GetUtcNow();
            await using var tx = await db.BeginAsync(ct);
            // Held until this is done: what it asks does not become something else in the middle of it.
            await using var asks = tx.Command($"select {OfferStore.Columns("a")} from album as a where a.id = @album and a.binned is null for share", ("album", album.Value));
            if (await asks.FirstAsync(OfferStore.Read, ct) is not { Choosing: { } choosing })
            {
                return ChoiceTaken.NotAsked;
            }

            await tx.RunAsync(
                """
                insert into choice (id, album, account, entry, name, changed)
                select @id, @album, @account::uuid, @entry::uuid, coalesce(a.name, e.name), @now
                  from (select) as one
                  left join account as a on a.id = @account::uuid
                  left join entry as e on e.id = @entry::uuid
                 where coalesce(a.id, e.id) is not null
                on conflict do nothing
                """,
                ct, [.. Of(album, who), ("id", Guid.CreateVersion7(now)), ("now", now)]);
            await using var find = tx.Command($"select c.id, c.name, c.sent from choice as c where {Theirs(who)} for no key update", Of(album, who));
            if (await find.FirstAsync(r => new Begun(r.Get<Guid>("id"), r.Get<string>("name"), r.Maybe<DateTimeOffset>("sent")), ct) is not { } choice)
            {
                return ChoiceTaken.NotAsked;
            }

            if (await change(tx, choice, choosing, now) is { } refusal)
            {
                return new ChoiceTaken(true, refusal, choosing);
            }

            await tx.RunAsync("update choice set changed = @now where id = @choice", ct, ("choice", choice.Id), ("now", now));
            await tx.CommitAsync(ct);
            return new ChoiceTaken(true, null, choosing);
        },
        ct);

    /// <summary>How many photos are in a choice but for some.</summary>
    static async Task<int> CountAsync(Transaction tx, Guid choice, IReadOnlyCollection<Guid> but, CancellationToken ct)
    {
        await using var count = tx.Command("select count(*)::int from choice_photo where choice = @choice and photo <> all(@but)", ("choice", choice), ("but", but.ToArray()));
        return (int)(await count.ExecuteScalarAsync(ct))!;
    }

    /// <summary>Writes a letter to each owner.</summary>
    async Task TellAsync(Transaction tx, AlbumId album, Begun choice, int photos, string words, DateTimeOffset now, CancellationToken ct)
    {
        await using var find = tx.Command("select working_name from album where id = @album", ("album", album.Value));
        var called = (string)(await find.ExecuteScalarAsync(ct))!;
        await owners.PutAsync(
            tx, now, (site, owner, origin) => Letters.Favourites(site, owner, choice.Name, called, photos, words, origin is null ? null : $"{origin}/workroom/favourites?choice={choice.Id}"), ct);
    }
}
