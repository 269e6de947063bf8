using System.Globalization;

namespace Jovitar.Core.Comments;

/// <summary>What visitors think of a photo, from 1 to 5 each. Apart from the rating that its own people gave it.</summary>
/// <param name="Count">How many visitors rated it.</param>
/// <param name="Sum">Of what they gave.</param>
public readonly record struct Ratings(long Count, long Sum)
{
    public const int Least = 1;
    public const int Most = 5;

    /// <summary>The arithmetic mean to one digit behind the point, halves rounded away from zero; null as long as nobody rated it.</summary>
    public decimal? Mean => Count == 0 ? null : Math.Round((decimal)Sum / Count, 1, MidpointRounding.AwayFromZero);

    /// <summary>One line; empty as long as nobody rated it.</summary>
    public string Line => Mean is not { } mean ? "" : string.Create(CultureInfo.InvariantCulture, $"{mean:0.0} of {Most}, from {Count:N0} {(Count == 1 ? "visitor" : "visitors")}");
}
