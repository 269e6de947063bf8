namespace Jovitar.Core.Photos;

/// <summary>Photos taken in hand, to do something with all of them. Any number may be in hand.</summary>
public static class Hand
{
    /// <summary>So many photos are named one by one in a request, and listed one by one; more are reached through the hand itself.</summary>
    public const int Most = 5000;
}
