namespace Jovitar.Core.Pages;

/// <summary>Two people's work on one page, put together block by block, so that neither loses any.</summary>
/// <param name="Content">The page with the work of both; where they collide, with the one's own.</param>
/// <param name="Collisions">Blocks that both have changed, each to something else, and the fields "title", "description", "posted", "unlisted", "wide", "bare" and "look" likewise; empty where nothing stands in the way.</param>
public sealed record PageMerge(PageContent Content, IReadOnlyList<string> Collisions)
{
    /// <summary>Puts together what two made of the same page.</summary>
    /// <param name="was">What both began with.</param>
    /// <param name="mine">What the one made of it.</param>
    /// <param name="theirs">What the other made of it.</param>
    /// <remarks>
    /// A block that one has changed and the other has not is as the first made it. One that the first removed and the second changed
    /// stays, for what somebody has just written is not thrown away by somebody who had not seen it. The order is the one's own where
    /// both have one; blocks that the other added stand behind the same block there as here.
    /// </remarks>
    public static PageMerge Of(PageContent was, PageContent mine, PageContent theirs)
    {
        var collisions = new List<string>();
        T Field<T>(string name, Func<PageContent, T> of)
        {
            static bool Same(T one, T other) => EqualityComparer<T>.Default.Equals(one, other);
            if (!Same(of(mine), of(was)) && !Same(of(theirs), of(was)) && !Same(of(mine), of(theirs)))
            {
                collisions.Add(name);
            }

            return Same(of(mine), of(was)) ? of(theirs) : of(mine);
        }

        static Dictionary<BlockId, Block> Named(PageContent page) => page.Blocks.DistinctBy(b => b.Id).ToDictionary(b => b.Id);
        var (before, one, other) = (Named(was), Named(mine), Named(theirs));
        Block? Merged(BlockId id)
        {
            var (b, m, t) = (before.GetValueOrDefault(id), one.GetValueOrDefault(id), other.GetValueOrDefault(id));
            var (iChanged, theyChanged) = (m?.Said() != b?.Said(), t?.Said() != b?.Said());
            if (!iChanged)
            {
                return t;
            }

            if (!theyChanged)
            {
                return m;
            }

            if (m is not null && t is not null && m.Said() != t.Said())
            {
                collisions.Add(id.ToString());
            }

            return m ?? t;
        }

        BlockId[] Order(PageContent of) => [.. of.Blocks.Select(b => b.Id).Where(before.ContainsKey)];
        var common = Order(mine).Intersect(Order(theirs)).ToHashSet();
        var iMoved = !Order(mine).Where(common.Contains).SequenceEqual(Order(was).Where(common.Contains));
        var (leads, follows) = iMoved ? (mine, theirs) : (theirs, mine);
        var order = leads.Blocks.Select(b => b.Id).ToList();
        BlockId? behind = null;
        foreach (var id in follows.Blocks.Select(b => b.Id))
        {
            if (!order.Contains(id))
            {
                order.Insert(behind is { } at ? order.IndexOf(at) + 1 : 0, id);
            }

            behind = id;
        }

        var blocks = order.Select(Merged).OfType<Block>().ToArray();
        return new PageMerge(
            mine with
            {
                Title = Field("title", p => p.Title),
                Description = Field("description", p => p.Description),
                Posted = Field("posted", p => p.Posted),
                Unlisted = Field("unlisted", p => p.Unlisted),
                Wide = Field("wide", p => p.Wide),
                Bare = Field("bare", p => p.Bare),
                Look = Field("look", p => p.Look),
                Blocks = blocks,
            },
            collisions);
    }
}
