using Jovitar.Core.People;

namespace Jovitar.Core.Contributions;

/// <summary>What somebody says who sends photos in.</summary>
/// <param name="Name">What they are called; of a member it is known.</param>
/// <param name="Email">Where they are told what becomes of the photos; empty for nowhere.</param>
/// <param name="Words">What they say with them; empty for nothing.</param>
/// <param name="Agreed">They said yes to what they are asked.</param>
public sealed record SendWish(string Name, string Email, string Words, bool Agreed)
{
    public SendWish Trimmed() => new(Text.Name(Name.ReplaceLineEndings(" ")), Email.Trim(), Words.Trim().ReplaceLineEndings("\n"), Agreed);

    /// <summary>What is wrong with it, by field; empty for nothing.</summary>
    /// <param name="agree">What they must say yes to; empty for nothing.</param>
    /// <param name="isKnown">They are a member.</param>
    public IReadOnlyDictionary<string, string> Faults(string agree, bool isKnown)
    {
        var faults = new Dictionary<string, string>(StringComparer.Ordinal);
        if (!isKnown && !Text.IsSeen(Name))
        {
            faults["name"] = "Say what you are called: it stands beside your photographs.";
        }
        else if (Text.Fault(Name, MemberRules.LongestName) is { } name)
        {
            faults["name"] = name;
        }

        if (Email.Length > 0 && !MailAddress.IsOne(Email))
        {
            faults["email"] = "This is not an e-mail address.";
        }

        if (Text.Fault(Words, Sending.LongestWords) is { } words)
        {
            faults["words"] = words;
        }

        if (agree.Length > 0 && !Agreed)
        {
            faults["agreed"] = "Say yes to this, or send nothing.";
        }

        return faults;
    }
}
