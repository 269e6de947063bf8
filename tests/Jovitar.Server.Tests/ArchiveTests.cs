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
    public async Task A_ZIP_that_says_it_holds_more_than_any_number_is_refused_and_the_next_is_unpacked()
    {
        // Both entries say in their ZIP64 fields (APPNOTE.TXT 4.5.3) that they come to 2^63−1 bytes.
        using var memory = new MemoryStream();
        using (var archive = new ZipArchive(memory, ZipArchiveMode.Create, leaveOpen: true))
        {
            foreach (var name in (string[])["one.jpg", "two.jpg"])
            {
                using var entry = archive.CreateEntry(name).Open();
                entry.Write(Acts.Photo(1, 60, 40));
            }
        }

        await using var site = await Site.StartAsync(workers: 1);
        var owner = await site.OwnerAsync();
        var detail = await BringAsync(site, owner, Overstated(memory.ToArray()));
        Assert.Equal(["ArchiveTooLarge"], Causes(detail));
        Assert.Empty(Causes(await BringAsync(site, owner, Zip(("good.jpg", Acts.Photo(2, 60, 40))))));
        Assert.Equal(1, await site.ScalarAsync<long>("select count(*) from photo"));
    }

    /// <summary>The same ZIP with the sizes in its central directory moved to ZIP64 fields that say 2^63−1.</summary>
    static byte[] Overstated(byte[] zip)
    {
        var end = zip.AsSpan().LastIndexOf("PK\u0005\u0006"u8);
        var start = (int)BinaryPrimitives.ReadUInt32LittleEndian(zip.AsSpan(end + 16));
        using var made = new MemoryStream();
        made.Write(zip.AsSpan(0, start));
        for (var at = start; at < end;)
        {
            var (name, extra, comment) = (BinaryPrimitives.ReadUInt16LittleEndian(zip.AsSpan(at + 28)), BinaryPrimitives.ReadUInt16LittleEndian(zip.AsSpan(at + 30)), BinaryPrimitives.ReadUInt16LittleEndian(zip.AsSpan(at + 32)));
            var head = zip.AsSpan(at, 46).ToArray();
            BinaryPrimitives.WriteUInt32LittleEndian(head.AsSpan(24), uint.MaxValue);
            BinaryPrimitives.WriteUInt16LittleEndian(head.AsSpan(30), 12);
            made.Write(head);
            made.Write(zip.AsSpan(at + 46, name));
            var field = new byte[12];
            field[0] = 1;
            field[2] = 8;
            BinaryPrimitives.WriteInt64LittleEndian(field.AsSpan(4), long.MaxValue);
            made.Write(field);
            at += 46 + name + extra + comment;
        }

        var tail = zip.AsSpan(end).ToArray();
        BinaryPrimitives.WriteUInt32LittleEndian(tail.AsSpan(12), (uint)(made.Length - start));
        made.Write(tail);
        return made.ToArray();
    }

    [Fact]
    public async Task A_ZIP_whose_intake_is_taken_back_stops_at_once_and_goes_on_when_it_is_brought_back()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var intake = await owner.IntakeAsync();
        await owner.BringAsync(intake, "day.zip", Zip([.. Enumerable.Range(0, 12).Select(i => ($"{i}.jpg", Acts.Photo(i, 60, 40)))]));
        var taken = await (await owner.PostAsync($"/api/intakes/{intake}/taking-back", null)).ReadAsync();
        site.Process(workers: 1);
        await Task.Delay(600);
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from photo"));
        await owner.UndoAsync(taken);
        await site.UntilAsync("select count(*) from photo where state = 'ready'", 12);
        await site.UntilAsync("select count(*) from unpacking where ended is null", 0);
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
