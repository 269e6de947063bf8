namespace Jovitar.Core.Sales.Coupons;

/// <summary>What a coupon takes off. Kept by name.</summary>
public enum CouponKind
{
    /// <summary>A share of what the goods cost.</summary>
    Percent,

    /// <summary>So much of what the goods cost.</summary>
    Amount,

    /// <summary>What sending costs.</summary>
    Postage,
}

/// <summary>A code that takes something off an order.</summary>
/// <param name="Code">As buyers type it, in capitals.</param>
public sealed record Coupon(string Code, CouponKind Kind)
{
    public const int ShortestCode = 3;
    public const int LongestCode = 24;
    public const int LongestNote = 200;
    public const int MostUses = 100_000;

    /// <summary>Of a share: more than 0, up to 100, two digits behind the point.</summary>
    public decimal Percent { get; init; }

    /// <summary>Of an amount: how much; else null.</summary>
    public Money? Amount { get; init; }

    /// <summary>Of postage: express post, too.</summary>
    public bool ByExpress { get; init; }

    /// <summary>Of postage: abroad, too.</summary>
    public bool Abroad { get; init; }

    /// <summary>Only goods of this value and more, before anything is taken off; null for any.</summary>
    public Money? From { get; init; }

    /// <summary>The first day on which it is good; null for at once.</summary>
    public DateOnly? Begins { get; init; }

    /// <summary>The last day on which it is good; null for always.</summary>
    public DateOnly? Ends { get; init; }

    /// <summary>For so many orders in all; null for as many as come.</summary>
    public int? Uses { get; init; }

    /// <summary>Each buyer has it once.</summary>
    public bool IsOnceEach { get; init; }

    /// <summary>Goes with others that do.</summary>
    public bool GoesWithOthers { get; init; }

    /// <summary>Nobody can use it.</summary>
    public bool IsOff { get; init; }

    /// <summary>What it is for, of those who sell for themselves.</summary>
    public string Note { get; init; } = "";

    /// <summary>A code as it is kept, of one that somebody typed: without spaces, in capitals.</summary>
    public static string CodeOf(string typed) => string.Concat(Text.Name(typed).Where(c => !char.IsWhiteSpace(c))).ToUpperInvariant();

    /// <summary>What is wrong with it; null for nothing.</summary>
    public string? Fault() =>
        Code.Length is < ShortestCode or > LongestCode || !Code.All(c => char.IsLetterOrDigit(c) || c == '-') ? $"A code has {ShortestCode} to {LongestCode} letters, digits and hyphens."
        : Kind switch
        {
            CouponKind.Percent when !Percents.IsOne(Percent) => "More than 0 and up to 100 per cent are taken off, two digits behind the point at most.",
            CouponKind.Amount when Amount is not { Minor: > 0 } => "Say how much is taken off.",
            CouponKind.Percent or CouponKind.Amount or CouponKind.Postage => null,
            _ => "There is no such coupon.",
        } is { } kind ? kind
        : Begins > Ends ? "It ends before it begins."
        : Uses is < 1 or > MostUses ? $"It is for 1 to {MostUses:N0} orders."
        : Text.Fault(Note, LongestNote);

    /// <summary>The same as it is kept: without what does not go with the rest.</summary>
    public Coupon AsKept() => this with
    {
        Code = CodeOf(Code),
        Percent = Kind == CouponKind.Percent ? Percents.AsKept(Percent) : 0,
        Amount = Kind == CouponKind.Amount ? Amount : null,
        ByExpress = ByExpress && Kind == CouponKind.Postage,
        Abroad = Abroad && Kind == CouponKind.Postage,
        From = From is { Minor: > 0 } ? From : null,
        Note = Text.Name(Note),
    };

    /// <summary>It says amounts of money, and they are of another currency.</summary>
    public bool IsOtherThan(Currency currency) => (Amount ?? From)?.Currency is { } own && own != currency;
}
