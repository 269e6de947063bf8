using Jovitar.Core.People;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Mailing;

namespace Jovitar.Server.Sales.Ordering;

/// <summary>Letters to buyers about their orders.</summary>
internal sealed class BuyerLetters(LetterStore letters, MailSettings mail, SettingsStore settings)
{
    /// <summary>They say something for so long.</summary>
    static readonly TimeSpan Hold = TimeSpan.FromDays(3);

    /// <summary>Puts a letter in the queue, where letters leave at all.</summary>
    /// <param name="write">Makes it of the site's title.</param>
    /// <param name="paper">Draws what comes with it; null for nothing.</param>
    public async Task PutAsync(Transaction tx, Buyer buyer, DateTimeOffset now, Func<string, Letter> write, CancellationToken ct, Func<LetterPaper>? paper = null)
    {
        if (mail.IsSet && !buyer.IsForgotten)
        {
            var letter = write((await settings.ReadAsync(ct)).Title);
            await letters.PutAsync(tx, buyer.Name, buyer.Email, letter.Subject, letter.Text, now + Hold, ct, paper?.Invoke());
        }
    }
}
