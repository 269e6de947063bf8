using OtpNet;

namespace Jovitar.Server.Access;

/// <summary>
/// Codes that a phone shows, another every half minute: TOTP (RFC 6238) with HMAC-SHA-1, six digits and steps of 30 seconds, which
/// every program that shows such codes knows.
/// </summary>
internal static class OneTimeCode
{
    /// <summary>As many bytes as the hash has (RFC 4226 §4, requirement 6).</summary>
    const int SecretBytes = 20;

    /// <summary>One step before and after the present one is good as well: for clocks that differ, and for who types slowly (RFC 6238 §5.2).</summary>
    static readonly VerificationWindow Leeway = new(previous: 1, future: 1);

    public static byte[] NewSecret() => KeyGeneration.GenerateRandomKey(SecretBytes);

    /// <summary>Whether a code is good at a moment; one that was good once is not good again.</summary>
    /// <param name="code">As it was typed: spaces do not count.</param>
    /// <param name="used">The latest step whose code was taken.</param>
    /// <returns>The step whose code it is, from 0 at the beginning of 1970, which is used up by it; null where it is not good.</returns>
    public static long? Accepts(byte[] secret, string code, DateTimeOffset now, long used) =>
        new Totp(secret).VerifyTotp(now.UtcDateTime, code.Replace(" ", "", StringComparison.Ordinal), out var step, Leeway) && step > used ? step : null;

    /// <summary>A secret as people type it (RFC 4648 §6).</summary>
    public static string Written(byte[] secret) => Base32Encoding.ToString(secret);

    /// <summary>The address that a phone reads off a screen: common practice of programs that show such codes.</summary>
    /// <param name="site">What the phone lists it under.</param>
    /// <param name="account">An e-mail address.</param>
    public static string Address(string site, string account, byte[] secret) =>
        $"otpauth://totp/{Uri.EscapeDataString(site)}:{Uri.EscapeDataString(account)}?secret={Written(secret)}&issuer={Uri.EscapeDataString(site)}";
}
