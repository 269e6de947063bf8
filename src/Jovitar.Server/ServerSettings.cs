using System.Net;
using Jovitar.Server.Intake;
using Jovitar.Server.Intake.Scanning;
using Jovitar.Server.Intake.Watching;
using Jovitar.Server.Platform.Mailing;
using Jovitar.Server.Sales.Payments;
using Jovitar.Server.Visits;

namespace Jovitar.Server;

/// <summary>What the server is started with: section <c>Jovitar</c> of the configuration, or environment names with <c>Jovitar__</c> before them.</summary>
/// <param name="Data">Folder of originals and renditions.</param>
/// <param name="Connection">Where PostgreSQL is.</param>
/// <param name="DemoFolder">Folder of the demo to load once, or null.</param>
/// <param name="TrialPhotos">How many photos there shall be at least, for trials with many rows.</param>
/// <param name="Announce">Whether to print a line once everything is loaded.</param>
/// <param name="Scanners">Scanners on the network, by name; only what the operator names is ever asked.</param>
/// <param name="Proxies">Addresses or networks (CIDR) whose forwarded headers are believed: the proxies in front, and nobody else.</param>
/// <param name="Address">Where visitors find the site; null for wherever it is asked for.</param>
/// <param name="Mail">The mail server that letters are handed to.</param>
/// <param name="Payments">Where buyers pay online.</param>
/// <param name="DescribeOnly">Started only to be asked for the API's description; no database is touched.</param>
internal sealed record ServerSettings(string Data, string Connection, string? DemoFolder, int TrialPhotos, bool Announce, bool DescribeOnly, WorkerSettings Worker, WatchSettings Watch, VisitSettings Visits, ScannerSettings Scanners, IReadOnlyList<IPNetwork> Proxies, Uri? Address, MailSettings Mail, PaymentSettings Payments)
{
    public static ServerSettings From(IConfiguration configuration)
    {
        var section = configuration.GetSection("Jovitar");
        var data = section["Data"] ?? Path.Combine(Path.GetTempPath(), "jovitar-data");
        return new ServerSettings(
            data,
            section["Database"] ?? "Host=127.0.0.1;Database=jovitar;Username=jovitar",
            section["Demo"], section.GetValue("TrialPhotos", 0), section.GetValue("Announce", false), section.GetValue("DescribeOnly", false),
            new WorkerSettings(section.GetValue("Workers", Environment.ProcessorCount), section.GetValue("Lease", TimeSpan.FromMinutes(2))),
            new WatchSettings(section["WatchBelow"] ?? Path.Combine(data, "watched"), section.GetValue("WatchEvery", TimeSpan.FromSeconds(4))),
            new VisitSettings(section.GetValue("VisitsWrittenEvery", TimeSpan.FromSeconds(10)), section.GetValue("VisitsSummedEvery", TimeSpan.FromMinutes(10))),
            new ScannerSettings([.. (section["Scanners"] ?? "").Split(';', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries).Select(Scanner)]),
            [.. (section["Proxies"] ?? "").Split([';', ','], StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries).Select(Proxy)],
            SiteAddress(section["Address"]),
            MailSettings.From(section["Mail"], section["MailFrom"]),
            PaymentSettings.From(section["Payments"], section["PaymentsKey"], section["PaymentsSecret"], section.GetValue("PaymentsAskedEvery", TimeSpan.FromSeconds(30))));
    }

    /// <summary>Reads <c>https://photos.example.org</c>.</summary>
    static Uri? SiteAddress(string? text) =>
        string.IsNullOrWhiteSpace(text) ? null
        : Uri.TryCreate(text.Trim(), UriKind.Absolute, out var address) && address.Scheme is "http" or "https" && address.PathAndQuery == "/" ? address
        : throw new InvalidOperationException($"The site's address is one like https://photos.example.org, and “{text}” is not.");

    /// <summary>Reads an address, <c>10.0.0.5</c>, or a network, <c>10.0.0.0/24</c>.</summary>
    static IPNetwork Proxy(string text) =>
        IPNetwork.TryParse(text, out var network) ? network
        : IPAddress.TryParse(text, out var address) ? new IPNetwork(address, address.AddressFamily == System.Net.Sockets.AddressFamily.InterNetwork ? 32 : 128)
        : throw new InvalidOperationException($"Proxies are named by address or network, and “{text}” is neither.");

    /// <summary>Reads <c>Name=http://host:port/eSCL</c>.</summary>
    static ScannerDevice Scanner(string text)
    {
        var cut = text.IndexOf('=', StringComparison.Ordinal);
        return cut > 0 && Uri.TryCreate(text[(cut + 1)..].TrimEnd('/') + "/", UriKind.Absolute, out var address)
            ? new ScannerDevice(text[..cut].Trim(), address)
            : throw new InvalidOperationException($"Scanners are named as Name=http://host:port/eSCL, and “{text}” is not.");
    }
}
