using System.Collections.Concurrent;
using System.Globalization;
using System.Xml.Linq;

namespace Jovitar.Standins.Scanner;

/// <summary>A scan that was asked for.</summary>
internal sealed class ScanJob(bool feeder, int resolution, bool grey, int pages)
{
    public bool Feeder { get; } = feeder;

    public int Resolution { get; } = resolution;

    public bool Grey { get; } = grey;

    public int Left { get; set; } = pages;
}

/// <summary>What the simulated scanner is up to; the demo and the tests set it.</summary>
internal sealed class ScannerState
{
    public ConcurrentDictionary<string, ScanJob> Jobs { get; } = new();

    public bool Busy { get; set; }

    /// <summary>Sheets in the feeder.</summary>
    public int Sheets { get; set; } = 3;
}

/// <summary>Settings of the simulation; null leaves a setting as it is.</summary>
internal sealed record ScannerSettings(bool? Busy, int? Sheets);

/// <summary>A scanner that speaks eSCL, the public driverless scanning protocol (Mopria Alliance, eSCL Technical Specification 2.97), as far as a client needs it.</summary>
internal static class ScannerEndpoints
{
    static readonly XNamespace Scan = "http://schemas.hp.com/imaging/escl/2011/05/03";
    static readonly XNamespace Pwg = "http://www.pwg.org/schemas/2010/12/sm";
    static readonly int[] Resolutions = [75, 150, 300, 600];

    public static void MapScanner(this IEndpointRouteBuilder app)
    {
        app.MapGet("/eSCL/ScannerCapabilities", () => Xml(Capabilities()));
        app.MapGet("/eSCL/ScannerStatus", (ScannerState state) => Xml(Status(state)));
        app.MapPost("/eSCL/ScanJobs", Begin);
        app.MapGet("/eSCL/ScanJobs/{job}/NextDocument", Next);
        app.MapDelete("/eSCL/ScanJobs/{job}", (string job, ScannerState state) => state.Jobs.TryRemove(job, out _) ? Results.Ok() : Results.NotFound());
        app.MapPut("/standin/scanner", (ScannerSettings settings, ScannerState state) =>
        {
            state.Busy = settings.Busy ?? state.Busy;
            state.Sheets = settings.Sheets ?? state.Sheets;
            return Results.NoContent();
        });
    }

    static IResult Xml(XElement root) => Results.Text(new XDocument(new XDeclaration("1.0", "UTF-8", null), root).ToString(), "text/xml");

    static XElement Capabilities()
    {
        // Lengths in eSCL are three-hundredths of an inch.
        XElement Inputs(XName name) => new(
            name,
            new XElement(Scan + "MinWidth", 16), new XElement(Scan + "MaxWidth", ThreeHundredths(PrintTray.WidthMillimetres)), new XElement(Scan + "MinHeight", 16), new XElement(Scan + "MaxHeight", ThreeHundredths(PrintTray.HeightMillimetres)),
            new XElement(Scan + "SettingProfiles", new XElement(
                Scan + "SettingProfile",
                new XElement(Scan + "ColorModes", new XElement(Scan + "ColorMode", "RGB24"), new XElement(Scan + "ColorMode", "Grayscale8")),
                new XElement(Scan + "DocumentFormats", new XElement(Pwg + "DocumentFormat", "image/jpeg"), new XElement(Scan + "DocumentFormatExt", "image/jpeg")),
                new XElement(Scan + "SupportedResolutions", new XElement(Scan + "DiscreteResolutions", Resolutions.Select(r => new XElement(
                    Scan + "DiscreteResolution", new XElement(Scan + "XResolution", r), new XElement(Scan + "YResolution", r))))))));
        return new XElement(
            Scan + "ScannerCapabilities", new XAttribute(XNamespace.Xmlns + "scan", Scan), new XAttribute(XNamespace.Xmlns + "pwg", Pwg),
            new XElement(Pwg + "Version", "2.97"), new XElement(Pwg + "MakeAndModel", "Tern Flatbed 30"), new XElement(Pwg + "SerialNumber", "TF30-0007"),
            new XElement(Scan + "Platen", Inputs(Scan + "PlatenInputCaps")), new XElement(Scan + "Adf", Inputs(Scan + "AdfSimplexInputCaps"), new XElement(Scan + "FeederCapacity", 20)));
    }

    static int ThreeHundredths(double millimetres) => (int)Math.Floor(millimetres / 25.4 * 300);

    static XElement Status(ScannerState state) => new(
        Scan + "ScannerStatus", new XAttribute(XNamespace.Xmlns + "scan", Scan), new XAttribute(XNamespace.Xmlns + "pwg", Pwg),
        new XElement(Pwg + "Version", "2.97"), new XElement(Pwg + "State", state.Busy ? "Processing" : "Idle"), new XElement(Scan + "AdfState", state.Sheets > 0 ? "ScannerAdfLoaded" : "ScannerAdfEmpty"));

    static async Task<IResult> Begin(HttpContext http, ScannerState state)
    {
        var settings = (await XDocument.LoadAsync(http.Request.Body, LoadOptions.None, http.RequestAborted)).Root!;
        string? Of(string name) => settings.Elements().FirstOrDefault(e => e.Name.LocalName == name)?.Value;
        if (!int.TryParse(Of("XResolution"), NumberStyles.None, CultureInfo.InvariantCulture, out var resolution) || !Resolutions.Contains(resolution) || Of("ColorMode") is not ("RGB24" or "Grayscale8"))
        {
            return Results.Conflict();
        }

        var feeder = Of("InputSource") == "Feeder";
        if (state.Busy || (feeder && state.Sheets == 0))
        {
            return Results.StatusCode(StatusCodes.Status503ServiceUnavailable);
        }

        var id = Guid.NewGuid().ToString("N");
        state.Jobs[id] = new ScanJob(feeder, resolution, Of("ColorMode") == "Grayscale8", feeder ? state.Sheets : 1);
        return Results.Created($"/eSCL/ScanJobs/{id}", null);
    }

    static IResult Next(string job, ScannerState state, PrintTray tray)
    {
        if (!state.Jobs.TryGetValue(job, out var found) || found.Left == 0)
        {
            return Results.NotFound();
        }

        found.Left--;
        if (found.Feeder)
        {
            state.Sheets--;
        }

        return Results.Bytes(tray.Scan(found.Resolution, found.Grey), "image/jpeg");
    }
}
