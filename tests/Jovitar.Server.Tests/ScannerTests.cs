using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using NetVips;

namespace Jovitar.Server.Tests;

/// <summary>Scanning through the simulated scanner, a program of its own that speaks eSCL (Mopria Alliance, eSCL Technical Specification 2.97).</summary>
public sealed class ScannerTests : IAsyncLifetime
{
    Standin standin = null!;
    readonly string prints = Directory.CreateTempSubdirectory("prints").FullName;

    string Address => standin.Address;

    public async Task InitializeAsync()
    {
        File.WriteAllBytes(Path.Combine(prints, "a.jpg"), Acts.Photo(1));
        standin = await Standin.StartAsync(prints);
    }

    public async Task DisposeAsync()
    {
        await standin.DisposeAsync();
        Directory.Delete(prints, recursive: true);
    }

    Task SetAsync(object settings) => standin.SetAsync("scanner", settings);

    static Task<HttpResponseMessage> ScanAsync(HttpClient owner, string source = "glass", int resolution = 150, string colour = "colour") =>
        owner.PostAsJsonAsync("/api/scanners/Flatbed/scan", new { resolution, colour, source });

    static async Task<string> SaysAsync(HttpResponseMessage answer)
    {
        Assert.Equal(HttpStatusCode.BadGateway, answer.StatusCode);
        return (await answer.Content.ReadFromJsonAsync<JsonElement>()).GetProperty("title").GetString()!;
    }

    [Fact]
    public async Task A_print_is_scanned_looked_at_and_kept_and_what_goes_wrong_is_said()
    {
        await using var site = await Site.StartAsync(scanners: $"Flatbed={Address}/eSCL");
        var owner = await site.OwnerAsync();
        var can = await (await owner.GetAsync("/api/scanners/Flatbed")).ReadAsync();
        Assert.Equal([75, 150, 300, 600], can.GetProperty("resolutions").EnumerateArray().Select(r => r.GetInt32()));
        Assert.Equal(["colour", "grey"], can.GetProperty("colours").EnumerateArray().Select(c => c.GetString()));
        Assert.Equal(["glass", "feeder"], can.GetProperty("sources").EnumerateArray().Select(s => s.GetString()));
        var page = (await (await ScanAsync(owner)).ReadAsync()).GetProperty("pages")[0];
        // ISO 216: A4 is 210 by 297 mm; at 150 pixels per inch of 25.4 mm.
        Assert.Equal((1240, 1754), (page.GetProperty("width").GetInt32(), page.GetProperty("height").GetInt32()));
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from photo"));
        var seen = await owner.GetByteArrayAsync($"/api/scanners/pages/{page.GetProperty("id").GetString()}");
        using (var image = Image.NewFromBuffer(seen))
        {
            Assert.InRange(image.Avg(), 90, 240);
        }

        var kept = await (await owner.PostAsJsonAsync("/api/scanners/pages/keep", new { pages = new[] { page.GetProperty("id").GetString() }, intake = await owner.IntakeAsync() })).ReadAsync();
        Assert.Equal("arrived", kept.GetProperty("files")[0].GetProperty("outcome").GetString());
        await site.UntilAsync("select count(*) from photo where state = 'ready'", 1);
        await SetAsync(new { sheets = 2 });
        var pages = (await (await ScanAsync(owner, "feeder", 75, "grey")).ReadAsync()).GetProperty("pages");
        Assert.Equal(2, pages.GetArrayLength());
        (await owner.DeleteAsync($"/api/scanners/pages/{pages[0].GetProperty("id").GetString()}")).EnsureSuccessStatusCode();
        Assert.Contains("no paper", await SaysAsync(await ScanAsync(owner, "feeder")), StringComparison.Ordinal);
        await SetAsync(new { busy = true });
        Assert.Contains("busy", await SaysAsync(await ScanAsync(owner)), StringComparison.Ordinal);
        await SetAsync(new { busy = false });
        Assert.Contains("another resolution", await SaysAsync(await ScanAsync(owner, resolution: 123)), StringComparison.Ordinal);
        await standin.DisposeAsync();
        Assert.Contains("does not answer", await SaysAsync(await ScanAsync(owner)), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, (await owner.GetAsync("/api/scanners/Unknown")).StatusCode);
        await site.VerifyAsync();
    }
}
