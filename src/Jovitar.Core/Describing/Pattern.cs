using System.Globalization;
using System.Text;

namespace Jovitar.Core.Describing;

/// <summary>How a date taken is written in a pattern.</summary>
public enum DateForm
{
    /// <summary>13 June 2026</summary>
    Day,

    /// <summary>2026-06-13 (ISO 8601)</summary>
    Iso,

    /// <summary>Saturday</summary>
    Weekday,

    /// <summary>June 2026</summary>
    Month,

    /// <summary>2026</summary>
    Year,

    /// <summary>14:05</summary>
    Time,
}

/// <summary>What else of a photo a pattern may say.</summary>
public enum Told
{
    /// <summary>What the word says now.</summary>
    Before,
    FileName,
    Camera,
    Album,
    Title,
    Caption,
    Place,
    Creator,
    Credit,
    People,
    Tags,
}

/// <summary>A part of a pattern: exactly one of its four is given.</summary>
/// <param name="Text">Itself.</param>
/// <param name="Counter">The number of the photo.</param>
/// <param name="Taken">When it was taken.</param>
/// <param name="Told">Something else that is known of it.</param>
public sealed record PatternPart(string? Text = null, Counter? Counter = null, DateForm? Taken = null, Told? Told = null);

/// <summary>A number that goes up by one from photo to photo.</summary>
/// <param name="Digits">At least so many, with zeros before.</param>
/// <param name="From">The first one's.</param>
/// <param name="EachDay">Begins anew with each day taken.</param>
public sealed record Counter(int Digits, int From, bool EachDay);

/// <summary>
/// A word put together of text and of what is known of each photo. Where a part has nothing to say, the blanks around it close up.
/// </summary>
public sealed class Pattern(IReadOnlyList<PatternPart> parts)
{
    public const int MostParts = 24;
    public const int MostDigits = 8;

    /// <summary>How each day counts on.</summary>
    readonly Dictionary<(int Part, DateOnly? Day), long> counts = [];

    /// <summary>The word of the next photo. Each call counts one further.</summary>
    /// <param name="field">Which word it becomes.</param>
    /// <param name="lacks">A part had nothing to say.</param>
    public string Next(Described photo, WordField field, out bool lacks)
    {
        var text = new StringBuilder();
        lacks = false;
        for (var i = 0; i < parts.Count; i++)
        {
            var said = Says(i, parts[i], photo, field);
            // A part that says nothing leaves no hole: of two blanks around it one goes.
            if (said.Length == 0 && parts[i].Text is null)
            {
                lacks |= parts[i].Told != Told.Before;
                if (text.Length == 0 || char.IsWhiteSpace(text[^1]))
                {
                    var after = parts.ElementAtOrDefault(i + 1)?.Text;
                    if (after is { Length: > 0 } && char.IsWhiteSpace(after[0]))
                    {
                        text.Append(after.AsSpan(1));
                        i++;
                    }
                }

                continue;
            }

            text.Append(said);
        }

        return text.ToString().Trim();
    }

    string Says(int at, PatternPart part, Described photo, WordField field) => part switch
    {
        { Text: { } text } => text,
        { Counter: { } counter } => Count(at, counter, photo),
        { Taken: { } form } => photo.Taken is { } taken ? taken.ToString(Format(form), CultureInfo.InvariantCulture) : "",
        { Told: { } told } => Tells(told, photo, field),
        _ => "",
    };

    string Count(int at, Counter counter, Described photo)
    {
        DateOnly? day = counter.EachDay ? (photo.Taken is { } taken ? DateOnly.FromDateTime(taken) : DateOnly.MinValue) : null;
        var now = counts.GetValueOrDefault((at, day), counter.From);
        counts[(at, day)] = now + 1;
        return now.ToString($"D{Math.Clamp(counter.Digits, 1, MostDigits)}", CultureInfo.InvariantCulture);
    }

    static string Format(DateForm form) => form switch
    {
        DateForm.Day => "d MMMM yyyy",
        DateForm.Iso => "yyyy-MM-dd",
        DateForm.Weekday => "dddd",
        DateForm.Month => "MMMM yyyy",
        DateForm.Year => "yyyy",
        _ => "HH:mm",
    };

    static string Tells(Told told, Described photo, WordField field) => told switch
    {
        Told.Before => photo[field],
        Told.FileName => Path.GetFileNameWithoutExtension(photo.FileName),
        Told.Camera => photo.Camera,
        Told.Album => photo.Album,
        Told.Title => photo[WordField.Title],
        Told.Caption => photo[WordField.Caption],
        Told.Place => photo[WordField.Place],
        Told.Creator => photo[WordField.Creator],
        Told.Credit => photo[WordField.Credit],
        Told.People => string.Join(", ", photo.People),
        _ => string.Join(", ", photo.Tags),
    };
}
