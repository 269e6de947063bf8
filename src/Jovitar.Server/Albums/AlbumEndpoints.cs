using System.ComponentModel.DataAnnotations;
using Jovitar.Core;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Photos;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace Jovitar.Server.Albums;

internal sealed record AlbumList(IReadOnlyList<AlbumLine> Albums);

public sealed record NewAlbum([Required, Words(AlbumWords.LongestName)] string WorkingName);

/// <summary>Photos to move: to stand before another photo, or so that the first of them takes a position, 0 = first. With neither they go to the end.</summary>
public sealed record AlbumMove(IReadOnlyList<PhotoId>? Photos = null, bool? InHand = null, int? Position = null, PhotoId? Before = null) : Reach(Photos, InHand);

/// <summary>An album as it is after a write, and what the write came to.</summary>
internal sealed record AlbumWritten(AlbumLine Album, Done Done);

/// <summary>Albums, and putting, ordering and taking out their photos.</summary>
internal static class AlbumEndpoints
{
    public static void MapAlbums(this IEndpointRouteBuilder api)
    {
        var albums = api.MapGroup("/albums").RequireAuthorization(Security.Editors).WithTags("Albums");
        albums.MapGet("", List).WithSummary("All albums by working name");
        albums.MapPost("", Make).WithSummary("Makes an album");
        albums.MapGet("/{album}", Show).WithSummary("One album");
        albums.MapPatch("/{album}", Change).NeedsVersion().WithSummary("Changes an album's words or cover");
        albums.MapDelete("/{album}", Remove).WithSummary("Throws an album in the bin with its pages; its photos stay");
        albums.MapPost("/{album}/photos", Put).WithSummary("Puts photos into an album");
        albums.MapPost("/{album}/photos/removal", TakeOut).WithSummary("Takes photos out of an album");
        albums.MapPut("/{album}/order", Move).NeedsVersion().WithSummary("Moves photos to a position in an album");
    }

    static async Task<Ok<AlbumList>> List(AlbumStore store, CancellationToken ct) => TypedResults.Ok(new AlbumList(await store.ListAsync(null, ct)));

    static async Task<Results<Ok<AlbumLine>, NotFound<Problem>>> Show(AlbumId album, AlbumStore store, CancellationToken ct) =>
        await store.FindAsync(album, ct) is { } line ? TypedResults.Ok(line) : Problems.Gone("album");

    static async Task<Ok<AlbumLine>> Make(NewAlbum body, Actor who, AlbumStore store, CancellationToken ct) =>
        TypedResults.Ok((await store.FindAsync(await store.MakeAsync(who, body.WorkingName, "", "", ct), ct))!);

    static async Task<Results<Ok<AlbumWritten>, NotFound<Problem>, Stale, BadRequest<Problem>>> Change(
        AlbumId album, AlbumChange body, [FromHeader(Name = "If-Match")] long version, Actor who, AlbumStore store, CancellationToken ct)
    {
        if (body.WorkingName is { } name && string.IsNullOrWhiteSpace(name))
        {
            return Problems.Invalid("An album needs a working name.", new Dictionary<string, string> { ["workingName"] = "An album needs a working name." });
        }

        var (outcome, done) = await store.ChangeAsync(who, album, body, version, ct);
        return outcome switch
        {
            AlbumOutcome.Stale => Problems.Stale("album"),
            AlbumOutcome.Written when await store.FindAsync(album, ct) is { } line => TypedResults.Ok(new AlbumWritten(line, done)),
            _ => Problems.Gone("album"),
        };
    }

    static async Task<Results<Ok<Done>, NotFound<Problem>>> Remove(AlbumId album, Actor who, AlbumStore store, CancellationToken ct) =>
        await store.RemoveAsync(who, album, ct) is { } done ? TypedResults.Ok(done) : Problems.Gone("album");

    static async Task<Results<Ok<AlbumMoved>, NotFound<Problem>>> Put(AlbumId album, Reach body, Actor who, HandStore hand, AlbumStore store, CancellationToken ct) =>
        (await store.PutAsync(who, album, await hand.ReachedAsync(who, body, ct), ct)).Moved is { } moved ? TypedResults.Ok(moved) : Problems.Gone("album");

    static async Task<Results<Ok<AlbumMoved>, NotFound<Problem>>> TakeOut(AlbumId album, Reach body, Actor who, HandStore hand, AlbumStore store, CancellationToken ct) =>
        (await store.TakeOutAsync(who, album, await hand.ReachedAsync(who, body, ct), ct)).Moved is { } moved ? TypedResults.Ok(moved) : Problems.Gone("album");

    static async Task<Results<Ok<AlbumMoved>, NotFound<Problem>, Stale>> Move(
        AlbumId album, AlbumMove body, [FromHeader(Name = "If-Match")] long version, Actor who, HandStore hand, AlbumStore store, CancellationToken ct) =>
        await store.MoveAsync(who, album, await hand.ReachedAsync(who, body, ct), body.Position, body.Before, version, ct) switch
        {
            (AlbumOutcome.Written, { } moved) => TypedResults.Ok(moved),
            (AlbumOutcome.Stale, _) => Problems.Stale("album"),
            _ => Problems.Gone("album"),
        };
}
