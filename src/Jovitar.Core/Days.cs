using System.Globalization;

namespace Jovitar.Core;

/// <summary>Days: in words, as they are written, and which one it is.</summary>
public static class Days
{
    /// <summary>The day it is, in UTC as everything is counted.</summary>
    public static DateOnly Today(this TimeProvider clock) => DateOnly.FromDateTime(clock.GetUtcNow().UtcDateTime);

    /// <summary>Reads a day as ISO 8601 has it: 2027-06-30; null for anything else.</summary>
    public static DateOnly? Read(string typed) => DateOnly.TryParseExact(typed.Trim(), "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day) ? day : null;

    /// <summary>A day as it is said: 30 June 2027.</summary>
    public static string Said(DateOnly day) => day.ToString("d MMMM yyyy", CultureInfo.InvariantCulture);

    /// <summary>A moment as it is said, the same wherever it is read: 30 June 2027, 18:00 UTC.</summary>
    public static string Said(DateTimeOffset at) => at.UtcDateTime.ToString("d MMMM yyyy, HH:mm 'UTC'", CultureInfo.InvariantCulture);
}
