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

    sealed record PageRow(string Address, Guid Album, bool Published, bool Binned);

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
            await EachAsync("select address, album, published is not null, binned is not null from page", r => all.Pages.Add(new PageRow(r.GetString(0), r.GetGuid(1), r.GetBoolean(2), r.GetBoolean(3))));
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

        public bool On(Row photo, PageRow page) => IsOpen(page) && !OutOfView.Contains(page.Album) && MayStand(photo) && Albums.GetValueOrDefault(page.Album, []).Contains(photo.Id);
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
        foreach (var photos in club.Photos.Chunk(5))
        {
            var album = (await (await begins.PostAsJsonAsync("/api/albums", new { workingName = $"Begun with {photos.Length}" })).ReadAsync()).GetProperty("id").GetString();
            await (await begins.PostAsJsonAsync($"/api/albums/{album}/photos", new { photos })).ReadAsync();
            await (await begins.PublishAsync((await (await begins.PostAsJsonAsync("/api/pages", new { album })).ReadAsync()).GetProperty("id").GetString()!)).ReadAsync();
        }

        var (open, shut) = (0, 0);
        for (var round = 0; round < 6; round++)
        {
            for (var n = 0; n < 9; n++)
            {
                await club.DoAsync();
            }

            // As workers and damaged files make it.
            await site.WriteAsync($"update photo set state = '{(round % 2 == 0 ? "failed" : "ready")}', failure = 'x' where id = '{club.Photos[dice.Next(club.Photos.Count)]}'");
            await site.WriteAsync($"update photo set clearance = 'cleared', cleared_until = '2020-06-30' where id = '{club.Photos[dice.Next(club.Photos.Count)]}'");
            // A process of its own each time: what one decided a moment ago another has not kept.
            site.Process(0);
            var (visitor, owner) = (site.Visitor(), await site.OwnerAsync());
            var tables = await Tables.ReadAsync(site);
            foreach (var page in tables.Pages.Where(p => !p.Binned))
            {
                var answer = await visitor.GetAsync($"/{page.Address}");
                Assert.Equal(tables.IsOpen(page) ? HttpStatusCode.OK : HttpStatusCode.NotFound, answer.StatusCode);
                var html = await answer.Content.ReadAsStringAsync();
                var view = await visitor.GetAsync($"/site/view/{page.Address}?width=900&lot=1");
                Assert.Equal(tables.IsOpen(page), view.IsSuccessStatusCode);
                if (view.IsSuccessStatusCode)
                {
                    Assert.Equal(tables.Photos.Count(photo => tables.On(photo, page)), (await view.ReadAsync()).GetProperty("total").GetInt32());
                }

                foreach (var photo in tables.Photos)
                {
                    Assert.Equal(tables.On(photo, page), html.Contains(photo.Hash, StringComparison.Ordinal));
                }
            }

            foreach (var photo in tables.Photos)
            {
                var everyone = tables.Pages.Any(page => tables.On(photo, page));
                _ = everyone ? open++ : shut++;
                var rendition = await visitor.GetAsync($"/i/{photo.Hash}/{Renditions.Recipe}-{Renditions.Sheet}.webp");
                Assert.Equal(everyone ? HttpStatusCode.OK : HttpStatusCode.NotFound, rendition.StatusCode);
                Assert.Equal(everyone, rendition.Headers.CacheControl?.Public ?? false);
                Assert.Equal(HttpStatusCode.Unauthorized, (await visitor.GetAsync($"/api/photos/{photo.Id}")).StatusCode);
                Assert.False((await visitor.GetAsync($"/api/photos/{photo.Id}/original")).IsSuccessStatusCode);
                Assert.False((await visitor.GetAsync($"/api/photos/{photo.Id}/preview")).IsSuccessStatusCode);
                Assert.False((await visitor.GetAsync($"/api/renditions/{photo.Hash}/{Renditions.Sheet}")).IsSuccessStatusCode);
                if (!photo.Binned)
                {
                    var plate = await (await owner.GetAsync($"/api/photos/{photo.Id}")).ReadAsync();
                    Same(everyone, plate.GetProperty("audience"), tables.Pages.Count(page => tables.On(photo, page)));
                }
            }

            foreach (var album in tables.AlbumsHere)
            {
                var line = await (await owner.GetAsync($"/api/albums/{album}")).ReadAsync();
                var pages = tables.OutOfView.Contains(album) ? 0 : tables.Pages.Count(p => p.Album == album && tables.IsOpen(p));
                Same(pages > 0, line.GetProperty("audience"), pages);
            }
        }

        Assert.True(open > 5 && shut > 5, $"{open} open, {shut} shut");
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
