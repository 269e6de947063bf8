namespace Jovitar.Core.Describing;

/// <summary>One change of words, of the same kind for all photos it reaches.</summary>
public abstract record WordChange;

/// <summary>Writes a word by a pattern; a pattern without parts clears it.</summary>
public sealed record WriteWord(WordField Field, IReadOnlyList<PatternPart> Pattern) : WordChange;

/// <summary>Finds and replaces in some words.</summary>
public sealed record ReplaceInWords(IReadOnlyList<WordField> Fields, Replacing Replacing) : WordChange;

/// <summary>Changes large and small letters of some words.</summary>
public sealed record RecaseWords(IReadOnlyList<WordField> Fields, Casing Casing) : WordChange;

/// <summary>Moves when photos were taken by as much, for a camera whose clock was wrong.</summary>
/// <param name="Camera">Only what this camera took; null for all.</param>
public sealed record ShiftTaken(TimeSpan By, string? Camera) : WordChange;

/// <summary>Says in which zone the photos were taken, for a camera that was set to another: the moment stays, the clock on the wall changes.</summary>
/// <param name="From">What the camera was set to, where the photo does not say it itself.</param>
/// <param name="Camera">Only what this camera took; null for all.</param>
public sealed record MoveTaken(TimeZoneInfo From, TimeZoneInfo To, string? Camera) : WordChange;

/// <summary>Says when photos were taken.</summary>
public sealed record SayTaken(DateTime Local, int? Offset) : WordChange;

/// <summary>Says who is shown, and who is not; others stay.</summary>
public sealed record ChangePeople(IReadOnlyList<string> Add, IReadOnlyList<string> Remove) : WordChange;

/// <summary>Works changes of words out, photo after photo in their order.</summary>
/// <param name="changes">One after another, each on what the one before has made of the words.</param>
public sealed class WordChanger(IReadOnlyList<WordChange> changes)
{
    public const int MostChanges = 12;

    /// <summary>Years that a time taken may lie in; photographs begin in 1826.</summary>
    public const int FirstYear = 1826;
    public const int LastYear = 2200;

    readonly Dictionary<WordChange, Pattern> patterns = changes.OfType<WriteWord>().Distinct().ToDictionary(c => (WordChange)c, c => new Pattern(c.Pattern));

    /// <summary>What the changes come to for the next photo.</summary>
    public DescribedAnew Next(Described photo)
    {
        var now = photo;
        var (cut, lacks, refused) = (false, false, false);
        foreach (var change in changes)
        {
            switch (change)
            {
                case WriteWord write:
                    now = With(now, write.Field, patterns[write].Next(now, write.Field, out var lacking), ref cut);
                    lacks |= lacking;
                    break;
                case ReplaceInWords replace:
                    foreach (var field in replace.Fields)
                    {
                        now = With(now, field, replace.Replacing.In(now[field]), ref cut);
                    }

                    break;
                case RecaseWords recase:
                    foreach (var field in recase.Fields)
                    {
                        now = With(now, field, Casings.Apply(recase.Casing, now[field]), ref cut);
                    }

                    break;
                case ChangePeople people:
                    now = now with { People = Persons.Changed(now.People, people.Add, people.Remove) };
                    break;
                default:
                    now = Timed(now, change, ref lacks);
                    break;
            }
        }

        if (now[WordField.Link] is { Length: > 0 } link && link != photo[WordField.Link] && !WordFields.IsLink(link))
        {
            refused = true;
            now = With(now, WordField.Link, photo[WordField.Link], ref cut);
        }

        return new DescribedAnew(
            [.. WordFields.All.Select(f => now[f] == photo[f] ? null : now[f])],
            now.Taken is { } taken && (now.Taken, now.Offset) != (photo.Taken, photo.Offset) ? (taken, now.Offset) : null,
            now.People.SequenceEqual(photo.People) ? null : now.People, cut, lacks, refused);
    }

    static Described With(Described photo, WordField field, string text, ref bool cut)
    {
        if (!WordFields.HasLines(field))
        {
            text = text.ReplaceLineEndings(" ");
        }

        var fits = Text.Cut(text, WordFields.Longest(field));
        cut |= fits.Length < text.Length;
        var words = photo.Words.ToArray();
        words[(int)field] = fits;
        return photo with { Words = words };
    }

    static Described Timed(Described photo, WordChange change, ref bool lacks)
    {
        switch (change)
        {
            case SayTaken said:
                return photo with { Taken = said.Local, Offset = said.Offset };
            case ShiftTaken { Camera: { } camera } when camera != photo.Camera:
            case MoveTaken { Camera: { } other } when other != photo.Camera:
                return photo;
        }

        if (photo.Taken is not { } taken)
        {
            lacks = true;
            return photo;
        }

        var (local, offset) = change switch
        {
            ShiftTaken shift => (Shifted(taken, shift.By), photo.Offset),
            MoveTaken move => Moved(taken, photo.Offset, move),
            _ => (taken, photo.Offset),
        };
        return local.Year is >= FirstYear and <= LastYear ? photo with { Taken = local, Offset = offset } : photo;
    }

    static DateTime Shifted(DateTime taken, TimeSpan by) =>
        by.Ticks > 0 ? (DateTime.MaxValue - taken > by ? taken + by : DateTime.MaxValue) : (taken - DateTime.MinValue > -by ? taken + by : DateTime.MinValue);

    /// <summary>A clock that goes back says an hour twice; of the two the later one is meant, by the zone's standard time, as anywhere in .NET.</summary>
    static (DateTime, int?) Moved(DateTime taken, int? offset, MoveTaken move)
    {
        var away = offset is { } known ? TimeSpan.FromMinutes(known) : move.From.GetUtcOffset(taken);
        var moment = DateTime.SpecifyKind(Shifted(taken, -away), DateTimeKind.Utc);
        var there = move.To.GetUtcOffset(moment);
        return (DateTime.SpecifyKind(Shifted(moment, there), DateTimeKind.Unspecified), (int)there.TotalMinutes);
    }
}

/// <summary>Names of people that photos show.</summary>
public static class Persons
{
    public const int Longest = 120;
    public const int Most = 200;

    /// <summary>Names as they are kept: without outer blanks, each once whatever its case, in the order they were said.</summary>
    public static IReadOnlyList<string> All(IEnumerable<string> names) =>
        [.. names.Select(n => string.Join(' ', Text.Name(n).Split(' ', StringSplitOptions.RemoveEmptyEntries))).Where(n => n.Length is > 0 and <= Longest).DistinctBy(n => n.ToUpperInvariant()).Take(Most)];

    /// <summary>What names have in common that are the same person's, whatever their case.</summary>
    public static string Key(string name) => name.Normalize(System.Text.NormalizationForm.FormKC).ToLowerInvariant();

    /// <summary>Some more and some less, others as they were.</summary>
    public static IReadOnlyList<string> Changed(IReadOnlyList<string> now, IReadOnlyList<string> add, IReadOnlyList<string> remove)
    {
        var off = All(remove).Select(n => n.ToUpperInvariant()).ToHashSet();
        return All([.. now.Where(n => !off.Contains(n.ToUpperInvariant())), .. add]);
    }
}
