using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Storing;
using Npgsql;

namespace Jovitar.Server.Watermarks;

/// <summary>Removes pictures with watermarks that others have taken the place of: where one comes back, they are made again.</summary>
internal sealed class WatermarkWorker(NpgsqlDataSource db, Storage storage, TimeProvider clock, ILogger<WatermarkWorker> log)
    : RegularWorker(TimeSpan.FromSeconds(5), "Removing pictures with former watermarks", clock, log)
{
    protected override async Task DoAsync(DateTimeOffset now, CancellationToken ct)
    {
        // One that came back has pictures again, which are removed again when it goes.
        await using var back = db.CreateCommand("update watermark_made set removed = false where removed and key = (select key from watermark)");
        await back.ExecuteNonQueryAsync(ct);
        await using var command = db.CreateCommand("select m.key from watermark_made as m cross join watermark as w where m.key <> w.key and not m.removed");
        var former = (await command.AllAsync(r => r.GetString(0), ct)).ToHashSet();
        if (former.Count == 0)
        {
            return;
        }

        await foreach (var stored in storage.ListAsync($"{StorageKeys.Renditions}/", ct))
        {
            if (StorageKeys.PictureOf(stored.Name) is { Mark: var mark } && former.Contains(mark))
            {
                await storage.DeleteAsync(stored.Key);
            }
        }

        await using var done = db.Command("update watermark_made set removed = true where key = any(@former) and key <> (select key from watermark)", ("former", former.ToArray()));
        await done.ExecuteNonQueryAsync(ct);
    }
}
