using System.Security.Cryptography;
using System.Text;
using Jovitar.Core.People;

namespace Jovitar.Core.Access;

/// <summary>What lets its holder in. Kept by name.</summary>
public enum EntryKind
{
    /// <summary>An address that is opened.</summary>
    Link,

    /// <summary>Letters and digits that are typed.</summary>
    Passcode,
}

/// <summary>What an entry link or a passcode says.</summary>
public static class EntrySecret
{
    /// <summary>Letters of a passcode: 31 to the 12th are more than 2 to the 59th, of which few can be tried.</summary>
    const int PasscodeLength = 12;

    /// <summary>A new one: of a link 256 bits in the letters of RFC 4648 §5, of a passcode as it is read to somebody, <c>abcd-efgh-jkmn</c>.</summary>
    public static string New(EntryKind kind) =>
        kind == EntryKind.Link ? LinkSecret.New() : ToldApart.NewGrouped(PasscodeLength);

    /// <summary>What is compared of one; how a passcode was typed (capitals, spaces, dashes) makes no difference.</summary>
    /// <returns>32 bytes (SHA-256); null for what cannot be one.</returns>
    public static byte[]? Hash(EntryKind kind, string typed)
    {
        if (kind == EntryKind.Link)
        {
            return LinkSecret.Hash(typed);
        }

        var plain = string.Concat(typed.Where(char.IsAsciiLetterOrDigit)).ToLowerInvariant();
        return ToldApart.Is(plain, PasscodeLength) ? SHA256.HashData(Encoding.ASCII.GetBytes(plain)) : null;
    }
}
