using System.Text.Json;
using System.Text.Json.Serialization;
using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Sales;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Sales;

/// <summary>A price list among others.</summary>
/// <param name="Options">So many options it has, <paramref name="Offered"/> of them offered.</param>
/// <param name="Least">The lowest price that is offered, and the highest; empty where there is none.</param>
/// <param name="Galleries">So many albums sell by it.</param>
/// <param name="Picture">Of the cover of one of these; null for none.</param>
internal sealed record PriceListLine(PriceListId Id, string Name, string Currency, int Options, int Offered, string Least, string Most, int Galleries, string? Picture, int Width, int Height);

/// <summary>An album that sells by a list.</summary>
internal sealed record GalleryLine(AlbumId Album, string Name, string? Picture, int Width, int Height);

/// <summary>A price list, with all that stands in it.</summary>
/// <param name="Called">What each option is called.</param>
/// <param name="Stays">What the seller keeps of each, in words; empty where nobody said what it costs.</param>
/// <param name="Version">Expected by the next write.</param>
internal sealed record PriceListSeen(PriceListId Id, PriceListSaid List, IReadOnlyList<string> Called, IReadOnlyList<string> Stays, IReadOnlyList<PriceNote> Notes, IReadOnlyList<GalleryLine> Galleries, long Version)
{
    public static PriceListSeen Of(PriceListId id, PriceList list, IReadOnlyList<GalleryLine> galleries, long version) =>
        new(id, PriceListSaid.Of(list), [.. list.Options.Select(o => o.Called)], [.. list.Options.Select(PriceWords.Stays)], list.Notes(), galleries, version);
}

/// <summary>How a write of a price list ended.</summary>
internal enum PriceOutcome
{
    Written,
    Gone,
    Stale,

    /// <summary>Another is called so.</summary>
    Taken,

    /// <summary>There are so many already.</summary>
    TooMany,

    /// <summary>Albums sell by it.</summary>
    InUse,
}

/// <summary>Price lists: said here once, and what every sales gallery sells by at once.</summary>
internal sealed class PriceStore(NpgsqlDataSource db, ActRunner acts)
{
    /// <summary>So many lists a site has.</summary>
    public const int Most = 50;

    const int MostGalleries = 200;

    /// <summary>The photo that an album <c>a</c> is known by.</summary>
    const string CoverOf =
        """
        coalesce(a.cover,
          (select ap.photo from album_photo as ap where ap.album = a.id order by ap.place, ap.photo limit 1))
        """;

    /// <summary>How what is said of selling is written down.</summary>
    internal static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web) { Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) }, DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull };

    /// <summary>The columns that <see cref="Read"/> reads.</summary>
    /// <param name="list">What the price list is called.</param>
    public static string Columns(string list) =>
        $"{list}.name as list_name, {list}.currency, {list}.limits::text as limits, {list}.sells_small, {list}.options::text as options";

    public static PriceList Read(NpgsqlDataReader r)
    {
        var said = new PriceListSaid(
            r.Get<string>("list_name"), r.Get<string>("currency"), JsonSerializer.Deserialize<PrintLimits>(r.Get<string>("limits"), Json)!, r.Get<bool>("sells_small"),
            JsonSerializer.Deserialize<OptionSaid[]>(r.Get<string>("options"), Json)!);
        return said.Read() is { List: { } list } ? list : throw new InvalidDataException($"The price list “{said.Name}” cannot be read.");
    }

    public async Task<IReadOnlyList<PriceListLine>> ListAsync(CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select l.id, {Columns("l")}, (select count(*) from album as a where a.price_list = l.id and a.binned is null) as galleries,
                   c.picture, coalesce(c.width, 0) as width, coalesce(c.height, 0) as height
              from price_list as l
              left join lateral (
                select p.picture, p.width, p.height
                  from album as a
                  join photo as p on p.id = {CoverOf} and p.stage > 0
                 where a.price_list = l.id and a.binned is null
                 order by a.id desc
                 limit 1) as c on true
             where l.binned is null
             order by lower(l.name)
             limit @most
            """,
            ("most", Most));
        return await command.AllAsync(Line, ct);
    }

    static PriceListLine Line(NpgsqlDataReader r)
    {
        var list = Read(r);
        var offered = list.Offered.OrderBy(o => o.Price!.Value.Minor).ToList();
        return new PriceListLine(
            new PriceListId(r.Get<Guid>("id")), list.Name, list.Currency.Code, list.Options.Count, offered.Count, Price(offered.FirstOrDefault()), Price(offered.LastOrDefault()), (int)r.Get<long>("galleries"), r.MaybeText("picture"),
            r.Get<int>("width"), r.Get<int>("height"));
    }

    static string Price(SaleOption? option) => option?.Price?.ToString() ?? "";

    /// <returns>Null when it is not there.</returns>
    public async Task<PriceListSeen?> FindAsync(PriceListId id, CancellationToken ct)
    {
        await using var command = db.Command($"select {Columns("l")}, l.version from price_list as l where l.id = @id and l.binned is null", ("id", id.Value));
        return await command.FirstAsync(r => Tuple.Create(Read(r), r.Get<long>("version")), ct) is var (list, version) ? PriceListSeen.Of(id, list, await GalleriesAsync(id, ct), version) : null;
    }

    /// <summary>A list alone; null when it is not there.</summary>
    public async Task<PriceList?> ReadAsync(PriceListId id, CancellationToken ct)
    {
        await using var command = db.Command($"select {Columns("l")} from price_list as l where l.id = @id and l.binned is null", ("id", id.Value));
        return await command.FirstAsync(Read, ct);
    }

    /// <summary>The lists that albums sell by.</summary>
    public async Task<IReadOnlyList<PriceList>> SellingAsync(CancellationToken ct)
    {
        await using var command = db.Command(
            $"select {Columns("l")} from price_list as l where l.binned is null and exists (select 1 from album as a where a.price_list = l.id and a.binned is null) limit @most", ("most", Most));
        return await command.AllAsync(Read, ct);
    }

    async Task<IReadOnlyList<GalleryLine>> GalleriesAsync(PriceListId id, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select a.id, a.working_name, p.picture, coalesce(p.width, 0) as width, coalesce(p.height, 0) as height
              from album as a
              left join photo as p on p.id = {CoverOf} and p.stage > 0
             where a.price_list = @id and a.binned is null
             order by lower(a.working_name)
             limit @most
            """,
            ("id", id.Value), ("most", MostGalleries));
        return await command.AllAsync(r => new GalleryLine(new AlbumId(r.Get<Guid>("id")), r.Get<string>("working_name"), r.MaybeText("picture"), r.Get<int>("width"), r.Get<int>("height")), ct);
    }

    public async Task<(PriceOutcome Outcome, PriceListId Id, Done Done)> MakeAsync(Actor who, PriceList list, CancellationToken ct)
    {
        var id = new PriceListId(Guid.CreateVersion7());
        var (outcome, done) = await RunAsync(
            who, async act =>
            {
                act.Says = _ => PriceWords.Made(list.Name);
                var made = await act.RunAsync(
                    """
                    insert into price_list (id, name, currency, limits, sells_small, options, made)
                    select @id, @name, @currency, @limits::jsonb, @small, @options::jsonb, @now
                     where (select count(*) from price_list where binned is null) < @most
                    """,
                    ct, [("id", id.Value), ("now", act.Now), ("most", Most), .. Fields(list)]);
                return made == 0 ? PriceOutcome.TooMany : PriceOutcome.Written;
            },
            ct);
        return (outcome, id, done);
    }

    static (string, object?)[] Fields(PriceList list)
    {
        var said = PriceListSaid.Of(list);
        return
        [
            ("name", said.Name), ("currency", said.Currency), ("limits", JsonSerializer.Serialize(said.Limits, Json)), ("small", said.SellsSmall), ("options", JsonSerializer.Serialize(said.Options, Json)),
        ];
    }

    /// <summary>Writes a list anew.</summary>
    public Task<(PriceOutcome Outcome, Done Done)> WriteAsync(Actor who, PriceListId id, PriceList list, long expected, CancellationToken ct) => RunAsync(
        who, async act =>
        {
            var (before, outcome) = await TakeAsync(act, id, expected, ct);
            if (before is null)
            {
                return outcome;
            }

            act.Says = _ => PriceWords.Changed(before, list);
            await WriteAsync(act, id, list, ct);
            return PriceOutcome.Written;
        },
        ct);

    static Task<int> WriteAsync(Act act, PriceListId id, PriceList list, CancellationToken ct) => act.RunAsync(
        """
        update price_list
           set name = @name, currency = @currency, limits = @limits::jsonb, sells_small = @small, options = @options::jsonb,
               version = version + 1
         where id = @id
        """,
        ct, [("id", id.Value), .. Fields(list)]);

    /// <summary>Lets a list go that nothing is sold by; undo brings it back.</summary>
    public Task<(PriceOutcome Outcome, Done Done)> LetGoAsync(Actor who, PriceListId id, long expected, CancellationToken ct) => RunAsync(
        who, async act =>
        {
            var (before, outcome) = await TakeAsync(act, id, expected, ct);
            if (before is null)
            {
                return outcome;
            }

            act.Says = _ => PriceWords.LetGo(before.Name);
            var gone = await act.RunAsync(
                """
                update price_list
                   set binned = @now, version = version + 1
                 where id = @id and not exists (select from album where price_list = @id and binned is null)
                """,
                ct, ("id", id.Value), ("now", act.Now));
            return gone == 0 ? PriceOutcome.InUse : PriceOutcome.Written;
        },
        ct);

    /// <summary>Takes the rows of a file in.</summary>
    /// <param name="take">What they come to; asked of the list as it is when it is held.</param>
    /// <returns>What they came to; null when the list is not there.</returns>
    public async Task<(PriceTaken? Taken, Done Done)> TakeInAsync(Actor who, PriceListId id, Func<PriceList, PriceTaken> take, string file, CancellationToken ct)
    {
        PriceTaken? taken = null;
        var (_, done) = await RunAsync(
            who, async act =>
            {
                var (before, found) = await TakeAsync(act, id, null, ct);
                taken = before is null ? null : take(before);
                if (before is null || taken is null)
                {
                    return found;
                }

                act.Says = _ => PriceWords.TakenIn(before.Name, file, taken.Changed, taken.Added);
                await WriteAsync(act, id, taken.List, ct);
                return PriceOutcome.Written;
            },
            ct);
        return (taken, done);
    }

    /// <param name="expected">The version that was looked at; null for whichever there is.</param>
    static async Task<(PriceList? List, PriceOutcome Outcome)> TakeAsync(Act act, PriceListId id, long? expected, CancellationToken ct)
    {
        await using var find = act.Command($"select {Columns("l")}, l.version from price_list as l where l.id = @id and l.binned is null for no key update", ("id", id.Value));
        return await find.FirstAsync(r => Tuple.Create(Read(r), r.Get<long>("version")), ct) is not var (list, version) ? (null, PriceOutcome.Gone)
            : version != (expected ?? version) ? (null, PriceOutcome.Stale)
            : (list, PriceOutcome.Written);
    }

    async Task<(PriceOutcome, Done)> RunAsync(Actor who, Func<Act, Task<PriceOutcome>> write, CancellationToken ct)
    {
        try
        {
            return await acts.RunAsync(who, ActKind.Prices, async act => await write(act) is var outcome && outcome == PriceOutcome.Written ? outcome : act.Drop(outcome), ct);
        }
        catch (PostgresException e) when (e.SqlState == PostgresErrorCodes.UniqueViolation)
        {
            return (PriceOutcome.Taken, Done.Nothing);
        }
    }
}

/// <summary>What rows of a file come to.</summary>
internal sealed record PriceTaken(PriceList List, int Changed, int Added, IReadOnlyList<(int Line, string Why)> Rejected);
