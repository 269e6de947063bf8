namespace Jovitar.Core.Sales;

/// <summary>How many photos of a sales gallery an option is offered of, and how they fit it.</summary>
/// <param name="Offered">Of so many it is offered.</param>
/// <param name="Good">Of so many of all it is large enough for anything.</param>
public sealed record OptionFits(Guid Option, int Offered, int Good, int Fair, int Poor, int TooSmall);

/// <summary>Counts how the photos of a sales gallery fit what it sells, one after another: there may be many.</summary>
public sealed class FitTally(PriceList list)
{
    readonly int[] offered = new int[list.Options.Count];
    readonly int[,] grades = new int[list.Options.Count, 4];

    public int Photos { get; private set; }

    /// <summary>Of so many nothing is offered at all.</summary>
    public int Nothing { get; private set; }

    /// <summary>Of each option, as they stand in the list.</summary>
    public IReadOnlyList<OptionFits> Options =>
        [.. list.Options.Select((o, i) => new OptionFits(o.Id, offered[i], grades[i, (int)PrintGrade.Good], grades[i, (int)PrintGrade.Fair], grades[i, (int)PrintGrade.Poor], grades[i, (int)PrintGrade.TooSmall]))];

    /// <param name="offers">Of a photo, every option in the order of the list.</param>
    /// <returns>Whether anything is offered of it.</returns>
    public bool Add(IReadOnlyList<Offer> offers)
    {
        Photos++;
        var any = false;
        for (var i = 0; i < offers.Count; i++)
        {
            any |= offers[i].IsOffered;
            offered[i] += offers[i].IsOffered ? 1 : 0;
            if (offers[i].Grade is { } grade)
            {
                grades[i, (int)grade]++;
            }
        }

        Nothing += any ? 0 : 1;
        return any;
    }
}
