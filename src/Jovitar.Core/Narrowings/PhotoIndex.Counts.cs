using System.Globalization;

namespace Jovitar.Core.Narrowings;

/// <summary>How many photos each choice would find.</summary>
public sealed partial class PhotoIndex
{
    /// <summary>
    /// How many would be found with each choice: beside what else the narrowing says, and alone in its part. Choices that no photo
    /// has are not named. In order: times forward, numbers upward, the rest by how many.
    /// </summary>
    /// <param name="most">So many choices of a part at most.</param>
    /// <param name="inBin">Of the photos in the bin, instead of those that are here.</param>
    public IReadOnlyDictionary<PartKind, IReadOnlyList<(string Choice, int Count)>> Counts(Narrowing narrowing, int most, bool inBin = false)
    {
        lock (gate)
        {
            var all = new Dictionary<PartKind, IReadOnlyList<(string, int)>>();
            foreach (var kind in Enum.GetValues<PartKind>())
            {
                var among = Find(narrowing.Without(kind), inBin);
                all[kind] = [.. Tally(kind, among).Take(most)];
            }

            return all;
        }
    }

    /// <summary>How many photos each album, category or tag holds itself, not counting what stands beneath it.</summary>
    /// <param name="kind">One of the three.</param>
    /// <param name="among">Of these photos alone; null for all.</param>
    public IReadOnlyDictionary<Guid, int> Holding(PartKind kind, Narrowing? among = null)
    {
        lock (gate)
        {
            var facet = kind switch { PartKind.Album => albums, PartKind.Category => categories, PartKind.Tag => tags, _ => throw new ArgumentOutOfRangeException(nameof(kind)) };
            return Several(facet, Find(among ?? Narrowing.Nothing), Alone).Where(c => c.Choice != Narrowing.None).ToDictionary(c => Guid.Parse(c.Choice), c => c.Count);
        }
    }

    /// <summary>How many photos each category holds together with all beneath it, each photo once.</summary>
    public IReadOnlyDictionary<Guid, int> HoldingBeneath()
    {
        lock (gate)
        {
            return Several(categories, Here(), Up).Where(c => c.Choice != Narrowing.None).ToDictionary(c => Guid.Parse(c.Choice), c => c.Count);
        }
    }

    /// <summary>Of each album or category that holds photos with a rating, those with its highest, in the order of their arrival here.</summary>
    /// <param name="kind">One of the two.</param>
    /// <param name="most">So many of each at most.</param>
    /// <param name="among">Of these photos.</param>
    /// <param name="only">Of these albums or categories alone; null for all there are.</param>
    public IReadOnlyDictionary<Guid, IReadOnlyList<Guid>> HighestRated(PartKind kind, int most, Narrowing among, IReadOnlyCollection<Guid>? only = null)
    {
        lock (gate)
        {
            var facet = kind switch { PartKind.Album => albums, PartKind.Category => categories, _ => throw new ArgumentOutOfRangeException(nameof(kind)) };
            var best = new Dictionary<Guid, (int Rating, List<Guid> Photos)>();
            var rated = rating.Test(r => r > 0).Where(ids.Count);
            rated.Keep(Find(among));
            if (only is not null)
            {
                rated.Keep(facet.Test(holders => holders.All.Any(only.Contains)).Where(ids.Count));
            }

            foreach (var n in rated.Numbers())
            {
                foreach (var holder in facet[n].All.Where(h => only is null || only.Contains(h)))
                {
                    if (!best.TryGetValue(holder, out var so) || so.Rating < rating[n])
                    {
                        best[holder] = (rating[n], [ids[n]]);
                    }
                    else if (so.Rating == rating[n] && so.Photos.Count < most)
                    {
                        so.Photos.Add(ids[n]);
                    }
                }
            }

            return best.ToDictionary(b => b.Key, b => (IReadOnlyList<Guid>)b.Value.Photos);
        }
    }

    /// <summary>The people that photos show, the most shown first.</summary>
    public IReadOnlyList<(string Name, int Photos)> People()
    {
        lock (gate)
        {
            return [.. Several(people, Here(), Alone).Where(c => c.Choice != Narrowing.None)];
        }
    }

    IEnumerable<(string Choice, int Count)> Tally(PartKind kind, PhotoSet among) => kind switch
    {
        PartKind.Album => Several(albums, among, Alone),
        PartKind.Category => Several(categories, among, Up),
        PartKind.Tag => Several(tags, among, Alone),
        PartKind.Intake => Several(intakes, among, Alone),
        PartKind.Source => Several(intakes, among, id => (string[])[From(id)]),
        PartKind.People => Several(people, among, Alone),
        PartKind.Corrected => Several(corrected, among, Alone),
        PartKind.Taken => TakenSpan.Bars([.. day.Tally(among)]),
        PartKind.Camera => Named(camera.Tally(among)),
        PartKind.Lens => Named(lens.Tally(among)),
        PartKind.Decision => Named(decision.Tally(among)),
        PartKind.Clearance => Named(clearance.Tally(among)),
        PartKind.Rating => rating.Tally(among).OrderBy(t => t.Value).Select(t => (t.Value.ToString(CultureInfo.InvariantCulture), t.Count)),
        PartKind.Shape => shape.Tally(among).OrderByDescending(t => t.Count),
        PartKind.Pixels => PixelSpan.Usual.Select(s => (s.ToString(), pixels.Tally(among).Where(t => s.Holds(t.Value)).Sum(t => t.Count))).Where(t => t.Item2 > 0),
        _ => Lacks.Select(l => (l.Name, missing.Tally(among).Where(t => (t.Value & l.Bit) != 0).Sum(t => t.Count))).Where(t => t.Item2 > 0),
    };

    static IEnumerable<(string, int)> Named(IEnumerable<(string Value, int Count)> tally) =>
        tally.OrderByDescending(t => t.Count).ThenBy(t => t.Value, StringComparer.Ordinal).Select(t => (t.Value.Length == 0 ? Narrowing.None : t.Value, t.Count));

    static IEnumerable<T> Alone<T>(T thing) => [thing];

    /// <summary>Counts of what photos may have several of; each photo counts once for what its own stand beneath.</summary>
    static IEnumerable<(string Choice, int Count)> Several<T, TChoice>(Facet<Many<T>> facet, PhotoSet among, Func<T, IEnumerable<TChoice>> with)
        where T : notnull
        where TChoice : notnull
    {
        var counts = new Dictionary<TChoice, int>();
        var none = 0;
        foreach (var (set, count) in facet.Tally(among))
        {
            if (set.All.Length == 0)
            {
                none += count;
            }

            foreach (var id in set.All.SelectMany(with).Distinct())
            {
                counts[id] = counts.GetValueOrDefault(id) + count;
            }
        }

        return counts.Select(c => (Choice: c.Key.ToString()!, Count: c.Value)).OrderByDescending(c => c.Count).ThenBy(c => c.Choice, StringComparer.Ordinal).Prepend((Narrowing.None, none)).Where(c => c.Item2 > 0);
    }
}
