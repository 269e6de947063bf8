using System.Buffers.Binary;
using System.Diagnostics;
using System.IO.Compression;
using System.Text;
using System.Text.Json;

namespace Jovitar.Server.Tests;

/// <summary>ZIPs made by Info-ZIP and by hand (APPNOTE.TXT 6.3), good and hostile.</summary>
public sealed class ArchiveTests
{
    static async Task<JsonElement> BringAsync(Site site, HttpClient owner, byte[] zip)
    {
        var intake = await owner.IntakeAsync();
        await owner.BringAsync(intake, "day two.zip", zip);
        await site.UntilAsync("select count(*) from unpacking where ended is null", 0);
        return await (await owner.GetAsync($"/api/intakes/{intake}")).ReadAsync();
    }

    static byte[] Zip(params (string Name, byte[] Bytes)[] entries)
    {
        using var memory = new MemoryStream();
        using (var archive = new ZipArchive(memory, ZipArchiveMode.Create, leaveOpen: true))
        {
            foreach (var (name, bytes) in entries)
            {
                using var entry = archive.CreateEntry(name).Open();
                entry.Write(bytes);
            }
        }

        return memory.ToArray();
    }

    static string[] Causes(JsonElement detail) => [.. detail.GetProperty("failures").EnumerateArray().Select(f => f.GetProperty("cause").GetString()!).Order()];

    [Fact]
    public async Task A_folder_packed_by_Info_ZIP_arrives_with_its_sub_paths_and_nothing_is_lost()
    {
        var folder = Directory.CreateTempSubdirectory("zip").FullName;
        Directory.CreateDirectory(Path.Combine(folder, "Tag zwei", "Seebrücke"));
        for (var i = 0; i < 30; i++)
        {
            File.WriteAllBytes(Path.Combine(folder, "Tag zwei", i % 2 == 0 ? "" : "Seebrücke", $"drachen{i}.jpg"), Acts.Photo(200 + i, 400, 300));
        }

        File.WriteAllText(Path.Combine(folder, "Tag zwei", "programme.txt"), "Kites at ten.");
        File.WriteAllText(Path.Combine(folder, "Tag zwei", ".DS_Store"), "x");
        var path = Path.Combine(folder, "out.zip");
        using (var zip = Process.Start(new ProcessStartInfo("zip", ["-q", "-r", path, "Tag zwei"]) { WorkingDirectory = folder })!)
        {
            await zip.WaitForExitAsync();
            Assert.Equal(0, zip.ExitCode);
        }

        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var detail = await BringAsync(site, owner, File.ReadAllBytes(path));
        await site.UntilAsync("select count(*) from photo where state = 'ready' and stage = 2", 30);
        Assert.Equal(15, await site.ScalarAsync<long>("select count(*) from intake_file where path = 'day two/Tag zwei/Seebrücke'"));
        Assert.Equal(["NotUnpacked"], Causes(detail));
        Assert.Equal(1, detail.GetProperty("intake").GetProperty("skipped").GetInt32());
        await site.VerifyAsync();
        Assert.Empty(Directory.GetFiles(Path.Combine(site.Data, "arriving")));
    }

    [Fact]
    public async Task Names_without_the_sign_for_UTF_8_are_read_as_UTF_8_or_as_code_page_437()
    {
        // The general purpose flag's bit 11 is cleared in both headers; the second name's ü is code page 437's 0x81.
        var zip = Zip(("brücke.jpg", Acts.Photo(1, 300, 200)), ("dXnen.jpg", Acts.Photo(2, 300, 200)));
        for (var i = 0; i + 4 < zip.Length; i++)
        {
            var signature = BinaryPrimitives.ReadUInt32LittleEndian(zip.AsSpan(i));
            if (signature is 0x04034b50 or 0x02014b50)
            {
                zip[i + (signature == 0x04034b50 ? 7 : 9)] &= 0xF7;
            }

            if (zip.AsSpan(i).StartsWith("dXnen"u8))
            {
                zip[i + 1] = 0x81;
            }
        }

        await using var site = await Site.StartAsync(workers: 1);
        await BringAsync(site, await site.OwnerAsync(), zip);
        Assert.Equal("brücke.jpg,dünen.jpg", await site.ScalarAsync<string>("select string_agg(file_name, ',' order by entry) from intake_file where entry >= 0"));
    }

    [Fact]
    public async Task Hostile_names_links_and_bombs_are_left_alone_and_named_and_the_rest_arrives()
    {
        using var memory = new MemoryStream();
        using (var archive = new ZipArchive(memory, ZipArchiveMode.Create, leaveOpen: true))
        {
            void Add(string name, byte[] bytes, int mode = 0)
            {
                var entry = archive.CreateEntry(name, CompressionLevel.SmallestSize);
                entry.ExternalAttributes = mode << 16;
                using var stream = entry.Open();
                stream.Write(bytes);
            }

            Add("good.jpg", Acts.Photo(1, 300, 200));
            Add("../../escape.jpg", Acts.Photo(2, 300, 200));
            Add("/etc/absolute.jpg", Acts.Photo(3, 300, 200));
            Add("link.jpg", "/etc/passwd"u8.ToArray(), 0xA1FF);
            Add("bomb.jpg", new byte[40 << 20]);
            Add("nested.zip", Zip(("inner.jpg", Acts.Photo(4, 300, 200))));
            Add("empty.jpg", []);
            // What is really large, so that the whole is not too dense and the bomb must be found by itself.
            Add("noise.bin", System.Security.Cryptography.RandomNumberGenerator.GetBytes(5 << 20));
        }

        await using var site = await Site.StartAsync(workers: 1);
        var owner = await site.OwnerAsync();
        var detail = await BringAsync(site, owner, memory.ToArray());
        Assert.Equal(["ArchivePath", "ArchiveTooDense", "Empty", "NotUnpacked"], Causes(detail));
        Assert.Equal(3, detail.GetProperty("failures").EnumerateArray().Single(f => f.GetProperty("cause").GetString() == "ArchivePath").GetProperty("count").GetInt32());
        await site.UntilAsync("select count(*) from photo where state = 'ready' and stage = 2", 1);
        Assert.Equal(1, await site.ScalarAsync<long>("select count(*) from photo"));
        await site.VerifyAsync();
    }

    [Fact]
    public async Task A_ZIP_that_lies_about_its_sizes_is_stopped_where_it_lies()
    {
        var zip = Zip(("liar.jpg", new byte[3 << 20]));
        // The uncompressed size in the central directory says 1,000 bytes.
        var at = zip.AsSpan().IndexOf("PK\u0001\u0002"u8);
        BinaryPrimitives.WriteUInt32LittleEndian(zip.AsSpan(at + 24), 1000);
        await using var site = await Site.StartAsync(workers: 1);
        var detail = await BringAsync(site, await site.OwnerAsync(), zip);
        Assert.NotEqual(0, detail.GetProperty("intake").GetProperty("failed").GetInt32());
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from photo"));
        await site.VerifyAsync();
    }

    [Theory]
    [InlineData("many", "ArchiveTooMany")]
    [InlineData("large", "ArchiveTooLarge")]
    [InlineData("cut", "ArchiveUnreadable")]
    [InlineData("garbage", "ArchiveUnreadable")]
    public async Task What_cannot_be_unpacked_as_a_whole_says_why(string what, string cause)
    {
        var zip = what switch
        {
            "many" => Zip([.. Enumerable.Range(0, 20_001).Select(i => ($"{i}", Array.Empty<byte>()))]),
            "large" => Zip(("a.jpg", new byte[30 << 20]), ("b.jpg", new byte[30 << 20])),
            "cut" => Zip(("a.jpg", Acts.Photo(1)), ("b.jpg", Acts.Photo(2)))[..^30],
            _ => [.. "PK\u0003\u0004"u8, .. Encoding.ASCII.GetBytes(new string('x', 5000))],
        };
        await using var site = await Site.StartAsync(workers: 1);
        var detail = await BringAsync(site, await site.OwnerAsync(), zip);
        Assert.Equal([cause], Causes(detail));
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from photo"));
        Assert.Empty(Directory.GetFiles(Path.Combine(site.Data, "arriving")));
    }

    [Fact]
    public async Task An_interrupted_ZIP_goes_on_behind_what_is_unpacked()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var intake = await owner.IntakeAsync();
        await owner.BringAsync(intake, "half.zip", Zip([.. Enumerable.Range(0, 6).Select(i => ($"{i}.jpg", Acts.Photo(300 + i, 300, 200)))]));
        // What a killed process leaves: a claim, and three of the entries written down.
        await using (var half = site.Db.CreateCommand("""
            update unpacking set claimed_until = now() + interval '1 second', attempts = 1;
            insert into intake_file (intake, file_name, outcome, reason, came, unpacking, entry) select intake, 'x', 'dropped', 'x', now(), id, n from unpacking, generate_series(0, 2) as n
            """))
        {
            await half.ExecuteNonQueryAsync();
        }

        site.Process(workers: 1);
        await site.UntilAsync("select count(*) from unpacking where ended is null", 0);
        Assert.Equal("3.jpg,4.jpg,5.jpg", await site.ScalarAsync<string>("select string_agg(file_name, ',' order by file_name) from photo"));
    }
}
