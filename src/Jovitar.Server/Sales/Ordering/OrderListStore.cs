using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Core.Sales.Payments;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Sales.Ordering;

/// <summary>Which orders are listed.</summary>
internal enum OrdersWanted
{
    /// <summary>Those of which something is still to be done.</summary>
    Open,
    Unpaid,
    All,
}

/// <summary>An order among others.</summary>
/// <param name="Things">So many of all its lines.</param>
/// <param name="Total">With its currency.</param>
/// <param name="Standing">Where it stands, in words.</param>
/// <param name="Pictures">The first of its photos that are still here.</param>
internal sealed record OrderLine(OrderId Id, long Number, DateTimeOffset At, string Name, int Things, string Total, OrderState State, bool IsPaid, string Standing, IReadOnlyList<string> Pictures);

/// <summary>Other orders of one buyer.</summary>
/// <param name="Latest">The latest first.</param>
/// <param name="Count">So many there are in all.</param>
internal sealed record OthersOfBuyer(IReadOnlyList<OrderLine> Latest, int Count);

/// <summary>Orders, the latest first; those of which something is to be done, the eldest first.</summary>
/// <param name="Open">So many of all are to be done, so many are not paid, and so many are to be printed by now, in one go.</param>
/// <param name="HasInvoices">Invoices were written.</param>
/// <param name="Further">There are more behind the last.</param>
internal sealed record OrderList(IReadOnlyList<OrderLine> Orders, int Open, int Unpaid, int ToPrint, bool HasInvoices, bool Further);

/// <summary>Orders as those who sell find them.</summary>
internal sealed class OrderListStore(NpgsqlDataSource db)
{
    /// <summary>So many stand in one answer.</summary>
    const int Step = 60;

    /// <summary>So many are read whole at once.</summary>
    const int Whole = 500;

    /// <summary>So many are printed in one go; the others when these are done.</summary>
    const int MostToPrint = 1000;

    const int MostPictures = 4;

    /// <summary>So many others of one buyer stand beside an order.</summary>
    const int MostOthers = 5;

    /// <summary>The columns of <see cref="OrderLine"/>, of an order <c>o</c>.</summary>
    const string LineColumns =
        """
        o.id, o.number, o.placed, o.name, o.things, o.currency, o.total, o.delivery, o.state, o.paid, o.returned, o.overpaid,
        array(select p.picture
                from sale_order_line as l
                join photo as p on p.id = l.photo and p.stage > 0
               where l.sale_order = o.id
               order by l.place
               limit @pictures) as pictures
        """;

    /// <summary>The condition that an order <c>o</c> is one of those wanted, as its index has it.</summary>
    static string Where(OrdersWanted wanted) => wanted switch
    {
        OrdersWanted.Open => "o.state in ('Placed', 'InWork')",
        OrdersWanted.Unpaid => "o.paid is null and o.state <> 'Cancelled'",
        _ => "true",
    };

    /// <param name="words">Any part of a number, or of a buyer's name or address; empty for all.</param>
    /// <param name="behind">The last one that is known; null from the beginning.</param>
    public async Task<OrderList> ListAsync(OrdersWanted wanted, string words, OrderId? behind, CancellationToken ct)
    {
        var latest = wanted == OrdersWanted.All;
        await using var command = db.Command(
            $"""
            select {LineColumns}
              from sale_order as o
             where {Where(wanted)}{(words.Length > 0 ? " and lower(o.number::text || ' ' || o.name || ' ' || o.email) like @like" : "")}
               and (@behind::uuid is null
                 or (o.placed, o.id) {(latest ? "<" : ">")} (select b.placed, b.id from sale_order as b where b.id = @behind))
             order by o.placed {(latest ? "desc, o.id desc" : ", o.id")}
             limit @most
            """,
            ("behind", behind?.Value), ("like", $"%{Database.LikeText(words.ToLowerInvariant())}%"), ("most", Step + 1), ("pictures", MostPictures));
        var found = await command.AllAsync(Read, ct);
        await using var counts = db.Command(
            $"""
            select o.state, o.paid is not null as is_paid, o.delivery, count(*)::int as orders
              from sale_order as o
             where {Where(OrdersWanted.Open)} or {Where(OrdersWanted.Unpaid)}
             group by 1, 2, 3
            """);
        var standings = await counts.AllAsync(
            r => (Standing: new OrderStanding(Enum.Parse<OrderState>(r.Get<string>("state")), r.Get<bool>("is_paid"), Enum.Parse<Delivery>(r.Get<string>("delivery"))), Orders: r.Get<int>("orders")), ct);
        int Count(Func<OrderStanding, bool> those) => standings.Where(s => those(s.Standing)).Sum(s => s.Orders);
        return new OrderList([.. found.Take(Step)], Count(s => s.IsOpen), Count(s => s.CanBePaid), Math.Min(MostToPrint, Count(s => s.IsToPrint)), await HasInvoicesAsync(ct), found.Count > Step);
    }

    /// <summary>The other orders of who placed one, by their address: the latest, and how many there are.</summary>
    public async Task<OthersOfBuyer> OthersAsync(OrderId of, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select {LineColumns}, count(*) over ()::int as others
              from sale_order as o
             where lower(o.email) = (select lower(s.email) from sale_order as s where s.id = @of) and o.email <> '' and o.id <> @of
             order by o.placed desc, o.id desc
             limit @most
            """,
            ("of", of.Value), ("most", MostOthers), ("pictures", MostPictures));
        var found = await command.AllAsync(r => (Line: Read(r), Others: r.Get<int>("others")), ct);
        return new OthersOfBuyer([.. found.Select(f => f.Line)], found.Count == 0 ? 0 : found[0].Others);
    }

    async Task<bool> HasInvoicesAsync(CancellationToken ct)
    {
        await using var command = db.Command("select last > 0 from invoice_count");
        return (bool)(await command.ExecuteScalarAsync(ct))!;
    }

    /// <summary>The orders of which something is to be printed by now, whole, the eldest first, as many as are printed in one go.</summary>
    public async Task<IReadOnlyList<KeptOrder>> ToPrintAsync(CancellationToken ct)
    {
        var found = new List<KeptOrder>();
        for (IReadOnlyList<KeptOrder> some = await OpenAsync(null, ct); some.Count > 0 && found.Count < MostToPrint; some = await OpenAsync(some[^1], ct))
        {
            found.AddRange(some.Where(o => o.Standing.IsToPrint));
        }

        return [.. found.Take(MostToPrint)];
    }

    async Task<IReadOnlyList<KeptOrder>> OpenAsync(KeptOrder? behind, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select {OrderStore.Columns}
              from sale_order as o
             where {Where(OrdersWanted.Open)} and (@behind::uuid is null or (o.placed, o.id) > (@at::timestamptz, @behind::uuid))
             order by o.placed, o.id
             limit @most
            """,
            ("behind", behind?.Id.Value), ("at", behind?.At), ("most", Whole));
        return await command.AllAsync(OrderStore.Read, ct);
    }

    static OrderLine Read(NpgsqlDataReader r)
    {
        var standing = new OrderStanding(Enum.Parse<OrderState>(r.Get<string>("state")), r.Maybe<DateTimeOffset>("paid") is not null, Enum.Parse<Delivery>(r.Get<string>("delivery")), Refunds.Of(r.Get<long>("total"), Refunds.OfPrice(r.Get<long>("returned"), r.Get<long>("overpaid"))));
        return new OrderLine(
            new OrderId(r.Get<Guid>("id")), r.Get<long>("number"), r.Get<DateTimeOffset>("placed"), r.Get<string>("name"), r.Get<int>("things"), new Money(r.Get<long>("total"), Currency.Find(r.Get<string>("currency"))!).Said,
            standing.State, standing.IsPaid, OrderWords.Standing(standing), r.Get<string[]>("pictures"));
    }

    /// <summary>Of some photos, the pictures of those that are still here.</summary>
    public async Task<IReadOnlyDictionary<PhotoId, OrderedPhoto>> PhotosAsync(IEnumerable<PhotoId> photos, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            select id, picture, width, height, stage, correction::text as correction, binned is not null as is_binned
              from photo
             where id = any(@photos) and stage > 0
            """,
            ("photos", photos.Distinct().Values()));
        return (await command.AllAsync(OrderedPhoto.Read, ct)).ToDictionary(p => p.Id);
    }
}
