using System.Net.Http.Json;

namespace Jovitar.Server.Tests;

/// <summary>Two people at work on one site, who do whatever the dice say.</summary>
internal sealed class Club(Site site, HttpClient[] people, Random dice)
{
    string[] photos = [];
    Guid[] groups = [];

    public static async Task<Club> GatherAsync(Site site, int seed)
    {
        var owner = await site.OwnerAsync();
        var club = new Club(site, [owner, await site.EditorAsync("Tomas")], new Random(seed));
        var intake = await owner.IntakeAsync();
        club.photos = await Task.WhenAll(Enumerable.Range(0, 9).Select(async i => (await owner.BringAsync(intake, $"p{i}.jpg", Acts.Photo(i, 90, 60))).GetProperty("photo").GetString()!));
        await site.WriteAsync("update photo set state = 'ready'");
        club.groups = [await MemberSteps.GroupAsync(owner, "Juniors"), await MemberSteps.GroupAsync(owner, "Parents")];
        await site.WriteAsync("delete from act_change; delete from act where within is not null");
        return club;
    }

    /// <summary>Others of the club at work on the same site, with dice of their own.</summary>
    public Club Others(int seed) => new(site, people, new Random(seed)) { photos = photos, groups = groups };

    public IReadOnlyList<string> Photos => photos;

    /// <summary>Groups of members that something may be for.</summary>
    public IReadOnlyList<Guid> Groups => groups;

    public Task<string> StateAsync() => site.ScalarAsync<string>(ClubTables.State);

    public async Task<string?> FaultsAsync()
    {
        await using var command = site.Db.CreateCommand(ClubTables.Faults);
        return await command.ExecuteScalarAsync() as string;
    }

    public async Task<HashSet<Guid>> ActsAsync()
    {
        await using var command = site.Db.CreateCommand("select coalesce(array_agg(id), '{}') from act where kind not in ('Intake', 'Members')");
        return [.. (Guid[])(await command.ExecuteScalarAsync())!];
    }

    public HttpClient Anyone => people[dice.Next(people.Length)];

    T Any<T>(IReadOnlyList<T> things) => things[dice.Next(things.Count)];

    string[] Some(IReadOnlyList<string> things) => [.. things.Where(_ => dice.Next(3) == 0).DefaultIfEmpty(Any(things))];

    async Task<string[]> IdsAsync(string table)
    {
        await using var command = site.Db.CreateCommand($"select coalesce(array_agg(id::text order by id), '{{}}') from {table} where binned is null");
        return (string[])(await command.ExecuteScalarAsync())!;
    }

    static readonly string[] None = [];

    /// <summary>An hour goes by: nothing that was written before goes on.</summary>
    public async Task WaitAsync()
    {
        await using var command = site.Db.CreateCommand("update act set made = made - interval '1 hour'");
        await command.ExecuteNonQueryAsync();
    }

    /// <summary>Does one thing; what cannot be done just now (a photo in the bin, an address that is taken) is answered so and changes nothing.</summary>
    public async Task<HttpResponseMessage> DoAsync()
    {
        var (who, photo) = (Anyone, Any(photos));
        var (albums, categories, tags, pages) = (await IdsAsync("album"), await IdsAsync("category"), await IdsAsync("tag"), await IdsAsync("page"));
        switch (dice.Next(36))
        {
            case 32 or 33 or 34:
                return await SayAudienceAsync(who, albums, categories, pages);
            case 35:
                return await who.PostAsJsonAsync("/api/photos/audience", new { photos = Some(photos), audience = AnAudience(["everyone", "everyone", "members", "chosen", "staff"]) });
            case 28:
                return await who.PostAsJsonAsync("/api/clearance/photos", new { photos = Some(photos), said = Any(["", "cleared", "not_cleared"]), by = $"letter {dice.Next(3)}", until = Day() });
            case 29 or 30:
                return await SayOfPersonAsync(who);
            case 31:
                return dice.Next(3) == 0 ? await people[0].PutAsJsonAsync("/api/clearance", new { needed = dice.Next(2) == 0 }) : await PersonsFromTableAsync(who);
            case 24 or 25 when albums.Length > 0:
                return await StandAsync(who, Any(albums), categories);
            case 26 or 27 when categories.Length > 0:
                return await SetPageAsync(who, Any(categories));
            case 20 or 21:
                return await who.PostAsJsonAsync("/api/words", new { photos = Some(photos), changes = Enumerable.Range(0, 1 + dice.Next(3)).Select(_ => AChange()) });
            case 22:
                return await TypeAsync(who);
            case 23:
                return await FromTableAsync(who);
            case 0 or 1:
                var words = new { title = $"Title {dice.Next(4)}", caption = $"Caption {dice.Next(4)}", decision = Any(["", "keep", "leave_out"]) };
                return await who.SendAsync(HttpMethod.Patch, $"/api/photos/{photo}", words, await VersionAsync(who, $"/api/photos/{photo}", "version"));
            case 2 or 3:
                return await who.PostAsJsonAsync("/api/photos/tags", new { photos = Some(photos), add = new[] { $"tag {dice.Next(5)}" }, remove = tags.Length == 0 ? None : Some(tags) });
            case 4:
                return await who.PostAsJsonAsync("/api/photos/categories", new { photos = Some(photos), add = categories.Length == 0 ? None : Some(categories), remove = categories.Length == 0 ? None : [Any(categories)] });
            case 5 or 6:
                return await who.PostAsJsonAsync("/api/categories", new { name = $"Category {dice.Next(5)}", parent = categories.Length == 0 || dice.Next(2) == 0 ? null : Any(categories) });
            case 7 when categories.Length > 0:
                return await who.DeleteAsync($"/api/categories/{Any(categories)}");
            case 8 when categories.Length > 1:
                var moved = Any(categories);
                var version = await site.ScalarAsync<long>($"select version from category where id = '{moved}'");
                return await who.SendAsync(HttpMethod.Put, $"/api/categories/{moved}", new { name = $"Moved {dice.Next(3)}", parent = dice.Next(3) == 0 ? null : Any(categories), place = dice.Next(3) }, version);
            case 9 when tags.Length > 0:
                return await who.DeleteAsync($"/api/tags/{Any(tags)}");
            case 10:
                return await who.PostAsJsonAsync("/api/albums", new { workingName = $"Album {dice.Next(4)}" });
            case 11 or 12 when albums.Length > 0:
                return await who.PostAsJsonAsync($"/api/albums/{Any(albums)}/photos", new { photos = Some(photos) });
            case 13 when albums.Length > 0:
                return await who.PostAsJsonAsync($"/api/albums/{Any(albums)}/photos/removal", new { photos = Some(photos) });
            case 14 when albums.Length > 0:
                var ordered = Any(albums);
                return await who.SendAsync(HttpMethod.Put, $"/api/albums/{ordered}/order", new { photos = Some(photos), position = dice.Next(9) }, await VersionAsync(who, $"/api/albums/{ordered}", "version"));
            case 15 when albums.Length > 0:
                var named = Any(albums);
                return await who.SendAsync(
                    HttpMethod.Patch, $"/api/albums/{named}", new { title = $"Shown {dice.Next(3)}", cover = dice.Next(2) == 0 ? null : photo }, await VersionAsync(who, $"/api/albums/{named}", "version"));
            case 16 when albums.Length > 0:
                return dice.Next(3) == 0 ? await who.DeleteAsync($"/api/albums/{Any(albums)}") : await who.PostAsJsonAsync("/api/pages", new { album = Any(albums) });
            case 17 when pages.Length > 0:
                var page = Any(pages);
                return dice.Next(4) switch
                {
                    0 => await who.PostAsync($"/api/pages/{page}/withdraw", null),
                    1 => await who.DeleteAsync($"/api/pages/{page}"),
                    2 => await EditAsync(who, page, albums),
                    _ => await who.PublishAsync(page),
                };
            case 18:
                return await who.PostAsJsonAsync("/api/bin", new { photos = Some(photos) });
            default:
                await using (var command = site.Db.CreateCommand("select coalesce(array_agg(kind || ' ' || thing order by thing), '{}') from bin where within is null"))
                {
                    var binned = (string[])(await command.ExecuteScalarAsync())!;
                    var things = binned.Where(_ => dice.Next(2) == 0).Select(b => b.Split(' ')).Select(b => new { kind = b[0], id = b[1] }).ToArray();
                    return await who.PostAsJsonAsync("/api/bin/restore", new { things });
                }
        }
    }

    /// <summary>A change of words of many photos.</summary>
    object AChange() => dice.Next(7) switch
    {
        0 => new { write = new { field = Any(["title", "caption", "place", "credit"]), pattern = new object[] { new { text = $"Kite {dice.Next(3)} " }, new { counter = new { digits = 2, from = dice.Next(5), eachDay = false } } } } },
        1 => new { write = new { field = Any(["title", "place", "link"]), pattern = None } },
        2 => new { write = new { field = "link", pattern = new[] { new { text = $"https://guild.example/{dice.Next(3)}" } } } },
        3 => new { replace = new { fields = new[] { "title", "caption" }, find = Any(["Kite", "Title", "Caption", "1"]), with = Any(["", "Delta", "x"]) } },
        4 => new { people = new { add = new[] { Any(["Ines", "Tam", "Odile"]) }, remove = dice.Next(2) == 0 ? None : [Any(["Ines", "Tam"])] } },
        5 => new { taken = new { local = $"2026-06-{13 + dice.Next(3)}T12:00:00", offset = dice.Next(2) == 0 ? (int?)null : 60 } },
        _ => new { shift = new { seconds = 3600 * (1 + dice.Next(3)) } },
    };

    /// <summary>Types rows of a table, as they were read just before.</summary>
    async Task<HttpResponseMessage> TypeAsync(HttpClient who)
    {
        var read = await (await who.PostAsJsonAsync("/api/words/rows", new { photos = Some(photos) })).ReadAsync();
        var rows = read.GetProperty("rows").EnumerateArray().Select(r => new
        {
            photo = r.GetProperty("photo").GetProperty("id").GetString(),
            version = r.GetProperty("version").GetInt64(),
            words = new Dictionary<string, string> { [Any(["title", "caption", "alt"])] = $"Typed {dice.Next(4)}" },
        });
        return await who.SendAsync(HttpMethod.Put, "/api/words/rows", new { rows });
    }

    /// <summary>Brings words in with a spreadsheet's file.</summary>
    async Task<HttpResponseMessage> FromTableAsync(HttpClient who)
    {
        var lines = Some(photos).Select(id => $"{id},From a table {dice.Next(3)},tag {dice.Next(5)}; tag {dice.Next(5)},Ines; Zoë,{dice.Next(6)}");
        using var file = new StringContent($"id,title,tags,people,rating\n{string.Join('\n', lines)}\n", System.Text.Encoding.UTF8, "text/csv");
        return await who.PostAsync("/api/words/table", file);
    }

    static readonly string[] Shown = ["Ines", "Tam", "Odile", "Zoë"];

    /// <summary>None, or one to come: what is over, the calendar ends by an act of its own.</summary>
    string? Day() => Any<string?>([null, "2200-06-30"]);

    /// <summary>Writes what a person says, or strikes them off the list.</summary>
    async Task<HttpResponseMessage> SayOfPersonAsync(HttpClient who)
    {
        var (name, says) = (Any(Shown), Any(["", "yes", "yes", "no"]));
        var version = await site.ScalarAsync<long>($"select coalesce((select version from person where key = person_key('{name}') and struck is null), 0)");
        return version > 0 && dice.Next(4) == 0
            ? await who.SendAsync(HttpMethod.Delete, $"/api/clearance/persons?name={Uri.EscapeDataString(name)}", null, version)
            : await who.SendAsync(HttpMethod.Put, "/api/clearance/persons", new { name = dice.Next(2) == 0 ? name : name.ToUpperInvariant(), says, until = says == "yes" ? Day() : null, by = $"letter {dice.Next(3)}" }, version);
    }

    /// <summary>Says who may see an album, a category or a page.</summary>
    async Task<HttpResponseMessage> SayAudienceAsync(HttpClient who, string[] albums, string[] categories, string[] pages)
    {
        (string Kind, string Id)[] things = [.. albums.Select(a => ("album", a)), .. categories.Select(c => ("category", c)), .. pages.Select(p => ("page", p))];
        if (things.Length == 0)
        {
            return await who.GetAsync("/api/albums");
        }

        var (kind, id) = Any(things);
        if (kind != "page" && dice.Next(2) == 0)
        {
            return await SayMarkingAsync(who, kind, id);
        }

        var read = await who.GetAsync($"/api/audiences/{kind}/{id}");
        if (!read.IsSuccessStatusCode)
        {
            return read;
        }

        var was = (await read.ReadAsync()).GetProperty("audience");
        var audience = AnAudience(["everyone", "everyone", "holders", "members", "chosen", "staff"]);
        return await who.PutAsJsonAsync($"/api/audiences/{kind}/{id}", new { audience, was });
    }

    object AnAudience(string[] whom) =>
        new { who = Any(whom), chosen = new[] { Any(groups) }, from = Any<string?>([null, null, "2020-01-01T00:00:00Z", "2200-01-01T00:00:00Z"]), until = Any<string?>([null, null, "2020-06-30T00:00:00Z", "2200-06-30T00:00:00Z"]) };

    /// <summary>Takes in a list of persons.</summary>
    async Task<HttpResponseMessage> PersonsFromTableAsync(HttpClient who)
    {
        using var file = new StringContent($"name,says\n{string.Join('\n', Some(Shown).Select(n => $"{n},{Any(["yes", "no", ""])}"))}\n", System.Text.Encoding.UTF8, "text/csv");
        return await who.PostAsync("/api/clearance/persons/table", file);
    }

    /// <summary>Says where an album stands.</summary>
    async Task<HttpResponseMessage> StandAsync(HttpClient who, string album, string[] categories)
    {
        var read = await who.GetAsync($"/api/albums/{album}");
        if (!read.IsSuccessStatusCode)
        {
            return read;
        }

        var line = await read.ReadAsync();
        var standing = new
        {
            address = dice.Next(4) == 0 ? $"shelf-{dice.Next(3)}" : line.GetProperty("standing").GetProperty("address").GetString(),
            dated = dice.Next(2) == 0 ? null : $"2026-06-{13 + dice.Next(3)}",
            shown = dice.Next(3) > 0,
            putFirst = dice.Next(3) == 0,
            byLot = line.GetProperty("version").GetInt64() % 2 == 0,
            comments = line.GetProperty("version").GetInt64() % 3 == 0,
            ratings = false,
            talkKnown = false,
            opens = (string?)null,
            categories = categories.Where(_ => dice.Next(2) == 0).Select(c => new { category = c, putFirst = dice.Next(2) == 0 }),
            tags = Enumerable.Range(0, dice.Next(3)).Select(_ => $"tag {dice.Next(5)}").Distinct(),
        };
        return await who.SendAsync(HttpMethod.Put, $"/api/albums/{album}/standing", standing, line.GetProperty("version").GetInt64());
    }

    /// <summary>Says who gets the photos of an album or a category without the watermark.</summary>
    async Task<HttpResponseMessage> SayMarkingAsync(HttpClient who, string kind, string id)
    {
        var read = await who.GetAsync($"/api/markings/{kind}/{id}");
        if (!read.IsSuccessStatusCode)
        {
            return read;
        }

        var spared = Any(["everyone", "everyone", "members", "chosen", "nobody"]);
        var was = (await read.ReadAsync()).GetProperty("marking").GetProperty("marking");
        return await who.PutAsJsonAsync($"/api/markings/{kind}/{id}", new { marking = new { who = spared, chosen = spared == "chosen" ? new[] { Any(groups) } : [] }, was });
    }

    /// <summary>Takes a category out of view or brings it back, and sets its page.</summary>
    async Task<HttpResponseMessage> SetPageAsync(HttpClient who, string category)
    {
        var (name, parent, version) = (
            await site.ScalarAsync<string>($"select name from category where id = '{category}'"), await site.ScalarAsync<string>($"select coalesce(parent::text, '') from category where id = '{category}'"),
            await site.ScalarAsync<long>($"select version from category where id = '{category}'"));
        var page = new { address = $"page-{dice.Next(4)}", cover = dice.Next(2) == 0 ? null : Any(photos), beneath = dice.Next(2) == 0, sort = Any(["newest", "title", "hand"]) };
        return await who.SendAsync(
            HttpMethod.Put, $"/api/categories/{category}", new { name, parent = parent.Length == 0 ? null : parent, shown = dice.Next(3) > 0, page = dice.Next(2) == 0 ? null : page }, version);
    }

    async Task<HttpResponseMessage> EditAsync(HttpClient who, string page, string[] albums)
    {
        var draft = Drafts.Page($"Heading {dice.Next(3)}", Drafts.Photos(Drafts.Source("albums", [.. albums.Where(_ => dice.Next(3) == 0)]), size: 200 + (10 * dice.Next(3))), Drafts.Photos(Drafts.Source("picked", photos: [Any(photos)]), number: 4));
        return await who.SendAsync(HttpMethod.Put, $"/api/pages/{page}", new { address = $"address-{dice.Next(4)}", draft }, await VersionAsync(who, $"/api/pages/{page}", "edited"));
    }

    static async Task<long> VersionAsync(HttpClient who, string address, string name)
    {
        var answer = await who.GetAsync(address);
        return answer.IsSuccessStatusCode ? (await answer.ReadAsync()).GetProperty(name).GetInt64() : 1;
    }

    /// <summary>Takes one of all the acts back, if it can be.</summary>
    public async Task<HttpResponseMessage> TakeOneBackAsync() => await TakeBackAsync(Anyone, Any([.. (await ActsAsync()).Order()]));

    public static async Task<HttpResponseMessage> TakeBackAsync(HttpClient who, Guid act) => await who.PostAsync($"/api/acts/{act}/undo", null);
}
