using Jovitar.Core;
using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Figures;
using Jovitar.Core.Sales.Payments;
using Jovitar.Server.Platform;
using Jovitar.Server.Sales.Ordering;
using Npgsql;

namespace Jovitar.Server.Sales.Figures;

/// <summary>What was sold of an option.</summary>
/// <param name="Called">As it was called when it was sold last.</param>
internal sealed record SoldOption(Guid Option, string Called, SoldThing Sold);

/// <summary>What was sold of a photo.</summary>
/// <param name="Called">As it was called when it was sold last.</param>
/// <param name="Seen">As it is now; null where it was removed for good.</param>
internal sealed record SoldOf(PhotoId Photo, string Called, OrderedPhoto? Seen, SoldThing Sold);

/// <summary>What was sold: of orders that are paid and not cancelled, by when they were paid (UTC).</summary>
internal sealed class SoldStore(NpgsqlDataSource db, OrderListStore photos)
{
    /// <summary>So many options, and so many photos, are named: those that were sold for most.</summary>
    const int MostNamed = 40;

    static readonly string IsSold = $"o.paid >= @from and o.paid < @until and {CountingOrders.IsSold}";

    const string Month = "extract(month from o.paid at time zone 'UTC')::int";

    static (string, object?)[] Within(int year) => [("from", Start(year)), ("until", Start(year + 1))];

    static DateTimeOffset Start(int year) => new(year, 1, 1, 0, 0, 0, TimeSpan.Zero);

    /// <summary>The first year in which something was sold; null while nothing was.</summary>
    public async Task<int?> FirstYearAsync(CancellationToken ct)
    {
        await using var command = db.Command($"select min(o.paid) from sale_order as o where {CountingOrders.IsSold}");
        return await command.ExecuteScalarAsync(ct) is DateTime first ? first.Year : null;
    }

    /// <summary>The currencies in which something was sold in a year.</summary>
    public async Task<IReadOnlyList<string>> CurrenciesAsync(int year, CancellationToken ct)
    {
        await using var command = db.Command($"select distinct o.currency from sale_order as o where {IsSold} order by 1", Within(year));
        return await command.AllAsync(r => r.Get<string>("currency"), ct);
    }

    public async Task<SoldYear> YearAsync(int year, Currency currency, CancellationToken ct)
    {
        Money Amount(NpgsqlDataReader r, string column) => new(r.Get<long>(column), currency);
        await using var sums = db.Command(
            $"""
            select {Month} as month, count(*)::int as orders, sum(o.things)::bigint as pieces, sum(o.goods)::bigint as goods,
                   sum(o.taken_off)::bigint as taken_off, sum(o.postage)::bigint as postage, sum(o.taxed)::bigint as taxed,
                   sum(o.total)::bigint as total
              from sale_order as o
             where {IsSold} and o.currency = @currency
             group by 1
            """,
            [.. Within(year), ("currency", currency.Code)]);
        var nothing = SoldSums.Nothing(currency);
        var found = await sums.AllAsync(
            r => (r.Get<int>("month"), new SoldSums(
                r.Get<int>("orders"), r.Get<long>("pieces"), Amount(r, "goods"), Amount(r, "taken_off"), Amount(r, "postage"), Amount(r, "taxed"), Amount(r, "total"), nothing.Returned)),
            ct);
        // How much of what went back is of the price is said in Core, of each order.
        await using var back = db.Command(
            $"""
            select {Month} as month, o.returned, o.overpaid
              from sale_order as o
             where {IsSold} and o.currency = @currency and o.returned > 0
            """,
            [.. Within(year), ("currency", currency.Code)]);
        var returned = await back.AllAsync(r => (r.Get<int>("month"), nothing with { Returned = new Money(Refunds.OfPrice(r.Get<long>("returned"), r.Get<long>("overpaid")), currency) }), ct);
        return SoldYear.Of(found.Concat(returned), currency);
    }

    /// <summary>Lines of what was sold, summed by one of their columns: what was sold for most first.</summary>
    async Task<IReadOnlyList<(Guid Id, Guid Order, int Place, SoldThing Sold)>> ByAsync(string column, int year, Currency currency, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select l.{column} as id, sum(l.count)::bigint as pieces, sum(l.amount)::bigint as amount,
                   coalesce(sum(l.amount) filter (where l.cost is not null), 0)::bigint as costed,
                   coalesce(sum(l.cost), 0)::bigint as costs,
                   (array_agg(l.sale_order order by o.paid desc, o.id))[1] as sold_last,
                   (array_agg(l.place order by o.paid desc, o.id))[1] as place
              from sale_order as o
              join sale_order_line as l on l.sale_order = o.id
             where {IsSold} and o.currency = @currency
             group by l.{column}
             order by sum(l.amount) desc, l.{column}
             limit @most
            """,
            [.. Within(year), ("currency", currency.Code), ("most", MostNamed)]);
        Money Amount(NpgsqlDataReader r, string of) => new(r.Get<long>(of), currency);
        return await command.AllAsync(r => (r.Get<Guid>("id"), r.Get<Guid>("sold_last"), r.Get<int>("place"), new SoldThing(r.Get<long>("pieces"), Amount(r, "amount"), Amount(r, "costed"), Amount(r, "costs"))), ct);
    }

    async Task<IReadOnlyDictionary<Guid, KeptOrder>> OrdersAsync(IEnumerable<Guid> orders, CancellationToken ct)
    {
        await using var command = db.Command($"select {OrderStore.Columns} from sale_order as o where o.id = any(@orders)", ("orders", orders.Distinct().ToArray()));
        return (await command.AllAsync(OrderStore.Read, ct)).ToDictionary(o => o.Id.Value);
    }

    public async Task<IReadOnlyList<SoldOption>> OptionsAsync(int year, Currency currency, CancellationToken ct)
    {
        var found = await ByAsync("option", year, currency, ct);
        var orders = await OrdersAsync(found.Select(f => f.Order), ct);
        return [.. found.Select(f => new SoldOption(f.Id, orders[f.Order].Placed.Lines[f.Place - 1].Option.Called, f.Sold))];
    }

    public async Task<IReadOnlyList<SoldOf>> PhotosAsync(int year, Currency currency, CancellationToken ct)
    {
        var found = await ByAsync("photo", year, currency, ct);
        var (orders, seen) = (await OrdersAsync(found.Select(f => f.Order), ct), await photos.PhotosAsync(found.Select(f => new PhotoId(f.Id)), ct));
        return [.. found.Select(f => new SoldOf(new PhotoId(f.Id), orders[f.Order].Placed.Lines[f.Place - 1].Called, seen.GetValueOrDefault(new PhotoId(f.Id)), f.Sold))];
    }
}
