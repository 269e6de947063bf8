namespace Jovitar.Core.Sales.Ordering;

/// <summary>What sending to other countries costs. Kept by name.</summary>
public enum Abroad
{
    /// <summary>Nothing is sent there.</summary>
    No,

    /// <summary>The same for every order, or for all that are no heavier than so much.</summary>
    Flat,

    /// <summary>So much for each thing that is sent.</summary>
    PerItem,
}

/// <summary>What heavier parcels cost, as it is written.</summary>
/// <param name="Over">Grams.</param>
/// <param name="Costs">Empty where nothing that heavy is sent.</param>
public sealed record WeightStepSaid(int Over, string Costs);

/// <summary>Countries to which sending costs the same, as they are written.</summary>
/// <param name="Heavier">Null for none.</param>
/// <inheritdoc cref="PostageZone"/>
public sealed record PostageZoneSaid(IReadOnlyList<string> Countries, Abroad Kind, string Costs, bool IsFree, IReadOnlyList<WeightStepSaid>? Heavier = null);

/// <summary>What sending costs, as it is written: amounts are digits with a point or a comma, empty for none.</summary>
/// <param name="Abroad">What sending to countries costs that stand in no zone.</param>
/// <param name="HomeHeavier">Null for none, as of express and abroad.</param>
/// <param name="Zones">Null for none.</param>
/// <inheritdoc cref="Postage"/>
public sealed record PostageSaid(
    string Home, string AtHome, string Express, string FreeFrom, bool FreeIsOver, bool FreeByExpress, bool FreeAbroad, Abroad Abroad, string AbroadCosts, string Collected,
    IReadOnlyList<WeightStepSaid>? HomeHeavier = null, IReadOnlyList<WeightStepSaid>? ExpressHeavier = null, IReadOnlyList<WeightStepSaid>? AbroadHeavier = null, IReadOnlyList<PostageZoneSaid>? Zones = null, int Packing = 0)
{
    public static PostageSaid Of(Postage postage) => new(
        postage.Home, Costs(postage.AtHome), Costs(postage.Express), postage.FreeFrom?.ToString() ?? "", postage.FreeIsOver, postage.FreeByExpress, postage.FreeElsewhere, Kind(postage.Elsewhere), Costs(postage.Elsewhere), postage.Collected,
        Steps(postage.AtHome), Steps(postage.Express), Steps(postage.Elsewhere),
        postage.Zones.Count == 0 ? null : [.. postage.Zones.Select(z => new PostageZoneSaid(z.Countries, Kind(z.Rate), Costs(z.Rate), z.IsFree, Steps(z.Rate)))], postage.Packing);

    static string Costs(PostageRate? rate) => rate?.Costs.ToString() ?? "";

    static Abroad Kind(PostageRate? rate) => rate is null ? Abroad.No : rate.IsPerThing ? Abroad.PerItem : Abroad.Flat;

    static IReadOnlyList<WeightStepSaid>? Steps(PostageRate? rate) =>
        rate is null || rate.Heavier.Count == 0 ? null : [.. rate.Heavier.Select(s => new WeightStepSaid(s.Over, s.Costs?.ToString() ?? ""))];

    /// <summary>The postage it says, or why it says none.</summary>
    /// <returns>Beside the sentence, the field that it is about: of a zone “zones” and where it stands, from 0 on.</returns>
    public (Postage? Postage, string? Wrong, string? Field) Read(Currency currency)
    {
        if (Zones?.Any(z => z?.Countries is null || z.Countries.Contains(null!)) == true)
        {
            return (null, "Something of a zone is missing.", "zones");
        }

        var reader = new Reader(currency);
        var postage = new Postage(Home)
        {
            AtHome = reader.Rate("atHome", AtHome, HomeHeavier, AtHome.Trim().Length == 0 ? Abroad.No : Abroad.Flat),
            Express = reader.Rate("express", Express, ExpressHeavier, Express.Trim().Length == 0 ? Abroad.No : Abroad.Flat),
            FreeFrom = reader.Amount("freeFrom", FreeFrom),
            FreeIsOver = FreeIsOver,
            FreeByExpress = FreeByExpress,
            Zones = [.. (Zones ?? []).Select((z, i) => new PostageZone(z.Countries, reader.Rate($"zones{i}", z.Costs, z.Heavier, z.Kind), z.IsFree))],
            Elsewhere = reader.Rate("abroadCosts", AbroadCosts, AbroadHeavier, Abroad),
            FreeElsewhere = FreeAbroad,
            Packing = Packing,
            Collected = Collected,
        };
        return reader.Wrong is { } wrong ? (null, wrong, reader.Field) : (postage.AsKept(), null, null);
    }

    /// <summary>Reads amounts, and keeps the first that is none.</summary>
    sealed class Reader(Currency currency)
    {
        public string? Wrong { get; private set; }

        public string? Field { get; private set; }

        void Say(string field, string wrong) => (Wrong, Field) = Wrong is null ? (wrong, field) : (Wrong, Field);

        public Money? Amount(string field, string text)
        {
            var money = text.Trim().Length == 0 ? null : Money.Read(text, currency);
            if (money is null && text.Trim().Length > 0)
            {
                Say(field, Money.NotRead(text, currency));
            }

            return money;
        }

        public PostageRate? Rate(string field, string costs, IReadOnlyList<WeightStepSaid>? heavier, Abroad kind)
        {
            if (!Enum.IsDefined(kind) || heavier?.Contains(null!) == true)
            {
                Say(field, "There is no such way to send.");
                return null;
            }

            if (kind == Abroad.No)
            {
                return null;
            }

            if (Amount(field, costs) is not { } said)
            {
                Say(field, "Say what sending there costs.");
                return null;
            }

            return new PostageRate(said, kind == Abroad.PerItem) { Heavier = [.. (heavier ?? []).Select(s => new WeightStep(s.Over, Amount(field, s.Costs)))] };
        }
    }
}
