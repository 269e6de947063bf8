using Jovitar.Core.Acts;
using Jovitar.Core.Pages;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Pages;

/// <summary>The menu as the workroom has it.</summary>
/// <param name="Edited">Counts its edits; expected by the next write.</param>
internal sealed record OpenedMenu(IReadOnlyList<MenuEntry> Entries, long Edited);

/// <summary>The site's menu.</summary>
internal sealed class MenuStore(NpgsqlDataSource db, ActRunner acts)
{
    /// <summary>Kinds of things that the menu leads to, and what makes them be there for visitors.</summary>
    static readonly string[] Followed = ["menu", "page", "album", "album_category", "category"];

    /// <summary>Their fields that decide whether they are, where, and under which name.</summary>
    static readonly string[] Named = ["published", "address", "title", "working_name", "name", "shown", "parent", "binned"];

    public async Task<OpenedMenu> ReadAsync(CancellationToken ct)
    {
        await using var command = db.CreateCommand("select entries::text as entries, edited from menu");
        return await command.FirstAsync(r => new OpenedMenu(PageText.ReadMenu(r.Get<string>("entries")), r.Get<long>("edited")), ct) ?? new OpenedMenu([], 0);
    }

    /// <returns>What was done; null when somebody else has changed it since it was read.</returns>
    public async Task<Done?> WriteAsync(Actor who, Menu menu, long expected, CancellationToken ct)
    {
        var (written, done) = await acts.RunAsync(
            who, ActKind.Menu,
            async act =>
            {
                await using var write = act.Command(
                    "update menu set entries = @entries::jsonb, edited = edited + 1 where edited = @expected returning id", ("entries", PageText.WriteMenu(menu.Entries)), ("expected", expected));
                if (await write.ExecuteScalarAsync(ct) is not Guid id)
                {
                    return act.Drop(false);
                }

                act.GoesOn = id;
                act.Says = _ => "Changed the menu.";
                return true;
            },
            ct);
        return written ? done : null;
    }

    /// <summary>Keeps what the menu leads to, and gives all pages another head when the menu, or a thing it leads to, is another for visitors.</summary>
    public static async Task FollowAsync(Act act, IReadOnlySet<string> kinds, CancellationToken ct)
    {
        if (kinds.Contains("menu"))
        {
            await using var read = act.Command("select entries::text from menu");
            var menu = new Menu(PageText.ReadMenu((string)(await read.ExecuteScalarAsync(ct))!));
            await act.RunAsync("delete from menu_thing", ct);
            await act.RunAsync(
                "insert into menu_thing (thing) select distinct unnest(@things)", ct, ("things", menu.All().Select(e => e.Link.Thing).OfType<Guid>().ToArray()));
        }

        if (!kinds.Overlaps(Followed))
        {
            return;
        }

        // One category above can hide many; an album is there as soon as it stands in a category.
        await act.RunAsync(
            """
            update site
               set version = version + 1
             where exists (
               select
                 from act_change as c
                where c.act = @act and c.kind = any(@followed)
                  and (c.kind = 'menu'
                    or c.kind = 'album_category' and c.thing in (select m.thing from menu_thing as m)
                    or (c.before ?| @named or c.after ?| @named)
                      and (c.kind = 'category' and exists (select from menu_thing) or c.thing in (select m.thing from menu_thing as m))))
            """,
            ct, ("act", act.Id.Value), ("followed", Followed), ("named", Named));
    }
}
