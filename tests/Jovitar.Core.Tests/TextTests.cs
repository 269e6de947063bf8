using System.Globalization;
using CsCheck;

namespace Jovitar.Core.Tests;

public sealed class TextTests
{
    /// <summary>Texts with emoji of several code points, flags, accents put on, and other scripts.</summary>
    static readonly string[] Characters = ["a", "é", "e\u0301", "👩‍👩‍👧", "🇳🇴", "👍🏽", "字", "\u0915\u094D\u0937", " "];

    static readonly Gen<string> Texts = Gen.Int[0, Characters.Length - 1].Array[0, 40].Select(which => string.Concat(which.Select(i => Characters[i])));

    [Fact]
    public void A_cut_text_is_whole_characters_and_as_many_as_fit() => Gen.Select(Texts, Gen.Int[0, 60]).Sample((text, most) =>
    {
        var cut = Text.Cut(text, most);
        Assert.StartsWith(cut, text, StringComparison.Ordinal);
        Assert.True(cut.Length <= most || text.Length <= most);
        var all = Elements(text);
        Assert.Equal(all.Take(Elements(cut).Length), Elements(cut));
        Assert.True(cut.Length == text.Length || cut.Length + all[Elements(cut).Length].Length > most, "one more would have fitted");
    });

    [Fact]
    public void A_name_cut_at_its_front_keeps_its_ending() => Gen.Select(Texts, Gen.Int[5, 60]).Sample((text, most) =>
    {
        var cut = Text.CutFront($"{text}.jpg", most);
        Assert.EndsWith(".jpg", cut, StringComparison.Ordinal);
        Assert.True(cut.Length <= most);
        Assert.True(Text.IsSound(cut));
    });

    [Fact]
    public void What_is_cut_can_always_be_written() => Gen.Select(Gen.String, Gen.Int[0, 20]).Sample((text, most) =>
    {
        if (Text.IsSound(text))
        {
            Assert.True(Text.IsSound(Text.Cut(text, most)));
        }
    });

    // Unicode Technical Report 36, "bidirectional text spoofing": with U+202E “photo‮gpj.exe” is shown as “photoexe.jpg”.
    [Theory]
    [InlineData("photo\u202Egpj.exe", "photogpj.exe")]
    [InlineData("a\u2066b\u2069c", "abc")]
    [InlineData("  two\u0000 \u0007words\n", "two words")]
    [InlineData("👩‍👩‍👧 at the pier", "👩‍👩‍👧 at the pier")]
    public void A_name_that_is_shown_has_nothing_in_it_that_cannot_be_seen(string name, string shown) => Assert.Equal(shown, Text.Name(name));

    [Theory]
    [InlineData("", false)]
    [InlineData(" \t\r\n\u00a0\u3000", false)]
    [InlineData("\u200b\u200d\u2060\ufeff\u202e", false)]
    [InlineData("\u3164 \u2800", false)]
    [InlineData("\u200bx", true)]
    [InlineData(".", true)]
    [InlineData("👩‍👩‍👧", true)]
    [InlineData("日", true)]
    public void What_is_made_of_nothing_that_can_be_seen_says_nothing(string text, bool seen) => Assert.Equal(seen, Text.IsSeen(text));

    // An attribute cannot hold half a character, so these stand in the test itself.
    [Fact]
    public void Only_valid_text_is_sound()
    {
        Assert.True(Text.IsSound("whole 👍🏽"));
        Assert.False(Text.IsSound("half " + '\uD83D'));
        Assert.False(Text.IsSound('\uDC4D' + " half"));
        Assert.False(Text.IsSound("nul \0"));
        Assert.Equal("\uFFFDhalf", Text.Name('\uD800' + "half"));
    }

    static string[] Elements(string text)
    {
        var all = new List<string>();
        var each = StringInfo.GetTextElementEnumerator(text);
        while (each.MoveNext())
        {
            all.Add(each.GetTextElement());
        }

        return [.. all];
    }
}
