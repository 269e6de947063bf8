using NetVips;

namespace Jovitar.Server.Tests;

/// <summary>Two thousand picture files with something wrong in them, made from good ones by a seeded mutator.</summary>
public sealed class MutationTests
{
    const int Count = 2000;

    static byte[][] Good()
    {
        using var noise = Image.Gaussnoise(160, 120, mean: 120, sigma: 30, seed: 5);
        using var band = noise.Cast(Enums.BandFormat.Uchar);
        using var rgb = band.Bandjoin(band, band).Copy(interpretation: Enums.Interpretation.Srgb);
        using var described = rgb.Mutate(m =>
        {
            m.Set(GValue.GStrType, "exif-ifd0-Model", "Halcyon H2 (Halcyon H2, ASCII, 11 components, 11 bytes)");
            m.Set(GValue.GStrType, "exif-ifd2-DateTimeOriginal", "2026:06:14 10:00:00 (2026:06:14 10:00:00, ASCII, 20 components, 20 bytes)");
            m.Set(GValue.BlobType, "xmp-data", "<x:xmpmeta xmlns:x=\"adobe:ns:meta/\"><rdf:RDF xmlns:rdf=\"http://www.w3.org/1999/02/22-rdf-syntax-ns#\"/></x:xmpmeta>"u8.ToArray());
        });
        return
        [
            described.JpegsaveBuffer(q: 80), described.JpegsaveBuffer(q: 80, interlace: true), rgb.PngsaveBuffer(), rgb.WebpsaveBuffer(q: 70), rgb.WebpsaveBuffer(lossless: true),
            rgb.TiffsaveBuffer(), rgb.TiffsaveBuffer(compression: Enums.ForeignTiffCompression.Lzw, tile: true), rgb.GifsaveBuffer(), rgb.HeifsaveBuffer(compression: Enums.ForeignHeifCompression.Av1, effort: 0),
        ];
    }

    /// <summary>Bytes flipped, cut, doubled, moved, or a length in the header made huge.</summary>
    static byte[] Mutate(byte[] good, Random random)
    {
        var bytes = good.ToArray();
        switch (random.Next(6))
        {
            case 0:
                for (var n = random.Next(1, 12); n > 0; n--)
                {
                    bytes[random.Next(bytes.Length)] ^= (byte)(1 << random.Next(8));
                }

                return bytes;
            case 1:
                return bytes[..random.Next(1, bytes.Length)];
            case 2:
                var from = random.Next(bytes.Length);
                return [.. bytes[..from], .. bytes[Math.Max(0, from - random.Next(2000))..]];
            case 3:
                for (var (at, n) = (random.Next(Math.Min(bytes.Length, 400)), 4); n > 0; n--)
                {
                    bytes[Math.Min(at + n, bytes.Length - 1)] = 0xFF;
                }

                return bytes;
            case 4:
                random.NextBytes(bytes.AsSpan(random.Next(bytes.Length / 2), random.Next(bytes.Length / 2)));
                return bytes;
            default:
                bytes[random.Next(Math.Min(bytes.Length, 64))] = (byte)random.Next(256);
                return [.. bytes, .. new byte[random.Next(3000)]];
        }
    }

    [Fact]
    public async Task Two_thousand_damaged_pictures_each_get_their_sentence_and_disturb_nothing()
    {
        var good = Good();
        var random = new Random(20261125);
        var files = Enumerable.Range(0, Count).Select(i => Mutate(good[i % good.Length], random)).ToArray();
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var intake = await owner.IntakeAsync();
        await Parallel.ForEachAsync(Enumerable.Range(0, files.Length), new ParallelOptions { MaxDegreeOfParallelism = 4 }, async (i, _) =>
        {
            var file = await owner.BringAsync(intake, $"m{i}.jpg", files[i]);
            Assert.True(file.GetProperty("outcome").GetString() is not "refused" || file.GetProperty("reason").GetString()!.EndsWith('.'));
        });
        await site.UntilAsync("select count(*) from photo where state = 'waiting' or (state = 'ready' and stage < 2)", 0, seconds: 120);
        Assert.Equal(Count, await site.ScalarAsync<long>("select count(*) from intake_file"));
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from photo where state = 'failed' and failure not like '%.'"));
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from photo where failure_cause = 'TriedTooOften'"));
        // The mutator must leave some of each: whole enough to show, damaged in the header, damaged behind it.
        Assert.All((string[])["state = 'ready'", "state = 'failed'"], what => Assert.True(site.ScalarAsync<long>($"select count(*) from photo where {what}").Result > 50, what));
        Assert.True(await site.ScalarAsync<long>("select count(*) from intake_file where outcome = 'refused'") > 50);
        // A good photo goes through as if nothing had been.
        await owner.BringAsync(intake, "good.jpg", Acts.Photo(9));
        await site.UntilAsync("select count(*) from photo where file_name = 'good.jpg' and state = 'ready'", 1);
        await site.VerifyAsync();
        (await owner.GetAsync("/api/desk")).EnsureSuccessStatusCode();
    }
}
