using System.Globalization;
using Jovitar.Core.Sales.Papers;
using Jovitar.Core.Themes;

namespace Jovitar.Server.Sales.Papers;

/// <summary>What is to be made and gathered for orders, on paper: to be ticked beside the printer.</summary>
internal static class PickPaper
{
    const double Row = 16;
    const double PictureWidth = 19;

    /// <param name="picture">Of a line, as it is printed; null where there is none any more.</param>
    public static byte[] Draw(string site, Colour accent, PaperFormat format, DateTimeOffset now, int orders, IReadOnlyList<PickGroup> groups, Func<Picked, PaperPicture?> picture)
    {
        using var paper = new Paper(site, "Pick list", format, accent);
        var pieces = groups.Sum(g => g.Pieces);
        paper.Y += paper.Words("Pick list", Paper.Left, paper.Y, paper.Width, new PaperType(20, IsStrong: true));
        paper.Y += paper.Words(
            string.Create(CultureInfo.InvariantCulture, $"{Count(pieces, "piece")} of {Count(orders, "order")}, as of {now.UtcDateTime:d MMMM yyyy, HH:mm} UTC"), Paper.Left, paper.Y, paper.Width, new PaperType(9.5, IsQuiet: true));
        foreach (var group in groups)
        {
            // A heading never stands alone at the foot of a page.
            paper.Need(13 + Row);
            paper.Y += 6;
            paper.Words(Count(group.Pieces, "piece"), Paper.Left, paper.Y, paper.Width, new PaperType(11), isRight: true);
            paper.Y += paper.Words(group.Called, Paper.Left, paper.Y, paper.Width - 30, new PaperType(12, IsStrong: true)) + 1;
            foreach (var picked in group.Picked)
            {
                paper.Need(Row);
                paper.Rule(paper.Y);
                Draw(paper, picked, picture(picked));
                paper.Y += Row;
            }

            paper.Rule(paper.Y);
        }

        if (groups.Count == 0)
        {
            paper.Words("Nothing is to be made.", Paper.Left, paper.Y + 6, paper.Width, new PaperType(11));
        }

        return paper.Finish();
    }

    static void Draw(Paper paper, Picked picked, PaperPicture? picture)
    {
        if (picture is not null)
        {
            paper.Picture(picture, Paper.Left, paper.Y + 1.5, PictureWidth, Row - 3);
        }

        paper.Words(string.Create(CultureInfo.InvariantCulture, $"{picked.Of.Count} ×"), Paper.Left + PictureWidth + 2, paper.Y + 2.8, 14, new PaperType(13, IsStrong: true), isRight: true);
        var (x, width) = (Paper.Left + PictureWidth + 20, paper.Width - PictureWidth - 20 - 42);
        var high = paper.Words(picked.Of.Called, x, paper.Y + 2.8, width, new PaperType(10.5), most: 1);
        paper.Words(picked.Of.FileName, x, paper.Y + 3 + high, width, new PaperType(9, IsQuiet: true), most: 1);
        // As the names of print files begin.
        var right = Paper.Left + paper.Width - 42;
        paper.Words(string.Create(CultureInfo.InvariantCulture, $"Order {picked.Order}"), right, paper.Y + 2.8, 32, new PaperType(10.5), isRight: true);
        paper.Words(string.Create(CultureInfo.InvariantCulture, $"line {picked.Line}"), right, paper.Y + 3 + high, 32, new PaperType(9, IsQuiet: true), isRight: true);
        paper.Box(Paper.Left + paper.Width - 6, paper.Y + 3, 5);
    }

    static string Count(int number, string thing) => string.Create(CultureInfo.InvariantCulture, $"{number:N0} {thing}{(number == 1 ? "" : "s")}");
}
