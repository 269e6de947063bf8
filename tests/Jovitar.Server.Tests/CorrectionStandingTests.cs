using System.Globalization;
using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using NetVips;

namespace Jovitar.Server.Tests;

/// <summary>What corrections must stand: many at once, killed processes, two people, and whatever else happens to the photo meanwhile.</summary>
public sealed class CorrectionStandingTests
{
    const string Rows =
        "insert into photo (id, hash, file_name, media_type, bytes, own_width, own_height, arrived, state, stage) select gen_random_uuid(), sha256(g::text::bytea), g || '.jpg', 'image/jpeg', 1, 300 + g % 7, 200, now(), 'ready', 2 from generate_series(1, 20000) as g; delete from act_change";

    static async Task<JsonElement> CorrectAsync(HttpClient who, object change) => await (await who.PostAsJsonAsync("/api/corrections", change)).ReadAsync();

    static async Task<JsonElement> GetAsync(HttpClient who, string address) => await (await who.GetAsync(address)).ReadAsync();

    static async Task<string[]> BroughtAsync(Site site, HttpClient who, int count)
    {
        var intake = await who.IntakeAsync();
        var photos = new string[count];
        for (var i = 0; i < count; i++)
        {
            photos[i] = (await who.BringAsync(intake, $"p{i}.jpg", Acts.Photo(i))).GetProperty("photo").GetString()!;
        }

        await site.UntilAsync("select count(*) from photo where stage = 2", count);
        return photos;
    }

    [Fact]
    public async Task A_server_killed_in_the_midst_of_twenty_thousand_corrections_has_written_all_or_none_and_another_takes_them_back()
    {
        await using var site = await Site.StartAsync();
        await site.WriteAsync(Rows);
        JsonElement done = default;
        for (var tried = 0; tried < 3; tried++)
        {
            var brightness = 10 + tried;
            var (process, owner) = await ServerProcess.StartAsync(site, ("Jovitar__Workers", "0"));
            if (tried == 0)
            {
                await (await owner.PostAsJsonAsync("/api/hand/found", new { how = "take" })).ReadAsync();
            }

            var going = owner.PostAsJsonAsync("/api/corrections", new { inHand = true, shape = "square", brightness });
            await Task.WhenAny(going, Task.Delay(tried == 2 ? 90_000 : 150 + (500 * tried)));
            if (tried == 2)
            {
                done = await (await going).ReadAsync();
            }

            process.Kill();
            await process.WaitForExitAsync();
            process.Dispose();
            owner.Dispose();
            await site.UntilAsync("select count(*) from pg_stat_activity where datname = current_database() and state <> 'idle' and pid <> pg_backend_pid()", 0);
            var written = await site.ScalarAsync<long>($"select count(*) from photo where correction ->> 'brightness' = '{brightness}'");
            Assert.True(written is 0 or 20000, $"{written} of 20000 were written.");
            // The size it is seen at is never of another correction than the one that is kept.
            Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from photo where correction is not null and (width, height) <> (200, 200) or correction is null and width <> own_width"));
        }

        Assert.Equal(20000, done.GetProperty("photos").GetInt32());
        Assert.Equal(20000, await site.ScalarAsync<long>("select count(distinct picture) from photo where picture like '%-%' and stage = 1"));
        var (another, tomorrow) = await ServerProcess.StartAsync(site, ("Jovitar__Workers", "0"));
        await tomorrow.UndoAsync(done);
        another.Kill();
        tomorrow.Dispose();
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from photo where correction ->> 'brightness' = '12'"));
    }

    [Fact]
    public async Task Two_who_correct_the_same_photos_at_once_lose_nothing_of_each_other()
    {
        await using var site = await Site.StartAsync();
        var (odile, tam) = (await site.OwnerAsync(), await site.EditorAsync("Tam"));
        var photos = await BroughtAsync(site, odile, 4);
        var random = new Random(7);
        for (var round = 1; round <= 8; round++)
        {
            var mixed = photos.OrderBy(_ => random.Next()).ToArray();
            await Task.WhenAll(
                CorrectAsync(odile, new { photos = mixed, brightness = round }), CorrectAsync(tam, new { photos = mixed.Reverse(), contrast = -round }),
                CorrectAsync(odile, new { photos = mixed[..2], angle = round / 2.0 }), CorrectAsync(tam, new { photos = mixed[..2], focus = new { x = 0.1 * round, y = 0.5 } }));
            Assert.Equal(4, await site.ScalarAsync<long>($"select count(*) from photo where correction ->> 'brightness' = '{round}' and correction ->> 'contrast' = '-{round}'"));
            Assert.Equal(2, await site.ScalarAsync<long>(string.Create(CultureInfo.InvariantCulture, $"select count(*) from photo where correction ->> 'angle' = '{round / 2.0}' and correction -> 'focus' ->> 0 = '{0.1 * round:0.#}'")));
        }

        await site.UntilAsync("select count(*) from photo where stage = 2", 4);
        await site.VerifyAsync();
    }

    [Fact]
    public async Task A_photo_that_is_corrected_while_its_renditions_are_made_ends_with_those_of_its_last_correction()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var photos = await BroughtAsync(site, owner, 3);
        for (var turn = 0; turn < 6; turn++)
        {
            await CorrectAsync(owner, new { photos, turn = 1, brightness = turn });
            await Task.Delay(20 * turn);
        }

        await site.UntilAsync("select count(*) from photo where stage = 2", 3);
        foreach (var photo in photos)
        {
            var plate = await GetAsync(owner, $"/api/photos/{photo}");
            Assert.Equal((900, 600), (plate.GetProperty("width").GetInt32(), plate.GetProperty("height").GetInt32()));
            foreach (var width in plate.GetProperty("renditions").EnumerateArray())
            {
                using var image = Image.NewFromBuffer(await owner.GetByteArrayAsync($"/api/renditions/{plate.GetProperty("picture").GetString()}/{width.GetInt32()}"));
                Assert.Equal(Math.Min(width.GetInt32(), 900), image.Width);
            }
        }

        await site.VerifyAsync();
    }

    [Fact]
    public async Task A_photo_thrown_away_while_it_is_corrected_comes_back_as_it_was_corrected_before()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var photos = await BroughtAsync(site, owner, 2);
        await CorrectAsync(owner, new { photos, turn = 2 });
        var thrown = await (await owner.PostAsJsonAsync("/api/bin", new { photos = photos[..1] })).ReadAsync();
        Assert.Equal(1, (await CorrectAsync(owner, new { photos, reset = true })).GetProperty("photos").GetInt32());
        await owner.UndoAsync(thrown);
        Assert.Equal(2, (await GetAsync(owner, $"/api/photos/{photos[0]}/correction")).GetProperty("correction").GetProperty("turns").GetInt32());
        Assert.Equal(1, (await GetAsync(owner, "/api/photos?corrected=turned")).GetProperty("total").GetInt32());
    }

    [Fact]
    public async Task On_a_page_a_focus_stays_in_view_and_copies_leave_corrected()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, photos, _, address) = await site.PublishedAsync(owner, 2);
        await CorrectAsync(owner, new { photos = photos[..1], turn = 1, focus = new { x = 0.25, y = 0.1 } });
        // Worked by hand: a quarter turn takes (0.25, 0.1) to (0.9, 0.25); in tenths 9 and 2, halves to the even one.
        var page = await (await site.Visitor().GetAsync($"/{address}")).Content.ReadAsStringAsync();
        Assert.Equal(1, page.Split("class=\"x9 y2\"").Length - 1);
        Assert.Contains(".x9{--x:90%}", (await StylesAsync(site, page)).Replace(" ", "", StringComparison.Ordinal).Replace("\n", "", StringComparison.Ordinal).Replace(";}", "}", StringComparison.Ordinal), StringComparison.Ordinal);

        (await owner.PutAsJsonAsync("/api/hand", new { photos = photos[..1] })).EnsureSuccessStatusCode();
        using var zip = new System.IO.Compression.ZipArchive(await (await owner.GetAsync("/api/hand/download?edge=300&quality=80")).Content.ReadAsStreamAsync());
        await using var entry = zip.Entries.Single().Open();
        using var bytes = new MemoryStream();
        await entry.CopyToAsync(bytes);
        using var copy = Image.NewFromBuffer(bytes.ToArray());
        Assert.Equal((200, 300), (copy.Width, copy.Height));
    }

    static async Task<string> StylesAsync(Site site, string page)
    {
        var styles = new StringBuilder();
        foreach (var link in page.Split("href=\"").Skip(1).Select(p => p[..p.IndexOf('"', StringComparison.Ordinal)]).Where(h => h.EndsWith(".css", StringComparison.Ordinal)))
        {
            styles.Append(await site.Visitor().GetStringAsync(link));
        }

        return styles.ToString();
    }

    [Fact]
    public async Task A_print_and_its_scan_are_told_apart_by_a_file_of_words()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var scan = (await BroughtAsync(site, owner, 1))[0];
        var cut = await (await owner.PostAsJsonAsync($"/api/photos/{scan}/prints", new { prints = new[] { new { angle = 0, crop = new { x = 0.1, y = 0.1, width = 0.3, height = 0.3 } } } })).ReadAsync();
        var print = cut.GetProperty("photos")[0].GetString();
        var hash = await site.ScalarAsync<string>($"select encode(hash, 'hex') from photo where id = '{print}'");
        // What it consists of is the scan's; the print is known by its id.
        async Task<JsonElement> WriteAsync(string csv)
        {
            using var content = new ByteArrayContent(Encoding.UTF8.GetBytes(csv));
            content.Headers.ContentType = new("text/csv");
            return await (await owner.PostAsync("/api/words/table", content)).ReadAsync();
        }

        await WriteAsync($"hash,title\r\n{hash},The scan\r\n");
        await WriteAsync($"id,hash,title\r\n{print},{hash},The print\r\n");
        Assert.Equal(["The scan", "The print"], await site.ScalarAsync<string[]>("select array_agg(title order by part) from photo"));
        foreach (var body in (object[])[new { prints = Array.Empty<object>() }, new { prints = new[] { new { angle = 0, crop = new { x = 0, y = 0, width = 1, height = 1 } } } }, new { prints = new[] { new { angle = 90, crop = new { x = 0, y = 0, width = 0.5, height = 0.5 } } } }])
        {
            Assert.Equal(HttpStatusCode.BadRequest, (await owner.PostAsJsonAsync($"/api/photos/{scan}/prints", body)).StatusCode);
        }
    }
}
