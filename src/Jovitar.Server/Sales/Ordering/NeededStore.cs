using Jovitar.Core.Sales.Ordering;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Sales.Ordering;

/// <summary>Which photos orders still need.</summary>
internal sealed class NeededStore(NpgsqlDataSource db, TimeProvider clock)
{
    const string Of =
        $"""
        select {OrderStore.Columns}
          from sale_order as o
         where o.state <> 'Cancelled'
           and o.id in (select l.sale_order from sale_order_line as l where l.photo = any(@photos))
        """;

    /// <summary>Those of some photos that orders need.</summary>
    public async Task<IReadOnlySet<Guid>> AmongAsync(Guid[] photos, CancellationToken ct)
    {
        await using var command = db.Command(Of, ("photos", photos));
        return Among(photos, await command.AllAsync(OrderStore.Read, ct), clock.GetUtcNow());
    }

    /// <inheritdoc cref="AmongAsync(Guid[], CancellationToken)"/>
    public static async Task<IReadOnlySet<Guid>> AmongAsync(Act act, Guid[] photos, CancellationToken ct)
    {
        await using var command = act.Command(Of, ("photos", photos));
        return Among(photos, await command.AllAsync(OrderStore.Read, ct), act.Now);
    }

    static HashSet<Guid> Among(Guid[] photos, IEnumerable<KeptOrder> orders, DateTimeOffset now)
    {
        var needed = orders.SelectMany(o => o.Placed.Lines.Where((line, i) => Needed.Is(line, o.Standing, o.Paid, o.Fetched.ElementAtOrDefault(i), now)).Select(l => l.Photo.Value)).ToHashSet();
        needed.IntersectWith(photos);
        return needed;
    }
}
