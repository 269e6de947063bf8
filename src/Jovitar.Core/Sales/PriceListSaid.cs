namespace Jovitar.Core.Sales;

/// <summary>A price list as it is written.</summary>
/// <param name="Currency">Its code in ISO 4217.</param>
/// <param name="SellsSmall">What a photo is too small for is offered all the same, with a sentence that says so.</param>
public sealed record PriceListSaid(string Name, string Currency, PrintLimits Limits, bool SellsSmall, IReadOnlyList<OptionSaid> Options)
{
    public static PriceListSaid Of(PriceList list) => new(list.Name, list.Currency.Code, list.Limits, list.SellsSmall, [.. list.Options.Select(OptionSaid.Of)]);

    /// <summary>The list it says, or why it says none.</summary>
    /// <returns>Beside the sentence, what is wrong with each of its options, by their ids; none where it is the whole list.</returns>
    public (PriceList? List, string? Wrong, IReadOnlyDictionary<Guid, string> Faults) Read()
    {
        var faults = new Dictionary<Guid, string>();
        if (Sales.Currency.Find(Currency) is not { } currency)
        {
            return (null, "There is no such currency.", faults);
        }

        if (Options.Any(o => o is null))
        {
            return (null, "An option is missing.", faults);
        }

        var options = new List<SaleOption>(Options.Count);
        foreach (var said in Options)
        {
            var (option, wrong) = said.Read(currency);
            if (option is null)
            {
                faults.TryAdd(said.Id, wrong!);
                continue;
            }

            options.Add(option);
        }

        if (faults.Count > 0)
        {
            return (null, faults.First().Value, faults);
        }

        var list = new PriceList(Name, currency, Limits, SellsSmall, options).AsKept();
        return list.Fault() is { } fault ? (null, fault, faults) : (list, null, faults);
    }
}
