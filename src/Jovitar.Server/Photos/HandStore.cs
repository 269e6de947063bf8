using Jovitar.Core;
using Jovitar.Core.Photos;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Photos;

/// <summary>Which photos an operation reaches: those that are named, or all that are in one's hand.</summary>
/// <param name="Photos">Named one by one; without any, and without the hand, nothing is reached.</param>
/// <param name="InHand">All that one has in hand, however many.</param>
public record Reach([AtMost(Hand.Most)] IReadOnlyList<PhotoId>? Photos = null, bool? InHand = null);

/// <summary>The photos in hand.</summary>
/// <param name="Photos">In the order they were taken up; of more than can be listed, the first.</param>
internal sealed record HandHeld(int Count, IReadOnlyList<PhotoId> Photos);

/// <summary>Photos in hand: a person's own, the same on every machine, until they are let go. What lies in the bin is passed over.</summary>
internal sealed class HandStore(NpgsqlDataSource db)
{
    public async Task<HandHeld> ReadAsync(Actor who, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            with held as materialized (
              select h.photo, h.place
                from in_hand as h
                join photo as p on p.id = h.photo and p.binned is null
               where h.account = @account)
            select (select count(*) from held) as count, array(select photo from held order by place limit @most) as photos
            """,
            ("account", who.Account), ("most", Hand.Most));
        return (await command.FirstAsync(r => new HandHeld((int)r.Get<long>("count"), [.. r.Get<Guid[]>("photos").Select(PhotoId.From)]), ct))!;
    }

    /// <summary>Takes photos up, behind those that are in hand already.</summary>
    public Task TakeAsync(Actor who, IReadOnlyList<PhotoId> photos, CancellationToken ct) => WriteAsync(
        """
        insert into in_hand (account, photo)
        select @account, w.id
          from unnest(@photos) with ordinality as w(id, n)
         order by w.n
        on conflict do nothing
        """,
        who, photos, ct);

    public Task LetGoAsync(Actor who, IReadOnlyList<PhotoId> photos, CancellationToken ct) =>
        WriteAsync("delete from in_hand where account = @account and photo = any(@photos)", who, photos, ct);

    /// <summary>Turns a sheet round: of its photos those in hand are let go, and the others taken up.</summary>
    public Task TurnAsync(Actor who, IReadOnlyList<PhotoId> photos, CancellationToken ct) => WriteAsync(
        """
        with gone as (
          delete from in_hand where account = @account and photo = any(@photos) returning photo)
        insert into in_hand (account, photo)
        select @account, w.id
          from unnest(@photos) with ordinality as w(id, n)
         where w.id not in (select photo from gone)
         order by w.n
        """,
        who, photos, ct);

    /// <summary>Holds these and no others, in this order.</summary>
    public async Task SetAsync(Actor who, IReadOnlyList<PhotoId> photos, CancellationToken ct)
    {
        await using var transaction = await db.BeginAsync(ct);
        await LockAsync(transaction, who, ct);
        await transaction.RunAsync("delete from in_hand where account = @account", ct, ("account", who.Account));
        await transaction.RunAsync(
            """
            insert into in_hand (account, photo)
            select @account, w.id
              from unnest(@photos) with ordinality as w(id, n)
             order by w.n
            on conflict do nothing
            """,
            ct, ("account", who.Account), ("photos", photos.Values()));
        await transaction.CommitAsync(ct);
    }

    /// <summary>Which of these photos are in hand.</summary>
    public async Task<IReadOnlyList<PhotoId>> AmongAsync(Actor who, IReadOnlyList<PhotoId> photos, CancellationToken ct)
    {
        await using var command = db.Command("select photo from in_hand where account = @account and photo = any(@photos)", ("account", who.Account), ("photos", photos.Values()));
        return await command.AllAsync(r => new PhotoId(r.GetGuid(0)), ct);
    }

    /// <summary>The photos that an operation reaches, each once, in their order.</summary>
    public async Task<IReadOnlyList<PhotoId>> ReachedAsync(Actor who, Reach reach, CancellationToken ct)
    {
        if (reach.InHand != true)
        {
            return [.. (reach.Photos ?? []).Distinct()];
        }

        await using var command = db.Command(
            """
            select h.photo
              from in_hand as h
              join photo as p on p.id = h.photo and p.binned is null
             where h.account = @account
             order by h.place
            """,
            ("account", who.Account));
        return await command.AllAsync(r => new PhotoId(r.GetGuid(0)), ct);
    }

    async Task WriteAsync(string sql, Actor who, IReadOnlyList<PhotoId> photos, CancellationToken ct)
    {
        await using var transaction = await db.BeginAsync(ct);
        await LockAsync(transaction, who, ct);
        await transaction.RunAsync(sql, ct, ("account", who.Account), ("photos", photos.Values()));
        await transaction.CommitAsync(ct);
    }

    /// <summary>One change of a hand after another: two tabs of one person would otherwise wait for each other's photos in a circle.</summary>
    static Task<int> LockAsync(Transaction transaction, Actor who, CancellationToken ct) =>
        transaction.RunAsync("select from account where id = @account for no key update", ct, ("account", who.Account));
}
