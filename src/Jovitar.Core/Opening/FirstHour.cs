namespace Jovitar.Core.Opening;

/// <summary>A step from nothing to a site that has visitors, in the order in which they are taken.</summary>
public enum FirstStep
{
    /// <summary>The site has a name.</summary>
    Name,

    /// <summary>It looks as its owner wants it to.</summary>
    Dress,

    /// <summary>Photos are in it.</summary>
    Fill,

    /// <summary>Visitors would find photos on it.</summary>
    Publish,

    /// <summary>Visitors may come in.</summary>
    Open,
}

/// <summary>How far a site has come.</summary>
/// <param name="IsDressed">Somebody chose how it looks, be it as it was.</param>
/// <param name="Shown">Pages that visitors find once it is open: those that were made, and those that albums in view have by themselves.</param>
public sealed record Beginnings(string Title, bool IsDressed, bool HasPhotos, long Shown, bool IsOpen);

/// <summary>A step, and whether it is taken.</summary>
public sealed record StepTaken(FirstStep Step, bool IsTaken);

/// <summary>The short path from a new site to an open one. Nothing is kept of it: what is there says how far one has come, so it can be left and taken up again, by anybody.</summary>
/// <param name="Next">What to do now; null when all is done.</param>
public sealed record FirstHour(IReadOnlyList<StepTaken> Steps, FirstStep? Next)
{
    public static FirstHour Of(Beginnings site)
    {
        StepTaken[] steps =
        [
            new(FirstStep.Name, site.Title.Length > 0),
            new(FirstStep.Dress, site.IsDressed),
            new(FirstStep.Fill, site.HasPhotos),
            new(FirstStep.Publish, site.Shown > 0),
            new(FirstStep.Open, site.IsOpen),
        ];
        return new FirstHour(steps, steps.FirstOrDefault(s => !s.IsTaken)?.Step);
    }
}
