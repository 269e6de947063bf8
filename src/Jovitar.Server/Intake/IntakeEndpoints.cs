using System.Security.Claims;
using Jovitar.Core;
using Jovitar.Core.Photos;
using Jovitar.Imaging;
using Jovitar.Server.Access;
using Jovitar.Server.Albums;
using Jovitar.Server.Photos;
using Jovitar.Server.Platform;
using Jovitar.Server.Site;
using Microsoft.AspNetCore.Http.Metadata;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace Jovitar.Server.Intake;

internal sealed record NewIntake(AlbumId? Album);

internal sealed record IntakeList(IReadOnlyList<IntakeLine> Intakes, IntakeLimits Limits);

/// <summary>One intake with some of its files; <c>After</c> asks for the next ones, or is null at the end.</summary>
internal sealed record IntakeDetail(IntakeLine Intake, IReadOnlyList<IntakeFile> Files, int? After);

internal sealed record Retried(int Count);

/// <summary>Bringing files in: one request a file, streamed to storage.</summary>
internal static class IntakeEndpoints
{
    const int FilesAtOnce = 500;

    public static void MapIntake(this IEndpointRouteBuilder api)
    {
        var intakes = api.MapGroup("/intakes").RequireAuthorization(Security.Editors).WithTags("Intake");
        intakes.MapGet("", List).WithSummary("The latest intakes, and the limits for what comes in");
        intakes.MapPost("", Begin).WithSummary("Begins an intake");
        intakes.MapGet("/{intake}", Show).WithSummary("One intake with what came of its files");
        intakes.MapPut("/{intake}/album", Direct).WithSummary("Decides which album an intake's photos go to");
        intakes.MapPost("/{intake}/files", Receive).WithSummary("Receives one file; the body is its bytes").Accepts<IFormFile>("application/octet-stream").WithMetadata(new UnboundedBody());
        intakes.MapPost("/retry", Retry).WithSummary("Tries failed photos again");
    }

    static async Task<Ok<IntakeList>> List(IntakeStore store, SiteStore site, CancellationToken ct) =>
        TypedResults.Ok(new IntakeList(await store.RecentAsync(null, 20, ct), (await site.SettingsAsync(ct)).Limits));

    static async Task<Ok<IntakeLine>> Begin(NewIntake body, ClaimsPrincipal user, IntakeStore store, CancellationToken ct) =>
        TypedResults.Ok((await store.RecentAsync(await store.BeginAsync(body.Album, user.Identity?.Name ?? "", ct), 1, ct))[0]);

    static async Task<Results<Ok<IntakeDetail>, NotFound<Problem>>> Show(IntakeId intake, int? after, IntakeStore store, CancellationToken ct)
    {
        if (await store.RecentAsync(intake, 1, ct) is not [var line])
        {
            return Problems.Gone("intake");
        }

        var files = await store.FilesAsync(intake, after ?? 0, FilesAtOnce, ct);
        return TypedResults.Ok(new IntakeDetail(line, files, files.Count == FilesAtOnce ? files[^1].Number : null));
    }

    static async Task<Results<Ok<IntakeLine>, NotFound<Problem>>> Direct(IntakeId intake, NewIntake body, IntakeStore store, AlbumStore albums, CancellationToken ct)
    {
        if (!await store.DirectAsync(intake, body.Album, ct))
        {
            return Problems.Gone("intake");
        }

        if (body.Album is { } album)
        {
            await albums.PutAsync(album, await store.PhotosAsync(intake, ct), ct);
        }

        return TypedResults.Ok((await store.RecentAsync(intake, 1, ct))[0]);
    }

    static async Task<Ok<Retried>> Retry(PhotoList body, IntakeStore store, CancellationToken ct) => TypedResults.Ok(new Retried(await store.RetryAsync(body.Photos, ct)));

    static async Task<Results<Ok<IntakeFile>, NotFound<Problem>>> Receive(
        IntakeId intake, [FromQuery] string name, HttpContext http, IntakeStore store, SiteStore site, Storage storage, CancellationToken ct)
    {
        var limits = (await site.SettingsAsync(ct)).Limits;
        var fileName = SafeName(name);
        async Task<Results<Ok<IntakeFile>, NotFound<Problem>>> Refuse(IntakeProblem problem) =>
            await store.RefuseAsync(intake, fileName, IntakeRefusal.Sentence(problem, limits), ct) is { } refused ? TypedResults.Ok(refused) : Problems.Gone("intake");

        if (http.Request.ContentLength > limits.Bytes)
        {
            return await Refuse(IntakeProblem.TooManyBytes);
        }

        Arrived arrived;
        try
        {
            arrived = await storage.ReceiveAsync(http.Request.Body, limits.Bytes, ct);
        }
        catch (TooManyBytesException)
        {
            return await Refuse(IntakeProblem.TooManyBytes);
        }

        try
        {
            var (problem, kind, size) = Judge(arrived, limits);
            if (problem is { } found)
            {
                return await Refuse(found);
            }

            // First the bytes have their lasting name, then the row says that they are there.
            storage.Keep(arrived);
            return await store.AddAsync(intake, fileName, arrived, kind, size, ct) is { } file ? TypedResults.Ok(file) : Problems.Gone("intake");
        }
        finally
        {
            Storage.Drop(arrived);
        }
    }

    /// <summary>What speaks against a file that can be told from its first bytes and its header.</summary>
    static (IntakeProblem? Problem, PictureKind Kind, PictureSize Size) Judge(Arrived arrived, IntakeLimits limits)
    {
        if (arrived.Bytes == 0)
        {
            return (IntakeProblem.Empty, default, default);
        }

        var kind = PictureKinds.Judge(arrived.Head);
        if (kind is PictureKind.None or PictureKind.Other)
        {
            return (kind == PictureKind.None ? IntakeProblem.NotAPicture : IntakeProblem.UnknownPicture, kind, default);
        }

        try
        {
            var size = Picture.Measure(arrived.Path);
            return (size.Pixels > limits.Megapixels * 1_000_000L ? IntakeProblem.TooManyPixels : null, kind, size);
        }
        catch (PictureException e)
        {
            return (e.CutShort ? IntakeProblem.CutShort : IntakeProblem.Unreadable, kind, default);
        }
    }

    /// <summary>The last part of whatever the browser calls the file, without what no file is called.</summary>
    static string SafeName(string name)
    {
        var last = name.Split('/', '\\')[^1];
        var clean = string.Concat(last.Where(c => !char.IsControl(c))).Trim();
        return clean.Length == 0 ? "unnamed" : clean.Length > 200 ? clean[^200..] : clean;
    }

    /// <summary>The body's size is checked against the site's own limit while it streams, not by the server beforehand.</summary>
    sealed class UnboundedBody : IRequestSizeLimitMetadata
    {
        public long? MaxRequestBodySize => null;
    }
}
