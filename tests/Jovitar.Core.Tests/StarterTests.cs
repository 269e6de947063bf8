using CsCheck;
using Jovitar.Core.Corrections;
using Jovitar.Core.Layout;
using Jovitar.Core.Narrowings;
using Jovitar.Core.Pages;
using Jovitar.Core.Starters;

namespace Jovitar.Core.Tests;

/// <summary>Pages laid out ready to begin from, with the owner's albums in their places.</summary>
public sealed class StarterTests
{
    static readonly DateOnly June = new(2026, 6, 13);

    static AlbumHeld Album(string title, DateOnly day, int photos = 20, int loved = 0, bool onPage = false, string description = "", int days = 1, bool fills = false) =>
        new(new AlbumId(Guid.CreateVersion7()), title, description, day, days, photos, loved, fills, onPage);

    static PhotoHeld Photo(int width, int height, int rating = 0) => new(new PhotoId(Guid.CreateVersion7()), "", new PixelSize(width, height), rating);

    static readonly Gen<AlbumHeld> AnyAlbum =
        from day in Gen.Int[0, 1200]
        from photos in Gen.Int[0, 40]
        from loved in Gen.Int[0, 40]
        from onPage in Gen.Bool
        from fills in Gen.Bool
        from title in Gen.String[0, 400]
        select Album(title.Length == 0 ? "Album" : title, June.AddDays(-day), photos, Math.Min(loved, photos), onPage, title, day % 9, fills);

    static readonly Gen<PhotoHeld> AnyPhoto =
        from width in Gen.Int[1, 9000]
        from height in Gen.Int[1, 9000]
        from rating in Gen.Int[0, 5]
        select Photo(width, height, rating);

    static PageContent Lay(Starter starter, params IReadOnlyList<AlbumSeen> albums) => new StarterPage("Marram Bay Kite Guild", "Kites over the bay", () => new BlockId(Guid.CreateVersion7())).Of(starter, albums);

    static string[] Match(Starter starter, params IReadOnlyList<AlbumHeld> albums) => [.. StarterMatch.Of(starter, albums).Select(a => a.Title)];

    /// <summary>Whatever albums there are: the page may be kept, shows only what was matched, and holds no words that nobody said.</summary>
    [Fact]
    public void Every_starter_makes_a_sound_page_of_the_owners_own_and_of_nothing_else() =>
        Gen.Select(Gen.Enum<Starter>(), AnyAlbum.List[0, 20], AnyPhoto.List[0, 8]).Sample((starter, albums, photos) =>
        {
            var matched = StarterMatch.Of(starter, albums);
            Assert.True(matched.Count <= StarterMatch.Most(starter));
            Assert.Equal(matched.Count, matched.Distinct().Count());
            Assert.All(matched, a => Assert.True(a.Photos > 0));
            Assert.Equal(albums.Any(a => a.Photos > 0), matched.Count > 0);
            var page = Lay(starter, [.. matched.Select(a => new AlbumSeen(a, photos))]);
            Assert.Empty(page.Faults());
            var own = matched.Select(a => a.Id.Value).Concat(photos.Select(p => p.Id.Value)).ToHashSet();
            Assert.All(page.Things(), t => Assert.Contains(t.Thing, own));
            string[] said = ["", "Kites over the bay", .. matched.Select(a => a.Description)];
            Assert.All(page.All().OfType<TextBlock>(), t => Assert.Contains(t.Words, said));
        });

    [Fact]
    public void A_report_is_made_of_the_newest_album_that_no_page_shows_yet()
    {
        Assert.Equal(["Night flight"], Match(Starter.EventReport, Album("Festival", June, onPage: true), Album("Night flight", June.AddDays(-3)), Album("Winter", June.AddDays(-200))));
        // Two photos make no report where another album has more.
        Assert.Equal(["Night flight"], Match(Starter.EventReport, Album("Two", June, photos: 2), Album("Night flight", June.AddDays(-3))));
        Assert.Equal(["Two"], Match(Starter.EventReport, Album("Two", June, photos: 2), Album("Festival", June.AddDays(-3), onPage: true)));
        // Neither what fills itself nor what was taken over half a year is one occasion.
        Assert.Equal(["Old event"], Match(Starter.EventReport, Album("Everything", June, fills: true), Album("The year", June, days: 180), Album("Undated", June, days: 0), Album("Old event", June.AddDays(-300), onPage: true)));
        Assert.Empty(Match(Starter.EventReport, Album("Empty", June, photos: 0)));
    }

    [Fact]
    public void What_fills_itself_stands_beside_no_others_for_it_holds_what_they_hold()
    {
        foreach (var starter in (Starter[])[Starter.ClassPage, Starter.SeasonOverview, Starter.ClubHome])
        {
            Assert.Equal(["Festival"], Match(starter, Album("Everything", June, fills: true), Album("Festival", June.AddDays(-9))));
            Assert.Equal(["Everything"], Match(starter, Album("Everything", June, fills: true)));
        }
    }

    [Fact]
    public void The_best_are_taken_from_the_albums_with_most_of_them_and_where_none_is_rated_from_the_fullest()
    {
        AlbumHeld[] albums = [Album("New", June, photos: 90), Album("Old", June.AddDays(-900), photos: 30, loved: 12), Album("Older", June.AddDays(-1000), loved: 3)];
        Assert.Equal(["Old", "Older"], Match(Starter.Portfolio, albums));
        Assert.Equal(["Old"], Match(Starter.SalesGallery, albums));
        Assert.Equal(["New", "Old"], Match(Starter.Portfolio, [.. albums.Take(2).Select(a => a with { Loved = 0 })]));
        var best = Assert.IsType<PhotosBlock>(Lay(Starter.Portfolio, [.. albums.Skip(1).Select(a => new AlbumSeen(a, []))]).Blocks[^1]);
        Assert.Equal((SourceKind.Albums, SheetSort.Rating, false, 40), (best.Source.Kind, best.Source.Sort, best.Source.Reversed, best.Source.Most));
    }

    [Fact]
    public void A_season_is_the_year_behind_its_newest_album_and_named_by_its_years()
    {
        AlbumHeld[] albums = [Album("June", June), Album("Last June", June.AddDays(-364)), Album("Before", June.AddDays(-365))];
        Assert.Equal(["June", "Last June"], Match(Starter.SeasonOverview, albums));
        Assert.Equal("Season 2025–26", Lay(Starter.SeasonOverview, [.. albums.Take(2).Select(a => new AlbumSeen(a, []))]).Title);
        var page = Lay(Starter.SeasonOverview, new AlbumSeen(albums[0], []));
        Assert.Equal("Season 2026", page.Title);
        // One album alone needs no buttons to tell it from others.
        Assert.Empty(page.Blocks.OfType<PhotosBlock>().Single().Bar.Groups);
        var two = Lay(Starter.SeasonOverview, [.. albums.Take(2).Select(a => new AlbumSeen(a, []))]);
        Assert.Equal([BarButton.EachAlbum], two.Blocks.OfType<PhotosBlock>().Single().Bar.Buttons());
        Assert.Equal(["June", "Last June"], two.Blocks.OfType<BesideBlock>().Single().Blocks.Cast<PhotoBlock>().Select(c => c.Line));
    }

    [Fact]
    public void A_heading_lies_over_the_best_wide_photo_that_is_large_enough_for_it()
    {
        var album = Album("Festival", June, description: "Four hundred kites.");
        var (small, upright, wide, better) = (Photo(1200, 800, 5), Photo(3000, 4000, 5), Photo(4000, 2600, 2), Photo(6000, 2000, 4));
        var page = Lay(Starter.EventReport, new AlbumSeen(album, [small, upright, wide, better]));
        Assert.Equal((GroundKind.Photo, better.Id), (page.Blocks[0].Frame.Ground.Kind, page.Blocks[0].Frame.Ground.Photo));
        Assert.Equal((GroundKind.AsAbove, "Four hundred kites."), (page.Blocks[1].Frame.Ground.Kind, ((TextBlock)page.Blocks[1]).Words));
        Assert.All(Lay(Starter.EventReport, new AlbumSeen(album, [small, upright])).Blocks, b => Assert.Equal(GroundKind.None, b.Frame.Ground.Kind));
        Assert.Equal("Festival", page.Title);
        Assert.Equal("Marram Bay Kite Guild", Lay(Starter.ClubHome, new AlbumSeen(album, [wide])).Title);
    }

    [Fact]
    public void Photos_stand_in_the_layout_that_suits_their_shapes()
    {
        LayoutKind Of(params PhotoHeld[] photos) => Lay(Starter.EventReport, new AlbumSeen(Album("A", June), photos)).Blocks.OfType<PhotosBlock>().Single().Layout.Kind;
        Assert.Equal(LayoutKind.Grid, Of(Photo(900, 600), Photo(300, 200), Photo(600, 400)));
        Assert.Equal(LayoutKind.Columns, Of(Photo(600, 900), Photo(600, 800), Photo(600, 1100), Photo(900, 600)));
        Assert.Equal(LayoutKind.Rows, Of(Photo(900, 600), Photo(900, 500), Photo(1000, 500), Photo(600, 900)));
    }
}
