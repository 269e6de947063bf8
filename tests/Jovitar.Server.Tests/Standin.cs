using System.Diagnostics;
using System.Net;
using System.Net.Http.Json;
using System.Net.Sockets;
using System.Text.Json;

namespace Jovitar.Server.Tests;

/// <summary>The simulated outside devices and services, as a program of their own.</summary>
internal sealed class Standin : IAsyncDisposable
{
    readonly Process process;
    readonly HttpClient client;

    Standin(Process process, HttpClient client, int mail) => (this.process, this.client, MailPort) = (process, client, mail);

    public string Address => client.BaseAddress!.ToString().TrimEnd('/');

    /// <summary>What its payment service signs with.</summary>
    public const string Secret = "a secret";

    /// <summary>Where its mail server listens.</summary>
    public int MailPort { get; }

    /// <param name="prints">What lies on its scanner.</param>
    public static async Task<Standin> StartAsync(string prints)
    {
        var (port, mail) = (FreePort(), FreePort());
        var client = new HttpClient(new HttpClientHandler { AllowAutoRedirect = false }) { BaseAddress = new Uri($"http://127.0.0.1:{port}") };
        var process = Process.Start(new ProcessStartInfo("dotnet", [Path.Combine(AppContext.BaseDirectory, "Jovitar.Standins.dll"), "--urls", $"http://127.0.0.1:{port}", "--prints", prints, "--mail", $"{mail}", "--key", "a key", "--secret", Secret]) { RedirectStandardOutput = true })!;
        for (var tries = 0; tries < 100; tries++)
        {
            try
            {
                (await client.GetAsync("/eSCL/ScannerStatus")).EnsureSuccessStatusCode();
                return new Standin(process, client, mail);
            }
            catch (HttpRequestException)
            {
                await Task.Delay(100);
            }
        }

        process.Kill();
        throw new InvalidOperationException("The simulated devices did not start.");
    }

    static int FreePort()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }

    /// <summary>Does something on the page of a payment, as its buyer.</summary>
    /// <param name="act">pay, decline, leave or end.</param>
    public async Task PayAsync(string page, string act = "pay")
    {
        using var answer = await client.PostAsync(page, new FormUrlEncodedContent([KeyValuePair.Create("act", act)]));
        Assert.True(answer.StatusCode is HttpStatusCode.OK or HttpStatusCode.Redirect, $"{answer.StatusCode}");
    }

    /// <summary>Sets one of them.</summary>
    public async Task SetAsync(string what, object settings) => (await client.PutAsJsonAsync($"/standin/{what}", settings)).EnsureSuccessStatusCode();

    /// <summary>Waits for letters, and gives what they say, the newest first.</summary>
    public async Task<IReadOnlyList<(string To, string Subject, string Text)>> LettersAsync(int count)
    {
        for (var end = DateTime.UtcNow.AddSeconds(30); ;)
        {
            var letters = (await client.GetFromJsonAsync<JsonElement>("/standin/outbox")).EnumerateArray().ToArray();
            if (letters.Length >= count)
            {
                return [.. letters.Select(l => (l.GetProperty("to").GetString()!, l.GetProperty("subject").GetString()!, l.GetProperty("text").GetString()!))];
            }

            Assert.True(DateTime.UtcNow < end, $"{letters.Length} of {count} letters came");
            await Task.Delay(100);
        }
    }

    /// <summary>The file that came with a letter.</summary>
    /// <param name="subject">Of the letter; it has come.</param>
    public async Task<(string Name, byte[] Bytes)> PaperAsync(string subject)
    {
        var letter = (await client.GetFromJsonAsync<JsonElement>("/standin/outbox")).EnumerateArray().First(l => l.GetProperty("subject").GetString() == subject);
        return (letter.GetProperty("papers")[0].GetProperty("name").GetString()!, await client.GetByteArrayAsync($"/outbox/{letter.GetProperty("number").GetInt32()}/0"));
    }

    /// <summary>Ends it; once is enough.</summary>
    public async ValueTask DisposeAsync()
    {
        process.Kill();
        await process.WaitForExitAsync();
        client.Dispose();
    }
}
