using Jovitar.Core.Narrowings;

namespace Jovitar.Core.Filtering;

/// <summary>The words by which visitors find photos: a photo is found where each word that is asked for begins a word of it. Case and accents do not count.</summary>
public sealed class PhotoSearch
{
    /// <summary>Longest question; what follows is passed over.</summary>
    public const int Longest = 100;

    readonly WordIndex words = new();
    readonly int photoCount;

    /// <param name="texts">The words of each photo, in the photos' order.</param>
    public PhotoSearch(IReadOnlyList<string> texts)
    {
        photoCount = texts.Count;
        foreach (var (photo, text) in texts.Index())
        {
            words.Set(photo, text);
        }
    }

    /// <summary>A question as it stands in addresses: without what is at its ends, and no longer than is looked for.</summary>
    public static string Read(string? asked) => Text.Cut((asked ?? "").Trim(), Longest).TrimEnd();

    /// <summary>The photos that are not found; none where nothing is asked for.</summary>
    /// <param name="asked">Words, in any order. Signs that are no letters and digits part them.</param>
    public IReadOnlyCollection<int> Missing(string asked)
    {
        var starts = WordIndex.Fold(asked).Distinct().ToArray();
        if (starts.Length == 0)
        {
            return [];
        }

        var found = words.Beginning(photoCount, starts[0]);
        foreach (var start in starts.AsSpan(1))
        {
            found.Keep(words.Beginning(photoCount, start));
        }

        return [.. Enumerable.Range(0, photoCount).Where(p => !found.Contains(p))];
    }
}
