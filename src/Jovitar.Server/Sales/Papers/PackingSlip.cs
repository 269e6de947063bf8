using System.Globalization;
using Jovitar.Core;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Core.Sales.Papers;
using Jovitar.Core.Themes;
using Jovitar.Server.Sales.Ordering;

namespace Jovitar.Server.Sales.Papers;

/// <summary>What lies in a parcel: where it goes, what is in it, and what is not; no prices, for it may be a present.</summary>
internal static class PackingSlip
{
    const double Row = 19;
    const double PictureWidth = 22;

    /// <param name="pictures">Of each line, as it is printed; null where there is none any more.</param>
    public static byte[] Draw(string site, Colour accent, KeptOrder order, IReadOnlyList<PaperPicture?> pictures)
    {
        var placed = order.Placed;
        var number = string.Create(CultureInfo.InvariantCulture, $"Order {order.Number}");
        using var paper = new Paper(site, $"{number}, packing slip", PaperFormat.Of(placed.Home), accent);
        // Of who collects it no more than the name is kept.
        paper.Head(placed.Buyer.Lines(placed.Home), number, "", $"{Says(placed.Way.Delivery)}\nplaced {Days.Said(DateOnly.FromDateTime(order.At.UtcDateTime))}");
        var lines = placed.Lines.Index().ToArray();
        foreach (var (i, line) in lines.Where(l => !l.Item.Option.IsFile))
        {
            paper.Need(Row);
            paper.Rule(paper.Y);
            if (pictures[i] is { } picture)
            {
                paper.Picture(picture, Paper.Left, paper.Y + 2, PictureWidth, Row - 4);
            }

            paper.Words(string.Create(CultureInfo.InvariantCulture, $"{line.Count} ×"), Paper.Left + PictureWidth + 2, paper.Y + 3, 14, new PaperType(13, IsStrong: true), isRight: true);
            var (x, width) = (Paper.Left + PictureWidth + 20, paper.Width - PictureWidth - 20 - 12);
            var high = paper.Words(line.Bought, x, paper.Y + 3.2, width, new PaperType(11, IsStrong: true), most: 1);
            paper.Words($"{line.Called}\n{line.Gallery}", x, paper.Y + 3.6 + high, width, new PaperType(9, IsQuiet: true), most: 2);
            paper.Box(Paper.Left + paper.Width - 6, paper.Y + 5, 5);
            paper.Y += Row;
        }

        paper.Rule(paper.Y);
        paper.Y += 5;
        Add(paper, string.Join('\n', lines.Where(l => l.Item.Option.IsFile).Select(l => $"{l.Item.Called}, {l.Item.Option.Called}")), "Not in the parcel: files, to be fetched by the link of the order");
        Add(paper, placed.Message, "The order says", isQuoted: true);
        return paper.Finish();
    }

    static string Says(Delivery delivery) => delivery switch
    {
        Delivery.Files => "nothing is sent",
        Delivery.Collect => "to be collected",
        _ => $"by {OrderLetters.Called(delivery).ToLowerInvariant()}",
    };

    static void Add(Paper paper, string words, string heading, bool isQuoted = false)
    {
        if (words.Trim().Length == 0)
        {
            return;
        }

        paper.Need(14);
        paper.Y += paper.Words(heading, Paper.Left, paper.Y, paper.Width, new PaperType(9, IsQuiet: true)) + 1;
        paper.Paragraph(words, isQuoted);
    }
}
