namespace Jovitar.Core.Sales.Payments;

/// <summary>How far a payment has come. Kept by name.</summary>
public enum PaymentState
{
    /// <summary>Its buyer was led to the payment service.</summary>
    Open,
    Paid,

    /// <summary>Money came, but not what was asked for: people have to look at it.</summary>
    Wrong,

    /// <summary>Nobody will pay it any more.</summary>
    Ended,
}

/// <summary>Where a payment stands, by what was heard of it.</summary>
/// <param name="Asked">What it is about.</param>
/// <param name="Came">What came; null for nothing yet.</param>
/// <param name="Returned">What went back, minor units of what came.</param>
public readonly record struct PaymentStanding(PaymentState State, Money Asked, Money? Came, long Returned)
{
    public static PaymentStanding Open(Money asked) => new(PaymentState.Open, asked, null, 0);

    /// <summary>
    /// Where it stands after a notice. In whatever order notices come, and however often, it ends the same: money that came has come, what went
    /// back only grows, and an end is none once money has come.
    /// </summary>
    public PaymentStanding After(PaymentNotice notice) => notice switch
    {
        { News: PaymentNews.Paid, Amount: { } amount } when Came is null => this with { State = amount == Asked ? PaymentState.Paid : PaymentState.Wrong, Came = amount },
        { News: PaymentNews.Ended } when State == PaymentState.Open => this with { State = PaymentState.Ended },
        { News: PaymentNews.Refunded, Amount: { } back } when back.Currency == (Came ?? Asked).Currency && back.Minor > Returned => this with { Returned = back.Minor },
        _ => this,
    };

    /// <summary>What can still go back; null for nothing.</summary>
    /// <param name="underWay">Minor units that were asked to go back, the returned ones with them.</param>
    public Money? Refundable(long underWay) => Came is { } came && came.Minor - Math.Max(Returned, underWay) is > 0 and var left ? came with { Minor = left } : null;
}
