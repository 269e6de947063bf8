using System.Security.Cryptography;
using System.Text;

namespace Jovitar.Core.Access;

/// <summary>Codes on paper, for when the phone is lost: each good once, in place of one that a phone shows.</summary>
public static class RescueCodes
{
    /// <summary>How many one gets.</summary>
    public const int Count = 8;

    /// <summary>Letters of a code: 31 to the 16th are more than 2 to the 79th.</summary>
    const int Length = 16;

    /// <summary>New ones, as they are printed: <c>abcd-efgh-jkmn-pqrs</c>.</summary>
    public static IReadOnlyList<string> New() => [.. Enumerable.Range(0, Count).Select(_ => ToldApart.NewGrouped(Length))];

    /// <summary>What is kept of one; how it was typed (capitals, spaces, dashes) makes no difference.</summary>
    /// <returns>32 bytes: of so many possible codes nobody finds one by trying (SHA-256 needs no slower hash beside it).</returns>
    public static byte[] Hash(string code) => SHA256.HashData(Encoding.UTF8.GetBytes(string.Concat(code.Where(char.IsAsciiLetterOrDigit)).ToLowerInvariant()));
}
