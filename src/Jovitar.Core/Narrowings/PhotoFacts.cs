namespace Jovitar.Core.Narrowings;

/// <summary>What is known of a photo for finding it.</summary>
/// <param name="Here">Whether it stands on a sheet: it does not lie in the bin.</param>
/// <param name="Taken">By the camera's clock; null when nobody knows.</param>
/// <param name="Arrived">UTC.</param>
/// <param name="Words">All that words are looked for in: title, caption, alternative text, tags, people, place, file name.</param>
/// <param name="Width">Pixels, as it is shown.</param>
public sealed record PhotoFacts(
    Guid Id, bool Here, DateTime? Taken, DateTime Arrived, string FileName, string Title, string Words, bool HasAlt, bool HasCredit, int Rating, string Decision, int Width, int Height, string Camera,
    string Lens, long Bytes, IReadOnlyList<Guid> Tags, IReadOnlyList<Guid> Categories, IReadOnlyList<Guid> Albums, IReadOnlyList<Guid> Intakes, IReadOnlyList<string> People, IReadOnlyList<string> Corrected)
{
    /// <summary>How often visitors have looked at it.</summary>
    public int Views { get; init; }

    /// <summary>Where its clearance stands.</summary>
    public string Clearance { get; init; } = "";

    /// <summary>What a sheet by time taken goes by: where no camera said it, when the photo arrived.</summary>
    public DateTime SortTaken => Taken ?? Arrived;
}

/// <summary>The outline of a picture in a word.</summary>
public static class PictureShape
{
    public const string Landscape = "landscape";
    public const string Portrait = "portrait";
    public const string Square = "square";
    public const string Panorama = "panorama";

    public static readonly IReadOnlyList<string> All = [Landscape, Portrait, Square, Panorama];

    /// <summary>Twice as long as high, or more, is a panorama; within three parts of a hundred it is a square (common practice).</summary>
    public static string Of(int width, int height)
    {
        var ratio = (double)width / height;
        return ratio is >= 2 or <= 0.5 ? Panorama : ratio is > 1 / 1.03 and < 1.03 ? Square : ratio > 1 ? Landscape : Portrait;
    }
}
