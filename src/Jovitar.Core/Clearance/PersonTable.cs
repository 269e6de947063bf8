using System.Globalization;
using Jovitar.Core.Describing;

namespace Jovitar.Core.Clearance;

/// <summary>What the list says of a person.</summary>
/// <param name="Says">One of <see cref="Consents"/>.</param>
/// <param name="Until">The last day of a yes; null for no end.</param>
/// <param name="By">Who said it, and how it is known.</param>
public sealed record PersonSaid(string Name, string Says, DateOnly? Until, string By)
{
    /// <summary>Why it cannot be kept; null when it can.</summary>
    public string? Wrong() =>
        Persons.All([Name]) is not [_] || !Text.IsSound(Name) ? $"A person has a name of at most {Persons.Longest} letters."
        : Says is not (Consents.Nothing or Consents.Yes or Consents.No) ? "A person says yes, no, or nothing."
        : Until is not null && Says != Consents.Yes ? "Only a yes has an end."
        : Text.Fault(By, PhotoClearance.LongestBy) is { } fault ? fault
        : null;

    /// <summary>The same with its name as names are kept.</summary>
    public PersonSaid Trimmed() => this with { Name = Persons.All([Name])[0], By = Text.Name(By.ReplaceLineEndings(" ")) };
}

/// <summary>The list of persons in a spreadsheet's file: its columns, and how a row is written and read.</summary>
public static class PersonTable
{
    public const string Name = "name";
    public const string FirstName = "first name";
    public const string LastName = "last name";
    public const string Says = "says";
    public const string Until = "until";
    public const string By = "said by";

    /// <summary>So many rows are read at once.</summary>
    public const int MostRows = 20_000;

    /// <summary>So many persons the list has at most.</summary>
    public const int MostPersons = 50_000;

    /// <summary>Columns as they are written.</summary>
    public static readonly IReadOnlyList<string> Columns = [Name, Says, Until, By];

    /// <summary>Columns that are known: a name may stand in two.</summary>
    public static readonly IReadOnlyList<string> Known = [.. Columns, FirstName, LastName];

    static readonly string[] Yes = ["yes", "y", "true", "1"];
    static readonly string[] No = ["no", "n", "false", "0"];

    /// <summary>Why a header names no persons; null when it does.</summary>
    public static string? Lacks(IReadOnlyCollection<string> columns) =>
        !columns.Contains(Name) && !(columns.Contains(FirstName) && columns.Contains(LastName)) ? $"The first row names no person: one column is called “{Name}”, or two “{FirstName}” and “{LastName}”."
        : !columns.Contains(Says) ? $"The first row has no column “{Says}”; in it stands yes or no."
        : null;

    /// <summary>A person's cells, in the order of <see cref="Columns"/>.</summary>
    public static IReadOnlyList<string> Cells(PersonSaid person) =>
    [
        WordsTable.Cell(person.Name), person.Says == Consents.Ended ? Consents.Yes : person.Says, person.Until?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture) ?? "", WordsTable.Cell(person.By),
    ];

    /// <summary>The persons of a file's rows. Of two rows of one person a no is never the one that is passed over.</summary>
    /// <param name="rows">Each with the line it stands in, and its cells by column.</param>
    /// <returns>The persons in their order, each once; and the lines that are not written, each with its reason.</returns>
    public static (IReadOnlyList<PersonSaid> Persons, IReadOnlyList<(int Line, string Why)> Rejected) All(IEnumerable<(int Line, Func<string, string?> Cell)> rows)
    {
        var (persons, rejected, seen) = (new List<PersonSaid>(), new List<(int, string)>(), new Dictionary<string, (int At, int Line)>(StringComparer.Ordinal));
        foreach (var (line, cell) in rows)
        {
            var (person, wrong) = Read(cell);
            if (person is null)
            {
                rejected.Add((line, wrong!));
            }
            else if (!seen.TryGetValue(Persons.Key(person.Name), out var known))
            {
                seen[Persons.Key(person.Name)] = (persons.Count, line);
                persons.Add(person);
            }
            else if (person.Says == Consents.No && persons[known.At].Says != Consents.No)
            {
                rejected.Add((known.Line, $"The same person stands in line {line} and says no there."));
                (persons[known.At], seen[Persons.Key(person.Name)]) = (person, (known.At, line));
            }
            else
            {
                rejected.Add((line, $"The same person stands in line {known.Line} already."));
            }
        }

        return (persons, rejected);
    }

    /// <summary>A person out of a row's cells, by column.</summary>
    /// <returns>The person, or why it is none.</returns>
    public static (PersonSaid? Person, string? Wrong) Read(Func<string, string?> cell)
    {
        string Said(string column) => WordsTable.Said((cell(column) ?? "").Trim());
        var name = Said(Name) is { Length: > 0 } whole ? whole : $"{Said(FirstName)} {Said(LastName)}".Trim();
        if (name.Length == 0)
        {
            return (null, "It has no name.");
        }

        var word = Said(Says).ToLowerInvariant();
        var says = Yes.Contains(word) ? Consents.Yes : No.Contains(word) ? Consents.No : word.Length == 0 ? Consents.Nothing : null;
        if (says is null)
        {
            return (null, $"“{Text.Cut(Said(Says), 40)}” is neither yes nor no.");
        }

        DateOnly? until = null;
        if (says == Consents.Yes && Said(Until) is { Length: > 0 } day)
        {
            until = Days.Read(day);
            if (until is null)
            {
                return (null, $"“{Text.Cut(day, 40)}” is no day; it is written 2027-06-30.");
            }
        }

        var person = new PersonSaid(name, says, until, Said(By));
        return person.Wrong() is { } wrong ? (null, wrong) : (person.Trimmed(), null);
    }
}
