namespace Jovitar.Core.Visits;

/// <summary>What is a visit: somebody looks, not a program that reads.</summary>
public static class Visit
{
    /// <summary>What programs call themselves that read pages without anybody looking at them (common practice).</summary>
    static readonly string[] Robots = ["bot", "crawl", "spider", "slurp", "archiv", "scan", "monitor", "fetch", "feed", "preview", "index", "curl", "wget", "python", "java/", "go-http", "okhttp", "libwww", "headless"];

    /// <summary>Whether something is only fetched ahead.</summary>
    /// <param name="purpose">As below.</param>
    public static bool IsAhead(string? purpose) => purpose?.Contains("prefetch", StringComparison.OrdinalIgnoreCase) == true;

    /// <summary>Whether a request counts as a visit.</summary>
    /// <param name="agent">What the program that asks says it is (RFC 9110, User-Agent); who says nothing is no visitor.</param>
    /// <param name="purpose">Why it asks, where it says so (the Fetch standard's Sec-Purpose): what is fetched ahead is not looked at yet.</param>
    public static bool Counts(string? agent, string? purpose) =>
        !string.IsNullOrWhiteSpace(agent) && !IsAhead(purpose) && !Robots.Any(r => agent.Contains(r, StringComparison.OrdinalIgnoreCase));
}
