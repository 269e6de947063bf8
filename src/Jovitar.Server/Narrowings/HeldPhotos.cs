using Jovitar.Core.Narrowings;

namespace Jovitar.Server.Narrowings;

/// <summary>Photos that no visitor sees for want of clearance.</summary>
/// <param name="Search">What the address of the sheet says that shows them.</param>
internal sealed record HeldPhotos(int Count, string Search)
{
    /// <summary>Those among the photos of a part of a narrowing; null where there are none.</summary>
    /// <param name="clearanceNeeded">The site shows only what is cleared.</param>
    public static HeldPhotos? Among(NarrowingPart part, bool clearanceNeeded, Func<Narrowing, int> count)
    {
        var narrowing = new Narrowing("", [part, ForVisitors.Held(clearanceNeeded)]);
        return count(narrowing) is > 0 and var held ? new HeldPhotos(held, narrowing.ToString()) : null;
    }
}
