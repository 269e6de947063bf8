using Jovitar.Core.Clearance;
using Jovitar.Core.Corrections;
using Jovitar.Core.Narrowings;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Narrowings;

/// <summary>
/// Keeps what photos are found by in memory, in step with the database: before each answer it reads which photos were touched
/// meanwhile, and takes in what is known of those now.
/// </summary>
internal sealed class IndexKeeper(NpgsqlDataSource db, TimeProvider clock) : IDisposable
{
    const int AtOnce = 20_000;

    readonly SemaphoreSlim one = new(1);
    readonly TouchedPhotos touched = new(db);
    PhotoIndex? index;
    DateTimeOffset seen;

    /// <summary>The index as the database is now.</summary>
    public async Task<PhotoIndex> CurrentAsync(CancellationToken ct)
    {
        await one.WaitAsync(ct);
        try
        {
            var now = clock.GetUtcNow();
            if (index is null || index.IsWorn || now - seen > TouchedPhotos.Remembered / 2 || !await CatchUpAsync(index, ct))
            {
                index = null;
                // Whoever asked may have gone by then; others wait for the same.
                index = await ReadAllAsync(CancellationToken.None);
            }

            seen = now;
            return index;
        }
        finally
        {
            one.Release();
        }
    }

    /// <summary>Forgets what every process has seen long ago.</summary>
    public async Task SweepAsync(CancellationToken ct)
    {
        await using var old = db.Command("delete from photo_touched where at < @before", ("before", clock.GetUtcNow() - TouchedPhotos.Remembered));
        await old.ExecuteNonQueryAsync(ct);
    }

    public void Dispose() => one.Dispose();

    /// <returns>False when so much has changed that all is to be read anew.</returns>
    async Task<bool> CatchUpAsync(PhotoIndex into, CancellationToken ct)
    {
        var (photos, reading) = await touched.NextAsync(ct);
        if (photos is null)
        {
            return false;
        }

        if (photos.Contains(Guid.Empty))
        {
            into.Tree(await TreeAsync(ct));
        }

        foreach (var some in photos.Where(p => p != Guid.Empty).Chunk(AtOnce))
        {
            var found = await FactsAsync("where p.id = any(@ids)", [("ids", some)], ct);
            found = await LinkedAsync(found, "where f.photo = any(@ids)", [("ids", some)], ct);
            await CameAsync(into, found, ct);
            foreach (var facts in found)
            {
                into.Set(facts);
            }

            foreach (var gone in some.Except(found.Select(f => f.Id)))
            {
                into.Remove(gone);
            }
        }

        touched.Take(reading);
        return true;
    }

    async Task<PhotoIndex> ReadAllAsync(CancellationToken ct)
    {
        var reading = await touched.NowAsync(ct);
        var all = new PhotoIndex();
        all.Tree(await TreeAsync(ct));
        for (var after = Guid.Empty; ;)
        {
            var some = await FactsAsync($"where p.id > @after order by p.id limit {AtOnce}", [("after", after)], ct);
            if (some.Count == 0)
            {
                break;
            }

            some = await LinkedAsync(some, "where f.photo between @first and @last", [("first", some[0].Id), ("last", some[^1].Id)], ct);
            await CameAsync(all, some, ct);
            foreach (var facts in some)
            {
                all.Set(facts);
            }

            if (some.Count < AtOnce)
            {
                break;
            }

            after = some[^1].Id;
        }

        touched.Take(reading);
        return all;
    }

    async Task<Dictionary<Guid, Guid?>> TreeAsync(CancellationToken ct)
    {
        await using var command = db.CreateCommand("select id, parent from category where binned is null");
        return (await command.AllAsync(r => KeyValuePair.Create(r.Get<Guid>("id"), r.MaybeId("parent")), ct)).ToDictionary();
    }

    /// <summary>What the rows of some photos say of them.</summary>
    /// <param name="which">Which photos, by p.</param>
    async Task<List<PhotoFacts>> FactsAsync(string which, (string, object?)[] parameters, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select p.id, p.binned is null as here, p.taken, p.arrived, p.file_name, p.title,
                   p.alt <> '' as has_alt, p.credit <> '' as has_credit,
                   concat_ws(' ', p.title, p.caption, p.alt, p.place, p.creator, array_to_string(p.people, ' '), p.tag_words,
                     p.file_name) as words,
                   p.people,
                   p.rating, p.decision, p.clearance, p.cleared_until, p.people_say, p.people_until,
                   p.width, p.height, coalesce(p.camera, '') as camera, coalesce(p.lens, '') as lens,
                   -- The bytes of a scan count once, with the whole.
                   case when p.part = 0 then p.bytes else 0 end as bytes, p.part > 0 as is_part, p.correction::text as correction,
                   coalesce(v.views, 0) as views
              from photo as p
              left join photo_views as v on v.photo = p.id
            {which}
            """,
            parameters);
        var now = clock.GetUtcNow();
        return await command.AllAsync(
            r => new PhotoFacts(
                r.Get<Guid>("id"), r.Get<bool>("here"), r.Maybe<DateTime>("taken"), r.Get<DateTime>("arrived"), r.Get<string>("file_name"), r.Get<string>("title"), r.Get<string>("words"), r.Get<bool>("has_alt"),
                r.Get<bool>("has_credit"), r.Get<short>("rating"), r.Get<string>("decision"), r.Get<int>("width"), r.Get<int>("height"), r.Get<string>("camera"), r.Get<string>("lens"), r.Get<long>("bytes"), [], [], [], [], r.Get<string[]>("people"), Traits(r))
            {
                Views = r.Get<int>("views"),
                Clearance = new PhotoClearance(r.Get<string>("clearance"), r.Maybe<DateOnly>("cleared_until"), r.Get<string>("people_say"), r.Maybe<DateOnly>("people_until")).At(now),
            },
            ct);
    }

    /// <summary>Tells where the intakes of some photos came from, if it was not told before: that never changes.</summary>
    async Task CameAsync(PhotoIndex into, List<PhotoFacts> photos, CancellationToken ct)
    {
        var unknown = into.WithoutSource(photos.SelectMany(p => p.Intakes));
        if (unknown.Count > 0)
        {
            await using var command = db.Command("select id, came_by, label from intake where id = any(@ids)", ("ids", unknown.ToArray()));
            into.Came((await command.AllAsync(r => KeyValuePair.Create(r.GetGuid(0), PhotoSource.Of(r.GetString(1), r.GetString(2))), ct)).ToDictionary());
        }
    }

    static IReadOnlyList<string> Traits(NpgsqlDataReader r) =>
        [.. r.MaybeText("correction") is { } text ? CorrectionText.Read(text).Traits() : [], .. r.Get<bool>("is_part") ? (string[])["print"] : []];

    /// <summary>Adds what photos are linked to.</summary>
    /// <param name="ofThem">Which rows of what links photos (f) to others are of those.</param>
    async Task<List<PhotoFacts>> LinkedAsync(List<PhotoFacts> photos, string ofThem, (string, object?)[] parameters, CancellationToken ct)
    {
        async Task<Dictionary<Guid, Guid[]>> ReadAsync(string sql, (string, object?)[] parameters)
        {
            await using var links = db.Command(sql, parameters);
            return (await links.AllAsync(r => KeyValuePair.Create(r.GetGuid(0), r.GetFieldValue<Guid[]>(1)), ct)).ToDictionary();
        }

        // What a photo in the bin stood in is held until it is back.
        var binned = photos.Where(p => !p.Here).Select(p => p.Id).ToArray();
        async Task<Dictionary<Guid, Guid[]>> LinksAsync(string table, string other)
        {
            var select = $"select f.photo, array_agg(f.{other}) as others from {table} as f";
            var there = await ReadAsync($"{select} {ofThem} group by f.photo", parameters);
            if (binned.Length > 0 && table != "intake_file")
            {
                var (photo, beside) = other == "album" ? ("other", "thing") : ("thing", "other");
                foreach (var (id, others) in await ReadAsync($"select {photo}, array_agg({beside}) from held where {photo} = any(@ids) and kind = @kind group by {photo}", [("ids", binned), ("kind", table)]))
                {
                    there[id] = others;
                }
            }

            return there;
        }

        var (tags, categories) = (await LinksAsync("photo_tag", "tag"), await LinksAsync("photo_category", "category"));
        var (albums, intakes) = (await LinksAsync("album_photo", "album"), await LinksAsync("intake_file", "intake"));
        return
        [
            .. photos.Select(p => p with
            {
                Tags = tags.GetValueOrDefault(p.Id) ?? [],
                Categories = categories.GetValueOrDefault(p.Id) ?? [],
                Albums = albums.GetValueOrDefault(p.Id) ?? [],
                Intakes = intakes.GetValueOrDefault(p.Id) ?? [],
            }),
        ];
    }
}

/// <summary>Has the index read as soon as a process starts, so that the first who asks need not wait for it.</summary>
internal sealed class IndexWarmer(IndexKeeper keeper, ILogger<IndexWarmer> log) : BackgroundService
{
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        try
        {
            await keeper.CurrentAsync(stoppingToken);
        }
        catch (Exception e) when (e is NpgsqlException or OperationCanceledException)
        {
            log.LogInformation("What photos are found by is read when somebody asks: {Reason}", e.Message);
        }
    }
}
