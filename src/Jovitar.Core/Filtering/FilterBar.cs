namespace Jovitar.Core.Filtering;

/// <summary>Buttons of a filter bar that stand together.</summary>
/// <param name="Name">What stands before them; empty for nothing.</param>
/// <param name="One">One of them is chosen at a time; else several.</param>
public sealed record FilterGroup(string Name, bool One);

/// <summary>One button of a filter bar.</summary>
/// <param name="Key">Its name in addresses; unique within the bar.</param>
/// <param name="Name">What visitors read.</param>
/// <param name="Group">Index of its group.</param>
/// <param name="Parent">Index of the entry of the same group that it stands beneath, or −1.</param>
/// <param name="Preset">It is chosen where nothing has been chosen yet.</param>
public sealed record FilterEntry(string Key, string Name, int Group, int Parent = -1, bool Preset = false);

/// <summary>What a filter bar shows for a choice: the photos that remain, and a count beside each entry.</summary>
/// <param name="Photos">Indices of the photos that remain, in order.</param>
/// <param name="Counts">For each entry: how many photos one would see with it and what is chosen in other groups.</param>
public sealed record Filtered(IReadOnlyList<int> Photos, IReadOnlyList<int> Counts);

/// <summary>
/// The buttons visitors narrow a page with. Within a group any chosen entry admits a photo ("or"); every group with a choice
/// must admit it ("and"). A parent admits what its children hold.
/// </summary>
public sealed class FilterBar
{
    /// <summary>The choice of nothing, in addresses of a page that opens with something chosen. No entry has it for its key.</summary>
    public const string Nothing = "all";

    readonly ulong[][] members;
    readonly int photoCount;
    readonly HashSet<int> preset;

    /// <summary>Makes a bar over photos.</summary>
    /// <param name="groups">In their order.</param>
    /// <param name="entries">The buttons, parents before their children.</param>
    /// <param name="photoCount">How many photos the page has.</param>
    /// <param name="holds">For each entry the indices of photos that carry it themselves.</param>
    public FilterBar(IReadOnlyList<FilterGroup> groups, IReadOnlyList<FilterEntry> entries, int photoCount, IReadOnlyList<IReadOnlyCollection<int>> holds)
    {
        (Groups, Entries) = (groups, entries);
        preset = Allowed(Enumerable.Range(0, entries.Count).Where(e => entries[e].Preset));
        this.photoCount = photoCount;
        members = new ulong[entries.Count][];
        for (var e = 0; e < entries.Count; e++)
        {
            members[e] = new ulong[(photoCount + 63) / 64];
            foreach (var photo in holds[e])
            {
                members[e][photo >> 6] |= 1UL << (photo & 63);
            }
        }

        // Children stand after their parents, so one pass from the end carries every photo up to the root.
        for (var e = entries.Count - 1; e >= 0; e--)
        {
            if (entries[e].Parent >= 0)
            {
                Add(members[entries[e].Parent], members[e]);
            }
        }
    }

    /// <summary>A bar without buttons.</summary>
    public static FilterBar None(int photoCount) => new([], [], photoCount, []);

    public IReadOnlyList<FilterGroup> Groups { get; }

    public IReadOnlyList<FilterEntry> Entries { get; }

    /// <summary>
    /// Reads a choice from an address: keys joined by commas; nothing for what is chosen when the page is opened. Unknown keys are
    /// passed over, so an old link still opens; of a group with one choice at a time the first counts.
    /// </summary>
    public IReadOnlySet<int> Read(string? keys)
    {
        var wanted = (keys ?? "").Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries).ToHashSet(StringComparer.Ordinal);
        return wanted.Count == 0 ? preset : Allowed(Enumerable.Range(0, Entries.Count).Where(e => wanted.Contains(Entries[e].Key)));
    }

    /// <summary>Writes a choice as it stands in an address.</summary>
    public string Write(IReadOnlySet<int> chosen) =>
        preset.SetEquals(chosen) ? "" : chosen.Count == 0 ? Nothing : string.Join(',', Enumerable.Range(0, Entries.Count).Where(chosen.Contains).Select(e => Entries[e].Key));

    /// <summary>Of a group with one choice at a time the first.</summary>
    HashSet<int> Allowed(IEnumerable<int> chosen) => [.. chosen.GroupBy(e => Entries[e].Group).SelectMany(g => Groups[g.Key].One ? g.Take(1) : g)];

    /// <summary>The choice after an entry has been pressed: a chosen one is let go, another is added, or takes the place of the one before.</summary>
    /// <remarks>Choosing a child lets go of its parents and the other way round, for together they would say the same as the parent alone.</remarks>
    public IReadOnlySet<int> Press(IReadOnlySet<int> chosen, int entry)
    {
        var (group, one) = (Entries[entry].Group, Groups[Entries[entry].Group].One);
        var next = chosen.Where(c => c != entry && !(one && Entries[c].Group == group) && !IsBeneath(c, entry) && !IsBeneath(entry, c)).ToHashSet();
        if (!chosen.Contains(entry))
        {
            next.Add(entry);
        }

        return next;
    }

    /// <summary>The photos that a choice leaves, and every entry's count.</summary>
    public Filtered Apply(IReadOnlySet<int> chosen) => Apply(chosen, []);

    /// <summary>The photos that a choice leaves, and every entry's count, as if some photos were not there.</summary>
    /// <param name="without">The indices of those.</param>
    public Filtered Apply(IReadOnlySet<int> chosen, IReadOnlyCollection<int> without)
    {
        var there = All();
        foreach (var photo in without)
        {
            there[photo >> 6] &= ~(1UL << (photo & 63));
        }

        ulong[][] admitted = [.. Enumerable.Range(0, Groups.Count).Select(g => Admitted(chosen, g))];
        var shown = (ulong[])there.Clone();
        foreach (var set in admitted)
        {
            Keep(shown, set);
        }

        var counts = new int[Entries.Count];
        for (var group = 0; group < Groups.Count; group++)
        {
            var others = (ulong[])there.Clone();
            foreach (var (other, set) in admitted.Index())
            {
                if (other != group)
                {
                    Keep(others, set);
                }
            }

            for (var e = 0; e < Entries.Count; e++)
            {
                if (Entries[e].Group == group)
                {
                    counts[e] = CountBoth(others, members[e]);
                }
            }
        }

        return new Filtered(Indices(shown), counts);
    }

    bool IsBeneath(int entry, int ancestor)
    {
        for (var e = Entries[entry].Parent; e >= 0; e = Entries[e].Parent)
        {
            if (e == ancestor)
            {
                return true;
            }
        }

        return false;
    }

    ulong[] Admitted(IReadOnlySet<int> chosen, int group)
    {
        var mine = chosen.Where(e => Entries[e].Group == group).ToArray();
        if (mine.Length == 0)
        {
            return All();
        }

        var set = new ulong[(photoCount + 63) / 64];
        foreach (var e in mine)
        {
            Add(set, members[e]);
        }

        return set;
    }

    ulong[] All()
    {
        var set = new ulong[(photoCount + 63) / 64];
        Array.Fill(set, ulong.MaxValue);
        if ((photoCount & 63) != 0)
        {
            set[^1] = (1UL << (photoCount & 63)) - 1;
        }

        return set;
    }

    static void Add(ulong[] to, ulong[] from)
    {
        for (var i = 0; i < to.Length; i++)
        {
            to[i] |= from[i];
        }
    }

    static void Keep(ulong[] to, ulong[] from)
    {
        for (var i = 0; i < to.Length; i++)
        {
            to[i] &= from[i];
        }
    }

    static int CountBoth(ulong[] a, ulong[] b)
    {
        var count = 0;
        for (var i = 0; i < a.Length; i++)
        {
            count += System.Numerics.BitOperations.PopCount(a[i] & b[i]);
        }

        return count;
    }

    static List<int> Indices(ulong[] set)
    {
        var list = new List<int>();
        for (var i = 0; i < set.Length; i++)
        {
            for (var word = set[i]; word != 0; word &= word - 1)
            {
                list.Add((i << 6) + System.Numerics.BitOperations.TrailingZeroCount(word));
            }
        }

        return list;
    }
}
