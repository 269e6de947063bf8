using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Photos;
using Jovitar.Server.Acts;
using Jovitar.Server.Albums;
using Jovitar.Server.Bins;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Intake;

/// <summary>What taking an intake back came to.</summary>
/// <param name="Binned">Photos that went to the bin.</param>
/// <param name="Files">Files that went to the bin.</param>
/// <param name="Kept">Photos and files that stay, for they are used elsewhere.</param>
internal sealed record TakenBack(int Binned, int Files, int Kept);

/// <summary>What is done with a whole intake afterwards: failures tried again or dropped, all of it taken back.</summary>
internal sealed class IntakeActs(NpgsqlDataSource db, PhotoQueue queue, ActRunner acts)
{
    /// <summary>What an intake brought that is used elsewhere: put in another album than the intake's own, or brought by another intake, too.</summary>
    const string UsedElsewhere =
        """
        (exists (select from album_photo as ap where ap.photo = f.photo and ap.album is distinct from i.album and ap.said_by <> 'rule')
         or exists (select from album_file as af where af.file = f.file and af.album is distinct from i.album)
         or exists (select from intake_file as g where g.photo = f.photo and g.intake <> f.intake)
         or exists (select from intake_file as g where g.file = f.file and g.intake <> f.intake))
        """;

    const string Brought =
        $"""
        select f.photo, f.file, bool_or({UsedElsewhere}) as used
          from intake_file as f
          join intake as i on i.id = f.intake
          left join photo as p on p.id = f.photo
          left join file as k on k.id = f.file
         where f.intake = @id and ((f.outcome = 'arrived' and p.binned is null and p.id is not null) or (f.outcome = 'kept'
           and k.binned is null and k.id is not null))
         group by f.photo, f.file
        """;

    sealed record One(Guid? Photo, Guid? File, bool Used);

    static One Read(NpgsqlDataReader r) => new(r.MaybeId("photo"), r.MaybeId("file"), r.Get<bool>("used"));

    static TakenBack Count(IReadOnlyList<One> all) => new(all.Count(o => o.Photo is not null && !o.Used), all.Count(o => o.File is not null && !o.Used), all.Count(o => o.Used));

    /// <summary>Tries all failed photos of an intake again.</summary>
    public async Task<int> RetryAsync(Actor who, IntakeId id, CancellationToken ct)
    {
        await using var command = db.Command(
            "select p.id from intake_file as f join photo as p on p.id = f.photo where f.intake = @id and p.state = 'failed' and p.binned is null", ("id", id.Value));
        return await queue.RetryAsync(who, await command.AllAsync(r => new PhotoId(r.GetGuid(0)), ct), ct);
    }

    /// <summary>Drops what failed for one cause, or all of it: photos go to the bin, refused files leave the list.</summary>
    public async Task<(int Count, Done Done)> DropAsync(Actor who, IntakeId id, string? cause, CancellationToken ct) => await acts.RunAsync(
        who, ActKind.Dropped,
        async act =>
        {
            await using var find = act.Command(
                """
                update intake_file as f
                   set outcome = 'dropped'
                 where f.intake = @id
                   and (f.outcome in ('refused', 'skipped')
                     or (f.outcome in ('arrived', 'already_here')
                       and exists (select from photo as p where p.id = f.photo and p.state = 'failed' and p.binned is null)))
                   and (@cause::text is null or coalesce(f.cause,
                     (select p.failure_cause from photo as p where p.id = f.photo)) = @cause::text)
                returning f.photo
                """,
                ("id", id.Value), ("cause", cause));
            var dropped = await find.AllAsync(r => r.Maybe<Guid>(0), ct);
            act.Says = _ => $"Dropped {ActWords.Things(dropped.Count, "file", "files")} that failed.";
            await BinStore.ThrowAsync(act, [.. dropped.OfType<Guid>().Select(PhotoId.From)], [], ct);
            return dropped.Count;
        },
        ct);

    /// <summary>Says how many photos and files taking back would throw away and how many it would leave, without doing it.</summary>
    public async Task<TakenBack> WouldTakeBackAsync(IntakeId id, CancellationToken ct)
    {
        await using var command = db.Command(Brought, ("id", id.Value));
        return Count(await command.AllAsync(Read, ct));
    }

    /// <summary>Takes an intake back whole: what is not used elsewhere goes to the bin, the rest leaves the intake's album; what still arrives is stopped.</summary>
    /// <returns>Null when the intake is not there.</returns>
    public async Task<(TakenBack Taken, Done Done)?> TakeBackAsync(Actor who, IntakeId id, CancellationToken ct)
    {
        var (taken, done) = await acts.RunAsync(
            who, ActKind.IntakeTakenBack,
            async act =>
            {
                var there = await act.RunAsync("update intake set taken_back = @now where id = @id and taken_back is null", ct, ("id", id.Value), ("now", act.Now));
                if (there == 0)
                {
                    return act.Drop<TakenBack?>(null);
                }

                var count = await FollowAsync(act, id, ct);
                act.Says = _ => ActWords.TookIntakeBack(count.Binned, count.Files, count.Kept);
                return count;
            },
            ct);
        return taken is null ? null : (taken, done);
    }

    /// <summary>What follows when an intake is taken back.</summary>
    public static async Task<TakenBack> FollowAsync(Act act, IntakeId id, CancellationToken ct)
    {
        await act.RunAsync("delete from upload where intake = @id and number is null", ct, ("id", id.Value));
        await using var album = act.Command("select album from intake where id = @id", ("id", id.Value));
        var own = await album.ExecuteScalarAsync(ct) is Guid a ? new AlbumId(a) : (AlbumId?)null;
        await using var find = act.Command(Brought, ("id", id.Value));
        var all = await find.AllAsync(Read, ct);
        await BinStore.ThrowAsync(
            act, [.. all.Where(o => !o.Used).Select(o => o.Photo).OfType<Guid>().Select(PhotoId.From)], [.. all.Where(o => !o.Used).Select(o => o.File).OfType<Guid>().Select(FileId.From)], ct);
        if (own is { } from && all.Any(o => o.Used && o.Photo is not null))
        {
            await AlbumPhotoStore.TakeOutAsync(act, from, [.. all.Where(o => o.Used).Select(o => o.Photo).OfType<Guid>().Select(PhotoId.From)], Said.Intake(id), ct);
        }

        return Count(all);
    }
}

/// <summary>An intake that was taken back by taking back the act that began it is taken back like any other.</summary>
internal sealed class IntakeListener : IActListener
{
    public async Task FollowAsync(Act act, IReadOnlySet<string> kinds, CancellationToken ct)
    {
        if (act.Kind == ActKind.IntakeTakenBack || !kinds.Contains("intake"))
        {
            return;
        }

        await using var find = act.Command(
            "select thing from act_change where act = @act and kind = 'intake' and before is not null and after ->> 'taken_back' is not null", ("act", act.Id.Value));
        foreach (var intake in await find.AllAsync(r => new IntakeId(r.GetGuid(0)), ct))
        {
            await IntakeActs.FollowAsync(act, intake, ct);
        }
    }
}
