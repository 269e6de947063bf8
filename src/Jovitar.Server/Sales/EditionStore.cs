using Jovitar.Core;
using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Server.Platform;
using Jovitar.Server.Sales.Ordering;
using Npgsql;

namespace Jovitar.Server.Sales;

/// <summary>How many were sold of limited editions. Orders that were cancelled give theirs back.</summary>
internal sealed class EditionStore(NpgsqlDataSource db)
{
    /// <param name="those">Which photos of lines <c>l</c> are asked for.</param>
    static string Sold(string those) =>
        $"""
        select l.photo, l.option, sum(l.count)::bigint as sold
          from sale_order_line as l
          join sale_order as o on o.id = l.sale_order
         where l.option = any(@options) and {those} and {CountingOrders.Counts}
         group by l.photo, l.option
        """;

    static (PhotoId Photo, Guid Option, long Sold) Read(NpgsqlDataReader r) => (new PhotoId(r.Get<Guid>("photo")), r.Get<Guid>("option"), r.Get<long>("sold"));

    /// <summary>How many were sold of some photos, by option; nothing is said of options that are no edition.</summary>
    public Task<IReadOnlyDictionary<PhotoId, IReadOnlyDictionary<Guid, long>>> SoldAsync(IReadOnlyCollection<PhotoId> photos, IEnumerable<SaleOption> options, CancellationToken ct) =>
        SoldAsync("l.photo = any(@those)", photos.Values(), options, ct);

    /// <summary>The same of the photos of an album.</summary>
    public Task<IReadOnlyDictionary<PhotoId, IReadOnlyDictionary<Guid, long>>> SoldAsync(AlbumId album, IEnumerable<SaleOption> options, CancellationToken ct) =>
        SoldAsync("l.photo in (select ap.photo from album_photo as ap where ap.album = @those)", album.Value, options, ct);

    async Task<IReadOnlyDictionary<PhotoId, IReadOnlyDictionary<Guid, long>>> SoldAsync(string which, object those, IEnumerable<SaleOption> options, CancellationToken ct)
    {
        var editions = options.Where(o => o.Edition is not null).Select(o => o.Id).Distinct().ToArray();
        if (editions.Length == 0)
        {
            return new Dictionary<PhotoId, IReadOnlyDictionary<Guid, long>>();
        }

        await using var command = db.Command(Sold(which), ("options", editions), ("those", those));
        return (await command.AllAsync(Read, ct)).GroupBy(s => s.Photo).ToDictionary(g => g.Key, g => (IReadOnlyDictionary<Guid, long>)g.ToDictionary(s => s.Option, s => s.Sold));
    }

    /// <summary>Whether as many are left of every edition as an order has of it; asked while no other order is placed.</summary>
    public static async Task<bool> AreLeftAsync(Transaction tx, PlacedOrder order, CancellationToken ct)
    {
        var limited = order.Lines.Where(l => l.Option.Edition is not null).ToArray();
        if (limited.Length == 0)
        {
            return true;
        }

        await using var command = tx.Command(
            Sold("l.photo = any(@photos)"), ("options", limited.Select(l => l.Option.Id).Distinct().ToArray()), ("photos", limited.Select(l => l.Photo).Distinct().Values()));
        var sold = (await command.AllAsync(Read, ct)).ToDictionary(s => (s.Photo, s.Option), s => s.Sold);
        return Editions.TooMany(limited.Select(l => new EditionWanted(l.Photo, l.Option.Id, l.Count, l.Option.Left(sold.GetValueOrDefault((l.Photo, l.Option.Id)))))).Count == 0;
    }
}
