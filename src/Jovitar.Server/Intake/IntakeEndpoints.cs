using System.Security.Claims;
using Jovitar.Core;
using Jovitar.Core.Intake;
using Jovitar.Server.Access;
using Jovitar.Server.Photos;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace Jovitar.Server.Intake;

/// <summary>What a new intake goes by; all of it may be left out and said later.</summary>
internal sealed record NewIntake(AlbumId? Album = null, IntakeAbout? About = null);

internal sealed record IntakeList(IReadOnlyList<IntakeLine> Intakes, IntakeLimits Limits);

/// <summary>One intake: its figures, what is said of all it brings, what failed by cause, and the latest photos.</summary>
internal sealed record IntakeDetail(IntakeLine Intake, IntakeAbout About, IReadOnlyList<FailureGroup> Failures, IReadOnlyList<IntakeFile> Latest);

/// <summary>Some files of an intake; <c>After</c> asks for the next ones, or is null at the end.</summary>
internal sealed record IntakeFiles(IReadOnlyList<IntakeFile> Files, int? After);

internal sealed record Retried(int Count);

internal sealed record Dropped(int Count);

/// <summary>Which failures to drop: those of one cause, or all.</summary>
internal sealed record DropRequest(string? Cause);

/// <summary>How many photos taking back would throw away, and how many it would leave because they are used elsewhere.</summary>
internal sealed record TakeBackForecast(int Binned, int Kept);

/// <summary>Files of an intake as the browser knows them.</summary>
internal sealed record KnownFiles(IReadOnlyList<KnownFile> Files);

/// <summary>Which of the files asked about are here (by their place in the question), and which began and were cut off.</summary>
internal sealed record WhatIsHere(IReadOnlyList<int> Here, IReadOnlyList<OpenUpload> Open);

internal sealed record PhotoIds(IReadOnlyList<PhotoId> Photos);

/// <summary>Intakes: begun, watched, set right afterwards.</summary>
internal static class IntakeEndpoints
{
    const int FilesAtOnce = 500;
    const int Latest = 24;
    const int Recent = 30;

    public static void MapIntake(this IEndpointRouteBuilder api)
    {
        var intakes = api.MapGroup("/intakes").RequireAuthorization(Security.Editors).WithTags("Intake");
        intakes.MapGet("", List).WithSummary("The latest intakes, and the limits for what comes in");
        intakes.MapPost("", Begin).WithSummary("Begins an intake");
        intakes.MapGet("/{intake}", Show).WithSummary("One intake with what came of it");
        intakes.MapGet("/{intake}/files", Files).WithSummary("What came of an intake's files, in the order they came");
        intakes.MapGet("/{intake}/photos", Photos).WithSummary("The photos of an intake");
        intakes.MapPost("/{intake}/here", Here).WithSummary("Which files need not be sent again, and which go on where they stopped");
        intakes.MapPut("/{intake}/about", Say).WithSummary("Says what holds for all that an intake brings, also afterwards");
        intakes.MapPost("/{intake}/files", Receive).WithSummary("Receives one file; the body is its bytes").Accepts<IFormFile>("application/octet-stream").WithMetadata(new UnboundedBody());
        intakes.MapPost("/{intake}/retry", RetryAll).WithSummary("Tries an intake's failed photos again");
        intakes.MapPost("/{intake}/drop", Drop).WithSummary("Drops what failed in an intake");
        intakes.MapGet("/{intake}/taking-back", Forecast).WithSummary("What taking an intake back would do");
        intakes.MapPost("/{intake}/taking-back", TakeBack).WithSummary("Takes an intake back whole");
        intakes.MapPost("/{intake}/bringing-back", BringBack).WithSummary("Undoes taking an intake back");
        intakes.MapPost("/retry", Retry).WithSummary("Tries failed photos again");
    }

    static async Task<Ok<IntakeList>> List(IntakeLines lines, Receiver receiver, CancellationToken ct) =>
        TypedResults.Ok(new IntakeList(await lines.RecentAsync(null, Recent, ct), await receiver.LimitsAsync(ct)));

    static async Task<Results<Ok<IntakeLine>, BadRequest<Problem>>> Begin(NewIntake body, ClaimsPrincipal user, IntakeStore store, IntakeLines lines, CancellationToken ct)
    {
        var about = body.About ?? IntakeAbout.Nothing with { Album = body.Album };
        return about.Faults() is { Count: > 0 } faults
            ? Problems.Invalid(faults.First().Value, faults)
            : TypedResults.Ok((await lines.FindAsync(await store.BeginAsync(about, user.Identity?.Name ?? "", ct), ct))!);
    }

    static async Task<Results<Ok<IntakeDetail>, NotFound<Problem>>> Show(IntakeId intake, IntakeLines lines, IntakeAbouts abouts, Receiver receiver, CancellationToken ct) =>
        await lines.FindAsync(intake, ct) is { } line && await abouts.ReadAsync(intake, ct) is { } about
            ? TypedResults.Ok(new IntakeDetail(line, about, await lines.FailuresAsync(intake, await receiver.LimitsAsync(ct), ct), await lines.LatestAsync(intake, Latest, ct)))
            : Problems.Gone("intake");

    static async Task<Ok<IntakeFiles>> Files(IntakeId intake, int? after, IntakeLines lines, CancellationToken ct)
    {
        var files = await lines.FilesAsync(intake, after ?? 0, FilesAtOnce, ct);
        return TypedResults.Ok(new IntakeFiles(files, files.Count == FilesAtOnce ? files[^1].Number : null));
    }

    static async Task<Ok<PhotoIds>> Photos(IntakeId intake, IntakeStore store, CancellationToken ct) => TypedResults.Ok(new PhotoIds(await store.PhotosAsync(intake, ct)));

    static async Task<Ok<WhatIsHere>> Here(IntakeId intake, KnownFiles body, IntakeLines lines, CancellationToken ct) =>
        TypedResults.Ok(new WhatIsHere(await lines.HereAsync(intake, body.Files, ct), await lines.OpenAsync(intake, ct)));

    static async Task<Results<Ok<IntakeLine>, NotFound<Problem>, BadRequest<Problem>>> Say(IntakeId intake, IntakeAbout body, IntakeAbouts abouts, IntakeLines lines, CancellationToken ct)
    {
        if (body.Faults() is { Count: > 0 } faults)
        {
            return Problems.Invalid(faults.First().Value, faults);
        }

        return await abouts.ChangeAsync(intake, body, ct) ? TypedResults.Ok((await lines.FindAsync(intake, ct))!) : Problems.Gone("intake");
    }

    static async Task<Ok<Retried>> Retry(PhotoList body, PhotoQueue queue, CancellationToken ct) => TypedResults.Ok(new Retried(await queue.RetryAsync(body.Photos, ct)));

    static async Task<Ok<Retried>> RetryAll(IntakeId intake, IntakeActs acts, CancellationToken ct) => TypedResults.Ok(new Retried(await acts.RetryAsync(intake, ct)));

    static async Task<Ok<Dropped>> Drop(IntakeId intake, DropRequest body, ClaimsPrincipal user, IntakeActs acts, CancellationToken ct) =>
        TypedResults.Ok(new Dropped(await acts.DropAsync(intake, body.Cause, user.Identity?.Name ?? "", ct)));

    static async Task<Ok<TakeBackForecast>> Forecast(IntakeId intake, IntakeActs acts, CancellationToken ct)
    {
        var (binned, kept) = await acts.WouldTakeBackAsync(intake, ct);
        return TypedResults.Ok(new TakeBackForecast(binned, kept));
    }

    static async Task<Results<Ok<TakenBack>, NotFound<Problem>>> TakeBack(IntakeId intake, ClaimsPrincipal user, IntakeActs acts, CancellationToken ct) =>
        await acts.TakeBackAsync(intake, user.Identity?.Name ?? "", ct) is { } taken ? TypedResults.Ok(taken) : Problems.Gone("intake");

    static async Task<Ok<BinChange>> BringBack(IntakeId intake, PhotoList body, IntakeActs acts, CancellationToken ct) =>
        TypedResults.Ok(new BinChange(await acts.BringBackAsync(intake, body.Photos, ct), body.Photos));

    static async Task<Results<Ok<IntakeFile>, NotFound<Problem>>> Receive(
        IntakeId intake, [FromQuery] string name, [FromQuery] string? path, HttpContext http, Receiver receiver, Storage storage, CancellationToken ct)
    {
        var limits = await receiver.LimitsAsync(ct);
        var incoming = Incoming.Named(name, path);
        var most = Receiver.Most(incoming.FileName, limits);
        async Task<Results<Ok<IntakeFile>, NotFound<Problem>>> TooLarge() =>
            await receiver.RefuseAsync(intake, incoming, IntakeProblem.TooManyBytes, http.Request.ContentLength ?? most, limits, ct, most) is { } refused ? TypedResults.Ok(refused) : Problems.Gone("intake");

        if (http.Request.ContentLength > most)
        {
            return await TooLarge();
        }

        Arrived arrived;
        try
        {
            arrived = await storage.ReceiveAsync(http.Request.Body, most, ct);
        }
        catch (TooManyBytesException)
        {
            return await TooLarge();
        }

        IntakeFile? file = null;
        try
        {
            file = await receiver.TakeAsync(intake, incoming, arrived, ct);
            return file is not null ? TypedResults.Ok(file) : Problems.Gone("intake");
        }
        finally
        {
            if (file is not { Outcome: "archive" })
            {
                Storage.Drop(arrived);
            }
        }
    }
}
