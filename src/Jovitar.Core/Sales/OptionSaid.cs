using Jovitar.Core.Sales.Taxes;

namespace Jovitar.Core.Sales;

/// <summary>What one costs from a number on, as it is written.</summary>
public sealed record BreakSaid(int From, string Each);

/// <summary>An option as it is written: sizes and amounts are text, as people type them and as files and the database have them.</summary>
/// <param name="Size">"20 × 30 cm", "8 × 10 in", "A4"; empty where it has none.</param>
/// <param name="Edge">Round each edge of a wrap, millimetres.</param>
/// <param name="LongestEdge">Of a file, pixels; null for its full size.</param>
/// <param name="Price">Digits with a point or a comma; empty while nobody has said.</param>
/// <param name="Cost">The same.</param>
/// <param name="Edition">So many of each photo are sold in all; null for as many as are wanted.</param>
/// <param name="Weight">Of one, grams; null while nobody has said.</param>
public sealed record OptionSaid(
    Guid Id, OptionKind Kind, string Name = "", string Description = "", string Group = "", string Size = "", int Edge = 0, int? LongestEdge = null, string Licence = "", int? Downloads = null, int? Days = null,
    string Price = "", string Cost = "", IReadOnlyList<BreakSaid>? Breaks = null, IReadOnlyList<string>? Shapes = null, bool IsOff = false, int? Edition = null, int? Weight = null,
    TaxClass Tax = TaxClass.Standard)
{
    public static OptionSaid Of(SaleOption option) => new(
        option.Id, option.Kind, option.Name, option.Description, option.Group, option.Size?.Said ?? "", option.Edge, option.LongestEdge, option.Licence, option.Downloads, option.Days,
        option.Price?.ToString() ?? "", option.Cost?.ToString() ?? "", [.. option.Breaks.Select(b => new BreakSaid(b.From, b.Each.ToString()))], option.Shapes, option.IsOff, option.Edition, option.Weight, option.Tax);

    /// <summary>The option it says, or why it says none.</summary>
    public (SaleOption? Option, string? Wrong) Read(Currency currency)
    {
        (Money? Money, string? Wrong) Amount(string text) =>
            text.Trim().Length == 0 ? (null, null)
            : Money.Read(text, currency) is { } money ? (money, null)
            : (null, $"“{Text.Cut(text, 30)}” is no amount in {currency}; it is written {new Money((long)(12.5 * Math.Pow(10, currency.Digits)), currency)}.");
        var size = Size.Trim().Length == 0 ? null : PaperSize.Read(Size);
        if (size is null && Size.Trim().Length > 0)
        {
            return (null, $"“{Text.Cut(Size, 30)}” is no size. {PaperSize.Ask}");
        }

        if (Breaks?.Any(b => b is null) == true)
        {
            return (null, "Say what each costs.");
        }

        var (price, cost) = (Amount(Price), Amount(Cost));
        var breaks = (Breaks ?? []).Select(b => (b.From, Each: Amount(b.Each))).ToArray();
        if ((price.Wrong ?? cost.Wrong ?? breaks.Select(b => b.Each.Wrong).FirstOrDefault(w => w is not null)) is { } wrong)
        {
            return (null, wrong);
        }

        if (breaks.Any(b => b.Each.Money is null))
        {
            return (null, "Say what each costs.");
        }

        var option = new SaleOption(Id, Kind)
        {
            Name = Name,
            Description = Description,
            Group = Group,
            Size = size,
            Edge = Edge,
            LongestEdge = LongestEdge,
            Licence = Licence,
            Downloads = Downloads,
            Days = Days,
            Price = price.Money,
            Cost = cost.Money,
            Breaks = [.. breaks.Select(b => new PriceBreak(b.From, b.Each.Money!.Value))],
            Shapes = Shapes ?? [],
            IsOff = IsOff,
            Edition = Edition,
            Weight = Weight,
            Tax = Tax,
        };
        var kept = option.AsKept();
        return (option.Fault() ?? kept.Fault()) is { } fault ? (null, fault) : (kept, null);
    }
}
