using CsCheck;
using Jovitar.Core;
using Jovitar.Core.Filtering;
using Jovitar.Core.Layout;
using Jovitar.Core.Pages;
using Jovitar.Server.Site;
using Jovitar.Server.Site.Drawing;
using Microsoft.AspNetCore.Http;

namespace Jovitar.Server.Tests;

/// <summary>The photos of a block as visitors narrow them and get them in parts; without a server.</summary>
public sealed class WalkTests
{
    static SitePhoto Photo(int n, int width, int height) => new(new PhotoId(new Guid(n, 0, 0, new byte[8])), $"{n:x64}", width, height, "", "", "", "", null, n % 6);

    static Walk Of(int number, BlockLayout layout, IReadOnlyList<SitePhoto> photos)
    {
        // Every second photo is of the day, every third of the night.
        FilterEntry[] entries = [new("day", "Day", 0), new("night", "Night", 0)];
        return new Walk(number, layout, photos, new FilterBar([new FilterGroup("", One: false)], entries, photos.Count, [.. ((int[])[2, 3]).Select(by => (IReadOnlyCollection<int>)[.. Enumerable.Range(0, photos.Count).Where(i => i % by == 0)])]));
    }

    static readonly Gen<IReadOnlyList<SitePhoto>> Photos =
        Gen.Select(Gen.Int[100, 400], Gen.Int[100, 400]).Array[1, 700].Select(sizes => (IReadOnlyList<SitePhoto>)[.. sizes.Select((s, i) => Photo(i + 1, s.Item1, s.Item2))]);

    /// <summary>The layouts that photos are placed in beneath each other; the others run along.</summary>
    static readonly Gen<LayoutKind> PlacedKinds = Gen.Int[0, 4].Select(n => new[] { LayoutKind.Rows, LayoutKind.Columns, LayoutKind.Grid, LayoutKind.Mosaic, LayoutKind.List }[n]);

    static bool[] Large(IEnumerable<SitePhoto> photos, LayoutKind kind) => kind == LayoutKind.Mosaic ? new MosaicLarge(LargeBy.Rating, []).Of([.. photos.Select(p => (p.Id, p.Rating))]) : [];

    static Choices Read(SitePage page, string query) => Choices.Read(page, new DefaultHttpContext { Request = { QueryString = new QueryString(query) } }.Request.Query);

    static SitePage PageOf(params IReadOnlyList<Walk> walks) => new("/page", "Page", "", [.. walks.Select(w => new SitePhotosBlock(default, new BlockPlace(BlockFrame.Usual), w))]);

    [Fact]
    public void Asked_for_from_where_the_last_answer_ended_every_photo_comes_in_few_answers_whatever_their_size() =>
        Gen.Select(Photos, PlacedKinds, Gen.Int[80, 300], Gen.Int[0, 40], Gen.Int[320, 8000]).Sample((photos, kind, size, gap, width) =>
        {
            var view = new Narrowed(Of(1, BlockLayout.Of(kind, size, gap), photos), Choices.None, "/page", draft: false);
            var found = new Dictionary<int, SiteBox>();
            var (top, answers) = (0.0, 0);
            for (var cut = true; cut; answers++)
            {
                Assert.True(answers <= (photos.Count / 100) + 2, $"{answers} answers for {photos.Count} photos");
                var part = view.In(width, width, new SitePart(0, 0, top, double.MaxValue));
                Assert.True(part.Frames.Count <= SitePart.Most);
                foreach (var frame in part.Frames)
                {
                    found[frame.Place] = frame.Box!;
                }

                (cut, top) = (part.IsCut, part.Frames.Count > 0 ? part.Frames[^1].Box!.Y : top);
            }

            Assert.Equal(Enumerable.Range(0, photos.Count), found.Keys.Order());
        });

    [Fact]
    public void A_part_by_heights_holds_just_what_stands_there() =>
        Gen.Select(Photos, PlacedKinds, Gen.Int[320, 1600], Gen.Double[0, 1], Gen.Double[0, 1]).Sample((photos, kind, width, one, other) =>
        {
            var layout = BlockLayout.Of(kind, 240, 6);
            var placed = layout.For(BlockLayout.DeviceOf(width)).Place([.. photos.Select(p => p.Shape)], width, Large(photos, kind));
            var (top, bottom) = (Math.Min(one, other) * placed.Height, Math.Max(one, other) * placed.Height);
            var view = new Narrowed(Of(1, layout, photos), Choices.None, "/page", draft: false).In(width, width, new SitePart(0, 0, top, bottom));
            var expected = Enumerable.Range(0, photos.Count).Where(i => placed.Boxes[i].Bottom >= top && placed.Boxes[i].Y <= bottom).ToArray();
            Assert.Equal(expected.Length > SitePart.Most, view.IsCut);
            Assert.Equal(expected.Take(SitePart.Most), view.Frames.Select(f => f.Place));
            Assert.Equal(Math.Round(placed.Height, 2), view.Height);
        });

    [Fact]
    public void What_one_chose_in_one_block_stays_while_one_chooses_in_another()
    {
        var photos = Enumerable.Range(1, 200).Select(n => Photo(n, 300, 200)).ToArray();
        var page = PageOf(Of(1, BlockLayout.Usual, photos), Of(2, BlockLayout.Usual, photos));
        var drawn = new DrawnPage(page, Read(page, "?show=day,unknown&show2=night&from2=61&other=x"), "/page", draft: false);
        Assert.Equal("?show=day&show2=night&from2=61", drawn.Choices.Query);
        var (first, second) = (drawn.View(page.Walks[0]), drawn.View(page.Walks[1]));
        Assert.Equal((100, 67), (first.Shown.Count, second.Shown.Count));
        Assert.Equal(["/page?show2=night&from2=61", "/page?show=day,night&show2=night&from2=61"], first.Buttons.Select(b => b.Link));
        Assert.Equal("/page?show2=night&from2=61", first.AllLink);
        // Another choice begins at the first photo again.
        Assert.Equal(["/page?show=day&show2=day,night", "/page?show=day"], second.Buttons.Select(b => b.Link));
        Assert.Equal((60, 7, "/page?show=day&show2=night", (string?)null), (second.From, second.Count, second.EarlierLink, second.FurtherLink));
        Assert.Equal($"/page/photo/{photos[3].Id}?show=day&show2=night&in=2", second.PhotoLink(photos[3]));
    }

    [Theory]
    [InlineData("?from=61", 60)]
    [InlineData("?from=90", 60)]
    [InlineData("?from=0", 0)]
    [InlineData("?from=-5", 0)]
    [InlineData("?from=999999999999999999", 0)]
    [InlineData("?from=many", 0)]
    [InlineData("?from=201", 0)]
    public void A_further_page_begins_where_it_can(string query, int from)
    {
        var page = PageOf(Of(1, BlockLayout.Usual, [.. Enumerable.Range(1, 200).Select(n => Photo(n, 300, 200))]));
        Assert.Equal(from, new Narrowed(page.Walks[0], Read(page, query), "/page", draft: false).From);
    }

    [Fact]
    public void The_first_photos_stand_in_the_height_of_all_and_without_scripts_in_their_own() =>
        Gen.Select(Gen.Int[1, 300], PlacedKinds).Sample((count, kind) =>
        {
            var view = new Narrowed(Of(1, BlockLayout.Of(kind, 240, 6), [.. Enumerable.Range(1, count).Select(n => Photo(n, 200 + (n * 37 % 300), 200))]), Choices.None, "/page", draft: false);
            var style = LayoutStyle.Of(view, new BlockPlace(BlockFrame.Usual));
            // Four bands of widths, and in each a rule for every photo that stands in the page.
            Assert.Equal(4 * Math.Min(count, More.Usual.Step), style.Css.Split("{left:").Length - 1);
            // Without scripts a block ends earlier in every band where what is not in the page stands lower than what is.
            var lower = style.Bands.Count(b =>
            {
                var boxes = BlockLayout.Of(kind, 240, 6).For(BlockLayout.DeviceOf(b.Window)).Place(view.Shapes, b.Width, view.Large).Boxes;
                return boxes.Max(box => box.Bottom) > boxes.Take(More.Usual.Step).Max(box => box.Bottom) + 1;
            });
            Assert.Equal(lower, style.Without.Split("padding-bottom:").Length - 1);
            var placed = BlockLayout.Of(kind, 240, 6).For(Device.Desktop).Place(view.Shapes, 1200, view.Large);
            Assert.Contains($"#w1{{aspect-ratio:1200/{Math.Round(placed.Height, 2).ToString(System.Globalization.CultureInfo.InvariantCulture)}}}", style.Css, StringComparison.Ordinal);
        }, iter: 40);

    static readonly Gen<MoreBy> Bys = Gen.Bool.Select(numbers => numbers ? MoreBy.Numbers : MoreBy.Button);

    [Fact]
    public void On_numbered_pages_and_at_a_button_every_photo_comes_once_in_its_place() =>
        // No more than one answer holds.
        Gen.Select(Gen.Int[1, SitePart.Most], PlacedKinds, Bys, Gen.Int[6, 90], Gen.Int[320, 1700], Gen.Bool).Sample((count, kind, by, step, width, narrowed) =>
        {
            SitePhoto[] photos = [.. Enumerable.Range(1, count).Select(n => Photo(n, 200 + (n * 37 % 300), 200))];
            var plain = Of(1, BlockLayout.Of(kind, 200, 6), photos);
            var page = PageOf(new Walk(1, plain.Layout, photos, plain.Bar, Further: new More(by, step)));
            var expected = Enumerable.Range(0, count).Where(i => !narrowed || i % 3 == 0).Select(i => photos[i].Id).ToArray();
            var (found, query, last) = (new List<PhotoId>(), narrowed ? "?show=night" : "", (SiteView?)null);
            for (var turns = 0; query is not null; turns++)
            {
                Assert.True(turns <= count, "it ends");
                var view = new Narrowed(page.Walks[0], Read(page, query), "/page", draft: false);
                last = view.In(width, width, new SitePart(0, 0, 0, double.MaxValue));
                Assert.All(last.Frames, f => Assert.NotNull(f.Box));
                Assert.Equal(last.Frames.Select((_, i) => last.Further.First + i), last.Frames.Select(f => f.Place));
                Assert.Equal(last.Further.Standing, last.Frames.Count);
                Assert.Equal(last.Frames.Max(f => f.Box!.Y + f.Box.Height), last.Height, 1.0);
                // The viewer walks all of them; those that do not stand there have no box.
                var walked = view.In(width, width, new SitePart(0, SitePart.Most, null, null)).Frames;
                Assert.Equal(expected, walked.Select(f => f.Id));
                Assert.Equal(last.Frames.Select(f => f.Place), walked.Where(f => f.Box is not null).Select(f => f.Place));
                if (by == MoreBy.Button)
                {
                    // What stood there stands there still.
                    Assert.Equal(found, last.Frames.Take(found.Count).Select(f => f.Id));
                    found.Clear();
                }

                found.AddRange(last.Frames.Select(f => f.Id));
                Assert.Equal(query, last.Link["/page".Length..]);
                var next = by == MoreBy.Button ? last.Further.MoreLink : last.Further.Pages.SkipWhile(p => !p.Present).Skip(1).FirstOrDefault()?.Link;
                query = next?["/page".Length..]!;
            }

            Assert.Equal(expected, found);
            Assert.Equal(expected.Length, last!.Shown);
        }, iter: 60);

    [Fact]
    public void From_its_own_page_a_photo_leads_back_to_where_it_stands() =>
        Gen.Select(Gen.Int[1, 200], Gen.Int[0, 2].Select(n => (MoreBy)n), Gen.Int[6, 90]).Sample((count, by, step) =>
        {
            SitePhoto[] photos = [.. Enumerable.Range(1, count).Select(n => Photo(n, 300, 200))];
            var page = PageOf(new Walk(1, BlockLayout.Of(LayoutKind.Grid, 200, 6), photos, FilterBar.None(count), Further: new More(by, step)));
            var at = new Narrowed(page.Walks[0], Choices.None, "/page", draft: false);
            foreach (var photo in (int[])[0, count / 3, count - 1])
            {
                var there = new Narrowed(page.Walks[0], Read(page, at.LinkHolding(photo)["/page".Length..]), "/page", draft: false);
                var inPage = Enumerable.Range(there.From, there.Count).Contains(photo);
                Assert.True(inPage || (by == MoreBy.Button && there.Mine.To > photo), $"{at.LinkHolding(photo)} for {photo}");
            }
        });

    [Fact]
    public void What_comes_at_a_button_stands_there_where_no_script_runs()
    {
        // Rows of five at a step of twelve: the last two wait for the button, but not where none could be pressed.
        SitePhoto[] photos = [.. Enumerable.Range(1, 40).Select(n => Photo(n, 300, 200))];
        var grid = BlockLayout.Of(LayoutKind.Grid, 240, 0);
        var walk = new Walk(1, grid, photos, FilterBar.None(40), Further: new More(MoreBy.Button, 12));
        var style = LayoutStyle.Of(new Narrowed(walk, Choices.None, "/page", draft: false), new BlockPlace(BlockFrame.Usual));
        string Wide(string css) => css[css.IndexOf("@media (min-width:1024px) and", StringComparison.Ordinal)..css.IndexOf("@media (min-width:1600px)", StringComparison.Ordinal)];
        Assert.Contains("#w1-10,#w1-11{display:none}", Wide(style.Css), StringComparison.Ordinal);
        Assert.Contains("main #w1-11{display:block;", Wide(style.Without), StringComparison.Ordinal);
        Assert.DoesNotContain("#w1-9{display", Wide(style.Css) + Wide(style.Without), StringComparison.Ordinal);
    }

    [Fact]
    public void A_device_gets_its_photos_only_in_the_page_in_parts_in_counts_and_from_one_to_the_next() =>
        Gen.Select(Gen.Int[1, 150], Gen.Int[0, 200].Array[0, 60].Array[3], Gen.Int[0, 4].Select(n => new[] { "", "?show=day", "?from=61", "?show=night&from=61", "?lot=7" }[n]), PlacedKinds, Gen.Bool, Gen.Int[1, 20]).Sample((count, gone, query, kind, byLot, handful) =>
        {
            SitePhoto[] photos = [.. Enumerable.Range(1, count).Select(n => Photo(n, 200 + (n * 37 % 300), 200))];
            IReadOnlyList<PhotoId> Ids(int device) => [.. gone[device].Where(g => g < count).Distinct().Select(g => photos[g].Id)];
            var absent = new Absent(Ids(0), Ids(1), Ids(2));
            var walk = byLot && !query.Contains("show", StringComparison.Ordinal)
                ? new Walk(1, BlockLayout.Of(kind, 240, 6), photos, FilterBar.None(count), ByLot: true, handful, absent)
                : Of(1, BlockLayout.Of(kind, 240, 6), photos);
            // Made anew, for what a walk is reckoned from is taken when it is made.
            walk = new Walk(1, walk.Layout, walk.Photos, walk.Bar, walk.ByLot, walk.Handful, absent);
            var page = PageOf(walk);
            var view = new Narrowed(walk, Read(page, query), "/page", draft: false);
            var order = walk.ByLot ? Lot.Draw(count, null, query == "?lot=7" ? 7 : 0) : [.. Enumerable.Range(0, count)];
            bool Found(int i) => !query.Contains("show=day", StringComparison.Ordinal) || i % 2 == 0;
            bool Night(int i) => !query.Contains("show=night", StringComparison.Ordinal) || i % 3 == 0;
            var style = LayoutStyle.Of(view, new BlockPlace(BlockFrame.Usual));
            foreach (var device in Enum.GetValues<Device>())
            {
                int[] expected = [.. order.Where(i => !absent.On(device).Contains(photos[i].Id) && Found(i) && Night(i)).Take(walk.Handful ?? count)];
                var (window, answered) = (new[] { 390, 820, 1280 }[(int)device], new List<SiteFrame>());
                for (var at = 0; ; at += 50)
                {
                    var part = view.In(window - 40, window, new SitePart(at, 50, null, null));
                    Assert.Equal(expected.Length, part.Shown);
                    answered.AddRange(part.Frames);
                    if (part.Frames.Count == 0)
                    {
                        break;
                    }
                }

                Assert.Equal(expected.Select((i, n) => (n, photos[i].Id)), answered.Select(f => (f.Place, f.Id)));
                // What stands in the page of it is the beginning of that, or the part that was asked for.
                var places = view.PlacesOn(device);
                var seen = Enumerable.Range(0, view.Count).Where(i => places[i] >= 0).Select(i => view.Shown[view.From + i]).ToArray();
                Assert.Equal(expected.Skip(view.On(device).From).Take(seen.Length), seen);
                Assert.Equal(Enumerable.Range(0, seen.Length), places.Where(p => p >= 0));
                Assert.Equal(places.Select(p => p < 0), view.Absences().Select(a => a?.Contains(Narrowed.Name(device), StringComparison.Ordinal) == true));
                foreach (var i in seen.Take(3))
                {
                    var ways = view.WaysFrom(i).Where(w => w.Devices is null || w.Devices.Contains(Narrowed.Name(device), StringComparison.Ordinal)).ToArray();
                    var at = Array.IndexOf(expected, i);
                    Assert.Equal(at > 0 ? photos[expected[at - 1]].Id : (PhotoId?)null, ways.SingleOrDefault(w => !w.After)?.Photo.Id);
                    Assert.Equal(at < expected.Length - 1 ? photos[expected[at + 1]].Id : (PhotoId?)null, ways.SingleOrDefault(w => w.After)?.Photo.Id);
                }
            }

            // Whatever stands in the page has a box where it stands, and is hidden where it does not.
            var boxes = Enum.GetValues<Device>().Sum(d => view.PlacesOn(d).Count(p => p >= 0) * (d == Device.Desktop ? 2 : 1));
            Assert.Equal(boxes, style.Css.Split("{left:").Length - 1);
            Assert.Equal(Enum.GetValues<Device>().Sum(d => view.PlacesOn(d).Contains(-1) ? d == Device.Desktop ? 2 : 1 : 0), style.Css.Split("{display:none}").Length - 1);
            Assert.All(Enumerable.Range(0, view.Count), i => Assert.Equal(3, style.Sizes(i).Split(',').Length - 1));
        }, iter: 60);

    [Fact]
    public void A_page_that_was_opened_before_other_photos_were_left_out_on_a_device_is_another()
    {
        SitePhoto[] photos = [Photo(1, 300, 200), Photo(2, 200, 300)];
        Walk With(Absent? absent) => new(1, BlockLayout.Usual, photos, FilterBar.None(2), Absent: absent);
        string[] marks = [With(null).Mark, With(new Absent([photos[0].Id], [], [])).Mark, With(new Absent([], [photos[0].Id], [])).Mark, With(new Absent([], [], [photos[0].Id])).Mark];
        Assert.Equal(4, marks.Distinct().Count());
        // Of photos that are not in the block nothing is to be told apart.
        Assert.False(With(new Absent([Photo(3, 1, 1).Id], [], [])).Differs);
        Assert.Equal(1, With(new Absent([photos[0].Id], [], [])).CountOn(Device.Phone));
    }

    [Fact]
    public void Slides_have_a_frame_for_the_photos_of_each_device()
    {
        SitePhoto[] photos = [Photo(1, 300, 200), Photo(2, 200, 300)];
        Walk With(LayoutKind kind, Absent absent) => new(1, BlockLayout.Usual with { Kind = kind }, photos, FilterBar.None(2), Absent: absent);
        LayoutStyle Style(Walk walk) => LayoutStyle.Of(new Narrowed(walk, Choices.None, "/page", draft: false), new BlockPlace(BlockFrame.Usual));
        var slides = Style(With(LayoutKind.Slides, new Absent([photos[1].Id], [], []))).Css;
        Assert.StartsWith("@media (max-width:599px){#w1{aspect-ratio:1.5}#w1-1{display:none}}@media (min-width:600px) and (max-width:1023px){#w1{aspect-ratio:0.6667}}", slides, StringComparison.Ordinal);
        // Where a device shows none of them there is no frame and no height to reckon.
        var strip = Style(With(LayoutKind.Strip, new Absent([], [], [photos[0].Id, photos[1].Id])));
        Assert.Contains("@media (min-width:1600px){#w1-0,#w1-1{display:none}}", strip.Css, StringComparison.Ordinal);
        Assert.EndsWith(",1px", strip.Sizes(0), StringComparison.Ordinal);
    }

    [Fact]
    public void What_runs_along_says_how_wide_each_photo_stands_and_places_none()
    {
        IReadOnlyList<SitePhoto> photos = [Photo(1, 300, 200), Photo(2, 200, 300), Photo(3, 300, 200)];
        LayoutStyle Style(BlockLayout layout) => LayoutStyle.Of(new Narrowed(Of(1, layout, photos), Choices.None, "/page", draft: false), new BlockPlace(BlockFrame.Usual));
        var strip = Style(BlockLayout.Of(LayoutKind.Strip, 360, 6) with { Along = new StripSettings(StripHeight.Half, Motion.Usual) });
        Assert.Empty(strip.Bands);
        // As wide as its shape makes it at that height, and never wider than the block: 1200 of 1280 px.
        Assert.Contains("(max-width:1599px) min(93.8vw,calc(min(800px,max(140px,50svh))*1.5))", strip.Sizes(0), StringComparison.Ordinal);
        Assert.Contains("*0.6667)", strip.Sizes(1), StringComparison.Ordinal);
        // Cropped to a square, a 3:2 is drawn half as wide again as the frame, an upright one as wide.
        var slides = Style(BlockLayout.Usual with { Kind = LayoutKind.Slides, Slides = new SlidesSettings(SlideTurn.Fade, new Ratio(1, 1), Fills: true, Motion.Usual) });
        Assert.Equal(("(max-width:599px) 137.7vw", "(max-width:599px) 91.8vw"), (slides.Sizes(0).Split(',')[0], slides.Sizes(1).Split(',')[0]));
        Assert.Equal("#w1{aspect-ratio:1}", slides.Css);
        Assert.Equal("#w1{aspect-ratio:0.6667}", Style(BlockLayout.Usual with { Kind = LayoutKind.Slides }).Css);
    }
}
