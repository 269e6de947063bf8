using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Favourites;
using Jovitar.Core.Photos;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Albums;
using Jovitar.Server.Favourites;
using Jovitar.Server.Platform;
using Jovitar.Server.Site.Buying;
using Jovitar.Server.Site.Drawing;
using Npgsql;

namespace Jovitar.Server.Site.Favourites;

/// <summary>A photo that a visitor has chosen.</summary>
/// <param name="Src">Where its picture is.</param>
internal sealed record ChosenFrame(PhotoId Id, string Src, string Alt);

/// <summary>What a visitor has chosen of an album, and whether they may choose on.</summary>
/// <param name="IsShared">All who came in by the same entry choose together.</param>
/// <param name="Most">So many at most.</param>
/// <param name="Full">What is said to who has chosen as many.</param>
/// <param name="Closed">Why it cannot be changed; null where it can.</param>
/// <param name="Photos">In the order in which they were chosen.</param>
/// <param name="Buy">Where they buy some of them; null where none is sold.</param>
internal sealed record ChoosingState(bool IsShared, int Most, bool IsLimited, string Full, string? Closed, bool IsSent, string Words, IReadOnlyList<ChosenFrame> Photos, string? Buy);

/// <summary>What visitors do where an album asks for their favourites: only ever with photos of it that they see.</summary>
internal sealed class SiteChoices(NpgsqlDataSource db, AccessStore access, SitePhotos visitors, ChoiceStore choices, SiteShop shop)
{
    /// <summary>An album that asks a visitor, and who they are to it.</summary>
    sealed record Asking(AlbumId Album, Choosing Choosing, KnownAs Who);

    /// <summary>What a visitor has chosen; null where nobody asks them.</summary>
    public async Task<ChoosingState?> StateAsync(AlbumId album, Sight sight, CancellationToken ct)
    {
        if (await AskingAsync(album, sight, ct) is not { } asking || await choices.FindAsync(album, asking.Who, ct) is not { } choice)
        {
            return null;
        }

        var closed = asking.Choosing.Refuses(choice.Sent, access.Now) is { } refusal ? ChoosingWords.Refused(refusal, asking.Choosing) : null;
        var seen = await SeenAsync(album, choice.Photos, sight, ct);
        return new ChoosingState(
            asking.Who.Entry is not null, asking.Choosing.Limit, asking.Choosing.Most is not null, ChoosingWords.Refused(Refusal.Full, asking.Choosing), closed, choice.Sent is not null, choice.Words,
            [.. seen.Select(p => new ChosenFrame(p.Id, SiteAddress.Of(p.Picture, Renditions.Sheet, draft: false), p.Words))], await BuyAsync([.. seen.Select(p => p.Id).Take(MarkedPhotos.Most)], sight, ct));
    }

    /// <summary>Where a visitor buys some of the photos that they chose; null where none is sold.</summary>
    async Task<string?> BuyAsync(IReadOnlyList<PhotoId> photos, Sight sight, CancellationToken ct) =>
        photos.Count > 0 && await shop.OpenAsync(ct) is { } open && (await shop.OfferedAsync(open, photos, sight, ct)).Count > 0 ? BuyingSeveral.PathOf(MarkedPhotos.Of(photos)) : null;

    /// <summary>Chooses a photo, or lets go of it.</summary>
    public async Task<ChoiceTaken> MarkAsync(AlbumId album, PhotoId photo, bool chosen, Sight sight, CancellationToken ct)
    {
        if (await AskingAsync(album, sight, ct) is not { } asking || await choices.FindAsync(album, asking.Who, ct) is not { } choice)
        {
            return ChoiceTaken.NotAsked;
        }

        // What they chose and do not see any more counts for nothing, which matters to none but who has as many as there may be.
        IReadOnlyList<Guid> before = choice.Photos.Count >= asking.Choosing.Limit ? choice.Photos : [];
        var seen = (await SeenAsync(album, [.. before.Append(photo.Value).Distinct()], sight, ct)).Select(p => p.Id.Value).ToHashSet();
        return chosen && !seen.Contains(photo.Value) ? ChoiceTaken.NotAsked : await choices.MarkAsync(album, asking.Who, photo, chosen, [.. before.Where(p => !seen.Contains(p))], ct);
    }

    /// <summary>A visitor says that they are done.</summary>
    /// <param name="words">What they say with it.</param>
    public async Task<ChoiceTaken> SendAsync(AlbumId album, string words, Sight sight, CancellationToken ct)
    {
        if (await AskingAsync(album, sight, ct) is not { } asking || await choices.FindAsync(album, asking.Who, ct) is not { } choice)
        {
            return ChoiceTaken.NotAsked;
        }

        var seen = (await SeenAsync(album, choice.Photos, sight, ct)).Select(p => p.Id.Value).ToHashSet();
        return await choices.SendAsync(album, asking.Who, words, [.. choice.Photos.Where(p => !seen.Contains(p))], ct);
    }

    /// <summary>Whether an album asks a visitor.</summary>
    async Task<Asking?> AskingAsync(AlbumId album, Sight sight, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select {AccessStore.ThingColumns("album")}, {OfferStore.Columns("t")}
              from album as t
             {AccessStore.ThingJoins("album")}
             where t.id = @album and t.has_choosing
            """,
            ("album", album.Value), ("shut", sight.Shut));
        var found = await command.FirstAsync(r => Tuple.Create((AlbumThing)AccessStore.ThingOf("album", r, sight.Gates), OfferStore.Read(r).Choosing), ct);
        return found is (var thing, { } choosing) && access.May(sight.Viewer, Right.Choose, new AlbumToChooseFrom(thing, Asks: true)) && sight.KnownTo(thing.Gates) is { } who
            ? new Asking(album, choosing, who)
            : null;
    }

    /// <summary>Those of some photos that are in an album, as a visitor sees them, in the order given.</summary>
    async Task<IReadOnlyList<SitePhoto>> SeenAsync(AlbumId album, IReadOnlyList<Guid> photos, Sight sight, CancellationToken ct)
    {
        if (photos.Count == 0)
        {
            return [];
        }

        await using var command = db.Command(
            $"""
            select {SitePhotos.Columns}
              from unnest(@photos) with ordinality as o(photo, n)
              join album_photo as ap on ap.album = @album and ap.photo = o.photo
              join photo as p on p.id = o.photo
             order by o.n
            """,
            ("album", album.Value), ("photos", photos.ToArray()), ("shut", sight.Shut), ("marking", sight.Marking));
        return [.. (await command.AllAsync(r => visitors.Read(r, SitePhotos.OnPage(isShown: true), sight), ct)).OfType<SitePhoto>()];
    }
}
