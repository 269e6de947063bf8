using Jovitar.Core;
using Jovitar.Core.Corrections;
using Jovitar.Core.Sales.Coupons;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Server.Platform;
using Jovitar.Server.Sales.Coupons;
using Npgsql;

namespace Jovitar.Server.Sales.Ordering;

/// <summary>Whose basket: of an account, or of who holds a cookie.</summary>
/// <param name="Secret">What is kept of that cookie.</param>
internal sealed record BasketOf(Guid? Account, byte[]? Secret);

/// <summary>A line of a basket.</summary>
/// <param name="Middle">What stays in the middle of a print, as its buyer moved it; null for as it stands.</param>
/// <param name="IsWhole">Nothing is cut off, and white is left instead.</param>
internal sealed record BasketLine(Guid Id, AlbumId Album, PhotoId Photo, Guid Option, int Count, Spot? Middle, bool IsWhole);

/// <summary>A photo that is put into a basket, from an album that sells it.</summary>
/// <param name="Middle">What stays in the middle of a print; null for as it stands.</param>
/// <param name="IsWhole">Nothing is cut off, and white is left instead.</param>
internal sealed record ToPutIn(AlbumId Album, PhotoId Photo, Spot? Middle = null, bool IsWhole = false);

/// <summary>What somebody is about to buy, in the order in which they put it there.</summary>
/// <param name="Coupons">That they typed, whether or not they take anything off.</param>
internal sealed record Basket(Guid Id, IReadOnlyList<BasketLine> Lines, IReadOnlyList<KeptCoupon> Coupons);

/// <summary>How putting something into a basket ended.</summary>
internal enum BasketOutcome
{
    Done,

    /// <summary>It holds as much as a basket does.</summary>
    Full,

    /// <summary>The photo or the album was removed meanwhile.</summary>
    Gone,
}

/// <summary>What visitors are about to buy: only what, of which and how many. What it costs is found out whenever it is looked at.</summary>
internal sealed class BasketStore(NpgsqlDataSource db, CouponStore coupons, TimeProvider clock)
{
    /// <summary>So long a basket is kept that belongs to no account.</summary>
    public static readonly TimeSpan Kept = TimeSpan.FromDays(60);

    const string Columns = "l.id, l.album, l.photo, l.option, l.count, l.middle_x, l.middle_y, l.is_whole";

    static string Theirs(BasketOf of) => of.Account is null ? "b.secret = @secret" : "b.account = @account";

    static (string, object?)[] Parameters(BasketOf of) => of.Account is { } account ? [("account", account)] : [("secret", of.Secret)];

    static BasketLine Read(NpgsqlDataReader r) => new(
        r.Get<Guid>("id"), new AlbumId(r.Get<Guid>("album")), new PhotoId(r.Get<Guid>("photo")), r.Get<Guid>("option"), r.Get<int>("count"),
        r.Maybe<double>("middle_x") is { } x && r.Maybe<double>("middle_y") is { } y ? new Spot(x, y) : null, r.Get<bool>("is_whole"));

    /// <returns>Null where nothing was put into one.</returns>
    public async Task<Basket?> FindAsync(BasketOf of, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select b.id as basket, {Columns}
              from basket as b
              join basket_line as l on l.basket = b.id
             where {Theirs(of)}
             order by l.added, l.id
            """,
            Parameters(of));
        var found = await command.AllAsync(r => (Basket: r.Get<Guid>("basket"), Line: Read(r)), ct);
        return found.Count == 0 ? null : new Basket(found[0].Basket, [.. found.Select(f => f.Line)], await coupons.OfAsync(found[0].Basket, ct));
    }

    /// <summary>Puts something in; of what is there already, so many more.</summary>
    public Task<BasketOutcome> AddAsync(BasketOf of, ToPutIn photo, Guid option, int count, CancellationToken ct) => AddAsync(of, [photo], option, count, ct);

    /// <summary>Puts so many of an option in, of each of some photos, or of none of them.</summary>
    /// <param name="photos">Each once.</param>
    public async Task<BasketOutcome> AddAsync(BasketOf of, IReadOnlyList<ToPutIn> photos, Guid option, int count, CancellationToken ct)
    {
        (string, object?)[] said =
        [
            ("albums", photos.Select(p => p.Album.Value).ToArray()), ("photos", photos.Select(p => p.Photo.Value).ToArray()), ("option", option), ("count", count),
            ("xs", photos.Select(p => p.Middle?.X).ToArray()), ("ys", photos.Select(p => p.Middle?.Y).ToArray()), ("most", Wanted.MostCount),
            ("wholes", photos.Select(p => p.IsWhole).ToArray()),
        ];
        try
        {
            return await ChangeAsync(
                of, begins: true,
                async (tx, basket, now) =>
                {
                    await using var room = tx.Command(
                        """
                        select count(*)::int
                          from basket_line as l
                         where l.basket = @basket
                           and not exists (
                             select
                               from unnest(@albums, @photos) as s(album, photo)
                              where (l.album, l.photo, l.option) = (s.album, s.photo, @option))
                        """,
                        [.. said, ("basket", basket)]);
                    if ((int)(await room.ExecuteScalarAsync(ct))! + photos.Count > BasketSum.MostLines)
                    {
                        return BasketOutcome.Full;
                    }

                    await tx.RunAsync(
                        """
                        insert into basket_line as l (id, basket, album, photo, option, count, middle_x, middle_y, is_whole, added)
                        select s.id, @basket, s.album, s.photo, @option, @count, s.x, s.y, s.whole,
                               @now + (s.n - 1) * interval '1 microsecond'
                          from unnest(@ids, @albums, @photos, @xs, @ys, @wholes) with ordinality as s(id, album, photo, x, y, whole, n)
                        on conflict (basket, album, photo, option) do update
                          set count = least(l.count + excluded.count, @most),
                              middle_x = excluded.middle_x, middle_y = excluded.middle_y, is_whole = excluded.is_whole
                        """,
                        ct, [.. said, ("basket", basket), ("now", now), ("ids", photos.Select(_ => Guid.CreateVersion7(now)).ToArray())]);
                    return BasketOutcome.Done;
                },
                ct);
        }
        catch (PostgresException e) when (e.SqlState == PostgresErrorCodes.ForeignKeyViolation)
        {
            return BasketOutcome.Gone;
        }
    }

    /// <summary>Says how many of some lines there are; with none of it a line is taken out.</summary>
    public Task<BasketOutcome> CountAsync(BasketOf of, IReadOnlyDictionary<Guid, int> counts, CancellationToken ct) => ChangeAsync(
        of, begins: false,
        async (tx, basket, _) =>
        {
            (string, object?)[] said = [("basket", basket), ("lines", counts.Keys.ToArray()), ("counts", counts.Values.ToArray())];
            await tx.RunAsync(
                """
                delete from basket_line as l
                 using unnest(@lines, @counts) as s(line, count)
                 where l.basket = @basket and l.id = s.line and s.count < 1
                """,
                ct, said);
            await tx.RunAsync(
                """
                update basket_line as l
                   set count = least(s.count, @most)
                  from unnest(@lines, @counts) as s(line, count)
                 where l.basket = @basket and l.id = s.line and s.count >= 1 and l.count <> s.count
                """,
                ct, [.. said, ("most", Wanted.MostCount)]);
            return BasketOutcome.Done;
        },
        ct);

    /// <summary>Puts a coupon in.</summary>
    public async Task<BasketOutcome> AddCouponAsync(BasketOf of, CouponId coupon, CancellationToken ct)
    {
        try
        {
            return await ChangeAsync(
                of, begins: false,
                async (tx, basket, now) =>
                {
                    var put = await tx.RunAsync(
                        """
                        insert into basket_coupon (basket, coupon, added)
                        select @basket, @coupon, @now
                         where (select count(*) from basket_coupon where basket = @basket and coupon <> @coupon) < @most
                        on conflict (basket, coupon) do update set added = basket_coupon.added
                        """,
                        ct, ("basket", basket), ("coupon", coupon.Value), ("now", now), ("most", CouponRule.MostInBasket));
                    return put == 0 ? BasketOutcome.Full : BasketOutcome.Done;
                },
                ct);
        }
        catch (PostgresException e) when (e.SqlState == PostgresErrorCodes.ForeignKeyViolation)
        {
            return BasketOutcome.Gone;
        }
    }

    /// <summary>Takes a coupon out.</summary>
    public Task<BasketOutcome> TakeCouponOutAsync(BasketOf of, CouponId coupon, CancellationToken ct) => ChangeAsync(
        of, begins: false,
        async (tx, basket, _) =>
        {
            await tx.RunAsync("delete from basket_coupon where basket = @basket and coupon = @coupon", ct, ("basket", basket), ("coupon", coupon.Value));
            return BasketOutcome.Done;
        },
        ct);

    /// <summary>What somebody put in before they signed in goes into the basket that they have everywhere, as far as there is room.</summary>
    /// <returns>Whether all of it did.</returns>
    public async Task<bool> MergeAsync(byte[] secret, Guid account, CancellationToken ct)
    {
        var isAll = true;
        await ChangeAsync(
            new BasketOf(account, null), begins: true,
            async (tx, basket, _) =>
            {
                await using var there = tx.Command("select count(*)::int from basket_line where basket = @basket", ("basket", basket));
                var room = BasketSum.MostLines - (int)(await there.ExecuteScalarAsync(ct))!;
                // The other basket is held before its lines are read: who puts something into it meanwhile waits, and begins another.
                await tx.RunAsync("select from basket where secret = @secret for update", ct, ("secret", secret));
                await tx.RunAsync(
                    """
                    with moved as (
                      select f.*
                        from basket as b
                        join basket_line as f on f.basket = b.id
                       where b.secret = @secret
                       order by f.added, f.id
                       limit @room),
                    put as (
                      insert into basket_line as l (id, basket, album, photo, option, count, middle_x, middle_y, is_whole, added)
                      select gen_random_uuid(), @basket, m.album, m.photo, m.option, m.count, m.middle_x, m.middle_y, m.is_whole, m.added
                        from moved as m
                      on conflict (basket, album, photo, option) do update
                        set count = least(l.count + excluded.count, @most))
                    delete from basket_line as l using moved as m where l.id = m.id
                    """,
                    ct, ("basket", basket), ("secret", secret), ("room", Math.Max(0, room)), ("most", Wanted.MostCount));
                await using var left = tx.Command("select exists (select from basket as b join basket_line as l on l.basket = b.id where b.secret = @secret)", ("secret", secret));
                isAll = !(bool)(await left.ExecuteScalarAsync(ct))!;
                if (isAll)
                {
                    await tx.RunAsync(
                        """
                        insert into basket_coupon (basket, coupon, added)
                        select @basket, f.coupon, f.added
                          from basket as b
                          join basket_coupon as f on f.basket = b.id
                         where b.secret = @secret
                         order by f.added, f.coupon
                         limit greatest(0, @most - (select count(*) from basket_coupon where basket = @basket))
                        on conflict do nothing
                        """,
                        ct, ("basket", basket), ("secret", secret), ("most", CouponRule.MostInBasket));
                    await tx.RunAsync("delete from basket where secret = @secret", ct, ("secret", secret));
                }

                return BasketOutcome.Done;
            },
            ct);
        return isAll;
    }

    /// <summary>Does something with a basket, one at a time.</summary>
    /// <param name="begins">There need not be one yet.</param>
    Task<BasketOutcome> ChangeAsync(BasketOf of, bool begins, Func<Transaction, Guid, DateTimeOffset, Task<BasketOutcome>> change, CancellationToken ct) => Database.AgainAsync(
        async () =>
        {
            var now = clock.GetUtcNow();
            await using var tx = await db.BeginAsync(ct);
            if (begins)
            {
                await tx.RunAsync(
                    "insert into basket (id, account, secret, changed) values (@id, @account::uuid, @secret::bytea, @now) on conflict do nothing", ct,
                    ("id", Guid.CreateVersion7(now)), ("account", of.Account), ("secret", of.Account is null ? of.Secret : null), ("now", now));
            }

            await using var find = tx.Command($"update basket as b set changed = @now where {Theirs(of)} returning b.id", [("now", now), .. Parameters(of)]);
            if (await find.ExecuteScalarAsync(ct) is not Guid basket)
            {
                return BasketOutcome.Gone;
            }

            var outcome = await change(tx, basket, now);
            if (outcome == BasketOutcome.Done)
            {
                await tx.CommitAsync(ct);
            }

            return outcome;
        },
        ct);

    /// <summary>Removes baskets of no account that nobody has touched for long.</summary>
    public async Task ForgetAsync(DateTimeOffset now, CancellationToken ct)
    {
        await using var command = db.Command("delete from basket where account is null and changed < @before", ("before", now - Kept));
        await command.ExecuteNonQueryAsync(ct);
    }
}
