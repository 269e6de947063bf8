namespace Jovitar.Core.Photos;

/// <summary>Photos taken in hand, to do something with all of them.</summary>
public static class Hand
{
    /// <summary>So many are one act; what is more is narrowed and done in turns.</summary>
    public const int Most = 5000;
}
