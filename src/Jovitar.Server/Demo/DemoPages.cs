using System.Globalization;
using Jovitar.Core;
using Jovitar.Core.Albums;
using Jovitar.Core.Layout;
using Jovitar.Core.Pages;
using Jovitar.Core.Themes;
using Jovitar.Server.Acts;
using Jovitar.Server.Pages;

namespace Jovitar.Server.Demo;

/// <summary>A page of the scenario.</summary>
/// <param name="Album">The album it was made for; null for none.</param>
/// <param name="Posted">The day that it is a post of; null for a page that is none.</param>
internal sealed record DemoPage(string Title, string Address, string? Album, string Description, bool Published, DateOnly? Posted, IReadOnlyList<DemoBlock> Blocks)
{
    public bool Wide { get; init; }

    public DemoLook? Look { get; init; }
}

/// <summary>What of the look is otherwise on a page or in a block, its colours in light.</summary>
internal sealed record DemoLook(string? Ground, string? Text, string? Accent, string? Line, ViewerGround? Viewer, TypeFamily? Headings, int? Edge, Shadow? Shadow);

/// <summary>A file that visitors may save, by its name.</summary>
internal sealed record DemoOffer(string File, string Words);

/// <summary>What lies behind a block.</summary>
/// <param name="File">The photo that lies behind the block; a colour does, where none is named, or, where neither is, what lies behind the block above.</param>
internal sealed record DemoGround(string? File, string? Colour, int Veil = 35, GroundHeight Height = GroundHeight.Content);

/// <param name="Of">A category or a tag; null for each album that is joined.</param>
internal sealed record DemoButton(string? Of = null, string Words = "");

internal sealed record DemoGroup(IReadOnlyList<DemoButton> Buttons, string Words = "", bool One = false);

/// <summary>The filter bar of a block.</summary>
internal sealed record DemoBar(IReadOnlyList<DemoGroup> Groups)
{
    public BlockAlign Align { get; init; } = BlockAlign.Left;

    public IReadOnlyList<Device> Folded { get; init; } = [];

    public string AllWords { get; init; } = "";

    /// <summary>What visitors' words are looked for in.</summary>
    public IReadOnlyList<SearchField> Search { get; init; } = [];

    public IReadOnlyList<BarOrder> Orders { get; init; } = [];
}

/// <summary>A block of a page, with what its kind needs; things go by their names, photos by their files.</summary>
internal sealed record DemoBlock(string Kind)
{
    public string Words { get; init; } = "";

    public HeadingSize Rank { get; init; } = HeadingSize.Large;

    public BlockWidth Width { get; init; } = BlockWidth.Full;

    public BlockAlign Align { get; init; } = BlockAlign.Left;

    public DemoGround? Ground { get; init; }

    public DemoLook? Look { get; init; }

    public IReadOnlyList<DemoBlock> Blocks { get; init; } = [];

    public SourceKind? Source { get; init; }

    public IReadOnlyList<string> Albums { get; init; } = [];

    public IReadOnlyList<string> Files { get; init; } = [];

    public string? Tag { get; init; }

    public string? Category { get; init; }

    public int? Most { get; init; }

    public bool ByLot { get; init; }

    public LayoutKind Layout { get; init; }

    public int Size { get; init; } = 260;

    /// <summary>Null for as far apart as the look has them.</summary>
    public int? Gap { get; init; }

    public StripHeight Height { get; init; }

    public SlideTurn Turn { get; init; }

    /// <summary>Of the slides' frame, as 16:9.</summary>
    public string? Ratio { get; init; }

    public bool Fills { get; init; }

    public Pace Pace { get; init; }

    public bool Loops { get; init; }

    public DemoBar? Bar { get; init; }

    /// <summary>Photos that a phone does not show.</summary>
    public IReadOnlyList<string> NotOnPhone { get; init; } = [];

    /// <summary>How more of them come; null for as usual.</summary>
    public MoreBy? More { get; init; }

    /// <summary>The words with photos; null for as usual.</summary>
    public DemoWords? Told { get; init; }

    /// <summary>What a touch does; null for as usual.</summary>
    public DemoTouch? Touch { get; init; }

    /// <summary>What a press on one of many photos does.</summary>
    public PressTo PressTo { get; init; }

    /// <summary>When a sign says so.</summary>
    public SignWhen Sign { get; init; }

    /// <summary>In what form visitors may save them.</summary>
    public Saving Save { get; init; }

    /// <summary>So many of them at a time.</summary>
    public int Step { get; init; } = Core.Pages.More.Usual.Step;

    public string? File { get; init; }

    public string? Album { get; init; }

    public string Line { get; init; } = "";

    public PhotoPress Press { get; init; }

    public IndexKind Of { get; init; }

    public int Across { get; init; } = 3;

    public bool Descriptions { get; init; }

    public string? Page { get; init; }

    public string Link { get; init; } = "";

    public bool Hairline { get; init; }

    /// <summary>A sound or a video, by its name.</summary>
    public string? Clip { get; init; }

    public VideoShape Shape { get; init; }

    public IReadOnlyList<DemoOffer> Offers { get; init; } = [];

    public string Name { get; init; } = "";

    public string Where { get; init; } = "";

    public string Phone { get; init; } = "";

    public string Mail { get; init; } = "";
}

/// <summary>An entry of the scenario's menu.</summary>
internal sealed record DemoEntry(string? Page, string? Category)
{
    public string Words { get; init; } = "";

    public IReadOnlyList<DemoEntry> Entries { get; init; } = [];
}

/// <summary>Makes the scenario's pages and its menu.</summary>
/// <param name="albums">By their working names.</param>
/// <param name="photos">By their file names.</param>
/// <param name="files">By their names.</param>
internal sealed class DemoPages(
    PageStore pages, VersionStore versions, MenuStore menus, Actor owner, IReadOnlyDictionary<string, AlbumId> albums, IReadOnlyDictionary<string, PhotoId> photos, IReadOnlyDictionary<string, FileId> files,
    IReadOnlyDictionary<string, CategoryId> categories, IReadOnlyDictionary<string, TagId> tags)
{
    readonly Dictionary<string, PageId> made = [];

    /// <summary>Makes all pages, then what is on them, for they lead to one another.</summary>
    public async Task MakeAsync(IReadOnlyList<DemoPage> scenario, CancellationToken ct)
    {
        var known = (await pages.ListAsync(ct)).ToDictionary(p => p.Address, p => p.Id);
        foreach (var page in scenario)
        {
            if (known.TryGetValue(page.Address, out var there))
            {
                made[page.Address] = there;
                continue;
            }

            made[page.Address] = (await pages.MakeAsync(owner, page.Album is { } album ? albums[album] : null, page.Title, ct))!.Value;
        }

        foreach (var page in scenario.Where(p => !known.ContainsKey(p.Address)))
        {
            var id = made[page.Address];
            if (PageAddress.TryParse(page.Address, out var address, out _))
            {
                var content = PageContent.Made(page.Title, page.Description, [.. page.Blocks.Select(Of)]) with { Posted = page.Posted, Wide = page.Wide, Look = Of(page.Look) };
                await pages.EditAsync(owner, id, address, content, (await pages.FindAsync(id, ct))!.Edited, null, over: false, ct);
            }
        }

        // The first of them last, so that it is the latest of an index of pages.
        foreach (var page in scenario.Where(p => p.Published && !known.ContainsKey(p.Address)).Reverse())
        {
            await versions.PublishAsync(owner, made[page.Address], (await pages.FindAsync(made[page.Address], ct))!.Edited, ct);
        }
    }

    public async Task MakeAsync(IReadOnlyList<DemoEntry> menu, CancellationToken ct)
    {
        var now = await menus.ReadAsync(ct);
        if (now.Entries.Count == 0)
        {
            await menus.WriteAsync(owner, new Menu([.. menu.Select(Of)]), now.Edited, ct);
        }
    }

    static BlockId NewId() => new(Guid.CreateVersion7());

    MenuEntry Of(DemoEntry entry) => new(
        NewId(), entry.Words,
        entry.Page is { } page ? new LinkTo(LinkKind.Page, made[page].Value, "") : entry.Category is { } category ? new LinkTo(LinkKind.Category, categories[category].Value, "") : LinkTo.Nowhere,
        [.. entry.Entries.Select(Of)]);

    static LookChange Of(DemoLook? look) => look is null
        ? LookChange.None
        : LookChange.None with { Light = new PaletteChange(look.Ground, look.Text, look.Accent, look.Line), Viewer = look.Viewer, Headings = look.Headings, Edge = look.Edge, Shadow = look.Shadow };

    Ground GroundOf(DemoBlock block) => block.Ground switch
    {
        null => Ground.None,
        { File: { } file } photo => Ground.None with { Kind = GroundKind.Photo, Photo = photos[file], Veil = photo.Veil, Height = photo.Height },
        { Colour: { } said } colour => Ground.None with { Kind = GroundKind.Colour, Colour = said, Height = colour.Height },
        _ => Ground.None with { Kind = GroundKind.AsAbove },
    };

    Block Of(DemoBlock block)
    {
        var frame = new BlockFrame(block.Width, block.Align, GroundOf(block), Of(block.Look));
        return block.Kind switch
        {
            "heading" => new HeadingBlock(NewId(), frame, block.Words, block.Rank),
            "text" => new TextBlock(NewId(), frame, block.Words),
            "photo" => new PhotoBlock(
                NewId(), frame, block.File is { } file ? photos[file] : null, block.Album is { } album ? albums[album] : null, block.Line, block.Press, LinkTo.Nowhere, block.ByLot),
            "photos" => new PhotosBlock(
                NewId(), frame, SourceOf(block), LayoutOf(block),
                block.Bar is { } bar ? BarOf(bar) : BarSettings.None,
                new Absent([.. block.NotOnPhone.Select(f => photos[f])], [], []), block.More is { } more ? new More(more, block.Step) : More.Usual,
                PressSettings.Usual with { To = block.PressTo, Sign = block.Sign, Save = block.Save },
                block.Told?.Made() ?? FrameWords.Usual, block.Touch?.Made() ?? FrameTouch.Usual),
            "index" => new IndexBlock(
                NewId(), frame, block.Of, block.Category is { } category ? categories[category] : null, Beneath: true, [.. block.Albums.Select(a => albums[a])], IndexSort.Newest, block.Most, block.Across,
                Dates: true, Counts: true, block.Descriptions),
            "button" => new ButtonBlock(NewId(), frame, block.Words, block.Page is { } page ? new LinkTo(LinkKind.Page, made[page].Value, "") : new LinkTo(LinkKind.Address, null, block.Link)),
            "video" => new VideoBlock(NewId(), frame, VideoFrom.File, files[block.Clip!], "", block.Shape, block.File is { } still ? photos[still] : null, block.Line),
            "sound" => new SoundBlock(NewId(), frame, files[block.Clip!], block.Line),
            "files" => new FilesBlock(NewId(), frame, [.. block.Offers.Select(o => new OfferedFile(files[o.File], o.Words))]),
            "contact" => new ContactBlock(NewId(), frame, block.Name, block.Where, block.Phone, block.Mail),
            "divider" => new DividerBlock(NewId(), frame, block.Hairline),
            "beside" => new BesideBlock(NewId(), frame, [.. block.Blocks.Select(Of)]),
            _ => throw new InvalidDataException($"The scenario has a block of an unknown kind, {block.Kind}."),
        };
    }

    BarSettings BarOf(DemoBar bar) =>
        BarSettings.Of(bar.Groups.Select(g => new BarGroup(g.Words, g.One, [.. g.Buttons.Select(ButtonOf)]))) with { Align = bar.Align, Folded = bar.Folded, AllWords = bar.AllWords, Search = new BarSearch(bar.Search, ""), Orders = bar.Orders };

    BarButton ButtonOf(DemoButton button) =>
        (button.Of is not { } of ? BarButton.EachAlbum : categories.TryGetValue(of, out var category) ? BarButton.Of(category) : BarButton.Of(tags[of])) with { Words = button.Words };

    static BlockLayout LayoutOf(DemoBlock block)
    {
        var motion = Motion.Usual with { Pace = block.Pace, Loops = block.Loops };
        var shape = block.Ratio?.Split(':') is [var across, var down] ? new Ratio(int.Parse(across, CultureInfo.InvariantCulture), int.Parse(down, CultureInfo.InvariantCulture)) : null;
        return BlockLayout.Of(block.Layout, block.Size, block.Gap) with { Along = new StripSettings(block.Height, motion), Slides = new SlidesSettings(block.Turn, shape, block.Fills, motion) };
    }

    PhotosSource SourceOf(DemoBlock block) => PhotosSource.Of([.. block.Albums.Select(a => albums[a])]) with
    {
        Kind = block.Source ?? (block.Files.Count > 0 ? SourceKind.Picked : SourceKind.Albums),
        Photos = [.. block.Files.Select(f => photos[f])],
        Tag = block.Tag is { } tag ? tags[tag] : null,
        Most = block.Most,
        ByLot = block.ByLot,
    };
}
