using Jovitar.Core.Sales;

namespace Jovitar.Core.Acts;

/// <summary>Sentences of what was done with price lists.</summary>
public static class PriceWords
{
    public static string Made(string name) => $"Made the price list “{name}”.";

    public static string LetGo(string name) => $"Let the price list “{name}” go.";

    public static string TakenIn(string name, string file, int changed, int added) => $"Took {ActWords.Things(changed + added, "option", "options")} of the price list “{name}” in from {file}.";

    /// <summary>What was changed of a list: the prices by name where these alone are others, for that is what is looked for later.</summary>
    public static string Changed(PriceList before, PriceList after)
    {
        if (before.Name != after.Name)
        {
            return $"Called the price list “{before.Name}” “{after.Name}”.";
        }

        var prices = before.Options.Join(after.Options, o => o.Id, o => o.Id, (b, a) => (Before: b, After: a)).Where(p => p.Before.Price != p.After.Price).ToList();
        if (prices is [var one])
        {
            return $"{after.Name}: {Text.Cut(one.After.Called, 60)} costs {Amount(one.After.Price)} instead of {Amount(one.Before.Price)}.";
        }

        var added = after.Options.ExceptBy(before.Options.Select(o => o.Id), o => o.Id).Count();
        var gone = before.Options.ExceptBy(after.Options.Select(o => o.Id), o => o.Id).ToList();
        return prices.Count > 1 ? $"{after.Name}: {prices.Count} prices are others."
            : gone is [var left] && added == 0 ? $"{after.Name}: {Text.Cut(left.Called, 60)} is gone."
            : gone.Count > 0 || added > 0 ? $"{after.Name}: {ActWords.Things(added, "option", "options")} added, {gone.Count} gone."
            : $"Changed the price list “{after.Name}”.";
    }

    /// <summary>What the seller keeps of an option, in words; empty where nobody said what it costs.</summary>
    public static string Stays(SaleOption option) => option.Stays is not { } stays ? ""
        : option.Price!.Value.Minor == 0 ? $"{stays} stay of each."
        : FormattableString.Invariant($"{stays} stay of each, {Math.Round(100m * stays.Minor / option.Price.Value.Minor):0} %.");

    static string Amount(Money? money) => money is { } there ? $"{there} {there.Currency}" : "nothing yet";

    /// <summary>What becomes of the options of a list, each in words: the first of them.</summary>
    public static IReadOnlyList<string> Changes(PriceList before, PriceList after, int most)
    {
        var known = before.Options.ToDictionary(o => o.Id);
        return
        [
            .. after.Options.Where(o => known.GetValueOrDefault(o.Id) != o).Take(most).Select(o =>
                known.GetValueOrDefault(o.Id) is not { } was ? $"{o.Called}: new, {Amount(o.Price)}"
                : was.Price != o.Price ? $"{o.Called}: {Amount(was.Price)}, then {Amount(o.Price)}"
                : was.Called != o.Called ? $"{was.Called}: called {o.Called}"
                : $"{o.Called}: other words or settings"),
        ];
    }

    /// <summary>By which price list an album sells its photos.</summary>
    /// <param name="list">What it is called; null for none.</param>
    public static string SellsBy(string album, string? list) => list is null ? $"Nothing of the album “{album}” is sold any more." : $"The photos of the album “{album}” are sold by the price list “{list}”.";

    /// <summary>What is not sold of an album.</summary>
    public static string AlbumWithout(string album) => $"Said which options the album “{album}” is sold without.";

    /// <summary>What is not sold of photos.</summary>
    public static string PhotosWithout(int photos) => $"Said of {ActWords.Things(photos, "photo", "photos")} which options they are sold without.";
}
