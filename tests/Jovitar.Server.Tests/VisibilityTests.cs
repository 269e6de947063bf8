using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Jovitar.Core.Photos;

namespace Jovitar.Server.Tests;

/// <summary>What visitors are shown at every door, against a naive evaluation of the rule over the raw tables, while a site changes at random.</summary>
public sealed class VisibilityTests
{
    sealed record Row(string Id, string Hash, string State, string Decision, bool Binned, string Clearance, DateOnly? Until, string[] People);

    sealed record PersonRow(string Says, DateOnly? Until);

    sealed record PageRow(Guid Id, string Address, Guid Album, bool Published, bool Binned);

    sealed record AudienceRow(string Who, bool IsOn, Guid[] Chosen);

    /// <summary>What every member holds.</summary>
    static readonly Guid AnyMember = new(1, 0, 0, new byte[8]);

    /// <summary>The tables as they are, without any of the server's own questions.</summary>
    sealed class Tables
    {
        public List<Row> Photos { get; } = [];

        public List<PageRow> Pages { get; } = [];

        public Dictionary<string, PersonRow> Persons { get; } = [];

        public bool OnlyCleared { get; private set; }

        public Dictionary<Guid, List<string>> Albums { get; } = [];

        public HashSet<Guid> AlbumsHere { get; } = [];

        public HashSet<Guid> OutOfView { get; } = [];

        public Dictionary<Guid, AudienceRow> Audiences { get; } = [];

        /// <summary>Of albums and categories, who gets their photos without the watermark.</summary>
        public Dictionary<Guid, (string Who, Guid[] Chosen)> Marks { get; } = [];

        /// <summary>What names the watermark.</summary>
        public string Watermark { get; private set; } = "";

        public Dictionary<Guid, Guid?> Parents { get; } = [];

        /// <summary>Categories that are out of view themselves.</summary>
        public HashSet<Guid> Off { get; } = [];

        /// <summary>What stands in which category.</summary>
        public List<(string Thing, Guid Category)> Shelves { get; } = [];

        public static async Task<Tables> ReadAsync(Site site)
        {
            var all = new Tables();
            async Task EachAsync(string sql, Action<Npgsql.NpgsqlDataReader> read)
            {
                await using var command = site.Db.CreateCommand(sql);
                await using var reader = await command.ExecuteReaderAsync();
                while (await reader.ReadAsync())
                {
                    read(reader);
                }
            }

            await EachAsync("select id::text, encode(hash, 'hex'), state, decision, binned is not null, clearance, cleared_until, people from photo", r => all.Photos.Add(
                new Row(r.GetString(0), r.GetString(1), r.GetString(2), r.GetString(3), r.GetBoolean(4), r.GetString(5), r.IsDBNull(6) ? null : r.GetFieldValue<DateOnly>(6), r.GetFieldValue<string[]>(7))));
            await EachAsync("select name, says, until from person where struck is null", r => all.Persons[r.GetString(0).ToUpperInvariant()] = new PersonRow(r.GetString(1), r.IsDBNull(2) ? null : r.GetFieldValue<DateOnly>(2)));
            await EachAsync("select clearance_needed from site", r => all.OnlyCleared = r.GetBoolean(0));
            await EachAsync("select id, address, album, published is not null, binned is not null from page", r => all.Pages.Add(new PageRow(r.GetGuid(0), r.GetString(1), r.GetGuid(2), r.GetBoolean(3), r.GetBoolean(4))));
            foreach (var kind in (string[])["page", "album", "category"])
            {
                await EachAsync($"select id, audience, seen_from, seen_until, chosen from {kind}", r => all.Audiences[r.GetGuid(0)] = new AudienceRow(
                    r.GetString(1), (r.IsDBNull(2) || r.GetDateTime(2) <= DateTime.UtcNow) && (r.IsDBNull(3) || r.GetDateTime(3) > DateTime.UtcNow), r.GetFieldValue<Guid[]>(4)));
            }

            foreach (var kind in (string[])["album", "category"])
            {
                await EachAsync($"select id, unmarked, unmarked_for from {kind}", r => all.Marks[r.GetGuid(0)] = (r.GetString(1), r.GetFieldValue<Guid[]>(2)));
            }

            await EachAsync("select key from watermark", r => all.Watermark = r.GetString(0));
            // A photo with an exception is known here by itself.
            await EachAsync("select p.id, g.audience, g.seen_from, g.seen_until, g.chosen from photo as p join photo_gate as g on g.id = p.own_gate", r => all.Audiences[r.GetGuid(0)] = new AudienceRow(
                r.GetString(1), (r.IsDBNull(2) || r.GetDateTime(2) <= DateTime.UtcNow) && (r.IsDBNull(3) || r.GetDateTime(3) > DateTime.UtcNow), r.GetFieldValue<Guid[]>(4)));
            await EachAsync("select id, parent, shown and binned is null from category", r =>
            {
                all.Parents[r.GetGuid(0)] = r.IsDBNull(1) ? null : r.GetGuid(1);
                _ = r.GetBoolean(2) || all.Off.Add(r.GetGuid(0));
            });
            await EachAsync("select album, category from album_category", r => all.Shelves.Add((r.GetGuid(0).ToString(), r.GetGuid(1))));
            await EachAsync("select photo, category from photo_category", r => all.Shelves.Add((r.GetGuid(0).ToString(), r.GetGuid(1))));
            await EachAsync("select id from album where binned is null", r => all.AlbumsHere.Add(r.GetGuid(0)));
            await EachAsync("select id from album where not shown", r => all.OutOfView.Add(r.GetGuid(0)));
            await EachAsync("select album, photo::text from album_photo", r => (all.Albums.TryGetValue(r.GetGuid(0), out var held) ? held : all.Albums[r.GetGuid(0)] = []).Add(r.GetString(1)));
            return all;
        }

        public bool IsOpen(PageRow page) => page.Published && !page.Binned && AlbumsHere.Contains(page.Album);

        /// <summary>Nothing of the photo itself speaks against it, nor anybody whom it shows.</summary>
        bool MayStand(Row photo) => photo.State == "ready" && photo.Decision != "leave_out" && !photo.Binned && IsCleared(photo);

        bool IsCleared(Row photo)
        {
            var today = DateOnly.FromDateTime(DateTime.UtcNow);
            var says = photo.People.Select(p => Persons.GetValueOrDefault(p.ToUpperInvariant())).ToArray();
            if (photo.Clearance == "not_cleared" || says.Any(s => s?.Says == "no"))
            {
                return false;
            }

            var itself = photo.Clearance == "cleared" && (photo.Until is null || photo.Until >= today);
            return !OnlyCleared || itself || (says.Length > 0 && says.All(s => s is { Says: "yes" } && (s.Until is null || s.Until >= today)));
        }

        public bool LetsIn(Guid thing, IReadOnlySet<Guid> holds) => Audiences[thing] is { IsOn: true } audience && (audience.Who is "Everyone" or "WithLink" || (audience.Who == "Holders" && holds.Contains(thing))
            || (audience.Who == "Members" && holds.Contains(AnyMember)) || (audience.Who == "Chosen" && audience.Chosen.Any(holds.Contains)));

        /// <summary>Each category that something stands in, and each above that.</summary>
        bool ShelvesLetIn(string thing, IReadOnlySet<Guid> holds) => Shelves.Where(s => s.Thing == thing).SelectMany(s => WithAbove(s.Category)).All(c => LetsIn(c, holds));

        IEnumerable<Guid> WithAbove(Guid category)
        {
            for (Guid? at = category; at is { } here; at = Parents[here])
            {
                yield return here;
            }
        }

        /// <summary>On how many pages a visitor finds an album: on those made for it, and on its own where it stands in a category that is in view.</summary>
        public int PagesOf(Guid album, IReadOnlySet<Guid> holds) =>
            !AlbumsHere.Contains(album) || OutOfView.Contains(album) || !AlbumLetsIn(album, holds)
                ? 0
                : Pages.Count(p => p.Album == album && IsOpen(p) && LetsIn(p.Id, holds)) + (Shelves.Any(s => s.Thing == $"{album}" && !WithAbove(s.Category).Any(Off.Contains)) ? 1 : 0);

        /// <summary>On how many pages a visitor finds a photo.</summary>
        public int PagesOf(Row photo, IReadOnlySet<Guid> holds) =>
            MayStand(photo) && PhotoLetsIn(photo, holds) ? Albums.Where(a => a.Value.Contains(photo.Id)).Sum(a => PagesOf(a.Key, holds)) : 0;

        /// <summary>Whether a visitor gets a photo with the watermark: one thing that it stands in, or that stands above that, is enough.</summary>
        public bool IsMarked(Row photo, IReadOnlySet<Guid> holds)
        {
            Guid[] albums = [.. Albums.Where(a => a.Value.Contains(photo.Id)).Select(a => a.Key)];
            var shelves = Shelves.Where(s => s.Thing == photo.Id || albums.Any(a => $"{a}" == s.Thing)).SelectMany(s => WithAbove(s.Category));
            bool Spares(Guid thing) => Marks[thing] is var (who, chosen) && (who == "Everyone" || (who == "Members" && holds.Contains(AnyMember)) || (who == "Chosen" && chosen.Any(holds.Contains)));
            return albums.Concat(shelves).Any(t => !Spares(t));
        }

        /// <summary>The name by which a visitor has the picture of a photo.</summary>
        public string PictureOf(Row photo, IReadOnlySet<Guid> holds) => PictureName.Marked(photo.Hash, IsMarked(photo, holds) ? Watermark : "");

        bool PhotoLetsIn(Row photo, IReadOnlySet<Guid> holds) => ShelvesLetIn(photo.Id, holds) && (!Audiences.ContainsKey(Guid.Parse(photo.Id)) || LetsIn(Guid.Parse(photo.Id), holds));

        public bool AlbumLetsIn(Guid album, IReadOnlySet<Guid> holds) => LetsIn(album, holds) && ShelvesLetIn($"{album}", holds);

        public bool On(Row photo, PageRow page, IReadOnlySet<Guid> holds) => On(photo, page) && LetsIn(page.Id, holds) && AlbumLetsIn(page.Album, holds) && PhotoLetsIn(photo, holds);

        bool On(Row photo, PageRow page) => IsOpen(page) && !OutOfView.Contains(page.Album) && MayStand(photo) && Albums.GetValueOrDefault(page.Album, []).Contains(photo.Id);
    }

    [Theory]
    [InlineData(31)]
    [InlineData(32)]
    public async Task Every_door_shows_visitors_what_the_rule_says_and_the_line_says_the_same(int seed)
    {
        await using var site = await Site.StartAsync(workers: 0);
        var club = await Club.GatherAsync(site, seed);
        var dice = new Random(seed);
        var begins = await site.OwnerAsync();
        (await begins.SendAsync(HttpMethod.Put, "/api/watermark", new { kind = "words", words = "Marram", lettering = "plain", picture = (object?)null, place = "allOver", size = 20, strength = 80, inset = 0 }, 1)).EnsureSuccessStatusCode();
        foreach (var photos in club.Photos.Chunk(5))
        {
            var album = (await (await begins.PostAsJsonAsync("/api/albums", new { workingName = $"Begun with {photos.Length}" })).ReadAsync()).GetProperty("id").GetString();
            await (await begins.PostAsJsonAsync($"/api/albums/{album}/photos", new { photos })).ReadAsync();
            await (await begins.PublishAsync((await (await begins.PostAsJsonAsync("/api/pages", new { album })).ReadAsync()).GetProperty("id").GetString()!)).ReadAsync();
        }

        var (open, shut, marked, clean) = (0, 0, 0, 0);
        for (var round = 0; round < 6; round++)
        {
            for (var n = 0; n < 9; n++)
            {
                await club.DoAsync();
            }

            // As workers and damaged files make it.
            await site.WriteAsync($"update photo set state = '{(round % 2 == 0 ? "failed" : "ready")}', failure = 'x' where id = '{club.Photos[dice.Next(club.Photos.Count)]}'");
            await site.WriteAsync($"update photo set clearance = 'cleared', cleared_until = '2020-06-30' where id = '{club.Photos[dice.Next(club.Photos.Count)]}'");
            await MarkAsync(site, begins, dice, club.Groups);
            // A process of its own each time: what one decided a moment ago another has not kept.
            site.Process(0);
            var (visitor, holder, owner) = (site.Visitor(), site.Visitor(), await site.OwnerAsync());
            var holds = await HoldAsync(site, owner, holder, dice);
            var tables = await Tables.ReadAsync(site);
            var isOf = new HashSet<Guid> { AnyMember, club.Groups[0] };
            foreach (var (who, has) in ((HttpClient, IReadOnlySet<Guid>)[])[(visitor, new HashSet<Guid>()), (holder, holds), (await MemberSteps.MemberAsync(site, owner, $"Ada{round}", club.Groups[0]), isOf)])
            {
                await CheckAsync(who, has, tables);
            }

            // Staff who look as her find the same, and the list of those who can see a thing says the same of her.
            var ada = await MemberSteps.IdAsync(owner, $"Ada{round}");
            Assert.Equal(HttpStatusCode.SeeOther, (await owner.PostAsync("/site/as", new FormUrlEncodedContent(new Dictionary<string, string> { ["as"] = $"person-{ada}" }))).StatusCode);
            await CheckAsync(owner, isOf, tables, isSeenAs: true);
            await owner.PostAsync("/site/as/end", new FormUrlEncodedContent(new Dictionary<string, string> { ["to"] = "/" }));
            foreach (var photo in tables.Photos)
            {
                _ = tables.PagesOf(photo, holds) > 0 ? open++ : shut++;
                foreach (var seen in ((IReadOnlySet<Guid>[])[holds, isOf]).Where(h => tables.PagesOf(photo, h) > 0))
                {
                    _ = tables.IsMarked(photo, seen) ? marked++ : clean++;
                }

                Assert.Equal(HttpStatusCode.Unauthorized, (await visitor.GetAsync($"/api/photos/{photo.Id}")).StatusCode);
                Assert.False((await visitor.GetAsync($"/api/photos/{photo.Id}/original")).IsSuccessStatusCode);
                Assert.False((await visitor.GetAsync($"/api/photos/{photo.Id}/preview")).IsSuccessStatusCode);
                Assert.False((await holder.GetAsync($"/api/renditions/{photo.Hash}/{Renditions.Sheet}")).IsSuccessStatusCode);
                if (!photo.Binned)
                {
                    var plate = await (await owner.GetAsync($"/api/photos/{photo.Id}")).ReadAsync();
                    var pages = tables.PagesOf(photo, new HashSet<Guid>());
                    Same(pages > 0, plate.GetProperty("audience"), pages);
                    var viewers = await (await owner.GetAsync($"/api/viewers/photo/{photo.Id}?q=ada{round}")).ReadAsync();
                    Assert.Equal((pages > 0, tables.PagesOf(photo, isOf) > 0), (viewers.GetProperty("everyone").GetArrayLength() == 0, viewers.GetProperty("found").GetInt32() == 1));
                }
            }

            foreach (var album in tables.AlbumsHere)
            {
                var line = await (await owner.GetAsync($"/api/albums/{album}")).ReadAsync();
                var pages = tables.PagesOf(album, new HashSet<Guid>());
                Same(pages > 0, line.GetProperty("audience"), pages);
                var viewers = await (await owner.GetAsync($"/api/viewers/album/{album}?q=ada{round}&not=true")).ReadAsync();
                Assert.Equal(tables.PagesOf(album, isOf) == 0, viewers.GetProperty("found").GetInt32() == 1);
            }
        }

        Assert.True(open > 5 && shut > 5 && marked > 2 && clean > 2, $"{open} open, {shut} shut, {marked} with the watermark, {clean} without");
    }

    /// <summary>Says of some albums and categories who gets their photos without the watermark.</summary>
    static async Task MarkAsync(Site site, HttpClient owner, Random dice, IReadOnlyList<Guid> groups)
    {
        foreach (var kind in (string[])["album", "category"])
        {
            var things = (await site.ScalarAsync<Guid[]>($"select array(select id from {kind} where binned is null order by id)")).Where(_ => dice.Next(3) == 0).ToArray();
            foreach (var thing in things)
            {
                var who = ((string[])["everyone", "members", "chosen", "nobody"])[dice.Next(4)];
                var was = (await (await owner.GetAsync($"/api/markings/{kind}/{thing}")).ReadAsync()).GetProperty("marking").GetProperty("marking");
                var said = await owner.PutAsJsonAsync($"/api/markings/{kind}/{thing}", new { marking = new { who, chosen = who == "chosen" ? new[] { groups[dice.Next(groups.Count)] } : [] }, was });
                Assert.True(said.IsSuccessStatusCode, await said.Content.ReadAsStringAsync());
            }
        }
    }

    /// <summary>Lets a visitor in by links to some of what is only for holders.</summary>
    static async Task<HashSet<Guid>> HoldAsync(Site site, HttpClient owner, HttpClient visitor, Random dice)
    {
        await using var command = site.Db.CreateCommand(
            """
            select 'page' as kind, id from page where audience = 'Holders' and binned is null
            union all
            select 'album', id from album where audience = 'Holders' and binned is null
            union all
            select 'category', id from category where audience = 'Holders' and binned is null
             order by 2
            """);
        var things = new List<(string Kind, Guid Id)>();
        await using (var reader = await command.ExecuteReaderAsync())
        {
            while (await reader.ReadAsync())
            {
                things.Add((reader.GetString(0), reader.GetGuid(1)));
            }
        }

        var holds = new HashSet<Guid>();
        foreach (var (kind, id) in things.Where(_ => dice.Next(4) > 0))
        {
            var made = await owner.PostAsJsonAsync($"/api/audiences/{kind}/{id}/entries", new { name = "Somebody", kind = "link" });
            Assert.True(made.IsSuccessStatusCode, await made.Content.ReadAsStringAsync());
            var secret = (await (await owner.GetAsync($"/api/audiences/{kind}/{id}")).ReadAsync()).GetProperty("entries")[0].GetProperty("secret").GetString();
            Assert.Equal(HttpStatusCode.SeeOther, (await visitor.PostAsync($"/enter/{secret}", null)).StatusCode);
            holds.Add(id);
        }

        return holds;
    }

    /// <summary>All pages and pictures, asked for by a visitor who holds something or nothing.</summary>
    /// <param name="isSeenAs">By staff who look as they do: nothing of it is kept.</param>
    static async Task CheckAsync(HttpClient visitor, IReadOnlySet<Guid> holds, Tables tables, bool isSeenAs = false)
    {
        foreach (var page in tables.Pages.Where(p => !p.Binned))
        {
            var answer = await visitor.GetAsync($"/{page.Address}");
            var (isOpen, lets) = (tables.IsOpen(page), tables.LetsIn(page.Id, holds));
            var asks = tables.Audiences[page.Id] is { IsOn: true, Who: var whom } && (whom == "Holders" || (whom is "Members" or "Chosen" && !holds.Contains(AnyMember)));
            Assert.Equal(!isOpen ? HttpStatusCode.NotFound : lets ? HttpStatusCode.OK : asks ? HttpStatusCode.Forbidden : HttpStatusCode.NotFound, answer.StatusCode);
            var html = await answer.Content.ReadAsStringAsync();
            var view = await visitor.GetAsync($"/site/view/{page.Address}?width=900&lot=1");
            Assert.Equal(isOpen && lets, view.IsSuccessStatusCode);
            if (view.IsSuccessStatusCode)
            {
                Assert.Equal(tables.Photos.Count(photo => tables.On(photo, page, holds)), (await view.ReadAsync()).GetProperty("total").GetInt32());
            }

            foreach (var photo in tables.Photos)
            {
                Assert.Equal(tables.On(photo, page, holds), html.Contains(photo.Hash, StringComparison.Ordinal));
                // It is there by the one name that this visitor has for it, and by no other.
                Assert.Equal(tables.On(photo, page, holds), html.Contains($"/i/{tables.PictureOf(photo, holds)}/", StringComparison.Ordinal));
                Assert.DoesNotContain(tables.IsMarked(photo, holds) ? $"/i/{photo.Hash}/" : $"{photo.Hash}-w", html, StringComparison.Ordinal);
            }
        }

        foreach (var photo in tables.Photos)
        {
            var (sees, everyone) = (tables.PagesOf(photo, holds) > 0, tables.PagesOf(photo, new HashSet<Guid>()) > 0);
            var (own, all) = (tables.PictureOf(photo, holds), tables.PictureOf(photo, new HashSet<Guid>()));
            var rendition = await visitor.GetAsync($"/i/{own}/{Renditions.Recipe}-{Renditions.Sheet}.webp");
            Assert.Equal(sees ? HttpStatusCode.OK : HttpStatusCode.NotFound, rendition.StatusCode);
            if (own != photo.Hash)
            {
                Assert.Equal(HttpStatusCode.NotFound, (await visitor.GetAsync($"/i/{photo.Hash}/{Renditions.Recipe}-{Renditions.Sheet}.webp")).StatusCode);
            }

            everyone &= own == all;
            Assert.Equal(everyone && !isSeenAs, rendition.Headers.CacheControl?.Public ?? false);
            Assert.True((everyone && !isSeenAs) || rendition.Headers.CacheControl?.NoStore == true, "a picture that not everyone may see is kept");
        }
    }

    /// <summary>The line says what was decided, and on how many pages.</summary>
    static void Same(bool everyone, JsonElement line, int pages)
    {
        Assert.Equal(everyone, line.GetProperty("everyone").GetBoolean());
        var sentence = line.GetProperty("sentence").GetString()!;
        Assert.Equal(everyone, sentence.StartsWith("Everyone can see this", StringComparison.Ordinal));
        Assert.True(!everyone || sentence.Contains(pages == 1 ? "on one page" : $"on {pages} pages", StringComparison.Ordinal), $"{pages}: {sentence}");
    }
}
