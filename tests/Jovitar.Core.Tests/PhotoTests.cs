using Jovitar.Core.Pages;
using Jovitar.Core.Intake;
using Jovitar.Core.Photos;

namespace Jovitar.Core.Tests;

public sealed class PhotoTests
{
    static MetadataBlock Words(string caption) => new() { Caption = caption, Title = $"{caption} title", Keywords = [caption] };

    // Metadata Working Group, "Guidelines for Handling Image Metadata" 2.0, chapter 5 (from memory).
    [Theory]
    [InlineData("exif", "iim", "xmp", false, "exif", "xmp")]
    [InlineData("", "iim", "xmp", false, "xmp", "xmp")]
    [InlineData("", "iim", "xmp", true, "iim", "iim")]
    [InlineData(" \0 ", "iim", "", false, "iim", "iim")]
    public void Where_blocks_disagree_the_guidance_decides(string exif, string iim, string xmp, bool changed, string caption, string keyword)
    {
        var words = MetadataReconciliation.Reconcile(new MetadataBlock { Caption = exif }, Words(iim), xmp == "" ? new MetadataBlock() : Words(xmp), changed);
        Assert.Equal(caption, words.Caption);
        Assert.Equal($"{keyword} title", words.Title);
        Assert.Equal([keyword], words.Keywords);
    }

    [Theory]
    [InlineData(6000, 1.5, 1200, 800)]
    [InlineData(4000, 2 / 3.0, 800, 1200)]
    [InlineData(640, 1.6, 640, 400)]
    [InlineData(1200, 40, 1200, 30)]
    [InlineData(1200, 5000, 1200, 1)]
    public void The_picture_beside_a_link_fits_its_longer_edge_and_is_never_blown_up(int original, double shape, int width, int height) =>
        Assert.Equal((width, height), Renditions.CardSize(original, shape));

    [Theory]
    [InlineData("  A walk\0 ", "A walk")]
    [InlineData("DEFAULT", null)]
    [InlineData("", null)]
    [InlineData("two\nlines", "two\nlines")]
    public void Text_is_cleaned_of_what_nobody_wrote(string text, string? clean) => Assert.Equal(clean, MetadataReconciliation.Clean(text));

    [Theory]
    [InlineData(6, null)]
    [InlineData(-1, null)]
    [InlineData(5, 5)]
    public void A_rating_outside_0_to_5_is_none(int written, int? read) =>
        Assert.Equal(read, MetadataReconciliation.Reconcile(new(), new(), new MetadataBlock { Rating = written }, false).Rating);

    [Theory]
    [InlineData(6000, new[] { 240, 480, 960, 1600, 2560 })]
    [InlineData(1600, new[] { 240, 480, 960, 1600 })]
    [InlineData(300, new[] { 240, 480 })]
    [InlineData(100, new[] { 480 })]
    public void A_photo_gets_the_widths_it_is_as_large_as_and_always_the_sheets(int width, int[] expected) => Assert.Equal(expected, Renditions.For(width));

    [Fact]
    public void Every_problem_has_a_sentence_of_its_own()
    {
        var sentences = Enum.GetValues<IntakeProblem>().Select(p => IntakeRefusal.Sentence(p, new IntakeLimits())).ToArray();
        Assert.Equal(sentences.Length, sentences.Distinct().Count());
        Assert.All(sentences, s => Assert.EndsWith(".", s));
    }

    [Theory]
    [InlineData("Kite festival 2026", "kite-festival-2026")]
    [InlineData("  Über den Dünen! ", "uber-den-dunen")]
    [InlineData("Nine o'clock", "nine-oclock")]
    [InlineData("日本", "page")]
    [InlineData("API", "api-page")]
    public void An_address_is_made_from_a_heading(string heading, string address) => Assert.Equal(address, PageAddress.From(heading).Value);

    [Theory]
    [InlineData("festival", true)]
    [InlineData("/Festival/", true)]
    [InlineData("a--b", false)]
    [InlineData("-a", false)]
    [InlineData("a b", false)]
    [InlineData("workroom", false)]
    [InlineData("", false)]
    public void An_address_is_small_letters_digits_and_hyphens(string text, bool good)
    {
        Assert.Equal(good, PageAddress.TryParse(text, out _, out var fault));
        Assert.Equal(good, fault.Length == 0);
    }

    [Fact]
    public void Identities_are_read_from_text()
    {
        var id = new PhotoId(Guid.CreateVersion7());
        Assert.True(PhotoId.TryParse(id.ToString(), null, out var read));
        Assert.Equal(id, read);
        Assert.False(PhotoId.TryParse("no", null, out _));
    }
}
