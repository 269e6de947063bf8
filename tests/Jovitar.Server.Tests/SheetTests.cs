using System.Text.Json;
using Jovitar.Core.Narrowings;

namespace Jovitar.Server.Tests;

/// <summary>The sheet under every narrowing and order, against a naive evaluation over all photos.</summary>
public sealed class SheetTests
{
    sealed record Photo(string Id, string Name, string Title, string Caption, DateTime Taken, DateTimeOffset Arrived, string[] Tags, string[] Categories, Dictionary<string, long> Albums, bool Binned, string Decision, string Alt, bool HasTaken)
    {
        /// <summary>Its words in small letters without accents, for the few that these photos have.</summary>
        public string[] Words => $"{Title} {Caption} {Alt} {Name} {string.Join(' ', Tags)}".ToLowerInvariant().Replace('å', 'a').Replace('ö', 'o').Split([' ', '_', '.', '%'], StringSplitOptions.RemoveEmptyEntries);
    }

    const string Fill =
        """
        insert into photo (id, hash, file_name, media_type, bytes, own_width, own_height, arrived, state, stage, title, caption, alt, taken, decision, binned)
        select gen_random_uuid(), sha256(g::text::bytea), (array['IMG','img','Dsc','scan','Ångström'])[g % 5 + 1] || '_' || g % 90 || '.jpg', 'image/jpeg', 1, 3, 2, now() - make_interval(mins => g % 70), 'ready', 2,
               case when g % 4 = 0 then '' else (array['Pier','Wind','100% kite','Under_score'])[g % 4 + 1] || ' ' || g end, case when g % 3 = 0 then 'a quiet pier' else '' end, case when g % 6 = 0 then '' else 'seen' end,
               case when g % 7 = 0 then null else timestamp '2024-03-01' + make_interval(hours => g % 50) end, case when g % 11 = 0 then 'leave_out' else '' end, case when g % 13 = 0 then now() end
          from generate_series(1, 400) as g;
        insert into tag (id, name, key) select gen_random_uuid(), 'tag ' || g, 'tag ' || g from generate_series(1, 4) as g;
        insert into photo_tag (photo, tag) select p.id, t.id from photo as p join tag as t on abs(hashtext(p.id::text || t.name)) % 5 = 0 where p.binned is null;
        update photo as p set tag_words = coalesce((select string_agg(t.name, ' ' order by t.key) from photo_tag as pt join tag as t on t.id = pt.tag where pt.photo = p.id), '');
        insert into category (id, name, place) select gen_random_uuid(), 'Category ' || g, g from generate_series(1, 3) as g;
        insert into category (id, parent, name, place) select gen_random_uuid(), id, name || ' beneath', 1 from category;
        insert into photo_category (photo, category) select p.id, c.id from photo as p join category as c on abs(hashtext(p.id::text || c.name)) % 6 = 0 where p.binned is null;
        insert into album (id, working_name, made) select gen_random_uuid(), 'Album ' || g, now() from generate_series(1, 2) as g;
        insert into album_photo (album, photo, place) select a.id, p.id, (abs(hashtext(p.id::text)) % 60)::bigint << 32 from photo as p join album as a on abs(hashtext(p.id::text || a.working_name)) % 3 = 0 where p.binned is null;
        """;

    static async Task<List<Photo>> ReadAsync(Site site)
    {
        await using var command = site.Db.CreateCommand(
            """
            select p.id::text, p.file_name, p.title, p.caption, coalesce(p.taken, p.arrived at time zone 'UTC'), p.arrived,
                   array(select t.name from photo_tag as pt join tag as t on t.id = pt.tag where pt.photo = p.id),
                   array(select pc.category::text from photo_category as pc where pc.photo = p.id),
                   coalesce((select jsonb_object_agg(ap.album, ap.place) from album_photo as ap where ap.photo = p.id), '{}')::text, p.binned is not null, p.decision, p.alt, p.taken is not null
              from photo as p
            """);
        var all = new List<Photo>();
        await using var r = await command.ExecuteReaderAsync();
        while (await r.ReadAsync())
        {
            all.Add(new Photo(
                r.GetString(0), r.GetString(1), r.GetString(2), r.GetString(3), r.GetDateTime(4), r.GetFieldValue<DateTimeOffset>(5), r.GetFieldValue<string[]>(6), r.GetFieldValue<string[]>(7),
                JsonSerializer.Deserialize<Dictionary<string, long>>(r.GetString(8))!, r.GetBoolean(9), r.GetString(10), r.GetString(11), r.GetBoolean(12)));
        }

        return all;
    }

    /// <summary>How PostgreSQL orders ids: by their bytes, which is how they are written.</summary>
    static int ById(Photo a, Photo b) => string.CompareOrdinal(a.Id, b.Id);

    [Theory]
    [InlineData(41)]
    [InlineData(42)]
    public async Task Windows_neighbours_and_spans_are_what_a_naive_evaluation_gives(int seed)
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        await site.WriteAsync(Fill);
        var all = await ReadAsync(site);
        var dice = new Random(seed);
        T Any<T>(IReadOnlyList<T> things) => things[dice.Next(things.Count)];
        async Task<JsonElement> GetAsync(string address) => await (await owner.GetAsync(address)).ReadAsync();
        var tags = (await GetAsync("/api/tags")).GetProperty("tags").EnumerateArray().Select(t => (Id: t.GetProperty("id").GetString()!, Name: t.GetProperty("name").GetString()!)).ToArray();
        var categories = (await GetAsync("/api/categories")).GetProperty("categories").EnumerateArray().Select(c => (Id: c.GetProperty("id").GetString()!, Parent: c.GetProperty("parent").GetString())).ToArray();
        var albums = (await GetAsync("/api/albums")).GetProperty("albums").EnumerateArray().Select(a => a.GetProperty("id").GetString()!).ToArray();
        for (var round = 0; round < 40; round++)
        {
            var asked = new List<string>();
            var wanted = all.Where(p => !p.Binned);
            void Narrow(string by, Func<Photo, bool> fits)
            {
                asked.Add(by);
                wanted = wanted.Where(fits);
            }

            if (dice.Next(3) == 0)
            {
                var words = Any(["pier", "WIND", "100%", "under_", "img 1", "tag 2", "quiet a", "ångström", "angstr", "%", "_", "\\", "nowhere"]);
                Narrow($"q={Uri.EscapeDataString(words)}", p => words.ToLowerInvariant().Replace('å', 'a').Replace('ö', 'o').Split([' ', '%', '_', '\\'], StringSplitOptions.RemoveEmptyEntries).All(w => p.Words.Any(one => one.StartsWith(w, StringComparison.Ordinal))));
            }

            if (dice.Next(3) == 0)
            {
                var tag = Any(tags);
                Narrow($"tag={tag.Id}", p => p.Tags.Contains(tag.Name));
            }

            if (dice.Next(3) == 0)
            {
                var category = Any(categories);
                var beneath = categories.Where(c => c.Id == category.Id || c.Parent == category.Id).Select(c => c.Id).ToArray();
                Narrow($"category={category.Id}", p => p.Categories.Any(beneath.Contains));
            }

            var album = dice.Next(3) == 0 ? Any(albums) : null;
            if (album is not null)
            {
                Narrow($"album={album}", p => p.Albums.ContainsKey(album));
            }

            if (dice.Next(3) == 0)
            {
                var (says, fits) = Any<(string, Func<Photo, bool>)>([
                    ("missing=title", p => p.Title.Length == 0), ("missing=title,alt", p => p.Title.Length == 0 || p.Alt.Length == 0), ("notMissing=alt", p => p.Alt.Length > 0),
                    ("notAlbum=none", p => p.Albums.Count > 0), ("notTag=none", p => p.Tags.Length > 0), ("decision=leave_out", p => p.Decision == "leave_out"), ("decision=none,keep", p => p.Decision.Length == 0),
                    ("notTaken=none", p => p.HasTaken), ("taken=2024-03-02", p => p.HasTaken && p.Taken.Day == 2), ("taken=2024-03-01--2024-03", p => p.HasTaken)]);
                Narrow(says, fits);
            }

            var sort = Any<string>(album is null ? ["taken", "arrived", "name"] : ["taken", "arrived", "name", "place"]);
            var reversed = dice.Next(2) == 0;
            asked.Add($"sort={sort}&reversed={(reversed ? "true" : "false")}");
            Comparison<Photo> by = sort switch
            {
                "taken" => (a, b) => a.Taken.CompareTo(b.Taken),
                "arrived" => (a, b) => a.Arrived.CompareTo(b.Arrived),
                "name" => (a, b) => string.CompareOrdinal(a.Name.ToLowerInvariant(), b.Name.ToLowerInvariant()),
                _ => (a, b) => a.Albums[album!].CompareTo(b.Albums[album!]),
            };
            var down = sort is "taken" or "arrived" != reversed;
            var expected = wanted.ToList();
            expected.Sort((a, b) => (by(a, b) is not 0 and var c ? c : ById(a, b)) * (down ? -1 : 1));
            var ids = expected.Select(p => p.Id).ToArray();
            var query = string.Join('&', asked);

            var found = new List<string>();
            for (var at0 = 0; at0 == 0 || at0 < ids.Length; at0 += 120)
            {
                var window = await GetAsync($"/api/photos?{query}&at={at0}");
                Assert.True(ids.Length == window.GetProperty("total").GetInt32(), query);
                found.AddRange(window.GetProperty("photos").EnumerateArray().Select(p => p.GetProperty("id").GetString()!));
            }

            Assert.True(ids.SequenceEqual(found), $"{query}: {found.Count} of {ids.Length}");
            Assert.Equal(ids.Length, (await GetAsync($"/api/photos/counts?{query}")).GetProperty("total").GetInt32());
            if (ids.Length < 2)
            {
                continue;
            }

            var at = dice.Next(ids.Length);
            var neighbours = await GetAsync($"/api/photos/{ids[at]}/neighbours?{query}");
            Assert.Equal(at > 0 ? ids[at - 1] : null, neighbours.GetProperty("before").GetString());
            Assert.Equal(at < ids.Length - 1 ? ids[at + 1] : null, neighbours.GetProperty("after").GetString());
            Assert.Equal((at + 1, ids.Length), (neighbours.GetProperty("position").GetInt32(), neighbours.GetProperty("total").GetInt32()));
            var to = dice.Next(ids.Length);
            var span = (await GetAsync($"/api/photos/between?{query}&one={ids[at]}&other={ids[to]}")).GetProperty("photos").EnumerateArray().Select(p => p.GetString()).ToArray();
            Assert.Equal(ids[Math.Min(at, to)..(Math.Max(at, to) + 1)], span);
        }
    }

    /// <summary>All that the index is to know of a photo, read naively.</summary>
    const string Truth =
        """
        select p.id, p.title, p.decision, p.binned is null,
               array(select tag from photo_tag where photo = p.id order by 1), array(select category from photo_category where photo = p.id order by 1), array(select album from album_photo where photo = p.id order by 1)
          from photo as p
        """;

    [Theory]
    [InlineData(7)]
    [InlineData(8)]
    public async Task Whatever_people_do_every_process_finds_what_the_tables_hold(int seed)
    {
        await using var site = await Site.StartAsync(workers: 0);
        var club = await Club.GatherAsync(site, seed);
        var other = site.Process(workers: 0);
        var here = await site.OwnerAsync();
        var dice = new Random(seed);
        for (var round = 0; round < 40; round++)
        {
            // Sometimes several at the same moment, and a transaction that stays open while others go by.
            await using var open = await site.Db.OpenConnectionAsync();
            await using var transaction = dice.Next(3) == 0 ? await open.BeginTransactionAsync() : null;
            if (transaction is not null)
            {
                await using var write = open.CreateCommand();
                write.CommandText = $"select set_config('jovitar.act', gen_random_uuid()::text, true); update photo set title = 'Late {round}' where id = '{club.Photos[dice.Next(club.Photos.Count)]}'";
                await write.ExecuteNonQueryAsync();
            }

            var doing = Task.WhenAll(Enumerable.Range(0, 1 + dice.Next(3)).Select(n => club.Others((seed * 1000) + (round * 10) + n).DoAsync()));
            await here.GetAsync("/api/photos");
            if (transaction is not null)
            {
                await Task.Delay(20);
                await transaction.CommitAsync();
            }

            await doing;
            var tree = new Dictionary<Guid, Guid?>();
            await using (var read = site.Db.CreateCommand("select id, parent from category where binned is null"))
            await using (var rows = await read.ExecuteReaderAsync())
            {
                while (await rows.ReadAsync())
                {
                    tree[rows.GetGuid(0)] = await rows.IsDBNullAsync(1) ? null : rows.GetGuid(1);
                }
            }

            bool Beneath(Guid category, Guid above)
            {
                for (Guid? at = category; at is { } id; at = tree.GetValueOrDefault(id))
                {
                    if (id == above)
                    {
                        return true;
                    }
                }

                return false;
            }

            var all = new List<(Guid Id, string Title, string Decision, bool Here, Guid[] Tags, Guid[] Categories, Guid[] Albums)>();
            await using (var read = site.Db.CreateCommand(Truth))
            await using (var rows = await read.ExecuteReaderAsync())
            {
                while (await rows.ReadAsync())
                {
                    all.Add((rows.GetGuid(0), rows.GetString(1), rows.GetString(2), rows.GetBoolean(3), rows.GetFieldValue<Guid[]>(4), rows.GetFieldValue<Guid[]>(5), rows.GetFieldValue<Guid[]>(6)));
                }
            }

            all.RemoveAll(p => !p.Here);
            foreach (var keeper in (Narrowings.IndexKeeper[])[site.Part<Narrowings.IndexKeeper>(), (Narrowings.IndexKeeper)other.Services.GetService(typeof(Narrowings.IndexKeeper))!])
            {
                var index = await keeper.CurrentAsync(CancellationToken.None);
                void Same(PartKind kind, string choice, Func<(Guid Id, string Title, string Decision, bool Here, Guid[] Tags, Guid[] Categories, Guid[] Albums), bool> fits) => Assert.Equal(
                    all.Where(fits).Select(p => p.Id).Order(),
                    index.Window(new Narrowing("", [new NarrowingPart(kind, false, [choice])]), SheetSort.Taken, false, 0, 1000).Photos.Order());
                Assert.Equal(all.Select(p => p.Id).Order(), index.Window(Narrowing.Nothing, SheetSort.Name, false, 0, 1000).Photos.Order());
                Same(PartKind.Missing, "title", p => p.Title.Length == 0);
                Same(PartKind.Decision, "keep", p => p.Decision == "keep");
                foreach (var tag in all.SelectMany(p => p.Tags).Distinct())
                {
                    Same(PartKind.Tag, $"{tag}", p => p.Tags.Contains(tag));
                }

                foreach (var category in tree.Keys)
                {
                    Same(PartKind.Category, $"{category}", p => p.Categories.Any(c => Beneath(c, category)));
                }

                foreach (var album in all.SelectMany(p => p.Albums).Distinct())
                {
                    Same(PartKind.Album, $"{album}", p => p.Albums.Contains(album));
                }
            }
        }
    }

    [Fact]
    public async Task While_a_transaction_stays_open_what_others_did_is_taken_in_once_and_what_it_did_in_the_end()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        await site.WriteAsync(Fill);
        var keeper = site.Part<Narrowings.IndexKeeper>();
        var first = await keeper.CurrentAsync(CancellationToken.None);
        await using var open = await site.Db.OpenConnectionAsync();
        await using var transaction = await open.BeginTransactionAsync();
        await using (var write = open.CreateCommand())
        {
            write.CommandText = "select set_config('jovitar.act', gen_random_uuid()::text, true); update photo set title = 'Slowly written' where id = (select min(id::text)::uuid from photo where binned is null)";
            await write.ExecuteNonQueryAsync();
        }

        // So much was changed that all is to be read anew: that is done once, however long the other takes.
        await site.WriteAsync("insert into photo_touched (photo) values (null)");
        var second = await keeper.CurrentAsync(CancellationToken.None);
        Assert.NotSame(first, second);
        await site.WriteAsync("update photo set title = 'Quickly written' where id = (select max(id::text)::uuid from photo where binned is null)");
        Assert.Equal((0, 1), await CountAsync());
        await transaction.CommitAsync();
        Assert.Equal((1, 1), await CountAsync());
        Assert.Same(second, await keeper.CurrentAsync(CancellationToken.None));
        Assert.NotNull(owner);

        async Task<(int, int)> CountAsync()
        {
            var index = await keeper.CurrentAsync(CancellationToken.None);
            Assert.Same(second, index);
            return (index.Count(new Narrowing("slowly", [])), index.Count(new Narrowing("quickly", [])));
        }
    }
}
