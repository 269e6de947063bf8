namespace Jovitar.Core.Access;

/// <summary>Why visitors will not see some photos of a page, a sentence for all of whom the same is true.</summary>
public static class UnseenWords
{
    /// <summary>Photos that no visitor sees.</summary>
    /// <param name="reason">The first that speaks against them.</param>
    public static string Said(Reason reason, int photos)
    {
        var (one, are) = (photos == 1, photos == 1 ? "One is" : $"{photos:#,0} are");
        return reason switch
        {
            Reason.NotReadyYet => $"{are} still being made ready.",
            Reason.CouldNotBeMadeReady => $"{(one ? "One" : $"{photos:#,0}")} could not be made ready.",
            Reason.LeftOutEverywhere => $"{are} left out everywhere.",
            Reason.NotCleared => $"{are} not cleared.",
            Reason.SomebodySaysNo => one ? "One shows somebody who says no." : $"{photos:#,0} show somebody who says no.",
            Reason.NotClearedYet => one ? "One nobody has cleared yet." : $"{photos:#,0} nobody has cleared yet.",
            Reason.ClearanceRanOut => one ? "Of one the clearance has ended." : $"Of {photos:#,0} the clearance has ended.",
            Reason.OutOfView => one ? "One stands only in an album that is out of view." : $"{photos:#,0} stand only in albums that are out of view.",
            _ => $"{are} not shown.",
        };
    }

    /// <summary>Photos that some visitors see.</summary>
    /// <param name="gates">What does not let everyone in to them.</param>
    public static string ForSome(IReadOnlyList<Gate> gates, int photos, DateTimeOffset at) =>
        $"{(photos == 1 ? "One is" : $"{photos:#,0} are")} for some alone. {string.Join(' ', gates.Select(g => GateWords.Said(g, at, many: photos != 1)))}";
}
