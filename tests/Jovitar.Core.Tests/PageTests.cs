using CsCheck;
using Jovitar.Core.Albums;
using Jovitar.Core.Layout;
using Jovitar.Core.Pages;

namespace Jovitar.Core.Tests;

/// <summary>Pages of blocks: what stands on them, and two people's work on one of them put together.</summary>
public sealed class PageTests
{
    static BlockId Id(int n) => new(new Guid(n, 0, 0, new byte[8]));

    static TextBlock Text(int n, string words) => new(Id(n), BlockFrame.Usual, words);

    static PageContent Page(string title, params IReadOnlyList<Block> blocks) => PageContent.Made(title, "", blocks);

    static string Said(PageContent page) => string.Join(' ', page.Blocks.OfType<TextBlock>().Select(t => t.Words));

    /// <summary>Pages of some of eight blocks in any order, each saying one of three things.</summary>
    static readonly Gen<PageContent> Pages =
        from order in Gen.Shuffle(Enumerable.Range(1, 8).ToArray())
        from count in Gen.Int[0, 8]
        from words in Gen.Int[0, 2].Array[8]
        from title in Gen.Int[0, 2]
        select Page($"Title {title}", [.. order.Take(count).Select(n => Text(n, $"{n}:{words[n - 1]}"))]);

    [Fact]
    public void One_who_changed_nothing_gets_the_page_as_the_other_has_it_and_the_other_way_round() =>
        Gen.Select(Pages, Pages).Sample((was, now) =>
        {
            foreach (var merged in (PageMerge[])[PageMerge.Of(was, was, now), PageMerge.Of(was, now, was), PageMerge.Of(was, now, now)])
            {
                Assert.Empty(merged.Collisions);
                Assert.Equal((Said(now), now.Title), (Said(merged.Content), merged.Content.Title));
            }
        });

    [Fact]
    public void Nothing_that_either_has_written_is_lost_and_no_block_stands_twice() =>
        Gen.Select(Pages, Pages, Pages).Sample((was, mine, theirs) =>
        {
            var (content, collisions) = PageMerge.Of(was, mine, theirs);
            var blocks = content.Blocks.Cast<TextBlock>().ToDictionary(b => b.Id, b => b.Words);
            Assert.Equal(content.Blocks.Count, blocks.Count);
            string? In(PageContent page, BlockId id) => page.Blocks.OfType<TextBlock>().FirstOrDefault(b => b.Id == id)?.Words;
            for (var n = 1; n <= 8; n++)
            {
                var (b, m, t, now) = (In(was, Id(n)), In(mine, Id(n)), In(theirs, Id(n)), blocks.GetValueOrDefault(Id(n)));
                var collides = m is not null && t is not null && m != b && t != b && m != t;
                Assert.Equal(collides, collisions.Contains(Id(n).ToString()));
                // Whoever changed it has it so; where both did, one's own stands; where one removed what the other wrote, it stays.
                Assert.Equal(m == b ? t : t == b ? m : m ?? t, now);
            }
        });

    [Fact]
    public void The_order_is_ones_own_where_one_has_moved_anything_and_else_the_others() =>
        Gen.Select(Gen.Shuffle(Enumerable.Range(1, 6).ToArray()), Gen.Shuffle(Enumerable.Range(1, 6).ToArray()), Gen.Bool).Sample((mine, theirs, moved) =>
        {
            PageContent Of(IEnumerable<int> order) => Page("One", [.. order.Select(n => Text(n, $"{n}"))]);
            var was = Of(Enumerable.Range(1, 6));
            var merged = PageMerge.Of(was, moved ? Of(mine) : was, Of(theirs)).Content;
            var expected = moved && !mine.SequenceEqual(Enumerable.Range(1, 6)) ? mine : theirs;
            Assert.Equal(string.Join(' ', expected), Said(merged));
        });

    [Fact]
    public void What_both_add_stands_behind_what_it_was_put_behind()
    {
        var was = Page("One", Text(1, "first"), Text(2, "last"));
        var mine = Page("One", Text(1, "first"), Text(3, "mine"), Text(2, "last"));
        var theirs = Page("One", Text(4, "top"), Text(1, "first"), Text(2, "last"), Text(5, "foot"));
        var (content, collisions) = PageMerge.Of(was, mine, theirs);
        Assert.Empty(collisions);
        Assert.Equal("top first mine last foot", Said(content));
    }

    [Fact]
    public void Titles_collide_like_blocks()
    {
        var was = Page("One");
        Assert.Equal(["title"], PageMerge.Of(was, Page("Two"), Page("Three")).Collisions);
        Assert.Equal("Two", PageMerge.Of(was, Page("Two"), Page("Three")).Content.Title);
        Assert.Empty(PageMerge.Of(was, Page("Two"), Page("Two")).Collisions);
    }

    [Fact]
    public void A_page_becomes_a_post_and_leaves_the_lists_beside_what_others_write()
    {
        var was = Page("One", Text(1, "a"));
        var (june, july) = (new DateOnly(2026, 6, 14), new DateOnly(2026, 7, 1));
        var merged = PageMerge.Of(was, was with { Posted = june }, was with { Unlisted = true, Title = "Two" });
        Assert.Empty(merged.Collisions);
        Assert.Equal((june, true, "Two"), (merged.Content.Posted, merged.Content.Unlisted, merged.Content.Title));
        Assert.Equal(["posted"], PageMerge.Of(was, was with { Posted = june }, was with { Posted = july }).Collisions);
        // Somebody made it a page again while another wrote.
        Assert.Null(PageMerge.Of(was with { Posted = june }, was, Page("One", Text(1, "b")) with { Posted = june }).Content.Posted);
        var difference = PageDifference.Of(was, was with { Posted = june, Unlisted = true });
        Assert.Equal(["the day that it is a post of", "whether lists and the feed have it"], difference.Lines(was).Select(l => l.What));
        Assert.False(difference.IsBuilding);
    }

    [Fact]
    public void Of_photos_only_what_is_set_differently_is_named()
    {
        PhotosBlock Photos(BlockLayout layout, int? most) => PhotosBlock.Of(Id(1), PhotosSource.Of(Regatta) with { Most = most }, layout) with { Bar = BarSettings.Of([Winter], []) };
        string[] Parts(PhotosBlock after) => [.. PageDifference.Of(Page("One", Photos(Mosaic(), null)), Page("One", after)).Lines(Page("One", Photos(Mosaic(), null))).SelectMany(l => l.Parts)];
        BlockLayout Mosaic() => BlockLayout.Usual with { Kind = LayoutKind.Mosaic, Large = new MosaicLarge(LargeBy.Chosen, [Pier]) };
        Assert.Empty(Parts(Photos(Mosaic(), null)));
        Assert.Equal(["which photos"], Parts(Photos(Mosaic(), 5)));
        Assert.Equal(["the layout"], Parts(Photos(BlockLayout.Usual, null)));
        Assert.Equal(["the words with the photos"], Parts(Photos(Mosaic(), null) with { Words = FrameWords.Usual with { First = PhotoWord.Place } }));
        Assert.Equal(["what a touch does"], Parts(Photos(Mosaic(), null) with { Touch = FrameTouch.Usual with { Phone = TouchSet.Usual } }));
    }

    [Fact]
    public void A_difference_names_what_came_went_changed_or_moved()
    {
        var before = Page("One", Text(1, "a"), Text(2, "b"), Text(3, "c"));
        Assert.Equal("Added a text to page “One”.", PageDifference.Of(before, before with { Blocks = [.. before.Blocks, Text(4, "d")] }).Sentence("One"));
        Assert.Equal("Removed 2 blocks from page “One”.", PageDifference.Of(before, before with { Blocks = [Text(2, "b")] }).Sentence("One"));
        var moved = PageDifference.Of(before, Page("One", Text(3, "c"), Text(1, "a"), Text(2, "b")));
        Assert.True(moved is { IsBuilding: true, Moved: true, Changed.Count: 0 });
        Assert.Equal("Moved blocks of page “One”.", moved.Sentence("One"));
        var changed = PageDifference.Of(before, before with { Blocks = [Text(1, "a"), Text(2, "other"), Text(3, "c")] });
        Assert.Equal((false, Id(2)), (changed.IsBuilding, changed.Changed.Single().Id));
        Assert.Equal("Worked on page “One”.", changed.Sentence("One"));
    }

    static readonly AlbumId Regatta = new(new Guid(1, 1, 0, new byte[8]));
    static readonly PhotoId Pier = new(new Guid(2, 1, 0, new byte[8]));
    static readonly CategoryId Winter = new(new Guid(3, 1, 0, new byte[8]));

    [Fact]
    public void Albums_and_picked_photos_are_shown_and_what_gathers_links_or_narrows_only_names()
    {
        var source = PhotosSource.Of(Regatta);
        PhotosBlock Photos(int n, PhotosSource from) => PhotosBlock.Of(Id(n), from, BlockLayout.Usual) with { Bar = BarSettings.Of([Winter], []) };
        (ThingKind, Guid, bool)[] Things(params IReadOnlyList<Block> blocks) => [.. Page("One", blocks).Things().Select(t => (t.Kind, t.Thing, t.Shows))];
        Assert.Equal([(ThingKind.Album, Regatta.Value, true), (ThingKind.Category, Winter.Value, false)], Things(Photos(1, source)));
        Assert.Equal([(ThingKind.Photo, Pier.Value, true), (ThingKind.Category, Winter.Value, false)], Things(Photos(1, source with { Kind = SourceKind.Picked, Photos = [Pier] })));
        Assert.Equal([(ThingKind.Site, Guid.Empty, false), (ThingKind.Category, Winter.Value, false)], Things(Photos(1, source with { Kind = SourceKind.Category, Category = Winter })));
        Assert.Equal([(ThingKind.Site, Guid.Empty, false)], Things(Photos(1, source with { Kind = SourceKind.MostViewed }) with { Bar = BarSettings.None }));
        // Named first and shown later it is shown; what stands side by side counts like the rest.
        var index = new IndexBlock(Id(1), BlockFrame.Usual, IndexKind.Albums, null, true, [Regatta], IndexSort.Newest, null, 3, true, true, false);
        Assert.Equal(
            [(ThingKind.Site, Guid.Empty, false), (ThingKind.Album, Regatta.Value, true), (ThingKind.Category, Winter.Value, false)],
            Things(index, new BesideBlock(Id(2), BlockFrame.Usual, [Photos(3, source)])));
        Assert.Equal(
            [(ThingKind.Album, Regatta.Value, false)],
            Things(new ButtonBlock(Id(1), BlockFrame.Usual, "See them", new LinkTo(LinkKind.Album, Regatta.Value, ""))));
    }

    [Theory]
    [InlineData(PhotoPress.Open, true, true, false)]
    [InlineData(PhotoPress.Open, false, true, false)]
    [InlineData(PhotoPress.Link, true, false, false)]
    [InlineData(PhotoPress.Link, false, false, true)]
    [InlineData(PhotoPress.Nothing, false, false, true)]
    public void An_album_that_a_photo_stands_for_is_shown_only_where_it_is_walked(PhotoPress press, bool hasPhoto, bool shows, bool gathers)
    {
        var things = Page("One", new PhotoBlock(Id(1), BlockFrame.Usual, hasPhoto ? Pier : null, Regatta, "", press, LinkTo.Nowhere, ByLot: false)).Things();
        Assert.Equal(shows, things.Single(t => t.Kind == ThingKind.Album).Shows);
        Assert.Equal(hasPhoto, things.Any(t => t.Kind == ThingKind.Photo && t.Shows));
        Assert.Equal(gathers, things.Any(t => t.Kind == ThingKind.Site));
    }

    [Theory]
    [InlineData("https://example.org/a?b=c", "https://example.org/a?b=c")]
    [InlineData("mailto:guild@example.org", "mailto:guild@example.org")]
    [InlineData(" /festival-2026 ", "/festival-2026")]
    [InlineData("//elsewhere.example", null)]
    [InlineData("/\\elsewhere.example", null)]
    [InlineData("javascript:alert(1)", null)]
    [InlineData("data:text/html,x", null)]
    [InlineData("festival", null)]
    [InlineData("", null)]
    public void An_address_leads_to_this_site_or_to_the_web_or_to_mail_and_nowhere_else(string typed, string? href) => Assert.Equal(href, LinkTo.Href(typed));

    [Fact]
    public void Faults_name_the_block_that_is_wrong()
    {
        var source = PhotosSource.Of(Regatta);
        var photos = PhotosBlock.Of(Id(3), source with { Most = 0 }, BlockLayout.Usual);
        var faults = Page(" ", Text(1, new string('a', 20_001)), new BesideBlock(Id(2), BlockFrame.Usual, [photos]), Text(4, "fine")).Faults();
        Assert.Equal([Id(1).ToString(), Id(3).ToString(), "title"], faults.Keys.Order());
        Assert.Contains("blocks", Page("One", Text(1, "a"), Text(1, "b")).Faults());
        Assert.Contains("blocks", Page("One", [.. Enumerable.Range(1, 201).Select(n => Text(n, ""))]).Faults());
        Assert.Contains("blocks", Page("One", [null!]).Faults());
        Assert.Empty(Page("One").Faults());
        Assert.NotNull(PageContent.FaultOf(new BesideBlock(Id(1), BlockFrame.Usual, [null!])));
        Assert.NotNull(PageContent.FaultOf(new BesideBlock(Id(1), BlockFrame.Usual, [photos])));
        Assert.Null(PageContent.FaultOf(new BesideBlock(Id(1), BlockFrame.Usual, [photos with { Source = source }])));
    }

    [Fact]
    public void Every_number_is_brought_into_its_range_beside_others_too()
    {
        var wild = new Measures(5, 500, 9999, 1, new InARow(0, 99, 3));
        var photos = PhotosBlock.Of(Id(2), PhotosSource.Of(Regatta), BlockLayout.Usual with { Kind = LayoutKind.Grid, Columns = wild, Cells = new GridCells(new Ratio(900, 0), Whole: true), Slides = BlockLayout.Usual.Slides with { Shape = new Ratio(1, 40) } });
        var bounded = (Page("One", new BesideBlock(Id(1), BlockFrame.Usual, [photos, Text(3, "words")])) with { Schema = 1 }).Bounded();
        var within = (BesideBlock)bounded.Blocks[0];
        var layout = ((PhotosBlock)within.Blocks[0]).Layout;
        Assert.Equal((PageContent.Current, new Measures(80, 80, 800, 80, new InARow(1, 12, 3))), (bounded.Schema, layout.Columns));
        Assert.Equal((new Ratio(10, 1), new Ratio(1, 10)), (layout.Cells.Shape, layout.Slides.Shape));
        Assert.Equal(Text(3, "words"), within.Blocks[1]);
    }

    [Fact]
    public void A_menu_is_one_level_deep_of_sixty_entries_each_once_and_leads_nowhere_dangerous()
    {
        MenuEntry Entry(int n, string address = "/", params IReadOnlyList<MenuEntry> beneath) => new(Id(n), "Words", new LinkTo(LinkKind.Address, null, address), beneath);
        Assert.Empty(new Menu([Entry(1, "/", Entry(2), Entry(3)), Entry(4, "")]).Faults());
        Assert.Equal([Id(1), Id(2), Id(3), Id(4)], new Menu([Entry(1, "/", Entry(2), Entry(3)), Entry(4)]).All().Select(e => e.Id));
        Assert.Contains(Id(1).ToString(), new Menu([Entry(1, "/", Entry(2, "/", Entry(3)))]).Faults());
        Assert.Contains(Id(2).ToString(), new Menu([Entry(1), Entry(2, "javascript:alert(1)")]).Faults());
        Assert.Contains(Id(1).ToString(), new Menu([Entry(1) with { Words = new string('a', 61) }]).Faults());
        Assert.Contains("entries", new Menu([Entry(1), Entry(1)]).Faults());
        Assert.Contains("entries", new Menu([.. Enumerable.Range(1, 61).Select(n => Entry(n))]).Faults());
        Assert.Contains("entries", new Menu([null!]).Faults());
    }

    [Theory]
    // Window.Usual: 1,280 less 80, 820 less 56, 390 less 32.
    [InlineData(BlockWidth.Full, 1, 1200, 764, 358)]
    [InlineData(BlockWidth.Half, 1, 600, 382, 358)]
    [InlineData(BlockWidth.Window, 1, 1280, 820, 390)]
    [InlineData(BlockWidth.Full, 2, 584, 366, 358)]
    [InlineData(BlockWidth.Quarter, 3, 378.67, 233.33, 358)]
    public void A_block_is_as_wide_as_it_says_beside_others_it_shares_and_on_a_phone_it_has_all(BlockWidth width, int beside, double desktop, double tablet, double phone)
    {
        double On(string device) => Math.Round(new BlockPlace(BlockFrame.Usual with { Width = width }, beside).Width(Window.Usual.First(w => w.Device == device)), 2);
        Assert.Equal((desktop, tablet, phone), (On("desktop"), On("tablet"), On("phone")));
    }

    [Fact]
    public void A_photo_too_small_for_its_place_is_known_while_it_is_picked()
    {
        var photo = new PhotoBlock(Id(1), BlockFrame.Usual with { Width = BlockWidth.Window }, Pier, null, "", PhotoPress.Open, LinkTo.Nowhere, ByLot: false);
        Assert.Equal(new SmallPhoto(0, "desktop", 0.5), new BlockPlace(photo.Frame).Small(photo, (640, 480)));
        Assert.Null(new BlockPlace(photo.Frame).Small(photo, (3000, 2000)));
        // In a mosaic it may be large, but it never fills the block: 366 px high a 3:2 is 549 wide.
        var mosaic = PhotosBlock.Of(Id(1), PhotosSource.Of(Regatta), BlockLayout.Usual with { Kind = LayoutKind.Mosaic });
        Assert.Null(new BlockPlace(mosaic.Frame).Small(mosaic, (1100, 733)));
        Assert.NotNull(new BlockPlace(mosaic.Frame).Small(mosaic, (900, 600)));
        // In rows 260 px high a 3:2 is 390 wide: 800 pixels suffice for a sharp screen.
        Assert.Null(new BlockPlace(BlockFrame.Usual).Small(PhotosBlock.Of(Id(1), PhotosSource.Of(Regatta), BlockLayout.Usual), (800, 533)));
    }

    [Fact]
    public void Changing_the_layout_and_back_loses_no_setting() =>
        Gen.Select(Gen.Enum<LayoutKind>(), Gen.Enum<LayoutKind>(), Gen.Int[80, 800], Gen.Int[0, 80], Gen.Int[80, 800]).Sample((kind, other, size, gap, phone) =>
        {
            var layout = BlockLayout.Of(kind, size, gap).With(new Measures(size, gap, null, phone, null)) with { Slides = BlockLayout.Usual.Slides with { Shape = new Ratio(5, 4), Fills = true } };
            var back = (layout with { Kind = other }).Bounded() with { Kind = kind };
            Assert.Equal(layout, back);
            if (kind != LayoutKind.Slides)
            {
                Assert.Equal((new LayoutSettings(kind, size, gap), new LayoutSettings(kind, phone, gap, Exact: true)), (back.For(Device.Tablet), back.For(Device.Phone)));
            }
        });
}
