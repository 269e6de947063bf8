using System.Net.Sockets;
using MailKit;
using MailKit.Net.Smtp;
using MailKit.Security;
using MimeKit;

namespace Jovitar.Server.Platform.Mailing;

/// <summary>Hands letters to the mail server (SMTP, RFC 5321). A letter may come twice where a process ends between handing it over and noting that; it is never lost.</summary>
internal sealed class LetterWorker(LetterStore letters, MailSettings settings, SettingsStore site, TimeProvider clock, ILogger<LetterWorker> log) : RegularWorker(TimeSpan.FromSeconds(1), "Sending letters", clock, log)
{
    /// <summary>What was not taken so often is given up.</summary>
    const int MostTries = 40;

    static readonly TimeSpan Patience = TimeSpan.FromSeconds(20);

    protected override async Task DoAsync(DateTimeOffset now, CancellationToken ct)
    {
        if (settings.Server is not { } server)
        {
            return;
        }

        await letters.GiveUpLateAsync(ct);
        // One line for all that wait.
        using var line = new SmtpClient { Timeout = (int)Patience.TotalMilliseconds };
        while (await letters.TakeAsync(ct) is { } letter)
        {
            try
            {
                if (!line.IsConnected)
                {
                    await line.ConnectAsync(server.Host, server.Port, server.Secured, ct);
                    if (server.User is { } user)
                    {
                        await line.AuthenticateAsync(user, server.Password, ct);
                    }
                }

                using var message = Written(letter, server.From.Name is { Length: > 0 } ? server.From : new MailboxAddress((await site.ReadAsync(ct)).Title, server.From.Address));
                await line.SendAsync(message, ct);
                await letters.SentAsync(letter.Id, ct);
            }
            catch (Exception e) when (e is not (OperationCanceledException or Npgsql.NpgsqlException))
            {
                var (fault, forGood) = Said(e, server, line.IsConnected);
                log.LogWarning(e, "A letter could not be sent: {Fault}", fault);
                await letters.FailedAsync(letter, fault, forGood || letter.Tries >= MostTries, ct);
                if (e is IOException or SocketException or TimeoutException or AuthenticationException or SslHandshakeException)
                {
                    // The others wait for the server as well.
                    return;
                }
            }
        }

        if (line.IsConnected)
        {
            await line.DisconnectAsync(quit: true, ct);
        }
    }

    static MimeMessage Written(DueLetter letter, MailboxAddress from)
    {
        var body = new BodyBuilder { TextBody = letter.Body };
        if (letter.Paper is { } paper)
        {
            body.Attachments.Add(paper.Name, paper.Pdf, new ContentType("application", "pdf"));
        }

        var message = new MimeMessage { Subject = letter.Subject, Date = letter.Made, Body = body.ToMessageBody(), MessageId = $"{letter.Id:N}@{from.Domain}" };
        message.From.Add(from);
        message.To.Add(new MailboxAddress(letter.ToName, letter.ToAddress));
        // What is written by a program is not answered by one (RFC 3834).
        message.Headers.Add("Auto-Submitted", "auto-generated");
        return message;
    }

    /// <summary>What went wrong in a sentence, and whether it will be so every time: answers from 500 on are for good (RFC 5321 §4.2.1).</summary>
    /// <param name="isConnected">The server was reached.</param>
    static (string Fault, bool ForGood) Said(Exception e, MailServer server, bool isConnected) => e switch
    {
        SmtpCommandException { ErrorCode: SmtpErrorCode.RecipientNotAccepted } refused => ("The mail server does not take letters to this address.", (int)refused.StatusCode >= 500),
        SmtpCommandException { ErrorCode: SmtpErrorCode.SenderNotAccepted } => ($"The mail server does not take letters from {server.From.Address}.", false),
        SmtpCommandException refused => ($"The mail server did not take it ({(int)refused.StatusCode}).", (int)refused.StatusCode >= 500),
        AuthenticationException => ("The mail server does not take the name and password that it is given.", false),
        SslHandshakeException => ("The line to the mail server could not be made secret.", false),
        NotSupportedException when !isConnected => ("The line to the mail server could not be made secret.", false),
        // An address with letters that the server has no way to write (RFC 6531).
        NotSupportedException => ("The mail server does not take letters to this address.", true),
        IOException or SocketException or TimeoutException or SmtpProtocolException or ServiceNotConnectedException => ("The mail server does not answer.", false),
        _ => ("This letter could not be written.", false),
    };
}
