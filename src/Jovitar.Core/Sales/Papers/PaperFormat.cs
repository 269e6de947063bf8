namespace Jovitar.Core.Sales.Papers;

/// <summary>The paper of an office: what a printer there has in its tray.</summary>
/// <param name="Width">Upright, millimetres.</param>
/// <param name="Height">The same.</param>
public readonly record struct PaperFormat(double Width, double Height)
{
    /// <summary>ISO 216.</summary>
    public static readonly PaperFormat A4 = new(210, 297);

    /// <summary>ANSI/ASME Y14.1, size A: 8½ by 11 inches.</summary>
    public static readonly PaperFormat Letter = new(215.9, 279.4);

    /// <summary>Where offices use Letter (Unicode CLDR, supplemental data, <c>paperSize</c>).</summary>
    static readonly HashSet<string> WithLetter = ["BZ", "CA", "CL", "CO", "CR", "GT", "MX", "NI", "PA", "PH", "PR", "SV", "US", "VE"];

    /// <param name="country">Its code (ISO 3166-1); empty where nobody has said.</param>
    public static PaperFormat Of(string country) => WithLetter.Contains(country) ? Letter : A4;
}
