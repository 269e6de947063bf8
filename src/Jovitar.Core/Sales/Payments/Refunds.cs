namespace Jovitar.Core.Sales.Payments;

/// <summary>How much of an order's money went back. Kept by name.</summary>
public enum Refunded
{
    Nothing,
    InPart,
    All,
}

/// <summary>Money that goes back to a buyer.</summary>
public static class Refunds
{
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
