using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Coupons;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Jovitar.Server.Sales.Ordering;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace Jovitar.Server.Sales.Coupons;

/// <summary>A coupon, for those who sell.</summary>
/// <param name="Standing">Why nobody can use it now, in words; empty where they can.</param>
/// <param name="Used">So many orders had something taken off by it.</param>
/// <param name="Version">Expected by the next write.</param>
internal sealed record CouponSeen(CouponId Id, CouponSaid Coupon, string Standing, int Used, long Version)
{
    /// <param name="currency">In which is sold.</param>
    public static CouponSeen Of(KeptCoupon kept, Currency currency, DateOnly today) => new(kept.Id, CouponSaid.Of(kept.Coupon, currency), CouponWords.Standing(kept.Coupon, CouponRule.Standing(kept.Coupon, kept.Used, currency, today)), kept.Used, kept.Version);
}

/// <summary>All coupons there are.</summary>
/// <param name="Currency">In which is sold: what new ones take off is of it.</param>
internal sealed record CouponList(IReadOnlyList<CouponSeen> Coupons, string Currency);

/// <summary>A coupon as it is kept now, and the act that did it.</summary>
internal sealed record CouponKept(CouponSeen Seen, Done Done);

/// <summary>Coupons.</summary>
internal static class CouponEndpoints
{
    public static void MapCoupons(this IEndpointRouteBuilder api)
    {
        var coupons = api.MapGroup("/coupons").RequireAuthorization(Security.Editors).WithTags("Coupons");
        coupons.MapGet("", List).WithSummary("Coupons, and how often each was used");
        coupons.MapPost("", Make).WithSummary("Makes a coupon");
        coupons.MapPut("/{coupon}", Write).NeedsVersion().WithSummary("Writes a coupon anew; baskets have it at once");
        coupons.MapDelete("/{coupon}", LetGo).NeedsVersion().WithSummary("Lets a coupon go; orders keep what it took off");
    }

    static async Task<Ok<CouponList>> List(CouponStore store, ShopStore shops, TimeProvider clock, CancellationToken ct)
    {
        var (currency, today) = ((await shops.ReadAsync(ct)).Shop.Currency, clock.Today());
        return TypedResults.Ok(new CouponList([.. (await store.ListAsync(ct)).Select(c => CouponSeen.Of(c, currency, today))], currency.Code));
    }

    static async Task<Results<Ok<CouponKept>, NotFound<Problem>, BadRequest<Problem>, Conflict<Problem>>> Make(CouponSaid body, Actor who, CouponStore store, ShopStore shops, TimeProvider clock, CancellationToken ct)
    {
        var (coupon, wrong, field) = body.Read();
        if (coupon is null)
        {
            return Wrong(wrong!, field);
        }

        var currency = (await shops.ReadAsync(ct)).Shop.Currency;
        var (outcome, id, done) = await store.MakeAsync(who, coupon, currency, ct);
        return outcome == CouponOutcome.Taken ? Problems.Taken(IsTaken, "code")
            : outcome == CouponOutcome.TooMany ? Problems.Invalid($"There are {CouponStore.Most} coupons already; let one go first.")
            : await store.FindAsync(id, ct) is { } kept ? TypedResults.Ok(new CouponKept(CouponSeen.Of(kept, currency, clock.Today()), done)) : Problems.Gone("coupon");
    }

    static async Task<Results<Ok<CouponKept>, NotFound<Problem>, BadRequest<Problem>, Conflict<Problem>, Stale>> Write(
        CouponId coupon, CouponSaid body, [FromHeader(Name = "If-Match")] long version, Actor who, CouponStore store, ShopStore shops, TimeProvider clock, CancellationToken ct)
    {
        var (read, wrong, field) = body.Read();
        if (read is null)
        {
            return Wrong(wrong!, field);
        }

        var currency = (await shops.ReadAsync(ct)).Shop.Currency;
        var (outcome, done) = await store.WriteAsync(who, coupon, read, currency, version, ct);
        return outcome switch
        {
            CouponOutcome.Stale => Problems.Stale("coupon"),
            CouponOutcome.Taken => Problems.Taken(IsTaken, "code"),
            CouponOutcome.Written when await store.FindAsync(coupon, ct) is { } kept => TypedResults.Ok(new CouponKept(CouponSeen.Of(kept, currency, clock.Today()), done)),
            _ => Problems.Gone("coupon"),
        };
    }

    static async Task<Results<Ok<Done>, NotFound<Problem>, Stale>> LetGo(CouponId coupon, [FromHeader(Name = "If-Match")] long version, Actor who, CouponStore store, CancellationToken ct)
    {
        var (outcome, done) = await store.LetGoAsync(who, coupon, version, ct);
        return outcome == CouponOutcome.Stale ? Problems.Stale("coupon") : outcome == CouponOutcome.Written ? TypedResults.Ok(done) : Problems.Gone("coupon");
    }

    static BadRequest<Problem> Wrong(string wrong, string? field) => Problems.Invalid(wrong, field is null ? null : new Dictionary<string, string> { [field] = wrong });

    const string IsTaken = "Another coupon has this code.";
}
