using System.ComponentModel.DataAnnotations;
using Jovitar.Core;
using Jovitar.Core.Contributions;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Storing;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace Jovitar.Server.Contributions;

/// <summary>A contribution link as somebody wants it.</summary>
/// <param name="Album">Where accepted photos are put; null for nowhere.</param>
public sealed record LinkWish(
    [Words(LinkWords.LongestTitle)] string Title, [Words(LinkWords.LongestWords)] string Words, [Words(LinkWords.LongestAgree)] string Agree, AlbumId? Album, DateTimeOffset? Ends, bool ForMembers, int Most)
{
    internal LinkWords AsKept() => new LinkWords(Title, Words, Agree, Ends, ForMembers, Most).AsKept();
}

internal sealed record LinkList(IReadOnlyList<LinkLine> Links, int MostPhotos);

/// <param name="Photos">Of one contribution.</param>
public sealed record PhotosAccepted([Required, AtMost(Sending.MostPhotos)] IReadOnlyList<Guid> Photos);

/// <param name="Why">What whoever sent them is told; empty for nothing.</param>
public sealed record PhotosRefused([Required, AtMost(Sending.MostPhotos)] IReadOnlyList<Guid> Photos, [Words(Sending.LongestWords)] string Why = "");

/// <summary>How many photos were decided on; others were by somebody else meanwhile.</summary>
internal sealed record DecidedOn(int Count);

public sealed record ContributingSaid(Contributing Contributing);

/// <summary>The categories that members may put albums of their own into.</summary>
public sealed record OfferedCategories([Required, AtMost(OfferedCategories.Most)] IReadOnlyList<CategoryId> Categories)
{
    public const int Most = 100;
}

/// <summary>What visitors send in, in the workroom: decided on, and asked for.</summary>
internal static class ContributionEndpoints
{
    public static void MapContributions(this IEndpointRouteBuilder api)
    {
        var all = api.MapGroup("/contributions").RequireAuthorization(Security.Editors).WithTags("Contributions");
        all.MapGet("", List).WithSummary("What visitors sent in, the latest first, a part of it");
        all.MapGet("/categories", Offered).WithSummary("The categories that members may put albums of their own into");
        all.MapPut("/categories", Offer).WithSummary("Says into which categories members may put albums of their own");
        all.MapGet("/{contribution}", Show).WithSummary("What a visitor sent in, with its photos");
        all.MapPost("/{contribution}/accept", Accept).WithSummary("Accepts photos of a contribution; they become photos here in a moment");
        all.MapPost("/{contribution}/refuse", Refuse).WithSummary("Refuses photos of a contribution");
        all.MapGet("/photos/{photo:guid}/{width:int}", Picture).ExcludeFromDescription().WithSummary("A picture of a photo that was sent in");
        var links = api.MapGroup("/contribution-links").RequireAuthorization(Security.Editors).WithTags("Contributions");
        links.MapGet("", Links).WithSummary("The contribution links");
        links.MapPost("", MakeLink).WithSummary("Makes a contribution link");
        links.MapPut("/{link}", ChangeLink).NeedsVersion().WithSummary("Has a contribution link ask for something else");
        links.MapDelete("/{link}", WithdrawLink).WithSummary("Withdraws a contribution link; what was sent by it stays");
        api.MapPut("/members/{member}/contributing", Say).RequireAuthorization(Security.Editors).WithTags("Contributions").WithSummary("Says whether a member sends photos in, and whether those wait");
    }

    /// <param name="waiting">Only those with photos that nobody has decided on.</param>
    /// <param name="behind">The last one that is known.</param>
    static async Task<Ok<ContributionList>> List(bool? waiting, Guid? behind, ContributionListStore store, CancellationToken ct) => TypedResults.Ok(await store.ListAsync(waiting ?? false, behind, ct));

    static async Task<Results<Ok<ContributionShown>, NotFound<Problem>>> Show(Guid contribution, ContributionListStore store, CancellationToken ct) =>
        await store.FindAsync(contribution, ct) is { } found ? TypedResults.Ok(found) : Problems.Gone("contribution");

    static async Task<Results<Ok<DecidedOn>, NotFound<Problem>>> Accept(Guid contribution, PhotosAccepted body, Actor who, DecidingStore store, CancellationToken ct) =>
        await store.AcceptAsync(who, contribution, body.Photos, ct) is { } count ? TypedResults.Ok(new DecidedOn(count)) : Problems.Gone("contribution");

    static async Task<Results<Ok<DecidedOn>, NotFound<Problem>>> Refuse(Guid contribution, PhotosRefused body, Actor who, DecidingStore store, CancellationToken ct) =>
        await store.RefuseAsync(who, contribution, body.Photos, body.Why.Trim(), ct) is { } count ? TypedResults.Ok(new DecidedOn(count)) : Problems.Gone("contribution");

    static async Task<Results<FileAnswer, NotFound<Problem>>> Picture(Guid photo, int width, HttpContext http, SentFiles files, Storage storage)
    {
        http.Response.Headers.CacheControl = "private, no-store";
        return await files.FindAsync(photo, width) is { } stored ? storage.Answer(stored, "image/webp") : Problems.Gone("photo");
    }

    static async Task<Ok<LinkList>> Links(LinkStore links, CancellationToken ct) => TypedResults.Ok(new LinkList(await links.ListAsync(ct), Sending.MostPhotos));

    static async Task<Results<NoContent, BadRequest<Problem>, Conflict<Problem>>> MakeLink(LinkWish body, Actor who, LinkStore links, TimeProvider clock, CancellationToken ct)
    {
        var words = body.AsKept();
        return Faulty(words, clock) is { } invalid ? invalid
            : await links.MakeAsync(who, words, body.Album, ct) == LinkOutcome.Written ? TypedResults.NoContent()
            : Problems.Conflict("full", $"There are {LinkStore.Most} contribution links already. Withdraw one that nobody uses any more.");
    }

    static async Task<Results<NoContent, BadRequest<Problem>, NotFound<Problem>, Stale>> ChangeLink(Guid link, LinkWish body, [FromHeader(Name = "If-Match")] long version, Actor who, LinkStore links, TimeProvider clock, CancellationToken ct)
    {
        var words = body.AsKept();
        if (Faulty(words, clock) is { } invalid)
        {
            return invalid;
        }

        return await links.ChangeAsync(who, link, words, body.Album, version, ct) switch
        {
            LinkOutcome.Written => TypedResults.NoContent(),
            LinkOutcome.Stale => Problems.Stale("contribution link"),
            _ => Problems.Gone("contribution link"),
        };
    }

    static BadRequest<Problem>? Faulty(LinkWords words, TimeProvider clock) =>
        words.Faults(clock.GetUtcNow()) is { Count: > 0 } faults ? Problems.Invalid(faults.Values.First(), faults) : null;

    static async Task<Results<NoContent, NotFound<Problem>>> WithdrawLink(Guid link, Actor who, LinkStore links, CancellationToken ct) =>
        await links.WithdrawAsync(who, link, ct) ? TypedResults.NoContent() : Problems.Gone("contribution link");

    static async Task<Results<NoContent, NotFound<Problem>, BadRequest<Problem>>> Say(Guid member, ContributingSaid body, Actor who, DecidingStore store, CancellationToken ct) =>
        !Enum.IsDefined(body.Contributing) ? Problems.Invalid("Choose what becomes of the photos that they send in.") : await store.SayAsync(who, member, body.Contributing, ct) ? TypedResults.NoContent() : Problems.Gone("member");

    static async Task<Ok<OfferedCategories>> Offered(SentStore store, CancellationToken ct) => TypedResults.Ok(new OfferedCategories([.. (await store.CategoriesAsync(ct)).Select(c => new CategoryId(c.Id))]));

    static async Task<NoContent> Offer(OfferedCategories body, Actor who, DecidingStore store, CancellationToken ct)
    {
        await store.OfferAsync(who, body.Categories, ct);
        return TypedResults.NoContent();
    }
}
