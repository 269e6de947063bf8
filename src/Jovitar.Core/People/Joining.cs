namespace Jovitar.Core.People;

/// <summary>How visitors become members. Kept by name.</summary>
public enum Joining
{
    /// <summary>Staff make them.</summary>
    Closed,

    /// <summary>They ask, and staff accept it.</summary>
    Asked,

    /// <summary>They ask, and whoever reads the letter that comes is one.</summary>
    Open,
}

/// <summary>Somebody who asks to become a member.</summary>
/// <param name="Words">What they say of themselves; empty for nothing.</param>
public sealed record JoinWish(string Name, string Email, string Words)
{
    public const int LongestWords = 300;

    /// <summary>So many wait at most: whoever asks then is told to ask again.</summary>
    public const int MostWaiting = 500;

    /// <summary>The same on one line each.</summary>
    public JoinWish Trimmed() => new(Text.Name(Name.ReplaceLineEndings(" ")), Email.Trim(), Text.Name(Words.ReplaceLineEndings(" ")));

    /// <summary>What is wrong with it, by field; empty for nothing.</summary>
    public IReadOnlyDictionary<string, string> Faults()
    {
        var faults = new Dictionary<string, string>(StringComparer.Ordinal);
        if (!Text.IsSeen(Name))
        {
            faults["name"] = "Say what you are called.";
        }
        else if (Text.Fault(Name, MemberRules.LongestName) is { } name)
        {
            faults["name"] = name;
        }

        if (!MailAddress.IsOne(Email))
        {
            faults["email"] = "Type your e-mail address.";
        }

        if (Text.Fault(Words, LongestWords) is { } words)
        {
            faults["words"] = words;
        }

        return faults;
    }
}
