using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Sales;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Sales;

/// <summary>What an album sells by.</summary>
/// <param name="List">Its price list; null for an album of which nothing is sold.</param>
/// <param name="Without">Options of that list that are not offered here.</param>
public sealed record Selling(PriceListId? List, IReadOnlyList<Guid> Without)
{
    /// <summary>The same as it is kept.</summary>
    internal Selling AsKept() => this with { Without = List is null ? [] : [.. Without.Distinct().Order()] };

    public bool Equals(Selling? other) => other is not null && List == other.List && Without.SequenceEqual(other.Without);

    public override int GetHashCode() => HashCode.Combine(List, Without.Count);
}

/// <summary>How a write of what is sold ended.</summary>
internal enum SellingOutcome
{
    Written,
    Gone,
    Stale,

    /// <summary>There is no such price list any more.</summary>
    NoList,
}

/// <summary>What is sold of albums and photos.</summary>
internal sealed class SellingStore(NpgsqlDataSource db, ActRunner acts)
{
    /// <summary>What an album sells by, as it is now: of a list that was let go nothing is sold.</summary>
    const string Now =
        """
        select a.working_name, l.id as list, case when l.id is null then '{}' else a.unsold end as unsold
          from album as a
          left join price_list as l on l.id = a.price_list and l.binned is null
         where a.id = @album and a.binned is null
        """;

    static Selling Read(NpgsqlDataReader r) => new Selling(r.MaybeId("list") is { } list ? new PriceListId(list) : null, r.Get<Guid[]>("unsold")).AsKept();

    /// <returns>Null when the album is not there.</returns>
    public async Task<Selling?> FindAsync(AlbumId album, CancellationToken ct)
    {
        await using var command = db.Command(Now, ("album", album.Value));
        return await command.FirstAsync(Read, ct);
    }

    /// <summary>Says what an album sells by.</summary>
    /// <param name="was">What it sold by when it was looked at: who said something else since is not overruled.</param>
    public async Task<(SellingOutcome Outcome, Done Done)> SayAsync(Actor who, AlbumId album, Selling selling, Selling was, CancellationToken ct) => await acts.RunAsync(
        who, ActKind.Prices,
        async act =>
        {
            // A list that is being let go is waited for; it is locked before albums, as everywhere.
            await using var hold = act.Command("select name from price_list where id = @list and binned is null for share", ("list", selling.List?.Value ?? Guid.Empty));
            var list = await hold.ExecuteScalarAsync(ct) as string;
            await act.LockAsync("album", [album.Value], ct);
            await using var find = act.Command(Now, ("album", album.Value));
            if (await find.FirstAsync(r => Tuple.Create(r.Get<string>("working_name"), Read(r)), ct) is not var (name, now))
            {
                return act.Drop(SellingOutcome.Gone);
            }

            if (now != was.AsKept())
            {
                return act.Drop(SellingOutcome.Stale);
            }

            if (selling.List is not null && list is null)
            {
                return act.Drop(SellingOutcome.NoList);
            }

            var kept = selling.AsKept();
            act.Says = _ => now.List == kept.List ? PriceWords.AlbumWithout(name) : PriceWords.SellsBy(name, list);
            await act.RunAsync(
                "update album set price_list = @list::uuid, unsold = @unsold, version = version + 1 where id = @album", ct,
                ("album", album.Value), ("list", kept.List?.Value), ("unsold", kept.Without.ToArray()));
            return SellingOutcome.Written;
        },
        ct);

    /// <summary>Says of photos which options they are sold without, and which they are sold with again.</summary>
    public async Task<Done> SayAsync(Actor who, IReadOnlyList<PhotoId> photos, IReadOnlyList<Guid> without, IReadOnlyList<Guid> with, CancellationToken ct)
    {
        var (_, done) = await acts.RunAsync(
            who, ActKind.Prices,
            async act =>
            {
                act.Says = tally => PriceWords.PhotosWithout(tally.Photos);
                await act.LockAsync("photo", photos.Values(), ct);
                await act.RunAsync(
                    """
                    with wanted as (
                      select p.id, array(select distinct o
                                           from unnest(p.unsold || @without) as o
                                          where o <> all(@with)
                                          order by o) as unsold
                        from photo as p
                       where p.id = any(@photos) and p.binned is null)
                    update photo as p
                       set unsold = w.unsold
                      from wanted as w
                     where p.id = w.id and p.unsold <> w.unsold and cardinality(w.unsold) <= @most
                    """,
                    ct, ("photos", photos.Values()), ("without", without.ToArray()), ("with", with.ToArray()), ("most", PriceStore.Most * PriceList.Most));
                return true;
            },
            ct);
        return done;
    }
}
