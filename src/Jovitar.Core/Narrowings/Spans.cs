using System.Globalization;

namespace Jovitar.Core.Narrowings;

/// <summary>Days from one to another, both counted in, as a choice says it (ISO 8601-1 dates of year, month or day precision).</summary>
public readonly record struct TakenSpan(DateOnly From, DateOnly To)
{
    /// <summary>Bars side by side: more than so many are summed up by months, and then by years.</summary>
    public const int MostBars = 62;

    /// <summary>Reads <c>2026</c>, <c>2026-06</c>, <c>2026-06-13</c>, or two of them with <c>--</c> between; null when it is none.</summary>
    public static TakenSpan? Read(string text)
    {
        var cut = text.IndexOf("--", StringComparison.Ordinal);
        if (cut < 0)
        {
            return One(text);
        }

        return One(text[..cut]) is { } from && One(text[(cut + 2)..]) is { } to && from.From <= to.To ? new TakenSpan(from.From, to.To) : null;
    }

    public bool Holds(DateOnly day) => day >= From && day <= To;

    static TakenSpan? One(string text) => text.Length switch
    {
        4 when Try(text, "yyyy", out var year) => new TakenSpan(year, new DateOnly(year.Year, 12, 31)),
        7 when Try(text, "yyyy-MM", out var month) => new TakenSpan(month, new DateOnly(month.Year, month.Month, DateTime.DaysInMonth(month.Year, month.Month))),
        10 when Try(text, "yyyy-MM-dd", out var day) => new TakenSpan(day, day),
        _ => null,
    };

    static bool Try(string text, string form, out DateOnly date) => DateOnly.TryParseExact(text, form, CultureInfo.InvariantCulture, DateTimeStyles.None, out date);

    /// <summary>Counts by days as bars: of days where those span few, else of months, else of years. What no camera dated comes first.</summary>
    public static IEnumerable<(string Choice, int Count)> Bars(IReadOnlyList<(DateOnly Day, int Count)> days)
    {
        var dated = days.Where(d => d.Day != default).ToArray();
        var undated = days.Where(d => d.Day == default).Sum(d => d.Count);
        var form = "yyyy-MM-dd";
        if (dated.Length > 0)
        {
            var (first, last) = (dated.Min(d => d.Day), dated.Max(d => d.Day));
            form = last.DayNumber - first.DayNumber < MostBars ? form : ((last.Year - first.Year) * 12) + last.Month - first.Month < MostBars ? "yyyy-MM" : "yyyy";
        }

        var bars = dated.GroupBy(d => d.Day.ToString(form, CultureInfo.InvariantCulture)).Select(g => (g.Key, g.Sum(d => d.Count))).OrderBy(b => b.Key, StringComparer.Ordinal);
        return undated > 0 ? bars.Prepend((Narrowing.None, undated)) : bars;
    }
}

/// <summary>Lengths of the longer edge in pixels, both ends counted in; without an end, all above.</summary>
public readonly record struct PixelSpan(int From, int? To)
{
    /// <summary>Spans that are offered: too small for a screen's width, enough for one, for a large print (common practice).</summary>
    public static readonly IReadOnlyList<PixelSpan> Usual = [new(0, 1599), new(1600, 2399), new(2400, 3999), new(4000, 5999), new(6000, null)];

    /// <summary>Reads <c>1600-2399</c> or <c>6000-</c>; null when it is neither.</summary>
    public static PixelSpan? Read(string text)
    {
        var cut = text.IndexOf('-', StringComparison.Ordinal);
        static int? Number(string text) => int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var n) ? n : null;
        return cut < 0 || Number(text[..cut]) is not { } from ? null
            : cut == text.Length - 1 ? new PixelSpan(from, null)
            : Number(text[(cut + 1)..]) is { } to ? new PixelSpan(from, to) : null;
    }

    public bool Holds(int pixels) => pixels >= From && (To is not { } to || pixels <= to);

    public override string ToString() => string.Create(CultureInfo.InvariantCulture, $"{From}-{To}");
}
