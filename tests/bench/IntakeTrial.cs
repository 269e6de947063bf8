using System.Diagnostics;
using System.Globalization;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text.Json;
using Npgsql;

namespace Jovitar.Bench;

/// <summary>Brings a folder of photos into a running server, four at a time, and watches it without taking its processors.</summary>
internal static class IntakeTrial
{
    /// <summary>Photos per second until all are on the sheet and until all renditions are there; resident memory before and at its highest, MiB.</summary>
    internal sealed record Outcome(double Sheet, double Complete, double Idle, double Most);

    /// <param name="times">How often the folder is brought; each copy is a photo of its own.</param>
    /// <param name="onlySheet">Ends when all are on the sheet.</param>
    public static async Task<Outcome> RunAsync(string address, string connection, int process, string folder, int times, bool onlySheet)
    {
        using var client = await SignInAsync(address);
        var intake = await BeginAsync(client);
        var files = Directory.GetFiles(folder, "*.jpg").Order(StringComparer.Ordinal).ToArray();
        await using var db = NpgsqlDataSource.Create(connection);
        var idle = Memory(process);
        var most = idle;
        Task SendAsync((string Path, int Copy)[] all) => Parallel.ForEachAsync(all, new ParallelOptions { MaxDegreeOfParallelism = 4 }, async (file, ct) =>
        {
            // Streamed from disk: the sender runs on the same processors and must take as little of them as it can.
            using var content = new StreamContent(new FileStream(Copied(file.Path, file.Copy), FileMode.Open, FileAccess.Read, FileShare.Read, 0, FileOptions.SequentialScan), 1 << 20);
            content.Headers.ContentType = new MediaTypeHeaderValue("application/octet-stream");
            (await client.PostAsync(new Uri($"/api/intakes/{intake}/files?name={Path.GetFileName(file.Path)}", UriKind.Relative), content, ct)).EnsureSuccessStatusCode();
        });
        async Task WaitAsync(Task sending, string rest)
        {
            for (; ; await Task.Delay(100))
            {
                most = Math.Max(most, Memory(process));
                await using var count = db.CreateCommand(rest);
                if (sending.IsCompleted && (long)(await count.ExecuteScalarAsync())! == 0)
                {
                    await sending;
                    return;
                }
            }
        }

        const int WarmUp = 99;
        const string NotOnSheet = "select count(*) from photo where stage = 0 and state = 'waiting'";
        foreach (var (path, copy) in files.SelectMany(f => Enumerable.Range(0, 2 * times).Append(WarmUp).Select(n => (f, n))))
        {
            Copy(path, copy);
        }

        // A server that has just started still compiles its own code; what counts is one that has been running.
        if (!onlySheet)
        {
            await WaitAsync(SendAsync([.. files.Select(f => (f, WarmUp))]), "select count(*) from photo where stage < 2");
        }

        var all = Enumerable.Range(0, onlySheet ? times : 2 * times).SelectMany(n => files.Select(f => (Path: f, Copy: n))).ToArray();
        var clock = Stopwatch.StartNew();
        var sending = SendAsync(all);
        async Task<double> UntilAsync(string rest)
        {
            await WaitAsync(sending, rest);
            return all.Length / clock.Elapsed.TotalSeconds;
        }

        var sheet = await UntilAsync(NotOnSheet);
        var outcome = new Outcome(sheet, onlySheet ? 0 : await UntilAsync("select count(*) from photo where stage < 2"), idle, most);
        Directory.Delete(Copies, recursive: true);
        return outcome;
    }

    /// <summary>A copy differs by a JPEG comment only (ITU-T T.81 B.2.4.5), so that every file is a photo of its own with the same work in it.</summary>
    static void Copy(string path, int copy)
    {
        var bytes = File.ReadAllBytes(path);
        File.WriteAllBytes(Copied(path, copy), copy == 0 ? bytes : [.. bytes.AsSpan(0, 2), 0xFF, 0xFE, 0, 6, .. BitConverter.GetBytes(copy), .. bytes.AsSpan(2)]);
    }

    static string Copied(string path, int copy) => Path.Combine(Copies, $"{copy}-{Path.GetFileName(path)}");

    static readonly string Copies = Directory.CreateTempSubdirectory("jovitar-copies").FullName;

    /// <summary>A client signed in as the demo's owner.</summary>
    internal static async Task<HttpClient> SignInAsync(string address)
    {
        var client = new HttpClient(new SocketsHttpHandler { UseCookies = true }) { BaseAddress = new Uri(address), Timeout = Timeout.InfiniteTimeSpan };
        await TokenAsync(client);
        (await client.PostAsJsonAsync("/api/session", new { email = "odile@marrambay.example", password = "wind-from-the-south-west" })).EnsureSuccessStatusCode();
        await TokenAsync(client);
        return client;
    }

    /// <summary>The key of a new intake.</summary>
    internal static async Task<string> BeginAsync(HttpClient client) =>
        (await (await client.PostAsJsonAsync("/api/intakes", new { })).Content.ReadFromJsonAsync<JsonElement>()).GetProperty("id").GetString()!;

    static async Task TokenAsync(HttpClient client)
    {
        var session = await client.GetFromJsonAsync<JsonElement>("/api/session");
        client.DefaultRequestHeaders.Remove("X-Jovitar-Forgery");
        client.DefaultRequestHeaders.Add("X-Jovitar-Forgery", session.GetProperty("forgery").GetString());
    }

    /// <summary>Resident memory, MiB (proc(5), VmRSS).</summary>
    internal static double Memory(int process) =>
        double.Parse(File.ReadLines($"/proc/{process}/status").First(l => l.StartsWith("VmRSS", StringComparison.Ordinal)).Split(' ', StringSplitOptions.RemoveEmptyEntries)[1], CultureInfo.InvariantCulture) / 1024;
}
