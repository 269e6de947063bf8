using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Describing;
using Jovitar.Core.Photos;
using Jovitar.Core.Taxonomy;
using Jovitar.Server.Acts;
using Jovitar.Server.Taxonomy;

namespace Jovitar.Server.Describing;

/// <summary>What rows came to.</summary>
/// <param name="Stale">Photos that somebody else has changed since the row was read; they are as they were.</param>
/// <param name="Cut">On so many a word did not fit and is cut.</param>
internal sealed record RowsDone(Done Done, IReadOnlyList<PhotoId> Stale, int Cut);

/// <summary>Writes rows of words, each for a photo of its own, as one act.</summary>
internal sealed class RowStore(ActRunner acts)
{
    const int AtOnce = 5000;

    /// <param name="says">The sentence of the act; null for what was written in general.</param>
    public async Task<RowsDone> WriteAsync(Actor who, IReadOnlyList<WordsRow> rows, Func<ActTally, string>? says, CancellationToken ct)
    {
        var ((stale, cut), done) = await acts.RunAsync(
            who, ActKind.Described,
            async act =>
            {
                act.Says = says ?? (tally => ActWords.Described(tally, ["wrote words"]));
                // Tags before photos: so everybody locks.
                var tags = await TagsAsync(act, rows, ct);
                await act.LockAsync("photo", rows.Select(r => r.Photo), ct);
                var (stale, cut) = (new List<PhotoId>(), 0);
                foreach (var some in rows.Chunk(AtOnce))
                {
                    cut += await WriteAsync(act, some, tags, stale, ct);
                }

                return (stale, cut);
            },
            ct);
        return new RowsDone(done, stale, cut);
    }

    static async Task<int> WriteAsync(Act act, IReadOnlyList<WordsRow> rows, IReadOnlyDictionary<string, TagId> tags, List<PhotoId> stale, CancellationToken ct)
    {
        var now = (await DescribingStore.ReadAsync(act, [.. rows.Select(r => new PhotoId(r.Photo))], ct)).ToDictionary(p => p.Photo.Id);
        var anew = new List<(Described Photo, DescribedAnew Anew)>();
        var fresh = new List<WordsRow>();
        foreach (var row in rows.Where(r => now.ContainsKey(r.Photo)))
        {
            var (photo, version, _) = now[row.Photo];
            if (row.Version is { } read && read != version)
            {
                stale.Add(new PhotoId(row.Photo));
                continue;
            }

            fresh.Add(row);
            anew.Add((photo, row.Of(photo)));
        }

        await DescribingStore.WriteAsync(act, [.. anew.Where(a => a.Anew.Changes)], ct);
        var rated = fresh.Where(r => r.Rating is not null).ToArray();
        if (rated.Length > 0)
        {
            await act.RunAsync(
                """
                update photo as p
                   set rating = w.rating, said = p.said || jsonb_build_object('rating', @person)
                  from unnest(@ids, @ratings) as w(id, rating)
                 where p.id = w.id and p.binned is null and p.rating <> w.rating
                """,
                ct, ("ids", rated.Select(r => r.Photo).ToArray()), ("ratings", rated.Select(r => (short)r.Rating!.Value).ToArray()), ("person", Said.Person));
        }

        var tagged = fresh.Where(r => r.Tags is not null).Select(r => (r.Photo, Tags: TagName.All(r.Tags!).Take(PhotoWords.MostTags).Select(n => tags[n.Key]).ToHashSet())).ToArray();
        await TagStore.SetAsync(act, tagged.Select(t => t.Photo).ToArray(), [.. tagged.SelectMany(t => t.Tags.Select(tag => (t.Photo, tag)))], ct);
        return anew.Count(a => a.Anew.Cut);
    }

    /// <summary>All tags that rows name, by key; those that are not there yet are made.</summary>
    static async Task<IReadOnlyDictionary<string, TagId>> TagsAsync(Act act, IReadOnlyList<WordsRow> rows, CancellationToken ct)
    {
        var names = TagName.All(rows.SelectMany(r => r.Tags ?? []).Distinct(StringComparer.Ordinal));
        await TagStore.MakeSureAsync(act, names, ct);
        return await TagStore.ByKeyAsync(act, names, ct);
    }
}
