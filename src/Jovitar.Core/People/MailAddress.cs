using System.Text.RegularExpressions;

namespace Jovitar.Core.People;

/// <summary>Addresses for letters, as far as a site can judge them: whether there is somebody behind one only a letter finds out.</summary>
public static partial class MailAddress
{
    /// <summary>Of an address with its angle brackets at most (RFC 5321 §4.5.3.1.3).</summary>
    const int Longest = 254;

    /// <summary>Whether it has the form of one: a name and a host, without comments and quotes (a part of RFC 5321 §4.1.2 that all in use have).</summary>
    public static bool IsOne(string text) => text.Length <= Longest && Form().IsMatch(text);

    [GeneratedRegex("""^[^\s\p{C}@<>()\[\],;:\\"]{1,64}@[^\s\p{C}@<>()\[\],;:\\"]+$""")]
    private static partial Regex Form();
}
