using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Pages;
using Jovitar.Server.Access;
using Jovitar.Server.Files;
using Jovitar.Server.Pages;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Site;

/// <summary>An entry of the menu as visitors have it.</summary>
/// <param name="Href">Null for one that only holds others.</param>
public sealed record SiteMenuEntry(string Words, string? Href, IReadOnlyList<SiteMenuEntry> Entries);

/// <summary>Where links lead today, for visitors: to things wherever they have moved, and to none that they may not open.</summary>
internal sealed class SiteLinks(NpgsqlDataSource db, AccessStore access, MenuStore menus)
{
    /// <summary>What is found of some links.</summary>
    /// <param name="Things">Where each thing is and what it is called.</param>
    public sealed record Found(IReadOnlyDictionary<(LinkKind, Guid), SiteLink> Things)
    {
        public string? Href(LinkTo link) => link.Kind == LinkKind.Address ? LinkTo.Href(link.Address) : Thing(link)?.Path;

        public SiteLink? Thing(LinkTo link) => link.Kind != LinkKind.Address && link.Thing is { } thing ? Things.GetValueOrDefault((link.Kind, thing)) : null;
    }

    public async Task<Found> OfAsync(IEnumerable<LinkTo> links, CancellationToken ct)
    {
        var wanted = links.Where(l => l.Kind != LinkKind.Address && l.Thing is not null).ToLookup(l => l.Kind, l => l.Thing!.Value);
        var found = new Dictionary<(LinkKind, Guid), SiteLink>();
        if (wanted.Count == 0)
        {
            return new Found(found);
        }

        await using var command = db.Command(
            $"""
            select 'page' as kind, pg.id, pg.address, page_title(pg.published) as name, true as seen,
                   0 as on_pages, 0 as on_drafts, 0 as on_own, 0 as out_of_view
              from page as pg
             where pg.id = any(@pages) and pg.binned is null and pg.published is not null
            union all
            select 'category', c.id, c.address, c.name, c.in_view, 0, 0, 0, 0
              from category as c
             where c.id = any(@categories) and c.binned is null
            union all
            select 'album', a.id, a.address, coalesce(nullif(a.title, ''), a.working_name), false, pages.*
              from album as a
             cross join lateral (
               {AccessStore.ShownOnOfAlbums} and oa.id = a.id) as pages
             where a.id = any(@albums) and a.binned is null
            union all
            -- What leads to it from a page makes it public.
            select 'file', f.id, '', f.file_name, true, 0, 0, 0, 0
              from file as f
             where f.id = any(@files) and f.binned is null
            """,
            ("pages", wanted[LinkKind.Page].ToArray()), ("categories", wanted[LinkKind.Category].ToArray()), ("albums", wanted[LinkKind.Album].ToArray()), ("files", wanted[LinkKind.File].ToArray()));
        var rows = await command.AllAsync(
            r => (Kind: Enum.Parse<LinkKind>(r.Get<string>("kind"), ignoreCase: true), Id: r.Get<Guid>("id"), Address: r.Get<string>("address"), Name: r.Get<string>("name"), Seen: r.Get<bool>("seen"), On: AccessStore.On(r)),
            ct);
        foreach (var row in rows)
        {
            // An album's own page is there where the album stands in a category, whatever other pages show it.
            if (row.Kind == LinkKind.Album ? access.May(Viewer.Nobody, Right.See, new AlbumThing(Binned: false, row.On with { Pages = 0 })) : row.Seen)
            {
                if (row.Kind == LinkKind.File)
                {
                    found[(row.Kind, row.Id)] = new SiteLink(NamedFile.PathOf(new FileId(row.Id), row.Name), row.Name);
                    continue;
                }

                var kind = row.Kind switch { LinkKind.Page => SiteKind.Page, LinkKind.Album => SiteKind.Album, _ => SiteKind.Category };
                found[(row.Kind, row.Id)] = new SiteLink(PageVersion.PathOf(kind, row.Address), row.Name);
            }
        }

        return new Found(found);
    }

    /// <summary>The menu: entries that lead nowhere for visitors, and hold none that does, are left out.</summary>
    public async Task<IReadOnlyList<SiteMenuEntry>> MenuAsync(CancellationToken ct)
    {
        var menu = new Menu((await menus.ReadAsync(ct)).Entries);
        var found = await OfAsync(menu.All().Select(e => e.Link), ct);
        SiteMenuEntry? Of(MenuEntry entry)
        {
            var (href, beneath) = (found.Href(entry.Link), entry.Entries.Select(Of).OfType<SiteMenuEntry>().ToArray());
            var words = entry.Words.Length > 0 ? entry.Words : found.Thing(entry.Link)?.Name ?? entry.Link.Address;
            return (href is null && beneath.Length == 0) || words.Length == 0 ? null : new SiteMenuEntry(words, href, beneath);
        }

        return [.. menu.Entries.Select(Of).OfType<SiteMenuEntry>()];
    }
}
