using System.Buffers;
using System.Text.Json.Serialization;
using MimeKit;
using SmtpServer;
using SmtpServer.Mail;
using SmtpServer.Protocol;
using SmtpServer.Storage;

namespace Jovitar.Standins.Outbox;

/// <summary>How the simulated mail server takes letters; the demo and the tests set it.</summary>
internal enum Mood
{
    Takes,

    /// <summary>It cannot take them just now (RFC 5321, answer 452).</summary>
    Busy,

    /// <summary>It takes none to anybody (RFC 5321, answer 550).</summary>
    Refuses,
}

/// <summary>A letter that was handed over; none of them ever leaves this machine.</summary>
/// <param name="Number">Counted from 1.</param>
/// <param name="Papers">What came with it.</param>
internal sealed record KeptLetter(int Number, string From, string To, string Subject, string Text, IReadOnlyList<KeptPaper> Papers, DateTimeOffset Came);

/// <summary>A file that came with a letter.</summary>
internal sealed record KeptPaper(string Name, string Type, [property: JsonIgnore] byte[] Bytes);

/// <summary>The letters that the simulated mail server has taken, newest first.</summary>
internal sealed class Tray : MessageStore
{
    const int Most = 500;

    readonly Lock gate = new();
    readonly LinkedList<KeptLetter> letters = [];
    int count;

    public Mood Mood { get; set; }

    public IReadOnlyList<KeptLetter> All
    {
        get
        {
            lock (gate)
            {
                return [.. letters];
            }
        }
    }

    public override async Task<SmtpResponse> SaveAsync(ISessionContext context, IMessageTransaction transaction, ReadOnlySequence<byte> buffer, CancellationToken cancellationToken)
    {
        if (Mood == Mood.Busy)
        {
            return new SmtpResponse(SmtpReplyCode.InsufficientStorage, "come again");
        }

        await using var bytes = new MemoryStream(buffer.ToArray());
        using var read = await MimeMessage.LoadAsync(bytes, cancellationToken);
        var papers = new List<KeptPaper>();
        foreach (var part in read.Attachments.OfType<MimePart>().Where(p => p.Content is not null))
        {
            using var decoded = new MemoryStream();
            await part.Content!.DecodeToAsync(decoded, cancellationToken);
            papers.Add(new KeptPaper(part.FileName ?? "", part.ContentType.MimeType, decoded.ToArray()));
        }

        lock (gate)
        {
            letters.AddFirst(new KeptLetter(++count, read.From.ToString(), read.To.ToString(), read.Subject ?? "", read.TextBody ?? "", papers, DateTimeOffset.UtcNow));
            while (letters.Count > Most)
            {
                letters.RemoveLast();
            }
        }

        return SmtpResponse.Ok;
    }
}

/// <summary>Whom the simulated mail server takes letters for.</summary>
internal sealed class Recipients(Tray tray) : MailboxFilter
{
    public override Task<bool> CanDeliverToAsync(ISessionContext context, IMailbox to, IMailbox from, CancellationToken cancellationToken) => Task.FromResult(tray.Mood != Mood.Refuses);
}
