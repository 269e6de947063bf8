using System.ComponentModel.DataAnnotations;
using Jovitar.Core;
using Jovitar.Core.Intake;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Photos;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Storing;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace Jovitar.Server.Intake;

/// <summary>What a new intake goes by; all of it may be left out and said later.</summary>
public sealed record NewIntake(AlbumId? Album = null, IntakeAbout? About = null);

/// <param name="Takes">What is taken, as far as names tell.</param>
internal sealed record IntakeList(IReadOnlyList<IntakeLine> Intakes, IntakeLimits Limits, WhatIsTaken Takes);

/// <summary>What can be told of a file from its name before it is sent.</summary>
/// <param name="Most">The most bytes by ending, <c>.jpg</c>.</param>
/// <param name="Otherwise">The most bytes of all other files.</param>
/// <param name="Litter">Names of what computers put beside photographs for themselves; it is not sent.</param>
/// <param name="LitterBegins">How names of the same begin.</param>
internal sealed record WhatIsTaken(IReadOnlyDictionary<string, long> Most, long Otherwise, IReadOnlyList<string> Litter, string LitterBegins);

/// <summary>One intake: its figures, what is said of all it brings, what failed by cause, and the latest photos.</summary>
internal sealed record IntakeDetail(IntakeLine Intake, IntakeAbout About, IReadOnlyList<FailureGroup> Failures, IReadOnlyList<IntakeFile> Latest);

/// <summary>Some files of an intake; <c>After</c> asks for the next ones, or is null at the end.</summary>
internal sealed record IntakeFiles(IReadOnlyList<IntakeFile> Files, int? After);

internal sealed record Retried(int Count);

internal sealed record Dropped(int Count, Done Done);

/// <summary>Which failures to drop: those of one cause, or all.</summary>
public sealed record DropRequest([Words(60)] string? Cause = null);

/// <summary>An intake that was taken back.</summary>
internal sealed record IntakeTaken(TakenBack Taken, Done Done);

/// <summary>An intake of which something else is said now.</summary>
internal sealed record IntakeSaid(IntakeLine Intake, Done Done);

/// <summary>Files of an intake as the browser knows them.</summary>
public sealed record KnownFiles([Required, AtMost(KnownFiles.Most)] IReadOnlyList<KnownFile> Files)
{
    public const int Most = 20_000;
}

/// <summary>Which of the files asked about are here (by their place in the question), and which began and were cut off.</summary>
/// <param name="Perhaps">Those of which another of the same name, folder and length is here: ask again with their marks.</param>
internal sealed record WhatIsHere(IReadOnlyList<int> Here, IReadOnlyList<int> Perhaps, IReadOnlyList<OpenUpload> Open);

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
        intakes.MapPost("/retry", Retry).WithSummary("Tries failed photos again");
    }

    static async Task<Ok<IntakeList>> List(IntakeLines lines, Receiver receiver, CancellationToken ct)
    {
        var limits = await receiver.LimitsAsync(ct);
        return TypedResults.Ok(new IntakeList(await lines.RecentAsync(null, Recent, ct), limits, new WhatIsTaken(Endings.All(limits), limits.Most, ArchiveRules.Litter, ArchiveRules.LitterBegins)));
    }

    static async Task<Ok<IntakeLine>> Begin(NewIntake body, Actor who, IntakeStore store, IntakeLines lines, CancellationToken ct) =>
        TypedResults.Ok((await lines.FindAsync(await store.BeginAsync(body.About ?? IntakeAbout.Nothing with { Album = body.Album }, who, ct), ct))!);

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

    static async Task<Ok<WhatIsHere>> Here(IntakeId intake, KnownFiles body, IntakeLines lines, CancellationToken ct)
    {
        var (here, perhaps) = await lines.HereAsync(intake, body.Files, ct);
        return TypedResults.Ok(new WhatIsHere(here, perhaps, await lines.OpenAsync(intake, ct)));
    }

    static async Task<Results<Ok<IntakeSaid>, NotFound<Problem>>> Say(IntakeId intake, IntakeAbout body, Actor who, IntakeAbouts abouts, IntakeLines lines, CancellationToken ct) =>
        await abouts.ChangeAsync(who, intake, body, ct) is { } done && await lines.FindAsync(intake, ct) is { } line ? TypedResults.Ok(new IntakeSaid(line, done)) : Problems.Gone("intake");

    static async Task<Ok<Retried>> Retry(PhotoList body, Actor who, PhotoQueue queue, CancellationToken ct) => TypedResults.Ok(new Retried(await queue.RetryAsync(who, body.Photos, ct)));

    static async Task<Ok<Retried>> RetryAll(IntakeId intake, Actor who, IntakeActs acts, CancellationToken ct) => TypedResults.Ok(new Retried(await acts.RetryAsync(who, intake, ct)));

    static async Task<Ok<Dropped>> Drop(IntakeId intake, DropRequest body, Actor who, IntakeActs acts, CancellationToken ct)
    {
        var (count, done) = await acts.DropAsync(who, intake, body.Cause, ct);
        return TypedResults.Ok(new Dropped(count, done));
    }

    static async Task<Ok<TakenBack>> Forecast(IntakeId intake, IntakeActs acts, CancellationToken ct) => TypedResults.Ok(await acts.WouldTakeBackAsync(intake, ct));

    static async Task<Results<Ok<IntakeTaken>, NotFound<Problem>>> TakeBack(IntakeId intake, Actor who, IntakeActs acts, CancellationToken ct) =>
        await acts.TakeBackAsync(who, intake, ct) is var (taken, done) ? TypedResults.Ok(new IntakeTaken(taken, done)) : Problems.Gone("intake");

    static async Task<Results<Ok<IntakeFile>, NotFound<Problem>>> Receive(
        IntakeId intake, [FromQuery] string name, [FromQuery] string? path, HttpContext http, IntakeStore store, Receiver receiver, Arrivals arrivals, CancellationToken ct)
    {
        // Looked at before a byte is read: what nobody takes is not received.
        if (!await store.IsOpenAsync(intake, ct))
        {
            return Problems.Gone("intake");
        }

        var limits = await receiver.LimitsAsync(ct);
        var incoming = Incoming.Named(name, path);
        var most = Endings.Most(incoming.FileName, limits);
        async Task<Results<Ok<IntakeFile>, NotFound<Problem>>> TooLarge() =>
            await receiver.RefuseAsync(intake, incoming, IntakeProblem.TooManyBytes, http.Request.ContentLength ?? most, limits, ct, most) is { } refused ? TypedResults.Ok(refused) : Problems.Gone("intake");

        if (http.Request.ContentLength > most)
        {
            return await TooLarge();
        }

        Arrived arrived;
        try
        {
            arrived = await arrivals.ReceiveAsync(http.Request.Body, most, ct);
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
                await arrivals.DropAsync(arrived);
            }
        }
    }
}
