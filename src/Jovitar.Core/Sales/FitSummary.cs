namespace Jovitar.Core.Sales;

/// <summary>How many photos of a sales gallery an option is offered of, and how they fit it.</summary>
/// <param name="Offered">Of so many it is offered.</param>
/// <param name="Good">Of so many of all it is large enough for anything.</param>
public sealed record OptionFits(Guid Option, int Offered, int Good, int Fair, int Poor, int TooSmall);

/// <summary>How the photos of a sales gallery fit what it sells.</summary>
/// <param name="Nothing">Of so many nothing is offered at all.</param>
public sealed record FitSummary(int Photos, int Nothing, IReadOnlyList<OptionFits> Options)
{
    /// <param name="offers">Of each photo, every option in the order of the list.</param>
    public static FitSummary Of(PriceList list, IReadOnlyCollection<IReadOnlyList<Offer>> offers) => new(
        offers.Count, offers.Count(o => !o.Any(x => x.IsOffered)),
        [
            .. list.Options.Select((option, i) =>
            {
                int With(PrintGrade grade) => offers.Count(o => o[i].Grade == grade);
                return new OptionFits(option.Id, offers.Count(o => o[i].IsOffered), With(PrintGrade.Good), With(PrintGrade.Fair), With(PrintGrade.Poor), With(PrintGrade.TooSmall));
            }),
        ]);
}
