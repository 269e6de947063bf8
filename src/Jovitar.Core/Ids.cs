using System.Diagnostics.CodeAnalysis;

namespace Jovitar.Core;

/// <summary>An identity that cannot be mistaken for one of another kind of thing. Values are UUID version 7 (RFC 9562), so they sort by the time they were made.</summary>
public interface ITypedId<TSelf> : IParsable<TSelf>
    where TSelf : struct, ITypedId<TSelf>
{
    /// <summary>The bare value, as the database keeps it.</summary>
    Guid Value { get; }

    /// <summary>Wraps a bare value.</summary>
    static abstract TSelf From(Guid value);

    /// <inheritdoc/>
    static TSelf IParsable<TSelf>.Parse(string s, IFormatProvider? provider) => TSelf.From(Guid.Parse(s, provider));

    /// <inheritdoc/>
    static bool IParsable<TSelf>.TryParse([NotNullWhen(true)] string? s, IFormatProvider? provider, out TSelf result)
    {
        var good = Guid.TryParse(s, provider, out var value);
        result = TSelf.From(value);
        return good;
    }
}

/// <summary>Names one photo.</summary>
public readonly record struct PhotoId(Guid Value) : ITypedId<PhotoId>
{
    public static PhotoId From(Guid value) => new(value);

    public static bool TryParse(string? s, IFormatProvider? provider, out PhotoId result) => TypedId.TryParse(s, out result);

    public override string ToString() => Value.ToString();
}

/// <summary>Names one price list.</summary>
public readonly record struct PriceListId(Guid Value) : ITypedId<PriceListId>
{
    public static PriceListId From(Guid value) => new(value);

    public static bool TryParse(string? s, IFormatProvider? provider, out PriceListId result) => TypedId.TryParse(s, out result);

    public override string ToString() => Value.ToString();
}

/// <summary>Names one coupon.</summary>
public readonly record struct CouponId(Guid Value) : ITypedId<CouponId>
{
    public static CouponId From(Guid value) => new(value);

    public static bool TryParse(string? s, IFormatProvider? provider, out CouponId result) => TypedId.TryParse(s, out result);

    public override string ToString() => Value.ToString();
}

/// <summary>Names one narrowing that is kept.</summary>
public readonly record struct NarrowingId(Guid Value) : ITypedId<NarrowingId>
{
    public static NarrowingId From(Guid value) => new(value);

    public static bool TryParse(string? s, IFormatProvider? provider, out NarrowingId result) => TypedId.TryParse(s, out result);

    public override string ToString() => Value.ToString();
}

/// <summary>Names settings of a block that are kept.</summary>
public readonly record struct KeptSettingsId(Guid Value) : ITypedId<KeptSettingsId>
{
    public static KeptSettingsId From(Guid value) => new(value);

    public static bool TryParse(string? s, IFormatProvider? provider, out KeptSettingsId result) => TypedId.TryParse(s, out result);

    public override string ToString() => Value.ToString();
}

/// <summary>Names one block, on its page.</summary>
public readonly record struct BlockId(Guid Value) : ITypedId<BlockId>
{
    public static BlockId From(Guid value) => new(value);

    public static bool TryParse(string? s, IFormatProvider? provider, out BlockId result) => TypedId.TryParse(s, out result);

    public override string ToString() => Value.ToString();
}

/// <summary>Names one album.</summary>
public readonly record struct AlbumId(Guid Value) : ITypedId<AlbumId>
{
    public static AlbumId From(Guid value) => new(value);

    public static bool TryParse(string? s, IFormatProvider? provider, out AlbumId result) => TypedId.TryParse(s, out result);

    public override string ToString() => Value.ToString();
}

/// <summary>Names one category.</summary>
public readonly record struct CategoryId(Guid Value) : ITypedId<CategoryId>
{
    public static CategoryId From(Guid value) => new(value);

    public static bool TryParse(string? s, IFormatProvider? provider, out CategoryId result) => TypedId.TryParse(s, out result);

    public override string ToString() => Value.ToString();
}

/// <summary>Names one tag.</summary>
public readonly record struct TagId(Guid Value) : ITypedId<TagId>
{
    public static TagId From(Guid value) => new(value);

    public static bool TryParse(string? s, IFormatProvider? provider, out TagId result) => TypedId.TryParse(s, out result);

    public override string ToString() => Value.ToString();
}

/// <summary>Names one page.</summary>
public readonly record struct PageId(Guid Value) : ITypedId<PageId>
{
    public static PageId From(Guid value) => new(value);

    public static bool TryParse(string? s, IFormatProvider? provider, out PageId result) => TypedId.TryParse(s, out result);

    public override string ToString() => Value.ToString();
}

/// <summary>Names one intake.</summary>
public readonly record struct IntakeId(Guid Value) : ITypedId<IntakeId>
{
    public static IntakeId From(Guid value) => new(value);

    public static bool TryParse(string? s, IFormatProvider? provider, out IntakeId result) => TypedId.TryParse(s, out result);

    public override string ToString() => Value.ToString();
}

/// <summary>Names one file.</summary>
public readonly record struct FileId(Guid Value) : ITypedId<FileId>
{
    public static FileId From(Guid value) => new(value);

    public static bool TryParse(string? s, IFormatProvider? provider, out FileId result) => TypedId.TryParse(s, out result);

    public override string ToString() => Value.ToString();
}

/// <summary>Names one upload.</summary>
public readonly record struct UploadId(Guid Value) : ITypedId<UploadId>
{
    public static UploadId From(Guid value) => new(value);

    public static bool TryParse(string? s, IFormatProvider? provider, out UploadId result) => TypedId.TryParse(s, out result);

    public override string ToString() => Value.ToString();
}

/// <summary>Names one watched folder.</summary>
public readonly record struct WatchedFolderId(Guid Value) : ITypedId<WatchedFolderId>
{
    public static WatchedFolderId From(Guid value) => new(value);

    public static bool TryParse(string? s, IFormatProvider? provider, out WatchedFolderId result) => TypedId.TryParse(s, out result);

    public override string ToString() => Value.ToString();
}

/// <summary>Names one order.</summary>
public readonly record struct OrderId(Guid Value) : ITypedId<OrderId>
{
    public static OrderId From(Guid value) => new(value);

    public static bool TryParse(string? s, IFormatProvider? provider, out OrderId result) => TypedId.TryParse(s, out result);

    public override string ToString() => Value.ToString();
}

/// <summary>Names one payment at a payment service.</summary>
public readonly record struct PaymentId(Guid Value) : ITypedId<PaymentId>
{
    public static PaymentId From(Guid value) => new(value);

    public static bool TryParse(string? s, IFormatProvider? provider, out PaymentId result) => TypedId.TryParse(s, out result);

    public override string ToString() => Value.ToString();
}

/// <summary>Names one refund.</summary>
public readonly record struct RefundId(Guid Value) : ITypedId<RefundId>
{
    public static RefundId From(Guid value) => new(value);

    public static bool TryParse(string? s, IFormatProvider? provider, out RefundId result) => TypedId.TryParse(s, out result);

    public override string ToString() => Value.ToString();
}

/// <summary>Names one act.</summary>
public readonly record struct ActId(Guid Value) : ITypedId<ActId>
{
    public static ActId From(Guid value) => new(value);

    public static bool TryParse(string? s, IFormatProvider? provider, out ActId result) => TypedId.TryParse(s, out result);

    public override string ToString() => Value.ToString();
}

/// <summary>What all identities share.</summary>
public static class TypedId
{
    /// <summary>Reads an identity from text; false when it is not a UUID.</summary>
    public static bool TryParse<T>(string? s, out T result)
        where T : struct, ITypedId<T>
    {
        var good = Guid.TryParse(s, out var value);
        result = T.From(value);
        return good;
    }

    /// <summary>Bare values, as the database takes them.</summary>
    public static Guid[] Values<T>(this IEnumerable<T> ids)
        where T : struct, ITypedId<T> => [.. ids.Select(i => i.Value)];
}
