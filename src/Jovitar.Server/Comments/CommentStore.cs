using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Comments;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Comments;

/// <summary>A comment as staff read it.</summary>
/// <param name="Picture">Of the photo it is about.</param>
/// <param name="Title">Of that photo; its file's name where it has none.</param>
internal sealed record CommentLine(Guid Id, PhotoId Photo, string Picture, int Width, int Height, string Title, string Name, string Words, DateTimeOffset Said, CommentState State);

/// <summary>Comments in one state.</summary>
/// <param name="Waiting">How many wait to be decided on.</param>
/// <param name="Counted">So many of each are counted; a larger number means that there are more.</param>
/// <param name="Further">There are more behind the last.</param>
internal sealed record CommentList(IReadOnlyList<CommentLine> Comments, int Waiting, int Shown, int Refused, int Counted, bool Further);

/// <summary>Visitors' comments, for those who decide whether others read them.</summary>
internal sealed class CommentStore(NpgsqlDataSource db, ActRunner acts)
{
    /// <summary>So many stand in one answer.</summary>
    public const int Step = 50;

    /// <summary>So many of each state are counted: no more than these may wait.</summary>
    const int MostCounted = TalkStore.MostWaiting;

    /// <summary>Comments in a state: those that wait oldest first, the others latest first.</summary>
    /// <param name="behind">The last one that is known; null from the beginning.</param>
    public async Task<CommentList> ListAsync(CommentState state, Guid? behind, CancellationToken ct)
    {
        var (sign, direction) = state == CommentState.Waiting ? (">", "asc") : ("<", "desc");
        await using var command = db.Command(
            $"""
            select c.id, c.photo, p.picture, p.width, p.height, coalesce(nullif(p.title, ''), p.file_name) as title,
                   c.name, c.words, c.said, c.state
              from comment as c
              join photo as p on p.id = c.photo and p.binned is null
             where c.state = @state
               and (@behind::uuid is null or (c.said, c.id) {sign} (select b.said, b.id from comment as b where b.id = @behind))
             order by c.said {direction}, c.id {direction}
             limit @most
            """,
            ("state", state.ToString()), ("behind", behind), ("most", Step + 1));
        var found = await command.AllAsync(
            r => new CommentLine(
                r.Get<Guid>("id"), new PhotoId(r.Get<Guid>("photo")), r.Get<string>("picture"), r.Get<int>("width"), r.Get<int>("height"), r.Get<string>("title"),
                r.Get<string>("name"), r.Get<string>("words"), r.Get<DateTimeOffset>("said"), Enum.Parse<CommentState>(r.Get<string>("state"))),
            ct);
        // Each is counted no further than it is of interest: of many that are shown nobody reads a row.
        await using var count = db.Command(
            """
            select s.state, (
                     select count(*)
                       from (
                         select c.id
                           from comment as c
                           join photo as p on p.id = c.photo and p.binned is null
                          where c.state = s.state
                          limit @most + 1) as counted) as count
              from unnest(@states) as s(state)
            """,
            ("states", Enum.GetNames<CommentState>()), ("most", MostCounted));
        var counts = (await count.AllAsync(r => (State: Enum.Parse<CommentState>(r.Get<string>("state")), Count: (int)r.Get<long>("count")), ct)).ToDictionary(c => c.State, c => c.Count);
        return new CommentList([.. found.Take(Step)], counts[CommentState.Waiting], counts[CommentState.Shown], counts[CommentState.Refused], MostCounted, found.Count > Step);
    }

    /// <summary>Shows comments to whoever sees their photos, or refuses them.</summary>
    public async Task<Done> DecideAsync(Actor who, IReadOnlyList<Guid> comments, bool shown, CancellationToken ct)
    {
        var state = shown ? CommentState.Shown : CommentState.Refused;
        var (_, done) = await acts.RunAsync(
            who, ActKind.Comments,
            async act =>
            {
                await act.LockAsync("comment", comments, ct);
                await using var write = act.Command(
                    "update comment set state = @state where id = any(@ids) and state <> @state returning name, said", ("ids", comments.ToArray()), ("state", state.ToString()));
                var decided = await write.AllAsync(r => (Name: r.Get<string>("name"), Said: r.Get<DateTimeOffset>("said")), ct);
                act.Says = _ => CommentWords.Decided(shown, decided.Count, decided.Count == 0 ? "" : decided.MinBy(d => d.Said).Name);
                return true;
            },
            ct);
        return done;
    }

    /// <summary>Removes all refused comments for good; those of photos in the bin go or come back with them.</summary>
    public async Task<Done> RemoveAsync(Actor who, CancellationToken ct)
    {
        var (_, done) = await acts.RunAsync(
            who, ActKind.Emptied,
            async act =>
            {
                var removed = await act.RunAsync(
                    "delete from comment as c using photo as p where p.id = c.photo and p.binned is null and c.state = @refused", ct, ("refused", CommentState.Refused.ToString()));
                (act.IsKept, act.Says) = (removed > 0, _ => CommentWords.Removed(removed));
                return true;
            },
            ct);
        return done;
    }
}
