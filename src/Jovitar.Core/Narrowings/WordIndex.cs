using System.Globalization;
using System.Text;

namespace Jovitar.Core.Narrowings;

/// <summary>Which photos have words that begin so. Case and accents do not count.</summary>
sealed class WordIndex
{
    /// <summary>So many new words are looked through one by one before they are sorted in among the others.</summary>
    const int MostRecent = 2048;

    /// <summary>Of so many beginnings the photos are kept: gathered once, they follow each change.</summary>
    const int MostKept = 16;

    /// <summary>Room for so many more photos in what is kept.</summary>
    const int Room = 4096;

    readonly Dictionary<string, PhotoSet> kept = new(StringComparer.Ordinal);
    readonly Dictionary<string, int> known = new(StringComparer.Ordinal);
    readonly List<string> spelt = [];
    readonly List<Postings> photos = [];
    readonly List<string> recent = [];
    string[] sorted = [];
    int[][] of = [];

    /// <summary>The words of a text as they are looked for: in Unicode normal form KD without marks (UAX #15), in small letters, cut where there is neither letter nor digit.</summary>
    public static IEnumerable<string> Fold(string text)
    {
        var word = new StringBuilder();
        foreach (var c in Ascii.IsValid(text) ? text : Text.IsSound(text) ? text.Normalize(NormalizationForm.FormKD) : "")
        {
            if (char.IsLetterOrDigit(c) || char.IsSurrogate(c))
            {
                word.Append(char.ToLowerInvariant(c));
            }
            else if (CharUnicodeInfo.GetUnicodeCategory(c) != UnicodeCategory.NonSpacingMark && word.Length > 0)
            {
                yield return word.ToString();
                word.Clear();
            }
        }

        if (word.Length > 0)
        {
            yield return word.ToString();
        }
    }

    /// <summary>Says which words a photo has, instead of those it had.</summary>
    public void Set(int photo, string text)
    {
        if (photo >= of.Length)
        {
            Array.Resize(ref of, Math.Max(photo + 1, of.Length + (of.Length / 2) + 64));
        }

        var before = of[photo] ?? [];
        var now = Fold(text).Select(Number).Distinct().ToArray();
        foreach (var gone in before)
        {
            if (!now.Contains(gone))
            {
                photos[gone].Remove(photo);
            }
        }

        foreach (var more in now)
        {
            if (!before.Contains(more))
            {
                photos[more].Add(photo);
            }
        }

        of[photo] = now;
        Follow(photo);
    }

    void Follow(int photo)
    {
        // Called for every photo that is read at the start, when nothing is kept yet.
        foreach (var (start, set) in kept)
        {
            if (photo >= set.Capacity)
            {
                kept.Clear();
                return;
            }

            set.Put(photo, Has(photo, start));
        }
    }

    /// <summary>Whether a photo has a word that begins so.</summary>
    public bool Has(int photo, string start) => Array.Exists(of[photo] ?? [], number => spelt[number].StartsWith(start, StringComparison.Ordinal));

    /// <summary>The same set for as long as it is looked for now and then, not to be changed; for one thread at a time.</summary>
    /// <inheritdoc cref="Beginning"/>
    public PhotoSet Kept(int capacity, string start)
    {
        if (kept.TryGetValue(start, out var there))
        {
            return there;
        }

        if (kept.Count >= MostKept)
        {
            kept.Clear();
        }

        return kept[start] = Beginning(capacity + Room, start);
    }

    /// <summary>The photos that have a word that begins so.</summary>
    public PhotoSet Beginning(int capacity, string start)
    {
        var set = new PhotoSet(capacity);
        void Take(string word)
        {
            photos[known[word]].AddTo(set);
        }

        var at = Array.BinarySearch(sorted, start, StringComparer.Ordinal);
        for (at = at < 0 ? ~at : at; at < sorted.Length && sorted[at].StartsWith(start, StringComparison.Ordinal); at++)
        {
            Take(sorted[at]);
        }

        recent.FindAll(w => w.StartsWith(start, StringComparison.Ordinal)).ForEach(Take);
        return set;
    }

    int Number(string word)
    {
        if (!known.TryGetValue(word, out var number))
        {
            number = photos.Count;
            known[word] = number;
            spelt.Add(word);
            photos.Add(new Postings());
            recent.Add(word);
            if (recent.Count > MostRecent + (sorted.Length / 8))
            {
                recent.Sort(StringComparer.Ordinal);
                sorted = Merge(sorted, recent);
                recent.Clear();
            }
        }

        return number;
    }

    static string[] Merge(string[] one, List<string> other)
    {
        var all = new string[one.Length + other.Count];
        for (int a = 0, b = 0, n = 0; n < all.Length; n++)
        {
            all[n] = b == other.Count || (a < one.Length && string.CompareOrdinal(one[a], other[b]) < 0) ? one[a++] : other[b++];
        }

        return all;
    }

    /// <summary>The photos that have one word, from the lowest. Most words, numbers above all, are one photo's: those need no list.</summary>
    sealed class Postings
    {
        int only = -1;
        List<int>? all;

        public void Add(int photo)
        {
            if (all is null && only < 0)
            {
                only = photo;
                return;
            }

            all ??= [only];
            var at = all[^1] < photo ? all.Count : ~all.BinarySearch(photo);
            all.Insert(at, photo);
        }

        public void Remove(int photo)
        {
            if (all is null)
            {
                only = -1;
                return;
            }

            all.RemoveAt(all.BinarySearch(photo));
            if (all.Count == 1)
            {
                (only, all) = (all[0], null);
            }
        }

        public void AddTo(PhotoSet set)
        {
            if (only >= 0 && all is null)
            {
                set.Add(only);
            }

            foreach (var photo in all ?? [])
            {
                set.Add(photo);
            }
        }
    }
}
