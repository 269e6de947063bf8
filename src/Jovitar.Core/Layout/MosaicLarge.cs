namespace Jovitar.Core.Layout;

/// <summary>By what photos of a mosaic take more room. Kept by name.</summary>
public enum LargeBy
{
    /// <summary>Those rated highest, but not more than some.</summary>
    Rating,

    /// <summary>Those that were chosen by hand.</summary>
    Chosen,

    /// <summary>One after so many, beginning with the first.</summary>
    Turn,
}

/// <summary>Which photos of a mosaic take more room.</summary>
/// <param name="Photos">Those chosen by hand; kept while it goes by something else.</param>
public sealed record MosaicLarge(LargeBy By, IReadOnlyList<PhotoId> Photos)
{
    /// <summary>One in so many may be large by its rating: where everything is large, nothing is.</summary>
    public const int OneIn = 5;

    /// <summary>One of so many is large in turn.</summary>
    public const int Turn = 7;

    public const int MostChosen = 500;

    public string? Fault() => Photos.Count > MostChosen ? $"{MostChosen} photos of a mosaic may be chosen to stand large." : null;

    /// <summary>
    /// Which take more room. By rating: all with the same rating or none of them, from the highest down while they are not more than
    /// one in <see cref="OneIn"/>; where already the highest are more, so many of them, spread evenly. Where none is rated, in turn.
    /// </summary>
    /// <param name="photos">The photos in their order, with their ratings; 0 for none.</param>
    public bool[] Of(IReadOnlyList<(PhotoId Id, int Rating)> photos)
    {
        if (By == LargeBy.Chosen)
        {
            var chosen = Photos.ToHashSet();
            return [.. photos.Select(p => chosen.Contains(p.Id))];
        }

        var highest = photos.Count == 0 ? 0 : photos.Max(p => p.Rating);
        if (By == LargeBy.Turn || highest <= 0)
        {
            return [.. photos.Select((_, i) => i % Turn == 0)];
        }

        var room = (photos.Count + OneIn - 1) / OneIn;
        var (least, taken) = (highest, photos.Count(p => p.Rating == highest));
        if (taken > room)
        {
            var (large, nth) = (new bool[photos.Count], 0L);
            for (var i = 0; i < large.Length; i++)
            {
                // The nth of so many is one of those spread evenly where nth·room/taken comes to another whole number.
                large[i] = photos[i].Rating == highest && nth++ * room % taken < room;
            }

            return large;
        }

        for (var rating = highest - 1; rating > 0 && taken + photos.Count(p => p.Rating == rating) is var more && more <= room; rating--)
        {
            (least, taken) = (rating, more);
        }

        return [.. photos.Select(p => p.Rating >= least)];
    }
}
