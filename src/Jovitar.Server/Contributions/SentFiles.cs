using Jovitar.Core;
using Jovitar.Core.Contributions;
using Jovitar.Core.Intake;
using Jovitar.Core.Photos;
using Jovitar.Imaging;
using Jovitar.Server.Intake;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Storing;
using Npgsql;

namespace Jovitar.Server.Contributions;

/// <summary>A photo that was sent in, looked at: how large it is, its pictures, and what its file says of it.</summary>
internal sealed record SentPictures(PictureSize Size, IReadOnlyList<Rendition> Pictures, string Title, string Caption);

/// <summary>The bytes of photos that were sent in. They lie apart from all others until somebody accepts them, so that nothing of them is anywhere else.</summary>
internal sealed class SentFiles(NpgsqlDataSource db, Storage storage, TimeProvider clock) : IDisposable
{
    /// <summary>Of each photo these widths are made, to be known by and to be judged by.</summary>
    public static readonly IReadOnlyList<int> Widths = [Renditions.Sheet, 1600];

    /// <summary>What was put here and has no row after so long is nobody's any more.</summary>
    static readonly TimeSpan Quiet = TimeSpan.FromMinutes(10);

    /// <summary>Whoever sends waits for others who do; whatever else goes on here has a processor left.</summary>
    readonly SemaphoreSlim hands = new(Math.Max(1, Environment.ProcessorCount / 2));

    /// <summary>What has arrived is looked at within so long, or tidied away.</summary>
    static readonly TimeSpan Patience = TimeSpan.FromSeconds(60);

    /// <summary>Looks at what arrived.</summary>
    /// <returns>Why it cannot be taken, a sentence, where it cannot.</returns>
    /// <exception cref="TimeoutException">So many are looked at that this one would wait too long.</exception>
    public async Task<(SentPictures? Pictures, string Fault)> LookAsync(Arrived arrived, IntakeLimits limits, CancellationToken ct)
    {
        using var copy = await storage.LocalAsync(arrived.Key) ?? throw new IOException("What arrived is gone.");
        if (!await hands.WaitAsync(Patience, ct))
        {
            throw new TimeoutException();
        }

        try
        {
            return await Task.Run(() => Look(arrived, copy.Path, limits), ct);
        }
        finally
        {
            hands.Release();
        }
    }

    static (SentPictures?, string) Look(Arrived arrived, string path, IntakeLimits limits)
    {
        var (problem, _, size) = Receiver.JudgePicture(arrived, path, limits);
        if (problem is { } found)
        {
            return (null, IntakeRefusal.Sentence(found, limits));
        }

        try
        {
            var words = MetadataReader.Read(path).Words;
            return (
                new SentPictures(
                    size, Picture.Render(path, Widths), Text.Cut(Text.Name(words.Title ?? ""), Sending.LongestTitle), Text.Cut((words.Caption ?? "").Trim(), Sending.LongestCaption)),
                "");
        }
        catch (PictureException e)
        {
            return (null, IntakeRefusal.Sentence(e.CutShort ? IntakeProblem.CutShort : IntakeProblem.Unreadable, limits));
        }
    }

    /// <summary>Keeps what was looked at, before its row is written.</summary>
    public async Task KeepAsync(Guid photo, Arrived arrived, SentPictures pictures, CancellationToken ct)
    {
        await storage.PutIfAbsentAsync(StorageKeys.SentIn(photo), arrived.Key);
        foreach (var picture in pictures.Pictures)
        {
            await storage.PutMadeAsync(StorageKeys.SentPicture(photo, picture.Width), picture.Bytes, ct);
        }
    }

    /// <summary>A picture of one.</summary>
    public async ValueTask<Stored?> FindAsync(Guid photo, int width) => Widths.Contains(width) ? await storage.FindAsync(StorageKeys.SentPicture(photo, width)) : null;

    /// <summary>Removes the bytes of photos, after their rows say so.</summary>
    /// <param name="pictures">Also what they are known by.</param>
    public async Task DropAsync(IEnumerable<Guid> photos, bool pictures)
    {
        foreach (var photo in photos)
        {
            await storage.DeleteAsync(StorageKeys.SentIn(photo));
            foreach (var width in pictures ? Widths : [])
            {
                await storage.DeleteAsync(StorageKeys.SentPicture(photo, width));
            }
        }
    }

    /// <summary>Removes what no row speaks of: a killed process left it, or its row is gone.</summary>
    public async Task SweepAsync(CancellationToken ct)
    {
        await foreach (var (stored, _) in LeftAsync(db, storage, clock.GetUtcNow() - Quiet, ct))
        {
            await storage.DeleteAsync(stored.Key);
        }
    }

    /// <summary>What no row speaks of and was written before a time, and the photo it would be of.</summary>
    public static async IAsyncEnumerable<(Stored Stored, Guid Photo)> LeftAsync(NpgsqlDataSource db, Storage storage, DateTimeOffset before, [System.Runtime.CompilerServices.EnumeratorCancellation] CancellationToken ct)
    {
        const int atOnce = 1000;
        var some = new List<(Stored Stored, Guid Photo, bool IsPicture)>();
        async Task<List<(Stored, Guid)>> Left()
        {
            await using var command = db.Command(
                "select id, is_kept, is_kept or state = 'Accepted' as has_pictures from contribution_photo where id = any(@ids)", ("ids", some.Select(s => s.Photo).Distinct().ToArray()));
            var rows = (await command.AllAsync(r => (Id: r.Get<Guid>("id"), Kept: r.Get<bool>("is_kept"), Pictures: r.Get<bool>("has_pictures")), ct)).ToDictionary(r => r.Id);
            return [.. some.Where(s => !rows.TryGetValue(s.Photo, out var row) || !(s.IsPicture ? row.Pictures : row.Kept)).Select(s => (s.Stored, s.Photo))];
        }

        await foreach (var stored in storage.ListAsync($"{StorageKeys.Sent}/", ct))
        {
            var parts = stored.Name.Split('-', '.');
            if (stored.Written < before && Guid.TryParseExact(parts[0], "N", out var photo))
            {
                some.Add((stored, photo, parts.Length > 1));
            }

            if (some.Count == atOnce)
            {
                foreach (var left in await Left())
                {
                    yield return left;
                }

                some.Clear();
            }
        }

        foreach (var left in await Left())
        {
            yield return left;
        }
    }

    public void Dispose() => hands.Dispose();
}
