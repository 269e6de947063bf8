using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Pages;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
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

    public async Task<Found> OfAsync(IEnumerable<LinkTo> links, Sight sight, CancellationToken ct)
    {
        var wanted = links.Where(l => l.Kind != LinkKind.Address && l.Thing is not null).ToLookup(l => l.Kind, l => l.Thing!.Value);
        var found = new Dictionary<(LinkKind, Guid), SiteLink>();
        if (wanted.Count == 0)
        {
            return new Found(found);
        }

        await using var command = db.Command(
            $"""
            select 'page' as kind, t.id, t.address, page_title(t.published) as name, {AccessStore.ThingColumns("page")}
              from page as t
             where t.id = any(@pages) and t.published is not null
            union all
            select 'category', t.id, t.address, t.name, {AccessStore.ThingColumns("category")}
              from category as t
             where t.id = any(@categories)
            union all
            select 'album', t.id, t.address, coalesce(nullif(t.title, ''), t.working_name), {AccessStore.ThingColumns("album")}
              from album as t
             {AccessStore.ThingJoins("album")}
             where t.id = any(@albums)
            """,
            ("pages", wanted[LinkKind.Page].ToArray()), ("categories", wanted[LinkKind.Category].ToArray()), ("albums", wanted[LinkKind.Album].ToArray()), ("shut", sight.Shut));
        var rows = await command.AllAsync(
            r => (Kind: Enum.Parse<LinkKind>(r.Get<string>("kind"), ignoreCase: true), Id: r.Get<Guid>("id"), Address: r.Get<string>("address"), Name: r.Get<string>("name"), Thing: AccessStore.ThingOf(r.Get<string>("kind"), r, sight.Gates)),
            ct);
        foreach (var row in rows)
        {
            // An album's own page is there where the album stands in a category, whatever other pages show it.
            if (access.May(sight.Viewer, Right.See, row.Thing is AlbumThing album ? SiteStore.OnItsOwn(album) : row.Thing))
            {
                var kind = row.Kind switch { LinkKind.Page => SiteKind.Page, LinkKind.Album => SiteKind.Album, _ => SiteKind.Category };
                found[(row.Kind, row.Id)] = new SiteLink(PageVersion.PathOf(kind, row.Address), row.Name);
            }
        }

        // What leads to a file from a page makes it public.
        await using var files = db.Command("select id, file_name from file where id = any(@files) and binned is null", ("files", wanted[LinkKind.File].ToArray()));
        foreach (var (id, name) in await files.AllAsync(r => (r.Get<Guid>("id"), r.Get<string>("file_name")), ct))
        {
            found[(LinkKind.File, id)] = new SiteLink(NamedFile.PathOf(new FileId(id), name), name);
        }

        return new Found(found);
    }

    /// <summary>The menu: entries that lead nowhere for visitors, and hold none that does, are left out.</summary>
    public async Task<IReadOnlyList<SiteMenuEntry>> MenuAsync(Sight sight, CancellationToken ct)
    {
        var menu = new Menu((await menus.ReadAsync(ct)).Entries);
        var found = await OfAsync(menu.All().Select(e => e.Link), sight, ct);
        SiteMenuEntry? Of(MenuEntry entry)
        {
            var (href, beneath) = (found.Href(entry.Link), entry.Entries.Select(Of).OfType<SiteMenuEntry>().ToArray());
            var words = entry.Words.Length > 0 ? entry.Words : found.Thing(entry.Link)?.Name ?? entry.Link.Address;
            return (href is null && beneath.Length == 0) || words.Length == 0 ? null : new SiteMenuEntry(words, href, beneath);
        }

        return [.. menu.Entries.Select(Of).OfType<SiteMenuEntry>()];
    }
}
