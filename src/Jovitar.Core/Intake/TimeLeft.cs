namespace Jovitar.Core.Intake;

/// <summary>How long work still takes, from the pace of the last minute.</summary>
public static class TimeLeft
{
    /// <summary>The stretch of time that the pace is taken from.</summary>
    public static readonly TimeSpan Window = TimeSpan.FromMinutes(1);

    /// <summary>An estimate, or null while there is nothing to judge by.</summary>
    /// <param name="left">What is still to be done.</param>
    /// <param name="done">What was done within <paramref name="over"/>.</param>
    /// <param name="over">How long that took; at most <see cref="Window"/>.</param>
    public static TimeSpan? Estimate(long left, long done, TimeSpan over) =>
        left <= 0 ? TimeSpan.Zero : done <= 0 || over <= TimeSpan.Zero ? null : over * ((double)left / done);
}
