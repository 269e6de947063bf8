using System.Xml.Linq;
using CsCheck;
using Jovitar.Core.Access;
using Jovitar.Core.Clearance;
using Jovitar.Core.Pages;

namespace Jovitar.Core.Tests;

/// <summary>Drawings that owners bring for signs, and who may save what.</summary>
public sealed class SignTests
{
    static readonly string[] Elements = ["svg", "g", "path", "circle", "rect", "script", "foreignObject", "image", "use", "style", "a", "animate", "set", "text", "title", "iframe", "symbol", "defs", "SCRIPT"];

    static readonly string[] Attributes =
    [
        "onload", "onclick", "href", "style", "class", "id", "d", "points", "x", "width", "height", "viewBox", "fill", "stroke", "transform", "r", "begin", "attributeName", "filter", "mask", "tabindex",
        "stroke-width",
    ];

    static readonly string[] Values =
    [
        "javascript:alert(1)", "url(https://elsewhere.example/x.svg#y)", "M0 0L9 9", "10", "red", "none", "url(#a)", "\"/><script>alert(1)</script>", "rotate(45)", "translate(1 2) url(x)", "expression(alert(1))", "&quot;",
        "0 0 24 24", "1e400", "currentColor", "data:text/html,x",
    ];

    static readonly HashSet<string> Drawn = ["svg", "g", "path", "circle", "ellipse", "rect", "line", "polyline", "polygon"];

    static Gen<string> Of(string[] all) => Gen.Int[0, all.Length - 1].Select(i => all[i]);

    static readonly Gen<XElement> Trees = Gen.Recursive<XElement>((depth, inner) =>
        Gen.Select(Of(Elements), Gen.Select(Of(Attributes), Of(Values)).Array[0, 6], depth > 3 ? Gen.Const(Array.Empty<XElement>()) : inner.Array[0, 4], Gen.Bool)
            .Select((name, attributes, children, plain) => new XElement(
                plain ? name : XNamespace.Get("http://www.w3.org/2000/svg") + name,
                attributes.DistinctBy(a => a.Item1).Select(a => new XAttribute(a.Item1, a.Item2)), children, new XText("words"))));

    [Fact]
    public void Whatever_is_brought_only_shapes_come_through_and_cleaning_once_is_enough() =>
        Trees.Array[1, 4].Sample(inner =>
        {
            XNamespace svg = "http://www.w3.org/2000/svg";
            var drawing = new XElement(svg + "svg", new XAttribute("viewBox", "0 0 24 24"), new XAttribute("onload", "alert(1)"), inner, new XElement(svg + "path", new XAttribute("d", "M1 1h9"))).ToString();
            if (SignDrawing.Clean(drawing) is not { } clean)
            {
                // Too long, or too many shapes.
                Assert.True(drawing.Length > SignDrawing.Longest || inner.Sum(i => i.DescendantsAndSelf().Count()) > 150);
                return;
            }

            var read = XElement.Parse(clean);
            Assert.All(read.DescendantsAndSelf(), e => Assert.Contains(e.Name.ToString(), Drawn));
            Assert.DoesNotContain(read.DescendantNodes(), n => n is XText);
            Assert.All(read.DescendantsAndSelf().Attributes(), a =>
            {
                Assert.DoesNotContain(a.Name.LocalName, (string[])["onload", "onclick", "href", "style", "class", "id", "filter", "mask", "begin", "tabindex"]);
                Assert.DoesNotMatch("[:<>\"'&]|url|script|alert", a.Value);
                Assert.True(a.Name.LocalName is not ("fill" or "stroke") || a.Value is "none" or "currentColor");
            });
            Assert.Equal(clean, SignDrawing.Clean(clean));
        });

    [Theory]
    [InlineData("<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"24px\" height=\"16\"><g transform=\"rotate(45)\"><path d=\"M0 0h9\" fill=\"#f00\" stroke-linecap=\"round\"/></g></svg>", "<svg viewBox=\"0 0 24 16\"><g transform=\"rotate(45)\"><path d=\"M0 0h9\" fill=\"currentColor\" stroke-linecap=\"round\"/></g></svg>")]
    [InlineData("<?xml version=\"1.0\"?><!DOCTYPE svg PUBLIC \"-//W3C//DTD SVG 1.1//EN\" \"http://www.w3.org/Graphics/SVG/1.1/DTD/svg11.dtd\"><svg viewBox=\"0,0,8,8\" fill=\"none\"><!-- made --><circle cx=\"4\" cy=\"4\" r=\"3\" style=\"fill:url(x)\"/></svg>", "<svg viewBox=\"0 0 8 8\" fill=\"none\"><circle cx=\"4\" cy=\"4\" r=\"3\"/></svg>")]
    [InlineData("<svg viewBox=\"0 0 8 8\"><script>alert(1)</script></svg>", null)]
    [InlineData("<svg><path d=\"M0 0h9\"/></svg>", null)]
    [InlineData("<svg viewBox=\"0 0 0 8\"><path d=\"M0 0h9\"/></svg>", null)]
    [InlineData("<html viewBox=\"0 0 8 8\"><path d=\"M0 0h9\"/></html>", null)]
    [InlineData("<!DOCTYPE svg [<!ENTITY x \"M0 0\">]><svg viewBox=\"0 0 8 8\"><path d=\"&x;\"/></svg>", null)]
    [InlineData("no drawing", null)]
    public void A_drawing_is_reduced_to_its_shapes(string brought, string? clean) => Assert.Equal(clean, SignDrawing.Clean(brought));

    [Fact]
    public void What_is_no_drawing_is_refused_with_a_sentence_and_what_is_kept_is_clean()
    {
        PressSettings With(string drawing) => PressSettings.Usual with { Drawing = drawing, Words = [PhotoWord.Credit, PhotoWord.Title, PhotoWord.Credit] };
        Assert.Null(With("").Fault());
        Assert.Contains("no drawing", With("<svg/>").Fault(), StringComparison.Ordinal);
        Assert.Contains("20 KB", With(new string('x', SignDrawing.Longest + 1)).Fault(), StringComparison.Ordinal);
        var kept = With("<svg viewBox=\"0 0 8 8\" onload=\"x()\"><path d=\"M0 0\" onclick=\"y()\"/></svg>").Whole();
        Assert.Equal(("<svg viewBox=\"0 0 8 8\"><path d=\"M0 0\"/></svg>", 2), (kept.Drawing, kept.Words.Count));
    }

    [Fact]
    public void A_drawing_that_cleaning_makes_longer_than_may_be_is_none()
    {
        // Every colour is written out as that of the sign.
        var shapes = string.Concat(Enumerable.Repeat("<path d=\"M0 0\" fill=\"red\" stroke=\"red\"/>", 199));
        string Of(string more) => $"<svg viewBox=\"0 0 9 9\">{shapes}<path d=\"{more}\"/></svg>";
        var clean = SignDrawing.Clean(Of("M0 0"))!;
        Assert.Equal(clean, SignDrawing.Clean(clean));
        var most = new string(' ', SignDrawing.Longest - clean.Length) + "M0 0";
        Assert.Equal(SignDrawing.Longest, SignDrawing.Clean(Of(most))!.Length);
        Assert.True(Of(most + "h1").Length < SignDrawing.Longest);
        Assert.Null(SignDrawing.Clean(Of(most + "h1")));
    }

    [Theory]
    [InlineData(PressTo.Viewer, "https://x.example", "/album/a", PressTo.Viewer, null)]
    [InlineData(PressTo.Nothing, "https://x.example", "/album/a", PressTo.Nothing, null)]
    [InlineData(PressTo.Link, "https://x.example", null, PressTo.Link, "https://x.example")]
    [InlineData(PressTo.Link, "", "/album/a", PressTo.Viewer, null)]
    [InlineData(PressTo.Link, "javascript:alert(1)", null, PressTo.Viewer, null)]
    [InlineData(PressTo.Album, "https://x.example", "/album/a", PressTo.Album, "/album/a")]
    [InlineData(PressTo.Album, "https://x.example", null, PressTo.Viewer, null)]
    public void A_press_opens_a_photo_that_has_nothing_to_lead_to(PressTo set, string own, string? album, PressTo does, string? leads) =>
        Assert.Equal((does, leads), (PressSettings.Usual with { To = set }).Of(own, album));

    [Fact]
    public void Visitors_save_what_they_see_where_it_is_offered_and_nothing_else() =>
        Gen.Select(Gen.Enum<PhotoState>(), Gen.Bool, Gen.Bool, Gen.Int[0, 2], Gen.Enum<Saving>()).Sample((state, left, binned, pages, offered) =>
        {
            var photo = new PhotoThing(state, left, binned, new ShownOn(pages), PhotoClearance.Nothing);
            var now = DateTimeOffset.UnixEpoch;
            var sees = Access.Access.Decide(Viewer.Nobody, Right.See, photo, now).Allowed;
            var saves = Access.Access.Decide(Viewer.Nobody, Right.Save, new PhotoToSave(photo, offered), now);
            Assert.Equal(sees && offered != Saving.Nothing, saves.Allowed);
            Assert.NotEmpty(saves.Reasons);
            // The photo alone says nothing of saving, and being offered makes nothing visible.
            Assert.False(Access.Access.Decide(Viewer.Nobody, Right.Save, photo, now).Allowed);
            Assert.False(Access.Access.Decide(Viewer.Nobody, Right.See, new PhotoToSave(photo, offered), now).Allowed);
        });
}
