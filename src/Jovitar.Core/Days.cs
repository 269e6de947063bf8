using System.Globalization;

namespace Jovitar.Core;

/// <summary>Days in words.</summary>
public static class Days
{
    /// <summary>A day as it is said: 30 June 2027.</summary>
    public static string Said(DateOnly day) => day.ToString("d MMMM yyyy", CultureInfo.InvariantCulture);
}
