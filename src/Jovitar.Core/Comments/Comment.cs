namespace Jovitar.Core.Comments;

/// <summary>Whether others read a comment. Kept by name.</summary>
public enum CommentState
{
    /// <summary>Nobody has decided on it yet: staff alone read it.</summary>
    Waiting,

    /// <summary>Whoever sees the photo reads it.</summary>
    Shown,

    /// <summary>Staff alone read it, until it is removed for good or shown after all.</summary>
    Refused,
}

/// <summary>What a visitor writes about a photo.</summary>
/// <param name="Name">What they call themselves, on one line.</param>
/// <param name="Words">Plain text; lines stay lines.</param>
public sealed record Comment(string Name, string Words)
{
    public const int LongestName = 80;
    public const int LongestWords = 2000;

    /// <summary>More line breaks one after the other than this are so many.</summary>
    const int MostBreaks = 2;

    /// <summary>What is wrong with it, by field; empty for nothing.</summary>
    public IReadOnlyDictionary<string, string> Faults()
    {
        var faults = new Dictionary<string, string>(StringComparer.Ordinal);
        foreach (var (field, text, most, none) in ((string, string, int, string)[])[("name", Name, LongestName, "Say who you are."), ("words", Words, LongestWords, "Write something first.")])
        {
            if (!Text.IsSeen(text))
            {
                faults[field] = none;
            }
            else if (Text.Fault(text, most) is { } fault)
            {
                faults[field] = fault;
            }
        }

        return faults;
    }

    /// <summary>The same without what nobody reads: the name on one line, no spaces at the ends of lines, no gaps of many lines.</summary>
    public Comment Trimmed()
    {
        var (lines, breaks) = (new List<string>(), 0);
        foreach (var line in Words.ReplaceLineEndings("\n").Trim().Split('\n'))
        {
            var kept = line.TrimEnd();
            breaks = kept.Length == 0 ? breaks + 1 : 0;
            if (breaks < MostBreaks)
            {
                lines.Add(kept);
            }
        }

        return new Comment(Text.Name(Name.ReplaceLineEndings(" ")), string.Join('\n', lines));
    }
}
