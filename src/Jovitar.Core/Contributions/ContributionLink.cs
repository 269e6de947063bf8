using Jovitar.Core.Access;

namespace Jovitar.Core.Contributions;

/// <summary>What a contribution link says: it lets somebody send photos in, with instructions.</summary>
/// <param name="Title">What visitors find above it: “Regatta, your photographs”.</param>
/// <param name="Words">The instructions; paragraphs are parted by empty lines.</param>
/// <param name="Agree">What whoever sends must say yes to; empty for nothing.</param>
/// <param name="Ends">Photos are taken until then; null for as long as it is not withdrawn.</param>
/// <param name="ForMembers">Only members send by it; else nobody needs an account.</param>
/// <param name="Most">So many photos one contribution holds.</param>
public sealed record LinkWords(string Title, string Words, string Agree, DateTimeOffset? Ends, bool ForMembers, int Most)
{
    public const int LongestTitle = 120;
    public const int LongestWords = 4000;
    public const int LongestAgree = 400;

    /// <summary>The same as it is kept: without space around its words, its time in UTC.</summary>
    public LinkWords AsKept() => this with { Title = Text.Name(Title), Words = Words.Trim().ReplaceLineEndings("\n"), Agree = Text.Name(Agree.ReplaceLineEndings(" ")), Ends = Ends?.ToUniversalTime() };

    /// <summary>What is wrong with it, by field; empty for nothing.</summary>
    /// <param name="at">Now: one that ends has ended later.</param>
    public IReadOnlyDictionary<string, string> Faults(DateTimeOffset at)
    {
        var faults = new Dictionary<string, string>(StringComparer.Ordinal);
        if (!Text.IsSeen(Title))
        {
            faults["title"] = "Say what it is for.";
        }
        else if (Text.Fault(Title, LongestTitle) is { } title)
        {
            faults["title"] = title;
        }

        if (Text.Fault(Words, LongestWords) is { } words)
        {
            faults["words"] = words;
        }

        if (Text.Fault(Agree, LongestAgree) is { } agree)
        {
            faults["agree"] = agree;
        }

        if (Ends is { } ends && ends <= at)
        {
            faults["ends"] = "This time is past.";
        }

        if (Most is < 1 or > Sending.MostPhotos)
        {
            faults["most"] = $"Give a number from 1 to {Sending.MostPhotos}.";
        }

        return faults;
    }

    /// <summary>What the decision looks at.</summary>
    /// <param name="withdrawn">It was withdrawn.</param>
    public CallForPhotos Thing(bool withdrawn, DateTimeOffset at) => new(!withdrawn && (Ends is not { } ends || at < ends), ForMembers);
}
