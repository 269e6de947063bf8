using Jovitar.Core;
using Jovitar.Core.Describing;
using Jovitar.Server.Photos;

namespace Jovitar.Server.Describing;

/// <summary>Replaces a text in some words.</summary>
public sealed record ReplaceSaid(IReadOnlyList<WordField> Fields, string Find, string With, bool MatchCase = false, bool WholeWords = false);

/// <summary>Writes large and small letters of some words anew.</summary>
public sealed record RecaseSaid(IReadOnlyList<WordField> Fields, Casing Casing);

/// <summary>Writes a word by a pattern; without parts it is cleared.</summary>
public sealed record WriteSaid(WordField Field, IReadOnlyList<PatternPart> Pattern);

/// <summary>Moves when photos were taken.</summary>
/// <param name="Camera">Only what this camera took; null for all.</param>
public sealed record ShiftSaid(long Seconds, string? Camera = null);

/// <summary>Says in which zone photos were taken.</summary>
/// <param name="From">The zone that the camera was set to, by its name in the IANA time zone database, where a photo does not say it itself.</param>
/// <param name="To">The zone where they were taken.</param>
public sealed record ZoneSaid(string From, string To, string? Camera = null);

/// <summary>Says when photos were taken, by the clock on the wall there.</summary>
/// <param name="Offset">Of that clock from UTC, minutes.</param>
public sealed record TakenSaid(DateTime Local, int? Offset = null);

/// <summary>People to name as shown, and not to.</summary>
public sealed record PeopleSaid(IReadOnlyList<string> Add, IReadOnlyList<string> Remove);

/// <summary>One change of words; exactly one of its kinds is given.</summary>
public sealed record ChangeSaid(
    WriteSaid? Write = null, ReplaceSaid? Replace = null, RecaseSaid? Recase = null, ShiftSaid? Shift = null, ZoneSaid? Zone = null, TakenSaid? Taken = null, PeopleSaid? People = null)
{
    const string Unsound = "This text has characters in it that cannot be kept, or is too long.";
    const int FurthestOffset = 14 * 60;

    /// <summary>The change as the rules know it, or a sentence that says why it is none.</summary>
    internal (WordChange? Change, string? Wrong) Read() => this switch
    {
        { Write: { } w, Replace: null, Recase: null, Shift: null, Zone: null, Taken: null, People: null } => Written(w),
        { Write: null, Replace: { } r, Recase: null, Shift: null, Zone: null, Taken: null, People: null } =>
            r.Find.Length == 0 ? (null, "Say what is to be found.")
            : !Fits(r.Find, Replacing.Longest) || !Fits(r.With, Replacing.Longest) ? (null, Unsound)
            : Words(r.Fields) is { } wrong ? (null, wrong)
            : (new ReplaceInWords(r.Fields, new Replacing(r.Find, r.With, r.MatchCase, r.WholeWords)), null),
        { Write: null, Replace: null, Recase: { } c, Shift: null, Zone: null, Taken: null, People: null } =>
            Words(c.Fields) is { } wrong ? (null, wrong) : !Enum.IsDefined(c.Casing) ? (null, "There is no such way of writing letters.") : (new RecaseWords(c.Fields, c.Casing), null),
        { Write: null, Replace: null, Recase: null, Shift: { } s, Zone: null, Taken: null, People: null } =>
            Math.Abs((double)s.Seconds) > TimeSpan.FromDays(366 * 200).TotalSeconds ? (null, "That is more than two hundred years.") : (new ShiftTaken(TimeSpan.FromSeconds(s.Seconds), s.Camera), null),
        { Write: null, Replace: null, Recase: null, Shift: null, Zone: { } z, Taken: null, People: null } =>
            Zoned(z.From) is { } from && Zoned(z.To) is { } to ? (new MoveTaken(from, to, z.Camera), null) : (null, "There is no such time zone."),
        { Write: null, Replace: null, Recase: null, Shift: null, Zone: null, Taken: { } t, People: null } =>
            t.Local.Year is < WordChanger.FirstYear or > WordChanger.LastYear || t.Offset is < -FurthestOffset or > FurthestOffset ? (null, "No photo was taken then.")
            : (new SayTaken(DateTime.SpecifyKind(t.Local, DateTimeKind.Unspecified), t.Offset), null),
        { Write: null, Replace: null, Recase: null, Shift: null, Zone: null, Taken: null, People: { } p } =>
            p.Add.Concat(p.Remove).Any(n => n is null || !Fits(n, Persons.Longest)) || p.Add.Count + p.Remove.Count > Persons.Most ? (null, Unsound) : (new ChangePeople(p.Add, p.Remove), null),
        _ => (null, "A change is of one kind."),
    };

    static (WordChange?, string?) Written(WriteSaid said)
    {
        if (!Enum.IsDefined(said.Field))
        {
            return (null, "There is no such word.");
        }

        if (said.Pattern.Count > Pattern.MostParts)
        {
            return (null, $"A pattern has {Pattern.MostParts} parts at most.");
        }

        foreach (var part in said.Pattern)
        {
            var given = (part?.Text is null ? 0 : 1) + (part?.Counter is null ? 0 : 1) + (part?.Taken is null ? 0 : 1) + (part?.Told is null ? 0 : 1);
            if (given != 1)
            {
                return (null, "A part of a pattern is of one kind.");
            }

            if (part!.Text is { } text && !Fits(text, WordFields.Longest(said.Field)))
            {
                return (null, Unsound);
            }

            if (part.Counter is { } counter && (counter.Digits is < 1 or > Pattern.MostDigits || counter.From is < 0 or > 99_999_999))
            {
                return (null, $"A counter has 1 to {Pattern.MostDigits} digits and begins at 0 or later.");
            }

            if ((part.Taken is { } form && !Enum.IsDefined(form)) || (part.Told is { } told && !Enum.IsDefined(told)))
            {
                return (null, "There is no such part.");
            }
        }

        return (new WriteWord(said.Field, said.Pattern), null);
    }

    static string? Words(IReadOnlyList<WordField> fields) =>
        fields.Count == 0 ? "Say in which words." : fields.Any(f => !Enum.IsDefined(f) || f == WordField.Link) || fields.Distinct().Count() < fields.Count ? "These words cannot be changed so." : null;

    static bool Fits(string text, int most) => text.Length <= most && Text.IsSound(text);

    static TimeZoneInfo? Zoned(string name) => TimeZoneInfo.TryFindSystemTimeZoneById(name, out var zone) ? zone : null;
}

/// <summary>Changes of words, one after another, and which photos they reach.</summary>
public sealed record DescribePhotos(IReadOnlyList<ChangeSaid> Changes, IReadOnlyList<PhotoId>? Photos = null, bool? InHand = null) : Reach(Photos, InHand)
{
    /// <summary>The changes as the rules know them, or what is wrong with one.</summary>
    internal (IReadOnlyList<WordChange> Changes, string? Wrong) Read()
    {
        if (Changes.Count is 0 or > WordChanger.MostChanges || Changes.Any(c => c is null))
        {
            return ([], $"Say what is to be changed: 1 to {WordChanger.MostChanges} changes.");
        }

        var read = Changes.Select(c => c.Read()).ToArray();
        return read.FirstOrDefault(r => r.Wrong is not null).Wrong is { } wrong ? ([], wrong) : ([.. read.Select(r => r.Change!)], null);
    }
}
