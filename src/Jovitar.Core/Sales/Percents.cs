using System.Globalization;

namespace Jovitar.Core.Sales;

/// <summary>How many per cent: more than 0 and up to 100, two digits behind the point at most.</summary>
public static class Percents
{
    public static bool IsOne(decimal percent) => percent is > 0 and <= 100 && decimal.Round(percent, 2) == percent;

    /// <summary>Reads what somebody typed: digits with a point or a comma; null for anything else.</summary>
    public static decimal? Read(string typed) => decimal.TryParse(typed.Trim().Replace(',', '.'), NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var percent) ? percent : null;

    /// <summary>The same as it is kept: without zeros behind it, so that two that are alike are equal and read alike.</summary>
    public static decimal AsKept(decimal percent) => percent / 1.000m;

    /// <summary>In digits alone, with a point: 12.5.</summary>
    public static string Digits(decimal percent) => percent.ToString("0.##", CultureInfo.InvariantCulture);
}
