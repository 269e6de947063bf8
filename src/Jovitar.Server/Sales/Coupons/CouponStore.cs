using System.Text.Json;
using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Coupons;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Jovitar.Server.Sales.Ordering;
using Npgsql;

namespace Jovitar.Server.Sales.Coupons;

/// <summary>A coupon as it is kept.</summary>
/// <param name="Used">So many orders had something taken off by it; those that were cancelled give it back.</param>
/// <param name="Version">Expected by the next write.</param>
public sealed record KeptCoupon(CouponId Id, Coupon Coupon, int Used, long Version);

/// <summary>How a write of a coupon ended.</summary>
internal enum CouponOutcome
{
    Written,
    Gone,
    Stale,

    /// <summary>Another has the same code.</summary>
    Taken,

    /// <summary>There are so many already.</summary>
    TooMany,
}

/// <summary>How an order came by its coupons.</summary>
internal enum CouponTaking
{
    Taken,

    /// <summary>One of them has become another, or was used up, since the order was summed.</summary>
    Changed,

    /// <summary>The buyer has used one that is for each buyer once.</summary>
    UsedBefore,
}

/// <summary>Coupons, and which orders had something taken off by them.</summary>
internal sealed class CouponStore(NpgsqlDataSource db, ActRunner acts)
{
    /// <summary>So many a site has.</summary>
    public const int Most = 200;

    /// <summary>What <see cref="Read"/> reads of a coupon <c>c</c>.</summary>
    static readonly string Columns =
        $"""
        c.id, c.content::text as content, c.version,
          (select count(*) from coupon_use as u where u.coupon = c.id)::int
            - (select count(*)
                 from sale_order as o
                 join coupon_use as u on u.sale_order = o.id and u.coupon = c.id
                where {CountingOrders.CountsNot})::int as used
        """;

    static KeptCoupon Read(NpgsqlDataReader r) => new(
        new CouponId(r.Get<Guid>("id")), JsonSerializer.Deserialize<CouponSaid>(r.Get<string>("content"), PriceStore.Json)!.Read() is { Coupon: { } coupon } ? coupon : throw new InvalidDataException("A coupon cannot be read."),
        r.Get<int>("used"), r.Get<long>("version"));

    static (string, object?)[] Fields(Coupon coupon, Currency currency) => [("code", coupon.Code), ("content", JsonSerializer.Serialize(CouponSaid.Of(coupon, currency), PriceStore.Json))];

    /// <summary>All there are, the newest first.</summary>
    public async Task<IReadOnlyList<KeptCoupon>> ListAsync(CancellationToken ct)
    {
        await using var command = db.Command($"select {Columns} from coupon as c where c.binned is null order by c.made desc, c.id limit @most", ("most", Most));
        return await command.AllAsync(Read, ct);
    }

    /// <summary>There are some that are not off.</summary>
    public async Task<bool> AnyAsync(CancellationToken ct)
    {
        await using var command = db.Command("select exists (select from coupon where binned is null and not (content ->> 'isOff')::boolean)");
        return (bool)(await command.ExecuteScalarAsync(ct))!;
    }

    /// <returns>Null when it is not there.</returns>
    public async Task<KeptCoupon?> FindAsync(CouponId id, CancellationToken ct)
    {
        await using var command = db.Command($"select {Columns} from coupon as c where c.id = @id and c.binned is null", ("id", id.Value));
        return await command.FirstAsync(Read, ct);
    }

    /// <summary>The one that somebody typed; null for none.</summary>
    public async Task<KeptCoupon?> FindAsync(string code, CancellationToken ct)
    {
        await using var command = db.Command($"select {Columns} from coupon as c where c.code = @code and c.binned is null", ("code", code));
        return await command.FirstAsync(Read, ct);
    }

    /// <summary>Those of a basket, as they came there.</summary>
    public async Task<IReadOnlyList<KeptCoupon>> OfAsync(Guid basket, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select {Columns}
              from basket_coupon as b
              join coupon as c on c.id = b.coupon and c.binned is null
             where b.basket = @basket
             order by b.added, c.id
            """,
            ("basket", basket));
        return await command.AllAsync(Read, ct);
    }

    /// <summary>Makes one.</summary>
    /// <param name="currency">Of the shop.</param>
    public async Task<(CouponOutcome Outcome, CouponId Id, Done Done)> MakeAsync(Actor who, Coupon coupon, Currency currency, CancellationToken ct)
    {
        var id = new CouponId(Guid.CreateVersion7());
        var (outcome, done) = await RunAsync(
            who, async act =>
            {
                act.Says = _ => CouponWords.Made(coupon.Code);
                var made = await act.RunAsync(
                    """
                    insert into coupon (id, code, content, made)
                    select @id, @code, @content::jsonb, @now
                     where (select count(*) from coupon where binned is null) < @most
                    """,
                    ct, [("id", id.Value), ("now", act.Now), ("most", Most), .. Fields(coupon, currency)]);
                return made == 0 ? CouponOutcome.TooMany : CouponOutcome.Written;
            },
            ct);
        return (outcome, id, done);
    }

    /// <summary>Writes one anew; baskets have it at once.</summary>
    /// <param name="expected">The version that was looked at.</param>
    public Task<(CouponOutcome Outcome, Done Done)> WriteAsync(Actor who, CouponId id, Coupon coupon, Currency currency, long expected, CancellationToken ct) => RunAsync(
        who, async act =>
        {
            var (before, outcome) = await TakeAsync(act, id, expected, ct);
            if (before is null)
            {
                return outcome;
            }

            act.Says = _ => CouponWords.Changed(before, coupon);
            await act.RunAsync("update coupon set code = @code, content = @content::jsonb, version = version + 1 where id = @id", ct, [("id", id.Value), .. Fields(coupon, currency)]);
            return CouponOutcome.Written;
        },
        ct);

    /// <summary>Lets one go; undo brings it back. Orders that had something taken off by it keep that.</summary>
    public Task<(CouponOutcome Outcome, Done Done)> LetGoAsync(Actor who, CouponId id, long expected, CancellationToken ct) => RunAsync(
        who, async act =>
        {
            var (before, outcome) = await TakeAsync(act, id, expected, ct);
            if (before is null)
            {
                return outcome;
            }

            act.Says = _ => CouponWords.LetGo(before.Code);
            await act.RunAsync("update coupon set binned = @now, version = version + 1 where id = @id", ct, ("id", id.Value), ("now", act.Now));
            return CouponOutcome.Written;
        },
        ct);

    static async Task<(Coupon? Coupon, CouponOutcome Outcome)> TakeAsync(Act act, CouponId id, long expected, CancellationToken ct)
    {
        await using var find = act.Command($"select {Columns} from coupon as c where c.id = @id and c.binned is null for no key update of c", ("id", id.Value));
        return await find.FirstAsync(Read, ct) is not { } kept ? (null, CouponOutcome.Gone) : kept.Version != expected ? (null, CouponOutcome.Stale) : (kept.Coupon, CouponOutcome.Written);
    }

    async Task<(CouponOutcome, Done)> RunAsync(Actor who, Func<Act, Task<CouponOutcome>> write, CancellationToken ct)
    {
        try
        {
            return await acts.RunAsync(who, ActKind.Coupons, async act => await write(act) is var outcome && outcome == CouponOutcome.Written ? outcome : act.Drop(outcome), ct);
        }
        catch (PostgresException e) when (e.SqlState == PostgresErrorCodes.UniqueViolation)
        {
            return (CouponOutcome.Taken, Done.Nothing);
        }
    }

    /// <summary>Holds the coupons of an order that is about to be placed, so that no two orders have the last use of one, and looks whether they are still what they were.</summary>
    /// <param name="coupons">As they were when the order was summed.</param>
    public static async Task<CouponTaking> TakeAsync(Transaction tx, IReadOnlyCollection<KeptCoupon> coupons, PlacedOrder order, DateOnly today, CancellationToken ct)
    {
        if (coupons.Count == 0)
        {
            return CouponTaking.Taken;
        }

        // Who has waited for another order sees what that one used: asked anew, for what is counted is no part of the row.
        (string, object?)[] these = [("coupons", coupons.Select(c => c.Id).Values())];
        await tx.RunAsync("select from coupon where id = any(@coupons) order by id for no key update", ct, these);
        await using var find = tx.Command($"select {Columns} from coupon as c where c.id = any(@coupons) and c.binned is null", these);
        var now = (await find.AllAsync(Read, ct)).ToDictionary(c => c.Id);
        if (coupons.Any(c => now.GetValueOrDefault(c.Id) is not { } kept || kept.Version != c.Version || CouponRule.Standing(kept.Coupon, kept.Used, order.Total.Currency, today) != CouponRefusal.None))
        {
            return CouponTaking.Changed;
        }

        await using var before = tx.Command(
            $"""
            select exists (
              select
                from sale_order as o
                join coupon_use as u on u.sale_order = o.id and u.coupon = any(@coupons)
               where lower(o.email) = lower(@email) and {CountingOrders.Counts})
            """,
            ("coupons", coupons.Where(c => c.Coupon.IsOnceEach).Select(c => c.Id).Values()), ("email", order.Buyer.Email));
        return (bool)(await before.ExecuteScalarAsync(ct))! ? CouponTaking.UsedBefore : CouponTaking.Taken;
    }

    /// <summary>Writes down which coupons took something off an order.</summary>
    public static async Task UseAsync(Transaction tx, IReadOnlyCollection<KeptCoupon> coupons, Guid order, CancellationToken ct)
    {
        if (coupons.Count > 0)
        {
            await tx.RunAsync("insert into coupon_use (coupon, sale_order) select c, @order from unnest(@coupons) as c", ct, ("order", order), ("coupons", coupons.Select(c => c.Id).Values()));
        }
    }
}
