using Jovitar.Core.People;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Mailing;

namespace Jovitar.Server.People;

/// <summary>Letters to each owner about what visitors did.</summary>
internal sealed class OwnerLetters(LetterStore letters, MailSettings mail, SettingsStore settings, ServerSettings server)
{
    /// <summary>They say something for so long.</summary>
    static readonly TimeSpan Hold = TimeSpan.FromDays(7);

    /// <summary>Puts a letter to each owner in the queue, where letters leave at all.</summary>
    /// <param name="write">Makes it of the site's title, the owner's name, and where the site is to be reached; null where nobody knows that.</param>
    public async Task PutAsync(Transaction tx, DateTimeOffset now, Func<string, string, string?, Letter> write, CancellationToken ct)
    {
        if (!mail.IsSet)
        {
            return;
        }

        await using var owners = tx.Command(
            """
            select o.name, o.email, (select k.address from known_origin as k order by k.seen desc limit 1) as known
              from account as o
             where o.role = 'Owner'
             order by o.id
            """);
        var all = await owners.AllAsync(r => (Name: r.Get<string>("name"), Email: r.Get<string>("email"), Known: r.MaybeText("known")), ct);
        var title = (await settings.ReadAsync(ct)).Title;
        foreach (var owner in all)
        {
            var letter = write(title, owner.Name, server.Address?.GetLeftPart(UriPartial.Authority) ?? owner.Known);
            await letters.PutAsync(tx, owner.Name, owner.Email, letter.Subject, letter.Text, now + Hold, ct);
        }
    }
}
