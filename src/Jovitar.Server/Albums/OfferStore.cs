using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Albums;
using Jovitar.Core.Favourites;
using Jovitar.Core.Pages;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Albums;

/// <summary>What an album offers.</summary>
/// <param name="Reserves">What may reserve something of it: itself, and categories that it stands in.</param>
/// <param name="Sells">The shop is open, and the album's photos are sold there.</param>
internal sealed record AlbumOffered(AlbumOffers Offers, Guid[] Reserves, bool Sells);

/// <summary>What visitors may do with the photos of albums besides seeing them.</summary>
internal sealed class OfferStore(NpgsqlDataSource db, ActRunner acts)
{
    /// <summary>The columns of an album that <see cref="Read"/> reads.</summary>
    /// <param name="album">What the album is called.</param>
    public static string Columns(string album) =>
        $"{album}.saves, {album}.known_save, {album}.has_choosing, {album}.choosing_most, {album}.choosing_until, {album}.choosing_asks";

    /// <summary>Of an album <c>a</c>: the shop is open, and sells by the album's price list.</summary>
    public const string Sells =
        """
        exists (
          select
            from price_list as l
            join shop as s on s.is_open and s.settings ->> 'currency' = l.currency
           where l.id = a.price_list and l.binned is null)
        """;

    public static AlbumOffers Read(NpgsqlDataReader r) => new(
        Enum.Parse<Saving>(r.Get<string>("saves")), Enum.Parse<Saving>(r.Get<string>("known_save")),
        r.Get<bool>("has_choosing") ? new Choosing(r.Maybe<int>("choosing_most"), r.Maybe<DateTimeOffset>("choosing_until"), r.Get<string>("choosing_asks")) : null);

    /// <returns>Null when the album is not there.</returns>
    public async Task<AlbumOffers?> FindAsync(AlbumId album, CancellationToken ct)
    {
        await using var command = db.Command($"select {Columns("a")} from album as a where a.id = @album and a.binned is null", ("album", album.Value));
        return await command.FirstAsync(Read, ct);
    }

    /// <summary>Those of some albums, of which anything is offered.</summary>
    public async Task<IReadOnlyDictionary<AlbumId, AlbumOffered>> OfAsync(IReadOnlyList<AlbumId> albums, CancellationToken ct)
    {
        if (albums.Count == 0)
        {
            return new Dictionary<AlbumId, AlbumOffered>();
        }

        await using var command = db.Command(
            $"""
            select a.id, {Columns("a")}, {AccessStore.AlbumReserves("a")} as reserves,
                   {Sells} as sells
              from album as a
             where a.id = any(@albums) and a.binned is null
               and (a.has_choosing or a.saves <> 'Nothing' or a.known_save <> 'Nothing' or a.price_list is not null)
            """,
            ("albums", albums.Values()));
        return (await command.AllAsync(r => (Album: new AlbumId(r.Get<Guid>("id")), Offers: new AlbumOffered(Read(r), r.Get<Guid[]>("reserves"), r.Get<bool>("sells"))), ct)).ToDictionary(o => o.Album, o => o.Offers);
    }

    /// <summary>Says what an album offers; visitors have it at once.</summary>
    /// <param name="was">What it offered when it was looked at: who said something else since is not overruled.</param>
    public async Task<(AlbumOutcome Outcome, Done Done)> SayAsync(Actor who, AlbumId album, AlbumOffers offers, AlbumOffers was, CancellationToken ct) => await acts.RunAsync(
        who, ActKind.Offers,
        async act =>
        {
            await using var find = act.Command($"select a.working_name, {Columns("a")} from album as a where a.id = @album and a.binned is null for no key update", ("album", album.Value));
            if (await find.FirstAsync(r => Tuple.Create(r.Get<string>("working_name"), Read(r)), ct) is not var (name, now))
            {
                return act.Drop(AlbumOutcome.Gone);
            }

            if (now != was.AsKept())
            {
                return act.Drop(AlbumOutcome.Stale);
            }

            var kept = offers.AsKept();
            act.Says = _ => OfferWords.Said(name, now, kept);
            await act.RunAsync(
                """
                update album
                   set saves = @saves, known_save = @known, has_choosing = @chooses, choosing_most = @most::int,
                       choosing_until = @until::timestamptz, choosing_asks = @asks, version = version + 1
                 where id = @album
                """,
                ct, ("album", album.Value), ("saves", kept.Saves.ToString()), ("known", kept.KnownSave.ToString()), ("chooses", kept.Choosing is not null), ("most", kept.Choosing?.Most), ("until", kept.Choosing?.Until),
                ("asks", kept.Choosing?.Asks ?? ""));
            return AlbumOutcome.Written;
        },
        ct);
}
