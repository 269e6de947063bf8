namespace Jovitar.Core.Photos;

/// <summary>What is written into a file of a photo that leaves: its words as they are here. Blank texts and null values take out what the file said.</summary>
public sealed record LeavingWords
{
    public string Title { get; init; } = "";
    public string Caption { get; init; } = "";
    public string Alt { get; init; } = "";
    public string Credit { get; init; } = "";
    public string Creator { get; init; } = "";
    public string Copyright { get; init; } = "";
    public string Licence { get; init; } = "";
    public string Origin { get; init; } = "";
    public string Place { get; init; } = "";
    public string Link { get; init; } = "";
    public IReadOnlyList<string> Tags { get; init; } = [];
    public IReadOnlyList<string> People { get; init; } = [];

    /// <summary>As <c>xmp:Rating</c>: 1 to 5, 0 for none, −1 for a photo that is left out (XMP Specification Part 2, 1.1).</summary>
    public int Rating { get; init; }
    public TakenAt? Taken { get; init; }

    /// <summary>Where on Earth; null when it does not leave: then the file's own is taken out, too.</summary>
    public Position? Position { get; init; }
}
