using System.ComponentModel.DataAnnotations;
using System.Globalization;
using Jovitar.Core;
using Jovitar.Imaging;
using Jovitar.Server.Access;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Storing;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Intake.Scanning;

internal sealed record ScannerNames(IReadOnlyList<string> Names);

/// <summary>A page that was scanned and waits to be kept or thrown away.</summary>
internal sealed record ScannedPage(Guid Id, int Width, int Height, long Bytes);

internal sealed record ScannedPages(IReadOnlyList<ScannedPage> Pages);

/// <summary>Which scanned pages to keep, and in which intake.</summary>
public sealed record KeepPages([Required, AtMost(KeepPages.Most)] IReadOnlyList<Guid> Pages, IntakeId Intake)
{
    public const int Most = 200;
}

internal sealed record KeptPages(IReadOnlyList<IntakeFile> Files);

/// <summary>Scanners on the network: what they can do, a scan, its pages kept or thrown away.</summary>
internal static class ScannerEndpoints
{
    public static void MapScanners(this IEndpointRouteBuilder api)
    {
        var scanners = api.MapGroup("/scanners").RequireAuthorization(Security.Editors).WithTags("Intake");
        scanners.MapGet("", List).WithSummary("The scanners this site knows");
        scanners.MapGet("/{scanner}", Abilities).WithSummary("What a scanner can do");
        scanners.MapPost("/{scanner}/scan", Scan).WithSummary("Scans; the pages wait to be kept or thrown away");
        scanners.MapGet("/pages/{page}", Page).ExcludeFromDescription();
        scanners.MapDelete("/pages/{page}", Throw).WithSummary("Throws a scanned page away");
        scanners.MapPost("/pages/keep", Keep).WithSummary("Keeps scanned pages as photos");
    }

    static Ok<ScannerNames> List(ScannerSettings settings) => TypedResults.Ok(new ScannerNames([.. settings.Devices.Select(s => s.Name)]));

    static async Task<Results<Ok<ScannerAbilities>, NotFound<Problem>, JsonHttpResult<Problem>>> Abilities(string scanner, ScannerSettings settings, EsclClient client, CancellationToken ct)
    {
        if (settings.Find(scanner) is not { } device)
        {
            return Problems.Gone("scanner");
        }

        try
        {
            return TypedResults.Ok(await client.AbilitiesAsync(device, ct));
        }
        catch (ScannerException e)
        {
            return Problems.Json(StatusCodes.Status502BadGateway, "scanner", e.Message);
        }
    }

    static async Task<Results<Ok<ScannedPages>, NotFound<Problem>, JsonHttpResult<Problem>>> Scan(
        string scanner, ScanRequest body, ScannerSettings settings, EsclClient client, Receiver receiver, Arrivals arrivals, Storage storage, CancellationToken ct)
    {
        if (settings.Find(scanner) is not { } device)
        {
            return Problems.Gone("scanner");
        }

        var limits = await receiver.LimitsAsync(ct);
        var pages = new List<ScannedPage>();
        try
        {
            await client.ScanAsync(
                device, body, async bytes =>
                {
                    var id = Guid.CreateVersion7();
                    var arrived = await arrivals.ReceiveAsync(bytes, limits.Bytes, ct, Named(id));
                    using var copy = await storage.LocalAsync(arrived.Key) ?? throw new IOException("A page that was just scanned is gone.");
                    var size = Picture.Measure(copy.Path);
                    pages.Add(new ScannedPage(id, size.Width, size.Height, arrived.Bytes));
                },
                ct);
            return TypedResults.Ok(new ScannedPages(pages));
        }
        catch (Exception e) when (e is ScannerException or PictureException or TooManyBytesException && pages.Count > 0)
        {
            // What was scanned before it stopped is shown all the same.
            return TypedResults.Ok(new ScannedPages(pages));
        }
        catch (Exception e) when (e is ScannerException or PictureException or TooManyBytesException)
        {
            return Problems.Json(StatusCodes.Status502BadGateway, "scanner", e is ScannerException ? e.Message : $"What {device.Name} sent is no picture that can be read. Scan again.");
        }
    }

    static string Named(Guid page) => $"{StorageKeys.ScannedPage}{page:N}";

    static string Key(Guid page) => StorageKeys.Arriving(Named(page));

    static async Task<Results<FileAnswer, NotFound<Problem>>> Page(Guid page, HttpContext http, Storage storage)
    {
        ForStaff.Private(http);
        return await storage.FindAsync(Key(page)) is { } file ? storage.Answer(file, "image/jpeg") : Problems.Gone("page");
    }

    static async Task<NoContent> Throw(Guid page, Storage storage)
    {
        await storage.DeleteAsync(Key(page));
        return TypedResults.NoContent();
    }

    static async Task<Results<Ok<KeptPages>, NotFound<Problem>>> Keep(KeepPages body, Receiver receiver, Arrivals arrivals, TimeProvider clock, CancellationToken ct)
    {
        var kept = new List<IntakeFile>();
        foreach (var page in body.Pages)
        {
            if (await arrivals.MeasureAsync(Key(page), ct) is not { } arrived)
            {
                continue;
            }

            var name = string.Create(CultureInfo.InvariantCulture, $"Scan {clock.GetLocalNow():yyyy-MM-dd HH.mm.ss}{(body.Pages.Count > 1 ? $" {kept.Count + 1}" : "")}.jpg");
            if (await receiver.TakeAsync(body.Intake, new Incoming(name), arrived, ct) is not { } taken)
            {
                return Problems.Gone("intake");
            }

            await arrivals.DropAsync(arrived);
            kept.Add(taken);
        }

        return TypedResults.Ok(new KeptPages(kept));
    }
}
