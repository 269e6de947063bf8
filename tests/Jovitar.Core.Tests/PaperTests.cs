using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Core.Sales.Papers;
using Jovitar.Core.Sales.Taxes;

namespace Jovitar.Core.Tests;

/// <summary>What stands on papers that orders are made and packed by.</summary>
public sealed class PaperTests
{
    static readonly Currency Euro = Currency.Find("EUR")!;

    static readonly PlacedOrder Empty = new(Buyer.Nobody, "", [], new DeliveryWay(Delivery.Post, new Money(0, Euro), ""), TaxSum.None, new Money(0, Euro), new Money(0, Euro), "IE", "");

    static SaleOption Option(string size, OptionKind kind = OptionKind.Print, int edge = 0) => new(Guid.NewGuid(), kind) { Size = PaperSize.Read(size), Edge = edge };

    static PlacedLine Line(SaleOption option, int count) =>
        new(new PhotoId(Guid.NewGuid()), new AlbumId(Guid.NewGuid()), "Low water", "a.jpg", "Night flight", option, null, count, new Money(650, Euro));

    [Fact]
    public void A_pick_list_gathers_what_is_made_alike_the_smaller_first()
    {
        var (small, large, wrap, deep, file) = (Option("10 × 15 cm"), Option("20 × 30 cm"), Option("10 × 15 cm", OptionKind.Wrap, edge: 20), Option("10 × 15 cm", OptionKind.Wrap, edge: 40), new SaleOption(Guid.NewGuid(), OptionKind.Digital));
        // The same by another list.
        var alike = Option("10x15 cm");
        var list = PickList.Of([(1001, Empty with { Lines = [Line(large, 1), Line(file, 9), Line(wrap, 1), Line(small, 2)] }), (1002, Empty with { Lines = [Line(deep, 3), Line(alike, 4)] })]);
        Assert.Equal([("10 × 15 cm print", 6), ("20 × 30 cm print", 1), ("10 × 15 cm wrap", 1), ("10 × 15 cm wrap", 3)], list.Select(g => (g.Called, g.Pieces)));
        Assert.Equal([(1001L, 4), (1002L, 2)], list[0].Picked.Select(p => (p.Order, p.Line)));
        Assert.Empty(PickList.Of([(1001, Empty with { Lines = [Line(file, 1)] })]));
    }

    [Theory]
    [InlineData("IE", 210, 297)]
    [InlineData("", 210, 297)]
    [InlineData("US", 215.9, 279.4)]
    [InlineData("MX", 215.9, 279.4)]
    public void Papers_have_the_size_that_offices_of_a_country_use(string country, double width, double height) =>
        Assert.Equal(new PaperFormat(width, height), PaperFormat.Of(country));
}
