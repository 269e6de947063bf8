using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text.Json;
using Jovitar.Server.Platform;
using Jovitar.Server.Verify;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.AspNetCore.TestHost;
using Microsoft.Extensions.DependencyInjection;
using NetVips;
using Npgsql;

// Some tests wait for others (processes that are killed, claims that run out): one more at a time keeps both cores at work.
[assembly: CollectionBehavior(MaxParallelThreads = 3)]

namespace Jovitar.Server.Tests;

/// <summary>
/// One running site for a test: the real server on a database of its own in the PostgreSQL that ./test started
/// (environment JOVITAR_TEST_DATABASE), with storage in a folder of its own.
/// </summary>
internal sealed class Site : IAsyncDisposable
{
    static readonly string SharedServer = Environment.GetEnvironmentVariable("JOVITAR_TEST_DATABASE") ?? throw new InvalidOperationException("Run these tests with ./test server, which starts PostgreSQL and says where it is.");

    /// <summary>A database in which the migrations have run, made once for all tests: copying it takes a tenth of the time.</summary>
    static readonly Lazy<string> Migrated = new(() =>
    {
        var name = $"t{Guid.NewGuid():N}_migrated";
        using var admin = NpgsqlDataSource.Create($"{SharedServer};Database=postgres;Pooling=false");
        using (var make = admin.CreateCommand($"create database {name}"))
        {
            make.ExecuteNonQuery();
        }

        Database.Migrate($"{SharedServer};Database={name};Pooling=false");
        using var made = NpgsqlDataSource.Create($"{SharedServer};Database={name};Pooling=false");
        using var open = made.CreateCommand(Opened);
        open.ExecuteNonQuery();
        return name;
    });

    /// <summary>Opens the site as if it had always been open: most tests are about what visitors find.</summary>
    const string Opened = "select set_config('jovitar.act', gen_random_uuid()::text, true); update site set is_open = true; delete from act_change where kind = 'site'";

    readonly string database = $"t{Guid.NewGuid():N}";
    readonly List<WebApplicationFactory<Program>> processes = [];

    /// <summary>It was made of the database that is open already, or was opened since.</summary>
    bool isOpen;

    public string Data { get; private init; } = Directory.CreateTempSubdirectory("jovitar-server").FullName;

    /// <summary>How many originals lie in its folder.</summary>
    public int Originals() => Directory.GetFiles(Path.Combine(Data, "originals"), "*", SearchOption.AllDirectories).Length;

    /// <summary>The PostgreSQL it lives in, without a database.</summary>
    public string Server { get; private init; } = SharedServer;

    public string Connection => $"{Server};Database={database};Maximum Pool Size=20";

    public NpgsqlDataSource Db { get; private set; } = null!;

    /// <summary>Starts a site with this many workers; 0 leaves everything waiting.</summary>
    /// <param name="server">A PostgreSQL of its own, or null for the shared one.</param>
    /// <param name="data">A data folder of its own, or null for a new one.</param>
    /// <param name="process">False when the test starts processes of its own.</param>
    /// <param name="mail">The port on loopback to which it hands its letters; null for a site that writes none.</param>
    /// <param name="payments">The address of its payment service; empty for none.</param>
    /// <param name="empty">Its database has nothing in it, not even tables.</param>
    public static async Task<Site> StartAsync(int workers = 2, string? server = null, string? data = null, bool process = true, string scanners = "", bool empty = false, int? mail = null, string payments = "")
    {
        var site = new Site { Server = server ?? SharedServer };
        if (data is not null)
        {
            Directory.Delete(site.Data);
            Directory.CreateDirectory(data);
            site = new Site { Server = site.Server, Data = data };
        }

        await using (var admin = NpgsqlDataSource.Create($"{site.Server};Database=postgres;Pooling=false"))
        await using (var make = admin.CreateCommand($"create database {site.database}{(empty || server is not null ? "" : $" template {Migrated.Value} strategy file_copy")}"))
        {
            await make.ExecuteNonQueryAsync();
        }

        site.isOpen = !empty && server is null;
        site.Db = NpgsqlDataSource.Create(site.Connection);
        if (process)
        {
            site.Process(workers, scanners: scanners, mail: mail, payments: payments);
        }

        return site;
    }

    /// <summary>Another server process on the same database and storage.</summary>
    /// <param name="db">Its way to the database, where that is not the usual one.</param>
    public WebApplicationFactory<Program> Process(int workers, TimeSpan? lease = null, string scanners = "", Func<NpgsqlDataSource>? db = null, int? mail = null, string payments = "")
    {
        var process = new WebApplicationFactory<Program>().WithWebHostBuilder(host => host
            .ConfigureTestServices(services =>
            {
                // A password is as good as any other here: none of them is to be guessed slowly.
                services.Configure<PasswordHasherOptions>(o => o.IterationCount = 1);
                if (db is not null)
                {
                    services.AddSingleton(_ => db());
                }
            })
            .UseSetting("Jovitar:Data", Data).UseSetting("Jovitar:Database", Connection)
            .UseSetting("Jovitar:Workers", $"{workers}").UseSetting("Jovitar:Lease", $"{lease ?? TimeSpan.FromSeconds(30)}").UseSetting("Jovitar:Log", "Fatal").UseSetting("Jovitar:WatchEvery", "00:00:00.3").UseSetting("Jovitar:VisitsWrittenEvery", "00:00:00.2").UseSetting("Jovitar:VisitsSummedEvery", "00:00:00.4").UseSetting("Jovitar:Scanners", scanners).UseSetting("Jovitar:Mail", mail is { } port ? $"smtp://127.0.0.1:{port}" : "").UseSetting("Jovitar:MailFrom", "site@example.test").UseSetting("Jovitar:Payments", payments).UseSetting("Jovitar:PaymentsKey", "a key").UseSetting("Jovitar:PaymentsSecret", Standin.Secret).UseSetting("Jovitar:PaymentsAskedEvery", "00:00:00.3"));
        processes.Add(process);
        _ = process.Server;
        return process;
    }

    /// <summary>What the server is made of, for what no request can reach.</summary>
    public T Part<T>() where T : notnull => (T)processes[^1].Services.GetService(typeof(T))!;

    /// <summary>Checks the data folder as ./verify does; fails with what it says.</summary>
    public async Task VerifyAsync()
    {
        await using var said = new StringWriter();
        Assert.True(await DataCheck.RunAsync(Data, Connection, said, CancellationToken.None), said.ToString());
    }

    public HttpClient Visitor() => processes[^1].CreateClient(new WebApplicationFactoryClientOptions { AllowAutoRedirect = false });

    /// <summary>A browser of the owner's, signed in, with the token its unsafe requests carry.</summary>
    public async Task<HttpClient> OwnerAsync()
    {
        var client = Visitor();
        await TokenAsync(client);
        var made = await client.PostAsJsonAsync("/api/owner", new { siteTitle = "Trial", name = "Odile", email = "odile@example.test", password = "ten characters and more" });
        if (made.IsSuccessStatusCode && !isOpen)
        {
            // By a line of its own: the others are not to know of a database that may be stopped next.
            await using var line = NpgsqlDataSource.Create($"{Connection};Pooling=false");
            await using var open = line.CreateCommand(Opened);
            await open.ExecuteNonQueryAsync();
            isOpen = true;
        }

        if (made.StatusCode == HttpStatusCode.Conflict)
        {
            made = await client.PostAsJsonAsync("/api/session", new { email = "odile@example.test", password = "ten characters and more" });
        }

        made.EnsureSuccessStatusCode();
        await TokenAsync(client);
        return client;
    }

    /// <summary>A browser of another person's who may edit, signed in.</summary>
    public Task<HttpClient> EditorAsync(string name) => AccountAsync(name, "Editor");

    /// <summary>A browser signed in to an account of its own.</summary>
    /// <param name="role">What it may do: None, Editor, Owner.</param>
    public async Task<HttpClient> AccountAsync(string name, string role)
    {
        var email = $"{name.ToLowerInvariant()}@example.test";
        await using (var make = Db.CreateCommand(
            "insert into account (id, email, email_key, name, role, password_hash, made) select gen_random_uuid(), @email, @email, @name, @role, password_hash, now() from account order by made limit 1 on conflict do nothing"))
        {
            make.Parameters.AddWithValue("email", email);
            make.Parameters.AddWithValue("name", name);
            make.Parameters.AddWithValue("role", role);
            await make.ExecuteNonQueryAsync();
        }

        var client = Visitor();
        await TokenAsync(client);
        (await client.PostAsJsonAsync("/api/session", new { email, password = "ten characters and more" })).EnsureSuccessStatusCode();
        await TokenAsync(client);
        return client;
    }

    public static async Task TokenAsync(HttpClient client)
    {
        var session = await client.GetFromJsonAsync<JsonElement>("/api/session");
        client.DefaultRequestHeaders.Remove("X-Jovitar-Forgery");
        client.DefaultRequestHeaders.Add("X-Jovitar-Forgery", session.GetProperty("forgery").GetString());
    }

    public async Task<T> ScalarAsync<T>(string sql)
    {
        await using var command = Db.CreateCommand(sql);
        return (T)(await command.ExecuteScalarAsync())!;
    }

    /// <summary>Writes to the database past every door, as if in an act.</summary>
    public async Task WriteAsync(string sql)
    {
        await using var command = Db.CreateCommand($"select set_config('jovitar.act', gen_random_uuid()::text, true); {sql}");
        // Some write a hundred thousand rows, on whatever machine.
        command.CommandTimeout = 300;
        await command.ExecuteNonQueryAsync();
    }

    /// <summary>Waits until a count of the database is what it should become, however long that takes on a slow machine; fails when it has stood still for too long.</summary>
    public async Task UntilAsync(string sql, long expected, int seconds = 60)
    {
        long? before = null;
        for (var end = DateTime.UtcNow.AddSeconds(seconds); ;)
        {
            var found = await ScalarAsync<long>(sql);
            if (found == expected)
            {
                return;
            }

            if (found != before)
            {
                (before, end) = (found, DateTime.UtcNow.AddSeconds(seconds));
            }

            Assert.True(DateTime.UtcNow < end, $"{sql} stayed at {found} and did not become {expected}");
            await Task.Delay(50);
        }
    }

    public async ValueTask DisposeAsync()
    {
        foreach (var process in processes)
        {
            await process.DisposeAsync();
        }

        await Db.DisposeAsync();
        await using var admin = NpgsqlDataSource.Create($"{Server};Database=postgres;Pooling=false");
        await using var drop = admin.CreateCommand($"drop database if exists {database} with (force)");
        await drop.ExecuteNonQueryAsync();
        try
        {
            Directory.Delete(Data, recursive: true);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            // A name that is no text is nothing that .NET could remove.
            using var remove = System.Diagnostics.Process.Start("rm", ["-rf", Data]);
            await remove.WaitForExitAsync();
        }
    }
}

/// <summary>What tests do with a site, in words.</summary>
internal static class Acts
{
    /// <summary>A JPEG of one colour with a little noise, so that no two are the same.</summary>
    public static byte[] Photo(int seed, int width = 900, int height = 600)
    {
        using var noise = Image.Gaussnoise(width, height, mean: 100 + (seed % 80), sigma: 6, seed: seed + 1);
        using var bytes = noise.Cast(Enums.BandFormat.Uchar);
        using var three = bytes.Bandjoin(bytes, bytes).Copy(interpretation: Enums.Interpretation.Srgb);
        return three.JpegsaveBuffer(q: 80);
    }

    public static async Task<string> IntakeAsync(this HttpClient client, string? album = null) =>
        (await (await client.PostAsJsonAsync("/api/intakes", new { album })).ReadAsync()).GetProperty("id").GetString()!;

    public static async Task<JsonElement> BringAsync(this HttpClient client, string intake, string name, byte[] bytes)
    {
        using var content = new ByteArrayContent(bytes);
        content.Headers.ContentType = new MediaTypeHeaderValue("application/octet-stream");
        return await (await client.PostAsync($"/api/intakes/{intake}/files?name={Uri.EscapeDataString(name)}", content)).ReadAsync();
    }

    public static async Task<JsonElement> ReadAsync(this HttpResponseMessage response)
    {
        var text = await response.Content.ReadAsStringAsync();
        Assert.True(response.IsSuccessStatusCode, $"{(int)response.StatusCode} {text}");
        return JsonDocument.Parse(text).RootElement;
    }

    public static async Task<HttpResponseMessage> SendAsync(this HttpClient client, HttpMethod method, string address, object? body, long? version = null)
    {
        using var request = new HttpRequestMessage(method, address) { Content = body is null ? null : JsonContent.Create(body) };
        if (version is { } v)
        {
            request.Headers.TryAddWithoutValidation("If-Match", $"{v}");
        }

        return await client.SendAsync(request);
    }

    /// <summary>Publishes a page as it is now.</summary>
    public static async Task<HttpResponseMessage> PublishAsync(this HttpClient client, string page)
    {
        var edited = (await (await client.GetAsync($"/api/pages/{page}")).ReadAsync()).GetProperty("edited").GetInt64();
        return await client.SendAsync(HttpMethod.Post, $"/api/pages/{page}/publish", null, edited);
    }

    /// <summary>Writes a page and publishes it; makes one where none is said.</summary>
    public static async Task<string> ShownAsync(this HttpClient client, string? page, string address, object draft)
    {
        page ??= (await (await client.PostAsJsonAsync("/api/pages", new { title = address })).ReadAsync()).GetProperty("id").GetString()!;
        await (await client.DraftAsync(page, address, draft)).ReadAsync();
        await (await client.PublishAsync(page)).ReadAsync();
        return page;
    }

    /// <summary>Empties the bin as it is now.</summary>
    public static async Task<JsonElement> EmptyBinAsync(this HttpClient client)
    {
        var seen = await (await client.GetAsync("/api/bin")).ReadAsync();
        return await (await client.PostAsJsonAsync("/api/bin/empty", new { until = seen.GetProperty("until").GetString() })).ReadAsync();
    }

    /// <summary>Takes back what an answer says was done.</summary>
    public static async Task<JsonElement> UndoAsync(this HttpClient client, JsonElement answer)
    {
        var done = answer.TryGetProperty("done", out var within) ? within : answer;
        return await (await client.PostAsync($"/api/acts/{done.GetProperty("act").GetString()}/undo", null)).ReadAsync();
    }

    /// <summary>An album with photos that are ready, and its published page's address.</summary>
    public static async Task<(string Album, string[] Photos, string Page, string Address)> PublishedAsync(this Site site, HttpClient owner, int count = 3)
    {
        var album = (await (await owner.PostAsJsonAsync("/api/albums", new { workingName = "Trial album" })).ReadAsync()).GetProperty("id").GetString()!;
        var intake = await owner.IntakeAsync(album);
        var photos = new string[count];
        for (var i = 0; i < count; i++)
        {
            photos[i] = (await owner.BringAsync(intake, $"p{i}.jpg", Photo(i))).GetProperty("photo").GetString()!;
        }

        await site.UntilAsync("select count(*) from photo where state = 'ready'", count);
        var page = await (await owner.PostAsJsonAsync("/api/pages", new { album })).ReadAsync();
        await (await owner.PublishAsync(page.GetProperty("id").GetString()!)).ReadAsync();
        return (album, photos, page.GetProperty("id").GetString()!, page.GetProperty("address").GetString()!);
    }
}
