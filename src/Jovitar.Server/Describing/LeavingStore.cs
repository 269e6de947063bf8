using System.Text;
using Jovitar.Core.Corrections;
using Jovitar.Core;
using Jovitar.Core.Describing;
using Jovitar.Core.Photos;
using Jovitar.Imaging;
using Jovitar.Imaging.Writing;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Storing;
using Jovitar.Server.Taxonomy;
using Npgsql;

namespace Jovitar.Server.Describing;

/// <summary>In what form photos leave.</summary>
/// <param name="Edge">The longer edge of renditions, pixels; null for originals.</param>
/// <param name="Quality">Of renditions, 1 to 100.</param>
/// <param name="Position">Whether where they were taken leaves with them.</param>
internal sealed record LeavingForm(int? Edge, int Quality, bool Position);

/// <summary>Photos on their way out: what was written here is written into each file.</summary>
internal sealed class LeavingStore(NpgsqlDataSource db, Storage storage)
{
    const int AtOnce = 500;

    /// <summary>Longer than any edge: a print cut from a scan has no original of its own, and leaves in its full size instead.</summary>
    const int Whole = 1_000_000;

    const int FineQuality = 95;
    const int VisitorsQuality = 88;

    /// <summary>A photo that leaves.</summary>
    /// <param name="IsPart">It is a print cut from a scan: its original shows more than the photo.</param>
    sealed record Leaver(string Hash, bool IsPart, Correction Correction, string FileName, LeavingWords Words);

    /// <summary>Sends photos as one ZIP while it is being made, in their order; what cannot be sent is named in a text at its end.</summary>
    public Task ZipAsync(IReadOnlyList<PhotoId> photos, LeavingForm form, Stream to, CancellationToken ct) => ZipOut.SendAsync(to, zip => FillAsync(zip, photos, form, ct), ct);

    async Task FillAsync(ZipOut zip, IReadOnlyList<PhotoId> photos, LeavingForm form, CancellationToken ct)
    {
        var names = new LeavingNames();
        var (missing, kept) = (new List<string>(), new List<string>());
        foreach (var some in photos.Chunk(AtOnce))
        {
            foreach (var leaver in await LeaversAsync(some, form.Position, ct))
            {
                switch (await AddAsync(zip, leaver, form, names, ct))
                {
                    case Leaving.Missing:
                        missing.Add(leaver.FileName);
                        break;
                    case Leaving.KeptBack:
                        kept.Add(leaver.FileName);
                        break;
                }
            }
        }

        if (missing.Count + kept.Count > 0)
        {
            static string Named(string why, List<string> names) => names.Count == 0 ? "" : $"{why}\n{string.Join('\n', names)}\n\n";
            var text = Named("These could not be sent; their files are missing or damaged:", missing)
                + Named("These say within the file where they were taken, and it cannot be taken out of this kind of file; smaller JPEGs of them can be sent:", kept);
            await zip.TextAsync(names.Next("not sent.txt"), Encoding.UTF8.GetBytes(text), ct);
        }
    }

    /// <summary>One original with its words; one that cannot hold any leaves as it came.</summary>
    /// <returns>What it is called and its bytes, or null when it is not here, or says where it was taken and that may not leave.</returns>
    public async Task<(string FileName, Stream Bytes)?> OneAsync(PhotoId photo, bool position, CancellationToken ct)
    {
        if (await LeaversAsync([photo], position, ct) is not [var leaver])
        {
            return null;
        }

        return leaver.IsPart ? await JpegAsync(leaver, Whole, FineQuality, ct)
            : await OriginalAsync(leaver, position, ct) is (Leaving.Sent, var (bytes, _)) ? (leaver.FileName, bytes) : null;
    }

    /// <summary>One photo as visitors save it: as it is corrected, with its words, without the place on Earth.</summary>
    /// <param name="edge">The longer edge, pixels; null for its full size, which is the original where nothing is corrected.</param>
    /// <param name="stamp">The watermark on it; null for none.</param>
    /// <param name="fromBin">Also when it lies in the bin.</param>
    /// <returns>What it is called and its bytes, or null when it is not here.</returns>
    public async Task<(string FileName, Stream Bytes)?> SavedAsync(PhotoId photo, int? edge, Stamp? stamp, CancellationToken ct, bool fromBin = false)
    {
        if (await LeaversAsync([photo], position: false, ct, fromBin) is not [var leaver])
        {
            return null;
        }

        // An original that cannot leave without the place where it was taken leaves as a picture made of it.
        return edge is null && stamp is null && !leaver.IsPart && leaver.Correction == Correction.None && await OriginalAsync(leaver, position: false, ct) is (Leaving.Sent, var (bytes, _))
            ? (leaver.FileName, bytes)
            : await JpegAsync(leaver, edge ?? Whole, edge is null ? FineQuality : VisitorsQuality, ct, stamp);
    }

    /// <summary>Sends photos that visitors save as one ZIP while they are made, in their order; what cannot be sent is named in a text at its end.</summary>
    /// <param name="photos">Each as <see cref="SavedAsync"/> gives it; null for one whose file is not here.</param>
    public static Task ZipSavedAsync(IAsyncEnumerable<(string FileName, Stream Bytes)?> photos, Stream to, CancellationToken ct) => ZipOut.SendAsync(
        to,
        async zip =>
        {
            var (names, missing) = (new LeavingNames(), 0);
            await foreach (var photo in photos.WithCancellation(ct))
            {
                if (photo is not var (name, bytes))
                {
                    missing++;
                    continue;
                }

                await using (bytes)
                {
                    await zip.PackedAsync(names.Next(name), bytes, ct);
                }
            }

            if (missing > 0)
            {
                var text = missing == 1 ? "One photograph could not be sent: its file is missing or damaged." : $"{missing} photographs could not be sent: their files are missing or damaged.";
                await zip.TextAsync(names.Next("not sent.txt"), Encoding.UTF8.GetBytes(text), ct);
            }
        },
        ct);

    async Task<(string FileName, Stream Bytes)?> JpegAsync(Leaver leaver, int edge, int quality, CancellationToken ct, Stamp? stamp = null)
    {
        if (await RenderedAsync(leaver, edge, quality, ct, stamp) is not { } jpeg)
        {
            return null;
        }

        // Whoever takes long to fetch it shall not have it stand in memory for so long.
        var made = storage.OpenScratch();
        try
        {
            await WordsWriter.WriteAsync(jpeg, leaver.Words, made, ct);
            made.Position = 0;
            return (Path.ChangeExtension(leaver.FileName, ".jpg"), made);
        }
        catch
        {
            await made.DisposeAsync();
            throw;
        }
    }

    /// <summary>What became of a photo on its way out.</summary>
    enum Leaving
    {
        Sent,

        /// <summary>Its file is not there, or is damaged.</summary>
        Missing,

        /// <summary>It would leave as it came, and with it the place where it was taken, which may not.</summary>
        KeptBack,
    }

    async Task<Leaving> AddAsync(ZipOut zip, Leaver leaver, LeavingForm form, LeavingNames names, CancellationToken ct)
    {
        if (form.Edge is not null || leaver.IsPart)
        {
            if (await RenderedAsync(leaver, form.Edge ?? Whole, form.Edge is null ? FineQuality : form.Quality, ct) is not { } jpeg)
            {
                return Leaving.Missing;
            }

            await zip.PackedAsync(names.Next(leaver.FileName, ".jpg"), rendition => WordsWriter.WriteAsync(jpeg, leaver.Words, rendition, ct), ct);
            return Leaving.Sent;
        }

        var (outcome, found) = await OriginalAsync(leaver, form.Position, ct);
        if (found is not var (bytes, hasWords))
        {
            return outcome;
        }

        var name = names.Next(leaver.FileName);
        await using (bytes)
        {
            await zip.PackedAsync(name, bytes, ct);
        }

        if (!hasWords)
        {
            // What cannot hold words, or is damaged where they stand, left as it came, and they leave beside it.
            await zip.TextAsync(names.Next($"{Path.GetFileNameWithoutExtension(name)}.xmp"), WordsWriter.Sidecar(leaver.Words), ct);
        }

        return Leaving.Sent;
    }

    /// <summary>An original with its words in it, or as it came where it cannot hold any.</summary>
    async Task<(Leaving Outcome, (Stream Bytes, bool HasWords)? Found)> OriginalAsync(Leaver leaver, bool position, CancellationToken ct)
    {
        var key = StorageKeys.Original(leaver.Hash);
        if (await storage.LocalAsync(key) is not { } local)
        {
            return (Leaving.Missing, null);
        }

        using var original = local;
        if (await WordsWriter.MakeAsync(original.Path, leaver.Words, storage.NewScratch(), ct) is { } made)
        {
            return (Leaving.Sent, (made, true));
        }

        if (!position && MetadataReader.SaysWhere(original.Path))
        {
            return (Leaving.KeptBack, null);
        }

        return await storage.OpenAsync(key) is { } whole ? (Leaving.Sent, (whole, false)) : (Leaving.Missing, null);
    }

    async Task<byte[]?> RenderedAsync(Leaver leaver, int edge, int quality, CancellationToken ct, Stamp? stamp = null)
    {
        if (await storage.LocalAsync(StorageKeys.Original(leaver.Hash)) is not { } local)
        {
            return null;
        }

        using var original = local;
        try
        {
            return await Task.Run(() => Picture.Jpeg(original.Path, edge, quality, leaver.Correction, stamp), ct);
        }
        catch (PictureException)
        {
            return null;
        }
    }

    async Task<IReadOnlyList<Leaver>> LeaversAsync(IReadOnlyList<PhotoId> photos, bool position, CancellationToken ct, bool fromBin = false)
    {
        await using var command = db.Command(
            $"""
            select encode(p.hash, 'hex') as hash, p.part > 0 as is_part, p.correction::text as correction, p.file_name,
                   p.title, p.caption, p.alt, p.credit, p.creator, p.copyright, p.licence,
                   p.origin, p.place, p.link, p.people, p.rating, p.decision, p.taken, p.taken_offset_minutes, p.latitude, p.longitude,
                   {TagStore.NamesOfPhoto} as tags
              from unnest(@ids) with ordinality as w(id, n)
              join photo as p on p.id = w.id
             where (p.binned is null or @bin)
             order by w.n
            """,
            ("ids", photos.Values()), ("bin", fromBin));
        return await command.AllAsync(r => new Leaver(r.Get<string>("hash"), r.Get<bool>("is_part"), CorrectionText.Read(r.MaybeText("correction")), r.Get<string>("file_name"), Words(r, position)), ct);
    }

    static LeavingWords Words(NpgsqlDataReader r, bool position) => new()
    {
        Title = r.Get<string>("title"),
        Caption = r.Get<string>("caption"),
        Alt = r.Get<string>("alt"),
        Credit = r.Get<string>("credit"),
        Creator = r.Get<string>("creator"),
        Copyright = r.Get<string>("copyright"),
        Licence = r.Get<string>("licence"),
        Origin = r.Get<string>("origin"),
        Place = r.Get<string>("place"),
        Link = r.Get<string>("link"),
        People = r.Get<string[]>("people"),
        Tags = r.Get<string[]>("tags"),
        Rating = r.Get<string>("decision") == Decisions.LeaveOut ? -1 : r.Get<short>("rating"),
        Taken = r.Maybe<DateTime>("taken") is { } taken ? new TakenAt(taken, r.Maybe<short>("taken_offset_minutes") is { } away ? TimeSpan.FromMinutes(away) : null) : null,
        Position = position && r.Maybe<double>("latitude") is { } latitude && r.Maybe<double>("longitude") is { } longitude ? new Position(latitude, longitude) : null,
    };
}
