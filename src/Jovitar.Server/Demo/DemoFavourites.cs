using Jovitar.Core;
using Jovitar.Core.Albums;
using Jovitar.Core.Favourites;
using Jovitar.Core.Pages;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Access.Entries;
using Jovitar.Server.Acts;
using Jovitar.Server.Albums;
using Jovitar.Server.Favourites;

namespace Jovitar.Server.Demo;

/// <summary>What an album of the demo offers those whom it knows.</summary>
/// <param name="Most">So many favourites it asks for.</param>
internal sealed record DemoAsked(string Album, Saving KnownSave, int? Most, string Asks, IReadOnlyList<DemoChoice> Choices);

/// <summary>What somebody chose of it.</summary>
/// <param name="Entry">For whom the entry is that they came by; null for a member.</param>
/// <param name="Member">Their address.</param>
/// <param name="Sent">What they say with it; null where they are not done.</param>
internal sealed record DemoChoice(string? Entry, string? Member, IReadOnlyList<string> Photos, string? Sent);

/// <summary>Has albums of the demo ask for favourites, and some choose.</summary>
internal sealed class DemoFavourites(AlbumStore albums, OfferStore offers, ChoiceStore choices, EntryStore entries, AccountStore accounts)
{
    public async Task MakeAsync(IEnumerable<DemoAsked> said, IReadOnlyDictionary<string, PhotoId> photos, Actor owner, CancellationToken ct)
    {
        var all = (await albums.ListAsync(null, ct)).ToDictionary(a => a.WorkingName, a => a.Id);
        foreach (var each in said)
        {
            var album = all[each.Album];
            await offers.SayAsync(owner, album, new AlbumOffers(Saving.Nothing, each.KnownSave, new Choosing(each.Most, null, each.Asks)), (await offers.FindAsync(album, ct))!, ct);
            foreach (var choice in each.Choices)
            {
                var who = choice.Member is { } email
                    ? new KnownAs((await accounts.FindAsync(email, ct))!.Id, null)
                    : new KnownAs(null, (await entries.ListAsync(album.Value, ct)).First(e => e.Name == choice.Entry).Id);
                foreach (var photo in choice.Photos)
                {
                    await choices.MarkAsync(album, who, photos[photo], chosen: true, [], ct);
                }

                if (choice.Sent is { } words)
                {
                    await choices.SendAsync(album, who, words, [], ct);
                }
            }
        }
    }
}
