using System.ComponentModel.DataAnnotations;
using Jovitar.Core;
using Jovitar.Core.Photos;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Narrowings;
using Jovitar.Server.Photos;
using Jovitar.Server.Platform;
using Jovitar.Server.Sales.Ordering;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Bins;

/// <summary>What lies in the bin.</summary>
/// <param name="Total">How many things lie in it on their own account, or how many photos of them were asked for.</param>
/// <param name="Until">When it was looked at; emptying it removes what lay there then, and nothing that came later.</param>
/// <param name="After">Asks for the next ones, or is null at the end.</param>
/// <param name="Needed">Photos that stay when it is emptied, because orders need them.</param>
internal sealed record BinContents(IReadOnlyList<BinnedThing> Things, int Total, DateTimeOffset Until, Guid? After, IReadOnlyList<Guid> Needed);

/// <summary>Photos and files to throw away.</summary>
public sealed record BinThrow(
    IReadOnlyList<PhotoId>? Photos = null, bool? InHand = null, [AtMost(Hand.Most)] IReadOnlyList<FileId>? Files = null) : Reach(Photos, InHand);

public sealed record BinRestore([Required, AtMost(Hand.Most)] IReadOnlyList<ThingKey> Things);

/// <summary>Which state of the bin is emptied, as it was looked at.</summary>
public sealed record BinEmpty(DateTimeOffset Until);

/// <summary>What was removed for good.</summary>
/// <param name="Needed">So many photos stay, because orders need them.</param>
internal sealed record BinEmptied(int Count, int Needed);

/// <summary>The bin.</summary>
internal static class BinEndpoints
{
    const int AtOnce = 500;

    public static void MapBin(this IEndpointRouteBuilder api)
    {
        var bin = api.MapGroup("/bin").RequireAuthorization(Security.Editors).WithTags("Bin");
        bin.MapGet("", List).WithSummary("What waits in the bin; narrowed, the photos there that a sheet would find");
        bin.MapGet("/counts", Counts).WithSummary("How many photos in the bin each choice of a narrowing would find");
        bin.MapPost("", Throw).WithSummary("Throws photos and files into the bin");
        bin.MapPost("/restore", Restore).WithSummary("Takes things back out of the bin");
        bin.MapPost("/empty", Empty).WithSummary("Removes for good what lay in the bin when it was looked at");
    }

    static async Task<Ok<BinContents>> List(DateTimeOffset? until, Guid? after, [AsParameters] SheetQuery query, IndexKeeper keeper, BinStore store, NeededStore needed, TimeProvider clock, CancellationToken ct)
    {
        var narrowing = query.Narrowing();
        IReadOnlyList<Guid>? only = narrowing.IsNothing ? null : (await keeper.CurrentAsync(ct)).InBin(narrowing);
        // What PostgreSQL keeps of a time are microseconds.
        var at = until ?? new DateTimeOffset(clock.GetUtcNow().Ticks / 10 * 10, TimeSpan.Zero);
        var things = await store.ListAsync(at.ToUniversalTime(), after, only, AtOnce, ct);
        var needing = await needed.AmongAsync([.. things.Where(t => t.Kind == "photo").Select(t => t.Id)], ct);
        return TypedResults.Ok(new BinContents(things, await store.CountAsync(at.ToUniversalTime(), only, ct), at, things.Count == AtOnce ? things[^1].Id : null, [.. needing]));
    }

    static async Task<Ok<SheetCounts>> Counts([AsParameters] SheetQuery query, CountStore counts, CancellationToken ct) => TypedResults.Ok(await counts.CountAsync(query.Narrowing(), inBin: true, ct));

    static async Task<Ok<Done>> Throw(BinThrow body, Actor who, HandStore hand, BinStore store, CancellationToken ct) =>
        TypedResults.Ok(await store.ThrowAsync(who, await hand.ReachedAsync(who, body, ct), body.Files ?? [], ct));

    static async Task<Results<Ok<Done>, BadRequest<Problem>>> Restore(BinRestore body, Actor who, BinStore store, CancellationToken ct) =>
        body.Things.All(t => BinStore.Kinds.Contains(t.Kind)) ? TypedResults.Ok(await store.RestoreAsync(who, body.Things, ct)) : Problems.Invalid("Such a thing does not go into the bin.");

    static async Task<Ok<BinEmptied>> Empty(BinEmpty body, Actor who, BinStore store, CancellationToken ct) =>
        TypedResults.Ok(await store.EmptyAsync(who, body.Until.ToUniversalTime(), ct));
}
