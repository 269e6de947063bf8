using System.Text;

namespace Jovitar.Core.Narrowings;

/// <summary>What a part of a narrowing speaks of.</summary>
public enum PartKind
{
    /// <summary>Albums by id, or <see cref="Narrowing.None"/>: in no album.</summary>
    Album,

    /// <summary>Categories by id, each with all beneath it, or none.</summary>
    Category,

    /// <summary>Tags by id, or none.</summary>
    Tag,

    /// <summary>Intakes by id.</summary>
    Intake,

    /// <summary>Where photos came from, as <see cref="PhotoSource"/> names it, or none where nobody knows.</summary>
    Source,

    /// <summary>People shown, by name, or none.</summary>
    People,

    /// <summary>Days, months or years taken (ISO 8601: <c>2026</c>, <c>2026-06</c>, <c>2026-06-13</c>), spans of them (<c>2026-06-13--2026-06-14</c>), or none.</summary>
    Taken,

    /// <summary>Cameras by name, or none.</summary>
    Camera,

    /// <summary>Lenses by name, or none.</summary>
    Lens,

    /// <summary>Ratings, 0 to 5.</summary>
    Rating,

    /// <summary>Decisions by the names they are kept under, or none.</summary>
    Decision,

    /// <summary>Clearance: cleared, not_cleared, or none while nobody has said or it is over.</summary>
    Clearance,

    /// <summary>Shapes: landscape, portrait, square, panorama.</summary>
    Shape,

    /// <summary>Spans of the longer edge in pixels: <c>1600-2399</c>, <c>6000-</c>.</summary>
    Pixels,

    /// <summary>What is lacking: title, alt, credit, clearance.</summary>
    Missing,

    /// <summary>How photos are corrected: turned, straightened, cropped, toned, grey, focus, print (cut from a scan), or none.</summary>
    Corrected,
}

/// <summary>One part: any of the choices (or none of them, turned round).</summary>
public sealed record NarrowingPart(PartKind Kind, bool Not, IReadOnlyList<string> Choices);

/// <summary>
/// What a sheet is limited to: words, and parts. Choices of one part join by "or", parts and words by "and". A choice that cannot
/// be read, or that is gone, fits no photo: a part of which nothing is left finds none, rather than all.
/// </summary>
[System.Diagnostics.CodeAnalysis.SuppressMessage("Naming", "CA1716", Justification = "It is the word of the vocabulary; nothing here is called from another language.")]
public sealed class Narrowing : IEquatable<Narrowing>
{
    /// <summary>The choice of having none of a kind.</summary>
    public const string None = "none";

    public const int MostChoices = 50;
    public const int LongestChoice = 200;
    public const int LongestWords = 200;

    /// <summary>All photos.</summary>
    public static readonly Narrowing Nothing = new("", []);

    readonly string text;

    /// <param name="words">Beginnings of words, all of which must be found; longer text is cut.</param>
    public Narrowing(string words, IEnumerable<NarrowingPart> parts)
    {
        Words = Text.Cut(words.Trim(), LongestWords);
        Parts = [.. parts.Where(p => p.Choices.Count > 0).OrderBy(p => p.Kind).ThenBy(p => p.Not)];
        text = Write();
    }

    public string Words { get; }

    /// <summary>In the order of their kinds; at most one plain and one turned round of each.</summary>
    public IReadOnlyList<NarrowingPart> Parts { get; }

    public bool IsNothing => text.Length == 0;

    /// <summary>What a part is called in an address.</summary>
    public static string Name(PartKind kind, bool not) => not ? $"not{kind}" : $"{char.ToLowerInvariant(kind.ToString()[0])}{kind.ToString()[1..]}";

    /// <summary>Reads what an address says.</summary>
    /// <param name="parameter">The value of a parameter by its name; null when it is not there.</param>
    public static Narrowing Read(Func<string, string?> parameter)
    {
        var parts = new List<NarrowingPart>();
        foreach (var kind in Enum.GetValues<PartKind>())
        {
            foreach (var not in (bool[])[false, true])
            {
                if (parameter(Name(kind, not)) is { Length: > 0 } choices)
                {
                    parts.Add(new NarrowingPart(kind, not, Split(choices)));
                }
            }
        }

        return new Narrowing(parameter("q") ?? "", parts);
    }

    /// <summary>The same without what it says of a kind; what is turned round stays.</summary>
    public Narrowing Without(PartKind kind) => new(Words, Parts.Where(p => p.Kind != kind || p.Not));

    /// <summary>Its text: equal for narrowings that say the same in the same words.</summary>
    public override string ToString() => text;

    public bool Equals(Narrowing? other) => other is not null && text == other.text;

    public override bool Equals(object? obj) => Equals(obj as Narrowing);

    public override int GetHashCode() => text.GetHashCode(StringComparison.Ordinal);

    /// <summary>Choices as one text: commas between them, and a backslash before a comma or backslash within.</summary>
    public static string Join(IEnumerable<string> choices) =>
        string.Join(',', choices.Select(c => c.Replace(@"\", @"\\", StringComparison.Ordinal).Replace(",", @"\,", StringComparison.Ordinal)));

    static List<string> Split(string text)
    {
        var (choices, one) = (new List<string>(), new StringBuilder());
        void End()
        {
            if (one.Length is > 0 and <= LongestChoice && choices.Count < MostChoices && !choices.Contains(one.ToString()))
            {
                choices.Add(one.ToString());
            }

            one.Clear();
        }

        for (var i = 0; i < text.Length; i++)
        {
            switch (text[i])
            {
                case ',':
                    End();
                    break;
                case '\\' when i + 1 < text.Length:
                    one.Append(text[++i]);
                    break;
                default:
                    one.Append(text[i]);
                    break;
            }
        }

        End();
        // Nothing of it could be read: then nothing fits, rather than everything.
        return choices.Count > 0 ? choices : [text[..Math.Min(text.Length, LongestChoice)]];
    }

    string Write() => string.Join('&', Parts.Select(p => $"{Name(p.Kind, p.Not)}={Uri.EscapeDataString(Join(p.Choices))}").Prepend(Words.Length > 0 ? $"q={Uri.EscapeDataString(Words)}" : "").Where(p => p.Length > 0));
}
