using Jovitar.Core.Themes;

namespace Jovitar.Core.Pages;

/// <summary>What is set on a page: kept once as the draft and once, copied by publishing, as visitors have it.</summary>
/// <param name="Schema">Which form it was written in; see <see cref="Current"/>.</param>
/// <param name="Title">What it is called: in the browser, in lists, and on the page where a heading says no other words.</param>
/// <param name="Description">A sentence for search engines; may be empty.</param>
/// <param name="Posted">The day that it is a post of; null for a page that is none.</param>
/// <param name="Unlisted">It stands in no list of pages or posts and not in the feed: visitors find it by its address alone, or where something leads to it.</param>
/// <param name="Wide">It is as wide as the window, however wide that is; else as wide as the site's pages usually are.</param>
/// <param name="Bare">It has neither the site's head nor its menu.</param>
/// <param name="Look">What of the look is otherwise on it than on the site.</param>
/// <param name="Blocks">From the top of the page to its foot.</param>
public sealed record PageContent(int Schema, string Title, string Description, DateOnly? Posted, bool Unlisted, bool Wide, bool Bare, LookChange Look, IReadOnlyList<Block> Blocks)
{
    /// <summary>The form in which pages are written today. The first had one heading, one text and the photos of one album; the second knew rows, columns and a grid, and no posts; the third had neither files nor contacts, and one width; the fourth had no grounds; the fifth had every photo on every device; the sixth narrowed by one list of categories and one of tags; in the seventh photos always came by scrolling, and a press opened them; in the eighth no words stood with them but in lists; the ninth knew no look of its own; in the tenth no block did, and each said the gap between its photos.</summary>
    public const int Current = 11;

    public const int LongestTitle = 200;
    public const int LongestDescription = 500;
    public const int MostBlocks = 200;

    /// <summary>All blocks, those that stand side by side each by itself behind what holds them.</summary>
    public IEnumerable<Block> All() => Blocks.SelectMany(b => b is BesideBlock beside ? [b, .. beside.Blocks] : (IEnumerable<Block>)[b]);

    /// <summary>What is wrong, a sentence a field: the title, the description, a block by its id; empty when it may be kept.</summary>
    public IReadOnlyDictionary<string, string> Faults()
    {
        var faults = new Dictionary<string, string>();
        if (string.IsNullOrWhiteSpace(Title))
        {
            faults["title"] = "A page needs a title.";
        }
        else if (Title.Length > LongestTitle)
        {
            faults["title"] = $"The title may have {LongestTitle} characters.";
        }

        if (Description.Length > LongestDescription)
        {
            faults["description"] = $"The description may have {LongestDescription} characters.";
        }

        if (Look.Fault() is { } look)
        {
            faults["look"] = look;
        }

        if (Blocks.Any(b => b is null || (b is BesideBlock beside && beside.Blocks.Any(i => i is null))))
        {
            faults["blocks"] = "Something on this page is missing. Load the page again.";
            return faults;
        }

        var all = All().ToArray();
        if (all.Length > MostBlocks)
        {
            faults["blocks"] = $"A page may have {MostBlocks} blocks. Make a second page and link to it.";
        }

        if (all.DistinctBy(b => b.Id).Count() < all.Length)
        {
            faults["blocks"] = "Two blocks are the same one. Load the page again.";
        }

        foreach (var block in all)
        {
            if ((block.Fault() ?? block.Frame.Fault()) is { } fault)
            {
                faults[block.Id.ToString()] = fault;
            }
        }

        return faults;
    }

    /// <summary>A page as it begins.</summary>
    public static PageContent Made(string title, string description, IReadOnlyList<Block> blocks) => new(Current, title, description, null, Unlisted: false, Wide: false, Bare: false, LookChange.None, blocks);

    /// <summary>What is wrong with one block and those within it, a sentence; null when it may stand on a page.</summary>
    public static string? FaultOf(Block block) => Made("A page", "", [block]).Faults().Values.FirstOrDefault();

    /// <summary>In the form of today, with every number brought into its range.</summary>
    public PageContent Bounded() => this with { Schema = Current, Look = Look.Bounded(), Blocks = [.. Blocks.Select(b => b.Bounded())] };

    /// <summary>The things that stand on the page or are named there, in the order in which one comes upon them, each once.</summary>
    public IReadOnlyList<ThingOnPage> Things()
    {
        var things = new Dictionary<(ThingKind, Guid), ThingOnPage>();
        void Add(ThingKind kind, Guid? thing, bool shows)
        {
            if (thing is not { } id)
            {
                return;
            }

            if (!things.TryGetValue((kind, id), out var before))
            {
                things[(kind, id)] = new ThingOnPage(kind, id, shows);
            }
            else if (shows && !before.Shows)
            {
                things[(kind, id)] = before with { Shows = true };
            }
        }

        void AddAll<TId>(ThingKind kind, IEnumerable<TId> ids, bool shows)
            where TId : struct, ITypedId<TId>
        {
            foreach (var id in ids)
            {
                Add(kind, id.Value, shows);
            }
        }

        foreach (var block in All())
        {
            Add(ThingKind.Photo, block.Frame.Ground.Kind == GroundKind.Photo ? block.Frame.Ground.Photo?.Value : null, shows: true);
            switch (block)
            {
                case PhotosBlock photos:
                    Sources(photos.Source);
                    foreach (var button in photos.Bar.Buttons())
                    {
                        Add(button.Kind switch { BarKind.Category => ThingKind.Category, BarKind.Tag => ThingKind.Tag, _ => ThingKind.Album }, button.Thing, shows: false);
                    }

                    break;
                case PhotoBlock photo:
                    Add(ThingKind.Photo, photo.Photo?.Value, shows: true);
                    // Only where a press walks the album do visitors come upon its photos here; its cover alone must be seen elsewhere.
                    Add(ThingKind.Album, photo.Album?.Value, photo.Press == PhotoPress.Open);
                    Add(ThingKind.Site, photo.ShowsSeenCover ? Guid.Empty : null, shows: false);
                    Leads(photo.Press == PhotoPress.Link ? photo.Link : LinkTo.Nowhere);
                    break;
                case IndexBlock index:
                    Add(ThingKind.Site, Guid.Empty, shows: false);
                    Add(ThingKind.Category, index.Of == IndexKind.Category ? index.Category?.Value : null, shows: false);
                    AddAll(ThingKind.Album, index.Of == IndexKind.Albums ? index.Albums : [], shows: false);
                    break;
                case FilesBlock files:
                    AddAll(ThingKind.File, files.Files.Select(f => f.File), shows: true);
                    break;
                case SoundBlock sound:
                    Add(ThingKind.File, sound.File?.Value, shows: true);
                    break;
                case VideoBlock video:
                    Add(ThingKind.File, video.From == VideoFrom.File ? video.File?.Value : null, shows: true);
                    Add(ThingKind.Photo, video.Still?.Value, shows: true);
                    break;
                case TextBlock text:
                    AddAll(ThingKind.File, text.Files(), shows: true);
                    break;
                case ButtonBlock button:
                    Leads(button.Link);
                    break;
            }
        }

        return [.. things.Values];

        void Leads(LinkTo link)
        {
            if (link.Kind != LinkKind.Address)
            {
                Add(link.Kind switch { LinkKind.Page => ThingKind.Page, LinkKind.Album => ThingKind.Album, LinkKind.File => ThingKind.File, _ => ThingKind.Category }, link.Thing, shows: link.Kind == LinkKind.File);
            }
        }

        void Sources(PhotosSource source)
        {
            if (!source.Publishes)
            {
                Add(ThingKind.Site, Guid.Empty, shows: false);
            }

            AddAll(ThingKind.Album, source.Kind == SourceKind.Albums ? source.Albums : [], shows: true);
            AddAll(ThingKind.Photo, source.Kind == SourceKind.Picked ? source.Photos : [], shows: true);
            Add(ThingKind.Category, source.Kind == SourceKind.Category ? source.Category?.Value : null, shows: false);
            Add(ThingKind.Tag, source.Kind == SourceKind.Tag ? source.Tag?.Value : null, shows: false);
        }
    }
}

/// <summary>What kinds of things stand on pages. Kept by name.</summary>
public enum ThingKind
{
    Album,
    Photo,
    Category,
    Tag,
    Page,

    /// <summary>A sound, a video or a document.</summary>
    File,

    /// <summary>What is gathered from the whole site: it may change with anything there.</summary>
    Site,
}

/// <summary>A thing of a page.</summary>
/// <param name="Shows">Visitors come upon it because it stands there; else it is only named, gone by or led to.</param>
public sealed record ThingOnPage(ThingKind Kind, Guid Thing, bool Shows);
