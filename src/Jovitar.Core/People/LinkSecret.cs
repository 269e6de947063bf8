using System.Buffers.Text;
using System.Security.Cryptography;
using System.Text;

namespace Jovitar.Core.People;

/// <summary>What a link that lets somebody in carries. Only its hash is kept, so that who reads the database has no link.</summary>
public static class LinkSecret
{
    /// <summary>256 bits: nobody comes upon one by trying.</summary>
    const int Bytes = 32;

    /// <summary>Characters of one, as it stands in an address.</summary>
    public const int Length = 43;

    /// <summary>A new one, in the letters of RFC 4648 §5, which need no escape in an address.</summary>
    public static string New() => Base64Url.EncodeToString(RandomNumberGenerator.GetBytes(Bytes));

    /// <summary>What is kept of one.</summary>
    /// <returns>32 bytes (SHA-256; so long a secret needs no slower hash); null for what cannot be one.</returns>
    public static byte[]? Hash(string secret) =>
        secret.Length == Length && secret.All(c => char.IsAsciiLetterOrDigit(c) || c is '-' or '_') ? SHA256.HashData(Encoding.ASCII.GetBytes(secret)) : null;
}
