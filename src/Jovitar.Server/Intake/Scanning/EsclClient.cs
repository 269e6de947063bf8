using System.ComponentModel.DataAnnotations;
using System.Globalization;
using System.Net;
using System.Net.Sockets;
using System.Xml;
using System.Xml.Linq;
using Jovitar.Server.Platform;

namespace Jovitar.Server.Intake.Scanning;

/// <summary>A scanner that the operator named.</summary>
/// <param name="Address">Where its eSCL service is, with a slash at the end.</param>
internal sealed record ScannerDevice(string Name, Uri Address);

/// <summary>The scanners there are; only what the operator names is ever asked.</summary>
internal sealed record ScannerSettings(IReadOnlyList<ScannerDevice> Devices)
{
    /// <summary>A scanner by its name; null when there is none.</summary>
    public ScannerDevice? Find(string name) => Devices.FirstOrDefault(d => d.Name == name);
}

/// <summary>What a scanner can do.</summary>
/// <param name="Resolutions">Pixels per inch.</param>
/// <param name="Colours"><c>colour</c> and <c>grey</c>, as far as it has them.</param>
/// <param name="Sources"><c>glass</c> and <c>feeder</c>, as far as it has them.</param>
internal sealed record ScannerAbilities(string Model, IReadOnlyList<int> Resolutions, IReadOnlyList<string> Colours, IReadOnlyList<string> Sources);

/// <summary>What a scan is asked for with.</summary>
public sealed record ScanRequest([Range(1, 4800)] int Resolution, [OneOf("colour", "grey")] string Colour, [OneOf("glass", "feeder")] string Source);

/// <summary>The scanner cannot do what was asked; the message says so to people.</summary>
internal sealed class ScannerException(string sentence) : Exception(sentence);

/// <summary>Speaks eSCL, the public driverless scanning protocol (Mopria Alliance, eSCL Technical Specification 2.97).</summary>
internal sealed class EsclClient(HttpClient http)
{
    static readonly XNamespace Scan = "http://schemas.hp.com/imaging/escl/2011/05/03";
    static readonly XNamespace Pwg = "http://www.pwg.org/schemas/2010/12/sm";

    /// <summary>More pages than a feeder holds end a scan.</summary>
    const int MostPages = 200;

    /// <exception cref="ScannerException">The scanner does not answer, or not as one.</exception>
    public async Task<ScannerAbilities> AbilitiesAsync(ScannerDevice device, CancellationToken ct)
    {
        var root = await ReadAsync(device, "ScannerCapabilities", ct);
        IEnumerable<XElement> All(string name) => root.Descendants().Where(e => e.Name.LocalName == name);
        var resolutions = All("XResolution").Select(e => int.TryParse(e.Value, NumberStyles.None, CultureInfo.InvariantCulture, out var r) ? r : 0).Where(r => r > 0).Distinct().Order().ToArray();
        var modes = All("ColorMode").Select(e => e.Value).ToHashSet();
        return new ScannerAbilities(
            All("MakeAndModel").FirstOrDefault()?.Value ?? device.Name, resolutions,
            [.. new[] { ("RGB24", "colour"), ("Grayscale8", "grey") }.Where(k => modes.Contains(k.Item1)).Select(k => k.Item2)],
            [.. new[] { ("Platen", "glass"), ("Adf", "feeder") }.Where(i => All(i.Item1).Any()).Select(i => i.Item2)]);
    }

    /// <summary>Scans, page after page, until there is no next one.</summary>
    /// <exception cref="ScannerException">Missing, busy, out of paper, or something it cannot do.</exception>
    public async Task ScanAsync(ScannerDevice device, ScanRequest request, Func<Stream, Task> page, CancellationToken ct)
    {
        var status = await ReadAsync(device, "ScannerStatus", ct);
        string? Of(string name) => status.Descendants().FirstOrDefault(e => e.Name.LocalName == name)?.Value;
        if (request.Source == "feeder" && Of("AdfState") is { } adf && adf != "ScannerAdfLoaded")
        {
            throw new ScannerException(adf == "ScannerAdfJam" ? $"Paper is stuck in {device.Name}. Take it out, then scan again." : $"There is no paper in the feeder of {device.Name}. Put some in, then scan again.");
        }

        if (Of("State") is "Processing" or "Testing")
        {
            throw new ScannerException($"{device.Name} is busy with something else. Wait until it is done, then scan again.");
        }

        var settings = new XElement(
            Scan + "ScanSettings", new XAttribute(XNamespace.Xmlns + "scan", Scan), new XAttribute(XNamespace.Xmlns + "pwg", Pwg),
            new XElement(Pwg + "Version", "2.0"), new XElement(Pwg + "InputSource", request.Source == "feeder" ? "Feeder" : "Platen"), new XElement(Pwg + "DocumentFormat", "image/jpeg"),
            new XElement(Scan + "ColorMode", request.Colour == "grey" ? "Grayscale8" : "RGB24"), new XElement(Scan + "XResolution", request.Resolution), new XElement(Scan + "YResolution", request.Resolution));
        using var content = new StringContent(settings.ToString(), System.Text.Encoding.UTF8, "text/xml");
        using var begun = await SendAsync(device, new HttpRequestMessage(HttpMethod.Post, new Uri(device.Address, "ScanJobs")) { Content = content }, ct);
        if (begun.StatusCode != HttpStatusCode.Created || begun.Headers.Location is not { } location)
        {
            throw new ScannerException(begun.StatusCode switch
            {
                HttpStatusCode.ServiceUnavailable => $"{device.Name} is busy with something else. Wait until it is done, then scan again.",
                HttpStatusCode.Conflict => $"{device.Name} cannot scan with these settings. Choose another resolution or colour.",
                _ => $"{device.Name} did not begin to scan. Look at its display, then try again.",
            });
        }

        var job = new Uri(device.Address, location);
        if (job.Authority != device.Address.Authority)
        {
            throw new ScannerException($"{device.Name} answered in a way that no scanner should. Nothing was scanned.");
        }

        await PagesAsync(device, job, page, ct);
    }

    async Task PagesAsync(ScannerDevice device, Uri job, Func<Stream, Task> page, CancellationToken ct)
    {
        var waited = 0;
        for (var pages = 0; pages < MostPages;)
        {
            using var next = await SendAsync(device, new HttpRequestMessage(HttpMethod.Get, new Uri($"{job}/NextDocument")), ct);
            switch (next.StatusCode)
            {
                case HttpStatusCode.OK:
                    await using (var bytes = await next.Content.ReadAsStreamAsync(ct))
                    {
                        await page(bytes);
                    }

                    pages++;
                    break;
                case HttpStatusCode.ServiceUnavailable when waited++ < 60:
                    // The page is still under the lamp.
                    await Task.Delay(TimeSpan.FromSeconds(1), ct);
                    break;
                case HttpStatusCode.NotFound or HttpStatusCode.Gone when pages > 0:
                    return;
                default:
                    throw new ScannerException($"{device.Name} stopped before a page was done. Look at its display, then scan again.");
            }
        }
    }

    async Task<XElement> ReadAsync(ScannerDevice device, string what, CancellationToken ct)
    {
        using var answer = await SendAsync(device, new HttpRequestMessage(HttpMethod.Get, new Uri(device.Address, what)), ct);
        try
        {
            await using var text = await answer.Content.ReadAsStreamAsync(ct);
            using var reader = XmlReader.Create(text, new XmlReaderSettings { Async = true, DtdProcessing = DtdProcessing.Prohibit, MaxCharactersInDocument = 1_000_000 });
            return answer.IsSuccessStatusCode && (await XDocument.LoadAsync(reader, LoadOptions.None, ct)).Root is { } root ? root : throw new XmlException();
        }
        catch (XmlException)
        {
            throw new ScannerException($"What answers as {device.Name} is no scanner this site understands.");
        }
    }

    async Task<HttpResponseMessage> SendAsync(ScannerDevice device, HttpRequestMessage request, CancellationToken ct)
    {
        try
        {
            return await http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, ct);
        }
        catch (Exception e) when (e is HttpRequestException or SocketException or TaskCanceledException && !ct.IsCancellationRequested)
        {
            throw new ScannerException($"{device.Name} does not answer. Is it switched on and on the same network?");
        }
    }
}
