namespace Jovitar.Core.Sales.Ordering;

/// <summary>How an order comes to its buyer. Kept by name.</summary>
public enum Delivery
{
    /// <summary>Nothing is sent: it is all files, which are fetched.</summary>
    Files,
    Post,
    Express,

    /// <summary>They come and collect it.</summary>
    Collect,
}

/// <summary>A way by which an order can come to its buyer.</summary>
/// <param name="Sentence">Why it costs what it costs, for whoever pays it.</param>
/// <param name="IsAbroad">It goes to another country.</param>
public sealed record DeliveryWay(Delivery Delivery, Money Costs, string Sentence, bool IsAbroad = false)
{
    /// <summary>It goes to its buyer's address.</summary>
    public bool IsSent => Delivery is Delivery.Post or Delivery.Express;
}

/// <summary>What sending costs.</summary>
/// <param name="Home">The country from which is sent, and in which home rates hold (ISO 3166-1); empty while nobody has said.</param>
public sealed record Postage(string Home)
{
    public const int LongestPlace = 300;
    public const int MostZones = 20;

    /// <summary>Grams.</summary>
    public const int MostPacking = 20_000;

    /// <summary>Within the country; null where nothing is sent there.</summary>
    public PostageRate? AtHome { get; init; }

    /// <summary>Within the country and faster; null where that is not offered.</summary>
    public PostageRate? Express { get; init; }

    /// <summary>Goods of this value are sent for nothing; null for none.</summary>
    public Money? FreeFrom { get; init; }

    /// <summary>Only goods of more than that value are.</summary>
    public bool FreeIsOver { get; init; }

    /// <summary>They are sent by express for nothing, too.</summary>
    public bool FreeByExpress { get; init; }

    /// <summary>Other countries that have a rate of their own; each stands in one of them.</summary>
    public IReadOnlyList<PostageZone> Zones { get; init; } = [];

    /// <summary>To all countries that stand in no zone; null where nothing is sent there.</summary>
    public PostageRate? Elsewhere { get; init; }

    /// <summary>What goes for nothing by its value goes elsewhere for nothing, too.</summary>
    public bool FreeElsewhere { get; init; }

    /// <summary>What the packing of an order weighs, grams.</summary>
    public int Packing { get; init; }

    /// <summary>Where and when orders are collected; empty where they are not.</summary>
    public string Collected { get; init; } = "";

    IEnumerable<PostageRate> Rates => new[] { AtHome, Express, Elsewhere }.Concat(Zones.Select(z => z.Rate)).OfType<PostageRate>();

    /// <summary>Some of it goes by what orders weigh.</summary>
    public bool GoesByWeight => Rates.Any(r => r.Heavier.Count > 0);

    /// <summary>What is wrong with it; null for nothing.</summary>
    public string? Fault() =>
        Home.Length > 0 && Country.Find(Home) is null || Zones.SelectMany(z => z.Countries).Any(c => Country.Find(c) is null) ? "There is no such country."
        : Zones.Count > MostZones ? $"There are {MostZones} zones at most."
        : Zones.SelectMany(z => z.Countries).GroupBy(c => c).FirstOrDefault(c => c.Count() > 1) is { } twice ? $"{Country.Find(twice.Key)} stands in two zones."
        : Packing is < 0 or > MostPacking ? $"Packing weighs {Parcel.Said(MostPacking)} at most."
        : Rates.Select(r => r.Fault()).FirstOrDefault(f => f is not null) is { } rate ? rate
        : Text.Fault(Collected, LongestPlace) is { } words ? words
        : null;

    /// <summary>The same as it is kept: without what does not go with the rest.</summary>
    public Postage AsKept()
    {
        var home = Country.Find(Home)?.Code ?? Home;
        return this with
        {
            Home = home,
            AtHome = AtHome?.AsKept(),
            Express = Express?.AsKept(),
            FreeIsOver = FreeIsOver && FreeFrom is not null,
            FreeByExpress = FreeByExpress && FreeFrom is not null && Express is not null,
            Zones =
            [
                .. Zones.Select(z => new PostageZone([.. z.Countries.Select(c => Country.Find(c)?.Code ?? c).Distinct().Where(c => c != home)], z.Rate?.AsKept(), z.IsFree && FreeFrom is not null && z.Rate is not null)),
            ],
            Elsewhere = Elsewhere?.AsKept(),
            FreeElsewhere = FreeElsewhere && FreeFrom is not null && Elsewhere is not null,
            Collected = Collected.Trim(),
        };
    }

    /// <summary>The rate by which another country is reached.</summary>
    PostageZone ZoneOf(Country country) => Zones.FirstOrDefault(z => z.Countries.Contains(country.Code)) ?? new PostageZone([], Elsewhere, FreeElsewhere);

    /// <summary>Whether anything reaches a country by post.</summary>
    public bool SendsTo(Country country) => country.Code == Home ? AtHome is not null || Express is not null : ZoneOf(country).Rate is not null;

    /// <summary>The ways by which an order comes to a country, the usual one first.</summary>
    /// <param name="goods">What all of it costs without postage.</param>
    /// <param name="to">Null where the buyer has not said where they live: then as within the country.</param>
    public IReadOnlyList<DeliveryWay> Ways(Parcel parcel, Money goods, Country? to)
    {
        var nothing = goods with { Minor = 0 };
        if (parcel.Things == 0)
        {
            return [new DeliveryWay(Delivery.Files, nothing, "Files are fetched: nothing is sent.")];
        }

        var isFree = FreeFrom is { } from && (FreeIsOver ? goods.Minor > from.Minor : goods.Minor >= from.Minor);
        var grams = parcel.Grams + Packing;
        var ways = new List<DeliveryWay>();
        var isAbroad = to is not null && to.Code != Home;
        if (!isAbroad)
        {
            Add(Delivery.Post, AtHome, isFree);
            Add(Delivery.Express, Express, isFree && FreeByExpress);
        }
        else
        {
            var zone = ZoneOf(to!);
            Add(Delivery.Post, zone.Rate, isFree && zone.IsFree);
        }

        if (Collected.Length > 0)
        {
            ways.Add(new DeliveryWay(Delivery.Collect, nothing, Collected));
        }

        return ways;

        void Add(Delivery delivery, PostageRate? rate, bool isFreeSo)
        {
            if (rate?.Of(parcel, grams) is { } costs)
            {
                ways.Add(isFreeSo && costs.Minor > 0
                    ? new DeliveryWay(delivery, nothing, $"Free {(FreeIsOver ? "over" : "from")} {FreeFrom}.", isAbroad)
                    : new DeliveryWay(delivery, costs, Why(rate), isAbroad));
            }
        }

        string Why(PostageRate rate) =>
            rate.IsPerThing ? $"{rate.Costs} for each of {parcel.Things} sent{(isAbroad ? " abroad" : "")}."
            : $"{(isAbroad ? "Sent abroad." : "")} {(rate.Heavier.Count > 0 && grams > 0 ? $"It weighs {Parcel.Said(grams)} with its packing." : "")}".Trim();
    }

    /// <summary>Why an order is not sent to a country, though it may be collected; null where it is sent, or all files, and where a shop is only come to.</summary>
    /// <param name="ways">By which it can come there.</param>
    public string? NotSent(IReadOnlyList<DeliveryWay> ways, Parcel parcel, Country? to) =>
        ways.Any(w => w.Delivery != Delivery.Collect) || (ways.Count > 0 && !Rates.Any()) ? null : NoWay(parcel, to);

    /// <summary>Why there is no way by which an order comes to a country.</summary>
    /// <param name="to">Null where the buyer has not said.</param>
    public string NoWay(Parcel parcel, Country? to)
    {
        var rates = to is null || to.Code == Home ? new[] { AtHome, Express } : [ZoneOf(to).Rate];
        return rates.Max(r => r?.Most) is { } most && most < parcel.Grams + Packing
            ? $"It weighs {Parcel.Said(parcel.Grams + Packing)} with its packing; up to {Parcel.Said(most)} are sent to {to?.Name ?? "there"}."
            : $"Nothing is sent to {to?.Name ?? "there"}.";
    }

    public bool Equals(Postage? other) =>
        other is not null && (Home, AtHome, Express, FreeFrom, FreeIsOver, FreeByExpress) == (other.Home, other.AtHome, other.Express, other.FreeFrom, other.FreeIsOver, other.FreeByExpress)
        && (Elsewhere, FreeElsewhere, Packing, Collected) == (other.Elsewhere, other.FreeElsewhere, other.Packing, other.Collected) && Zones.SequenceEqual(other.Zones);

    public override int GetHashCode() => HashCode.Combine(Home, AtHome, Express, FreeFrom, Elsewhere, Zones.Count);
}
