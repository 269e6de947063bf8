using System.Text.Json.Serialization;

namespace Jovitar.Core.Favourites;

/// <summary>What an album asks of visitors whom it knows: which of its photos they would have.</summary>
/// <param name="Most">So many at most; null for as many as there are.</param>
/// <param name="Until">They may choose until then; null for as long as it asks.</param>
/// <param name="Asks">What they are asked, in the words of whoever asks; empty for the usual ones.</param>
public sealed record Choosing(int? Most, DateTimeOffset? Until, string Asks)
{
    /// <summary>So many one visitor chooses at most, whatever is said: who wants more wants the album.</summary>
    public const int MostOfAll = 1000;

    /// <summary>UTF-16 code units.</summary>
    public const int LongestAsk = 400;

    /// <summary>What a visitor says with their choice, UTF-16 code units.</summary>
    public const int LongestWords = 2000;

    /// <summary>So many one visitor chooses at most.</summary>
    [JsonIgnore]
    public int Limit => Most ?? MostOfAll;

    /// <summary>What is wrong with it, by field; empty for nothing.</summary>
    public IReadOnlyDictionary<string, string> Faults()
    {
        var faults = new Dictionary<string, string>();
        if (Most is < 1 or > MostOfAll)
        {
            faults["most"] = $"Give a number from 1 to {MostOfAll:#,0}, or leave it empty.";
        }

        if (Asks.Length > LongestAsk)
        {
            faults["asks"] = $"This has {Asks.Length} letters; at most {LongestAsk} fit.";
        }

        return faults;
    }

    /// <summary>The same as the database keeps it: its time in UTC, its words without space around them.</summary>
    public Choosing AsKept() => this with { Until = Until?.ToUniversalTime(), Asks = Asks.Trim() };

    /// <summary>Whether its time is over.</summary>
    public bool IsOver(DateTimeOffset at) => Until is { } until && at >= until;

    /// <summary>Why a visitor may not change what they chose; null where they may.</summary>
    /// <param name="sent">When they said that they are done.</param>
    public Refusal? Refuses(DateTimeOffset? sent, DateTimeOffset at) => sent is not null ? Refusal.Sent : IsOver(at) ? Refusal.Over : null;

    /// <summary>Why a visitor may not choose one photo more; null where they may.</summary>
    /// <param name="chosen">How many they have chosen.</param>
    public Refusal? RefusesMore(DateTimeOffset? sent, int chosen, DateTimeOffset at) => Refuses(sent, at) ?? (chosen >= Limit ? Refusal.Full : null);
}

/// <summary>Why a visitor may not change what they chose.</summary>
public enum Refusal
{
    /// <summary>They said that they are done.</summary>
    Sent,

    /// <summary>The time for it is over.</summary>
    Over,

    /// <summary>They have chosen as many as they may.</summary>
    Full,

    /// <summary>They have chosen none: there is nothing to send.</summary>
    Empty,
}
