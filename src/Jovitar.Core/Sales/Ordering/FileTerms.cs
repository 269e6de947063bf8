namespace Jovitar.Core.Sales.Ordering;

/// <summary>Why a file that was ordered is not handed out.</summary>
public enum NotFetched
{
    /// <summary>It is.</summary>
    No,
    Cancelled,
    NotPaid,

    /// <summary>Its days are over.</summary>
    TooLate,

    /// <summary>It was fetched as often as it was sold for.</summary>
    TooOften,
}

/// <summary>How long and how often a file is there that was ordered: from when its money came, as its option says.</summary>
/// <param name="Paid">When its money came; null while it has not.</param>
/// <param name="Fetched">So often it was fetched.</param>
public readonly record struct FileTerms(SaleOption Option, OrderState State, DateTimeOffset? Paid, int Fetched)
{
    /// <summary>The end of its days; null for none, and while it is not paid.</summary>
    public DateTimeOffset? Until => Option.Days is { } days ? Paid?.AddDays(days) : null;

    /// <summary>So often it may still be fetched; null for as often as they like.</summary>
    public int? Left => Option.Downloads is { } most ? Math.Max(0, most - Fetched) : null;

    /// <summary>Why it is not handed out at a time.</summary>
    public NotFetched At(DateTimeOffset now) =>
        State == OrderState.Cancelled ? NotFetched.Cancelled
        : Paid is null ? NotFetched.NotPaid
        : now > Until ? NotFetched.TooLate
        : Left == 0 ? NotFetched.TooOften
        : NotFetched.No;
}
