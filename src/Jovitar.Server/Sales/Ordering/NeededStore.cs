using Jovitar.Core.Sales.Ordering;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Sales.Ordering;

/// <summary>Photos in the bin that orders still need.</summary>
internal sealed class NeededStore(NpgsqlDataSource db, TimeProvider clock)
{
    const string OfBin =
        $"""
        select {OrderStore.Columns}
          from sale_order as o
         where o.state <> 'Cancelled'
           and exists (
             select
               from sale_order_line as l
               join bin as b on b.kind = 'photo' and b.thing = l.photo
              where l.sale_order = o.id)
        """;

    /// <summary>The photos of orders that need them, of those orders of which something lies in the bin.</summary>
    public async Task<IReadOnlySet<Guid>> InBinAsync(CancellationToken ct)
    {
        await using var command = db.Command(OfBin);
        return Of(await command.AllAsync(OrderStore.Read, ct), clock.GetUtcNow());
    }

    /// <inheritdoc cref="InBinAsync(CancellationToken)"/>
    public static async Task<IReadOnlySet<Guid>> InBinAsync(Act act, CancellationToken ct)
    {
        await using var command = act.Command(OfBin);
        return Of(await command.AllAsync(OrderStore.Read, ct), act.Now);
    }

    static HashSet<Guid> Of(IEnumerable<KeptOrder> orders, DateTimeOffset now) =>
        [.. orders.SelectMany(o => o.Placed.Lines.Where((line, i) => Needed.Is(line, o.Standing, o.Paid, o.Fetched.ElementAtOrDefault(i), now)).Select(l => l.Photo.Value))];
}
