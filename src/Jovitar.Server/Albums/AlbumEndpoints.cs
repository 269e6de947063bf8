using System.ComponentModel.DataAnnotations;
using Jovitar.Core;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Narrowings;
using Jovitar.Server.Photos;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace Jovitar.Server.Albums;

internal sealed record AlbumList(IReadOnlyList<AlbumLine> Albums);

internal sealed record CategoryAlbums(IReadOnlyList<CategoryAlbum> Albums);

/// <summary>An album to be placed in a category before another; at the end without it.</summary>
public sealed record AlbumPlaced(AlbumId Album, AlbumId? Before = null);

/// <summary>An album to be made.</summary>
/// <param name="Filling">How it keeps itself; without it, it is picked by hand.</param>
public sealed record NewAlbum([Required, Words(AlbumWords.LongestName)] string WorkingName, AlbumFilling? Filling = null);

/// <summary>How an order made by hand is to be changed as a whole.</summary>
public sealed record AlbumRearranged([Required, OneOf(AlbumRearranged.Shuffled, AlbumRearranged.Reversed)] string How)
{
    internal const string Shuffled = "shuffled";
    internal const string Reversed = "reversed";
}

/// <summary>Photos held out of an album.</summary>
/// <param name="Photos">The first of them.</param>
internal sealed record HeldOut(int Total, IReadOnlyList<SheetPhoto> Photos);

/// <summary>Photos to move: to stand before another photo, or so that the first of them takes a position, 0 = first. With neither they go to the end.</summary>
public sealed record AlbumMove(IReadOnlyList<PhotoId>? Photos = null, bool? InHand = null, int? Position = null, PhotoId? Before = null) : Reach(Photos, InHand);

/// <summary>An album as it is after a write, and what the write came to.</summary>
internal sealed record AlbumWritten(AlbumLine Album, Done Done);

/// <summary>Albums, and putting, ordering and taking out their photos.</summary>
internal static class AlbumEndpoints
{
    const string CannotBeRead = "What is to fill the album cannot be read.";

    public static void MapAlbums(this IEndpointRouteBuilder api)
    {
        var albums = api.MapGroup("/albums").RequireAuthorization(Security.Editors).WithTags("Albums");
        albums.MapGet("", List).WithSummary("All albums by working name");
        albums.MapPost("", Make).WithSummary("Makes an album");
        albums.MapGet("/{album}", Show).WithSummary("One album");
        albums.MapPatch("/{album}", Change).NeedsVersion().WithSummary("Changes an album's words or cover");
        albums.MapDelete("/{album}", Remove).WithSummary("Throws an album in the bin, with a page that shows nothing else; its photos stay");
        albums.MapPost("/{album}/photos", Put).WithSummary("Puts photos into an album");
        albums.MapPost("/{album}/photos/removal", TakeOut).WithSummary("Takes photos out of an album");
        albums.MapGet("/{album}/photos/without", Without).WithSummary("Photos held out of an album that fills itself");
        albums.MapPost("/{album}/photos/without/removal", LetIn).WithSummary("Lets photos that are held out of an album in again");
        albums.MapPut("/{album}/filling", Fill).NeedsVersion().WithSummary("Says how an album keeps itself: by which rule, in which order");
        albums.MapPut("/{album}/standing", Stand).NeedsVersion().WithSummary("Says where an album stands: in which categories, in view or out of it, at which address");
        albums.MapGet("/in/{category}", InCategory).WithSummary("The albums that stand in a category, in the order its page lists them");
        albums.MapPut("/in/{category}/order", PlaceIn).WithSummary("Moves an album in a category whose albums stand as they were placed");
        albums.MapPost("/{album}/order", Rearrange).NeedsVersion().WithSummary("Turns an album's order round, or shuffles it, once");
        albums.MapPut("/{album}/order", Move).NeedsVersion().WithSummary("Moves photos to a position in an album");
    }

    static async Task<Ok<AlbumList>> List(AlbumStore store, CancellationToken ct) => TypedResults.Ok(new AlbumList(await store.ListAsync(null, ct)));

    static async Task<Results<Ok<AlbumLine>, NotFound<Problem>>> Show(AlbumId album, AlbumStore store, CancellationToken ct) =>
        await store.FindAsync(album, ct) is { } line ? TypedResults.Ok(line) : Problems.Gone("album");

    static async Task<Results<Ok<AlbumLine>, BadRequest<Problem>>> Make(NewAlbum body, Actor who, AlbumStore store, CancellationToken ct)
    {
        if (string.IsNullOrWhiteSpace(body.WorkingName))
        {
            return Problems.Invalid("An album needs a working name.", new Dictionary<string, string> { ["workingName"] = "An album needs a working name." });
        }

        if (body.Filling?.Search is { } search && !SheetAddress.IsSound(search))
        {
            return Problems.Invalid(CannotBeRead);
        }

        var (made, fault) = await store.MakeAsync(who, body.WorkingName, "", "", body.Filling is { } filling ? FillingStore.Read(filling) : null, ct);
        return made is { } id ? TypedResults.Ok((await store.FindAsync(id, ct))!) : Problems.Invalid(fault!);
    }

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

    static async Task<Results<Ok<AlbumMoved>, NotFound<Problem>>> Put(AlbumId album, Reach body, Actor who, HandStore hand, AlbumPhotoStore store, CancellationToken ct) =>
        (await store.PutAsync(who, album, await hand.ReachedAsync(who, body, ct), ct)).Moved is { } moved ? TypedResults.Ok(moved) : Problems.Gone("album");

    static async Task<Results<Ok<AlbumMoved>, NotFound<Problem>>> TakeOut(AlbumId album, Reach body, Actor who, HandStore hand, AlbumPhotoStore store, CancellationToken ct) =>
        (await store.TakeOutAsync(who, album, await hand.ReachedAsync(who, body, ct), ct)).Moved is { } moved ? TypedResults.Ok(moved) : Problems.Gone("album");

    static async Task<Results<Ok<HeldOut>, NotFound<Problem>>> Without(AlbumId album, AlbumStore store, FillingStore filling, SheetStore sheet, CancellationToken ct) =>
        await store.FindAsync(album, ct) is { } line
            ? TypedResults.Ok(new HeldOut(line.Without, await sheet.TheseAsync(await filling.WithoutAsync(album, SheetStore.Step, ct), ct))) : Problems.Gone("album");

    static async Task<Results<Ok<Done>, NotFound<Problem>>> LetIn(AlbumId album, Reach body, Actor who, HandStore hand, FillingStore filling, CancellationToken ct)
    {
        var (outcome, done) = await filling.LetInAsync(who, album, await hand.ReachedAsync(who, body, ct), ct);
        return outcome == AlbumOutcome.Written ? TypedResults.Ok(done) : Problems.Gone("album");
    }

    static async Task<Results<Ok<AlbumWritten>, NotFound<Problem>, Stale, BadRequest<Problem>>> Fill(
        AlbumId album, AlbumFilling body, [FromHeader(Name = "If-Match")] long version, Actor who, FillingStore filling, AlbumStore store, CancellationToken ct)
    {
        if (body.Search is { } search && !SheetAddress.IsSound(search))
        {
            return Problems.Invalid(CannotBeRead);
        }

        var (outcome, fault, done) = await filling.SayAsync(who, album, FillingStore.Read(body), version, ct);
        return fault is not null ? Problems.Invalid(fault)
            : outcome == AlbumOutcome.Stale ? Problems.Stale("album")
            : outcome == AlbumOutcome.Written && await store.FindAsync(album, ct) is { } line ? TypedResults.Ok(new AlbumWritten(line, done)) : Problems.Gone("album");
    }

    static async Task<Results<Ok<AlbumWritten>, NotFound<Problem>, Stale, BadRequest<Problem>>> Stand(
        AlbumId album, AlbumStanding body, [FromHeader(Name = "If-Match")] long version, Actor who, StandingStore standing, AlbumStore store, CancellationToken ct)
    {
        var (outcome, fault, done) = await standing.SayAsync(who, album, body, version, ct);
        return fault is not null ? Problems.Invalid(fault, new Dictionary<string, string> { ["address"] = fault })
            : outcome == AlbumOutcome.Stale ? Problems.Stale("album")
            : outcome == AlbumOutcome.Written && await store.FindAsync(album, ct) is { } line ? TypedResults.Ok(new AlbumWritten(line, done)) : Problems.Gone("album");
    }

    static async Task<Results<Ok<CategoryAlbums>, NotFound<Problem>>> InCategory(CategoryId category, CategoryAlbumStore store, CancellationToken ct) =>
        await store.ListAsync(category, ct) is { } albums ? TypedResults.Ok(new CategoryAlbums(albums)) : Problems.Gone("category");

    static async Task<Results<Ok<Done>, NotFound<Problem>, BadRequest<Problem>>> PlaceIn(CategoryId category, AlbumPlaced body, Actor who, CategoryAlbumStore store, CancellationToken ct)
    {
        var (outcome, done) = await store.MoveAsync(who, category, body.Album, body.Before, ct);
        return outcome switch
        {
            AlbumOutcome.Written => TypedResults.Ok(done),
            AlbumOutcome.KeptInOrder => Problems.Invalid("This category keeps its albums in an order. Say that they stand as they are placed, then they can be moved."),
            _ => Problems.Gone("album"),
        };
    }

    static async Task<Results<Ok<AlbumMoved>, NotFound<Problem>, Stale, BadRequest<Problem>>> Rearrange(
        AlbumId album, AlbumRearranged body, [FromHeader(Name = "If-Match")] long version, Actor who, AlbumPhotoStore store, CancellationToken ct) =>
        Moved(await store.RearrangeAsync(who, album, body.How == AlbumRearranged.Shuffled, version, ct));

    static async Task<Results<Ok<AlbumMoved>, NotFound<Problem>, Stale, BadRequest<Problem>>> Move(
        AlbumId album, AlbumMove body, [FromHeader(Name = "If-Match")] long version, Actor who, HandStore hand, AlbumPhotoStore store, CancellationToken ct) =>
        Moved(await store.MoveAsync(who, album, await hand.ReachedAsync(who, body, ct), body.Position, body.Before, version, ct));

    static Results<Ok<AlbumMoved>, NotFound<Problem>, Stale, BadRequest<Problem>> Moved((AlbumOutcome, AlbumMoved?) written) => written switch
    {
        (AlbumOutcome.Written, { } moved) => TypedResults.Ok(moved),
        (AlbumOutcome.Stale, _) => Problems.Stale("album"),
        (AlbumOutcome.KeptInOrder, _) => Problems.Invalid("This album keeps its photos in an order. Say that it is made by hand, then they can be moved."),
        _ => Problems.Gone("album"),
    };
}
