namespace Jovitar.Core.Photos;

/// <summary>What names a picture: the original it is made from, and how that is corrected. Equal names mean equal pixels.</summary>
/// <param name="Hash">SHA-256 of the original, 64 small hexadecimal digits.</param>
/// <param name="Key">Of its correction, 16 such digits; empty when it is seen as it came in.</param>
public readonly record struct PictureName(string Hash, string Key)
{
    public const int HashLength = 64;
    public const int KeyLength = 16;

    /// <summary>The picture as it came in.</summary>
    public PictureName Uncorrected => this with { Key = "" };

    public static bool TryRead(string? text, out PictureName name)
    {
        name = default;
        if (text is null || (text.Length != HashLength && (text.Length != HashLength + 1 + KeyLength || text[HashLength] != '-')))
        {
            return false;
        }

        name = new PictureName(text[..HashLength], text.Length == HashLength ? "" : text[(HashLength + 1)..]);
        return name.Hash.All(char.IsAsciiHexDigitLower) && name.Key.All(char.IsAsciiHexDigitLower);
    }

    public override string ToString() => Key.Length == 0 ? Hash : $"{Hash}-{Key}";
}
