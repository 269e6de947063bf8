using Jovitar.Core;
using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Figures;
using Jovitar.Server.Platform;
using Jovitar.Server.Sales.Ordering;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Sales.Figures;

/// <summary>What orders came to: amounts in digits with a point.</summary>
/// <param name="Share">Of the best month, 0 to 1; 1 for the whole year.</param>
internal sealed record SoldSumsSeen(int Orders, long Pieces, string Goods, string TakenOff, string Postage, string Tax, string Total, string Returned, double Share)
{
    public static SoldSumsSeen Of(SoldSums sums, double share = 1) => new(
        sums.Orders, sums.Pieces, sums.Goods.ToString(), sums.TakenOff.ToString(), sums.Postage.ToString(), sums.Tax.ToString(), sums.Total.ToString(), sums.Returned.ToString(), share);
}

/// <summary>What was sold of an option or a photo.</summary>
/// <param name="Photo">As it is now; null for an option, and where it was removed for good.</param>
/// <param name="Stays">What stays of what has its cost said; empty where none has.</param>
/// <param name="IsInPart">Of some of it nobody said what it costs.</param>
internal sealed record SoldThingSeen(Guid Id, string Called, OrderedPhoto? Photo, long Pieces, string Amount, string Stays, bool IsInPart)
{
    public static SoldThingSeen Of(Guid id, string called, OrderedPhoto? photo, SoldThing sold) => new(id, called, photo, sold.Pieces, sold.Amount.ToString(), sold.Stays?.ToString() ?? "", sold.IsInPart);
}

/// <summary>What was sold in a year.</summary>
/// <param name="Years">Those in which something can have been sold, the latest first.</param>
/// <param name="Currencies">In which something was sold that year, and the shop's.</param>
/// <param name="Months">All twelve.</param>
/// <param name="Options">What was sold for most, first.</param>
/// <param name="Photos">The same.</param>
internal sealed record SoldSeen(
    int Year, IReadOnlyList<int> Years, string Currency, IReadOnlyList<string> Currencies, IReadOnlyList<SoldSumsSeen> Months, SoldSumsSeen Whole, IReadOnlyList<SoldThingSeen> Options, IReadOnlyList<SoldThingSeen> Photos);

/// <summary>What was sold.</summary>
internal static class SoldEndpoints
{
    public static void MapSold(this IEndpointRouteBuilder api) =>
        api.MapGet("/sold", Show).RequireAuthorization(Access.Security.Editors).WithTags("Orders").WithSummary("What was sold in a year: by month, by what was bought, and by photo");

    /// <param name="year">In which it was paid (UTC); this year unless said.</param>
    /// <param name="currency">Its code in ISO 4217; the shop's unless said.</param>
    static async Task<Results<Ok<SoldSeen>, BadRequest<Problem>>> Show(int? year, string? currency, SoldStore store, ShopStore shops, TimeProvider clock, CancellationToken ct)
    {
        var (now, own) = (clock.Today().Year, (await shops.ReadAsync(ct)).Shop.Currency);
        var of = year ?? now;
        if (of is < 1 or > 9998)
        {
            return Problems.Invalid("There is no such year.");
        }

        if ((currency is null ? own : Currency.Find(currency)) is not { } wanted)
        {
            return Problems.Invalid("There is no such currency.");
        }

        var first = Math.Min(await store.FirstYearAsync(ct) ?? now, now);
        var sold = await store.YearAsync(of, wanted, ct);
        return TypedResults.Ok(new SoldSeen(
            of, [.. Enumerable.Range(first, now - first + 1).Reverse()], wanted.Code, [.. (await store.CurrenciesAsync(of, ct)).Append(own.Code).Append(wanted.Code).Distinct()],
            [.. sold.Months.Zip(sold.Shares, SoldSumsSeen.Of)], SoldSumsSeen.Of(sold.Whole),
            [.. (await store.OptionsAsync(of, wanted, ct)).Select(o => SoldThingSeen.Of(o.Option, o.Called, null, o.Sold))],
            [.. (await store.PhotosAsync(of, wanted, ct)).Select(p => SoldThingSeen.Of(p.Photo.Value, p.Called, p.Seen, p.Sold))]));
    }
}
