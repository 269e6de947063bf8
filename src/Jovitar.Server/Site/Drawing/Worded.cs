using Jovitar.Core.Layout;
using Jovitar.Core.Pages;
using Jovitar.Core.Themes;

namespace Jovitar.Server.Site.Drawing;

/// <summary>A place at a photo in which words stand on some device.</summary>
/// <param name="Name">As the style sheet calls it.</param>
/// <param name="First">The first line stands there on some device.</param>
/// <param name="Second">The second does.</param>
public sealed record WordsPlace(string Name, bool First, bool Second)
{
    /// <summary>The places over, under and behind a photo, and which lines stand there.</summary>
    public static readonly IReadOnlyList<(string Name, Func<WordsWhen, bool> Has)> All =
        [("under", when => when == WordsWhen.Under), ("over", when => when is WordsWhen.Over or WordsWhen.Touched), ("back", when => when == WordsWhen.Turned)];

    /// <summary>The places that the photos of a walk have, on whatever device.</summary>
    public static IReadOnlyList<WordsPlace> Of(Walk walk)
    {
        var words = walk.Words;
        WordsPlace Place(string name, Func<WordsWhen, bool> there) => new(
            name, words.Where(s => there(s.First)).Any(), words.Where(s => there(s.Second)).Any());
        WordsPlace[] places = walk.Layout.Kind == LayoutKind.List
            ? [new WordsPlace("aside", words.First is not null, words.Second is not null)]
            : [.. All.Select(p => Place(p.Name, p.Has))];
        return [.. places.Where(p => p.First || p.Second)];
    }

    /// <summary>As the visitors' script is told it: the name, and which lines.</summary>
    public string Code => $"{Name}{(First ? "1" : "")}{(Second ? "2" : "")}";
}

/// <summary>The words of one photo that stand with it.</summary>
public static class WordsOfPhoto
{
    /// <summary>Its two lines; empty where it has nothing to say there.</summary>
    public static IReadOnlyList<string> Of(Walk walk, SitePhoto photo) => walk.Words == FrameWords.Usual && walk.Layout.Kind != LayoutKind.List ? [] : [Line(walk.Words.First, photo), Line(walk.Words.Second, photo)];

    static string Line(PhotoWord? word, SitePhoto photo) => word is { } said ? PhotoLines.Say(said, photo) : "";
}

/// <summary>What a style sheet says of the words of photos and of what a touch does, on a device: values for the rules of the site's own style sheet.</summary>
public static class WordsStyle
{
    /// <param name="width">The width of a block whose boxes are shares of it, CSS pixels: words grow and shrink with them. Null for words of one size.</param>
    /// <returns>Empty where all is as usual.</returns>
    public static string Of(Walk walk, Device device, double? width)
    {
        var values = new List<string>();
        if (walk.Words.IsShown() && walk.Layout.Kind != LayoutKind.List)
        {
            Words(walk.Words.On(device), walk.Words.Second, width, values);
        }

        if (walk.IsTreated)
        {
            Touch(walk.Touch.On(device), values);
        }

        return values.Count == 0 ? "" : $"#w{walk.Number}{{{string.Join(';', values)}}}";
    }

    static void Words(WordsSet set, PhotoWord? second, double? width, List<string> values)
    {
        // In a block whose boxes are shares of its width lines are, too: else they would not fit into theirs in another window.
        string Length(double pixels) => width is { } of ? $"{LayoutStyle.Number(pixels / of * 100, 3)}cqw" : $"{LayoutStyle.Number(pixels, 2)}px";
        var (letters, line) = (set.Letters(), set.Letters() * WordsSet.LineHeight);
        values.Add(width is null ? $"--letters:{letters}px" : $"--letters:clamp({LayoutStyle.Number(letters * 0.8, 2)}px,{Length(letters)},{letters}px)");
        values.Add(width is null ? $"--line-high:{Length(line)}" : $"--line-high:min({Length(line)},1.4em)");
        values.Add($"--air:{Length(set.Padding)}");
        foreach (var (name, there) in WordsPlace.All)
        {
            if (!there(set.First) && !there(set.Second))
            {
                continue;
            }

            values.Add($"--{name}:grid");
            values.AddRange(there(set.First) ? [$"--{name}-1:block"] : []);
            values.AddRange(there(set.Second) ? [$"--{name}-2:{(second == PhotoWord.Caption ? "-webkit-box" : "block")}"] : []);
        }

        if (set.Has(WordsWhen.Under))
        {
            values.Add($"--room:{Length(set.RoomUnder(second))}");
            values.AddRange(set.Ground is { } ground ? [$"--under-ground:{ground}", "--under-air:var(--air)"] : []);
            values.AddRange((set.Colour ?? set.Ground) is null ? [] : [$"--under-ink:{set.OnGround(Colour.Paper).Words}"]);
        }

        var back = Colour.Parse(set.Ground) ?? Colour.Ink;
        if (set.IsOver())
        {
            values.Add($"--over-ink:{set.OverPhotos().Words}");
            values.Add($"--over-ground:rgb({back.R} {back.G} {back.B}/{set.Dense}%)");
            values.AddRange(set.Whole ? ["--over-top:0", "--over-stand:center"] : []);
            values.AddRange(!set.Has(WordsWhen.Over) ? ["--over-rest:0"] : set.First == WordsWhen.Touched ? ["--rest-1:0"] : set.Second == WordsWhen.Touched ? ["--rest-2:0"] : []);
        }

        values.AddRange(set.Has(WordsWhen.Turned) ? [$"--back-ink:{set.OnGround(Colour.Ink).Words}", $"--back-ground:{back}"] : []);
        values.AddRange(set.Align == BlockAlign.Left ? [] : [$"--words-align:{(set.Align == BlockAlign.Centre ? "center" : "right")}"]);
    }

    static void Touch(TouchSet set, List<string> values)
    {
        var zoom = LayoutStyle.Number(1 + (set.ZoomBy / 100.0), 2);
        values.AddRange(set.Zoom switch { TouchZoom.In => [$"--zoom:{zoom}"], TouchZoom.Out => [$"--rest-zoom:{zoom}"], _ => [] });
        values.AddRange(set.Tone switch
        {
            TouchTone.Lighter => [$"--tone:brightness({100 + set.ToneBy}%)"],
            TouchTone.Darker => [$"--tone:brightness({100 - set.ToneBy}%)"],
            TouchTone.ToGrey => [$"--tone:grayscale({set.ToneBy}%)"],
            TouchTone.FromGrey => [$"--rest-tone:grayscale({set.ToneBy}%)"],
            _ => [],
        });
        var tint = Colour.Parse(set.TintColour) ?? Colour.Ink;
        var dense = $"rgb({tint.R} {tint.G} {tint.B}/{set.TintBy}%)";
        values.AddRange(set.Tint switch { TouchTint.Even => [$"--tint:{dense}"], TouchTint.Gradient => [$"--tint:linear-gradient(to top,{dense},rgb({tint.R} {tint.G} {tint.B}/0%))"], _ => [] });
        values.AddRange(set.Border > 0 ? [$"--border:inset 0 0 0 {set.Border}px {set.BorderColour}"] : []);
        values.AddRange(set.Come == WordsCome.Fade ? [] : ["--come:100%"]);
    }
}
