namespace Jovitar.Core.Sales.Payments;

/// <summary>How much of an order's money went back. Kept by name.</summary>
public enum Refunded
{
    Nothing,
    InPart,
    All,
}

/// <summary>A payment with what is to go back of it.</summary>
/// <param name="Asked">What was asked to go back and was not refused, minor units; what has gone back with it.</param>
public readonly record struct PaymentToRefund(PaymentId Id, PaymentStanding Standing, long Asked);

/// <summary>What can go back of an order.</summary>
/// <param name="By">The payment that it goes back by; null for by hand.</param>
/// <param name="Most">Null for nothing.</param>
/// <param name="OnItsWay">What was asked to go back and has not yet, each in the currency it came in.</param>
public sealed record Refundable(PaymentId? By, Money? Most, IReadOnlyList<Money> OnItsWay);

/// <summary>Money that came for an order by a service.</summary>
/// <param name="Amount">Minor units.</param>
/// <param name="Pays">It is what was asked for.</param>
/// <param name="IsExtra">The order was paid already when it came.</param>
public readonly record struct CameIn(long Amount, bool Pays, bool IsExtra);

/// <summary>Money that goes back to a buyer.</summary>
public static class Refunds
{
    /// <summary>
    /// What can go back of an order: by the payment of which most is left, for money goes back the way it came; what came otherwise, by hand.
    /// </summary>
    /// <param name="isPaid">Its money has come, in whatever way.</param>
    /// <param name="returned">What went back, minor units.</param>
    /// <param name="came">Payments at services; those that nothing came of count for nothing.</param>
    public static Refundable Of(Money total, bool isPaid, long returned, IEnumerable<PaymentToRefund> came)
    {
        var paid = came.Where(c => c.Standing.Came is not null).ToArray();
        Money[] onItsWay = [.. paid.Where(c => c.Asked > c.Standing.Returned).Select(c => c.Standing.Came!.Value with { Minor = c.Asked - c.Standing.Returned })];
        if (paid.Length == 0)
        {
            return new Refundable(null, isPaid && total.Minor > returned ? total with { Minor = total.Minor - returned } : null, onItsWay);
        }

        var (by, most) = paid.Select(c => (c.Id, Most: c.Standing.Refundable(c.Asked))).MaxBy(c => c.Most?.Minor ?? 0);
        return new Refundable(by, most, onItsWay);
    }

    /// <summary>What came for an order beyond its price, minor units. Where the first money came by a service though the order was paid, its price had come by hand.</summary>
    /// <param name="total">The price, minor units.</param>
    /// <param name="came">What came by services in its currency.</param>
    public static long Overpaid(long total, IReadOnlyCollection<CameIn> came) =>
        Math.Max(0, came.Sum(c => c.Amount) - (came.Any(c => c.IsExtra) && !came.Any(c => c is { Pays: true, IsExtra: false }) ? 0 : total));

    /// <summary>How much of what went back is of an order's price: what came beyond that goes back first.</summary>
    /// <param name="returned">Minor units.</param>
    /// <param name="overpaid">What came beyond the price, minor units.</param>
    public static long OfPrice(long returned, long overpaid) => Math.Max(0, returned - overpaid);

    /// <summary>How much of what came went back.</summary>
    /// <param name="came">Minor units.</param>
    public static Refunded Of(long came, long returned) => returned <= 0 ? Refunded.Nothing : returned < came ? Refunded.InPart : Refunded.All;

    /// <summary>Reads how much is to go back; null where nothing like that can.</summary>
    /// <param name="most">What can still go back; null for nothing.</param>
    /// <returns>The amount, or why it is none.</returns>
    public static (Money? Amount, string? Wrong) Read(string typed, Money? most) =>
        most is not { } limit ? (null, "Nothing can be refunded of this order.")
        : Money.Read(typed, limit.Currency, long.MaxValue) is not { Minor: > 0 } amount ? (null, $"Say how much is to go back, up to {limit.Said}.")
        : amount.Minor > limit.Minor ? (null, $"At most {limit.Said} can go back.")
        : (amount, null);
}
