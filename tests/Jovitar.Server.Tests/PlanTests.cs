using System.Collections.Concurrent;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.RegularExpressions;
using Jovitar.Core;
using Jovitar.Core.Favourites;
using Jovitar.Core.Photos;
using Jovitar.Imaging.Writing;
using Microsoft.Extensions.Logging;
using Npgsql;

namespace Jovitar.Server.Tests;

/// <summary>What requests read of large tables, by the plans that PostgreSQL itself says it ran.</summary>
public sealed partial class PlanTests
{
    /// <summary>Twenty thousand photos in categories, tags, albums and an intake, with what was done to them.</summary>
    const string Fill =
        """
        insert into photo (id, hash, file_name, media_type, bytes, own_width, own_height, arrived, state, stage, title, taken, look)
        select gen_random_uuid(), sha256(g::text::bytea), g || '.jpg', 'image/jpeg', 1, 3, 2, now() - make_interval(secs => g), 'ready', 2,
               case when g % 50 = 0 then '' else 'Title ' || g end, timestamp '2020-01-01' + make_interval(mins => g), ('x' || substr(md5(g::text), 1, 16))::bit(64)::bigint
          from generate_series(1, 20000) as g;
        insert into tag (id, name, key) select gen_random_uuid(), 'tag ' || g, 'tag ' || g from generate_series(1, 3000) as g;
        insert into category (id, name, place) select gen_random_uuid(), 'Category ' || g, g from generate_series(1, 400) as g;
        insert into photo_tag (photo, tag) select p.id, t.id from (select id, row_number() over (order by id) as n from photo) as p join (select id, row_number() over (order by id) as n from tag) as t on t.n = p.n % 3000 + 1;
        insert into photo_category (photo, category) select p.id, c.id from (select id, row_number() over (order by id) as n from photo) as p join (select id, row_number() over (order by id) as n from category) as c on c.n = p.n % 400 + 1;
        insert into intake (id, begun, begun_by) select gen_random_uuid(), now() - make_interval(hours => g), 'Odile' from generate_series(1, 400) as g;
        insert into intake_file (intake, file_name, photo, outcome, came) select i.id, p.file_name, p.id, 'arrived', now() from (select id, file_name, row_number() over (order by id) as n from photo) as p join (select id, row_number() over (order by id) as n from intake) as i on i.n = p.n % 400 + 1;
        insert into file (id, hash, file_name, kind, media_type, bytes, arrived) select gen_random_uuid(), sha256(('f' || g)::bytea), g || '.pdf', 'pdf', 'application/pdf', 1, now() - make_interval(secs => g) from generate_series(1, 5000) as g;
        insert into album_photo (album, photo, place) select a.id, p.id, p.n << 32 from (select id, row_number() over (order by id) as n from photo) as p join (select id, row_number() over (order by id) as n from album) as a on a.n = p.n % 60 + 1;
        insert into sidecar (intake, path, beside, words, tags, people, came) select i.id, '', g || '', '{}', '{}', '{}', now() from intake as i cross join generate_series(1, 50) as g;
        with numbered as (select id, row_number() over (order by id) as n from photo) insert into photo_near (photo, near, distance, settled) select p.id, q.id, 3, true from numbered as p join numbered as q on q.n = p.n - 1 where p.n % 3 > 0;
        insert into act (id, made, who, kind, sentence, photos, lead) select gen_random_uuid(), now() - make_interval(mins => n::int), 'Odile', 'Words', 'Wrote.', 1, id from (select id, row_number() over (order by id) as n from photo) as p;
        insert into act_change (act, kind, thing, before, after) select id, 'photo', lead, '{"title": ""}', '{"title": "x"}' from act where lead is not null;
        update album set has_comments = true, has_ratings = true;
        update watermark set key = '0123456789abcdef', settings = settings || '{"words": "Marram"}';
        update album set unmarked = 'Nobody' where id in (select id from album order by id limit 30);
        update category set unmarked = 'Members' where id in (select id from category order by id limit 30);
        insert into comment (id, photo, name, words, said, state)
        select gen_random_uuid(), p.id, 'Ines', 'Fine ' || g, now() - make_interval(mins => g), case when g % 40 = 0 then 'Waiting' when g % 3 = 0 then 'Refused' else 'Shown' end
          from (select id, row_number() over (order by id) as n from photo) as p join generate_series(1, 30000) as g on p.n = g % 20000 + 1;
        insert into account (id, email, email_key, name, role, password_hash, made)
        select gen_random_uuid(), g || '@example.test', g || '@example.test', 'Member ' || g, 'Member', '', now() from generate_series(1, 2000) as g;
        insert into choice (id, album, account, name, changed, sent)
        select gen_random_uuid(), a.id, m.id, m.name, now(), case when random() < 0.3 then now() end
          from (select id from album order by id limit 10) as a cross join (select id, name from account where role = 'Member') as m;
        insert into access_record (id, at, what, kind, thing, account, network)
        select gen_random_uuid(), now() - make_interval(secs => g), case when g % 3 = 0 then 'Saved' when g % 5 = 0 then 'Refused' else 'Opened' end, 'album', a.id, m.id, ''
          from (select id, row_number() over (order by id) as n from account where role = 'Member') as m join generate_series(1, 40000) as g on m.n = g % 2000 + 1
         cross join (select id from album order by id limit 1) as a;
        insert into visitor_rating (photo, visitor, value) select p.id, sha256(g::text::bytea), 1 + g % 5 from photo as p cross join generate_series(1, 2) as g;
        insert into sale_order (id, number, secret, basket, placed, name, email, content, currency, total, things, delivery, state, paid)
        select gen_random_uuid(), g, sha256(('o' || g)::bytea), gen_random_uuid(), now() - make_interval(mins => g), 'Buyer', 'b@example.test', '{}', 'EUR', 100, 1, 'Post',
               case when g % 200 = 0 then 'Placed' else 'Sent' end, case when g % 150 <> 0 then now() end
          from generate_series(1, 20000) as g;
        insert into sale_order_line (sale_order, place, photo, option)
        select o.id, 1, p.id, gen_random_uuid() from sale_order as o join (select id, row_number() over (order by id) as n from photo) as p on p.n = o.number;
        insert into coupon_use (coupon, sale_order)
        select c.id, o.id from sale_order as o cross join (select id from coupon limit 1) as c where o.number % 2 = 0;
        insert into basket (id, secret, changed) select gen_random_uuid(), sha256(('b' || g)::bytea), now() from generate_series(1, 20000) as g;
        insert into basket_line (id, basket, album, photo, option, count, added)
        select gen_random_uuid(), b.id, (select min(id::text)::uuid from album), (select min(id::text)::uuid from photo), gen_random_uuid(), 1, now() from basket as b;
        update shop
           set is_open = true, settings = settings || '{"payment": "Pay."}'
               || jsonb_build_object('postage', settings -> 'postage' || '{"home": "IE", "collected": "Here."}');
        """;

    /// <summary>Tables so large that nobody may wait while they are read from end to end.</summary>
    static readonly string[] Large = ["photo", "photo_tag", "photo_category", "album_photo", "intake_file", "act", "act_change", "file", "sidecar", "photo_near", "comment", "visitor_rating", "choice", "access_record", "sale_order", "sale_order_line", "basket", "basket_line"];

    /// <summary>Requests that ask about all there is and still count it; each is named with what it counts.</summary>
    static readonly Dictionary<string, string> Counting = new()
    {
        ["/api/desk"] = "what waits",
        ["/api/desk/figures"] = "what waits",
        ["/api/tags"] = "photos of each tag",
        ["/api/categories"] = "photos of each category and of those beneath it",
        ["/api/albums"] = "photos of each album",
    };

    /// <summary>A large site whose every statement says by which plan it ran (auto_explain, PostgreSQL's own), as notices that the driver logs.</summary>
    sealed class Explained(Site site, HttpClient owner, Explained.Log log) : IAsyncDisposable
    {
        public Site Site => site;

        public HttpClient Owner => owner;

        public static async Task<Explained> StartAsync()
        {
            var site = await Site.StartAsync(process: false);
            var log = new Log();
            const string Options = "-c session_preload_libraries=auto_explain -c auto_explain.log_min_duration=0 -c auto_explain.log_nested_statements=on -c auto_explain.log_level=notice";
            site.Process(0, db: () =>
            {
                var builder = new NpgsqlDataSourceBuilder($"{site.Connection};Options={Options}");
                builder.UseLoggerFactory(LoggerFactory.Create(l => l.SetMinimumLevel(LogLevel.Debug).AddProvider(log)));
                return builder.Build();
            });
            var owner = await site.OwnerAsync();
            for (var n = 0; n < 60; n++)
            {
                await (await owner.PostAsJsonAsync("/api/albums", new { workingName = $"Album {n}" })).ReadAsync();
            }

            await BuyingSteps.CouponAsync(owner, BuyingSteps.Coupon(isOnceEach: true));
            await site.WriteAsync(Fill);
            await using var analyze = site.Db.CreateCommand("vacuum analyze");
            await analyze.ExecuteNonQueryAsync();
            return new Explained(site, owner, log);
        }

        /// <summary>The large tables that are read from end to end while something is done, each with the statement.</summary>
        public async Task<string[]> ReadWholeAsync(Func<Task> work)
        {
            log.Plans.Clear();
            await work();
            Assert.NotEmpty(log.Plans);
            return
            [
                .. log.Plans.SelectMany(plan => WholeTable().Matches(plan).Select(m => m.Groups[1].Value).Where(Large.Contains).Select(t => $"all of {t} in {Spaces().Replace(plan[..Math.Min(plan.Length, 160)], " ")}")).Distinct(),
            ];
        }

        public ValueTask DisposeAsync() => site.DisposeAsync();

        public sealed class Log : ILoggerProvider, ILogger
        {
            public ConcurrentQueue<string> Plans { get; } = new();

            public ILogger CreateLogger(string categoryName) => this;

            public IDisposable? BeginScope<TState>(TState state)
                where TState : notnull => null;

            public bool IsEnabled(LogLevel logLevel) => true;

            void ILogger.Log<TState>(LogLevel logLevel, EventId eventId, TState state, Exception? exception, Func<TState, Exception?, string> formatter)
            {
                if (formatter(state, exception) is var text && text.Contains("plan:", StringComparison.Ordinal) && text.IndexOf("Query Text:", StringComparison.Ordinal) is >= 0 and var at)
                {
                    Plans.Enqueue(text[at..]);
                }
            }

            public void Dispose()
            {
            }
        }
    }

    [GeneratedRegex(@"Seq Scan on (\w+)")]
    private static partial Regex WholeTable();

    [GeneratedRegex(@"[0-9a-f-]{36}")]
    private static partial Regex Id();

    [GeneratedRegex(@"\s+")]
    private static partial Regex Spaces();

    [Fact]
    public async Task No_request_reads_a_large_table_from_end_to_end()
    {
        await using var explained = await Explained.StartAsync();
        var (site, owner) = (explained.Site, explained.Owner);
        var page = await (await owner.PostAsJsonAsync("/api/pages", new { album = await site.ScalarAsync<Guid>("select min(album::text)::uuid from album_photo") })).ReadAsync();
        await (await owner.PublishAsync(page.GetProperty("id").GetString()!)).ReadAsync();
        async Task<string> OneAsync(string sql) => await site.ScalarAsync<string>(sql);
        var photo = await OneAsync("select id::text from photo where file_name = '777.jpg'");
        var other = await OneAsync("select id::text from photo where file_name = '790.jpg'");
        var (tag, category) = (await OneAsync("select id::text from tag where name = 'tag 7'"), await OneAsync("select id::text from category where name = 'Category 7'"));
        var (album, intake) = (page.GetProperty("album").GetString(), await OneAsync("select id::text from intake order by begun limit 1"));
        var address = page.GetProperty("address").GetString();
        await site.WriteAsync("update site set has_favourites = true");
        var shown = (await OneAsync($"select string_agg(photo::text, ' ') from (select photo from album_photo where album = '{album}' order by place limit 60) as first")).Split(' ');
        string[] asked =
        [
            "/api/photos?sort=taken", "/api/photos?sort=name", "/api/photos?sort=arrived", "/api/photos?q=Title%20777", $"/api/photos?tag={tag}", $"/api/photos?category={category}", $"/api/photos?album={album}&sort=place",
            $"/api/photos/{photo}", $"/api/photos/{photo}/neighbours", $"/api/photos/{photo}/history", $"/api/photos/between?one={photo}&other={other}", "/api/acts", "/api/bin", "/api/repeats", $"/api/repeats/{photo}", "/api/pages",
            $"/api/albums/{album}", $"/api/albums/{album}/photos/without", "/api/intakes", $"/api/intakes/{intake}", $"/api/intakes/{intake}/files", $"/api/intakes/{intake}/photos", $"/api/intakes/{intake}/taking-back", "/api/files", "/api/tags", "/api/tags?typed=tag",
            "/api/categories", "/api/albums", "/api/orders", "/api/orders?which=unpaid", "/api/orders?which=all", "/api/orders?which=all&q=nobody%20else", "/api/sold?year=2025", "/api/coupons", "/basket", $"/buy/several/{MarkedPhotos.Of([.. shown.Select(p => new PhotoId(Guid.Parse(p)))]).Address}", "/api/desk", "/api/desk/figures", "/api/photos?sort=title&at=600", $"/api/photos/counts?notTag={tag}&taken=2026", "/api/session", "/api/account", "/api/comments", "/api/comments?state=shown", "/api/comments?state=refused", $"/{address}/photo/{shown[0]}", $"/favourites/{Core.Favourites.MarkedPhotos.Of([.. shown.Select(s => new Core.PhotoId(Guid.Parse(s)))]).Address}",
            "/api/records", "/api/records?what=saved", "/api/records?what=refused", $"/api/records?member={await OneAsync("select account::text from access_record limit 1")}", "/api/choices", $"/api/choices?album={await OneAsync("select album::text from choice limit 1")}", $"/api/albums/{await OneAsync("select album::text from choice limit 1")}/choices",
            $"/{address}", $"/site/view/{address}?width=1200", $"/api/renditions/{new string('a', 64)}/480",
        ];
        // The index is read once, from end to end.
        await (await owner.GetAsync("/api/photos")).ReadAsync();
        var faults = new List<string>();
        foreach (var path in asked)
        {
            // Twice: a statement that comes again may get another plan.
            var read = await explained.ReadWholeAsync(async () =>
            {
                for (var n = 0; n < 2; n++)
                {
                    Assert.True((await owner.GetAsync(path)).StatusCode is HttpStatusCode.OK or HttpStatusCode.NotFound, path);
                }
            });
            faults.AddRange(read.Where(_ => !Counting.ContainsKey(Id().Replace(path.Split('?')[0], "…"))).Select(r => $"{path} reads {r}"));
        }

        Assert.True(faults.Count == 0, string.Join('\n', faults));
    }

    [Fact]
    public async Task No_write_to_one_thing_reads_a_large_table_from_end_to_end()
    {
        await using var explained = await Explained.StartAsync();
        var (site, owner) = (explained.Site, explained.Owner);
        var photo = await site.ScalarAsync<string>("select id::text from photo where file_name = '777.jpg'");
        var category = await site.ScalarAsync<string>("select id::text from category where name = 'Category 7'");
        var album = await site.ScalarAsync<string>("select album::text from album_photo limit 1");
        var intake = await owner.IntakeAsync();
        await using var pick = site.Db.CreateCommand("select array_agg(id::text) from (select id from photo order by file_name limit 40) as first");
        var some = (string[])(await pick.ExecuteScalarAsync())!;
        object[] changes = [new { write = new { field = "title", pattern = new object[] { new { text = "Kite " }, new { told = "album" }, new { told = "tags" } } } }, new { people = new { add = new[] { "Ines" }, remove = Array.Empty<string>() } }];
        async Task<JsonElement> TableAsync(string address, string csv)
        {
            using var file = new StringContent(csv, System.Text.Encoding.UTF8, "text/csv");
            return await (await owner.PostAsync(address, file)).ReadAsync();
        }

        // The index is read once, from end to end.
        await (await owner.GetAsync("/api/photos")).ReadAsync();
        JsonElement last = default;
        var rule = "";
        var page = await (await owner.PostAsJsonAsync("/api/pages", new { album })).ReadAsync();
        await (await owner.PublishAsync(page.GetProperty("id").GetString()!)).ReadAsync();
        var onPage = await site.ScalarAsync<string>($"select photo::text from album_photo where album = '{album}' limit 1");
        var own = $"/{page.GetProperty("address").GetString()}/photo/{onPage}";
        (string What, Func<Task> Do)[] acts =
        [
            ("words", async () => last = await (await owner.SendAsync(HttpMethod.Patch, $"/api/photos/{photo}", new { title = "Pier" }, 1)).ReadAsync()),
            ("undo of words", async () => await owner.UndoAsync(last)),
            ("a tag", async () => last = await (await owner.PostAsJsonAsync("/api/photos/tags", new { photos = new[] { photo }, add = new[] { "pier" }, remove = Array.Empty<string>() })).ReadAsync()),
            ("undo of a tag", async () => await owner.UndoAsync(last)),
            ("a category", async () => await (await owner.PostAsJsonAsync("/api/photos/categories", new { photos = new[] { photo }, add = new[] { category }, remove = Array.Empty<string>() })).ReadAsync()),
            ("into an album", async () => await (await owner.PostAsJsonAsync($"/api/albums/{album}/photos", new { photos = new[] { photo } })).ReadAsync()),
            ("a rule for an album", async () =>
            {
                rule = (await (await owner.PostAsJsonAsync("/api/albums", new { workingName = "Rule", filling = new { search = "q=Title%20777", most = 20, sort = "name" } })).ReadAsync()).GetProperty("id").GetString()!;
                await site.UntilAsync($"select count(*) from album_photo where album = '{rule}'", 11);
            }),
            ("held out of it", async () => last = await (await owner.PostAsJsonAsync($"/api/albums/{rule}/photos/removal", new { photos = new[] { photo } })).ReadAsync()),
            ("let in again", async () =>
            {
                await owner.UndoAsync(last);
                await site.UntilAsync($"select count(*) from album_photo where album = '{rule}'", 11);
            }),
            ("what follows from a title", async () =>
            {
                await owner.UndoAsync(await (await owner.PostAsJsonAsync("/api/words", new { photos = new[] { photo }, changes })).ReadAsync());
                await site.UntilAsync($"select count(*) from album_photo where album = '{rule}' and photo = '{photo}'", 1);
            }),
            ("into the bin", async () => last = await (await owner.PostAsJsonAsync("/api/bin", new { photos = new[] { photo } })).ReadAsync()),
            ("out of the bin", async () => await owner.UndoAsync(last)),
            ("a comment", async () => Assert.Equal(HttpStatusCode.SeeOther, (await site.Visitor().PostAsync(own, new FormUrlEncodedContent(new Dictionary<string, string> { ["name"] = "Ines", ["words"] = "Fine" }))).StatusCode)),
            ("a rating", async () => (await site.Visitor().PostAsJsonAsync($"/site/rate/{onPage}", new { visitor = new string('a', 22), value = 4 })).EnsureSuccessStatusCode()),
            ("a decision on a comment", async () => last = await (await owner.PostAsJsonAsync("/api/comments/decide", new { comments = new[] { await site.ScalarAsync<string>($"select id::text from comment where photo = '{onPage}' and state = 'Waiting'") }, shown = true })).ReadAsync()),
            ("undo of a decision", async () => await owner.UndoAsync(last)),
            ("a hand", async () => (await owner.PutAsJsonAsync("/api/hand", new { photos = some })).EnsureSuccessStatusCode()),
            ("what is in hand", async () => await (await owner.GetAsync("/api/hand")).ReadAsync()),
            ("letting go", async () => (await owner.PostAsJsonAsync("/api/hand", new { letGo = some[..3] })).EnsureSuccessStatusCode()),
            ("which are in hand", async () => await (await owner.PostAsJsonAsync("/api/hand/among", new { photos = some })).ReadAsync()),
            ("what words would come to", async () => await (await owner.PostAsJsonAsync("/api/words/preview", new { inHand = true, changes })).ReadAsync()),
            ("words of many", async () => last = await (await owner.PostAsJsonAsync("/api/words", new { inHand = true, changes })).ReadAsync()),
            ("undo of words of many", async () => await owner.UndoAsync(last)),
            ("what many have in common", async () => await (await owner.PostAsJsonAsync("/api/words/summary", new { inHand = true })).ReadAsync()),
            ("rows of a table", async () => await (await owner.PostAsJsonAsync("/api/words/rows", new { photos = some })).ReadAsync()),
            ("what a file would come to, by id", async () => await TableAsync("/api/words/table/preview", $"id,title\n{some[0]},x\n")),
            ("what a file would come to, by name", async () => await TableAsync("/api/words/table/preview", "file name,title\n777.jpg,x\n778.jpg,y\n")),
            ("a file of words", async () => last = await TableAsync("/api/words/table", "file name,title,tags\n777.jpg,x,pier; mole\n778.jpg,y,\n")),
            ("undo of a file of words", async () => await owner.UndoAsync(last)),
            ("an arrival", async () => await owner.BringAsync(intake, "new.jpg", Acts.Photo(1, 90, 60))),
            ("a sidecar", async () => await owner.BringAsync(intake, "new.xmp", WordsWriter.Sidecar(new LeavingWords { Title = "Pier", Tags = ["pier"] }))),
            ("an upload", async () => Assert.Equal(HttpStatusCode.NoContent, (await owner.PatchAsync(await owner.CreateAsync(intake, "sent.jpg", 5), 0, new ByteArrayContent("notes"u8.ToArray()))).StatusCode)),
        ];
        var faults = new List<string>();
        foreach (var (what, act) in acts)
        {
            faults.AddRange((await explained.ReadWholeAsync(act)).Select(r => $"{what} reads {r}"));
        }

        Assert.True(faults.Count == 0, string.Join('\n', faults));
    }
}
