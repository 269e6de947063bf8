using System.Diagnostics;
using System.Net;
using System.Net.Http.Json;
using System.Net.Sockets;
using System.Text;

namespace Jovitar.Server.Tests;

/// <summary>A process of its own for all attacks.</summary>
public sealed class AttackedSite : IAsyncLifetime
{
    internal Site Site { get; private set; } = null!;

    internal HttpClient Owner { get; private set; } = null!;

    Process process = null!;

    public async Task InitializeAsync()
    {
        Site = await Site.StartAsync(process: false);
        (process, Owner) = await ServerProcess.StartAsync(Site, ("Jovitar__Workers", "1"));
    }

    public async Task DisposeAsync()
    {
        process.Kill();
        await process.WaitForExitAsync();
        process.Dispose();
        Owner.Dispose();
        await Site.DisposeAsync();
    }
}

/// <summary>The server is attacked over real sockets with what no well-behaved client sends.</summary>
public sealed class AttackTests(AttackedSite attacked) : IClassFixture<AttackedSite>
{
    const string Secret = "what only this machine should know";

    readonly Site site = attacked.Site;
    readonly HttpClient owner = attacked.Owner;

    /// <summary>Opens a line to the server and sends bytes as they are.</summary>
    async Task<TcpClient> SendAsync(string bytes)
    {
        var line = new TcpClient();
        await line.ConnectAsync(IPAddress.Loopback, owner.BaseAddress!.Port);
        await line.GetStream().WriteAsync(Encoding.Latin1.GetBytes(bytes));
        return line;
    }

    /// <summary>All that the server answers to bytes; empty when it only closes the line.</summary>
    async Task<string> AnswerAsync(string bytes)
    {
        using var time = new CancellationTokenSource(TimeSpan.FromSeconds(30));
        using var all = new MemoryStream();
        try
        {
            using var line = await SendAsync(bytes);
            await line.GetStream().CopyToAsync(all, time.Token);
        }
        catch (IOException)
        {
            // Closed from the other side in the middle: an answer, too.
        }

        return Encoding.Latin1.GetString(all.ToArray());
    }

    static int Status(string answer) => answer.Length == 0 ? 0 : int.Parse(answer.Split(' ', 3)[1], System.Globalization.CultureInfo.InvariantCulture);

    /// <summary>The cookies and the token of the owner's browser, as header lines.</summary>
    async Task<string> CredentialsAsync()
    {
        using var handler = new SocketsHttpHandler { UseCookies = false };
        using var client = new HttpClient(handler) { BaseAddress = owner.BaseAddress };
        var first = await client.GetAsync("/api/session");
        static string Cookies(HttpResponseMessage answer) => string.Join("; ", answer.Headers.GetValues("Set-Cookie").Select(c => c.Split(';')[0]));
        async Task<string> TokenAsync(string cookies)
        {
            using var ask = new HttpRequestMessage(HttpMethod.Get, "/api/session");
            ask.Headers.TryAddWithoutValidation("Cookie", cookies);
            return (await (await client.SendAsync(ask)).ReadAsync()).GetProperty("forgery").GetString()!;
        }

        var cookies = Cookies(first);
        using var signIn = new HttpRequestMessage(HttpMethod.Post, "/api/session") { Content = JsonContent.Create(new { email = "odile@example.test", password = "ten characters and more" }) };
        signIn.Headers.TryAddWithoutValidation("Cookie", cookies);
        signIn.Headers.TryAddWithoutValidation("X-Jovitar-Forgery", await TokenAsync(cookies));
        var signedIn = await client.SendAsync(signIn);
        Assert.Equal(HttpStatusCode.NoContent, signedIn.StatusCode);
        cookies = $"{cookies}; {Cookies(signedIn)}";
        return $"Cookie: {cookies}\r\nX-Jovitar-Forgery: {await TokenAsync(cookies)}\r\n";
    }

    [Fact]
    public async Task No_way_of_writing_a_path_leads_to_what_lies_beside_it()
    {
        foreach (var folder in (string[])["", "originals", "renditions", "uploads", "previews"])
        {
            Directory.CreateDirectory(Path.Combine(site.Data, folder));
            await File.WriteAllTextAsync(Path.Combine(site.Data, folder, "secret.txt"), Secret);
        }

        var credentials = await CredentialsAsync();
        var climbs = new[] { "../", "..%2f", "%2e%2e/", "%2e%2e%2f", "..\\", "..%5c", "..%c0%af", "....//", ".%00./", "..;/", "/%2e/../" };
        var rooms = new[] { "/", "/i/", "/api/renditions/", "/api/files/", "/api/photos/", "/assets/", "/workroom/", "/site/view/", "/preview/", "/openapi/", "/api/uploads/" };
        var targets = from room in rooms
                      from climb in climbs
                      from depth in (int[])[1, 4, 9]
                      from file in (string[])["secret.txt", "originals/secret.txt", "etc/passwd", $"{site.Data.TrimStart('/')}/secret.txt"]
                      select room + string.Concat(Enumerable.Repeat(climb, depth)) + file;
        foreach (var chunk in targets.Chunk(120))
        {
            // Many on one line, the last of which ends it.
            var requests = string.Concat(chunk.Select((t, i) => $"GET {t} HTTP/1.1\r\nHost: localhost\r\n{credentials}{(i == chunk.Length - 1 ? "Connection: close\r\n" : "")}\r\n"));
            var answers = await AnswerAsync(requests);
            Assert.DoesNotContain(Secret, answers, StringComparison.Ordinal);
            Assert.DoesNotContain("root:x:", answers, StringComparison.Ordinal);
            Assert.DoesNotContain("HTTP/1.1 5", answers, StringComparison.Ordinal);
            Assert.StartsWith("HTTP/1.1 ", answers, StringComparison.Ordinal);
        }
    }

    [Theory]
    [InlineData("GET / HTTP/1.1\r\nHost: x\r\nTransfer-Encoding: chunked\r\nContent-Length: 5\r\n\r\n0\r\n\r\nGET /api/desk HTTP/1.1\r\n\r\n")]
    [InlineData("POST /api/session HTTP/1.1\r\nHost: x\r\nContent-Type: application/json\r\nTransfer-Encoding: chunked\r\n\r\nffffffffffffffff\r\n{}\r\n0\r\n\r\n")]
    [InlineData("POST /api/session HTTP/1.1\r\nHost: x\r\nContent-Type: application/json\r\nContent-Length: -1\r\n\r\n{}")]
    [InlineData("POST /api/session HTTP/1.1\r\nHost: x\r\nContent-Type: application/json\r\nContent-Length: 99999999999999999999\r\n\r\n{}")]
    [InlineData("POST /api/owner HTTP/1.1\r\nHost: x\r\nContent-Type: application/json\r\nContent-Length: 4000000000\r\nConnection: close\r\n\r\n{}")]
    [InlineData("GET / HTTP/1.1\r\nHost: x\r\nCookie: jovitar=\0\0\0\r\n\r\n")]
    [InlineData("GET /\u00ff\u00fe HTTP/1.1\r\nHost: x\r\n\r\n")]
    [InlineData("GET http://elsewhere.example/api/desk HTTP/1.1\r\nHost: elsewhere.example\r\nConnection: close\r\n\r\n")]
    [InlineData("GET / HTTP/1.1\r\nHost: a\r\nHost: b\r\n\r\n")]
    [InlineData("TRACE / HTTP/1.1\r\nHost: x\r\nConnection: close\r\n\r\n")]
    [InlineData("CONNECT internal.example:22 HTTP/1.1\r\nHost: internal.example:22\r\nConnection: close\r\n\r\n")]
    [InlineData("GET / HTTP/9.9\r\nHost: x\r\n\r\n")]
    [InlineData("\u0016\u0003\u0001 this is no request at all\r\n\r\n")]
    public async Task What_is_no_request_is_refused_and_the_next_is_answered(string bytes)
    {
        var answer = await AnswerAsync(bytes);
        Assert.True(Status(answer) < 500 || Status(answer) is 501 or 505, answer);
        Assert.DoesNotContain("Exception", answer, StringComparison.Ordinal);
        Assert.DoesNotContain("\"photos\"", answer, StringComparison.Ordinal);
        Assert.Equal(200, Status(await AnswerAsync("GET /health/ready HTTP/1.1\r\nHost: localhost\r\nConnection: close\r\n\r\n")));
    }

    [Fact]
    public async Task Headers_without_end_are_refused_before_they_fill_the_memory()
    {
        var answer = await AnswerAsync($"GET / HTTP/1.1\r\nHost: x\r\n{string.Concat(Enumerable.Range(0, 3000).Select(i => $"X-{i}: {new string('y', 200)}\r\n"))}\r\n");
        Assert.True(Status(answer) is 0 or 431, answer);
        answer = await AnswerAsync($"GET /{new string('z', 60_000)} HTTP/1.1\r\nHost: x\r\n\r\n");
        Assert.True(Status(answer) is 0 or 414, answer);
        Assert.Equal(HttpStatusCode.OK, (await owner.GetAsync("/health/ready")).StatusCode);
    }

    [Fact]
    public async Task Two_hundred_who_send_slowly_or_only_listen_keep_nobody_waiting()
    {
        var intake = await owner.IntakeAsync();
        var credentials = await CredentialsAsync();
        var lines = new List<TcpClient>();
        for (var i = 0; i < 70; i++)
        {
            var upload = await owner.CreateAsync(intake, $"slow {i}.jpg", 5000);
            lines.Add(await SendAsync(
                $"PATCH {upload} HTTP/1.1\r\nHost: localhost\r\n{credentials}Tus-Resumable: 1.0.0\r\nUpload-Offset: 0\r\nContent-Type: application/offset+octet-stream\r\nContent-Length: 5000\r\n\r\nonly this"));
            lines.Add(await SendAsync($"POST /api/intakes/{intake}/files?name=slow.jpg HTTP/1.1\r\nHost: localhost\r\n{credentials}Content-Type: application/octet-stream\r\nContent-Length: 90000\r\n\r\nonly this"));
            lines.Add(await SendAsync($"GET /api/desk/news HTTP/1.1\r\nHost: localhost\r\n{credentials}\r\n"));
        }

        // The site has twenty connections to its database; none of them waits for bytes.
        var photo = await owner.BringAsync(intake, "between.jpg", Acts.Photo(3));
        Assert.Equal("arrived", photo.GetProperty("outcome").GetString());
        var album = await (await owner.PostAsJsonAsync("/api/albums", new { workingName = "Meanwhile" })).ReadAsync();
        await (await owner.PostAsJsonAsync($"/api/albums/{album.GetProperty("id").GetString()}/photos", new { photos = new[] { photo.GetProperty("photo").GetString() } })).ReadAsync();
        await site.UntilAsync("select count(*) from photo where state <> 'ready'", 0);
        Assert.NotEqual(0, (await (await owner.GetAsync("/api/photos")).ReadAsync()).GetProperty("photos").GetArrayLength());
        Assert.Equal(HttpStatusCode.OK, (await owner.GetAsync("/")).StatusCode);
        foreach (var line in lines)
        {
            line.Dispose();
        }

        // What broke off is nothing that came: no file, no photo, and the intake goes on.
        Assert.Equal("arrived", (await owner.BringAsync(intake, "after.jpg", Acts.Photo(4))).GetProperty("outcome").GetString());
        await site.UntilAsync("select count(*) from photo where state <> 'ready'", 0);
        Assert.Equal(2, await site.ScalarAsync<long>($"select count(*) from intake_file where intake = '{intake}'"));
        await site.VerifyAsync();
    }

    [Fact]
    public async Task Ranges_of_an_original_are_its_bytes_whatever_is_asked_for()
    {
        var bytes = Acts.Photo(9);
        var photo = (await owner.BringAsync(await owner.IntakeAsync(), "whole.jpg", bytes)).GetProperty("photo").GetString()!;
        var dice = new Random(11);
        long Somewhere() => dice.Next(6) switch { 0 => 0, 1 => bytes.Length - 1, 2 => bytes.Length, 3 => long.MaxValue, _ => dice.Next(bytes.Length) };
        for (var i = 0; i < 120; i++)
        {
            var (from, to) = (Somewhere(), Somewhere());
            var asked = dice.Next(4) switch { 0 => $"bytes={from}-", 1 => $"bytes=-{to}", 2 => $"bytes={from}-{to},{to}-{from},0-0", _ => $"bytes={from}-{to}" };
            using var request = new HttpRequestMessage(HttpMethod.Get, $"/api/photos/{photo}/original");
            request.Headers.TryAddWithoutValidation("Range", asked);
            using var answer = await owner.SendAsync(request);
            var came = await answer.Content.ReadAsByteArrayAsync();
            switch (answer.StatusCode)
            {
                case HttpStatusCode.OK:
                    Assert.Equal(bytes, came);
                    break;
                case HttpStatusCode.PartialContent:
                    var range = answer.Content.Headers.ContentRange!;
                    Assert.Equal((bytes.LongLength, range.To!.Value - range.From!.Value + 1), (range.Length!.Value, came.LongLength));
                    Assert.Equal(bytes[(int)range.From.Value..((int)range.To.Value + 1)], came);
                    break;
                default:
                    Assert.True(answer.StatusCode == HttpStatusCode.RequestedRangeNotSatisfiable, $"{asked} is answered {answer.StatusCode}");
                    break;
            }
        }
    }

    [Fact]
    public async Task A_cookie_that_was_touched_is_nobodys()
    {
        var credentials = await CredentialsAsync();
        var session = credentials.Split("jovitar=")[1].Split(';', '\r')[0];
        async Task<int> WithAsync(string cookie) => Status(await AnswerAsync($"GET /api/desk HTTP/1.1\r\nHost: localhost\r\nCookie: jovitar={cookie}\r\nConnection: close\r\n\r\n"));
        Assert.Equal(200, await WithAsync(session));
        var dice = new Random(5);
        for (var i = 0; i < 60; i++)
        {
            var at = dice.Next(session.Length - 1);
            var touched = dice.Next(3) switch
            {
                0 => session[..at],
                1 => session.Insert(at, "A"),
                _ => $"{session[..at]}{(session[at] == 'x' ? 'y' : 'x')}{session[(at + 1)..]}",
            };
            Assert.Equal(401, await WithAsync(touched));
        }

        foreach (var made in (string[])["", "\"", "chunks-2147483647", "chunks-9", new string('A', 6000), "%00", "=;=;="])
        {
            Assert.Equal(401, await WithAsync(made));
        }
    }
}
