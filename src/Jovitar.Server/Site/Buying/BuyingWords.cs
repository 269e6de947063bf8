using Jovitar.Core.Corrections;
using Jovitar.Core.Sales;

namespace Jovitar.Server.Site.Buying;

/// <summary>What buyers are told of an option besides its name.</summary>
internal static class BuyingWords
{
    /// <summary>What the form says where nothing is to be cut off.</summary>
    public const string Whole = "whole";

    /// <summary>White is to be left, and can be.</summary>
    public static bool IsWhole(IFormCollection form, Offer offer) => offer.CanBeWhole && WantsWhole(form);

    /// <summary>White is to be left wherever it can be.</summary>
    public static bool WantsWhole(IFormCollection form) => form["fit"] == Whole;

    /// <summary>What is cut off, and what goes round the edges; empty for nothing.</summary>
    /// <param name="photo">As it is corrected, pixels.</param>
    public static string Cut(Offer offer, PixelSize photo)
    {
        if (offer.Fit is not { } fit)
        {
            return "";
        }

        var cut = !fit.IsCut ? "" : $"{Share(fit.Lost)} is cut off {(fit.CutsSides(photo) ? "at the sides" : "above or below")}.";
        var round = !fit.GoesRound ? "" : $"{Share(fit.Round)} goes round its edges.";
        return $"{cut} {round}".Trim();
    }

    /// <summary>How often and how long a file is there; empty for always.</summary>
    public static string Terms(SaleOption option) =>
        (option.Downloads, option.Days) switch
        {
            ({ } times, { } days) => $"To be fetched {Times(times)} within {days} days.",
            ({ } times, null) => $"To be fetched {Times(times)}.",
            (null, { } days) => $"To be fetched for {days} days.",
            _ => "",
        };

    /// <summary>What is bought, and how many of it, where that is more than one: sizes have crosses of their own.</summary>
    public static string Pieces(string bought, int count) => count > 1 ? $"{bought}, {count} pieces" : bought;

    /// <summary>Of how many of several photos something is offered.</summary>
    public static string OfSome(int photos, int all) => $"Of {photos} of these {all} photographs; the others are too small for it, or not sold so.";

    /// <summary>How many are left of an edition.</summary>
    public static string Left(int left) => left == 1 ? "One is left of it." : FormattableString.Invariant($"{left:N0} are left of it.");

    static string Times(int times) => times == 1 ? "once" : $"{times} times";

    static string Share(double share) => FormattableString.Invariant($"{Math.Max(1, Math.Round(share * 100)):0} %");
}
