using System.Globalization;
using Jovitar.Core;
using Jovitar.Core.Comments;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Acts;
using Jovitar.Server.Albums;
using Jovitar.Server.Comments;

namespace Jovitar.Server.Demo;

/// <summary>What visitors say in the demo.</summary>
/// <param name="Albums">Those whose photos may be commented on and rated.</param>
/// <param name="Ratings">What visitors gave photos, by their files.</param>
internal sealed record DemoSaid(IReadOnlyList<string> Albums, IReadOnlyList<DemoComment> Comments, IReadOnlyDictionary<string, IReadOnlyList<int>> Ratings);

/// <param name="Shown">Null while nobody has decided on it.</param>
internal sealed record DemoComment(string File, string Name, string Words, bool? Shown);

/// <summary>Has visitors say it, each from somewhere else.</summary>
internal sealed class DemoTalk(TalkStore talk, CommentStore comments, AlbumStore albums, StandingStore standing)
{
    public async Task MakeAsync(DemoSaid said, IReadOnlyDictionary<string, PhotoId> photos, Actor owner, CancellationToken ct)
    {
        foreach (var album in (await albums.ListAsync(null, ct)).Where(a => said.Albums.Contains(a.WorkingName)))
        {
            await standing.SayAsync(owner, album.Id, album.Standing with { Comments = true, Ratings = true }, album.Version, ct);
        }

        if (await comments.ListAsync(CommentState.Waiting, null, ct) is not { Waiting: 0, Shown: 0, Refused: 0 })
        {
            return;
        }

        foreach (var comment in said.Comments)
        {
            await talk.WriteAsync(photos[comment.File], new Comment(comment.Name, comment.Words), comment.Name, Sight.Somebody, ct);
        }

        foreach (var (file, given) in said.Ratings)
        {
            foreach (var (value, visitor) in given.Select((value, i) => (value, i)))
            {
                await talk.RateAsync(photos[file], visitor.ToString(CultureInfo.InvariantCulture), value, $"{file} {visitor}", Sight.Somebody, ct);
            }
        }

        var waiting = (await comments.ListAsync(CommentState.Waiting, null, ct)).Comments;
        foreach (var shown in (bool[])[true, false])
        {
            var decided = said.Comments.Where(c => c.Shown == shown).Select(c => c.Words).ToHashSet();
            await comments.DecideAsync(owner, [.. waiting.Where(c => decided.Contains(c.Words)).Select(c => c.Id)], shown, ct);
        }
    }
}
