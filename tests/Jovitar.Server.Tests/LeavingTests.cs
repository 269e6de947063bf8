using System.IO.Compression;
using System.Net;
using System.Net.Http.Json;
using System.Text;
using Jovitar.Imaging;
using NetVips;

namespace Jovitar.Server.Tests;

/// <summary>Photos leave with the words that were written here, and without the place where they were taken.</summary>
public sealed class LeavingTests : IDisposable
{
    readonly string folder = Directory.CreateTempSubdirectory("jovitar-leaving").FullName;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    static async Task<ZipArchive> ZipAsync(HttpClient who, string query = "")
    {
        var answer = await who.GetAsync($"/api/hand/download?{query}");
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        Assert.True(answer.Headers.CacheControl is { Private: true, NoStore: true });
        return new ZipArchive(await answer.Content.ReadAsStreamAsync(), ZipArchiveMode.Read);
    }

    static (int, int) Size(string path) => Picture.Measure(path) is var size ? (size.Width, size.Height) : default;

    async Task<string> SavedAsync(ZipArchiveEntry entry)
    {
        var path = Path.Combine(folder, $"{Guid.NewGuid():N}{Path.GetExtension(entry.Name)}");
        await using var from = entry.Open();
        await using var to = File.Create(path);
        await from.CopyToAsync(to);
        return path;
    }

    [Fact]
    public async Task Originals_and_renditions_in_hand_leave_as_a_ZIP_with_their_words_in_them()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var intake = await owner.IntakeAsync();
        using var picture = Image.Black(64, 48);
        var files = new (string Name, byte[] Bytes)[]
        {
            ("one.jpg", Acts.Photo(1, 900, 600)), ("one.jpg", Acts.Photo(2, 600, 900)), ("ONE.JPG", Acts.Photo(3)), ("flat.png", picture.PngsaveBuffer()), ("moving.gif", picture.Invert().GifsaveBuffer()), ("../odd: name?.jpg", Acts.Photo(4)),
        };
        var photos = new List<string>();
        foreach (var (name, bytes) in files)
        {
            photos.Add((await owner.BringAsync(intake, name, bytes)).GetProperty("photo").GetString()!);
        }

        await site.UntilAsync("select count(*) from photo where state = 'ready'", files.Length);
        object[] changes =
        [
            new { write = new { field = "title", pattern = new object[] { new { text = "Kite " }, new { counter = new { digits = 1, from = 1, eachDay = false } } } } },
            new { write = new { field = "place", pattern = new[] { new { text = "Marram Bay" } } } }, new { people = new { add = new[] { "Ines Harrow" }, remove = Array.Empty<string>() } }, new { taken = new { local = "2026-06-13T14:05:00", offset = 60 } },
        ];
        await (await owner.PostAsJsonAsync("/api/words", new { photos, changes })).ReadAsync();
        await (await owner.PostAsJsonAsync("/api/photos/tags", new { photos, add = new[] { "Delta" }, remove = Array.Empty<string>() })).ReadAsync();
        await (await owner.PostAsJsonAsync("/api/photos/decision", new { photos = photos[..1], decision = "leave_out", rating = 3 })).ReadAsync();
        await site.WriteAsync("update photo set latitude = 54.25, longitude = -3.5");
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.GetAsync("/api/hand/download")).StatusCode);
        (await owner.PutAsJsonAsync("/api/hand", new { photos })).EnsureSuccessStatusCode();

        using (var zip = await ZipAsync(owner))
        {
            Assert.Equal(["one.jpg", "one (2).jpg", "ONE (3).JPG", "flat.png", "moving.gif", "moving.xmp", "odd- name-.jpg"], zip.Entries.Select(e => e.FullName));
            var path = await SavedAsync(zip.Entries[1]);
            var read = MetadataReader.Read(path);
            Assert.Equal(("Kite 2", "Marram Bay", 60), (read.Words.Title, read.Words.Place, (int)read.Words.Taken!.Value.Offset!.Value.TotalMinutes));
            Assert.Equal(["Ines Harrow"], read.Words.People);
            Assert.Equal(["Delta"], read.Words.Keywords);
            Assert.Null(read.Position);
            // The picture is the original's, byte by byte.
            static string Scan(byte[] of) => Convert.ToHexString(of.AsSpan(of.AsSpan().IndexOf((ReadOnlySpan<byte>)[0xFF, 0xDA])));
            Assert.Equal(Scan(files[1].Bytes), Scan(await File.ReadAllBytesAsync(path)));
            using var sidecar = new StreamReader(zip.GetEntry("moving.xmp")!.Open());
            Assert.Contains("Kite 5", await sidecar.ReadToEndAsync(), StringComparison.Ordinal);
            Assert.Equal(files[4].Bytes.Length, zip.GetEntry("moving.gif")!.Length);
            // What is left out everywhere says so as other programs write it.
            Assert.Contains("xmp:Rating=\"-1\"", Encoding.UTF8.GetString(await File.ReadAllBytesAsync(await SavedAsync(zip.Entries[0]))), StringComparison.Ordinal);
        }

        using (var zip = await ZipAsync(owner, "edge=320&quality=70&position=true"))
        {
            Assert.Equal(["one.jpg", "one (2).jpg", "ONE (3).jpg", "flat.jpg", "moving.jpg", "odd- name-.jpg"], zip.Entries.Select(e => e.FullName));
            var (wide, high) = (await SavedAsync(zip.Entries[0]), await SavedAsync(zip.Entries[1]));
            Assert.Equal(((320, 213), (213, 320)), (Size(wide), Size(high)));
            Assert.Equal(("Kite 2", 54.25), (MetadataReader.Read(high).Words.Title, MetadataReader.Read(high).Position!.Value.Latitude));
            // What is smaller than asked for stays as small as it is.
            Assert.Equal((64, 48), Size(await SavedAsync(zip.Entries[3])));
        }

        var single = await owner.GetAsync($"/api/photos/{photos[5]}/written");
        Assert.Equal("attachment", single.Content.Headers.ContentDisposition!.DispositionType);
        var one = Path.Combine(folder, "one.jpg");
        await File.WriteAllBytesAsync(one, await single.Content.ReadAsByteArrayAsync());
        Assert.Equal("Kite 6", MetadataReader.Read(one).Words.Title);
        Assert.Empty(Directory.GetFiles(Path.Combine(site.Data, "unfinished")));

        // Only the owner lets the place leave; who is not signed in gets nothing.
        var tomas = await site.EditorAsync("Tomas");
        (await tomas.PutAsJsonAsync("/api/hand", new { photos })).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.Forbidden, (await tomas.GetAsync("/api/hand/download?position=true")).StatusCode);
        Assert.Equal(HttpStatusCode.Forbidden, (await tomas.GetAsync($"/api/photos/{photos[0]}/written?position=true")).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await tomas.GetAsync($"/api/photos/{photos[0]}/written")).StatusCode);
        Assert.Equal(HttpStatusCode.Unauthorized, (await site.Visitor().GetAsync("/api/hand/download")).StatusCode);
        Assert.Equal(HttpStatusCode.Unauthorized, (await site.Visitor().GetAsync($"/api/photos/{photos[0]}/written")).StatusCode);
        foreach (var wrong in new[] { "edge=3", "edge=99999", "quality=0&edge=300", "edge=x" })
        {
            Assert.Equal(HttpStatusCode.BadRequest, (await owner.GetAsync($"/api/hand/download?{wrong}")).StatusCode);
        }
    }

    [Fact]
    public async Task What_says_where_it_was_taken_and_cannot_be_written_does_not_leave_as_it_came()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        using var picture = Image.Black(64, 48);
        // XMP in a GIF (XMP Specification Part 3, 1.1.2): an application extension with the packet and a trailer of descending bytes.
        var packet = Encoding.UTF8.GetBytes("<x:xmpmeta xmlns:x='adobe:ns:meta/'><rdf:RDF xmlns:rdf='http://www.w3.org/1999/02/22-rdf-syntax-ns#'><rdf:Description rdf:about='' xmlns:exif='http://ns.adobe.com/exif/1.0/' exif:GPSLatitude='54,15.0N' exif:GPSLongitude='3,30.0W'/></rdf:RDF></x:xmpmeta>");
        var gif = picture.GifsaveBuffer();
        byte[] trailer = [1, .. Enumerable.Range(0, 256).Select(i => (byte)(255 - i)), 0];
        byte[] placed = [.. gif[..^1], 0x21, 0xFF, 11, .. "XMP DataXMP"u8, .. packet, .. trailer, 0x3B];
        var intake = await owner.IntakeAsync();
        string[] photos = [(await owner.BringAsync(intake, "placed.gif", placed)).GetProperty("photo").GetString()!, (await owner.BringAsync(intake, "plain.jpg", Acts.Photo(1))).GetProperty("photo").GetString()!];
        await site.UntilAsync("select count(*) from photo where state = 'ready'", 2);
        (await owner.PutAsJsonAsync("/api/hand", new { photos })).EnsureSuccessStatusCode();
        using (var zip = await ZipAsync(owner))
        {
            Assert.Equal(["plain.jpg", "not sent.txt"], zip.Entries.Select(e => e.FullName));
            using var text = new StreamReader(zip.Entries[1].Open());
            Assert.Contains("where they were taken", await text.ReadToEndAsync(), StringComparison.Ordinal);
        }

        Assert.Equal(HttpStatusCode.NotFound, (await owner.GetAsync($"/api/photos/{photos[0]}/written")).StatusCode);
        // A rendition says nothing of it, and the owner may let it leave.
        using (var zip = await ZipAsync(owner, "edge=64"))
        {
            Assert.Equal(["placed.jpg", "plain.jpg"], zip.Entries.Select(e => e.FullName));
        }

        using (var zip = await ZipAsync(owner, "position=true"))
        {
            Assert.Equal(["placed.gif", "placed.xmp", "plain.jpg"], zip.Entries.Select(e => e.FullName));
        }
    }

    /// <summary>A picture that says where it was taken leaves, and the place does not, in whatever form and door.</summary>
    [Fact]
    public async Task A_picture_that_says_where_it_was_taken_leaves_without_the_place()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        async Task<string> FileAsync(string name, byte[] bytes)
        {
            await File.WriteAllBytesAsync(Path.Combine(folder, name), bytes);
            return Path.Combine(folder, name);
        }

        var words = new Core.Photos.LeavingWords { Title = "Before", Position = new Core.Photos.Position(54.25, -3.5) };
        await using (var placed = await Imaging.Writing.WordsWriter.MakeAsync(await FileAsync("plain.jpg", Acts.Photo(3)), words, Path.Combine(folder, "scratch"), CancellationToken.None))
        {
            using var bytes = new MemoryStream();
            await placed!.CopyToAsync(bytes);
            await FileAsync("placed.jpg", bytes.ToArray());
        }

        var photo = (await owner.BringAsync(await owner.IntakeAsync(), "placed.jpg", await File.ReadAllBytesAsync(Path.Combine(folder, "placed.jpg")))).GetProperty("photo").GetString()!;
        await site.UntilAsync("select count(*) from photo where state = 'ready' and latitude is not null and title = 'Before'", 1);
        (await owner.PutAsJsonAsync("/api/hand", new { photos = new[] { photo } })).EnsureSuccessStatusCode();
        async Task<bool> SaysWhereAsync(string address)
        {
            var bytes = await owner.GetByteArrayAsync(address);
            if (bytes.AsSpan().StartsWith("PK"u8))
            {
                using var zip = new ZipArchive(new MemoryStream(bytes), ZipArchiveMode.Read);
                return MetadataReader.SaysWhere(await SavedAsync(Assert.Single(zip.Entries)));
            }

            return MetadataReader.SaysWhere(await FileAsync("one.jpg", bytes));
        }

        foreach (var address in new[] { "/api/hand/download", "/api/hand/download?edge=300", $"/api/photos/{photo}/written" })
        {
            Assert.False(await SaysWhereAsync(address), address);
            Assert.True(await SaysWhereAsync($"{address}{(address.Contains('?', StringComparison.Ordinal) ? '&' : '?')}position=true"), address);
        }

        // Nothing is left where files are put together.
        Assert.Empty(Directory.GetFiles(Path.Combine(site.Data, "unfinished")));
        Assert.False(File.Exists(Path.Combine(folder, "scratch")));
    }

    [Fact]
    public async Task What_is_missing_is_named_at_the_end_and_the_rest_leaves()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, p, _, _) = await site.PublishedAsync(owner, 3);
        var hash = await site.ScalarAsync<string>($"select encode(hash, 'hex') from photo where id = '{p[1]}'");
        File.Delete(Directory.GetFiles(Path.Combine(site.Data, "originals"), hash, SearchOption.AllDirectories).Single());
        (await owner.PutAsJsonAsync("/api/hand", new { photos = p })).EnsureSuccessStatusCode();
        foreach (var query in new[] { "", "edge=200" })
        {
            using var zip = await ZipAsync(owner, query);
            Assert.Equal(["p0.jpg", "p2.jpg", "not sent.txt"], zip.Entries.Select(e => e.FullName));
            using var text = new StreamReader(zip.Entries[2].Open());
            Assert.Contains("p1.jpg", await text.ReadToEndAsync(), StringComparison.Ordinal);
        }

        Assert.Equal(HttpStatusCode.NotFound, (await owner.GetAsync($"/api/photos/{p[1]}/written")).StatusCode);
    }
}
