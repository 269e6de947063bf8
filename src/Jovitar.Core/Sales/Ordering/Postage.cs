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

/// <summary>What sending to other countries costs. Kept by name.</summary>
public enum Abroad
{
    /// <summary>Nothing is sent there.</summary>
    No,

    /// <summary>The same for every order.</summary>
    Flat,

    /// <summary>So much for each thing that is sent.</summary>
    PerItem,
}

/// <summary>A way by which an order can come to its buyer.</summary>
/// <param name="Sentence">Why it costs what it costs, for whoever pays it.</param>
/// <param name="IsAbroad">It goes to another country.</param>
public sealed record DeliveryWay(Delivery Delivery, Money Costs, string Sentence, bool IsAbroad = false);

/// <summary>What sending costs.</summary>
/// <param name="Home">The country from which is sent, and in which home rates hold (ISO 3166-1); empty while nobody has said.</param>
public sealed record Postage(string Home)
{
    public const int LongestPlace = 300;

    /// <summary>Within the country; null where nothing is sent there.</summary>
    public Money? AtHome { get; init; }

    /// <summary>Within the country and faster; null where that is not offered.</summary>
    public Money? Express { get; init; }

    /// <summary>Goods of this value are sent for nothing; null for none.</summary>
    public Money? FreeFrom { get; init; }

    /// <summary>Only goods of more than that value are.</summary>
    public bool FreeIsOver { get; init; }

    /// <summary>They are sent by express for nothing, too.</summary>
    public bool FreeByExpress { get; init; }

    /// <summary>They are sent abroad for nothing, too.</summary>
    public bool FreeAbroad { get; init; }

    public Abroad Abroad { get; init; }

    /// <summary>For an order or for each thing, as <see cref="Abroad"/> says; null where nothing is sent abroad.</summary>
    public Money? AbroadCosts { get; init; }

    /// <summary>Where and when orders are collected; empty where they are not.</summary>
    public string Collected { get; init; } = "";

    /// <summary>What is wrong with it; null for nothing.</summary>
    public string? Fault() =>
        Home.Length > 0 && Country.Find(Home) is null ? "There is no such country."
        : !Enum.IsDefined(Abroad) ? "There is no such way to send abroad."
        : Abroad != Abroad.No && AbroadCosts is null ? "Say what sending abroad costs."
        : Text.Fault(Collected, LongestPlace) is { } words ? words
        : null;

    /// <summary>The same as it is kept: without what does not go with the rest.</summary>
    public Postage AsKept() => this with
    {
        Home = Country.Find(Home)?.Code ?? Home,
        FreeIsOver = FreeIsOver && FreeFrom is not null,
        FreeByExpress = FreeByExpress && FreeFrom is not null && Express is not null,
        FreeAbroad = FreeAbroad && FreeFrom is not null && Abroad != Abroad.No,
        AbroadCosts = Abroad == Abroad.No ? null : AbroadCosts,
        Collected = Collected.Trim(),
    };

    /// <summary>Whether anything reaches a country by post.</summary>
    public bool SendsTo(Country country) => country.Code == Home ? AtHome is not null || Express is not null : Abroad != Abroad.No;

    /// <summary>The ways by which an order comes to a country, the usual one first.</summary>
    /// <param name="things">So many things of it are sent; 0 where it is all files.</param>
    /// <param name="goods">What all of it costs without postage.</param>
    /// <param name="to">Null where the buyer has not said where they live: then as within the country.</param>
    public IReadOnlyList<DeliveryWay> Ways(int things, Money goods, Country? to)
    {
        var nothing = goods with { Minor = 0 };
        if (things == 0)
        {
            return [new DeliveryWay(Delivery.Files, nothing, "Files are fetched: nothing is sent.")];
        }

        var isFree = FreeFrom is { } from && (FreeIsOver ? goods.Minor > from.Minor : goods.Minor >= from.Minor);
        var free = isFree ? $"Free {(FreeIsOver ? "over" : "from")} {FreeFrom}." : "";
        var ways = new List<DeliveryWay>();
        var isAbroad = to is not null && to.Code != Home;
        if (!isAbroad)
        {
            Add(Delivery.Post, AtHome, isFree, "");
            Add(Delivery.Express, Express, isFree && FreeByExpress, "");
        }
        else if (Abroad != Abroad.No && AbroadCosts is { } costs)
        {
            Add(Delivery.Post, Abroad == Abroad.Flat ? costs : costs.Times(things), isFree && FreeAbroad, Abroad == Abroad.PerItem ? $"{costs} for each of {things} sent abroad." : "Sent abroad.");
        }

        if (Collected.Length > 0)
        {
            ways.Add(new DeliveryWay(Delivery.Collect, nothing, Collected));
        }

        return ways;

        void Add(Delivery delivery, Money? costs, bool isFreeSo, string why)
        {
            if (costs is { } said)
            {
                ways.Add(isFreeSo && said.Minor > 0 ? new DeliveryWay(delivery, nothing, free, isAbroad) : new DeliveryWay(delivery, said, why, isAbroad));
            }
        }
    }
}
