namespace Jovitar.Core.Narrowings;

/// <summary>One thing known of every photo, where hardly two have the same.</summary>
sealed class Column<T>(T nothing)
{
    T[] of = [];

    public T this[int photo]
    {
        get => photo < of.Length ? of[photo] : nothing;
        set
        {
            if (photo >= of.Length)
            {
                Array.Resize(ref of, Math.Max(photo + 1, of.Length + (of.Length / 2) + 64));
            }

            of[photo] = value;
        }
    }
}

/// <summary>A question about one thing known of photos.</summary>
interface IFacetTest
{
    bool Has(int photo);

    /// <summary>All photos, below a number, of which it is true.</summary>
    PhotoSet Where(int photos);
}

/// <summary>
/// One thing known of every photo. Equal values are kept once and photos hold their numbers, so that asking which photos fit is
/// one look at every value and one pass over small numbers, and counting is the same.
/// </summary>
sealed class Facet<T>(T nothing, IEqualityComparer<T>? same = null)
    where T : notnull
{
    readonly Dictionary<T, int> known = new(same) { [nothing] = 0 };
    readonly List<T> values = [nothing];
    int[] of = [];

    /// <summary>Values that were ever seen; some may have no photo any more.</summary>
    public int Values => values.Count;

    public T this[int photo] => values[of[photo]];

    public void Set(int photo, T value)
    {
        if (photo >= of.Length)
        {
            Array.Resize(ref of, Math.Max(photo + 1, of.Length + (of.Length / 2) + 64));
        }

        if (!known.TryGetValue(value, out var number))
        {
            number = values.Count;
            known[value] = number;
            values.Add(value);
        }

        of[photo] = number;
    }

    /// <summary>Whether a value fits, to be asked of one photo or of all.</summary>
    public IFacetTest Test(Func<T, bool> fits) => new Fit(this, fits);

    sealed class Fit(Facet<T> facet, Func<T, bool> fits) : IFacetTest
    {
        public bool Has(int photo) => fits(facet[photo]);

        public PhotoSet Where(int photos) => facet.Where(photos, fits);
    }

    /// <summary>The photos whose value fits.</summary>
    PhotoSet Where(int photos, Func<T, bool> fits)
    {
        var set = new PhotoSet(photos);
        var yes = new bool[values.Count];
        var any = false;
        for (var i = 0; i < yes.Length; i++)
        {
            any |= yes[i] = fits(values[i]);
        }

        if (any)
        {
            set.AddWhere(photos, of, yes);
        }

        return set;
    }

    /// <summary>How often each value stands among some photos.</summary>
    public IEnumerable<(T Value, int Count)> Tally(PhotoSet among)
    {
        var counts = new int[values.Count];
        among.Tally(of, counts);
        for (var i = 0; i < counts.Length; i++)
        {
            if (counts[i] > 0)
            {
                yield return (values[i], counts[i]);
            }
        }
    }
}

/// <summary>Several things of one photo, each once and in order; equal by content.</summary>
sealed class Many<T> : IEquatable<Many<T>>
    where T : notnull
{
    public static readonly Many<T> None = new([]);

    readonly int hash;

    public Many(IEnumerable<T> things)
    {
        All = [.. things.Distinct().Order(typeof(T) == typeof(string) ? (IComparer<T>)StringComparer.Ordinal : Comparer<T>.Default)];
        var code = new HashCode();
        foreach (var thing in All)
        {
            code.Add(thing);
        }

        hash = code.ToHashCode();
    }

    public T[] All { get; }

    public bool Equals(Many<T>? other) => other is not null && hash == other.hash && All.AsSpan().SequenceEqual(other.All);

    public override bool Equals(object? obj) => Equals(obj as Many<T>);

    public override int GetHashCode() => hash;
}
