using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Pages;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Albums;

namespace Jovitar.Server.Site;

/// <summary>What albums offer besides being seen, where they stand alone: on their own pages, and in blocks that show nothing else.</summary>
internal sealed class SiteOffers(OfferStore offers, AccessStore access)
{
    /// <summary>What some albums offer.</summary>
    public Task<IReadOnlyDictionary<AlbumId, AlbumOffered>> OfAsync(IReadOnlyList<AlbumId> albums, CancellationToken ct) => offers.OfAsync(albums, ct);

    /// <summary>The photos of an album with what it offers whoever looks: where they may save them in more than the form that the block says, or all at once, where they are asked for their favourites, and where they buy them.</summary>
    /// <param name="walk">What they see of it: where that is something, they see the album.</param>
    /// <param name="album">Null where they are not those of one album.</param>
    public Walk Offered(Walk walk, AlbumId? album, IReadOnlyDictionary<AlbumId, AlbumOffered> all, Sight sight)
    {
        if (album is not { } alone || all.GetValueOrDefault(alone) is not var (offered, reserves, sells))
        {
            return walk;
        }

        var isKnown = sight.Viewer.IsKnown;
        var saves = offered.SavesFor(isKnown);
        var thing = new AlbumThing(Binned: false, SitePhotos.OnPage(isShown: true)) { Reserves = sight.Gates.Reserves.Of(reserves) };
        var asks = walk.Photos.Count > 0 && access.May(sight.Viewer, Right.Choose, new AlbumToChooseFrom(thing, offered.Choosing is not null));
        var buys = walk.Photos.Count > 0 && access.May(sight.Viewer, Right.Buy, new AlbumToBuyFrom(thing, sells));
        return walk with
        {
            Press = saves > walk.Press.Save ? walk.Press with { Save = saves } : walk.Press,
            SavesAll = offered.SavesAllFor(isKnown, walk.Photos.Count(p => p.Saves != Saving.Nothing)),
            AskedFor = asks ? new AskedFor(alone, offered.Choosing!) : null,
            SoldFrom = buys ? alone : null,
        };
    }
}
