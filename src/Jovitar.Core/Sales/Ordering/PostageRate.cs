using System.Globalization;

namespace Jovitar.Core.Sales.Ordering;

/// <summary>What of an order is sent.</summary>
/// <param name="Things">So many; 0 where it is all files.</param>
/// <param name="Grams">What they weigh, without packing; what nobody weighed counts as nothing.</param>
public readonly record struct Parcel(int Things, long Grams)
{
    public static Parcel Of(IEnumerable<Wanted> lines)
    {
        var sent = lines.Where(l => !l.Option.IsFile).ToArray();
        return new Parcel(sent.Sum(l => l.Count), sent.Sum(l => (long)(l.Option.Weight ?? 0) * l.Count));
    }

    /// <summary>A weight as people read it: in grams, from 1,000 on in kilograms.</summary>
    public static string Said(long grams) => grams < 1000 ? $"{grams} g" : string.Create(CultureInfo.InvariantCulture, $"{grams / 1000m:#,0.###} kg");
}

/// <summary>What a parcel costs once it is heavier than so much.</summary>
/// <param name="Over">Grams, packing with it.</param>
/// <param name="Costs">Null where nothing that heavy is sent.</param>
public sealed record WeightStep(int Over, Money? Costs);

/// <summary>What a way of sending costs.</summary>
/// <param name="Costs">For an order, or for each thing of it.</param>
public sealed record PostageRate(Money Costs, bool IsPerThing = false)
{
    public const int MostSteps = 8;

    /// <summary>Grams.</summary>
    public const int Heaviest = 100_000;

    /// <summary>What heavier orders cost, the lightest first.</summary>
    public IReadOnlyList<WeightStep> Heavier { get; init; } = [];

    /// <summary>What is wrong with it; null for nothing.</summary>
    public string? Fault() =>
        Heavier.Count > MostSteps ? $"Postage changes {MostSteps} times at most by weight."
        : Heavier.Any(s => s.Over is < 1 or > Heaviest) || Heavier.DistinctBy(s => s.Over).Count() < Heavier.Count ? $"Weights go up from 1 g to {Parcel.Said(Heaviest)}, each once."
        : null;

    /// <summary>The same as it is kept: beyond what is not sent there is nothing.</summary>
    public PostageRate AsKept()
    {
        var steps = Heavier.OrderBy(s => s.Over).ToList();
        var end = steps.FindIndex(s => s.Costs is null);
        return this with { Heavier = IsPerThing ? [] : end < 0 ? steps : [.. steps.Take(end + 1)] };
    }

    /// <summary>What a parcel costs; null where it is too heavy.</summary>
    /// <param name="grams">What it weighs, packing with it.</param>
    public Money? Of(Parcel parcel, long grams) =>
        IsPerThing ? Costs.Times(parcel.Things)
        : Heavier.LastOrDefault(s => s.Over < grams) is { } step ? step.Costs
        : Costs;

    /// <summary>Grams that a parcel weighs at most; null for no limit.</summary>
    public int? Most => Heavier.FirstOrDefault(s => s.Costs is null)?.Over;

    public bool Equals(PostageRate? other) => other is not null && (Costs, IsPerThing) == (other.Costs, other.IsPerThing) && Heavier.SequenceEqual(other.Heavier);

    public override int GetHashCode() => HashCode.Combine(Costs, Heavier.Count);
}

/// <summary>Countries to which sending costs the same.</summary>
/// <param name="Countries">Their codes (ISO 3166-1).</param>
/// <param name="Rate">Null where nothing is sent there.</param>
/// <param name="IsFree">What goes for nothing by its value goes there for nothing, too.</param>
public sealed record PostageZone(IReadOnlyList<string> Countries, PostageRate? Rate, bool IsFree = false)
{
    public bool Equals(PostageZone? other) => other is not null && (Rate, IsFree) == (other.Rate, other.IsFree) && Countries.SequenceEqual(other.Countries);

    public override int GetHashCode() => HashCode.Combine(Rate, IsFree, Countries.Count);
}
