using System.Globalization;
using Jovitar.Core.Describing;
using Jovitar.Core.Sales.Ordering;

namespace Jovitar.Core.Sales.Printing;

/// <summary>A print file as the sheet tells of it that goes with the files: what whoever prints needs, and nothing of who bought.</summary>
/// <param name="Line">Of the order, from 1.</param>
/// <param name="File">Its name, with its folder; empty where none could be made.</param>
/// <param name="Photo">What the photo is called.</param>
/// <param name="Original">The file name of the photo's original.</param>
/// <param name="Width">Of the print as the file stands, without edge and bleed, millimetres; null where nobody knows.</param>
/// <param name="Height">The same.</param>
/// <param name="Edge">What goes round each edge of a wrap, millimetres.</param>
/// <param name="Bleed">What is cut off at each edge, millimetres.</param>
/// <param name="PixelsWide">Of the file, with all of it.</param>
/// <param name="PhotoPixelsPerInch">Of the photo on the print: below those of the file it was enlarged; null where nobody knows.</param>
/// <param name="Missing">Why there is no file; empty where there is.</param>
public sealed record PrintTold(
    long Order, int Line, string File, string Photo, string Original, string Option, OptionKind Kind, int Pieces,
    double? Width, double? Height, int Edge, int Bleed, int PixelsWide, int PixelsHigh, int PixelsPerInch, int? PhotoPixelsPerInch, string Missing)
{
    /// <summary>What is told of the file of a line.</summary>
    /// <param name="line">From 1.</param>
    /// <param name="file">Null where none can be made.</param>
    public static PrintTold Of(long number, int line, PlacedOrder order, PrintFile? file, PrintRule rule)
    {
        var (of, fit) = (order.Lines[line - 1], file?.Fit);
        return new PrintTold(
            number, line, PrintFileName.Of(number, line, order.Lines.Count, of.Count, of.Option, of.FileName), of.Called, of.FileName, of.Bought, of.Option.Kind, of.Count,
            fit?.Area.Width, fit?.Area.Height, of.Option.Edge, fit is null ? 0 : rule.Bleed, file?.Size.Width ?? 0, file?.Size.Height ?? 0, file?.PixelsPerInch ?? 0,
            fit is { } print ? (int)Math.Floor(print.PixelsPerInch) : null, "");
    }
}

/// <summary>The sheet of print files in a spreadsheet's file: a row each, numbers in digits with a point.</summary>
public static class PrintSheet
{
    public static readonly IReadOnlyList<string> Columns =
        ["order", "line", "file", "photo", "original", "option", "kind", "pieces", "width, mm", "height, mm", "edge, mm", "bleed, mm", "pixels wide", "pixels high", "pixels an inch", "of the photo", "missing"];

    /// <summary>A file's cells, in the order of <see cref="Columns"/>.</summary>
    public static IReadOnlyList<string> Cells(PrintTold told) =>
    [
        Number(told.Order), Number(told.Line), told.File, WordsTable.Cell(told.Photo), WordsTable.Cell(told.Original), WordsTable.Cell(told.Option), told.Kind.ToString().ToLowerInvariant(), Number(told.Pieces), Number(told.Width), Number(told.Height),
        Number(told.Edge), Number(told.Bleed), Number(told.PixelsWide), Number(told.PixelsHigh), Number(told.PixelsPerInch), Number(told.PhotoPixelsPerInch), told.Missing,
    ];

    static string Number(double? number) => number?.ToString("0.###", CultureInfo.InvariantCulture) ?? "";
}
