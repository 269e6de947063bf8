namespace Jovitar.Core.Narrowings;

/// <summary>Where photos came from, as a choice of a narrowing: the way, and behind a colon which of several.</summary>
public static class PhotoSource
{
    /// <summary>What an intake came from: <c>computer</c>, <c>sent</c>, <c>watched:Club computer</c>, <c>scanner:Clubhouse scanner</c>.</summary>
    /// <param name="cameBy">The way of the intake.</param>
    /// <param name="label">Of a watched folder or a scanner its name, with the folder beneath it behind a slash: that is no other source.</param>
    public static string Of(string cameBy, string label) => cameBy is "watched" or "scanner" && label.Split('/')[0] is { Length: > 0 } name ? $"{cameBy}:{name}" : cameBy;
}
