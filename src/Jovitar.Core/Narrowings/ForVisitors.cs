using Jovitar.Core.Clearance;
using Jovitar.Core.Photos;

namespace Jovitar.Core.Narrowings;

/// <summary>What of the photos of an album or a category no visitor sees, wherever it stands, in the words of a narrowing.</summary>
public static class ForVisitors
{
    /// <summary>What is held for want of clearance.</summary>
    /// <param name="clearanceNeeded">The site shows only what is cleared.</param>
    public static NarrowingPart Held(bool clearanceNeeded) => new(PartKind.Clearance, false, clearanceNeeded ? [Clearances.NotCleared, Narrowing.None] : [Clearances.NotCleared]);

    /// <summary>What is neither left out nor held.</summary>
    public static IReadOnlyList<NarrowingPart> Shown(bool clearanceNeeded) => [new NarrowingPart(PartKind.Decision, true, [Decisions.LeaveOut]), Held(clearanceNeeded) with { Not = true }];
}
