using CsCheck;
using Jovitar.Core.Access;
using Jovitar.Core.Clearance;
using Jovitar.Core.Photos;
using Jovitar.Core.Watermarks;

namespace Jovitar.Core.Tests;

/// <summary>The watermark: how it stands on photos, what names it, and who gets photos without it.</summary>
public sealed class WatermarkTests
{
    static readonly DateTimeOffset Now = new(2027, 3, 1, 12, 0, 0, TimeSpan.Zero);

    static readonly Gen<Watermark> Watermarks = Gen.Select(
        Gen.Enum<WatermarkPlace>(), Gen.Int[Watermark.Smallest, Watermark.Largest], Gen.Int[0, Watermark.WidestInset],
        (place, size, inset) => Watermark.Usual with { Words = "© Marram Bay", Place = place, Size = size, Inset = inset });

    /// <summary>From a long line of words to a narrow sign.</summary>
    static readonly Gen<double> Shapes = Gen.Double[0.1, 40];

    static Guid Number(int n) => new(n, 0, 0, new byte[8]);

    [Fact]
    public void Once_it_stands_whole_on_photos_of_every_size_and_shape() =>
        Gen.Select(Watermarks, Gen.Int[1, 9000], Gen.Int[1, 9000], Shapes).Sample(
            (watermark, width, height, shape) =>
            {
                var box = WatermarkLayout.Once(watermark, width, height, shape);
                Assert.True(box is { X: >= 0, Y: >= 0, Width: >= 1, Height: >= 1 } && box.X + box.Width <= width && box.Y + box.Height <= height, $"{box} on {width} by {height}");
                // As far from the edges as was said, but for what rounding takes, where there is room for that at all.
                var inset = (int)(Math.Min(width, height) * watermark.Inset / 100.0) - 1;
                Assert.True(Math.Min(width, height) < 20 || (box.X >= inset && box.Y >= inset && width - box.X - box.Width >= inset && height - box.Y - box.Height >= inset), $"{box} on {width} by {height}, {inset} from the edges");
            },
            iter: 20_000);

    [Fact]
    public void It_weighs_the_same_whatever_its_shape_and_looks_the_same_on_every_rendition_of_a_photo() =>
        Gen.Select(Gen.Int[Watermark.Smallest, 15], Gen.Double[0.4, 4], Gen.Int[900, 3000], Gen.Int[900, 3000]).Sample((size, shape, width, height) =>
        {
            var watermark = Watermark.Usual with { Words = "Marram", Size = size, Inset = 0, Place = WatermarkPlace.Middle };
            var box = WatermarkLayout.Once(watermark, width, height, shape);
            var wanted = (double)width * height * size * size / 10_000;
            Assert.InRange(box.Width * (double)box.Height, wanted * 0.8, wanted * 1.02);
            var twice = WatermarkLayout.Once(watermark, 2 * width, 2 * height, shape);
            Assert.InRange(twice.Width, 2 * box.Width, (2 * box.Width) + 2);
            Assert.InRange(twice.X, (2 * box.X) - 2, (2 * box.X) + 2);
        });

    [Theory]
    [InlineData(WatermarkPlace.TopLeft, 36, 36)]
    [InlineData(WatermarkPlace.Top, 740, 36)]
    [InlineData(WatermarkPlace.TopRight, 1444, 36)]
    [InlineData(WatermarkPlace.Left, 36, 390)]
    [InlineData(WatermarkPlace.Middle, 740, 390)]
    [InlineData(WatermarkPlace.Right, 1444, 390)]
    [InlineData(WatermarkPlace.BottomLeft, 36, 744)]
    [InlineData(WatermarkPlace.Bottom, 740, 744)]
    [InlineData(WatermarkPlace.BottomRight, 1444, 744)]
    public void A_square_of_a_tenth_stands_where_it_is_put(WatermarkPlace place, int x, int y) =>
        Assert.Equal(new WatermarkBox(x, y, 120, 120), WatermarkLayout.Once(Watermark.Usual with { Words = "©", Place = place, Size = 10, Inset = 4 }, 1600, 900, 1));

    [Fact]
    public void Spread_they_neither_touch_nor_leave_more_room_than_they_are_worth() =>
        Gen.Select(Watermarks, Gen.Int[1, 9000], Gen.Int[1, 9000], Shapes).Sample((watermark, width, height, shape) =>
        {
            var rows = WatermarkLayout.Spread(watermark, width, height, shape);
            Assert.True(rows.Width <= width && rows.Height <= height, $"{rows} on {width} by {height}");
            Assert.True(rows.Along > rows.Width && rows.Across > rows.Height, $"{rows} lie over one another");
            // No part of a photo as large as twice the step is without one.
            Assert.True(rows.Along - rows.Width <= Math.Max(1, 1.4 * Math.Sqrt((double)width * height) * watermark.Size / 100.0) + 1, $"{rows} on {width} by {height}");
        });

    [Fact]
    public void It_is_named_by_what_is_seen_of_it_and_by_nothing_else()
    {
        var words = Watermark.Usual with { Words = "Marram" };
        var picture = words with { Kind = WatermarkKind.Picture, Picture = new WatermarkPicture(new string('a', 64), 300, 100) };
        Watermark[] others =
        [
            words with { Words = "Marram Bay" }, words with { Lettering = Lettering.Hand }, words with { Place = WatermarkPlace.AllOver }, words with { Size = 13 }, words with { Strength = 61 }, words with { Inset = 5 },
            picture, picture with { Picture = new WatermarkPicture(new string('b', 64), 300, 100) },
        ];
        Assert.Equal(others.Length + 1, others.Append(words).Select(o => o.Key()).Distinct().Count());
        Assert.Equal(words.Key(), (words with { Picture = picture.Picture }).Key());
        Assert.Equal(picture.Key(), (picture with { Words = "else", Lettering = Lettering.Serif }).Key());
        Assert.Equal(("", "", true), (Watermark.Usual.Key(), (words with { Kind = WatermarkKind.Picture }).Key(), Watermark.Usual.IsNothing));
    }

    [Fact]
    public void What_is_out_of_its_range_is_brought_into_it_and_what_cannot_be_read_is_said()
    {
        var kept = (Watermark.Usual with { Words = "  ©\n Marram\u0007 Bay ", Size = 900, Strength = -3, Inset = 90 }).AsKept();
        Assert.Equal(("© Marram Bay", Watermark.Largest, Watermark.Faintest, Watermark.WidestInset), (kept.Words, kept.Size, kept.Strength, kept.Inset));
        Assert.Contains("words", (Watermark.Usual with { Words = new string('w', 81) }).Faults());
        Assert.Contains("kind", (Watermark.Usual with { Place = (WatermarkPlace)40 }).Faults());
        Assert.Empty(kept.Faults());
    }

    static readonly Gen<HashSet<int>> People = Gen.Int[100, 103].HashSet[1, 3];

    static readonly Gen<Whom> Markings = Gen.Select(Gen.Enum<ForWhom>(), People, (who, chosen) => new Whom(who) { Chosen = who == ForWhom.Chosen ? [.. chosen.Select(Number)] : [] });

    /// <summary>The rule as one would say it: each thing that the photo stands in is asked by itself.</summary>
    static bool Naive(Whom marking, bool holds, HashSet<int>? belongs) =>
        marking.Who == ForWhom.Everyone || (marking.Who == ForWhom.Known && (holds || belongs != null)) || (marking.Who == ForWhom.Members && belongs != null)
        || (marking.Who == ForWhom.Chosen && belongs != null && belongs.Any(b => marking.Chosen.Contains(Number(b))));

    [Fact]
    public void A_photo_goes_without_it_to_whom_everything_that_it_stands_in_spares() =>
        Gen.Select(Markings.Array[0, 4], Gen.Bool, Gen.Int[0, 2], People.Null()).Sample(
            (markings, holds, pages, belongs) =>
            {
                var viewer = (belongs is null ? Viewer.Nobody : new Viewer(Role.Member) { Is = belongs.Select(Number).ToHashSet() }) with { Holds = holds ? new HashSet<Guid> { Number(7) } : [] };
                var photo = new PhotoThing(PhotoState.Ready, LeftOut: false, Binned: false, new ShownOn(pages), PhotoClearance.Nothing) { Marks = [.. markings.Select((m, i) => new Mark(Number(i), "album", $"A{i}", m))] };
                var decided = Access.Access.Decide(viewer, Right.SeeUnmarked, photo, Now);
                Assert.Equal(pages > 0 && markings.All(m => Naive(m, holds, belongs)), decided.Allowed);
                // It has no part in whether it is seen; staff, and whom every gate lets in, get it as it is.
                Assert.Equal(pages > 0, Access.Access.Decide(viewer, Right.See, photo, Now).Allowed);
                Assert.Equal(pages > 0 && !decided.Allowed, decided.Reasons.Contains(Reason.Marked));
                Assert.True(Access.Access.Decide(new Viewer(Role.Editor), Right.SeeUnmarked, photo, Now).Allowed);
                Assert.Equal(pages > 0, Access.Access.Decide(Viewer.Somebody, Right.SeeUnmarked, photo, Now).Allowed);
            },
            iter: 20_000);

    [Theory]
    // A photographer's gallery: its client came by the link, and the world finds the album as well.
    [InlineData("Known", "", false, false, "marked")]
    [InlineData("Known", "", true, false, "as it is")]
    // A club: what members get has none.
    [InlineData("Members", "", false, true, "as it is")]
    [InlineData("Members", "", true, false, "marked")]
    // The same photo in an album whose prints are for sale: nobody has it without.
    [InlineData("Members", "Nobody", false, true, "marked")]
    // A school says nothing of it at all.
    [InlineData("", "", false, false, "as it is")]
    public void Worked_examples(string album, string other, bool holdsLink, bool isMember, string gets)
    {
        Mark[] marks = [.. ((string[])[album, other]).Where(a => a.Length > 0).Select((a, i) => new Mark(Number(i), "album", "A", new Whom(Enum.Parse<ForWhom>(a))))];
        var viewer = (isMember ? new Viewer(Role.Member) { Is = new HashSet<Guid> { Number(9) } } : Viewer.Nobody) with { Holds = holdsLink ? new HashSet<Guid> { Number(5) } : [] };
        var photo = new PhotoThing(PhotoState.Ready, LeftOut: false, Binned: false, new ShownOn(1), PhotoClearance.Nothing) { Marks = marks };
        Assert.Equal(gets == "as it is", Access.Access.Decide(viewer, Right.SeeUnmarked, photo, Now).Allowed);
    }

    [Fact]
    public void It_is_said_who_gets_it_with_and_who_without()
    {
        Mark Of(string kind, string name, ForWhom who, params Chosen[] called) => new(Number(name.Length), kind, name, new Whom(who) { Chosen = [.. called.Select(c => c.Id)] }) { Called = called };
        Assert.Empty(MarkWords.Said([]));
        Assert.Equal(["Visitors get it with the watermark.", "The album “Night” spares all members."], MarkWords.Said([Of("album", "Night", ForWhom.Members)]));
        Assert.Equal("The category “Sale” spares nobody.", MarkWords.Said([Of("category", "Sale", ForWhom.Nobody)])[1]);
        Assert.Equal("The site spares the group “Juniors”.", MarkWords.Said([Of("site", "", ForWhom.Chosen, new Chosen(Number(1), "Juniors", IsGroup: true))])[1]);
        Assert.Equal("The site spares nobody.", MarkWords.Said([Of("site", "", ForWhom.Chosen)])[1]);
        Assert.EndsWith("the stricter wins.", MarkWords.Said([Of("site", "", ForWhom.Known), Of("album", "Night", ForWhom.Members)])[3], StringComparison.Ordinal);
        var line = AudienceLine.Of(new PhotoThing(PhotoState.Ready, false, false, new ShownOn(1), PhotoClearance.Nothing) { Marks = [Of("album", "Night", ForWhom.Members)] }, new TheSite(IsOpen: true), Now);
        Assert.Contains("Visitors get it with the watermark.", line.Why);
        Assert.Equal("Put the watermark on the photos of album “Night”; it spares all members.", MarkWords.Said("album", "Night", ForWhom.Members, []));
        Assert.Equal("Gave visitors all photos of the site without watermark.", MarkWords.Said("site", "", ForWhom.Everyone, []));
    }

    [Fact]
    public void The_name_of_a_picture_says_its_watermark_and_no_other_text_is_one()
    {
        var (hash, key, mark) = (new string('a', 64), new string('b', 16), new string('c', 16));
        foreach (var text in (string[])[hash, $"{hash}-{key}", $"{hash}-w{mark}", $"{hash}-{key}-w{mark}"])
        {
            Assert.True(PictureName.TryRead(text, out var name));
            Assert.Equal((text, text.Contains('b') ? key : "", text.Contains('w') ? mark : ""), (name.ToString(), name.Key, name.Mark));
            Assert.Equal(text.Replace($"-w{mark}", "", StringComparison.Ordinal), name.Unmarked.ToString());
        }

        foreach (var text in (string?[])[null, "", hash[1..], $"{hash}-w", $"{hash}-w{mark}0", $"{hash}-w{mark}-{key}", $"{hash}-W{mark}", $"{hash}w{mark}", $"{hash}--w{mark}", $"{hash}-{key}{mark}", $"{hash}-w{mark}-w{mark}", $"../{hash[3..]}-w{mark}"])
        {
            Assert.False(PictureName.TryRead(text, out _), $"{text} is taken for a name");
        }
    }
}
