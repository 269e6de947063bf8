using System.Net;
using System.Text.Encodings.Web;
using System.Text.RegularExpressions;
using SmtpServer;

namespace Jovitar.Standins.Outbox;

/// <summary>Settings of the simulation.</summary>
/// <param name="Mood">takes, busy or refuses.</param>
internal sealed record OutboxSettings(Mood Mood);

/// <summary>A mail server (SMTP, RFC 5321) that keeps what it is handed, and shows it on a page.</summary>
internal static partial class OutboxEndpoints
{
    public static void MapOutbox(this IEndpointRouteBuilder app)
    {
        app.MapGet("/outbox", (Tray tray) => Results.Content(Page(tray.All), "text/html; charset=utf-8"));
        app.MapGet("/outbox/{letter:int}/{paper:int}", (int letter, int paper, Tray tray) =>
            tray.All.FirstOrDefault(l => l.Number == letter)?.Papers.ElementAtOrDefault(paper) is { } found ? Results.Bytes(found.Bytes, found.Type) : Results.NotFound());
        app.MapGet("/standin/outbox", (Tray tray) => tray.All);
        app.MapPut("/standin/outbox", (OutboxSettings settings, Tray tray) =>
        {
            tray.Mood = settings.Mood;
            return Results.NoContent();
        });
    }

    /// <summary>Listens on loopback until the program ends.</summary>
    public static Task ListenAsync(Tray tray, int port, CancellationToken ct)
    {
        var options = new SmtpServerOptionsBuilder().ServerName("localhost").Endpoint(e => e.Endpoint(new IPEndPoint(IPAddress.Loopback, port))).Build();
        var parts = new SmtpServer.ComponentModel.ServiceProvider();
        parts.Add(tray);
        parts.Add(new Recipients(tray));
        return new SmtpServer.SmtpServer(options, parts).StartAsync(ct);
    }

    static string Page(IReadOnlyList<KeptLetter> letters) =>
        $$"""
        <!doctype html>
        <html lang="en">
        <meta charset="utf-8">
        <meta name="viewport" content="width=device-width">
        <title>Letters</title>
        <style>
          body { margin: 0 auto; max-width: 44rem; padding: 3rem 1.25rem; font: 1rem/1.5 Georgia, serif; color: #26221c; background: #f6f2ea; }
          h1 { font-weight: 400; font-size: 2rem; margin: 0; }
          h2 { font-size: 1.2rem; margin: 0 0 .25rem; }
          article { margin-top: 1.5rem; padding: 1.5rem 1.75rem; background: #fffdf8; border: 1px solid #d9d0bf; }
          .to { margin: 0 0 1rem; color: #6b6254; font-size: .9rem; }
          pre { margin: 0; font: inherit; white-space: pre-wrap; overflow-wrap: anywhere; }
          a { color: #6d2144; }
          p.lead { color: #6b6254; margin: .25rem 0 0; }
        </style>
        <h1>Letters</h1>
        <p class="lead">A simulated mail server: what the site writes comes here, and nothing leaves this machine.</p>
        {{(letters.Count == 0 ? "<p>None has come yet.</p>" : string.Concat(letters.Select(Article)))}}
        """;

    static string Article(KeptLetter letter) =>
        $"""
        <article>
          <h2>{Html(letter.Subject)}</h2>
          <p class="to">To {Html(letter.To)}, from {Html(letter.From)}, {letter.Came:HH:mm:ss} UTC</p>
          <pre>{Links().Replace(Html(letter.Text.Trim()), m => $"<a href=\"{m.Value}\">{m.Value}</a>")}</pre>
          {string.Concat(letter.Papers.Select((p, i) => $"<p class=\"to\"><a href=\"/outbox/{letter.Number}/{i}\">{Html(p.Name)}</a></p>"))}
        </article>
        """;

    static string Html(string text) => HtmlEncoder.Default.Encode(text).Replace("&#xA;", "\n", StringComparison.Ordinal).Replace("&#xD;", "", StringComparison.Ordinal);

    [GeneratedRegex(@"https?://[^\s<>""]+")]
    private static partial Regex Links();
}
