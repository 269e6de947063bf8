using System.Globalization;
using Jovitar.Core;
using Jovitar.Core.Pages;
using Jovitar.Core.Themes;
using Jovitar.Server.Access;

namespace Jovitar.Server.Site.Drawing;

/// <summary>A page with what a visitor chose on it, and the style sheets that place its photos.</summary>
public sealed class DrawnPage
{
    readonly Dictionary<int, (Narrowed View, LayoutStyle? Style)> walks = [];

    /// <param name="basePath">Where it is, with or without visitors.</param>
    /// <param name="viewAddress">Where the script asks for other parts of a walk; null where it usually does.</param>
    public DrawnPage(SitePage page, Choices choices, string basePath, bool draft, string? viewAddress = null)
    {
        (Page, BasePath, Draft, Choices) = (page, basePath, draft, choices);
        ViewAddress = viewAddress ?? (draft ? $"{basePath}/view" : $"{SiteAddress.View}{page.Path}");
        foreach (var walk in page.Walks)
        {
            // What can be chosen of what was asked for stands in all links.
            Choices = new Narrowed(walk, Choices, basePath, draft).Choices;
        }

        foreach (var block in page.All)
        {
            switch (block)
            {
                case SitePhotosBlock photos:
                    var view = new Narrowed(photos.Walk, Choices, basePath, draft);
                    walks[photos.Walk.Number] = (view, LayoutStyle.Of(view, photos.Place));
                    break;
                case SitePhotoBlock { Walk: { } walk }:
                    walks[walk.Number] = (new Narrowed(walk, Choices, basePath, draft), null);
                    break;
            }
        }

        // What is drawn by lot has the shape of the cover, whichever photo it is: nothing moves when it comes.
        var alone = page.All.OfType<SitePhotoBlock>().Where(b => b is { Walk.ByLot: true, Photo: not null })
            .Select(b => string.Create(CultureInfo.InvariantCulture, $"#w{b.Walk!.Number}{{aspect-ratio:{b.Photo!.Width}/{b.Photo.Height}}}"));
        Css = string.Concat([.. walks.Values.Select(w => w.Style?.Css), .. alone, .. page.All.OfType<SiteBand>().Select(b => GroundStyle(b.On))]);
        First = page.All.FirstOrDefault(b => b is SitePhotosBlock { Walk.Photos.Count: > 0 } or SitePhotoBlock { Photo: not null } or SiteBand { On.Photo: not null } or SiteCovers) switch
        {
            SitePhotosBlock photos => photos.Walk.Number,
            SitePhotoBlock photo => photo.Walk?.Number,
            _ => null,
        };
        var onGround = page.All.OfType<SiteBand>().SelectMany(b => b.All).Select(b => b.Id).ToHashSet();
        Looks = [.. page.All.Where(b => b is not SiteBand and not SiteBeside && b.Place.Frame.Look != LookChange.None).Select((b, i) => new BlockLook(b.Id, $"b{i + 1}", onGround.Contains(b.Id) ? b.Place.Frame.Look.WithoutColours() : b.Place.Frame.Look))];
        // What has more of them stand there does so by a script; without one they stand on further pages.
        Without = string.Concat([.. walks.Values.Select(w => w.Style?.Without), page.Walks.Any(w => w.More.By == MoreBy.Button) ? "main .more{display:none}" : ""]);
    }

    public SitePage Page { get; }

    public string BasePath { get; }

    public bool Draft { get; }

    public Choices Choices { get; }

    public string Css { get; }

    /// <summary>The blocks that look otherwise than the page.</summary>
    public IReadOnlyList<BlockLook> Looks { get; }

    /// <summary>For browsers in which no script runs.</summary>
    public string Without { get; }

    /// <summary>Where videos lie that are none of ours: what the page may load from there (CSP level 3, host-source).</summary>
    public IReadOnlyList<string> Elsewhere => [.. Page.All.OfType<SiteVideo>().Select(v => v.Elsewhere).OfType<Uri>().Select(u => u.IsDefaultPort ? $"https://{u.IdnHost}" : $"https://{u.IdnHost}:{u.Port}").Distinct()];

    /// <summary>The sources that a Content-Security-Policy must name for the sheets (CSP level 3, hash-source).</summary>
    public string CspSources => string.Join(' ', new[] { Css, Without }.Where(s => s.Length > 0).Select(Security.StyleSource));

    public Narrowed View(Walk walk) => walks[walk.Number].View;

    public LayoutStyle Style(Walk walk) => walks[walk.Number].Style!;

    /// <summary>The number of the walk whose first photo is the first picture of the page; null where a photo behind words, or a cover, is.</summary>
    public int? First { get; }

    /// <summary>Where the script asks for other parts of a walk.</summary>
    public string ViewAddress { get; }

    static string GroundStyle(SiteGround ground)
    {
        var (number, over) = (ground.Number, ground.Over);
        var behind = ground.Photo is null ? Colour.Parse(ground.Ground.Colour) ?? Colour.Paper : over.Veil;
        var veil = ground.Photo is null ? "" : string.Create(CultureInfo.InvariantCulture, $"#g{number}>.veil{{background:{over.Veil};opacity:{ground.Ground.Veil / 100.0}}}");
        return $"#g{number}{{--ink:{over.Words};--behind:{behind}}}{veil}";
    }

    /// <summary>Names a block for the workroom, which finds it on the page by that; visitors need no names.</summary>
    public string? Name(BlockId id) => Draft ? id.ToString() : null;
}
