using Jovitar.Core.Layout;

namespace Jovitar.Core.Pages;

/// <summary>How photos come that do not stand in a page from the start. Kept by name.</summary>
public enum MoreBy
{
    /// <summary>By themselves, as one comes to them.</summary>
    Scrolling,

    /// <summary>Beneath those that stand there, when a button is pressed.</summary>
    Button,

    /// <summary>On further pages, which are numbered.</summary>
    Numbers,
}

/// <summary>How many photos of a block stand there at once, and how others come.</summary>
/// <param name="Step">So many at once, and so many more at a press or on a page; kept while they come by scrolling.</param>
public sealed record More(MoreBy By, int Step)
{
    public const int LeastStep = 6;
    public const int MostStep = 240;

    /// <summary>Pages beside the present one that have a number, on either side.</summary>
    const int Beside = 1;

    public static readonly More Usual = new(MoreBy.Scrolling, 60);

    /// <summary>How many stand in a page when it is opened.</summary>
    public int AtFirst() => By == MoreBy.Scrolling ? Usual.Step : Step;

    public More Bounded() => this with { Step = Math.Clamp(Step, LeastStep, MostStep) };

    /// <summary>The first place of the page that holds a place, both from 0.</summary>
    public int PageFrom(int place) => place / AtFirst() * AtFirst();

    /// <summary>
    /// Of photos that are placed beneath each other, how many stand there until there is to be more: so many that they end where a
    /// row does, if at least half of them do; else as many as may.
    /// </summary>
    /// <param name="boxes">Of all of them, in their order.</param>
    /// <param name="most">At least 1.</param>
    public static int Cut(IReadOnlyList<Box> boxes, int most)
    {
        if (most >= boxes.Count)
        {
            return boxes.Count;
        }

        // What of those that follow stands highest, seen from the last.
        var follows = double.PositiveInfinity;
        for (var i = boxes.Count - 1; i >= most; i--)
        {
            follows = Math.Min(follows, boxes[i].Y);
        }

        var lowest = new double[most];
        for (var i = 0; i < most; i++)
        {
            lowest[i] = Math.Max(i == 0 ? 0 : lowest[i - 1], boxes[i].Bottom);
        }

        for (var count = most; count >= (most + 1) / 2; count--)
        {
            if (lowest[count - 1] <= follows + 0.01)
            {
                return count;
            }

            follows = Math.Min(follows, boxes[count - 1].Y);
        }

        return most;
    }

    /// <summary>
    /// The numbers of pages that are offered: the first, the last, the present one and those beside it; null where some are left out,
    /// which are never fewer than two.
    /// </summary>
    /// <param name="present">From 1.</param>
    public static IReadOnlyList<int?> Numbers(int present, int pages)
    {
        var shown = new List<int?>();
        var before = 0;
        foreach (var number in Enumerable.Range(1, pages).Where(n => n == 1 || n == pages || Math.Abs(n - present) <= Beside))
        {
            if (number - before == 2)
            {
                shown.Add(number - 1);
            }
            else if (number - before > 2)
            {
                shown.Add(null);
            }

            shown.Add(number);
            before = number;
        }

        return shown;
    }
}
