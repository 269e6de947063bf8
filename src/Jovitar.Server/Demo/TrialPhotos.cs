using Jovitar.Core.Acts;
using Jovitar.Core.Photos;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Storing;
using Npgsql;

namespace Jovitar.Server.Demo;

/// <summary>Fills the database with many photos for trials of speed: rows of their own with the bytes of those already here.</summary>
internal sealed class TrialPhotos(NpgsqlDataSource db, ActRunner acts, Storage storage)
{
    /// <summary>Who adds them, as the acts have it. What such a row is called is not what its bytes hash to.</summary>
    public const string Worker = "trial";

    /// <summary>Adds rows until there are as many photos as asked for.</summary>
    public async Task AddUpToAsync(int wanted, CancellationToken ct)
    {
        await using var count = db.CreateCommand("select count(*), count(*) filter (where file_name like 'TRIAL%') from photo");
        var (all, before) = (await count.AllAsync(r => ((int)r.GetInt64(0), (int)r.GetInt64(1)), ct))[0];
        var missing = wanted - all;
        if (missing <= 0)
        {
            return;
        }

        Console.WriteLine($"  adding {missing:#,0} photos for trials");
        var (pairs, _) = await acts.RunAsync(Actor.Worker(Worker), ActKind.Loaded, act => AddAsync(act, missing, before, ct), ct);
        await using var settle = db.CreateCommand("vacuum analyze");
        settle.CommandTimeout = 600;
        await settle.ExecuteNonQueryAsync(ct);
        foreach (var (made, old) in pairs)
        {
            if (await storage.FindAsync(StorageKeys.Rendition(old, Renditions.Sheet)) is null)
            {
                continue;
            }

            await storage.PutIfAbsentAsync(StorageKeys.Original(made), StorageKeys.Original(old));
            await storage.PutIfAbsentAsync(StorageKeys.Rendition(made, Renditions.Sheet), StorageKeys.Rendition(old, Renditions.Sheet));
        }
    }

    static async Task<IReadOnlyList<(string New, string Old)>> AddAsync(Act act, int missing, int before, CancellationToken ct)
    {
        act.Says = tally => $"Added {ActWords.Photos(tally.Photos)} for trials.";
        await using var add = act.Command(
            """
            with seed as (
              select p.*, row_number() over (order by p.file_name) - 1 as n, count(*) over () as total from photo as p
                     where p.state = 'ready' and p.file_name not like 'TRIAL%'),
            made as (
              insert into photo (
                       id, hash, file_name, media_type, bytes, width, height, state, stage, title, caption, alt, credit, creator,
                         copyright, place, rating, taken, camera, lens, arrived, tag_words, look)
              select gen_random_uuid(), sha256(s.hash || int4send(g)), 'TRIAL_' || lpad(g::text, 7, '0') || '.jpg', s.media_type, s.bytes,
                     s.width, s.height, 'ready', 2,
                     case when g % 5 = 0 then '' else s.title || ' ' || g end, s.caption, s.alt, s.credit, s.creator, s.copyright,
                       s.place, (g % 6)::smallint,
                     timestamp '2015-01-01' + make_interval(mins => g * 47), s.camera, s.lens, now() - make_interval(secs => g),
                       s.tag_words,
                     ('x' || substr(md5('look' || g), 1, 16))::bit(64)::bigint
                from generate_series(@before + 1, @before + @missing) as g
                join seed as s on s.n = g % s.total
              returning id, substring(file_name from 7 for 7)::int as g, encode(hash, 'hex') as hash),
            tagged as (
              insert into photo_tag (photo, tag)
              select m.id, pt.tag
                from made as m
                join seed as s on s.n = m.g % s.total
                join photo_tag as pt on pt.photo = s.id),
            placed as (
              insert into photo_category (photo, category)
              select m.id, pc.category
                from made as m
                join seed as s on s.n = m.g % s.total
                join photo_category as pc on pc.photo = s.id)
            select m.hash, encode(s.hash, 'hex') from made as m join seed as s on s.n = m.g % s.total
            """,
            ("missing", missing), ("before", before));
        return await add.AllAsync(r => (New: r.GetString(0), Old: r.GetString(1)), ct);
    }
}
