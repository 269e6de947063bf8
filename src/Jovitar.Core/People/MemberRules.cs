namespace Jovitar.Core.People;

/// <summary>Somebody who is to become a member.</summary>
/// <param name="Name">Empty where only an address is known.</param>
public sealed record NewMember(string Name, string Email);

/// <summary>A line of a list that says of nobody how to reach them.</summary>
/// <param name="Line">Counted from 1.</param>
public sealed record LineRefused(int Line, string Words, string Why);

/// <summary>Who may be a member, how many there may be, and how a list of them is read.</summary>
public static class MemberRules
{
    /// <summary>Members of one site.</summary>
    public const int Most = 20_000;

    /// <summary>Groups of one site: so many are chosen from in one list.</summary>
    public const int MostGroups = 500;

    /// <summary>Lines of one list.</summary>
    public const int MostLines = 2_000;

    /// <summary>Characters of one list.</summary>
    public const int LongestList = 200_000;

    public const int LongestName = 120;

    /// <summary>Days for which the link is good that a new member gets.</summary>
    public const int LinkDays = 30;

    /// <summary>What parts the cells of a list, whichever program it was copied from.</summary>
    static readonly char[] Cells = ['\t', ',', ';', '<', '>', '"'];

    /// <summary>What is wrong with a list as a whole; null for nothing.</summary>
    public static string? Fault(string list) =>
        string.IsNullOrWhiteSpace(list) ? "Write or paste at least one address."
        : list.Length > LongestList || list.AsSpan().Count('\n') >= MostLines ? $"Take at most {MostLines:#,0} lines at once."
        : null;

    /// <summary>
    /// Reads a list that was copied from a letter, a table or a file: a line for each, with an address somewhere in it and a name about it
    /// (<c>Ada Teal, ada@example.org</c>; <c>Ada Teal &lt;ada@example.org&gt;</c>; cells between tabs or semicolons). The heads of a table are passed over.
    /// </summary>
    /// <returns>Each address once, and the lines that have none.</returns>
    public static (IReadOnlyList<NewMember> Members, IReadOnlyList<LineRefused> Refused) Read(string list)
    {
        var members = new Dictionary<string, NewMember>(StringComparer.Ordinal);
        var refused = new List<LineRefused>();
        var lines = list.ReplaceLineEndings("\n").Split('\n');
        for (var n = 0; n < lines.Length; n++)
        {
            string[] cells = [.. lines[n].Split(Cells, StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)];
            // Within a cell the address may stand behind the name, with nothing but a space between them.
            string[] words = [.. cells.SelectMany(c => c.Contains('@', StringComparison.Ordinal) ? c.Split(' ', StringSplitOptions.RemoveEmptyEntries) : [c])];
            if (words.Length == 0)
            {
                continue;
            }

            var email = words.FirstOrDefault(w => w.Contains('@', StringComparison.Ordinal)) ?? "";
            if (email.Length == 0 && n == 0 && lines.Length > 1)
            {
                continue;
            }

            var name = Text.Cut(Text.Name(string.Join(' ', words.Where(w => !w.Contains('@', StringComparison.Ordinal)))), LongestName);
            if (email.Length == 0 || !MailAddress.IsOne(email))
            {
                refused.Add(new LineRefused(n + 1, Text.Cut(lines[n].Trim(), LongestName), email.Length == 0 ? "It has no e-mail address." : "Its e-mail address is mistyped."));
            }
            else
            {
                members.TryAdd(email.ToLowerInvariant(), new NewMember(name, email));
            }
        }

        return ([.. members.Values], refused);
    }

    /// <summary>What somebody is called of whom only the address is known.</summary>
    public static string Called(NewMember member) => member.Name.Length > 0 ? member.Name : member.Email[..member.Email.IndexOf('@', StringComparison.Ordinal)];
}
