using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using Jovitar.Core;
using Jovitar.Core.Favourites;
using Jovitar.Core.Photos;
using Jovitar.Server.Clearance;
using static Jovitar.Server.Tests.StandingSteps;

namespace Jovitar.Server.Tests;

/// <summary>What is not cleared is seen by no visitor, at no door, and what a person says reaches every photo that names them.</summary>
public sealed class ClearanceTests
{
    static async Task<JsonElement> ClearAsync(HttpClient who, string said, string[] photos, string? until = null, string by = "") =>
        (await (await who.PostAsJsonAsync("/api/clearance/photos", new { photos, said, until, by })).ReadAsync()).GetProperty("done");

    static async Task<HttpResponseMessage> PersonAsync(HttpClient who, string name, string says, long version, string? until = null, string by = "") =>
        await who.SendAsync(HttpMethod.Put, "/api/clearance/persons", new { name, says, until, by }, version);

    static async Task NameAsync(HttpClient who, string photo, params string[] people)
    {
        var version = (await (await who.GetAsync($"/api/photos/{photo}")).ReadAsync()).GetProperty("version").GetInt64();
        (await who.SendAsync(HttpMethod.Patch, $"/api/photos/{photo}", new { addPeople = people }, version)).EnsureSuccessStatusCode();
    }

    static async Task<JsonElement> PlateAsync(HttpClient who, string photo) => await (await who.GetAsync($"/api/photos/{photo}")).ReadAsync();

    static async Task<string> SentenceAsync(HttpClient who, string photo) => (await PlateAsync(who, photo)).GetProperty("clearance").GetProperty("sentence").GetString()!;

    static async Task<JsonElement> PersonsAsync(HttpClient who, string query = "") => await (await who.GetAsync($"/api/clearance/persons{query}")).ReadAsync();

    static StringContent Csv(string text) => new(text, Encoding.UTF8, "text/csv");

    static async Task<int> TotalAsync(HttpClient visitor, string address) => (await (await visitor.GetAsync($"/site/view/{address}?width=900&lot=1")).ReadAsync()).GetProperty("total").GetInt32();

    /// <summary>A page of one album, the album in a category, a marked favourite.</summary>
    static async Task<(Site Site, HttpClient Owner, HttpClient Visitor, string[] Photos)> NightAsync(int photos)
    {
        var (site, owner, visitor, p) = await StartAsync(photos);
        var album = await MakeAsync(owner, "Night", p);
        await (await StandAsync(owner, album, categories: [await CategoryAsync(owner, "Festival")], comments: true, ratings: true)).ReadAsync();
        await owner.ShownAsync(null, "night", Drafts.Page("Night", Drafts.Photos(album)));
        return (site, owner, visitor, p);
    }

    [Fact]
    public async Task What_is_not_cleared_is_behind_no_door()
    {
        var (site, owner, visitor, p) = await NightAsync(3);
        await using var _ = site;
        var hash = (await PlateAsync(owner, p[1])).GetProperty("picture").GetString()!;
        await site.WriteAsync("update site set has_favourites = true");
        // The best of all: covers are it, while visitors see it. A category of its own has it, too.
        await (await owner.PostAsJsonAsync("/api/photos/decision", new { photos = new[] { p[1] }, rating = 5 })).ReadAsync();
        await (await owner.PostAsJsonAsync("/api/photos/categories", new { photos = p, add = new[] { await CategoryAsync(owner, "Evening") }, remove = Array.Empty<string>() })).ReadAsync();
        string[] doors = [$"/night/photo/{p[1]}", $"/album/night/photo/{p[1]}", $"/category/evening/photo/{p[1]}", $"/i/{hash}/{Renditions.Recipe}-480.webp", $"/i/{hash}/{Renditions.Recipe}-card.jpg"];
        string[] listings = ["/night", "/album/night", "/category/festival", "/", "/sitemap/1.xml", "/album/night/feed.xml", "/category/evening", "/category/evening/feed.xml", "/embed/night", "/site/view/night?width=900&lot=1", $"/favourites/{MarkedPhotos.Of([.. p.Select(id => new PhotoId(Guid.Parse(id)))]).Address}"];

        // It stands behind each of them until then, or the test would say nothing.
        foreach (var door in doors)
        {
            Assert.True(await GetAsync(visitor, door) == HttpStatusCode.OK, $"{door} answers {await GetAsync(visitor, door)}");
        }

        foreach (var listing in listings)
        {
            var text = await visitor.GetStringAsync(listing);
            Assert.True(text.Contains(p[1], StringComparison.Ordinal) || text.Contains(hash, StringComparison.Ordinal), $"{listing} does not name it");
        }

        await ClearAsync(owner, "not_cleared", [p[1]], by: "her mother");
        // A process that has not decided on it before: what was public a moment ago may be kept for five seconds.
        site.Process(0);
        visitor = site.Visitor();
        foreach (var door in doors)
        {
            Assert.True(await GetAsync(visitor, door) == HttpStatusCode.NotFound, $"{door} answers {await GetAsync(visitor, door)}");
        }

        foreach (var listing in listings)
        {
            var text = await visitor.GetStringAsync(listing);
            Assert.DoesNotContain(p[1], text, StringComparison.Ordinal);
            Assert.DoesNotContain(hash, text, StringComparison.Ordinal);
        }

        Assert.Equal(2, await TotalAsync(visitor, "night"));
        var index = await visitor.GetStringAsync("/category/festival");
        Assert.Contains("2 photographs", index[index.IndexOf("Night", StringComparison.Ordinal)..], StringComparison.Ordinal);
        Assert.Equal("Not cleared by her mother.", await SentenceAsync(owner, p[1]));
        Assert.Equal("Only staff can see this; it is not cleared.", (await PlateAsync(owner, p[1])).GetProperty("audience").GetProperty("sentence").GetString());
        Assert.EndsWith("without the one photo that is not cleared.", (await (await owner.GetAsync("/api/albums")).ReadAsync()).GetProperty("albums")[0].GetProperty("audience").GetProperty("sentence").GetString(), StringComparison.Ordinal);
        Assert.Equal(1, (await (await owner.GetAsync("/api/desk/figures")).ReadAsync()).GetProperty("held").GetInt32());
        // Staff see it as before.
        Assert.Equal(HttpStatusCode.OK, await GetAsync(owner, $"/api/photos/{p[1]}/original"));
    }

    [Fact]
    public async Task Withdrawn_clearance_is_gone_within_five_seconds_in_every_process_and_comes_back_with_undo()
    {
        var (site, owner, first, p) = await NightAsync(2);
        await using var _ = site;
        site.Process(0);
        var second = site.Visitor();
        var rendition = $"/i/{(await PlateAsync(owner, p[0])).GetProperty("picture").GetString()}/{Renditions.Recipe}-480.webp";
        HttpClient[] both = [first, second];
        foreach (var visitor in both)
        {
            Assert.Equal(HttpStatusCode.OK, await GetAsync(visitor, rendition));
            Assert.Equal(2, await TotalAsync(visitor, "night"));
        }

        var tag = (await second.GetAsync("/night")).Headers.ETag!;
        var done = await ClearAsync(owner, "not_cleared", [p[0]]);
        await Task.Delay(TimeSpan.FromSeconds(5));
        foreach (var visitor in both)
        {
            Assert.Equal(HttpStatusCode.NotFound, await GetAsync(visitor, rendition));
            Assert.Equal(1, await TotalAsync(visitor, "night"));
            using var again = new HttpRequestMessage(HttpMethod.Get, "/night");
            again.Headers.IfNoneMatch.Add(tag);
            Assert.Equal(HttpStatusCode.OK, (await visitor.SendAsync(again)).StatusCode);
        }

        await owner.UndoAsync(done);
        Assert.Equal(HttpStatusCode.OK, await GetAsync(first, rendition));
        Assert.Equal("Nobody has cleared it yet.", await SentenceAsync(owner, p[0]));
    }

    [Fact]
    public async Task What_a_person_says_reaches_every_photo_that_names_them_also_those_that_come_later()
    {
        var (site, owner, visitor, p) = await NightAsync(3);
        await using var _ = site;
        await NameAsync(owner, p[0], "ada  thorne");
        var no = await (await PersonAsync(owner, "Ada Thorne", "no", 0, by: "her father, by letter")).ReadAsync();
        Assert.Equal(1, no.GetProperty("photos").GetInt32());
        Assert.Equal(2, await TotalAsync(visitor, "night"));
        Assert.Equal("Not cleared: “ada thorne” says no.", await SentenceAsync(owner, p[0]));

        // Whoever is named later, by whatever way, is held at once; to clear the photo does not help.
        await NameAsync(owner, p[1], "Ines Calloway", "ADA THORNE");
        Assert.Equal(1, await TotalAsync(visitor, "night"));
        var cleared = await (await owner.PostAsJsonAsync("/api/clearance/photos", new { photos = p[..2], said = "cleared" })).ReadAsync();
        Assert.Equal(2, cleared.GetProperty("refused").GetInt32());
        Assert.Equal(1, await TotalAsync(visitor, "night"));

        // One who says it anew is written over by nobody who read it before.
        Assert.Equal(HttpStatusCode.PreconditionFailed, (await PersonAsync(owner, "Ada Thorne", "yes", 0)).StatusCode);
        (await PersonAsync(owner, "Ada Thorne", "yes", 1, until: "2200-06-30")).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.PreconditionFailed, (await PersonAsync(owner, "Ada Thorne", "no", 1)).StatusCode);
        Assert.Equal(3, await TotalAsync(visitor, "night"));

        // Struck off the list she says nothing; taken back she says what she said before.
        var struck = await (await owner.SendAsync(HttpMethod.Delete, "/api/clearance/persons?name=ada%20thorne", null, 2)).ReadAsync();
        Assert.Equal("nothing", await site.ScalarAsync<string>($"select case people_say when '' then 'nothing' else people_say end from photo where id = '{p[0]}'"));
        await owner.UndoAsync(struck);
        Assert.Equal("yes", await site.ScalarAsync<string>($"select people_say from photo where id = '{p[0]}'"));
        await owner.UndoAsync(no);
        await site.VerifyAsync();
    }

    [Fact]
    public async Task An_undo_of_people_follows_what_the_list_says_by_then()
    {
        var (site, owner, _, p) = await NightAsync(1);
        await using var __ = site;
        await NameAsync(owner, p[0], "Ada Thorne");
        var named = await site.ScalarAsync<Guid>("select id from act order by id desc limit 1");
        var taken = await (await owner.PostAsync($"/api/acts/{named}/undo", null)).ReadAsync();
        (await PersonAsync(owner, "Ada Thorne", "no", 0)).EnsureSuccessStatusCode();
        Assert.Equal("", await site.ScalarAsync<string>("select people_say from photo"));
        // The naming comes back; what she says is what she says now.
        await owner.UndoAsync(taken.GetProperty("done"));
        Assert.Equal("no", await site.ScalarAsync<string>("select people_say from photo"));
    }

    [Fact]
    public async Task A_site_may_show_only_what_is_cleared_and_clearance_ends_on_its_day()
    {
        var (site, owner, visitor, p) = await NightAsync(3);
        await using var _ = site;
        (await owner.PutAsJsonAsync("/api/clearance", new { needed = true })).EnsureSuccessStatusCode();
        Assert.Equal(0, await TotalAsync(visitor, "night"));
        Assert.Equal(3, (await (await owner.GetAsync("/api/desk/figures")).ReadAsync()).GetProperty("held").GetInt32());
        await ClearAsync(owner, "cleared", [p[0]], until: "2200-06-30");
        await ClearAsync(owner, "cleared", [p[1]]);
        await NameAsync(owner, p[2], "Ines Calloway", "Tam Weir");
        (await PersonAsync(owner, "Ines Calloway", "yes", 0, until: "2200-06-30")).EnsureSuccessStatusCode();
        Assert.Equal(2, await TotalAsync(visitor, "night"));
        (await PersonAsync(owner, "Tam Weir", "yes", 0)).EnsureSuccessStatusCode();
        Assert.Equal(3, await TotalAsync(visitor, "night"));
        // What was said is taken back, and said again.
        var back = await ClearAsync(owner, "", [p[1]]);
        Assert.Equal(2, await TotalAsync(visitor, "night"));
        await owner.UndoAsync(back);
        (await PersonAsync(owner, "Tam Weir", "", 1)).EnsureSuccessStatusCode();
        Assert.Equal(2, await TotalAsync(visitor, "night"));
        (await PersonAsync(owner, "Tam Weir", "yes", 2)).EnsureSuccessStatusCode();
        (await PersonAsync(owner, "Perrin Vane", "", 0)).EnsureSuccessStatusCode();
        Assert.Equal("Put “Perrin Vane” on the list of persons.", await site.ScalarAsync<string>("select sentence from act order by id desc limit 1"));

        // As the calendar says it on that day and on the next.
        var store = site.Part<ClearanceStore>();
        await store.EndAsync(new DateOnly(2200, 6, 30), default);
        Assert.Equal(3, await TotalAsync(visitor, "night"));
        await store.EndAsync(new DateOnly(2200, 7, 1), default);
        Assert.Equal(1, await TotalAsync(visitor, "night"));
        Assert.Equal("Its clearance ended on 30 June 2200.", await SentenceAsync(owner, p[0]));
        Assert.Equal("Clearance ended of 2 photos.", await site.ScalarAsync<string>("select sentence from act where kind = 'ClearanceEnded'"));
        await store.EndAsync(new DateOnly(2200, 7, 1), default);
        Assert.Equal(1L, await site.ScalarAsync<long>("select count(*) from act where kind = 'ClearanceEnded'"));

        var found = await (await owner.GetAsync("/api/photos?clearance=none")).ReadAsync();
        Assert.Equal(2, found.GetProperty("total").GetInt32());
        Assert.Equal(2, (await (await owner.GetAsync("/api/photos?missing=clearance")).ReadAsync()).GetProperty("total").GetInt32());
        Assert.Equal(HttpStatusCode.Forbidden, (await (await site.EditorAsync("Tomas")).PutAsJsonAsync("/api/clearance", new { needed = false })).StatusCode);
    }

    [Fact]
    public async Task A_list_is_taken_in_whole_after_it_was_looked_at()
    {
        var (site, owner, visitor, p) = await NightAsync(3);
        await using var _ = site;
        await NameAsync(owner, p[0], "Ada Thorne");
        await NameAsync(owner, p[1], "Tam Weir");
        await NameAsync(owner, p[2], "Ada Thorne");
        (await owner.PostAsJsonAsync("/api/bin", new { photos = new[] { p[2] } })).EnsureSuccessStatusCode();
        (await PersonAsync(owner, "Tam Weir", "no", 0)).EnsureSuccessStatusCode();
        const string List = "First name;Last name;Says;Class\r\nAda;Thorne;no;3b\r\nTam;Weir;yes;3b\r\nInes;Calloway;perhaps;3b\r\ntam;weir;yes;4a\r\n\"Zoë\";Ash;;4a\r\n";

        var preview = await (await owner.PostAsync("/api/clearance/persons/preview", Csv(List))).ReadAsync();
        // Lost is what visitors see: another photo that names her lies in the bin.
        Assert.Equal((5, 3, 1, 1, 3, 1, 1, 2), (
            preview.GetProperty("rows").GetInt32(), preview.GetProperty("read").GetInt32(), preview.GetProperty("yes").GetInt32(), preview.GetProperty("no").GetInt32(),
            preview.GetProperty("changed").GetInt32(), preview.GetProperty("lost").GetInt32(), preview.GetProperty("gained").GetInt32(), preview.GetProperty("rejectedCount").GetInt32()));
        Assert.Equal(["“perhaps” is neither yes nor no.", "The same person stands in line 3 already."], preview.GetProperty("rejected").EnumerateArray().Select(r => r.GetProperty("reason").GetString()));
        Assert.Equal("Class", Assert.Single(preview.GetProperty("unknown").EnumerateArray()).GetString());
        // Looked at, nothing is written.
        Assert.Equal(1L, await site.ScalarAsync<long>("select count(*) from person"));
        Assert.Equal(1, await TotalAsync(visitor, "night"));

        var taken = await (await owner.PostAsync("/api/clearance/persons/table?name=class%203b.csv", Csv(List))).ReadAsync();
        Assert.Equal((3, 3), (taken.GetProperty("changed").GetInt32(), taken.GetProperty("done").GetProperty("photos").GetInt32()));
        Assert.Equal("Wrote what 3 persons say of being shown, from “class 3b.csv”: 3 photos.", await site.ScalarAsync<string>("select sentence from act order by id desc limit 1"));
        Assert.Equal(1, await TotalAsync(visitor, "night"));
        Assert.Equal("Not cleared: “Ada Thorne” says no.", await SentenceAsync(owner, p[0]));

        // The list that is saved is the list that is taken in again: nothing of it is new.
        var saved = await owner.GetStringAsync("/api/clearance/persons.csv");
        Assert.Contains("Ada Thorne,no,,", saved, StringComparison.Ordinal);
        Assert.Equal(0, (await (await owner.PostAsync("/api/clearance/persons/preview", Csv(saved))).ReadAsync()).GetProperty("changed").GetInt32());
        await owner.UndoAsync(taken.GetProperty("done"));
        // Where only what is cleared is shown, a yes lets a photo in, and to take it back lets it go.
        (await owner.PutAsJsonAsync("/api/clearance", new { needed = true })).EnsureSuccessStatusCode();
        async Task<(int, int)> MovedAsync(string csv)
        {
            var look = await (await owner.PostAsync("/api/clearance/persons/preview", Csv(csv))).ReadAsync();
            return (look.GetProperty("lost").GetInt32(), look.GetProperty("gained").GetInt32());
        }

        Assert.Equal((0, 1), await MovedAsync("name,says\nAda Thorne,yes\n"));
        (await owner.PostAsync("/api/clearance/persons/table", Csv("name,says\nAda Thorne,yes\n"))).EnsureSuccessStatusCode();
        Assert.Equal((1, 0), await MovedAsync("name,says\nada thorne,\n"));
        (await owner.PutAsJsonAsync("/api/clearance", new { needed = false })).EnsureSuccessStatusCode();
        Assert.Equal(1, (await PersonsAsync(owner, "?says=no")).GetProperty("found").GetInt32());
        await site.VerifyAsync();
    }

    [Fact]
    public async Task Of_two_rows_of_one_person_a_no_is_never_passed_over()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        (await owner.PostAsync("/api/clearance/persons/table", Csv("name,says\nAda,yes\nada,no\n"))).EnsureSuccessStatusCode();
        Assert.Equal("no", await site.ScalarAsync<string>("select says from person"));
        foreach (var (file, why) in ((string, string)[])
            [
                ("", "The file has no rows."), ("person,says\nAda,no\n", "The first row names no person: one column is called “name”, or two “first name” and “last name”."),
                ("name\nAda\n", "The first row has no column “says”; in it stands yes or no."), ("name,name,says\nAda,Ada,no\n", "Two columns have the same name."),
            ])
        {
            var answer = await owner.PostAsync("/api/clearance/persons/preview", Csv(file));
            Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
            Assert.Equal(why, JsonDocument.Parse(await answer.Content.ReadAsStringAsync()).RootElement.GetProperty("title").GetString());
        }
    }

    [Fact]
    public async Task The_list_names_whom_photos_show_and_is_read_in_parts()
    {
        var (site, owner, _, p) = await NightAsync(2);
        await using var __ = site;
        await NameAsync(owner, p[0], "Zoë Ash");
        await NameAsync(owner, p[1], "ZOË ASH", "Tam Weir");
        (await owner.PostAsync("/api/clearance/persons/table", Csv("name,says\n" + string.Concat(Enumerable.Range(0, 80).Select(i => $"Pupil {i:d2},{(i % 4 == 0 ? "no" : "yes")}\n"))))).EnsureSuccessStatusCode();
        var all = await PersonsAsync(owner);
        Assert.Equal((PersonStore.Step, 82, 82, 60, 20, 2), (
            all.GetProperty("persons").GetArrayLength(), all.GetProperty("found").GetInt32(), all.GetProperty("all").GetInt32(), all.GetProperty("yes").GetInt32(), all.GetProperty("no").GetInt32(), all.GetProperty("nothing").GetInt32()));
        var rest = await PersonsAsync(owner, $"?at={PersonStore.Step}");
        Assert.Equal("Pupil 60", rest.GetProperty("persons")[0].GetProperty("name").GetString());
        var zoe = Assert.Single((await PersonsAsync(owner, "?says=nothing&q=zo%C3%AB")).GetProperty("persons").EnumerateArray());
        // Whoever names people on a photo is offered them, and those of the list whom no photo shows yet.
        var offered = (await (await owner.GetAsync("/api/words/people?typed=pupil%2007")).ReadAsync()).GetProperty("people");
        Assert.Equal(("Pupil 07", 0), (Assert.Single(offered.EnumerateArray()).GetProperty("value").GetString(), offered[0].GetProperty("photos").GetInt32()));
        Assert.Equal("ZOË ASH", (await (await owner.GetAsync("/api/words/people?typed=zo%C3%AB")).ReadAsync()).GetProperty("people")[0].GetProperty("value").GetString(), ignoreCase: true);
        Assert.Equal((2, true, 0L), (zoe.GetProperty("photos").GetInt32(), zoe.GetProperty("picture").GetString() is { Length: > 0 }, zoe.GetProperty("version").GetInt64()));
        Assert.Equal(HttpStatusCode.BadRequest, await GetAsync(owner, "/api/clearance/persons?says=perhaps"));
        Assert.Equal(HttpStatusCode.BadRequest, (await PersonAsync(owner, "\u0001", "no", 0)).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await PersonAsync(owner, "Ada", "no", 0, until: "2200-01-01")).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.PostAsJsonAsync("/api/clearance/photos", new { photos = p, said = "ended" })).StatusCode);
    }

    /// <summary>Photos that are named while a person's no is being written: whoever is first, no photo of the person slips through.</summary>
    [Fact]
    public async Task A_no_and_a_name_written_at_the_same_moment_do_not_miss_each_other()
    {
        var (site, owner, _, p) = await NightAsync(6);
        await using var __ = site;
        var version = 0L;
        for (var round = 0; round < 12; round++)
        {
            var (name, says) = (round % 2 == 0 ? "Ada Thorne" : "ada thorne", round % 3 == 2 ? "yes" : "no");
            var naming = p.Select(photo => owner.PostAsJsonAsync("/api/words", new { photos = new[] { photo }, changes = new[] { new { people = round % 4 < 3 ? new { add = new[] { name }, remove = Array.Empty<string>() } : new { add = Array.Empty<string>(), remove = new[] { name } } } } })).ToList();
            var saying = PersonAsync(owner, "Ada Thorne", says, version);
            foreach (var answer in await Task.WhenAll([.. naming, saying]))
            {
                answer.EnsureSuccessStatusCode();
            }

            version++;
            Assert.Equal(0L, await site.ScalarAsync<long>("select count(*) from photo cross join lateral photo_people_say(people) as s where people <> '{}' and people_say <> s.say"));
            Assert.Equal(0L, await site.ScalarAsync<long>("select count(*) from photo where people = '{}' and people_say <> ''"));
        }
    }
}
