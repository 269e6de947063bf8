namespace Jovitar.Server.Platform;

/// <summary>Days, as everything here counts them: in UTC.</summary>
internal static class Days
{
    public static DateOnly Today(this TimeProvider clock) => DateOnly.FromDateTime(clock.GetUtcNow().UtcDateTime);
}
