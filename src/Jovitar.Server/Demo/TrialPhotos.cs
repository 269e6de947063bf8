using System.Buffers;
using Jovitar.Core.Acts;
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

    static readonly string[] Filled = ["photo", "photo_tag", "photo_category"];

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
        await acts.RunAsync(Actor.Worker(Worker), ActKind.Loaded, act => AddAsync(act, missing, before, ct), ct);
        await using var settle = db.CreateCommand("vacuum analyze");
        settle.CommandTimeout = 600;
        await settle.ExecuteNonQueryAsync(ct);
        await FindBytesAsync(ct);
    }

    /// <summary>Where there are such rows, the storage gives the bytes of the photo each was made from.</summary>
    public async Task FindBytesAsync(CancellationToken ct)
    {
        await using var any = db.CreateCommand("select exists (select from trial_photo)");
        if (await any.ExecuteScalarAsync(ct) is not true)
        {
            return;
        }

        storage.Instead = async key =>
        {
            var name = key[(key.IndexOf('/', StringComparison.Ordinal) + 1)..];
            var hash = new byte[32];
            if (name.Length < 64 || Convert.FromHexString(name.AsSpan(0, 64), hash, out _, out _) != OperationStatus.Done)
            {
                return null;
            }

            await using var source = db.Command("select encode(source, 'hex') from trial_photo where hash = @hash", ("hash", hash));
            return await source.ExecuteScalarAsync(CancellationToken.None) is string other ? key.Replace(name[..64], other, StringComparison.Ordinal) : null;
        };
    }

    static async Task<bool> AddAsync(Act act, int missing, int before, CancellationToken ct)
    {
        // Nobody made these: of each it is not noted what it was before, and every index is read anew.
        act.IsKept = true;
        foreach (var table in Filled)
        {
            await act.RunAsync($"alter table {table} disable trigger user", ct);
        }

        act.Says = _ => $"Added {ActWords.Photos(missing)} for trials.";
        await using var add = act.Command(
            """
            with seed as (
              select p.*, row_number() over (order by p.file_name) - 1 as n, count(*) over () as total from photo as p
                     where p.state = 'ready' and p.file_name not like 'TRIAL%'),
            made as (
              insert into photo (
                       id, hash, file_name, media_type, bytes, own_width, own_height, state, stage, title, caption, alt, credit, creator,
                         copyright, place, rating, taken, camera, lens, arrived, tag_words, look)
              select gen_random_uuid(), sha256(s.hash || int4send(g)), 'TRIAL_' || lpad(g::text, 7, '0') || '.jpg', s.media_type, s.bytes,
                     s.own_width, s.own_height, 'ready', 2,
                     case when g % 5 = 0 then '' else s.title || ' ' || g end, s.caption, s.alt, s.credit, s.creator, s.copyright,
                       s.place, (g % 6)::smallint,
                     timestamp '2015-01-01' + make_interval(mins => g * 47), s.camera, s.lens, now() - make_interval(secs => g),
                       s.tag_words,
                     ('x' || substr(md5('look' || g), 1, 16))::bit(64)::bigint
                from generate_series(@before + 1, @before + @missing) as g
                join seed as s on s.n = g % s.total
              returning id, substring(file_name from 7 for 7)::int as g, hash),
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
            insert into trial_photo (hash, source)
            select m.hash, s.hash from made as m join seed as s on s.n = m.g % s.total
            """,
            ("missing", missing), ("before", before));
        add.CommandTimeout = 1200;
        await add.ExecuteNonQueryAsync(ct);
        foreach (var table in Filled)
        {
            await act.RunAsync($"alter table {table} enable trigger user", ct);
        }

        await act.RunAsync("insert into photo_touched (photo) values (null)", ct);
        return true;
    }
}
