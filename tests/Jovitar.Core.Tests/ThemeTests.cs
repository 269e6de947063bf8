using CsCheck;
using Jovitar.Core.Layout;
using Jovitar.Core.Pages;
using Jovitar.Core.Themes;

namespace Jovitar.Core.Tests;

/// <summary>Themes: that those which ship can be read, differ truly, and give way to what is set otherwise.</summary>
public sealed class ThemeTests
{
    static readonly Gen<string> Colours = Gen.Select(Gen.Byte, Gen.Byte, Gen.Byte).Select((r, g, b) => new Colour(r, g, b).ToString());

    public static TheoryData<ThemeName> Names => [.. Enum.GetValues<ThemeName>()];

    [Theory]
    [MemberData(nameof(Names))]
    public void Every_theme_that_ships_reads_well_by_day_and_by_night(ThemeName name)
    {
        var look = Look.Of(name);
        Assert.All(new[] { look.Light, look.Dark }, palette =>
        {
            Assert.Empty(palette.Unreadable());
            var ground = Colour.Parse(palette.Ground)!.Value;
            Assert.True(Colour.Contrast(palette.Quiet(), ground) >= 4.5, $"quiet words {palette.Quiet()} on {ground}");
            // A button's words are the ground's colour on the accent.
            Assert.True(Colour.Contrast(Colour.Parse(palette.Accent)!.Value, ground) >= 4.5);
        });
        Assert.False(look.Light.IsDark());
        Assert.True(look.Dark.IsDark());
    }

    /// <summary>No two are one another in other colours: of type, corners, shapes, head and weight at least three differ.</summary>
    [Fact]
    public void No_theme_is_a_recoloured_other()
    {
        var looks = Enum.GetValues<ThemeName>().Select(n => (Name: n, Look: Look.Of(n))).ToArray();
        foreach (var (one, other) in looks.SelectMany((a, i) => looks[(i + 1)..].Select(b => (a, b))))
        {
            bool[] differs =
            [
                one.Look.Headings != other.Look.Headings, one.Look.Words != other.Look.Words, one.Look.Corners != other.Look.Corners, one.Look.Choices != other.Look.Choices,
                one.Look.Head != other.Look.Head, one.Look.LineWidth != other.Look.LineWidth, one.Look.Heading.Capitals != other.Look.Heading.Capitals, Math.Abs(one.Look.Heading.Scale - other.Look.Heading.Scale) > 0.1,
            ];
            Assert.True(differs.Count(d => d) >= 3, $"{one.Name} and {other.Name}");
        }
    }

    [Fact]
    public void At_least_eight_families_ship_each_under_a_name_of_its_own()
    {
        var faces = Enum.GetValues<TypeFamily>().Select(f => f.Face()).ToArray();
        Assert.True(faces.Length >= 8);
        Assert.Equal(faces.Length, faces.Select(f => f.Slug).Distinct().Count());
        Assert.Equal(faces.Length, faces.Select(f => f.Name).Distinct().Count());
    }

    [Fact]
    public void What_is_set_otherwise_stands_and_all_else_is_the_themes() =>
        Gen.Select(Gen.Int[0, 5].Select(n => (ThemeName)n), Colours, Gen.Bool, Gen.Bool).Sample((name, colour, dark, part) =>
        {
            var own = Look.Of(name);
            var change = part ? PaletteChange.None with { Ground = colour } : PaletteChange.None with { Accent = colour };
            var theme = dark ? Theme.Of(name) with { Dark = change } : Theme.Of(name) with { Light = change };
            var look = theme.Look();
            var (changed, kept) = dark ? (look.Dark, look.Light) : (look.Light, look.Dark);
            Assert.Equal(dark ? own.Light : own.Dark, kept);
            Assert.Equal(colour, part ? changed.Ground : changed.Accent);
            Assert.Equal((dark ? own.Dark : own.Light).Text, changed.Text);
            Assert.Equal(own with { Light = look.Light, Dark = look.Dark }, look);
            Assert.Equal(own, Theme.Of(name).Look());
        });

    static Gen<T?> Perhaps<T>(Gen<T> gen) where T : struct => Gen.Bool.SelectMany(said => said ? gen.Select(v => (T?)v) : Gen.Const((T?)null));

    static Gen<T?> Maybe<T>(Gen<T> gen) where T : class => Gen.Bool.SelectMany(said => said ? gen.Select(v => (T?)v) : Gen.Const((T?)null));

    static readonly Gen<PaletteChange> Palettes = Gen.Select(Maybe(Colours), Maybe(Colours), Maybe(Colours), Maybe(Colours)).Select(p => new PaletteChange(p.Item1, p.Item2, p.Item3, p.Item4));

    static readonly Gen<LookChange> Changes = Gen.Select(
        Gen.Select(Palettes, Palettes), Gen.Select(Perhaps(Gen.Int[0, 8].Select(n => (TypeFamily)n)), Perhaps(Gen.Int[0, 8].Select(n => (TypeFamily)n))),
        Maybe(Gen.Int[-9, 99].Select(n => new Corners(n, 0, 3, n))), Perhaps(Gen.Int[0, 2].Select(n => (ChoiceShape)n)),
        Gen.Select(Perhaps(Gen.Int[-9, 99]), Perhaps(Gen.Int[-9, 99]), Perhaps(Gen.Int[0, 2].Select(n => (Shadow)n)), Perhaps(Gen.Int[0, 1].Select(n => (ViewerGround)n))))
        .Select(c => new LookChange(c.Item1.Item1, c.Item1.Item2, c.Item2.Item1, c.Item2.Item2, c.Item3, c.Item4, c.Item5.Item1, c.Item5.Item2, c.Item5.Item3, c.Item5.Item4));

    [Fact]
    public void Of_any_number_of_levels_the_lowest_that_says_something_holds_and_the_theme_says_the_rest() =>
        Gen.Select(Gen.Int[0, 5].Select(n => (ThemeName)n), Changes.Array[0, 4]).Sample((name, levels) =>
        {
            var own = Look.Of(name);
            var look = levels.Aggregate(own, (above, level) => level.On(above));
            Palette Colours(Palette theme, Func<LookChange, PaletteChange> of) => new(
                levels.Select(l => of(l).Ground).LastOrDefault(c => c is not null) ?? theme.Ground, levels.Select(l => of(l).Text).LastOrDefault(c => c is not null) ?? theme.Text,
                levels.Select(l => of(l).Accent).LastOrDefault(c => c is not null) ?? theme.Accent, levels.Select(l => of(l).Line).LastOrDefault(c => c is not null) ?? theme.Line);
            T Last<T>(Func<LookChange, T?> of, T theme) where T : struct => levels.Select(of).LastOrDefault(v => v is not null) ?? theme;
            Assert.Equal(
                own with
                {
                    Light = Colours(own.Light, l => l.Light),
                    Dark = Colours(own.Dark, l => l.Dark),
                    Headings = Last(l => l.Headings, own.Headings),
                    Words = Last(l => l.Words, own.Words),
                    Corners = levels.Select(l => l.Corners).LastOrDefault(c => c is not null) ?? own.Corners,
                    Choices = Last(l => l.Choices, own.Choices),
                    Edge = Last(l => l.Edge, own.Edge),
                    Gap = Last(l => l.Gap, own.Gap),
                    Shadow = Last(l => l.Shadow, own.Shadow),
                    Viewer = Last(l => l.Viewer, own.Viewer),
                },
                look);
            Assert.All(levels, level =>
            {
                var bounded = level.Bounded();
                Assert.True(bounded.Edge is null or (>= 0 and <= LookChange.WidestEdge));
                Assert.True(bounded.Gap is null or (>= 0 and <= LayoutSettings.LargestGap));
                Assert.Equal((level.Edge is null, level.Gap is null), (bounded.Edge is null, bounded.Gap is null));
                Assert.Equal(bounded, bounded.Bounded());
                Assert.Equal(level with { Corners = null, Edge = null, Gap = null }, bounded with { Corners = null, Edge = null, Gap = null });
            });
        });

    [Fact]
    public void A_block_says_what_stands_in_it_and_leaves_the_rest_to_its_page() =>
        Gen.Select(Gen.Int[0, 5].Select(n => (ThemeName)n), Changes).Sample((name, change) =>
        {
            var text = new TextBlock(new BlockId(new Guid(1, 1, 1, new byte[8])), BlockFrame.Usual with { Look = change }, "Words");
            var own = text.Bounded().Frame.Look;
            var (page, look) = (Look.Of(name), own.On(Look.Of(name)));
            Assert.Equal((page.Light.Ground, page.Dark.Ground, page.Gap, page.Viewer), (look.Light.Ground, look.Dark.Ground, look.Gap, look.Viewer));
            Assert.Equal(change.Bounded().On(page), look with { Light = change.Light.On(page.Light), Dark = change.Dark.On(page.Dark), Gap = change.Bounded().Gap ?? page.Gap, Viewer = change.Viewer ?? page.Viewer });
            Assert.Equal(page with { Light = look.Light, Dark = look.Dark }, page with { Light = change.Light.On(page.Light) with { Ground = page.Light.Ground }, Dark = change.Dark.On(page.Dark) with { Ground = page.Dark.Ground } });
            // What holds blocks side by side has no look: each of them has.
            var beside = Assert.IsType<BesideBlock>(new BesideBlock(text.Id, text.Frame, [text]).Bounded());
            Assert.Equal((LookChange.None, own), (beside.Frame.Look, beside.Blocks[0].Frame.Look));
            Assert.Equal((PaletteChange.None, PaletteChange.None, own.Edge), (own.WithoutColours().Light, own.WithoutColours().Dark, own.WithoutColours().Edge));
        });

    [Fact]
    public void A_colour_of_a_block_that_is_none_is_a_fault_of_that_block()
    {
        var text = new TextBlock(new BlockId(new Guid(1, 1, 1, new byte[8])), BlockFrame.Usual with { Look = LookChange.None with { Light = PaletteChange.None with { Text = "red" } } }, "Words");
        Assert.Equal(Colour.Unknown, PageContent.FaultOf(text));
        Assert.Null(PageContent.FaultOf(text with { Frame = BlockFrame.Usual }));
    }

    [Fact]
    public void Photos_stand_as_far_apart_as_the_look_has_them_unless_their_layout_says_otherwise() =>
        Gen.Select(Gen.Enum<LayoutKind>(), Gen.Enum<LayoutKind>(), Perhaps(Gen.Int[0, 80]), Gen.Int[0, 80]).Sample((kind, other, said, gap) =>
        {
            var layout = BlockLayout.Of(kind, 200, said).Spaced(gap);
            // Slides have no measures but those of a strip; a list says its own from the start.
            int Of(LayoutKind of) => of switch
            {
                LayoutKind.Slides => Of(LayoutKind.Strip),
                _ when of == kind => said ?? gap,
                LayoutKind.List => 24,
                _ => gap,
            };
            Assert.All(Enum.GetValues<Device>(), d => Assert.Equal((Of(kind), Of(other)), (layout.For(d).Gap, (layout with { Kind = other }).For(d).Gap)));
            Assert.Equal(layout, layout.Spaced(80 - gap));
        });

    [Fact]
    public void What_cannot_be_read_is_named_with_the_nearest_colour_that_can() =>
        Gen.Select(Colours, Colours, Colours).Sample((ground, text, accent) =>
        {
            var palette = new Palette(ground, text, accent, "#000000");
            var behind = Colour.Parse(ground)!.Value;
            PalettePart[] expected = [.. new[] { (PalettePart.Text, text), (PalettePart.Accent, accent) }.Where(p => Colour.Contrast(Colour.Parse(p.Item2)!.Value, behind) < 4.5).Select(p => p.Item1)];
            var faults = palette.Unreadable();
            Assert.Equal(expected, faults.Select(f => f.Part));
            Assert.All(faults, f => Assert.True(f.Nearest is null || Colour.Contrast(Colour.Parse(f.Nearest)!.Value, behind) >= 4.5));
            // Words of less weight never read worse than is asked for, where words of full weight do not either.
            Assert.True(faults.Any(f => f.Part == PalettePart.Text) || Colour.Contrast(palette.Quiet(), behind) >= 4.5);
        });

    [Fact]
    public void Only_what_visitors_may_see_counts()
    {
        var look = (Theme.Usual with { Dark = PaletteChange.None with { Text = "#202020" } }).Look();
        Assert.Equal([false], look.Seen().Select(s => s.Dark));
        Assert.Equal([true], (look with { Scheme = Scheme.Dark }).Seen().Select(s => s.Dark));
        Assert.Equal([false, true], (look with { Scheme = Scheme.Device }).Seen().Select(s => s.Dark));
    }

    [Fact]
    public void Corners_are_brought_into_their_range_and_what_is_no_colour_is_refused()
    {
        Assert.Equal(new Corners(0, 60, 5, 60), (Theme.Usual with { Corners = new Corners(-4, 900, 5, 60) }).Bounded().Corners);
        Assert.Null(Theme.Usual.Fault());
        foreach (var bad in (string[])["", "red", "#fff", "#1234567", "#16161g"])
        {
            Assert.Equal(Colour.Unknown, (Theme.Usual with { Light = PaletteChange.None with { Line = bad } }).Fault());
            Assert.Equal(Colour.Unknown, (Theme.Usual with { Dark = PaletteChange.None with { Ground = bad } }).Fault());
        }
    }
}
