using System.Buffers.Binary;
using System.Diagnostics.CodeAnalysis;
using System.Globalization;
using System.Security.Cryptography;

namespace Jovitar.Core.Access;

/// <summary>
/// Codes that a phone shows, another every half minute: TOTP (RFC 6238) with HMAC-SHA-1 and steps of 30 seconds, which every program
/// that shows such codes knows.
/// </summary>
public static class OneTimeCode
{
    /// <summary>Digits of a code.</summary>
    public const int Digits = 6;

    /// <summary>As many bytes as the hash has (RFC 4226 §4, requirement 6).</summary>
    const int SecretBytes = 20;

    const int StepSeconds = 30;

    /// <summary>So many steps before and after the present one are good as well: for clocks that differ, and for who types slowly (RFC 6238 §5.2).</summary>
    const int Leeway = 1;

    const string Letters = "ABCDEFGHIJKLMNOPQRSTUVWXYZ234567";

    public static byte[] NewSecret() => RandomNumberGenerator.GetBytes(SecretBytes);

    /// <summary>The step that a moment lies in, from 0 at the beginning of 1970.</summary>
    public static long StepOf(DateTimeOffset moment) => moment.ToUnixTimeSeconds() / StepSeconds;

    /// <summary>The code of a step (RFC 4226 §5.3).</summary>
    /// <param name="digits">1 to 9.</param>
    [SuppressMessage("Security", "CA5350", Justification = "RFC 6238 says SHA-1 unless both sides say otherwise, and phones know no other. HMAC does not hang on what SHA-1 lacks (RFC 6194 §3.3).")]
    public static string Of(ReadOnlySpan<byte> secret, long step, int digits = Digits)
    {
        Span<byte> counter = stackalloc byte[8];
        BinaryPrimitives.WriteInt64BigEndian(counter, step);
        Span<byte> hash = stackalloc byte[HMACSHA1.HashSizeInBytes];
        HMACSHA1.HashData(secret, counter, hash);
        var number = BinaryPrimitives.ReadInt32BigEndian(hash[(hash[^1] & 0xF)..]) & int.MaxValue;
        return (number % (int)Math.Pow(10, digits)).ToString(CultureInfo.InvariantCulture).PadLeft(digits, '0');
    }

    /// <summary>Whether a code is good at a moment; one that was good once is not good again.</summary>
    /// <param name="code">As it was typed: spaces do not count.</param>
    /// <param name="used">The latest step whose code was taken.</param>
    /// <returns>The step whose code it is, which is used up by it; null where it is not good.</returns>
    public static long? Accepts(ReadOnlySpan<byte> secret, string code, DateTimeOffset now, long used)
    {
        var typed = code.Replace(" ", "", StringComparison.Ordinal);
        long? found = null;
        // All of them are looked at, whichever is right: how long it takes says nothing.
        for (var step = StepOf(now) - Leeway; step <= StepOf(now) + Leeway; step++)
        {
            var isIt = CryptographicOperations.FixedTimeEquals(System.Text.Encoding.UTF8.GetBytes(Of(secret, step)), System.Text.Encoding.UTF8.GetBytes(typed));
            found = isIt && step > used ? step : found;
        }

        return found;
    }

    /// <summary>A secret as people type it (RFC 4648 §6, without padding).</summary>
    public static string Base32(ReadOnlySpan<byte> bytes)
    {
        var text = new System.Text.StringBuilder();
        var (kept, bits) = (0, 0);
        foreach (var b in bytes)
        {
            (kept, bits) = ((kept << 8) | b, bits + 8);
            for (; bits >= 5; bits -= 5)
            {
                text.Append(Letters[(kept >> (bits - 5)) & 31]);
            }

            kept &= (1 << bits) - 1;
        }

        return bits > 0 ? text.Append(Letters[(kept << (5 - bits)) & 31]).ToString() : text.ToString();
    }

    /// <summary>The address that a phone reads off a screen: common practice of programs that show such codes.</summary>
    /// <param name="site">What the phone lists it under.</param>
    /// <param name="account">An e-mail address.</param>
    public static string Address(string site, string account, ReadOnlySpan<byte> secret) =>
        $"otpauth://totp/{Uri.EscapeDataString(site)}:{Uri.EscapeDataString(account)}?secret={Base32(secret)}&issuer={Uri.EscapeDataString(site)}";
}
