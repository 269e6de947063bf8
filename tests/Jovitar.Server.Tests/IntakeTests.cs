using System.Net;
using System.Net.Http.Json;
using System.Security.Cryptography;
using System.Text;

namespace Jovitar.Server.Tests;

public sealed class IntakeTests
{
    [Fact]
    public async Task A_good_file_becomes_a_photo_whose_original_is_kept_byte_for_byte()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var bytes = Acts.Photo(1);
        var file = await owner.BringAsync(await owner.IntakeAsync(), "C:\\pictures\\one.jpg", bytes);
        Assert.Equal("arrived", file.GetProperty("outcome").GetString());
        Assert.Equal("one.jpg", file.GetProperty("fileName").GetString());
        Assert.Equal(Convert.ToHexStringLower(SHA256.HashData(bytes)), file.GetProperty("picture").GetString());
        await site.UntilAsync("select count(*) from photo where state = 'ready' and stage = 2", 1);
        var id = file.GetProperty("photo").GetString();
        Assert.Equal(bytes, await owner.GetByteArrayAsync($"/api/photos/{id}/original"));
        Assert.Equal("image/webp", (await owner.GetAsync($"/api/renditions/{file.GetProperty("picture").GetString()}/480")).Content.Headers.ContentType!.MediaType);
        Assert.Empty(Directory.GetFiles(Path.Combine(site.Data, "arriving")));
    }

    [Fact]
    public async Task The_same_file_twice_at_the_same_moment_is_one_photo()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var intake = await owner.IntakeAsync();
        var bytes = Acts.Photo(2);
        var files = await Task.WhenAll(Enumerable.Range(0, 8).Select(i => owner.BringAsync(intake, $"copy{i}.jpg", bytes)));
        Assert.Single(files, f => f.GetProperty("outcome").GetString() == "arrived");
        Assert.Single(files.Select(f => f.GetProperty("photo").GetString()).Distinct());
        Assert.Equal(1, await site.ScalarAsync<long>("select count(*) from photo"));
        Assert.Equal(8, await site.ScalarAsync<long>("select count(*) from intake_file"));
    }

    public static TheoryData<string, byte[], string> Refused => new()
    {
        { "empty.jpg", [], "empty" },
        { "holiday.jpg", Encoding.UTF8.GetBytes("<html><script>alert(1)</script></html> and so on and so on and so on"), "not a picture" },
        { "drawing.psd", [.. "8BPS"u8, .. new byte[100]], "kind of picture" },
        { "huge.png", HugePng(), "million pixels" },
        { "broken.png", [0x89, 0x50, 0x4E, 0x47, 0x0D, 0x0A, 0x1A, 0x0A, .. new byte[60]], "" },
    };

    /// <summary>A valid PNG header of 60,000 by 60,000 pixels with almost nothing behind it (ISO/IEC 15948 §11.2.2).</summary>
    static byte[] HugePng()
    {
        byte[] header = [.. "IHDR"u8, 0, 0, 0xEA, 0x60, 0, 0, 0xEA, 0x60, 8, 2, 0, 0, 0];
        var crc = Crc(header);
        return [0x89, 0x50, 0x4E, 0x47, 0x0D, 0x0A, 0x1A, 0x0A, 0, 0, 0, 13, .. header, .. crc, 0, 0, 0, 4, .. "IDAT"u8, 1, 2, 3, 4, 0, 0, 0, 0];
    }

    /// <summary>CRC-32 as PNG's annex D defines it.</summary>
    static byte[] Crc(byte[] data)
    {
        var crc = uint.MaxValue;
        foreach (var b in data)
        {
            crc ^= b;
            for (var k = 0; k < 8; k++)
            {
                crc = (crc & 1) != 0 ? 0xEDB88320u ^ (crc >> 1) : crc >> 1;
            }
        }

        crc = ~crc;
        return [(byte)(crc >> 24), (byte)(crc >> 16), (byte)(crc >> 8), (byte)crc];
    }

    [Theory]
    [MemberData(nameof(Refused))]
    public async Task What_is_no_photo_is_refused_with_a_sentence_and_nothing_is_kept(string name, byte[] bytes, string says)
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var file = await owner.BringAsync(await owner.IntakeAsync(), name, bytes);
        Assert.Equal("refused", file.GetProperty("outcome").GetString());
        Assert.Contains(says, file.GetProperty("reason").GetString(), StringComparison.Ordinal);
        Assert.EndsWith(".", file.GetProperty("reason").GetString(), StringComparison.Ordinal);
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from photo"));
        Assert.Empty(Directory.GetFiles(site.Data, "*", SearchOption.AllDirectories));
    }

    [Fact]
    public async Task A_file_over_the_sites_own_limit_is_refused()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        await using (var limit = site.Db.CreateCommand("update site set max_bytes = 1000"))
        {
            await limit.ExecuteNonQueryAsync();
        }

        var file = await owner.BringAsync(await owner.IntakeAsync(), "large.jpg", Acts.Photo(3));
        Assert.Equal("refused", file.GetProperty("outcome").GetString());
        Assert.Empty(Directory.GetFiles(site.Data, "*", SearchOption.AllDirectories));
    }

    [Fact]
    public async Task A_file_cut_short_fails_in_words_keeps_its_original_and_can_be_tried_again()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var bytes = Acts.Photo(4);
        var file = await owner.BringAsync(await owner.IntakeAsync(), "cut.jpg", bytes[..(bytes.Length / 2)]);
        await site.UntilAsync("select count(*) from photo where state = 'failed'", 1);
        var desk = await (await owner.GetAsync("/api/desk")).ReadAsync();
        Assert.Contains("cut short", desk.GetProperty("failed")[0].GetProperty("sentence").GetString(), StringComparison.Ordinal);
        Assert.Equal(bytes.Length / 2, (await owner.GetByteArrayAsync($"/api/photos/{file.GetProperty("photo").GetString()}/original")).Length);
        var again = await (await owner.PostAsJsonAsync("/api/intakes/retry", new { photos = new[] { file.GetProperty("photo").GetString() } })).ReadAsync();
        Assert.Equal(1, again.GetProperty("count").GetInt32());
        await site.UntilAsync("select count(*) from photo where state = 'failed'", 1);
    }

    [Fact]
    public async Task A_worker_that_was_killed_leaves_its_photo_to_another()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        await owner.BringAsync(await owner.IntakeAsync(), "left.jpg", Acts.Photo(5));
        // What kill -9 leaves behind: a claim that nobody will end, and half a rendition under a name of its own.
        await using (var claim = site.Db.CreateCommand("update photo set claimed_until = now() + interval '1 second', attempts = 1"))
        {
            await claim.ExecuteNonQueryAsync();
        }

        site.Process(workers: 1);
        await site.UntilAsync("select count(*) from photo where state = 'ready' and stage = 2", 1);
        Assert.Empty(Directory.GetFiles(Path.Combine(site.Data, "renditions"), "*.part", SearchOption.AllDirectories));
    }

    [Fact]
    public async Task A_photo_that_kills_every_worker_is_given_up_after_three()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        await owner.BringAsync(await owner.IntakeAsync(), "deadly.jpg", Acts.Photo(6));
        await using (var claim = site.Db.CreateCommand("update photo set claimed_until = now() - interval '1 second', attempts = 3"))
        {
            await claim.ExecuteNonQueryAsync();
        }

        site.Process(workers: 1);
        await site.UntilAsync("select count(*) from photo where state = 'failed' and failure like '%three times%'", 1);
    }

    [Fact]
    public async Task Many_workers_in_two_processes_make_every_photo_once()
    {
        await using var site = await Site.StartAsync(workers: 2);
        site.Process(workers: 2);
        var owner = await site.OwnerAsync();
        var album = (await (await owner.PostAsJsonAsync("/api/albums", new { workingName = "All" })).ReadAsync()).GetProperty("id").GetString();
        var intake = await owner.IntakeAsync(album);
        await Parallel.ForEachAsync(Enumerable.Range(0, 24), new ParallelOptions { MaxDegreeOfParallelism = 4 }, async (i, _) => await owner.BringAsync(intake, $"{i}.jpg", Acts.Photo(100 + i, 400, 300)));
        await site.UntilAsync("select count(*) from photo where state = 'ready' and stage = 2", 24);
        Assert.Equal(24, await site.ScalarAsync<long>("select count(distinct place) from album_photo"));
        Assert.Equal(24, Directory.GetFiles(Path.Combine(site.Data, "renditions"), "*-480.webp", SearchOption.AllDirectories).Length);
    }

    [Fact]
    public async Task Words_in_the_file_become_the_photos_words_and_its_keywords_tags()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var path = Path.Combine(AppContext.BaseDirectory, "../../../../../demo/photos");
        var bytes = await File.ReadAllBytesAsync(Directory.GetFiles(path, "*.jpg").Order().First());
        var file = await owner.BringAsync(await owner.IntakeAsync(), "demo.jpg", bytes);
        await site.UntilAsync("select count(*) from photo where state = 'ready'", 1);
        var plate = await (await owner.GetAsync($"/api/photos/{file.GetProperty("photo").GetString()}")).ReadAsync();
        Assert.Equal("Nine o'clock, wind from the south-west", plate.GetProperty("title").GetString());
        Assert.Equal("2026-06-13T09:04:00", plate.GetProperty("taken").GetString());
        Assert.Equal(60, plate.GetProperty("takenOffsetMinutes").GetInt32());
        Assert.Equal(["delta", "launch", "morning"], plate.GetProperty("tags").EnumerateArray().Select(t => t.GetProperty("name").GetString()));
    }

    [Fact]
    public async Task An_intake_that_is_not_there_is_said_to_be_gone()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        using var content = new ByteArrayContent(Acts.Photo(7));
        Assert.Equal(HttpStatusCode.NotFound, (await owner.PostAsync($"/api/intakes/{Guid.NewGuid()}/files?name=x.jpg", content)).StatusCode);
    }
}
