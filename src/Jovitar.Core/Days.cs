using System.Globalization;

namespace Jovitar.Core;

/// <summary>Days in words.</summary>
public static class Days
{
    /// <summary>A day as it is said: 30 June 2027.</summary>
    public static string Said(DateOnly day) => day.ToString("d MMMM yyyy", CultureInfo.InvariantCulture);

    /// <summary>A moment as it is said, the same wherever it is read: 30 June 2027, 18:00 UTC.</summary>
    public static string Said(DateTimeOffset at) => at.UtcDateTime.ToString("d MMMM yyyy, HH:mm 'UTC'", CultureInfo.InvariantCulture);
}
