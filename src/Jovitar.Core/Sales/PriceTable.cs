using System.Globalization;
using Jovitar.Core.Describing;

namespace Jovitar.Core.Sales;

/// <summary>A price list in a spreadsheet's file: its columns, and how an option is written and read.</summary>
public static class PriceTable
{
    public const string Id = "id";
    public const string Kind = "kind";
    public const string Size = "size";
    public const string Name = "name";
    public const string Price = "price";
    public const string Cost = "cost";
    public const string Several = "price for several";
    public const string Group = "group";
    public const string Description = "description";
    public const string Edge = "round the edge, mm";
    public const string LongestEdge = "longest edge, pixels";
    public const string Licence = "licence";
    public const string Downloads = "downloads";
    public const string Days = "days";
    public const string Edition = "edition";
    public const string Weight = "weight, g";
    public const string Tax = "tax";
    public const string Shapes = "shapes";
    public const string Offered = "offered";

    /// <summary>Columns as they are written.</summary>
    public static readonly IReadOnlyList<string> Columns =
        [Id, Kind, Size, Name, Price, Cost, Several, Group, Description, Edge, LongestEdge, Licence, Downloads, Days, Edition, Weight, Tax, Shapes, Offered];

    /// <summary>Why a header names no options; null when it does.</summary>
    public static string? Lacks(IReadOnlyCollection<string> columns) =>
        columns.Contains(Id) || columns.Contains(Size) || columns.Contains(Name) ? null : $"The first row names no option: one column is called “{Id}”, “{Size}” or “{Name}”.";

    /// <summary>An option's cells, in the order of <see cref="Columns"/>.</summary>
    public static IReadOnlyList<string> Cells(SaleOption option)
    {
        static string Number(int? number) => number?.ToString(CultureInfo.InvariantCulture) ?? "";
        return
        [
            option.Id.ToString(), option.Kind.ToString().ToLowerInvariant(), option.Size?.Said ?? "", WordsTable.Cell(option.Name), option.Price?.ToString() ?? "", option.Cost?.ToString() ?? "",
            string.Join("; ", option.Breaks.Select(b => $"{b.From}: {b.Each}")), WordsTable.Cell(option.Group), WordsTable.Cell(option.Description), option.Edge == 0 ? "" : Number(option.Edge), Number(option.LongestEdge),
            WordsTable.Cell(option.Licence), Number(option.Downloads), Number(option.Days), Number(option.Edition), Number(option.Weight), option.Tax.ToString().ToLowerInvariant(), string.Join("; ", option.Shapes), option.IsOff ? "no" : "yes",
        ];
    }

    /// <summary>A list with what rows say: an option is known by its id, else by its kind, size and name; others are added behind it. What a row has no column for stays.</summary>
    /// <param name="rows">Each with the line it stands in, and its cells by column; null for a column that the file has not.</param>
    /// <returns>The list; how many options are changed and added; and the lines that are not written, each with its reason.</returns>
    public static (PriceList List, int Changed, int Added, IReadOnlyList<(int Line, string Why)> Rejected) Taken(PriceList list, IEnumerable<(int Line, Func<string, string?> Cell)> rows)
    {
        var (options, rejected, seen) = (list.Options.ToList(), new List<(int, string)>(), new Dictionary<Guid, int>());
        var (changed, added) = (0, 0);
        foreach (var (line, cell) in rows)
        {
            var at = At(options, cell);
            var (option, wrong) = Read(at < 0 ? null : options[at], cell, list.Currency);
            if (option is null)
            {
                rejected.Add((line, wrong!));
            }
            else if (!seen.TryAdd(option.Id, line))
            {
                rejected.Add((line, $"The same option stands in line {seen[option.Id]} already."));
            }
            else if (at >= 0)
            {
                changed += option == options[at] ? 0 : 1;
                options[at] = option;
            }
            else if (options.Count == PriceList.Most)
            {
                rejected.Add((line, $"A price list has {PriceList.Most} options at most."));
            }
            else
            {
                added++;
                options.Add(option);
            }
        }

        return (list with { Options = options }, changed, added, rejected);
    }

    static string Said(Func<string, string?> cell, string column) => WordsTable.Said((cell(column) ?? "").Trim());

    static int At(List<SaleOption> options, Func<string, string?> cell)
    {
        if (Guid.TryParse(Said(cell, Id), out var id) && options.FindIndex(o => o.Id == id) is >= 0 and var known)
        {
            return known;
        }

        var (size, name) = (PaperSize.Read(Said(cell, Size))?.Said ?? "", Text.Name(Said(cell, Name)));
        var kind = KindOf(Said(cell, Kind), size.Length > 0);
        return options.FindIndex(o => o.Kind == kind && (o.Size?.Said ?? "") == size && o.Name == name);
    }

    static OptionKind? KindOf(string said, bool hasSize) =>
        said.Length == 0 ? hasSize ? OptionKind.Print : OptionKind.Other
        : said.All(char.IsAsciiLetter) && Enum.TryParse<OptionKind>(said, ignoreCase: true, out var kind) ? kind
        : null;

    static (SaleOption? Option, string? Wrong) Read(SaleOption? known, Func<string, string?> cell, Currency currency)
    {
        var before = known is null ? new OptionSaid(Guid.CreateVersion7(), OptionKind.Other) : OptionSaid.Of(known);
        string Word(string column, string now) => cell(column) is null ? now : Said(cell, column);
        string? wrong = null;
        int? Number(string column, int? now)
        {
            if (cell(column) is null || Said(cell, column) is not { Length: > 0 } text)
            {
                return cell(column) is null ? now : null;
            }

            if (int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var number))
            {
                return number;
            }

            wrong ??= $"“{Text.Cut(text, 30)}” in “{column}” is no whole number.";
            return null;
        }

        var size = Word(Size, before.Size);
        var kind = known is not null && (cell(Kind) is null || Said(cell, Kind).Length == 0) ? known.Kind : KindOf(Said(cell, Kind), size.Length > 0);
        if (kind is null)
        {
            return (null, $"“{Text.Cut(Said(cell, Kind), 30)}” is no kind of option; it is print, wrap, card, digital or other.");
        }

        var (breaks, not) = cell(Several) is null ? (before.Breaks, null) : Breaks(Said(cell, Several));
        var offered = Said(cell, Offered).ToLowerInvariant();
        if (not is not null || offered is not ("" or "yes" or "y" or "true" or "1" or "no" or "n" or "false" or "0"))
        {
            return (null, not ?? $"“{Text.Cut(offered, 30)}” in “{Offered}” is neither yes nor no.");
        }

        var tax = before.Tax;
        if (Said(cell, Tax) is { Length: > 0 } rate && (!rate.All(char.IsAsciiLetter) || !Enum.TryParse(rate, ignoreCase: true, out tax)))
        {
            return (null, $"“{Text.Cut(rate, 30)}” in “{Tax}” is none; it is standard, reduced or none.");
        }

        var said = before with
        {
            Kind = kind.Value,
            Size = size,
            Name = Word(Name, before.Name),
            Price = Word(Price, before.Price),
            Cost = Word(Cost, before.Cost),
            Breaks = breaks,
            Group = Word(Group, before.Group),
            Description = Word(Description, before.Description),
            Edge = Number(Edge, before.Edge) ?? 0,
            LongestEdge = Number(LongestEdge, before.LongestEdge),
            Licence = Word(Licence, before.Licence),
            Downloads = Number(Downloads, before.Downloads),
            Days = Number(Days, before.Days),
            Edition = Number(Edition, before.Edition),
            Weight = Number(Weight, before.Weight),
            Tax = tax,
            Shapes = cell(Shapes) is null ? before.Shapes : [.. Said(cell, Shapes).ToLowerInvariant().Split([';', ','], StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)],
            IsOff = offered.Length == 0 ? before.IsOff : offered[0] is 'n' or 'f' or '0',
        };
        return wrong is not null ? (null, wrong) : said.Read(currency);
    }

    /// <summary>Reads <c>5: 3.00; 10: 2.50</c>.</summary>
    static (IReadOnlyList<BreakSaid> Breaks, string? Wrong) Breaks(string text)
    {
        var all = new List<BreakSaid>();
        foreach (var part in text.Split(';', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries))
        {
            var sides = part.Split(':', 2, StringSplitOptions.TrimEntries);
            if (sides.Length < 2 || !int.TryParse(sides[0], NumberStyles.None, CultureInfo.InvariantCulture, out var from))
            {
                return ([], $"“{Text.Cut(part, 30)}” is no price for several; it is written 5: 3.00; 10: 2.50.");
            }

            all.Add(new BreakSaid(from, sides[1]));
        }

        return (all, null);
    }
}
