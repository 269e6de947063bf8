using Jovitar.Core;
using Jovitar.Core.Intake;
using Jovitar.Core.Opening;
using Jovitar.Core.People;
using Npgsql;

namespace Jovitar.Server.Platform;

/// <summary>The site's own settings.</summary>
/// <param name="Version">Another one when anything that every page shows is another.</param>
/// <param name="HasMembers">There are members: visitors are told where they sign in.</param>
/// <param name="Joining">How visitors become members.</param>
/// <param name="HasShop">Visitors can buy: they are told where what they buy is.</param>
public sealed record SiteSettings(Front Front, IntakeLimits Limits, long Version, bool HasMembers, Joining Joining, bool HasShop)
{
    public string Title => Front.Title;

    public string Tagline => Front.Tagline;
}

/// <summary>Reads the site's own settings.</summary>
internal sealed class SettingsStore(NpgsqlDataSource db)
{
    public const string FrontColumns = "title, tagline, is_open, meanwhile, is_listed, starts_at, has_favourites";

    public async Task<SiteSettings> ReadAsync(CancellationToken ct)
    {
        await using var command = db.CreateCommand(
            $"""
            select {FrontColumns}, version, has_members, joining,
                   (select s.is_open from shop as s) as has_shop,
                   max_bytes, max_megapixels, max_sound_bytes, max_video_bytes, max_document_bytes, max_archive_bytes
              from site
            """);
        return (await command.FirstAsync(
            r => new SiteSettings(
                Front(r),
                new IntakeLimits(
                    r.Get<long>("max_bytes"), r.Get<int>("max_megapixels"), r.Get<long>("max_sound_bytes"), r.Get<long>("max_video_bytes"), r.Get<long>("max_document_bytes"), r.Get<long>("max_archive_bytes")),
                r.Get<long>("version"), r.Get<bool>("has_members"), Enum.Parse<Joining>(r.Get<string>("joining")), r.Get<bool>("has_shop")),
            ct))!;
    }

    /// <summary>Reads the front from a row with <see cref="FrontColumns"/>.</summary>
    public static Front Front(NpgsqlDataReader r) =>
        new(
            r.Get<string>("title"), r.Get<string>("tagline"), r.Get<bool>("is_open"), r.Get<string>("meanwhile"), r.Get<bool>("is_listed"),
            r.MaybeId("starts_at") is { } page ? new PageId(page) : null,
            r.Get<bool>("has_favourites"));
}
