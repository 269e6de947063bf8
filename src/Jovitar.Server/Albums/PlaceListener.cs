using Jovitar.Core.Acts;
using Jovitar.Server.Acts;

namespace Jovitar.Server.Albums;

/// <summary>
/// What comes back to where it stood may find that something else has taken its place since: what arrived when it was gone stood
/// at the end as well. Then it stands right behind, so that no two have one place.
/// </summary>
internal sealed class PlaceListener : IActListener
{
    /// <summary>Tables of what stands in an order made by hand: which of their ends has the order, and which stands in it.</summary>
    static readonly (string Table, string Whole, string Part)[] Placed = [("album_photo", "album", "photo"), ("album_file", "album", "file"), ("album_category", "category", "album")];

    public async Task FollowAsync(Act act, IReadOnlySet<string> kinds, CancellationToken ct)
    {
        if (act.Undoes is null && act.Kind != ActKind.Restored)
        {
            return;
        }

        foreach (var (table, whole, part) in Placed.Where(p => kinds.Contains(p.Table)))
        {
            // Between neighbours there is room for thousands of millions: one that makes way seldom meets another.
            while (await MakeWayAsync(act, table, whole, part, ct) > 0)
            {
            }
        }
    }

    static Task<int> MakeWayAsync(Act act, string table, string whole, string part, CancellationToken ct) => act.RunAsync(
        $"""
        with come as (
          select {whole} as whole
            from {table} as t
            join act_change as c on c.act = @act and c.kind = '{table}' and c.before is null
             and t.{table.Split('_')[0]} = c.thing and t.{table.Split('_')[1]} = c.other),
        stand as (
          select t.{whole} as whole, t.{part} as part,
                 row_number() over (partition by t.{whole}, t.place order by t.{part}) - 1 as behind
            from {table} as t
           where t.place is not null and t.{whole} in (select whole from come))
        update {table} as t
           set place = t.place + s.behind
          from stand as s
         where t.{whole} = s.whole and t.{part} = s.part and s.behind > 0
        """,
        ct, ("act", act.Id.Value));
}
