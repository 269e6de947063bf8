using Jovitar.Core.Narrowings;

namespace Jovitar.Server.Narrowings;

/// <summary>Photos that no visitor sees for want of clearance.</summary>
/// <param name="Search">What the address of the sheet says that shows them.</param>
internal sealed record HeldPhotos(int Count, string Search)
{
    /// <summary>What is held among the photos of a part of a narrowing.</summary>
    /// <param name="clearanceNeeded">The site shows only what is cleared.</param>
    public static Narrowing Among(NarrowingPart part, bool clearanceNeeded) => new("", [part, ForVisitors.Held(clearanceNeeded)]);

    /// <summary>So many of a narrowing; null for none.</summary>
    public static HeldPhotos? Of(Narrowing among, int count) => count > 0 ? new HeldPhotos(count, among.ToString()) : null;
}
