namespace Jovitar.Core.Sales.Printing;

/// <summary>How print files are made, as whoever prints them asks for it.</summary>
/// <param name="PixelsPerInch">Of a file; 300 is common practice.</param>
/// <param name="Bleed">How much more of the picture there is round each edge, to be cut off; millimetres.</param>
public sealed record PrintRule(int PixelsPerInch = 300, int Bleed = 0)
{
    const int Least = 72;
    const int Most = 600;
    const int MostBleed = 10;

    /// <summary>What is wrong with it; null for nothing.</summary>
    public string? Fault() =>
        PixelsPerInch is < Least or > Most ? $"Print files have {Least} to {Most} pixels an inch."
        : Bleed is < 0 or > MostBleed ? $"0 to {MostBleed} mm stand over the edge of a print."
        : null;
}
