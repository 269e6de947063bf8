using Jovitar.Core.Intake;
using Npgsql;

namespace Jovitar.Server.Platform;

/// <summary>The site's own settings.</summary>
public sealed record SiteSettings(string Title, string Tagline, IntakeLimits Limits, long Version);

/// <summary>Reads the site's own settings.</summary>
internal sealed class SettingsStore(NpgsqlDataSource db)
{
    public async Task<SiteSettings> ReadAsync(CancellationToken ct)
    {
        await using var command = db.CreateCommand(
            """
            select title, tagline, version, max_bytes, max_megapixels, max_sound_bytes, max_video_bytes, max_document_bytes,
                   max_archive_bytes
              from site
            """);
        return (await command.FirstAsync(
            r => new SiteSettings(
                r.Get<string>("title"), r.Get<string>("tagline"),
                new IntakeLimits(
                    r.Get<long>("max_bytes"), r.Get<int>("max_megapixels"), r.Get<long>("max_sound_bytes"), r.Get<long>("max_video_bytes"), r.Get<long>("max_document_bytes"), r.Get<long>("max_archive_bytes")),
                r.Get<long>("version")),
            ct))!;
    }
}
