namespace Jovitar.Core.Photos;

/// <summary>What names a picture: the original it is made from, how that is corrected, and the watermark on it. Equal names mean equal pixels.</summary>
/// <param name="Hash">SHA-256 of the original, 64 small hexadecimal digits.</param>
/// <param name="Key">Of its correction, 16 such digits; empty when it is seen as it came in.</param>
/// <param name="Mark">Of its watermark, 16 such digits; empty for none.</param>
public readonly record struct PictureName(string Hash, string Key, string Mark = "")
{
    public const int HashLength = 64;
    public const int KeyLength = 16;

    /// <summary>What stands before the key of a watermark: no digit, so that none is taken for a correction's.</summary>
    const string BeforeMark = "-w";

    /// <summary>The picture as it came in.</summary>
    public PictureName Uncorrected => this with { Key = "" };

    /// <summary>The same without a watermark.</summary>
    public PictureName Unmarked => this with { Mark = "" };

    /// <summary>The name of a picture with a watermark.</summary>
    /// <param name="picture">Its name without.</param>
    /// <param name="mark">The watermark's key; empty for none.</param>
    public static string Marked(string picture, string mark) => mark.Length == 0 ? picture : $"{picture}{BeforeMark}{mark}";

    public static bool TryRead(string? text, out PictureName name)
    {
        name = default;
        if (text is null || text.Length < HashLength)
        {
            return false;
        }

        var (hash, rest, mark) = (text[..HashLength], text[HashLength..], "");
        if (rest.IndexOf(BeforeMark, StringComparison.Ordinal) is >= 0 and var at)
        {
            mark = rest[(at + BeforeMark.Length)..];
            rest = rest[..at];
            if (!IsKey(mark))
            {
                return false;
            }
        }

        if (!hash.All(char.IsAsciiHexDigitLower) || (rest.Length > 0 && (rest[0] != '-' || !IsKey(rest[1..]))))
        {
            return false;
        }

        name = new PictureName(hash, rest.Length == 0 ? "" : rest[1..], mark);
        return true;
    }

    static bool IsKey(string text) => text.Length == KeyLength && text.All(char.IsAsciiHexDigitLower);

    public override string ToString() => Marked(Key.Length == 0 ? Hash : $"{Hash}-{Key}", Mark);
}
