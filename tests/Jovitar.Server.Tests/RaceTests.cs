using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text.Json;

namespace Jovitar.Server.Tests;

/// <summary>Two people, two processes, one thing: nothing is lost, doubled, tied into a loop, or called what it is not.</summary>
public sealed class RaceTests
{
    static async Task<JsonElement> GetAsync(HttpClient client, string address) => await (await client.GetAsync(address)).ReadAsync();

    static async Task<string> CategoryAsync(HttpClient owner, string name, string? parent = null) =>
        (await (await owner.PostAsJsonAsync("/api/categories", new { name, parent })).ReadAsync()).GetProperty("id").GetString()!;

    [Fact]
    public async Task A_photo_whose_original_is_missing_fails_in_words_and_is_not_tried_for_ever()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        await owner.BringAsync(await owner.IntakeAsync(), "gone.jpg", Acts.Photo(1));
        File.Delete(Directory.GetFiles(Path.Combine(site.Data, "originals"), "*", SearchOption.AllDirectories).Single());
        site.Process(workers: 1);
        await site.UntilAsync("select count(*) from photo where state = 'failed' and failure like 'Its original is not where it was kept.%'", 1);
    }

    [Fact]
    public async Task Two_who_move_categories_beneath_each_other_at_once_tie_no_loop()
    {
        await using var site = await Site.StartAsync(workers: 0);
        site.Process(workers: 0);
        var owner = await site.OwnerAsync();
        var editor = await site.EditorAsync("Tomas");
        for (var round = 0; round < 8; round++)
        {
            var (a, b) = (await CategoryAsync(owner, $"A{round}"), await CategoryAsync(owner, $"B{round}"));
            var answers = await Task.WhenAll(
                owner.SendAsync(HttpMethod.Put, $"/api/categories/{a}", new { name = "A", parent = b }, 1),
                editor.SendAsync(HttpMethod.Put, $"/api/categories/{b}", new { name = "B", parent = a }, 1));
            Assert.Contains(answers, answer => answer.StatusCode == HttpStatusCode.OK);
            Assert.Contains(answers, answer => answer.StatusCode == HttpStatusCode.BadRequest);
        }

        Assert.Equal(16, (await GetAsync(owner, "/api/categories")).GetProperty("categories").GetArrayLength());
    }

    [Fact]
    public async Task Taking_a_move_back_ties_no_loop_either()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var a = await CategoryAsync(owner, "A");
        var b = await CategoryAsync(owner, "B", a);
        var moved = await (await owner.SendAsync(HttpMethod.Put, $"/api/categories/{b}", new { name = "B", parent = (string?)null }, 1)).ReadAsync();
        await (await owner.SendAsync(HttpMethod.Put, $"/api/categories/{a}", new { name = "A", parent = b }, 1)).ReadAsync();
        var answer = await owner.PostAsync($"/api/acts/{moved.GetProperty("act").GetString()}/undo", null);
        Assert.Equal(HttpStatusCode.Conflict, answer.StatusCode);
        var lines = (await GetAsync(owner, "/api/categories")).GetProperty("categories").EnumerateArray().Select(c => (c.GetProperty("name").GetString(), c.GetProperty("depth").GetInt32()));
        Assert.Equal([("B", 0), ("A", 1)], lines);
    }

    [Fact]
    public async Task A_start_page_that_shows_something_else_has_another_tag()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var visitor = site.Visitor();
        var (album, _, first, _) = await site.PublishedAsync(owner, 1);
        var second = (await (await owner.PostAsJsonAsync("/api/pages", new { album })).ReadAsync()).GetProperty("id").GetString()!;
        await site.UntilAsync("select count(*) from photo where stage = 2", 1);
        var tags = new List<string> { (await visitor.GetAsync("/")).Headers.ETag!.Tag };
        await owner.PostAsync($"/api/pages/{first}/withdraw", null);
        tags.Add((await visitor.GetAsync("/")).Headers.ETag!.Tag);
        await (await owner.PublishAsync(second)).ReadAsync();
        tags.Add((await visitor.GetAsync("/")).Headers.ETag!.Tag);
        Assert.Equal(tags.Count, tags.Distinct().Count());
        using var asked = new HttpRequestMessage(HttpMethod.Get, "/");
        asked.Headers.IfNoneMatch.Add(new EntityTagHeaderValue(tags[0], isWeak: true));
        Assert.Equal(HttpStatusCode.OK, (await visitor.SendAsync(asked)).StatusCode);
    }

    [Fact]
    public async Task Everyday_work_at_the_same_moment_never_says_that_the_database_is_away()
    {
        await using var site = await Site.StartAsync(workers: 2);
        site.Process(workers: 2, TimeSpan.FromSeconds(30));
        var owner = await site.OwnerAsync();
        var (album, p, page, _) = await site.PublishedAsync(owner, 3);
        var other = (await (await owner.PostAsJsonAsync("/api/albums", new { workingName = "Other" })).ReadAsync()).GetProperty("id").GetString()!;
        var intake = await owner.IntakeAsync(album);
        var answers = new System.Collections.Concurrent.ConcurrentBag<HttpStatusCode>();
        async Task ManyAsync(int times, Func<int, Task<HttpResponseMessage>> act)
        {
            for (var i = 0; i < times; i++)
            {
                answers.Add((await act(i)).StatusCode);
            }
        }

        await Task.WhenAll(
            ManyAsync(25, async i => { await owner.BringAsync(intake, $"n{i}.jpg", Acts.Photo(300 + i, 200, 140)); return new HttpResponseMessage(HttpStatusCode.OK); }),
            ManyAsync(25, async i => { await owner.BringAsync(intake, $"m{i}.jpg", Acts.Photo(400 + i, 200, 140)); return new HttpResponseMessage(HttpStatusCode.OK); }),
            ManyAsync(40, _ => owner.PublishAsync(page)),
            ManyAsync(40, i => owner.PostAsJsonAsync("/api/photos/tags", new { photos = i % 2 == 0 ? p : p.Reverse().ToArray(), add = new[] { $"t{i % 5}", $"t{i % 3}" }, remove = Array.Empty<string>() })),
            ManyAsync(30, i => owner.PostAsJsonAsync($"/api/albums/{(i % 2 == 0 ? album : other)}/photos", new { photos = p.Reverse() })),
            ManyAsync(30, i => owner.PostAsJsonAsync($"/api/albums/{other}/photos/removal", new { photos = p })),
            ManyAsync(15, i => i % 2 == 0 ? owner.PostAsJsonAsync("/api/bin", new { photos = new[] { p[2] } }) : owner.PostAsJsonAsync("/api/bin/restore", new { things = new[] { new { kind = "photo", id = p[2] } } })),
            ManyAsync(20, i => owner.SendAsync(HttpMethod.Put, $"/api/intakes/{intake}/about", new { album, categories = Array.Empty<string>(), tags = new[] { $"t{i % 4}" }, credit = $"c{i}", copyright = "", licence = "", origin = "" })));
        Assert.All(answers, status => Assert.Contains(status, (HttpStatusCode[])[HttpStatusCode.OK, HttpStatusCode.NotFound, HttpStatusCode.PreconditionFailed]));
        Assert.DoesNotContain(HttpStatusCode.ServiceUnavailable, answers);
        await (await owner.PostAsJsonAsync("/api/bin/restore", new { things = new[] { new { kind = "photo", id = p[2] } } })).ReadAsync();
        await site.UntilAsync("select count(*) from photo where state = 'ready' and stage = 2", 53);
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from (select album from album_photo group by album, place having count(*) > 1) as twice"));
        await site.VerifyAsync();
    }

    [Fact]
    public async Task What_is_said_of_an_intake_while_photos_arrive_holds_for_all_of_them_and_takes_nothing_that_the_file_says()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        static object About(string credit, params string[] tags) => new { album = (string?)null, categories = Array.Empty<string>(), tags, credit, copyright = "", licence = "", origin = "" };
        var intake = (await (await owner.PostAsJsonAsync("/api/intakes", new { about = About("Before", "launch", "before") })).ReadAsync()).GetProperty("id").GetString()!;
        var arriving = Parallel.ForEachAsync(Enumerable.Range(0, 60), new ParallelOptions { MaxDegreeOfParallelism = 4 }, async (i, _) => await owner.BringAsync(intake, $"{i}.jpg", Acts.Photo(500 + i, 120, 80)));
        for (var i = 0; i < 6; i++)
        {
            await Task.Delay(60);
            await (await owner.SendAsync(HttpMethod.Put, $"/api/intakes/{intake}/about", About($"Credit {i}", $"tag {i}"))).ReadAsync();
        }

        await arriving;
        Assert.Equal(60, await site.ScalarAsync<long>("select count(*) from photo where credit = 'Credit 5'"));
        Assert.Equal(60, await site.ScalarAsync<long>("select count(*) from photo where tag_words = 'tag 5'"));

        // The demo's first photograph carries the keyword “launch” and a credit of its own; the intake says both, too, and then says them no more.
        var path = Path.Combine(AppContext.BaseDirectory, "../../../../../demo/photos");
        site.Process(workers: 1);
        await (await owner.SendAsync(HttpMethod.Put, $"/api/intakes/{intake}/about", About("The intake's", "launch", "intake"))).ReadAsync();
        var photo = (await owner.BringAsync(intake, "demo.jpg", await File.ReadAllBytesAsync(Directory.GetFiles(path, "*.jpg").Order().First()))).GetProperty("photo").GetString()!;
        await site.UntilAsync($"select count(*) from photo where state = 'ready' and id = '{photo}'", 1);
        Assert.Equal("The intake's", (await GetAsync(owner, $"/api/photos/{photo}")).GetProperty("credit").GetString());
        await (await owner.SendAsync(HttpMethod.Put, $"/api/intakes/{intake}/about", About(""))).ReadAsync();
        var plate = await GetAsync(owner, $"/api/photos/{photo}");
        Assert.Equal(["delta", "launch", "morning"], plate.GetProperty("tags").EnumerateArray().Select(t => t.GetProperty("name").GetString()));
        Assert.NotEqual("The intake's", plate.GetProperty("credit").GetString());
        Assert.Equal("file", plate.GetProperty("said").GetProperty("credit").GetString());
        Assert.NotEmpty(plate.GetProperty("credit").GetString()!);
    }

    [Fact]
    public async Task An_intake_that_was_taken_back_takes_nothing_more_and_its_files_go_with_it()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var intake = await owner.IntakeAsync();
        await owner.BringAsync(intake, "notes.txt", "what was said at the meeting, word for word"u8.ToArray());
        await owner.BringAsync(intake, "one.jpg", Acts.Photo(1));
        var taken = await (await owner.PostAsync($"/api/intakes/{intake}/taking-back", null)).ReadAsync();
        Assert.Equal((1, 1), (taken.GetProperty("taken").GetProperty("binned").GetInt32(), taken.GetProperty("taken").GetProperty("files").GetInt32()));
        Assert.Equal(0, (await GetAsync(owner, "/api/files")).GetProperty("files").GetArrayLength());
        using (var content = new ByteArrayContent(Acts.Photo(2)))
        {
            Assert.Equal(HttpStatusCode.NotFound, (await owner.PostAsync($"/api/intakes/{intake}/files?name=late.jpg", content)).StatusCode);
        }

        // Nor does an intake that never was leave anything behind.
        using (var content = new ByteArrayContent(Acts.Photo(3)))
        {
            Assert.Equal(HttpStatusCode.NotFound, (await owner.PostAsync($"/api/intakes/{Guid.NewGuid()}/files?name=x.jpg", content)).StatusCode);
        }

        Assert.Equal(2, site.Originals());
        await site.VerifyAsync();
        await owner.UndoAsync(taken);
        Assert.Equal(1, (await GetAsync(owner, "/api/files")).GetProperty("files").GetArrayLength());
    }

    [Fact]
    public async Task The_act_that_began_an_intake_is_taken_back_as_the_intake_is()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var intake = await owner.IntakeAsync();
        await owner.BringAsync(intake, "one.jpg", Acts.Photo(1));
        var line = (await GetAsync(owner, "/api/acts")).GetProperty("acts")[0];
        Assert.Equal(("Brought in from a computer.", 1, intake), (line.GetProperty("sentence").GetString(), line.GetProperty("photos").GetInt32(), line.GetProperty("intake").GetString()));
        await (await owner.PostAsync($"/api/acts/{line.GetProperty("id").GetString()}/undo", null)).ReadAsync();
        Assert.Equal(1, await site.ScalarAsync<long>("select count(*) from photo where binned is not null"));
        Assert.True((await GetAsync(owner, $"/api/intakes/{intake}")).GetProperty("intake").GetProperty("takenBack").GetBoolean());
    }

    [Fact]
    public async Task An_upload_that_is_ended_while_it_is_written_says_so_and_a_complete_one_is_not_ended()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var intake = await owner.IntakeAsync();
        var bytes = Acts.Photo(7);
        var address = await owner.CreateAsync(intake, "one.jpg", bytes.Length);
        Assert.Equal(HttpStatusCode.NoContent, (await owner.PatchAsync(address, 0, new ByteArrayContent(bytes))).StatusCode);
        // Right after its last byte: what it brought stays.
        Assert.Equal(HttpStatusCode.Conflict, (await owner.TusAsync(HttpMethod.Delete, address)).StatusCode);
        Assert.Equal(1, await site.ScalarAsync<long>("select count(*) from photo where binned is null"));

        var halted = await owner.CreateAsync(intake, "two.jpg", 100_000);
        var slow = new Slow(100_000, TimeSpan.FromMilliseconds(700));
        var writing = owner.PatchAsync(halted, 0, slow);
        await slow.Begun;
        // Taken back with its intake while a line still writes: the writer is not told that it was written.
        await (await owner.PostAsync($"/api/intakes/{intake}/taking-back", null)).ReadAsync();
        var written = await writing;
        Assert.Equal(HttpStatusCode.NotFound, written.StatusCode);
    }

    /// <summary>Bytes of which the second half comes late.</summary>
    sealed class Slow(int length, TimeSpan pause) : HttpContent
    {
        readonly TaskCompletionSource begun = new(TaskCreationOptions.RunContinuationsAsynchronously);

        public Task Begun => begun.Task;

        protected override async Task SerializeToStreamAsync(Stream stream, TransportContext? context)
        {
            await stream.WriteAsync(new byte[length / 2]);
            await stream.FlushAsync();
            begun.SetResult();
            await Task.Delay(pause);
            await stream.WriteAsync(new byte[length - (length / 2)]);
        }

        protected override bool TryComputeLength(out long bytes)
        {
            bytes = length;
            return true;
        }
    }

    [Fact]
    public async Task A_name_or_a_word_is_cut_between_characters_and_says_so()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var intake = await owner.IntakeAsync();
        var family = string.Concat(Enumerable.Repeat("👩‍👩‍👧", 60));
        var file = await owner.BringAsync(intake, $"{family}.jpg", Acts.Photo(1));
        Assert.Equal("arrived", file.GetProperty("outcome").GetString());
        Assert.EndsWith("👧.jpg", file.GetProperty("fileName").GetString(), StringComparison.Ordinal);
        Assert.StartsWith("👩", file.GetProperty("fileName").GetString(), StringComparison.Ordinal);
        Assert.Contains("was cut", file.GetProperty("reason").GetString(), StringComparison.Ordinal);
        var turned = await owner.BringAsync(intake, "photo\u202Egpj.exe.jpg", Acts.Photo(2));
        Assert.Equal("photogpj.exe.jpg", turned.GetProperty("fileName").GetString());
        await site.UntilAsync("select count(*) from photo where state = 'ready'", 2);
    }

    [Fact]
    public async Task A_worker_whose_claim_ran_out_cannot_finish_what_another_has_taken_over()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        await owner.BringAsync(await owner.IntakeAsync(), "one.jpg", Acts.Photo(1));
        var queue = site.Part<Intake.PhotoQueue>();
        var slow = (await queue.ClaimAsync(TimeSpan.FromMilliseconds(1), CancellationToken.None))!;
        await Task.Delay(20);
        var other = (await queue.ClaimAsync(TimeSpan.FromMinutes(1), CancellationToken.None))!;
        var words = new Core.Photos.PhotoMetadata { Words = new Core.Photos.MetadataBlock { Title = "Late", Keywords = ["late"] } };
        await queue.ReadyAsync(slow, words, 1, CancellationToken.None);
        await queue.FailAsync(slow, Core.Intake.IntakeProblem.Unreadable, "It was the slow one.", CancellationToken.None);
        Assert.False(await queue.RenewAsync(slow, TimeSpan.FromMinutes(1), CancellationToken.None));
        Assert.Equal(1, await site.ScalarAsync<long>("select count(*) from photo where state = 'waiting' and title = ''"));
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from tag"));
        Assert.True(await queue.RenewAsync(other, TimeSpan.FromMinutes(1), CancellationToken.None));
        await queue.ReadyAsync(other, words, 1, CancellationToken.None);
        Assert.Equal(1, await site.ScalarAsync<long>("select count(*) from photo where state = 'ready' and title = 'Late'"));
    }

    [Fact]
    public async Task Two_processes_that_find_or_make_the_same_make_one()
    {
        await using var site = await Site.StartAsync(workers: 0);
        site.Process(workers: 0);
        await site.OwnerAsync();
        var who = Server.Acts.Actor.Worker("trial");
        var albums = site.Part<Albums.AlbumStore>();
        var categories = site.Part<Taxonomy.CategoryStore>();
        var found = await Task.WhenAll(Enumerable.Range(0, 12).Select(i => albums.NamedAsync(who, i % 2 == 0 ? "Day One" : "day one", CancellationToken.None)));
        Assert.Single(found.Distinct());
        var nodes = await Task.WhenAll(Enumerable.Range(0, 12).Select(i => categories.AtAsync(who, [i % 2 == 0 ? "Festival" : "FESTIVAL", "Night"], CancellationToken.None)));
        Assert.Single(nodes.Distinct());
        Assert.Equal(2, await site.ScalarAsync<long>("select count(*) from category"));
    }

    [Fact]
    public async Task Two_servers_that_start_at_once_on_an_empty_database_migrate_it_once()
    {
        await using var site = await Site.StartAsync(workers: 0, process: false, empty: true);
        await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => Task.Run(() => Platform.Database.Migrate(site.Connection))));
        Assert.True(Platform.Database.IsCurrent(site.Connection));
        Assert.Equal(await site.ScalarAsync<long>("select count(distinct scriptname) from schema_version"), await site.ScalarAsync<long>("select count(*) from schema_version"));
    }
}
