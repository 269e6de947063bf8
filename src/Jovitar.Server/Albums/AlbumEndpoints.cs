using Jovitar.Core;
using Jovitar.Server.Access;
using Jovitar.Server.Photos;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace Jovitar.Server.Albums;

internal sealed record AlbumList(IReadOnlyList<AlbumLine> Albums);

internal sealed record NewAlbum(string WorkingName);

/// <summary>Photos to move: to stand before another photo, or so that the first of them takes a position, 0 = first. With neither they go to the end.</summary>
internal sealed record AlbumMove(IReadOnlyList<PhotoId> Photos, int? Position, PhotoId? Before);

/// <summary>Albums, and putting, ordering and taking out their photos.</summary>
internal static class AlbumEndpoints
{
    public static void MapAlbums(this IEndpointRouteBuilder api)
    {
        var albums = api.MapGroup("/albums").RequireAuthorization(Security.Editors).WithTags("Albums");
        albums.MapGet("", List).WithSummary("All albums by working name");
        albums.MapPost("", Make).WithSummary("Makes an album");
        albums.MapGet("/{album}", Show).WithSummary("One album");
        albums.MapPatch("/{album}", Change).WithSummary("Changes an album's words or cover");
        albums.MapDelete("/{album}", Remove).WithSummary("Removes an album and its page; its photos stay");
        albums.MapPost("/{album}/photos", Put).WithSummary("Puts photos into an album");
        albums.MapPost("/{album}/photos/removal", TakeOut).WithSummary("Takes photos out of an album");
        albums.MapPut("/{album}/order", Move).WithSummary("Moves photos to a position in an album");
        albums.MapPut("/{album}/photos", Set).WithSummary("Makes an album hold exactly these photos in this order");
    }

    static async Task<Ok<AlbumList>> List(AlbumStore store, CancellationToken ct) => TypedResults.Ok(new AlbumList(await store.ListAsync(null, ct)));

    static async Task<Results<Ok<AlbumLine>, NotFound<Problem>>> Show(AlbumId album, AlbumStore store, CancellationToken ct) =>
        await store.FindAsync(album, ct) is { } line ? TypedResults.Ok(line) : Problems.Gone("album");

    static Dictionary<string, string> Faults(string? workingName, string? title, string? description)
    {
        var faults = new Dictionary<string, string>();
        if (workingName is not null && workingName.Trim().Length is 0 or > 160)
        {
            faults["workingName"] = "An album needs a working name of up to 160 characters.";
        }

        if (title?.Length > 300)
        {
            faults["title"] = "A title may have 300 characters.";
        }

        if (description?.Length > 10_000)
        {
            faults["description"] = "A description may have 10,000 characters.";
        }

        return faults;
    }

    static async Task<Results<Ok<AlbumLine>, BadRequest<Problem>>> Make(NewAlbum body, AlbumStore store, CancellationToken ct)
    {
        if (Faults(body.WorkingName, null, null) is { Count: > 0 } faults)
        {
            return Problems.Invalid(faults.First().Value, faults);
        }

        return TypedResults.Ok((await store.FindAsync(await store.MakeAsync(body.WorkingName, "", "", ct), ct))!);
    }

    static async Task<Results<Ok<AlbumLine>, NotFound<Problem>, Conflict<Problem>, BadRequest<Problem>>> Change(
        AlbumId album, AlbumChange body, [FromHeader(Name = "If-Match")] long version, AlbumStore store, CancellationToken ct)
    {
        if (Faults(body.WorkingName, body.Title, body.Description) is { Count: > 0 } faults)
        {
            return Problems.Invalid(faults.First().Value, faults);
        }

        var written = await store.ChangeAsync(album, body, version, ct);
        return await store.FindAsync(album, ct) is not { } line ? Problems.Gone("album") : written ? TypedResults.Ok(line) : Problems.Stale("album");
    }

    static async Task<NoContent> Remove(AlbumId album, AlbumStore store, CancellationToken ct)
    {
        await store.RemoveAsync(album, ct);
        return TypedResults.NoContent();
    }

    static async Task<Results<Ok<AlbumMoved>, NotFound<Problem>>> Put(AlbumId album, PhotoList body, AlbumStore store, CancellationToken ct) =>
        await store.PutAsync(album, body.Photos, ct) is { } moved ? TypedResults.Ok(moved) : Problems.Gone("album");

    static async Task<Results<Ok<AlbumMoved>, NotFound<Problem>>> TakeOut(AlbumId album, PhotoList body, AlbumStore store, CancellationToken ct) =>
        await store.TakeOutAsync(album, body.Photos, ct) is { } moved ? TypedResults.Ok(moved) : Problems.Gone("album");

    static async Task<Results<Ok<AlbumMoved>, NotFound<Problem>, Conflict<Problem>>> Move(
        AlbumId album, AlbumMove body, [FromHeader(Name = "If-Match")] long version, AlbumStore store, CancellationToken ct) =>
        await store.MoveAsync(album, body, version, ct) is { } moved ? TypedResults.Ok(moved) : await LostAsync(album, store, ct);

    static async Task<Results<Ok<AlbumMoved>, NotFound<Problem>, Conflict<Problem>>> Set(
        AlbumId album, PhotoList body, [FromHeader(Name = "If-Match")] long version, AlbumStore store, CancellationToken ct) =>
        await store.SetAsync(album, body.Photos, version, ct) is { } moved ? TypedResults.Ok(moved) : await LostAsync(album, store, ct);

    static async Task<Results<Ok<AlbumMoved>, NotFound<Problem>, Conflict<Problem>>> LostAsync(AlbumId album, AlbumStore store, CancellationToken ct) =>
        await store.FindAsync(album, ct) is null ? Problems.Gone("album") : Problems.Stale("album");
}
