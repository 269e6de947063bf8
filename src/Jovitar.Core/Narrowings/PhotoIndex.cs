namespace Jovitar.Core.Narrowings;

/// <summary>Photos found: a span of them in order, and how many there are.</summary>
public sealed record Found(IReadOnlyList<Guid> Photos, int Total);

/// <summary>Where a photo stands among those found.</summary>
/// <param name="Position">1 = first.</param>
public sealed record Standing(Guid? Before, Guid? After, int Position, int Total);

/// <summary>
/// Everything that photos are found by, in memory: narrowed, ordered and counted without a look at the database. Safe to be used
/// from several threads. What it holds is what it was told; whoever owns it tells it of every change.
/// </summary>
public sealed partial class PhotoIndex
{
    /// <summary>Of so many narrowings the outcome is kept until something changes.</summary>
    const int MostKept = 8;

    /// <summary>So far from the first, what is found is counted off anew rather than put in order whole.</summary>
    const int NearTheStart = 2000;

    readonly Lock gate = new();
    readonly Dictionary<Guid, int> numbers = [];
    readonly List<Guid> ids = [];
    readonly List<bool> here = [];
    readonly Column<DateTime> sortTaken = new(default);
    readonly Column<DateTime> arrived = new(default);
    readonly Facet<DateOnly> day = new(default);
    readonly Column<string> name = new("");
    readonly Column<string> title = new("");
    readonly Facet<int> missing = new(0);
    readonly Facet<int> rating = new(0);
    readonly Facet<string> decision = new("", StringComparer.Ordinal);
    readonly Facet<string> clearance = new("", StringComparer.Ordinal);
    readonly Facet<string> shape = new("", StringComparer.Ordinal);
    readonly Facet<int> pixels = new(0);
    readonly Facet<string> camera = new("", StringComparer.Ordinal);
    readonly Facet<string> lens = new("", StringComparer.Ordinal);
    readonly Facet<Many<Guid>> tags = new(Many<Guid>.None);
    readonly Facet<Many<Guid>> categories = new(Many<Guid>.None);
    readonly Facet<Many<Guid>> albums = new(Many<Guid>.None);
    readonly Facet<Many<Guid>> intakes = new(Many<Guid>.None);
    readonly Facet<Many<string>> people = new(Many<string>.None);
    readonly Facet<Many<string>> corrected = new(Many<string>.None);
    readonly Column<long> bytes = new(0);
    readonly Column<int> views = new(0);
    readonly WordIndex words = new();
    readonly Dictionary<SheetSort, SheetOrder> orders;
    readonly Dictionary<string, PhotoSet> kept = [];
    readonly Dictionary<(string, SheetSort), int[]> keptOrders = [];
    readonly Dictionary<Guid, string> sources = [];
    Dictionary<Guid, Guid?> parents = [];
    PhotoSet? allHere;
    PhotoSet? allBinned;
    int holes;

    public PhotoIndex() => orders = new()
    {
        [SheetSort.Taken] = new SheetOrder((a, b) => Then(sortTaken[a].CompareTo(sortTaken[b]), a, b)),
        [SheetSort.Arrived] = new SheetOrder((a, b) => Then(arrived[a].CompareTo(arrived[b]), a, b)),
        [SheetSort.Name] = new SheetOrder((a, b) => Then(string.CompareOrdinal(name[a], name[b]), a, b)),
        [SheetSort.Title] = new SheetOrder((a, b) => Then(ByTitle(a, b), a, b)),
        [SheetSort.Views] = new SheetOrder((a, b) => Then(views[a].CompareTo(views[b]), a, b)),
        [SheetSort.Rating] = new SheetOrder((a, b) => Then(rating[a].CompareTo(rating[b]), a, b)),
    };

    /// <summary>Photos that are or ever were in it and leave a hole, or values nobody has any more: it is time to make it anew.</summary>
    public bool IsWorn => holes > (ids.Count / 2) + 1000 || tags.Values + categories.Values + albums.Values + intakes.Values + people.Values > (4 * ids.Count) + 10_000;

    /// <summary>All bytes of the originals it knows, those of photos in the bin with them.</summary>
    public long Bytes { get; private set; }

    /// <summary>Says what is known of a photo now.</summary>
    public void Set(PhotoFacts facts)
    {
        lock (gate)
        {
            if (!numbers.TryGetValue(facts.Id, out var n))
            {
                n = ids.Count;
                numbers[facts.Id] = n;
                ids.Add(facts.Id);
                here.Add(false);
            }

            here[n] = facts.Here;
            Bytes += facts.Bytes - bytes[n];
            bytes[n] = facts.Bytes;
            sortTaken[n] = facts.SortTaken;
            arrived[n] = facts.Arrived;
            day.Set(n, facts.Taken is { } taken ? DateOnly.FromDateTime(taken) : default);
            name[n] = facts.FileName.ToLowerInvariant();
            title[n] = facts.Title.Length == 0 ? "" : facts.Title.ToLowerInvariant();
            missing.Set(n, (facts.Title.Length == 0 ? 1 : 0) | (facts.HasAlt ? 0 : 2) | (facts.HasCredit ? 0 : 4) | (facts.Clearance.Length == 0 ? 8 : 0));
            rating.Set(n, facts.Rating);
            views[n] = facts.Views;
            decision.Set(n, facts.Decision);
            clearance.Set(n, facts.Clearance);
            shape.Set(n, PictureShape.Of(facts.Width, facts.Height));
            pixels.Set(n, Math.Max(facts.Width, facts.Height));
            camera.Set(n, facts.Camera);
            lens.Set(n, facts.Lens);
            tags.Set(n, SetOf(facts.Tags));
            categories.Set(n, SetOf(facts.Categories));
            albums.Set(n, SetOf(facts.Albums));
            intakes.Set(n, SetOf(facts.Intakes));
            people.Set(n, facts.People.Count == 0 ? Many<string>.None : new Many<string>(facts.People));
            corrected.Set(n, facts.Corrected.Count == 0 ? Many<string>.None : new Many<string>(facts.Corrected));
            words.Set(n, facts.Words);
            Moved(n);
        }
    }

    /// <summary>A photo is gone for good.</summary>
    public void Remove(Guid photo)
    {
        lock (gate)
        {
            if (numbers.Remove(photo, out var n))
            {
                here[n] = false;
                holes++;
                words.Set(n, "");
                Bytes -= bytes[n];
                bytes[n] = 0;
                Moved(n);
            }
        }
    }

    /// <summary>Says how categories stand beneath one another; a narrowing by one finds what stands beneath it.</summary>
    public void Tree(IReadOnlyDictionary<Guid, Guid?> parentOf)
    {
        lock (gate)
        {
            parents = new(parentOf);
            Forget();
        }
    }

    /// <summary>A span of the photos found, in order.</summary>
    /// <param name="down">From the last to the first.</param>
    /// <param name="from">0 = first.</param>
    /// <param name="byHand">The order made by hand, where that is what is asked for.</param>
    public Found Window(Narrowing narrowing, SheetSort sort, bool down, int from, int most, IReadOnlyList<Guid>? byHand = null)
    {
        lock (gate)
        {
            if (from <= NearTheStart && byHand is null && !narrowing.IsNothing && !keptOrders.ContainsKey((narrowing.ToString(), sort)))
            {
                return Beginning(narrowing, sort, down, from, most);
            }

            var order = Ordered(narrowing, sort, byHand);
            var span = new List<Guid>(Math.Max(0, Math.Min(most, order.Length - from)));
            for (var i = from; i < Math.Min((long)from + most, order.Length); i++)
            {
                span.Add(ids[order[down ? order.Length - 1 - i : i]]);
            }

            return new Found(span, order.Length);
        }
    }

    /// <summary>The first of those found: as far along the order of all as they reach, for after a change nobody waits for the rest.</summary>
    Found Beginning(Narrowing narrowing, SheetSort sort, bool down, int from, int most)
    {
        var (among, order) = (Find(narrowing), orders[sort].Sorted(Here()));
        var (span, passed, total) = (new List<Guid>(Math.Clamp(among.Count - from, 0, most)), 0, among.Count);
        for (var i = 0; i < order.Length && span.Count < most && from + span.Count < total; i++)
        {
            var photo = order[down ? order.Length - 1 - i : i];
            if (among.Contains(photo) && passed++ >= from)
            {
                span.Add(ids[photo]);
            }
        }

        return new Found(span, total);
    }

    /// <summary>Where a photo stands among those found; null when it is not among them.</summary>
    public Standing? Stands(Narrowing narrowing, SheetSort sort, bool down, Guid photo, IReadOnlyList<Guid>? byHand = null)
    {
        lock (gate)
        {
            var order = Ordered(narrowing, sort, byHand);
            if (Position(order, photo) is not { } at)
            {
                return null;
            }

            Guid? Beside(int place) => place < 0 || place >= order.Length ? null : ids[order[place]];
            var (before, after) = (Beside(at - 1), Beside(at + 1));
            return down ? new Standing(after, before, order.Length - at, order.Length) : new Standing(before, after, at + 1, order.Length);
        }
    }

    /// <summary>The photos from one to another, both counted in, however they are named; none when one of them is not found.</summary>
    public IReadOnlyList<Guid> Between(Narrowing narrowing, SheetSort sort, bool down, Guid one, Guid other, int most, IReadOnlyList<Guid>? byHand = null)
    {
        lock (gate)
        {
            var order = Ordered(narrowing, sort, byHand);
            if (Position(order, one) is not { } a || Position(order, other) is not { } b)
            {
                return [];
            }

            var span = order[Math.Min(a, b)..(Math.Max(a, b) + 1)].Select(n => ids[n]);
            return [.. (down ? span.Reverse() : span).Take(most)];
        }
    }

    /// <summary>Whether any of some photos is found. What it takes depends on how many are asked about, not on how many there are.</summary>
    public bool FindsAny(Narrowing narrowing, IReadOnlyCollection<Guid> photos)
    {
        lock (gate)
        {
            var some = photos.Select(p => numbers.GetValueOrDefault(p, -1)).Where(n => n >= 0 && here[n]);
            var tests = narrowing.Parts.Select(p => (p.Not, Has: Test(p))).ToArray();
            var beginnings = WordIndex.Fold(narrowing.Words).Distinct().ToArray();
            return some.Any(n => Array.TrueForAll(tests, t => t.Has.Has(n) != t.Not) && Array.TrueForAll(beginnings, w => words.Has(n, w)));
        }
    }

    /// <summary>Photos that are here, put in an order.</summary>
    public IReadOnlyList<Guid> InOrder(IEnumerable<Guid> photos, SheetSort sort, bool down)
    {
        lock (gate)
        {
            var some = photos.Select(p => numbers.GetValueOrDefault(p, -1)).Where(n => n >= 0 && here[n]).Distinct().ToArray();
            Array.Sort(some, orders[sort].Compare);
            return [.. (down ? some.Reverse() : some).Select(n => ids[n])];
        }
    }

    /// <summary>How many are found.</summary>
    public int Count(Narrowing narrowing)
    {
        lock (gate)
        {
            return Find(narrowing).Count;
        }
    }

    static Many<Guid> SetOf(IReadOnlyList<Guid> of) => of.Count == 0 ? Many<Guid>.None : new Many<Guid>(of);

    int Then(int by, int a, int b) => by != 0 ? by : ids[a].CompareTo(ids[b]);

    int ByTitle(int a, int b)
    {
        var (one, other) = (title[a], title[b]);
        return one.Length == 0 || other.Length == 0 ? (one.Length == 0).CompareTo(other.Length == 0) is not 0 and var bare ? bare : string.CompareOrdinal(name[a], name[b]) : string.CompareOrdinal(one, other);
    }

    void Moved(int n)
    {
        foreach (var order in orders.Values)
        {
            order.Move(n);
        }

        (allHere, allBinned) = (null, null);
        Forget();
    }

    void Forget()
    {
        kept.Clear();
        keptOrders.Clear();
    }

    int? Position(int[] order, Guid photo)
    {
        var at = numbers.TryGetValue(photo, out var n) ? Array.IndexOf(order, n) : -1;
        return at < 0 ? null : at;
    }

    int[] Ordered(Narrowing narrowing, SheetSort sort, IReadOnlyList<Guid>? byHand)
    {
        if (byHand is not null)
        {
            var among = Find(narrowing);
            return [.. byHand.Select(id => numbers.GetValueOrDefault(id, -1)).Where(n => n >= 0 && among.Contains(n))];
        }

        if (!keptOrders.TryGetValue((narrowing.ToString(), sort), out var found))
        {
            var all = orders[sort].Sorted(Here());
            if (!narrowing.IsNothing)
            {
                all = Find(narrowing).Among(all);
            }

            if (keptOrders.Count >= MostKept)
            {
                keptOrders.Clear();
            }

            keptOrders[(narrowing.ToString(), sort)] = found = all;
        }

        return found;
    }
}
