using System.IO.Compression;
using System.Net;
using System.Net.Http.Json;
using System.Security.Cryptography;
using System.Text.Json;
using Jovitar.Imaging;
using NetVips;

namespace Jovitar.Server.Tests;

/// <summary>Photos are corrected beside their originals: what is seen follows, at addresses of its own, and comes back.</summary>
public sealed class CorrectionTests
{
    static async Task<JsonElement> CorrectAsync(HttpClient who, object change) => await (await who.PostAsJsonAsync("/api/corrections", change)).ReadAsync();

    static async Task<JsonElement> GetAsync(HttpClient who, string address) => await (await who.GetAsync(address)).ReadAsync();

    static async Task<(string Picture, int Width, int Height)> SeenAsync(HttpClient who, string photo)
    {
        var plate = await GetAsync(who, $"/api/photos/{photo}");
        return (plate.GetProperty("picture").GetString()!, plate.GetProperty("width").GetInt32(), plate.GetProperty("height").GetInt32());
    }

    static async Task<(int, int)> SizeAsync(HttpResponseMessage answer)
    {
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        using var image = Image.NewFromBuffer(await answer.Content.ReadAsByteArrayAsync());
        return (image.Width, image.Height);
    }

    static async Task<string> MarkAsync(HttpResponseMessage page) =>
        System.Text.RegularExpressions.Regex.Match(await page.Content.ReadAsStringAsync(), "data-mark=\"([0-9a-f]+)\"") is { Success: true } found ? found.Groups[1].Value : throw new InvalidOperationException("The page bears no mark.");

    static async Task<string[]> BroughtAsync(HttpClient who, int count)
    {
        var intake = await who.IntakeAsync();
        var photos = new string[count];
        for (var i = 0; i < count; i++)
        {
            photos[i] = (await who.BringAsync(intake, $"p{i}.jpg", Acts.Photo(i))).GetProperty("photo").GetString()!;
        }

        return photos;
    }

    [Fact]
    public async Task What_visitors_see_follows_a_correction_and_they_get_no_other_picture_of_the_same_original()
    {
        await using var site = await Site.StartAsync();
        var (owner, visitor) = (await site.OwnerAsync(), site.Visitor());
        var (_, photos, _, address) = await site.PublishedAsync(owner, 1);
        var before = await SeenAsync(owner, photos[0]);
        var original = await (await owner.GetAsync($"/api/photos/{photos[0]}/original")).Content.ReadAsByteArrayAsync();
        var page = await visitor.GetAsync($"/{address}");
        var mark = await MarkAsync(page);
        var done = await CorrectAsync(owner, new { photos, turn = 1, crop = new { x = 0.25, y = 0.25, width = 0.5, height = 0.5 }, brightness = 20 });
        var after = await SeenAsync(owner, photos[0]);
        Assert.Equal((300, 450), (after.Width, after.Height));
        Assert.StartsWith($"{before.Picture}-", after.Picture, StringComparison.Ordinal);
        Assert.Equal((300, 450), await SizeAsync(await visitor.GetAsync($"/i/{after.Picture}/1-480.webp")));
        Assert.NotEqual(page.Headers.ETag, (await visitor.GetAsync($"/{address}")).Headers.ETag);
        // A page that was open before knows that it shows another picture than there is.
        Assert.NotEqual(mark, await MarkAsync(await visitor.GetAsync($"/{address}")));
        Assert.Contains(after.Picture, await (await visitor.GetAsync($"/{address}")).Content.ReadAsStringAsync(), StringComparison.Ordinal);

        // What was cropped away may be the reason why it was cropped.
        Assert.Equal(HttpStatusCode.NotFound, (await visitor.GetAsync($"/i/{before.Picture}/1-480.webp")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await visitor.GetAsync($"/i/{before.Picture}-{new string('0', 16)}/1-480.webp")).StatusCode);
        Assert.Equal((480, 320), await SizeAsync(await owner.GetAsync($"/api/renditions/{before.Picture}/480")));
        Assert.Equal(original, await (await owner.GetAsync($"/api/photos/{photos[0]}/original")).Content.ReadAsByteArrayAsync());
        Assert.Equal("Corrected “p0.jpg”.", await site.ScalarAsync<string>("select sentence from act order by id desc limit 1"));

        var undone = await owner.UndoAsync(done);
        Assert.Equal(before, await SeenAsync(owner, photos[0]));
        Assert.Equal((480, 320), await SizeAsync(await visitor.GetAsync($"/i/{before.Picture}/1-480.webp")));
        await owner.UndoAsync(undone);
        Assert.Equal(after, await SeenAsync(owner, photos[0]));
        await site.UntilAsync("select count(*) from photo where stage = 2", 1);
        await site.VerifyAsync();
    }

    [Fact]
    public async Task Of_two_who_correct_one_photo_each_changes_what_he_changes_and_what_was_corrected_since_is_left_alone()
    {
        await using var site = await Site.StartAsync();
        var (odile, tam) = (await site.OwnerAsync(), await site.EditorAsync("Tam"));
        var photo = (await odile.BringAsync(await odile.IntakeAsync(), "pier.jpg", Acts.Photo(5))).GetProperty("photo").GetString()!;
        await site.UntilAsync("select count(*) from photo where state = 'ready'", 1);
        var first = await CorrectAsync(odile, new { photos = new[] { photo }, shape = "square" });
        await CorrectAsync(tam, new { photos = new[] { photo }, contrast = -30, greys = new { red = 50, green = 40, blue = 10 } });
        var correction = (await GetAsync(odile, $"/api/photos/{photo}/correction")).GetProperty("correction");
        Assert.Equal((true, -30, 50), (correction.GetProperty("isCropped").GetBoolean(), correction.GetProperty("contrast").GetInt32(), correction.GetProperty("greys").GetProperty("red").GetInt32()));
        var both = await SeenAsync(odile, photo);
        Assert.Equal((600, 600), (both.Width, both.Height));

        var undone = await odile.UndoAsync(first);
        Assert.Equal("correction", undone.GetProperty("undone").GetProperty("left")[0].GetProperty("field").GetString());
        Assert.Equal(both, await SeenAsync(odile, photo));
    }

    [Fact]
    public async Task Moved_a_little_and_moved_again_is_one_act_and_no_word_becomes_stale_by_it()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var photo = (await owner.BringAsync(await owner.IntakeAsync(), "pier.jpg", Acts.Photo(5))).GetProperty("photo").GetString()!;
        await site.UntilAsync("select count(*) from photo where state = 'ready'", 1);
        var plate = await GetAsync(owner, $"/api/photos/{photo}");
        await CorrectAsync(owner, new { photos = new[] { photo }, angle = 1.5 });
        await CorrectAsync(owner, new { photos = new[] { photo }, angle = 2.5 });
        var last = await CorrectAsync(owner, new { photos = new[] { photo }, brightness = 10 });
        Assert.Equal(1, await site.ScalarAsync<long>("select count(*) from act where kind = 'Corrected'"));
        Assert.Equal(HttpStatusCode.OK, (await owner.SendAsync(HttpMethod.Patch, $"/api/photos/{photo}", new { title = "Over the pier" }, plate.GetProperty("version").GetInt64())).StatusCode);
        await owner.UndoAsync(last);
        Assert.Equal(plate.GetProperty("picture").GetString(), (await SeenAsync(owner, photo)).Picture);
    }

    [Fact]
    public async Task All_in_hand_are_corrected_in_one_act_each_by_its_own_shape_and_alike()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var intake = await owner.IntakeAsync();
        var photos = new List<string>();
        foreach (var (width, height) in new[] { (900, 600), (600, 900), (1200, 400) })
        {
            photos.Add((await owner.BringAsync(intake, "photo.jpg", Acts.Photo(width + height, width, height))).GetProperty("photo").GetString()!);
        }

        await site.UntilAsync("select count(*) from photo where stage = 2", 3);
        (await owner.PutAsJsonAsync("/api/hand", new { photos })).EnsureSuccessStatusCode();
        var done = await CorrectAsync(owner, new { inHand = true, shape = "fourThree", greys = new { red = 21, green = 72, blue = 7 } });
        Assert.Equal(3, done.GetProperty("photos").GetInt32());
        (int, int)[] sizes = [.. (await Task.WhenAll(photos.Select(p => SeenAsync(owner, p)))).Select(s => (s.Width, s.Height))];
        Assert.Equal([(800, 600), (600, 800), (533, 400)], sizes);

        // Found by how they are corrected, and told in the counts.
        Assert.Equal(3, (await GetAsync(owner, "/api/photos?corrected=grey")).GetProperty("total").GetInt32());
        Assert.Equal(0, (await GetAsync(owner, "/api/photos?corrected=none")).GetProperty("total").GetInt32());
        await CorrectAsync(owner, new { photos = photos[..1], angle = 3, inColour = true, focus = new { x = 0.2, y = 0.3 } });
        Assert.Equal(1, (await GetAsync(owner, "/api/photos?corrected=straightened&notCorrected=grey")).GetProperty("total").GetInt32());

        // The same on the others: all of it but the focus.
        await CorrectAsync(owner, new { inHand = true, like = photos[0] });
        var others = await GetAsync(owner, $"/api/photos/{photos[1]}/correction");
        Assert.Equal((3, JsonValueKind.Null, JsonValueKind.Null), (others.GetProperty("correction").GetProperty("angle").GetDouble(), others.GetProperty("correction").GetProperty("greys").ValueKind, others.GetProperty("correction").GetProperty("focus").ValueKind));
        await CorrectAsync(owner, new { inHand = true, reset = true });
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from photo where correction is not null"));

        // Of three in hand the sentence names the one that it changed.
        await site.WriteAsync($"update photo set file_name = 'last.jpg' where id = '{photos[2]}'");
        await CorrectAsync(owner, new { photos = photos[..2], brightness = 7 });
        await CorrectAsync(owner, new { inHand = true, brightness = 7 });
        Assert.Equal("Corrected “last.jpg”.", await site.ScalarAsync<string>("select sentence from act order by id desc limit 1"));
        await CorrectAsync(owner, new { inHand = true, reset = true });

        // Nothing is kept of pictures that nobody sees any more.
        await site.UntilAsync("select count(*) from photo where stage = 2", 3);
        for (var tries = 0; Former().Length > 0 && tries < 200; tries++)
        {
            await Task.Delay(50);
        }

        Assert.Empty(Former());
        string[] Former() => [.. Directory.GetFiles(Path.Combine(site.Data, "renditions"), "*", SearchOption.AllDirectories).Where(f => Path.GetFileName(f).Split('-').Length > 3)];
        await site.VerifyAsync();
    }

    [Fact]
    public async Task What_somebody_looks_at_is_made_at_once_though_no_worker_has_come_to_it()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        await BroughtAsync(owner, 3);
        await site.WriteAsync("update photo set state = 'ready', stage = 1");
        var photos = await site.ScalarAsync<Guid[]>("select array_agg(id) from photo");
        await CorrectAsync(owner, new { photos, turn = -1 });
        var seen = await SeenAsync(owner, photos[2].ToString());
        Assert.Equal((480, 720), await SizeAsync(await owner.GetAsync($"/api/renditions/{seen.Picture}/480")));
        Assert.Equal([480], (await GetAsync(owner, "/api/photos")).GetProperty("photos")[0].GetProperty("renditions").EnumerateArray().Select(w => w.GetInt32()));
    }

    [Theory]
    [InlineData("""{"angle": 46}""")]
    [InlineData("""{"brightness": 101}""")]
    [InlineData("""{"contrast": -101}""")]
    [InlineData("""{"turn": 9}""")]
    [InlineData("""{"crop": {"x": 0, "y": 0, "width": 9, "height": 1}}""")]
    [InlineData("""{"crop": {"x": 0, "y": 0, "width": "NaN", "height": 1}}""")]
    [InlineData("""{"greys": {"red": 101, "green": 0, "blue": 0}}""")]
    [InlineData("""{"focus": {"x": 1.5, "y": 0}}""")]
    [InlineData("""{"shape": "round"}""")]
    public async Task What_no_correction_can_be_is_refused(string change)
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        using var content = new StringContent(change, System.Text.Encoding.UTF8, "application/json");
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.PostAsync("/api/corrections", content)).StatusCode);
    }

    [Fact]
    public async Task Waiting_and_binned_photos_are_passed_over_and_gone_ones_named()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var brought = await BroughtAsync(owner, 2);
        await site.WriteAsync($"update photo set state = 'ready', stage = 2 where id = '{brought[1]}'");
        (await owner.PostAsJsonAsync("/api/bin", new { photos = brought[1..] })).EnsureSuccessStatusCode();
        Assert.Equal(0, (await CorrectAsync(owner, new { photos = brought, turn = 1 })).GetProperty("photos").GetInt32());
        foreach (var photo in brought.Append(Guid.Empty.ToString()))
        {
            Assert.Equal(HttpStatusCode.NotFound, (await owner.GetAsync($"/api/photos/{photo}/correction")).StatusCode);
            Assert.Equal(HttpStatusCode.NotFound, (await owner.GetAsync($"/api/photos/{photo}/prints")).StatusCode);
            Assert.Equal(HttpStatusCode.NotFound, (await owner.PostAsJsonAsync("/api/corrections", new { photos = brought, like = photo })).StatusCode);
        }
    }

    [Fact]
    public async Task Tables_of_tones_are_those_of_the_recipe()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var tables = await owner.GetByteArrayAsync("/api/corrections/tones?contrast=40");
        Assert.Equal(201 * 256, tables.Length);
        Assert.Equal(Core.Corrections.Tones.Table(-25, 40), tables.AsSpan(75 * 256, 256).ToArray());
        Assert.Equal(Core.Corrections.Tones.Table(12, -7), (await owner.GetByteArrayAsync("/api/corrections/tones?brightness=12")).AsSpan(93 * 256, 256).ToArray());
        foreach (var query in (string[])["", "?brightness=1&contrast=1", "?brightness=101", "?contrast=x"])
        {
            Assert.Equal(HttpStatusCode.BadRequest, (await owner.GetAsync($"/api/corrections/tones{query}")).StatusCode);
        }
    }

    /// <summary>A scan of two prints askew on a white glass.</summary>
    static byte[] Scan()
    {
        using var glass = Image.Black(1000, 1400, bands: 3) + new double[] { 243, 242, 239 };
        var scan = glass.Cast(Enums.BandFormat.Uchar).Copy(interpretation: Enums.Interpretation.Srgb);
        foreach (var (seed, angle, x, y) in new[] { (3, 5.0, 120, 130), (4, -4.0, 260, 760) })
        {
            using var print = Image.NewFromBuffer(Acts.Photo(seed, 600, 400)).Similarity(angle: angle, background: [243, 242, 239]);
            scan = scan.Insert(print, x, y);
        }

        return scan.JpegsaveBuffer(q: 92);
    }

    [Fact]
    public async Task Prints_on_a_scan_become_photos_of_their_own_that_share_its_original()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var album = (await (await owner.PostAsJsonAsync("/api/albums", new { workingName = "Shoebox" })).ReadAsync()).GetProperty("id").GetString()!;
        var bytes = Scan();
        var scan = (await owner.BringAsync(await owner.IntakeAsync(album), "glass.jpg", bytes)).GetProperty("photo").GetString()!;
        await site.UntilAsync("select count(*) from photo where stage = 2", 1);
        await site.WriteAsync("update photo set credit = 'Kite Guild', title = 'Two prints'");
        (await owner.PostAsJsonAsync("/api/photos/tags", new { photos = new[] { scan }, add = new[] { "1974" }, remove = Array.Empty<string>() })).EnsureSuccessStatusCode();
        // What is for members is not opened by being cut up.
        (await AudienceSteps.SayAsync(owner, "photo", scan, "members")).EnsureSuccessStatusCode();
        var found = (await GetAsync(owner, $"/api/photos/{scan}/prints")).GetProperty("prints");
        Assert.Equal(2, found.GetArrayLength());
        var cut = await (await owner.PostAsJsonAsync($"/api/photos/{scan}/prints", new { prints = found })).ReadAsync();
        string[] made = [.. cut.GetProperty("photos").EnumerateArray().Select(p => p.GetString()!)];
        Assert.Equal(2, made.Length);
        foreach (var photo in made)
        {
            var plate = await GetAsync(owner, $"/api/photos/{photo}");
            Assert.Equal(("", "Kite Guild", "1974", "Shoebox"), (plate.GetProperty("title").GetString(), plate.GetProperty("credit").GetString(), plate.GetProperty("tags")[0].GetProperty("name").GetString(), plate.GetProperty("albums")[0].GetProperty("workingName").GetString()));
            Assert.InRange(plate.GetProperty("width").GetInt32(), 580, 606);
            Assert.InRange(plate.GetProperty("height").GetInt32(), 382, 406);
            Assert.Equal("members", (await AudienceSteps.ReadAsync(owner, "photo", photo)).GetProperty("audience").GetProperty("who").GetString());
        }

        Assert.Equal(["glass-1.jpg", "glass-2.jpg", "glass.jpg"], await site.ScalarAsync<string[]>("select array_agg(file_name order by file_name) from photo"));
        Assert.Equal(0, (await (await owner.PostAsJsonAsync($"/api/photos/{scan}/prints", new { prints = found })).ReadAsync()).GetProperty("photos").GetArrayLength());
        Assert.Equal("already_here", (await owner.BringAsync(await owner.IntakeAsync(), "again.jpg", bytes)).GetProperty("outcome").GetString());
        Assert.Equal(2, (await GetAsync(owner, "/api/photos?corrected=print")).GetProperty("total").GetInt32());
        Assert.Equal(bytes.Length, (await GetAsync(owner, "/api/desk/figures")).GetProperty("bytes").GetInt64());

        // They leave as pictures of themselves, in full size.
        (await owner.PutAsJsonAsync("/api/hand", new { photos = made })).EnsureSuccessStatusCode();
        using var zip = new ZipArchive(await (await owner.GetAsync("/api/hand/download")).Content.ReadAsStreamAsync(), ZipArchiveMode.Read);
        Assert.Equal(2, zip.Entries.Count);
        foreach (var entry in zip.Entries)
        {
            await using var stream = entry.Open();
            using var copy = new MemoryStream();
            await stream.CopyToAsync(copy);
            using var image = Image.NewFromBuffer(copy.ToArray());
            Assert.InRange(image.Width, 580, 606);
        }

        // The scan goes for good; its bytes stay while a print needs them.
        await site.UntilAsync("select count(*) from photo where stage = 2", 3);
        (await owner.PostAsJsonAsync("/api/bin", new { photos = new[] { scan } })).EnsureSuccessStatusCode();
        await owner.EmptyBinAsync();
        Assert.Equal(HttpStatusCode.OK, (await owner.GetAsync($"/api/photos/{made[0]}/original")).StatusCode);
        await site.VerifyAsync();
        var again = await owner.BringAsync(await owner.IntakeAsync(), "again.jpg", bytes);
        Assert.Equal("arrived", again.GetProperty("outcome").GetString());
        await site.UntilAsync("select count(*) from photo where stage = 2", 3);

        await owner.UndoAsync(cut);
        Assert.Equal(2, await site.ScalarAsync<long>("select count(*) from photo where binned is not null"));
        await owner.EmptyBinAsync();
        await site.UntilAsync("select count(*) from photo", 1);
        await site.VerifyAsync();
        Assert.Equal(Convert.ToHexStringLower(SHA256.HashData(bytes)), await site.ScalarAsync<string>("select picture from photo"));
        Assert.Equal((1000, 1400), Picture.Measure(Directory.GetFiles(Path.Combine(site.Data, "originals"), "*", SearchOption.AllDirectories).Single()) is var size ? (size.Width, size.Height) : default);
    }

    [Fact]
    public async Task Two_who_cut_one_scan_at_once_make_each_print_once()
    {
        await using var site = await Site.StartAsync();
        var (odile, tam) = (await site.OwnerAsync(), await site.EditorAsync("Tam"));
        var scan = (await odile.BringAsync(await odile.IntakeAsync(), "glass.jpg", Scan())).GetProperty("photo").GetString()!;
        await site.UntilAsync("select count(*) from photo where stage = 2", 1);
        var found = (await GetAsync(odile, $"/api/photos/{scan}/prints")).GetProperty("prints");
        var made = await Task.WhenAll(Enumerable.Range(0, 6).Select(async n => (await (await (n % 2 == 0 ? odile : tam).PostAsJsonAsync($"/api/photos/{scan}/prints", new { prints = found })).ReadAsync()).GetProperty("photos").GetArrayLength()));
        Assert.Equal(2, made.Sum());
        Assert.Equal(3, await site.ScalarAsync<long>("select count(*) from photo"));
    }
}
