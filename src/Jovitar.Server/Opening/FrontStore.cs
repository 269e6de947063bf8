using Jovitar.Core.Acts;
using Jovitar.Core.Opening;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Opening;

/// <summary>The site's front, as staff have it.</summary>
/// <param name="Edited">Counts the edits; expected by the next write.</param>
internal sealed record OpenedFront(Front Front, long Edited);

/// <summary>What is remembered of a site's first hour besides what can be seen.</summary>
/// <param name="IsOn">The path lies on the desk.</param>
/// <param name="IsDressed">Somebody chose how the site looks.</param>
public sealed record FirstHourSaid(bool IsOn, bool IsDressed);

/// <summary>A site's first hour.</summary>
/// <param name="Path">What is done and what comes next.</param>
/// <param name="IsOn">The path lies on the desk.</param>
internal sealed record FirstHourNow(FirstHour Path, Beginnings Site, bool IsOn);

/// <summary>What the site says of itself, whether it is open, and how far a new one has come.</summary>
internal sealed class FrontStore(NpgsqlDataSource db, ActRunner acts)
{
    public async Task<OpenedFront> ReadAsync(CancellationToken ct)
    {
        await using var command = db.CreateCommand($"select {SettingsStore.FrontColumns}, edited from site");
        return (await command.FirstAsync(r => new OpenedFront(SettingsStore.Front(r), r.Get<long>("edited")), ct))!;
    }

    /// <summary>Writes the front; visitors have it at once.</summary>
    /// <returns>What was done; null when somebody else has changed it since it was read.</returns>
    public async Task<Done?> WriteAsync(Actor who, Front front, long expected, CancellationToken ct)
    {
        var (written, done) = await acts.RunAsync(
            who, ActKind.Front,
            async act =>
            {
                await using var read = act.Command($"select id, {SettingsStore.FrontColumns} from site where edited = @expected for no key update", ("expected", expected));
                if (await read.FirstAsync(r => Tuple.Create(r.Get<Guid>("id"), SettingsStore.Front(r)), ct) is not var (id, before))
                {
                    return act.Drop(false);
                }

                if (before.IsOpen == front.IsOpen)
                {
                    act.GoesOn = id;
                }
                else
                {
                    act.Kind = ActKind.Opening;
                }

                act.Says = _ => FrontWords.Changed(before, front);
                await act.RunAsync(
                    """
                    update site
                       set title = @title, tagline = @tagline, is_open = @open, meanwhile = @meanwhile, is_listed = @listed,
                           starts_at = (select pg.id from page as pg where pg.id = @start::uuid),
                           has_favourites = @favourites, edited = edited + 1
                    """,
                    ct, ("title", front.Title), ("tagline", front.Tagline), ("open", front.IsOpen), ("meanwhile", front.Meanwhile), ("listed", front.IsListed), ("start", front.StartsAt?.Value),
                    ("favourites", front.HasFavourites));
                return true;
            },
            ct);
        return written ? done : null;
    }

    /// <summary>Gives all pages another head when the front is another, or the shop, by whatever act.</summary>
    public static async Task FollowAsync(Act act, IReadOnlySet<string> kinds, CancellationToken ct)
    {
        if (kinds.Contains("site") || kinds.Contains("shop"))
        {
            await act.RunAsync("update site set version = version + 1", ct);
        }
    }

    public async Task<FirstHourNow> FirstHourAsync(CancellationToken ct)
    {
        await using var command = db.CreateCommand(
            $"""
            select s.title, s.is_open, s.first_hour,
                   s.is_dressed or t.edited > 1 as is_dressed,
                   exists (select from photo where binned is null) as has_photos,
                   (select count(*) from page where published is not null and binned is null)
                   + (select count(*)
                        from album as oa
                       where oa.binned is null and oa.shown and {AccessStore.StandsInView}
                         and exists (select from album_photo as ap where ap.album = oa.id)) as shown
              from site as s
             cross join theme as t
            """);
        return (await command.FirstAsync(
            r =>
            {
                var site = new Beginnings(r.Get<string>("title"), r.Get<bool>("is_dressed"), r.Get<bool>("has_photos"), r.Get<long>("shown"), r.Get<bool>("is_open"));
                return new FirstHourNow(FirstHour.Of(site), site, r.Get<bool>("first_hour"));
            },
            ct))!;
    }

    /// <summary>Says what cannot be seen of a first hour. It is nothing that people made: no act.</summary>
    public async Task SayAsync(FirstHourSaid said, CancellationToken ct)
    {
        await using var command = db.Command("update site set first_hour = @on, is_dressed = is_dressed or @dressed", ("on", said.IsOn), ("dressed", said.IsDressed));
        await command.ExecuteNonQueryAsync(ct);
    }
}
