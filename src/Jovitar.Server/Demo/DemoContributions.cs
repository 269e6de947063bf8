using Jovitar.Core;
using Jovitar.Core.Contributions;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Albums;
using Jovitar.Server.Contributions;
using Jovitar.Server.Intake;
using Jovitar.Server.Platform.Storing;

namespace Jovitar.Server.Demo;

/// <summary>How photos are sent in to the demo's site, and what was.</summary>
/// <param name="Offered">Categories that members may put albums of their own into.</param>
/// <param name="Senders">Members who send photos in, by their addresses.</param>
internal sealed record DemoContributed(IReadOnlyList<string> Offered, IReadOnlyList<DemoLink> Links, IReadOnlyList<string> Senders, IReadOnlyList<DemoSent> Sent);

/// <param name="Album">Where accepted photos are put.</param>
internal sealed record DemoLink(string Title, string Words, string Agree, string Album, int Most);

/// <summary>What somebody sent in, and nobody has decided on.</summary>
/// <param name="Member">Their address; null for who sent it by a link.</param>
/// <param name="Album">What the album is called that is made of it; null for none.</param>
internal sealed record DemoSent(string? Member, string? Name, string? Email, string? Link, string Words, string? Album, string? Category, IReadOnlyList<DemoSentPhoto> Photos);

internal sealed record DemoSentPhoto(string File);

/// <summary>Has photos sent in to the demo's site.</summary>
internal sealed class DemoContributions(
    AlbumStore albums, LinkStore links, DecidingStore deciding, ContributionStore contributions, SentFiles files, SentStore sent, Arrivals arrivals, Receiver receiver, AccountStore accounts)
{
    /// <param name="open">Opens the file of a photo by its name.</param>
    public async Task MakeAsync(DemoContributed said, Func<string, Stream> open, IReadOnlyDictionary<string, CategoryId> categories, Actor owner, CancellationToken ct)
    {
        var all = (await albums.ListAsync(null, ct)).ToDictionary(a => a.WorkingName, a => a.Id);
        await deciding.OfferAsync(owner, [.. said.Offered.Select(c => categories[c])], ct);
        foreach (var link in said.Links)
        {
            await links.MakeAsync(owner, new LinkWords(link.Title, link.Words, link.Agree, null, ForMembers: false, link.Most), all[link.Album], ct);
        }

        foreach (var email in said.Senders)
        {
            await deciding.SayAsync(owner, (await accounts.FindAsync(email, ct))!.Id, Contributing.Waits, ct);
        }

        var made = await links.ListAsync(ct);
        foreach (var one in said.Sent)
        {
            var member = one.Member is { } email ? (await accounts.FindAsync(email, ct))!.Id : (Guid?)null;
            var link = one.Link is { } title ? made.First(l => l.Title == title).Id : (Guid?)null;
            await SendAsync(one, Sender.Of(await contributions.BeginAsync(link, member, ct), member)!, open, categories, ct);
        }
    }

    async Task SendAsync(DemoSent one, Sender sender, Func<string, Stream> open, IReadOnlyDictionary<string, CategoryId> categories, CancellationToken ct)
    {
        var limits = await receiver.LimitsAsync(ct);
        foreach (var photo in one.Photos)
        {
            await using var from = open(photo.File);
            var arrived = await arrivals.ReceiveAsync(from, long.MaxValue, ct);
            try
            {
                var (looked, fault) = await files.LookAsync(arrived, limits, ct);
                await contributions.AddAsync(sender, photo.File, arrived, looked ?? throw new InvalidDataException($"{photo.File}: {fault}"), ct);
            }
            finally
            {
                await arrivals.DropAsync(arrived);
            }
        }

        var album = one.Album is null ? AlbumWish.None : new AlbumWish(Title: one.Album, Category: one.Category is null ? null : categories[one.Category]);
        var found = (await sent.FindAsync(sender, ct))!;
        await contributions.SendAsync(sender, new SendWish(one.Name ?? found.Name, one.Email ?? "", one.Words, Agreed: true), album, place: null, ct);
    }
}
