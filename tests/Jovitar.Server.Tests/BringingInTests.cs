using System.Net;
using System.Net.Http.Json;
using System.Text;

namespace Jovitar.Server.Tests;

/// <summary>What is said of an intake, what is kept besides photos, what happens in watched folders, and taking it all back.</summary>
public sealed class BringingInTests
{
    static object About(string? album = null, string[]? categories = null, string[]? tags = null, string credit = "", string licence = "", string origin = "") =>
        new { album, categories = categories ?? [], tags = tags ?? [], credit, copyright = "", licence, origin };

    static async Task<string> MakeAsync(HttpClient owner, string what, object body) => (await (await owner.PostAsJsonAsync(what, body)).ReadAsync()).GetProperty("id").GetString()!;

    [Fact]
    public async Task What_is_said_once_is_put_on_every_photo_and_can_be_said_otherwise_afterwards()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (wrong, right) = (await MakeAsync(owner, "/api/albums", new { workingName = "Wrong" }), await MakeAsync(owner, "/api/albums", new { workingName = "Right" }));
        var category = await MakeAsync(owner, "/api/categories", new { name = "Season" });
        var intake = await MakeAsync(owner, "/api/intakes", new { about = About(wrong, [category], ["Pier", "wind"], "Ines Calloway", "CC BY 4.0", "Estate of H. Marr") });
        var photos = new List<string>();
        for (var i = 0; i < 3; i++)
        {
            photos.Add((await owner.BringAsync(intake, $"{i}.jpg", Acts.Photo(i))).GetProperty("photo").GetString()!);
        }

        await site.UntilAsync("select count(*) from photo where state = 'ready'", 3);
        var plate = await (await owner.GetAsync($"/api/photos/{photos[0]}")).ReadAsync();
        Assert.Equal("Ines Calloway", plate.GetProperty("credit").GetString());
        Assert.Equal("CC BY 4.0", plate.GetProperty("licence").GetString());
        Assert.Equal("Estate of H. Marr", plate.GetProperty("origin").GetString());
        Assert.Equal(["Pier", "wind"], plate.GetProperty("tags").EnumerateArray().Select(t => t.GetProperty("name").GetString()));
        Assert.Equal("Season", plate.GetProperty("categories")[0].GetProperty("path").GetString());
        // Somebody types another credit on one photo: that stays when the intake's is changed.
        await (await owner.SendAsync(HttpMethod.Patch, $"/api/photos/{photos[1]}", new { credit = "Typed by hand" }, plate.GetProperty("version").GetInt64())).ReadAsync();
        await (await owner.SendAsync(HttpMethod.Put, $"/api/intakes/{intake}/about", About(right, [], ["wind", "storm"], "Tomas Weir"))).ReadAsync();
        Assert.Equal(0, await site.ScalarAsync<long>($"select count(*) from album_photo where album = '{wrong}'"));
        Assert.Equal(3, await site.ScalarAsync<long>($"select count(*) from album_photo where album = '{right}'"));
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from photo_category"));
        Assert.Equal("Tomas Weir,Typed by hand,Tomas Weir", await site.ScalarAsync<string>("select string_agg(credit, ',' order by file_name) from photo"));
        Assert.Equal("storm,wind", await site.ScalarAsync<string>("select string_agg(distinct t.key, ',') from photo_tag as pt join tag as t on t.id = pt.tag"));
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from photo where tag_words <> 'storm wind'"));
    }

    [Fact]
    public async Task An_intake_is_taken_back_whole_but_for_what_is_used_elsewhere_and_can_be_brought_back()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (album, other) = (await MakeAsync(owner, "/api/albums", new { workingName = "Its own" }), await MakeAsync(owner, "/api/albums", new { workingName = "Elsewhere" }));
        var intake = await MakeAsync(owner, "/api/intakes", new { about = About(album, tags: ["pier"]) });
        var photos = new List<string>();
        for (var i = 0; i < 4; i++)
        {
            photos.Add((await owner.BringAsync(intake, $"{i}.jpg", Acts.Photo(i))).GetProperty("photo").GetString()!);
        }

        await site.UntilAsync("select count(*) from photo where state = 'ready' and stage = 2", 4);
        await (await owner.PostAsJsonAsync($"/api/albums/{other}/photos", new { photos = new[] { photos[0] } })).ReadAsync();
        await owner.BringAsync(await owner.IntakeAsync(), "again.jpg", Acts.Photo(1));
        var forecast = await (await owner.GetAsync($"/api/intakes/{intake}/taking-back")).ReadAsync();
        Assert.Equal((2, 2), (forecast.GetProperty("binned").GetInt32(), forecast.GetProperty("kept").GetInt32()));
        var taken = await (await owner.PostAsync($"/api/intakes/{intake}/taking-back", null)).ReadAsync();
        Assert.Equal(2, taken.GetProperty("taken").GetProperty("binned").GetInt32());
        Assert.Equal(0, await site.ScalarAsync<long>($"select count(*) from album_photo where album = '{album}'"));
        Assert.Equal(2, (await (await owner.GetAsync("/api/photos")).ReadAsync()).GetProperty("photos").GetArrayLength());
        Assert.Equal(HttpStatusCode.NotFound, (await owner.GetAsync($"/api/photos/{photos[3]}")).StatusCode);
        Assert.Equal(2, (await (await owner.GetAsync("/api/bin")).ReadAsync()).GetProperty("things").GetArrayLength());
        // What still arrives is stopped: a new upload finds the intake gone until it is brought back.
        var late = await owner.TusAsync(HttpMethod.Post, "/api/uploads", null, ("Upload-Length", "100"), ("Upload-Metadata", Tus.Metadata(intake, "late.jpg")));
        Assert.Equal(HttpStatusCode.NotFound, late.StatusCode);
        await site.VerifyAsync();
        await owner.UndoAsync(taken);
        Assert.Equal(4, await site.ScalarAsync<long>($"select count(*) from album_photo where album = '{album}'"));
        Assert.Equal(4, await site.ScalarAsync<long>("select count(*) from photo where state = 'ready' and tag_words = 'pier'"));
    }

    [Fact]
    public async Task A_photo_thrown_away_while_it_is_worked_on_stays_in_the_bin_and_stands_nowhere()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var photo = (await owner.BringAsync(await owner.IntakeAsync(), "one.jpg", Acts.Photo(1))).GetProperty("photo").GetString()!;
        var claim = (await site.Part<Intake.PhotoQueue>().ClaimAsync(TimeSpan.FromMinutes(1), CancellationToken.None))!;
        await (await owner.PostAsJsonAsync("/api/bin", new { photos = new[] { photo } })).ReadAsync();
        // The worker that had taken it on before comes to its end now.
        var words = new Core.Photos.PhotoMetadata { Words = new Core.Photos.MetadataBlock { Title = "Late", Keywords = ["late"] } };
        await site.Part<Intake.PhotoQueue>().ReadyAsync(claim, words, 1, CancellationToken.None);
        Assert.Equal("waiting", await site.ScalarAsync<string>("select state from photo where binned is not null"));
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from photo_tag"));
    }

    [Fact]
    public async Task Emptying_the_bin_removes_originals_and_nothing_else_does()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var intake = await owner.IntakeAsync();
        var (one, two) = (await owner.BringAsync(intake, "one.jpg", Acts.Photo(1)), await owner.BringAsync(intake, "two.jpg", Acts.Photo(2)));
        await site.UntilAsync("select count(*) from photo where state = 'ready' and stage = 2", 2);
        await (await owner.PostAsJsonAsync("/api/bin", new { photos = new[] { one.GetProperty("photo").GetString() } })).ReadAsync();
        Assert.Equal(2, site.Originals());
        // Brought again, it comes out of the bin.
        Assert.Equal("arrived", (await owner.BringAsync(intake, "one.jpg", Acts.Photo(1))).GetProperty("outcome").GetString());
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from bin"));
        await site.UntilAsync("select count(*) from photo where state = 'ready'", 2);
        await (await owner.PostAsJsonAsync("/api/bin", new { photos = new[] { two.GetProperty("photo").GetString() } })).ReadAsync();
        await owner.EmptyBinAsync();
        Assert.Equal(1, site.Originals());
        await site.VerifyAsync();
    }

    public static TheoryData<string, byte[], string, bool> Kept => new()
    {
        { "speech.mp3", [.. "ID3\u0004\0"u8, .. new byte[200]], "sound", true },
        { "speech.m4a", [0, 0, 0, 0x20, .. "ftypM4A "u8, .. new byte[100]], "sound", true },
        { "sea.ogg", [.. "OggS"u8, .. new byte[100]], "sound", true },
        { "final.mp4", [0, 0, 0, 0x20, .. "ftypisom"u8, .. new byte[100]], "video", true },
        { "final.webm", [0x1A, 0x45, 0xDF, 0xA3, 0x9F, 0x42, 0x82, 0x84, .. "webm"u8, .. new byte[60]], "video", true },
        { "plan.pdf", [.. "%PDF-1.7\n"u8, .. new byte[100]], "pdf", true },
        { "minutes.doc", [0xD0, 0xCF, 0x11, 0xE0, 0xA1, 0xB1, 0x1A, 0xE1, .. new byte[100]], "office", false },
        { "notes.txt", Encoding.UTF8.GetBytes("Drachen über der Düne, um zehn."), "text", false },
    };

    [Theory]
    [MemberData(nameof(Kept))]
    public async Task What_is_no_photo_is_kept_as_a_file_judged_by_content_and_shown_only_when_it_can_do_no_harm(string name, byte[] bytes, string kind, bool shown)
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var album = await MakeAsync(owner, "/api/albums", new { workingName = "Festival" });
        var intake = await owner.IntakeAsync(album);
        // The name lies about the kind; the content counts.
        Assert.Equal("kept", (await owner.BringAsync(intake, name + ".dat", bytes)).GetProperty("outcome").GetString());
        Assert.Equal("already_here", (await owner.BringAsync(intake, name, bytes)).GetProperty("outcome").GetString());
        var file = (await (await owner.GetAsync($"/api/files?album={album}")).ReadAsync()).GetProperty("files")[0];
        Assert.Equal(kind, file.GetProperty("kind").GetString());
        var id = file.GetProperty("id").GetString();
        var saved = await owner.GetAsync($"/api/files/{id}/content");
        Assert.Equal("attachment", saved.Content.Headers.ContentDisposition!.DispositionType);
        Assert.Equal(bytes, await saved.Content.ReadAsByteArrayAsync());
        var opened = await owner.GetAsync($"/api/files/{id}/content?show=true");
        Assert.Equal(shown, opened.Content.Headers.ContentDisposition is null);
        Assert.Contains(kind == "pdf" ? "script-src 'none'" : "sandbox", opened.Headers.GetValues("Content-Security-Policy").Single(), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.Unauthorized, (await site.Visitor().GetAsync($"/api/files/{id}/content")).StatusCode);
        await site.VerifyAsync();
    }

    [Fact]
    public async Task A_page_in_disguise_and_strange_bytes_are_refused()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var intake = await owner.IntakeAsync();
        foreach (var bytes in (byte[][])[Encoding.UTF8.GetBytes("<html><script>alert(1)</script></html>"), [1, 2, 3, 0, 255, 254, .. new byte[50]]])
        {
            Assert.Equal("refused", (await owner.BringAsync(intake, "strange.txt", bytes)).GetProperty("outcome").GetString());
        }

        Assert.Equal("UnknownKind", (await (await owner.GetAsync($"/api/intakes/{intake}")).ReadAsync()).GetProperty("failures")[0].GetProperty("cause").GetString());
        await (await owner.PostAsJsonAsync($"/api/intakes/{intake}/drop", new { cause = "UnknownKind" })).ReadAsync();
        Assert.Equal(0, (await (await owner.GetAsync($"/api/intakes/{intake}")).ReadAsync()).GetProperty("failures").GetArrayLength());
    }

    [Fact]
    public async Task A_watched_folder_brings_in_what_has_stopped_growing_and_its_folders_become_categories()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var root = Path.Combine(site.Data, "watched", "Club");
        Directory.CreateDirectory(Path.Combine(root, "Workshop", "Juniors"));
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.PostAsJsonAsync("/api/watched-folders", new { folder = "../originals", subfolders = true, becomes = "" })).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.PostAsJsonAsync("/api/watched-folders", new { folder = "/etc", subfolders = true, becomes = "" })).StatusCode);
        (await owner.PostAsJsonAsync("/api/watched-folders", new { folder = "Club", subfolders = true, becomes = "category" })).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.Conflict, (await owner.PostAsJsonAsync("/api/watched-folders", new { folder = "Club", subfolders = true, becomes = "" })).StatusCode);
        var growing = Acts.Photo(1);
        var path = Path.Combine(root, "Workshop", "Juniors", "growing.jpg");
        for (var at = 0; at < growing.Length; at += growing.Length / 4)
        {
            await using (var file = new FileStream(path, FileMode.Append))
            {
                await file.WriteAsync(growing.AsMemory(at, Math.Min(growing.Length / 4, growing.Length - at)));
            }

            await Task.Delay(250);
        }

        File.WriteAllBytes(Path.Combine(root, "top.jpg"), Acts.Photo(2));
        await site.UntilAsync("select count(*) from photo where state = 'ready'", 2);
        Assert.Equal("Workshop/Juniors", await site.ScalarAsync<string>("select q.name || '/' || c.name from photo_category as pc join photo as p on p.id = pc.photo join category as c on c.id = pc.category join category as q on q.id = c.parent where p.file_name = 'growing.jpg'"));
        await site.UntilAsync("select count(*) from watched_file", 2);
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from photo where state = 'failed'"));
        Assert.Equal(2, await site.ScalarAsync<long>("select count(*) from intake_file"));
        await site.VerifyAsync();
    }

    [Fact]
    public async Task One_file_that_cannot_be_read_or_named_keeps_no_other_from_coming_in_and_is_named()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (one, other) = (Path.Combine(site.Data, "watched", "2025", "Club"), Path.Combine(site.Data, "watched", "2026", "Club"));
        Directory.CreateDirectory(one);
        Directory.CreateDirectory(other);
        // A name in Latin-1, as old disks have them, a pipe, and a name with half an emoji cut off would all have stopped the folder.
        File.WriteAllBytes(Path.Combine(one, "good.jpg"), Acts.Photo(1));
        using (var odd = System.Diagnostics.Process.Start("bash", ["-c", $"cp '{one}/good.jpg' '{one}/'$'Br\\xfccke.jpg'; mkfifo '{one}/a pipe.jpg'"]))
        {
            await odd.WaitForExitAsync();
        }

        // Folders whose names together are cut, where a cut by number would go through a family.
        var family = string.Concat(Enumerable.Repeat("👩‍👩‍👧", 13));
        var deep = Path.Combine([site.Data, "watched", "Deep", .. Enumerable.Repeat(family, 7)]);
        Directory.CreateDirectory(deep);
        File.WriteAllBytes(Path.Combine(deep, "two.jpg"), Acts.Photo(2));
        (await owner.PostAsJsonAsync("/api/watched-folders", new { folder = "Deep", subfolders = true, becomes = "" })).EnsureSuccessStatusCode();
        File.WriteAllBytes(Path.Combine(other, "zz last.jpg"), Acts.Photo(3));
        (await owner.PostAsJsonAsync("/api/watched-folders", new { folder = "2025/Club", subfolders = true, becomes = "album" })).EnsureSuccessStatusCode();
        (await owner.PostAsJsonAsync("/api/watched-folders", new { folder = "2026/Club", subfolders = true, becomes = "album" })).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.Conflict, (await owner.PostAsJsonAsync("/api/watched-folders", new { folder = "2026/Club/", subfolders = true, becomes = "" })).StatusCode);
        await site.UntilAsync("select count(*) from photo where state = 'ready'", 3);
        await site.UntilAsync("select count(*) from watched_folder where problem like 'One file could not be taken in,%Br%cke.jpg%'", 1);
        // Two folders that end in the same name are two albums.
        Assert.Equal("2025 / Club, 2026 / Club", await site.ScalarAsync<string>("select string_agg(working_name, ', ' order by working_name) from album"));
    }

    [Fact]
    public async Task A_folder_that_vanishes_says_so()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var root = Path.Combine(site.Data, "watched", "Gone");
        Directory.CreateDirectory(root);
        (await owner.PostAsJsonAsync("/api/watched-folders", new { folder = "Gone", subfolders = false, becomes = "album" })).EnsureSuccessStatusCode();
        Directory.Delete(root);
        await site.UntilAsync("select count(*) from watched_folder where problem like 'The folder is not there.%'", 1);
    }
}
