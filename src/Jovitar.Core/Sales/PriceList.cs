namespace Jovitar.Core.Sales;

/// <summary>Something about a price list that its seller may want to know.</summary>
/// <param name="Option">The option it is about; null for the whole list.</param>
public sealed record PriceNote(Guid? Option, string Sentence);

/// <summary>The options that sales galleries sell by, and for which prices.</summary>
/// <param name="SellsSmall">What a photo is too small for is offered all the same, with a sentence that says so.</param>
public sealed record PriceList(string Name, Currency Currency, PrintLimits Limits, bool SellsSmall, IReadOnlyList<SaleOption> Options)
{
    public const int LongestName = 80;

    /// <summary>So many options a list has at most.</summary>
    public const int Most = 120;

    /// <summary>So many a buyer looks through (common practice).</summary>
    public const int Readable = 20;

    /// <summary>A list as it begins: without options.</summary>
    public static PriceList Empty(string name, Currency currency) => new(name, currency, new PrintLimits(), SellsSmall: false, []);

    /// <summary>Those that are offered of photos that do not say otherwise.</summary>
    public IEnumerable<SaleOption> Offered => Options.Where(o => o.IsOffered);

    /// <summary>So many of these are sent and weigh nobody knows how much.</summary>
    public int Unweighed => Offered.Count(o => !o.IsFile && o.Weight is null);

    /// <summary>So many options that are offered are taxed at the reduced rate.</summary>
    public int Reduced => Offered.Count(o => o.Tax == Taxes.TaxClass.Reduced);

    /// <summary>What is wrong with it; null for nothing.</summary>
    public string? Fault() =>
        Name.Trim().Length == 0 ? "A price list needs a name."
        : Text.Fault(Name, LongestName) is { } words ? words
        : Limits.Fault() is { } limits ? limits
        : Options.Count > Most ? $"A price list has {Most} options at most."
        : Options.DistinctBy(o => o.Id).Count() < Options.Count ? "The same option stands there twice."
        : Options.Select((o, i) => o.Fault() is { } fault ? $"{(o.Called.Length > 0 ? $"“{Text.Cut(o.Called, 60)}”" : $"Option {i + 1}")}: {fault}" : null).FirstOrDefault(f => f is not null);

    /// <summary>The same as it is kept.</summary>
    public PriceList AsKept() => this with { Name = Text.Name(Name), Options = [.. Options.Select(o => o.AsKept())] };

    /// <summary>What its seller may want to know of it, the whole list first and then as its options stand.</summary>
    public IReadOnlyList<PriceNote> Notes()
    {
        var notes = new List<PriceNote>();
        if (Offered.Count() is var offered and > Readable)
        {
            notes.Add(new PriceNote(null, $"{offered} options are offered; past about {Readable} buyers stop reading."));
        }

        var seen = new HashSet<(OptionKind, string, string?, int?)>();
        foreach (var option in Options.Where(o => !o.IsOff))
        {
            void Note(string sentence) => notes.Add(new PriceNote(option.Id, sentence));
            if (!seen.Add((option.Kind, option.Called, option.Size?.Said, option.LongestEdge)))
            {
                Note("Another option is called the same: buyers cannot tell the two apart.");
            }

            if (option.Price is not { } price)
            {
                Note("Not offered until it has a price.");
                continue;
            }

            if (option.Cost is { } cost && new[] { price }.Concat(option.Breaks.Select(b => b.Each)).Any(p => (p - cost).Minor < 0))
            {
                Note("It is sold below what it costs.");
            }

            if (Cheaper(option) is { } cheaper)
            {
                Note(cheaper);
            }
        }

        return notes;
    }

    /// <summary>Where more come to less than fewer.</summary>
    static string? Cheaper(SaleOption option)
    {
        foreach (var step in option.Breaks)
        {
            var (fewer, more) = (option.Each(step.From - 1)!.Value.Times(step.From - 1), step.Each.Times(step.From));
            if ((more - fewer).Minor < 0)
            {
                return $"{step.From} cost {more}, and {step.From - 1} cost {fewer}: more come to less.";
            }
        }

        return null;
    }

    public bool Equals(PriceList? other) =>
        other is not null && (Name, Currency, Limits, SellsSmall) == (other.Name, other.Currency, other.Limits, other.SellsSmall) && Options.SequenceEqual(other.Options);

    public override int GetHashCode() => HashCode.Combine(Name, Options.Count);
}
