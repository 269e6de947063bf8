using Jovitar.Core.Corrections;
using Jovitar.Core.Sales;

namespace Jovitar.Core.Tests;

/// <summary>Limited editions: so many of a photo, and no more.</summary>
public sealed class EditionTests
{
    static readonly Currency Euro = Currency.Find("EUR")!;

    static SaleOption Print(int? edition, OptionKind kind = OptionKind.Print) =>
        new SaleOption(Guid.Parse("00000000-0000-7000-8000-000000000001"), kind) { Size = PaperSize.Read("30x45cm"), Price = new Money(3800, Euro), Edition = edition }.AsKept();

    [Theory]
    [InlineData(25, 0, 25)]
    [InlineData(25, 24, 1)]
    [InlineData(25, 25, 0)]
    // More than there are: an order that was cancelled, and is not any more.
    [InlineData(25, 26, 0)]
    [InlineData(null, 26, null)]
    public void Of_an_edition_so_many_are_left(int? edition, int sold, int? left)
    {
        var list = PriceList.Empty("Prints", Euro) with { Options = [Print(edition)] };
        var offer = Assert.Single(Offering.Of(list, new ForSale(new PixelSize(6000, 4000), null, [], [], new Dictionary<Guid, long> { [list.Options[0].Id] = sold })));
        Assert.Equal((left, left == 0 ? NotOffered.SoldOut : NotOffered.No), (offer.Left, offer.Why));
        // Of another photo none was sold.
        Assert.Equal(edition, Offering.Of(list, new ForSale(new PixelSize(6000, 4000), null, [], []))[0].Left);
    }

    [Theory]
    [InlineData(0)]
    [InlineData(-1)]
    [InlineData(10_001)]
    public void An_edition_is_of_one_or_more(int edition) => Assert.Contains("of each photo are an edition", Print(edition).Fault(), StringComparison.Ordinal);

    [Fact]
    public void Lines_of_one_edition_are_counted_together_in_whichever_gallery_they_stand()
    {
        var (one, other, print, wrap) = (new PhotoId(Guid.NewGuid()), new PhotoId(Guid.NewGuid()), Guid.NewGuid(), Guid.NewGuid());
        Assert.Equal(
            [(one, print)],
            Editions.TooMany([new(one, print, 2, 3), new(one, print, 2, 3), new(other, print, 3, 3), new(one, wrap, 900, null)]));
        Assert.Empty(Editions.TooMany([new(one, print, 1, 3), new(one, print, 2, 3)]));
    }

    [Fact]
    public void Files_are_no_edition() => Assert.Null(Print(25, OptionKind.Digital).Edition);

    [Fact]
    public void An_edition_is_written_and_read_back_and_comes_back_from_a_spreadsheet()
    {
        var option = Print(25);
        Assert.Equal(option, OptionSaid.Of(option).Read(Euro).Option);
        var list = PriceList.Empty("Prints", Euro) with { Options = [option] };
        var cells = PriceTable.Columns.Zip(PriceTable.Cells(option)).ToDictionary(c => c.First, c => c.Second);
        Assert.Equal("25", cells[PriceTable.Edition]);
        (PriceList, int, int, IReadOnlyList<(int, string)>) Taken(string edition) => PriceTable.Taken(list, [(2, column => column == PriceTable.Edition ? edition : cells.GetValueOrDefault(column))]);
        Assert.Equal(30, Taken("30").Item1.Options[0].Edition);
        Assert.Null(Taken("").Item1.Options[0].Edition);
        Assert.Single(Taken("many").Item4);
    }
}
