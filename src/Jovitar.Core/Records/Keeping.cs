namespace Jovitar.Core.Records;

/// <summary>What is recorded of visitors whom the site knows, and of those it turned away. Kept by name.</summary>
public enum Recorded
{
    /// <summary>They opened a page; once for each visit.</summary>
    Opened,

    /// <summary>They saved a photo.</summary>
    Saved,

    /// <summary>They saved all that a page offers at once.</summary>
    SavedAll,

    /// <summary>Somebody came to what a gate does not let them in to; once for each visit.</summary>
    Refused,
}

/// <summary>How long records are kept.</summary>
public static class Keeping
{
    /// <summary>Days for which they may be kept; 0 records nothing.</summary>
    public static readonly IReadOnlyList<int> Choices = [0, 30, 90, 365];

    /// <summary>Who comes to the same again within this time has not come again.</summary>
    public static readonly TimeSpan SameVisit = TimeSpan.FromMinutes(30);

    /// <summary>Whether coming to the same again is another record; what is saved is recorded each time.</summary>
    public static bool IsOnceAVisit(Recorded what) => what is Recorded.Opened or Recorded.Refused;

    public static bool IsOffered(int days) => Choices.Contains(days);

    /// <summary>What was recorded before this is forgotten.</summary>
    public static DateTimeOffset Since(int days, DateTimeOffset now) => days == 0 ? now : now - TimeSpan.FromDays(days);
}
