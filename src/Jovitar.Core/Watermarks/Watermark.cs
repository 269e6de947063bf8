using System.Security.Cryptography;
using System.Text;

namespace Jovitar.Core.Watermarks;

/// <summary>What a watermark is made of. Kept by name.</summary>
public enum WatermarkKind
{
    Words,
    Picture,
}

/// <summary>In which letters its words are set. Kept by name.</summary>
public enum Lettering
{
    /// <summary>Without serifs.</summary>
    Plain,

    /// <summary>With serifs.</summary>
    Serif,

    /// <summary>As if written by hand.</summary>
    Hand,
}

/// <summary>Where on a photo it stands: once, or over and over on all of it. Kept by name.</summary>
public enum WatermarkPlace
{
    TopLeft,
    Top,
    TopRight,
    Left,
    Middle,
    Right,
    BottomLeft,
    Bottom,
    BottomRight,
    AllOver,
}

/// <summary>A picture that was brought to be a watermark.</summary>
/// <param name="Picture">Names its bytes: their SHA-256 in lower-case hexadecimal digits.</param>
/// <param name="Width">Pixels; likewise its height.</param>
public sealed record WatermarkPicture(string Picture, int Width, int Height)
{
    /// <summary>So high it is made at most, pixels: more than it is shown at on the largest rendition.</summary>
    public const int MostPixels = 600;

    /// <summary>Longer than this beside its height none is made.</summary>
    public const int Longest = 12;

    /// <summary>Of a file that is to become one, bytes.</summary>
    public const int MostBytes = 4 * 1024 * 1024;
}

/// <summary>What is made into the pictures that some visitors get, so that nobody takes them for their own; the original stays as it came.</summary>
/// <param name="Words">Where it is made of words.</param>
/// <param name="Picture">Where it is a picture; kept while it is words, and the other way round.</param>
/// <param name="Size">How large: the side of a square as large as it is, in percent of the side of one as large as the photo.</param>
/// <param name="Strength">How much it covers what is beneath it, percent.</param>
/// <param name="Inset">How far it stands from the edges, in percent of the shorter edge.</param>
public sealed record Watermark(WatermarkKind Kind, string Words, Lettering Lettering, WatermarkPicture? Picture, WatermarkPlace Place, int Size, int Strength, int Inset)
{
    public const int LongestWords = 80;
    public const int Smallest = 3;
    public const int Largest = 60;
    public const int Faintest = 5;
    public const int Strongest = 100;
    public const int WidestInset = 20;

    /// <summary>Raised when the same watermark would come out otherwise.</summary>
    const int Recipe = 1;

    /// <summary>What a site begins with: nothing, in a corner and easy to see through.</summary>
    public static readonly Watermark Usual = new(WatermarkKind.Words, "", Lettering.Plain, null, WatermarkPlace.BottomRight, 12, 60, 4);

    /// <summary>There is nothing to be seen of it: photos are as they are.</summary>
    public bool IsNothing => Kind == WatermarkKind.Words ? Words.Length == 0 : Picture is null;

    /// <summary>Names what is made into pictures, as the names of pictures have it; empty where that is nothing. Equal keys mean equal watermarks.</summary>
    public string Key()
    {
        if (IsNothing)
        {
            return "";
        }

        var made = Kind == WatermarkKind.Words ? $"{Lettering}|{Words}" : Picture!.Picture;
        return Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes($"{Recipe}|{Kind}|{Place}|{Size}|{Strength}|{Inset}|{made}")))[..Photos.PictureName.KeyLength];
    }

    /// <summary>What is wrong with it, by field; empty for nothing.</summary>
    public IReadOnlyDictionary<string, string> Faults()
    {
        var faults = new Dictionary<string, string>();
        if (!Enum.IsDefined(Kind) || !Enum.IsDefined(Lettering) || !Enum.IsDefined(Place))
        {
            faults["kind"] = "Choose words or a picture, and where it stands.";
        }

        if (Text.Fault(Words, LongestWords) is { } fault)
        {
            faults["words"] = fault;
        }

        return faults;
    }

    /// <summary>The same as the database keeps it: every number in its range, and its words on one line.</summary>
    public Watermark AsKept() => this with
    {
        Words = Text.Name(Words),
        Size = Math.Clamp(Size, Smallest, Largest),
        Strength = Math.Clamp(Strength, Faintest, Strongest),
        Inset = Math.Clamp(Inset, 0, WidestInset),
    };
}
