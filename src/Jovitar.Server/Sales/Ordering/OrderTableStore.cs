using Jovitar.Core.Sales.Ordering;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Sales.Ordering;

/// <summary>The orders of a year, as a spreadsheet's file.</summary>
internal sealed class OrderTableStore(NpgsqlDataSource db)
{
    /// <summary>So many are read in one go.</summary>
    const int Step = 500;

    /// <summary>Writes the orders that were placed in a year (UTC), the first one first.</summary>
    public async Task WriteAsync(int year, Stream to, CancellationToken ct)
    {
        await using var csv = new CsvRows(to);
        await csv.AddAsync(OrderTable.Columns);
        var (at, id) = (new DateTimeOffset(year, 1, 1, 0, 0, 0, TimeSpan.Zero), Guid.Empty);
        for (var isMore = true; isMore;)
        {
            await using var command = db.Command(
                $"""
                select {OrderStore.Columns}
                  from sale_order as o
                 where (o.placed, o.id) > (@at, @id) and o.placed < @until
                 order by o.placed, o.id
                 limit @most
                """,
                ("at", at), ("id", id), ("until", new DateTimeOffset(year, 1, 1, 0, 0, 0, TimeSpan.Zero).AddYears(1)), ("most", Step));
            var orders = await command.AllAsync(OrderStore.Read, ct);
            foreach (var order in orders)
            {
                await csv.AddAsync(OrderTable.Cells(order.Number, order.At, order.Paid, order.Standing, order.Placed, order.Returned));
                (at, id) = (order.At, order.Id.Value);
            }

            isMore = orders.Count == Step;
        }
    }
}
