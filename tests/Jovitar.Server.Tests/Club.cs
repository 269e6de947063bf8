using System.Net.Http.Json;

namespace Jovitar.Server.Tests;

/// <summary>Two people at work on one site, who do whatever the dice say.</summary>
internal sealed class Club(Site site, HttpClient[] people, Random dice)
{
    /// <summary>All that people made and can see, written out: what is in the bin counts only where photos are, and places count as an order.</summary>
    const string State =
        """
        select string_agg(line, E'\n' order by line) from (
          select 'photo ' || p.id || ' ' || jsonb_build_array(p.title, p.caption, p.alt, p.credit, p.rating, p.decision, p.said, p.tag_words, p.binned is not null,
                   p.people, p.clearance, p.cleared_by, p.cleared_until, p.people_say, p.people_until, p.place, p.link, p.taken, p.taken_offset_minutes, p.latitude, p.longitude)
            from photo as p
          union all
          select 'person ' || o.id || ' ' || jsonb_build_array(o.name, o.says, o.until, o.said_by) from person as o where o.struck is null
          union all
          select 'site '::text || jsonb_build_array(s.clearance_needed) from site as s
          union all
          select 'tag ' || t.id || ' ' || t.name from tag as t where t.binned is null
          union all
          select 'category ' || c.id || ' ' || jsonb_build_array(c.name, c.parent, rank() over (partition by c.parent order by c.place), c.shown, c.address, c.cover, c.beneath, c.sort,
                   c.audience, c.seen_from, c.seen_until, c.chosen, c.unmarked, c.unmarked_for)
            from category as c where c.binned is null
          union all
          select 'album ' || a.id || ' ' || jsonb_build_array(a.working_name, a.title, a.description, a.cover, a.address, a.dated, a.shown, a.put_first,
                   a.audience, a.seen_from, a.seen_until, a.chosen, a.unmarked, a.unmarked_for)
            from album as a where a.binned is null
          union all
          select 'stands in ' || ac.album || ' ' || ac.category || ' ' || ac.put_first from album_category as ac
          union all
          select 'album tagged ' || at.album || ' ' || at.tag from album_tag as at
          union all
          select 'page ' || g.id || ' ' || jsonb_build_array(g.album, g.address, g.draft, g.published, g.audience, g.seen_from, g.seen_until, g.chosen)
            from page as g where g.binned is null
          union all
          select 'in album ' || ap.album || ' ' || jsonb_agg(ap.photo order by ap.place, ap.photo) from album_photo as ap group by ap.album
          union all
          select 'tagged ' || pt.photo || ' ' || pt.tag || ' ' || pt.said_by from photo_tag as pt
          union all
          select 'categorised ' || pc.photo || ' ' || pc.category || ' ' || pc.said_by from photo_category as pc) as s(line)
        """;

    /// <summary>What must hold of the tables at any time; each row found is a fault.</summary>
    const string Faults =
        """
        select string_agg(fault, E'\n') from (
          select 'a link to something in the bin: ' || ap.album || ' ' || ap.photo
            from album_photo as ap join album as a on a.id = ap.album join photo as p on p.id = ap.photo
           where a.binned is not null or p.binned is not null
          union all
          select 'a tag on or in the bin: ' || pt.photo || ' ' || pt.tag
            from photo_tag as pt join tag as t on t.id = pt.tag join photo as p on p.id = pt.photo
           where t.binned is not null or p.binned is not null
          union all
          select 'a category on or in the bin: ' || pc.photo || ' ' || pc.category
            from photo_category as pc join category as c on c.id = pc.category join photo as p on p.id = pc.photo
           where c.binned is not null or p.binned is not null
          union all
          select 'an album or category of the shelf in the bin: ' || ac.album || ' ' || ac.category
            from album_category as ac join album as a on a.id = ac.album join category as c on c.id = ac.category
           where a.binned is not null or c.binned is not null
          union all
          select 'in view or out of it, and noted otherwise: ' || c.id
            from category as c
           where c.in_view <> (c.id in (
             with recursive seen as (
               select id from category where parent is null and shown and binned is null
               union
               select b.id from category as b join seen as s on b.parent = s.id where b.shown and b.binned is null)
             select id from seen))
          union all
          select 'gates that are not its own and of those above it: ' || c.id
            from category as c
           where array(select g from unnest(c.gates) as g order by g) <> array(
             with recursive above as (
               select id, parent, is_gate from category where id = c.id
               union
               select b.id, b.parent, b.is_gate from category as b join above as a on b.id = a.parent)
             select id from above where is_gate order by id)
          union all
          select 'marks that are not its own and of those above it: ' || c.id
            from category as c
           where array(select m from unnest(c.marks) as m order by m) <> array(
             with recursive above as (
               select id, parent, unmarked from category where id = c.id
               union
               select b.id, b.parent, b.unmarked from category as b join above as a on b.id = a.parent)
             select id from above where unmarked <> 'Everyone' order by id)
          union all
          select 'held though both ends are here: ' || h.kind || ' ' || h.thing || ' ' || h.other
            from held as h
           where h.kind = 'album_photo' and exists (select from album as a where a.id = h.thing and a.binned is null)
             and exists (select from photo as p where p.id = h.other and p.binned is null)
          union all
          select 'words of tags that are not its tags: ' || p.id
            from photo as p
           where p.tag_words <> coalesce((select string_agg(t.name, ' ' order by t.key) from photo_tag as pt join tag as t on t.id = pt.tag where pt.photo = p.id), '')
          union all
          select 'what is noted of those whom it shows is not what they say: ' || p.id
            from photo as p
            left join lateral photo_people_say(p.people) as s on p.people <> '{}'
           where (p.people_say, p.people_until) is distinct from (coalesce(s.say, ''), s.until)
          union all
          select 'a cover in the bin: ' || a.id
            from (select id, cover, binned from album union all select id, cover, binned from category) as a join photo as p on p.id = a.cover
           where p.binned is not null and a.binned is null
          union all
          select 'visitors'' things of a page they do not have: ' || g.id from page as g join page_thing as pt on pt.page = g.id and pt.live where g.published is null
          union all
          select 'an album shown that the draft does not name: ' || g.id from page as g join page_thing as pt on pt.page = g.id and not pt.live and pt.kind = 'album'
           where g.draft::text not like '%' || pt.thing || '%' and g.draft ? 'schema'
          union all
          select 'beneath a category in the bin: ' || c.id from category as c join category as above on above.id = c.parent where c.binned is null and above.binned is not null
          union all
          select 'in the bin and not listed in it, or the other way round: ' || x.id
            from (select id, binned from photo union all select id, binned from album union all select id, binned from category union all select id, binned from tag union all select id, binned from page) as x(id, binned)
           where (x.binned is not null) <> exists (select from bin as b where b.thing = x.id)) as f(fault)
        """;

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

    public Task<string> StateAsync() => site.ScalarAsync<string>(State);

    public async Task<string?> FaultsAsync()
    {
        await using var command = site.Db.CreateCommand(Faults);
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
