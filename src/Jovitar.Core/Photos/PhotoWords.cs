using System.Text;

namespace Jovitar.Core.Photos;

/// <summary>How long the words of a photo may be, UTF-16 code units.</summary>
public static class PhotoWords
{
    public const int LongestTitle = 300;

    /// <summary>Captions and descriptions.</summary>
    public const int LongestText = 20_000;
    public const int LongestCopyright = 1000;
    public const int LongestLink = 2000;

    /// <summary>Most tags of one photo.</summary>
    public const int MostTags = 500;
}

/// <summary>What one standard's block in a file says. Missing and blank values are null.</summary>
public sealed record MetadataBlock
{
    public string? Title { get; init; }
    public string? Caption { get; init; }
    public string? Alt { get; init; }
    public IReadOnlyList<string> Keywords { get; init; } = [];
    public string? Creator { get; init; }
    public string? Credit { get; init; }
    public string? Copyright { get; init; }
    public string? Place { get; init; }

    /// <summary>Names of people shown.</summary>
    public IReadOnlyList<string> People { get; init; } = [];

    /// <summary>What may be done with it: XMP's usage terms.</summary>
    public string? Licence { get; init; }

    /// <summary>Where it came from: IPTC's source.</summary>
    public string? Origin { get; init; }
    public int? Rating { get; init; }
    public TakenAt? Taken { get; init; }
}

/// <summary>When a photo was taken: the clock on the wall where it was, and its offset from UTC when the camera knew it.</summary>
public readonly record struct TakenAt(DateTime Local, TimeSpan? Offset);

/// <summary>How it was taken, as the camera wrote it.</summary>
/// <param name="Seconds">Exposure time, seconds.</param>
/// <param name="FNumber">Aperture, f-number.</param>
/// <param name="Iso">Sensitivity, ISO 12232.</param>
/// <param name="FocalLength">Focal length, millimetres.</param>
public sealed record Exposure(double? Seconds, double? FNumber, int? Iso, double? FocalLength);

/// <summary>Where on Earth, degrees (WGS 84), north and east positive.</summary>
public readonly record struct Position(double Latitude, double Longitude);

/// <summary>Everything read from a photo's file.</summary>
public sealed record PhotoMetadata
{
    public required MetadataBlock Words { get; init; }
    public string? Camera { get; init; }
    public string? Lens { get; init; }
    public Exposure Exposure { get; init; } = new(null, null, null, null);
    public Position? Position { get; init; }
}

/// <summary>Settles which of the three blocks speaks when EXIF, IPTC-IIM and XMP disagree.</summary>
/// <remarks>
/// After the Metadata Working Group's "Guidelines for Handling Image Metadata" 2.0, chapter 5 (the order is from memory):
/// EXIF speaks first where it has the property; between IIM and XMP, XMP speaks unless the recorded digest of the IIM block
/// no longer fits, for then a program that knows only IIM has changed it since.
/// </remarks>
public static class MetadataReconciliation
{
    /// <summary>One block out of three.</summary>
    /// <param name="iimChanged">The digest of the IIM block is recorded and does not fit the block.</param>
    /// <param name="explorer">What a file explorer wrote; it speaks only where nobody else does.</param>
    public static MetadataBlock Reconcile(MetadataBlock exif, MetadataBlock iim, MetadataBlock xmp, bool iimChanged, MetadataBlock? explorer = null)
    {
        var (first, second) = iimChanged ? (iim, xmp) : (xmp, iim);
        string? Pick(Func<MetadataBlock, string?> of, bool exifHasIt = true)
        {
            var others = Clean(of(first)) ?? Clean(of(second));
            var spoken = exifHasIt ? Clean(of(exif)) : null;
            // EXIF's text is ASCII: where it is the others' text written so, theirs is what was meant.
            return (spoken is not null && others is not null && IsAsciiOf(spoken, others) ? others : spoken) ?? others ?? Clean(explorer is null ? null : of(explorer));
        }

        return new MetadataBlock
        {
            Title = Pick(b => b.Title, false),
            Caption = Pick(b => b.Caption),
            Alt = Pick(b => b.Alt, false),
            Keywords = first.Keywords.Count > 0 ? first.Keywords : second.Keywords.Count > 0 ? second.Keywords : explorer?.Keywords ?? [],
            Creator = Pick(b => b.Creator),
            Credit = Pick(b => b.Credit, false),
            Copyright = Pick(b => b.Copyright),
            Place = Pick(b => b.Place, false),
            People = xmp.People,
            Licence = Pick(b => b.Licence, false),
            Origin = Pick(b => b.Origin, false),
            Rating = Stars(xmp.Rating) ?? Stars(explorer?.Rating),
            Taken = exif.Taken ?? first.Taken ?? second.Taken,
        };
    }

    static int? Stars(int? rating) => rating is >= 0 and <= 5 ? rating : null;

    /// <summary>Whether a text is another one with all that is not ASCII written otherwise: © as (C), é as e, or as a question mark.</summary>
    internal static bool IsAsciiOf(string ascii, string text)
    {
        if (!Ascii.IsValid(ascii) || Ascii.IsValid(text))
        {
            return false;
        }

        var folded = new StringBuilder();
        var marked = new StringBuilder();
        foreach (var rune in text.EnumerateRunes())
        {
            if (rune.IsAscii)
            {
                folded.Append(rune);
                marked.Append(rune);
                continue;
            }

            marked.Append('?');
            folded.Append(rune.Value switch
            {
                '©' => "(C)",
                '®' => "(R)",
                '™' => "(TM)",
                '–' or '—' => "-",
                '“' or '”' => "\"",
                '‘' or '’' => "'",
                _ => string.Concat(rune.ToString().Normalize(NormalizationForm.FormD).Where(char.IsAscii)) is { Length: > 0 } bare ? bare : "?",
            });
        }

        return string.Equals(ascii, folded.ToString(), StringComparison.OrdinalIgnoreCase) || ascii == marked.ToString();
    }

    /// <summary>Text without outer blanks, NULs and other control characters; null when nothing is left, or only a camera's standing phrase.</summary>
    public static string? Clean(string? text)
    {
        if (text is null)
        {
            return null;
        }

        var clean = string.Concat(text.Where(c => c is '\n' or '\t' || !char.IsControl(c))).Trim();
        return clean.Length == 0 || StandingPhrases.Contains(clean) ? null : clean;
    }

    /// <summary>What cameras write into ImageDescription by themselves (common practice).</summary>
    static readonly HashSet<string> StandingPhrases = new(StringComparer.OrdinalIgnoreCase) { "default", "untitled", "digital camera", "exif_jpeg_picture" };
}
