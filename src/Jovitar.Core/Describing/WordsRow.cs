using System.Globalization;

namespace Jovitar.Core.Describing;

/// <summary>New words of one photo, as a row of a table says them; what is null stays as it is.</summary>
/// <param name="Words">By <see cref="WordField"/>.</param>
/// <param name="Tags">All its tags.</param>
/// <param name="People">All whom it shows.</param>
/// <param name="Version">What the row was read at; a photo that has changed since is left alone. Null to write whatever it is now.</param>
public sealed record WordsRow(
    Guid Photo, IReadOnlyDictionary<WordField, string> Words, IReadOnlyList<string>? People = null, IReadOnlyList<string>? Tags = null, int? Rating = null, DateTime? Taken = null, long? Version = null)
{
    /// <summary>What the row comes to for the photo as it is; tags and rating apart.</summary>
    public DescribedAnew Of(Described photo)
    {
        var (cut, refused) = (false, false);
        var words = new string?[WordFields.All.Count];
        foreach (var (field, said) in Words)
        {
            var text = WordFields.HasLines(field) ? said.ReplaceLineEndings("\n").Trim() : said.ReplaceLineEndings(" ").Trim();
            if (field == WordField.Link && text.Length > 0 && !WordFields.IsLink(text))
            {
                refused = true;
                continue;
            }

            var fits = Text.Cut(text, WordFields.Longest(field));
            cut |= fits.Length < text.Length;
            words[(int)field] = fits == photo[field] ? null : fits;
        }

        var people = People is null ? null : Persons.All(People);
        return new DescribedAnew(
            words, Taken is { } taken && taken != photo.Taken ? (taken, photo.Offset) : null, people is null || people.SequenceEqual(photo.People) ? null : people, cut, Lacks: false, refused);
    }
}

/// <summary>A table of words in a spreadsheet's file: its columns, and how a cell is written and read.</summary>
public static class WordsTable
{
    public const string Id = "id";
    public const string Hash = "hash";
    public const string FileName = "file name";
    public const string People = "people";
    public const string Tags = "tags";
    public const string Rating = "rating";
    public const string Taken = "date taken";

    /// <summary>Between several names in one cell.</summary>
    const char Between = ';';

    /// <summary>What a spreadsheet takes for a formula when a cell begins with it (common practice: OWASP, CSV injection).</summary>
    const string Formulas = "=+-@\t\r";

    /// <summary>All columns in their order.</summary>
    public static readonly IReadOnlyList<string> Columns = [Id, Hash, FileName, .. WordFields.All.Select(ColumnOf), People, Tags, Rating, Taken];

    /// <summary>What the column of a word is called.</summary>
    public static string ColumnOf(WordField field) => field == WordField.Alt ? "description" : WordFields.Name(field);

    /// <summary>A text as a cell that no spreadsheet runs: an apostrophe stands before what it would take for a formula.</summary>
    public static string Cell(string text) => IsFormula(text.TrimStart('\'')) ? $"'{text}" : text;

    /// <summary>The text that a cell says.</summary>
    public static string Said(string cell) => cell.StartsWith('\'') && IsFormula(cell.TrimStart('\'')) ? cell[1..] : cell;

    static bool IsFormula(string text) => text.Length > 0 && Formulas.Contains(text[0], StringComparison.Ordinal);

    public static string Several(IEnumerable<string> names) => string.Join($"{Between} ", names);

    public static IReadOnlyList<string> Several(string cell) => cell.Split(Between, StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);

    public static string Date(DateTime? taken) => taken?.ToString("yyyy-MM-dd HH:mm:ss", CultureInfo.InvariantCulture) ?? "";

    /// <summary>A row out of its cells, by column; columns that are not there stay as they are.</summary>
    /// <param name="clears">Blank cells clear a word; otherwise they leave it as it is.</param>
    /// <returns>The row, or why it is none.</returns>
    public static (WordsRow? Row, string? Wrong) Read(Guid photo, Func<string, string?> cell, bool clears)
    {
        string? Said(string column) => cell(column) is { } text ? (text.Trim().Length > 0 ? WordsTable.Said(text) : clears ? "" : null) : null;
        var words = new Dictionary<WordField, string>();
        foreach (var field in WordFields.All)
        {
            if (Said(ColumnOf(field)) is { } text)
            {
                if (!Text.IsSound(text))
                {
                    return (null, $"“{ColumnOf(field)}” has characters in it that cannot be kept.");
                }

                if (field == WordField.Link && text.Trim().Length > 0 && !WordFields.IsLink(text.Trim()))
                {
                    return (null, $"“{Text.Cut(text.Trim(), 60)}” is no link.");
                }

                words[field] = text;
            }
        }

        var (people, tags) = (Said(People), Said(Tags));
        if ((people is not null && !Text.IsSound(people)) || (tags is not null && !Text.IsSound(tags)))
        {
            return (null, "People or tags have characters in them that cannot be kept.");
        }

        int? rating = null;
        if (Said(Rating) is { } stars)
        {
            if (stars.Trim().Length > 0 && !(int.TryParse(stars.Trim(), NumberStyles.None, CultureInfo.InvariantCulture, out var n) && n is >= 0 and <= 5))
            {
                return (null, $"“{Text.Cut(stars.Trim(), 20)}” is no rating; it is 0 to 5.");
            }

            rating = stars.Trim().Length == 0 ? 0 : int.Parse(stars.Trim(), CultureInfo.InvariantCulture);
        }

        DateTime? taken = null;
        if (Said(Taken) is { Length: > 0 } when)
        {
            if (!DateTime.TryParseExact(when.Trim(), Dates, CultureInfo.InvariantCulture, DateTimeStyles.None, out var at) || at.Year is < WordChanger.FirstYear or > WordChanger.LastYear)
            {
                return (null, $"“{Text.Cut(when.Trim(), 40)}” is no date; it is written 2026-06-13 14:05:00.");
            }

            taken = at;
        }

        return (new WordsRow(photo, words, people is null ? null : Several(people), tags is null ? null : Several(tags), rating, taken), null);
    }

    static readonly string[] Dates = ["yyyy-MM-dd HH:mm:ss", "yyyy-MM-dd HH:mm", "yyyy-MM-dd", "yyyy-MM-ddTHH:mm:ss", "yyyy-MM-ddTHH:mm"];
}
