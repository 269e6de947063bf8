namespace Jovitar.Core.Photos;

/// <summary>Two photos that look nearly the same.</summary>
public readonly record struct NearPair(PhotoId One, PhotoId Other);

/// <summary>Likely repeats (another size, saved again) and bursts (the same scene within seconds). Pointed out, never decided.</summary>
public static class Repeats
{
    /// <summary>So few bits apart, two photos count as one picture, whenever they were taken.</summary>
    public const int SamePicture = 7;

    /// <summary>So few bits apart, two photos of one burst count as one scene.</summary>
    public const int SameScene = 16;

    /// <summary>So close in time, photos may be one burst.</summary>
    public static readonly TimeSpan Burst = TimeSpan.FromSeconds(8);

    /// <summary>Whether two photos are pointed out.</summary>
    /// <param name="distance">Bits in which their perceptual hashes differ, 0 to 64.</param>
    /// <param name="apart">How far apart they were taken, not negative; null when that is not known of both.</param>
    public static bool AreNear(int distance, TimeSpan? apart) => distance <= SamePicture || (distance <= SameScene && apart <= Burst);

    /// <summary>Gathers pairs into groups: whatever hangs together stands together.</summary>
    /// <returns>Groups in the order in which their first pair stands, photos in the order in which they are met.</returns>
    public static IReadOnlyList<IReadOnlyList<PhotoId>> Groups(IEnumerable<NearPair> pairs)
    {
        var groups = new List<List<PhotoId>?>();
        var at = new Dictionary<PhotoId, int>();
        foreach (var (one, other) in pairs)
        {
            var hasOne = at.TryGetValue(one, out var a);
            var hasOther = at.TryGetValue(other, out var b);
            if (!hasOne && !hasOther)
            {
                at[one] = at[other] = groups.Count;
                groups.Add([one, other]);
            }
            else if (hasOne && hasOther)
            {
                if (a != b)
                {
                    var (to, from) = (Math.Min(a, b), Math.Max(a, b));
                    foreach (var photo in groups[from]!)
                    {
                        at[photo] = to;
                    }

                    groups[to]!.AddRange(groups[from]!);
                    groups[from] = null;
                }
            }
            else
            {
                var group = hasOne ? a : b;
                var added = hasOne ? other : one;
                at[added] = group;
                groups[group]!.Add(added);
            }
        }

        return [.. groups.OfType<List<PhotoId>>()];
    }
}
