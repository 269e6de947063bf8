using System.Buffers.Binary;
using System.Diagnostics.CodeAnalysis;
using System.Security.Cryptography;

namespace Jovitar.Server.Tests;

/// <summary>What a phone does with a secret, written from the standards and not from what the server uses.</summary>
internal static class Phone
{
    /// <summary>RFC 4648 §6.</summary>
    public static byte[] SecretOf(string written)
    {
        var bits = string.Concat(written.Select(c => Convert.ToString("ABCDEFGHIJKLMNOPQRSTUVWXYZ234567".IndexOf(c, StringComparison.Ordinal), 2).PadLeft(5, '0')));
        return [.. bits.Chunk(8).Where(b => b.Length == 8).Select(b => Convert.ToByte(new string(b), 2))];
    }

    /// <summary>RFC 4226 §5.3.</summary>
    [SuppressMessage("Security", "CA5350", Justification = "It is the standard's.")]
    public static string CodeOf(byte[] secret, long step)
    {
        var counter = new byte[8];
        BinaryPrimitives.WriteInt64BigEndian(counter, step);
        var hash = HMACSHA1.HashData(secret, counter);
        return $"{(BinaryPrimitives.ReadUInt32BigEndian(hash.AsSpan(hash[^1] & 15)) & 0x7fffffff) % 1_000_000:000000}";
    }

    /// <summary>What it shows now, or some half minutes later.</summary>
    public static string Shows(string written, long ahead = 0) => CodeOf(SecretOf(written), (DateTimeOffset.UtcNow.ToUnixTimeSeconds() / 30) + ahead);
}
