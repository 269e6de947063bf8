using CsCheck;
using Jovitar.Core.Filtering;

namespace Jovitar.Core.Tests;

public sealed class PhotoSearchTests
{
    static readonly string[] Known = ["kite", "Kites", "kit", "café", "CAFE", "cafe\u0301", "dune", "2026", "no. 7", "o'clock", "the long spiral", "—", ""];

    static readonly Gen<string> Words = Gen.Int[0, Known.Length - 1].Array[0, 5].Select(w => string.Join(' ', w.Select(i => Known[i])));

    // The reference is a naive evaluation: every word asked for begins some word of the text, both without case and accents.
    static string[] Plain(string text) => text.Replace("cafe\u0301", "cafe", StringComparison.Ordinal).Replace('é', 'e').ToLowerInvariant().Split([' ', '.', '\'', '—'], StringSplitOptions.RemoveEmptyEntries);

    [Fact]
    public void What_is_missing_lacks_a_word_that_is_asked_for() => Gen.Select(Words.Array[0, 30], Words).Sample((texts, asked) =>
    {
        var naive = Enumerable.Range(0, texts.Length).Where(i => !Plain(asked).All(a => Plain(texts[i]).Any(w => w.StartsWith(a, StringComparison.Ordinal))));
        Assert.Equal(naive, new PhotoSearch(texts).Missing(asked).Order());
    });

    [Theory]
    [InlineData(null, "")]
    [InlineData("  kite  ", "kite")]
    public void A_question_is_read_without_what_is_at_its_ends(string? asked, string read) => Assert.Equal(read, PhotoSearch.Read(asked));

    [Fact]
    public void A_question_that_is_too_long_is_cut() => Assert.Equal(PhotoSearch.Longest, PhotoSearch.Read(new string('k', 5000)).Length);

    [Fact]
    public void A_text_that_is_no_text_finds_nothing_and_does_no_harm() => Assert.Equal([0], new PhotoSearch(["kite \ud800"]).Missing("kite"));
}
