using Jovitar.Core;
using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Server.Platform;
using Jovitar.Server.Sales.Ordering;
using Npgsql;

namespace Jovitar.Server.Sales;

/// <summary>How many were sold of limited editions: an edition is of a photo and an option, in whichever sales gallery it stands. Orders that were cancelled give theirs back.</summary>
internal sealed class EditionStore(NpgsqlDataSource db)
{
    static readonly string Sold =
        $"""
        select l.photo, l.option, sum(l.count)::int as sold
          from sale_order_line as l
          join sale_order as o on o.id = l.sale_order
         where l.option = any(@options) and (@photos::uuid[] is null or l.photo = any(@photos)) and {CountingOrders.Counts}
         group by l.photo, l.option
        """;

    static (PhotoId Photo, Guid Option, int Sold) Read(NpgsqlDataReader r) => (new PhotoId(r.Get<Guid>("photo")), r.Get<Guid>("option"), r.Get<int>("sold"));

    /// <summary>How many were sold of photos, by option; nothing is said of options that are no edition.</summary>
    /// <param name="photos">Null for all.</param>
    public async Task<IReadOnlyDictionary<PhotoId, IReadOnlyDictionary<Guid, int>>> SoldAsync(IReadOnlyCollection<PhotoId>? photos, IEnumerable<SaleOption> options, CancellationToken ct)
    {
        var editions = options.Where(o => o.Edition is not null).Select(o => o.Id).Distinct().ToArray();
        if (editions.Length == 0)
        {
            return new Dictionary<PhotoId, IReadOnlyDictionary<Guid, int>>();
        }

        await using var command = db.Command(Sold, ("options", editions), ("photos", photos?.Values()));
        return (await command.AllAsync(Read, ct)).GroupBy(s => s.Photo).ToDictionary(g => g.Key, g => (IReadOnlyDictionary<Guid, int>)g.ToDictionary(s => s.Option, s => s.Sold));
    }

    /// <summary>Whether as many are left of every edition as an order has of it; asked while no other order is placed.</summary>
    public static async Task<bool> AreLeftAsync(Transaction tx, PlacedOrder order, CancellationToken ct)
    {
        var wanted = order.Lines.Where(l => l.Option.Edition is not null).GroupBy(l => (l.Photo, l.Option.Id)).ToArray();
        if (wanted.Length == 0)
        {
            return true;
        }

        await using var command = tx.Command(Sold, ("options", wanted.Select(w => w.Key.Id).Distinct().ToArray()), ("photos", wanted.Select(w => w.Key.Photo).Distinct().Values()));
        var sold = (await command.AllAsync(Read, ct)).ToDictionary(s => (s.Photo, s.Option), s => s.Sold);
        return wanted.All(w => w.Sum(l => l.Count) <= w.First().Option.Left(sold.GetValueOrDefault(w.Key)));
    }
}
