using System.Globalization;
using System.Security.Cryptography;
using System.Text;

namespace Jovitar.Core.Sales.Payments;

/// <summary>What a signature under a notice comes to.</summary>
public enum Signature
{
    Good,

    /// <summary>Whoever wrote it does not know the secret, or it says something else than was signed.</summary>
    Forged,

    /// <summary>It was signed too long ago, or ahead of time: somebody may send again what they overheard.</summary>
    Old,
}

/// <summary>The signature of a notice: an HMAC (RFC 2104) with SHA-256 over when it was signed and what it says.</summary>
public static class NoticeSignature
{
    /// <summary>Clocks are no further apart, and no notice is longer on its way.</summary>
    public static readonly TimeSpan Tolerance = TimeSpan.FromMinutes(5);

    /// <summary>Signs a notice.</summary>
    /// <param name="seconds">When, seconds since 1970.</param>
    /// <returns>64 lower-case hexadecimal digits.</returns>
    public static string Of(string secret, long seconds, string body) =>
        Convert.ToHexStringLower(HMACSHA256.HashData(Encoding.UTF8.GetBytes(secret), Encoding.UTF8.GetBytes(string.Create(CultureInfo.InvariantCulture, $"{seconds}.{body}"))));

    /// <summary>What a signature comes to. How long it takes to see that one is forged says nothing of how much of it was right.</summary>
    /// <param name="seconds">As it stands beside the signature.</param>
    public static Signature Check(string secret, string seconds, string signature, string body, DateTimeOffset now) =>
        !long.TryParse(seconds, NumberStyles.None, CultureInfo.InvariantCulture, out var at) || at > DateTimeOffset.MaxValue.ToUnixTimeSeconds()
            || !CryptographicOperations.FixedTimeEquals(Encoding.UTF8.GetBytes(Of(secret, at, body)), Encoding.UTF8.GetBytes(signature)) ? Signature.Forged
        : (now - DateTimeOffset.FromUnixTimeSeconds(at)).Duration() > Tolerance ? Signature.Old
        : Signature.Good;
}
