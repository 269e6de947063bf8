using CsCheck;
using Jovitar.Core.Acts;
using Jovitar.Core.Corrections;
using Jovitar.Core.Narrowings;
using Jovitar.Core.Sales;

namespace Jovitar.Core.Tests;

/// <summary>Price lists: what may be said in them, what of them is offered of a photo, and how they go into files and come out.</summary>
public sealed class PriceListTests
{
    static readonly Currency Euro = Currency.Find("EUR")!;

    static Money Eur(long cents) => new(cents, Euro);

    static SaleOption Print(string size, long? cents = 1200, string name = "") => new(Guid.NewGuid(), OptionKind.Print) { Size = PaperSize.Read(size), Name = name, Price = cents is { } c ? Eur(c) : null };

    static SaleOption Digital(int? edge, long? cents = 500) => new(Guid.NewGuid(), OptionKind.Digital) { LongestEdge = edge, Price = cents is { } c ? Eur(c) : null };

    static PriceList ListOf(params SaleOption[] options) => PriceList.Empty("Prints", Euro) with { Options = options };

    static ForSale Photo(int width, int height, Guid? without = null, Guid? albumWithout = null) =>
        new(new PixelSize(width, height), null, without is { } one ? [one] : [], albumWithout is { } other ? [other] : []);

    [Fact]
    public void What_it_is_called_says_what_it_is()
    {
        Assert.Equal("20 × 30 cm print", Print("20x30cm").Called);
        Assert.Equal("20 × 30 cm on cotton", Print("20x30cm", name: "on cotton").Called);
        Assert.Equal("A3 wrap", new SaleOption(Guid.NewGuid(), OptionKind.Wrap) { Size = PaperSize.Read("A3") }.Called);
        Assert.Equal("File, 2,048 pixels", Digital(2048).Called);
        Assert.Equal("File, full size", Digital(null).Called);
    }

    [Theory]
    [InlineData(1, 400)]
    [InlineData(4, 400)]
    [InlineData(5, 300)]
    [InlineData(9, 300)]
    [InlineData(10, 250)]
    [InlineData(500, 250)]
    public void Each_of_several_costs_what_the_last_step_says(int count, long cents) =>
        Assert.Equal(Eur(cents), (Print("10x15cm", 400) with { Breaks = [new PriceBreak(5, Eur(300)), new PriceBreak(10, Eur(250))] }).Each(count));

    [Fact]
    public void What_cannot_be_sold_is_said_in_a_sentence()
    {
        static string? Of(SaleOption option) => OptionSaid.Of(option).Read(Euro).Wrong;
        Assert.Null(Of(Print("20x30cm")));
        Assert.Null(Of(Print("20x30cm", cents: null)));
        Assert.Equal(PaperSize.Ask, Of(new SaleOption(Guid.NewGuid(), OptionKind.Card)));
        Assert.Equal("Say what it is.", Of(new SaleOption(Guid.NewGuid(), OptionKind.Other) { Name = "  " }));
        Assert.NotNull(Of(Digital(20)));
        Assert.NotNull(Of(Digital(2048) with { Downloads = 0 }));
        Assert.NotNull(Of(Digital(2048) with { Days = 5000 }));
        Assert.NotNull(Of(Print("20x30cm") with { Shapes = ["round"] }));
        Assert.NotNull(Of(Print("20x30cm", cents: null) with { Breaks = [new PriceBreak(5, Eur(300))] }));
        Assert.NotNull(Of(Print("20x30cm") with { Breaks = [new PriceBreak(1, Eur(300))] }));
        Assert.NotNull(Of(Print("20x30cm") with { Breaks = [new PriceBreak(5, Eur(300)), new PriceBreak(5, Eur(200))] }));
        Assert.NotNull(Of(Print("20x30cm") with { Description = new string('x', 401) }));
        Assert.NotNull(Of(new SaleOption(Guid.NewGuid(), OptionKind.Wrap) { Size = PaperSize.Read("A4"), Edge = 101 }));
    }

    [Fact]
    public void What_does_not_go_with_its_kind_is_not_kept()
    {
        var kept = (Print("20x30cm") with { Edge = 40, LongestEdge = 2048, Licence = "All", Downloads = 3, Days = 9, Shapes = ["square", "landscape", "square"] }).AsKept();
        Assert.Equal((0, null, "", null, null), (kept.Edge, kept.LongestEdge, kept.Licence, kept.Downloads, kept.Days));
        Assert.Equal(["landscape", "square"], kept.Shapes);
        Assert.Null((Digital(2048) with { Size = PaperSize.Read("A4") }).AsKept().Size);
        Assert.Empty((Print("A4") with { Shapes = PictureShape.All }).AsKept().Shapes);
    }

    [Fact]
    public void A_list_is_refused_whole_where_one_of_its_options_is()
    {
        var print = Print("20x30cm");
        Assert.Null(ListOf(print, Digital(null)).Fault());
        Assert.Equal("The same option stands there twice.", ListOf(print, print).Fault());
        Assert.StartsWith("“A4 print”: ", ListOf(print, Print("A4") with { Shapes = ["round"] }).Fault(), StringComparison.Ordinal);
        Assert.NotNull((ListOf() with { Name = " " }).Fault());
        Assert.NotNull((ListOf() with { Limits = new PrintLimits(200, 300, 120) }).Fault());
        Assert.NotNull(ListOf([.. Enumerable.Range(0, 121).Select(i => Print($"{i + 10} x 30 cm"))]).Fault());
    }

    [Fact]
    public void The_seller_is_told_what_they_may_have_overlooked()
    {
        static IEnumerable<string> Of(params SaleOption[] options) => ListOf(options).Notes().Select(n => n.Sentence);
        Assert.Empty(Of(Print("20x30cm"), Print("A4"), Digital(null)));
        Assert.Equal(["Not offered until it has a price."], Of(Print("20x30cm", cents: null)));
        Assert.Equal(["It is sold below what it costs."], Of(Print("20x30cm", 300) with { Cost = Eur(301) }));
        Assert.Equal(["It is sold below what it costs."], Of(Print("20x30cm", 300) with { Cost = Eur(250), Breaks = [new PriceBreak(5, Eur(240))] }));
        Assert.Equal(["5 cost 15.00, and 4 cost 16.00: more come to less."], Of(Print("20x30cm", 400) with { Breaks = [new PriceBreak(5, Eur(300))] }));
        Assert.Equal(["Another option is called the same: buyers cannot tell the two apart."], Of(Print("20x30cm"), Print("20 x 30 cm", 1400)));
        Assert.Empty(Of(Print("20x30cm"), Print("20 x 30 cm", 1400) with { IsOff = true }));
        Assert.Equal(["21 options are offered; past about 20 buyers stop reading."], Of([.. Enumerable.Range(0, 21).Select(i => Print($"{i + 10} x 30 cm"))]));
    }

    [Fact]
    public void An_option_is_offered_where_nothing_speaks_against_it()
    {
        var (small, large, file) = (Print("10x15cm"), Print("60x90cm"), Digital(4000));
        static NotOffered[] Why(PriceList list, ForSale photo) => [.. Offering.Of(list, photo).Select(o => o.Why)];
        var list = ListOf(small, large, file);
        Assert.Equal([NotOffered.No, NotOffered.No, NotOffered.No], Why(list, Photo(6000, 4000)));
        // 1,800 by 1,200 pixels: 304 an inch on 10 by 15, 50 on 60 by 90, and no file of 4,000.
        Assert.Equal([NotOffered.No, NotOffered.TooSmall, NotOffered.TooSmall], Why(list, Photo(1800, 1200)));
        Assert.Equal([NotOffered.No, NotOffered.No, NotOffered.TooSmall], Why(list with { SellsSmall = true }, Photo(1800, 1200)));
        Assert.Equal([NotOffered.ByPhoto, NotOffered.No, NotOffered.No], Why(list, Photo(6000, 4000, without: small.Id)));
        Assert.Equal([NotOffered.No, NotOffered.No, NotOffered.ByAlbum], Why(list, Photo(6000, 4000, albumWithout: file.Id)));
        Assert.Equal([NotOffered.ByList, NotOffered.ByList], Why(ListOf(small with { IsOff = true }, Print("A4", cents: null)), Photo(6000, 4000)));
        var standing = ListOf(small with { Shapes = [PictureShape.Portrait] });
        Assert.Equal([NotOffered.ByShape], Why(standing, Photo(6000, 4000)));
        Assert.Equal([NotOffered.No], Why(standing, Photo(4000, 6000)));
    }

    [Fact]
    public void What_a_size_comes_to_is_said_where_it_is_less_than_good()
    {
        var list = ListOf(Print("10x15cm"), Print("20x30cm"), Print("30x45cm"), Print("60x90cm"), Digital(2000), Digital(1000));
        var photo = Photo(2400, 1600);
        Assert.Equal(
            ["", "203 pixels an inch: fair; 300 are good.", "135 pixels an inch: soft when looked at closely; 200 are fair.", "67 pixels an inch: too small; it takes 120.", "", ""],
            Offering.Of(list, photo).Select(o => o.Sentence(list.Limits, photo.Size)));
        Assert.Equal("The photo has 900 pixels at its longest edge.", Offering.Of(list, Photo(900, 600))[5].Sentence(list.Limits, new PixelSize(900, 600)));
    }

    [Fact]
    public void Photos_that_nothing_is_offered_of_are_counted()
    {
        var list = ListOf(Print("10x15cm"), Print("60x90cm"));
        var fits = new FitTally(list);
        Assert.Equal([true, true, false], new[] { Photo(6000, 4000), Photo(1800, 1200), Photo(300, 200) }.Select(p => fits.Add(Offering.Of(list, p))));
        Assert.Equal((3, 1), (fits.Photos, fits.Nothing));
        Assert.Equal(new OptionFits(list.Options[0].Id, 2, 2, 0, 0, 1), fits.Options[0]);
        Assert.Equal(new OptionFits(list.Options[1].Id, 1, 0, 0, 1, 2), fits.Options[1]);
    }

    static Gen<T> Among<T>(params T[] all) => Gen.Int[0, all.Length - 1].Select(i => all[i]);

    static readonly Gen<SaleOption> Options = Gen.Select(
        Among(Enum.GetValues<OptionKind>()), Among("", "glossy", "=1+1", "on “cotton”, framed", "naïve 🙂"), Among("20 × 30 cm", "A4", "8.5 × 11 in"), Gen.Int[0, 60], Gen.Long[0, 100_000], Gen.Long[-1, 9000], Gen.Int[0, 3], Gen.Bool).Select(
        (kind, name, size, edge, price, cost, steps, off) => new SaleOption(Guid.NewGuid(), kind)
        {
            Name = kind == OptionKind.Other ? $"{name}!" : name,
            Group = name.Length == 0 ? "" : "Walls; large",
            Description = name,
            Size = PaperSize.Read(size),
            Edge = edge,
            LongestEdge = edge > 30 ? edge * 100 : null,
            Licence = name,
            Downloads = edge > 10 ? edge : null,
            Days = edge > 20 ? edge : null,
            Price = Eur(price),
            Cost = cost < 0 ? null : Eur(cost),
            Breaks = [.. Enumerable.Range(1, steps).Select(i => new PriceBreak(5 * i, Eur(price / (i + 1))))],
            Shapes = off ? [PictureShape.Panorama, PictureShape.Square] : [],
            IsOff = off,
        }.AsKept());

    [Fact]
    public void What_is_written_is_read_back_the_same() => Options.Array[0, 12].Sample(options =>
    {
        var list = ListOf(options);
        var (read, wrong, faults) = PriceListSaid.Of(list).Read();
        Assert.Equal((list, null), (read, wrong));
        Assert.Empty(faults);
        // Into a file and out again: into the list itself nothing changes, into an empty one all of it is added.
        var rows = options.Select((o, i) => (i + 2, Cells(PriceTable.Cells(o)))).ToList();
        var (same, changed, added, rejected) = PriceTable.Taken(list, rows);
        Assert.Equal((list, 0, 0), (same, changed, added));
        Assert.Empty(rejected);
        var fresh = PriceTable.Taken(ListOf(), rows.Select(r => (r.Item1, Without(r.Item2, PriceTable.Id))));
        Assert.Equal(options.Length, fresh.Added + fresh.Changed + fresh.Rejected.Count);
        Assert.All(fresh.List.Options, o => Assert.Contains(options, other => other with { Id = o.Id } == o));
    });

    static Func<string, string?> Cells(IReadOnlyList<string> cells) => column => PriceTable.Columns.ToList().IndexOf(column) is >= 0 and var i ? cells[i] : null;

    static Func<string, string?> Without(Func<string, string?> cell, string column) => c => c == column ? null : cell(c);

    static Func<string, string?> Row(params (string Column, string Cell)[] cells) => column => cells.FirstOrDefault(c => c.Column == column).Cell;

    [Fact]
    public void A_row_is_known_by_its_id_or_by_what_it_says_and_says_nothing_of_columns_it_has_not()
    {
        var (print, file) = (Print("20x30cm", 1200, "glossy") with { Description = "Heavy paper", Cost = Eur(300) }, Digital(2048));
        var list = ListOf(print, file);
        var (taken, changed, added, rejected) = PriceTable.Taken(
            list,
            [
                (2, Row((PriceTable.Size, "20 x 30 cm"), (PriceTable.Name, "glossy"), (PriceTable.Price, "14,50"))),
                (3, Row((PriceTable.Id, file.Id.ToString()), (PriceTable.Price, "6"), (PriceTable.Several, "3: 5.00; 9: 4.50"))),
                (4, Row((PriceTable.Size, "30x45 cm"), (PriceTable.Price, "20"))),
                (5, Row((PriceTable.Size, "30x45 cm"), (PriceTable.Price, "21"))),
                (6, Row((PriceTable.Kind, "poster"), (PriceTable.Name, "large"))),
                (7, Row((PriceTable.Kind, "2"), (PriceTable.Name, "large"))),
                (8, Row((PriceTable.Name, "Frame"), (PriceTable.Price, "a lot"))),
                (9, Row((PriceTable.Name, "Frame"), (PriceTable.Several, "many"))),
                (10, Row((PriceTable.Name, "Frame"), (PriceTable.Offered, "perhaps"))),
                (11, Row((PriceTable.Name, "Frame"), (PriceTable.Days, "ten"))),
                (12, Row((PriceTable.Size, "30 by 45"))),
                (13, Row((PriceTable.Kind, "print, wrap"), (PriceTable.Name, "both"))),
            ]);
        Assert.Equal((2, 1), (changed, added));
        Assert.Equal([print with { Price = Eur(1450) }, file with { Price = Eur(600), Breaks = [new PriceBreak(3, Eur(500)), new PriceBreak(9, Eur(450))] }], taken.Options.Take(2));
        Assert.Equal((OptionKind.Print, "30 × 45 cm print", Eur(2000)), (taken.Options[2].Kind, taken.Options[2].Called, taken.Options[2].Price));
        Assert.Equal([5, 6, 7, 8, 9, 10, 11, 12, 13], rejected.Select(r => r.Line));
        Assert.Equal("“a lot” is no amount in EUR; it is written 12.50.", rejected.Single(r => r.Line == 8).Why);
    }

    [Fact]
    public void The_history_names_the_price_that_changed()
    {
        var (print, file) = (Print("20x30cm", 1200), Digital(null, 500));
        var list = ListOf(print, file);
        Assert.Equal("Prints: 20 × 30 cm print costs 14.00 EUR instead of 12.00 EUR.", PriceWords.Changed(list, ListOf(print with { Price = Eur(1400) }, file)));
        Assert.Equal("Prints: 2 prices are others.", PriceWords.Changed(list, ListOf(print with { Price = Eur(1400) }, file with { Price = null })));
        Assert.Equal("Prints: File, full size is gone.", PriceWords.Changed(list, ListOf(print)));
        Assert.Equal("Prints: 1 option added, 0 gone.", PriceWords.Changed(list, ListOf(print, file, Print("A4"))));
        Assert.Equal("Called the price list “Prints” “Walls”.", PriceWords.Changed(list, list with { Name = "Walls" }));
        Assert.Equal("Changed the price list “Prints”.", PriceWords.Changed(list, list with { SellsSmall = true }));
    }
}
