using Jovitar.Core;
using Jovitar.Core.Pages;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace Jovitar.Server.Pages;

internal sealed record PageList(IReadOnlyList<PageLine> Pages);

/// <param name="Album">The album whose photos it shows; null for a page with a heading alone.</param>
/// <param name="Title">Null for the album's, or the category's name.</param>
/// <param name="Category">The category whose albums and photos it shows, and whose cover opens it.</param>
public sealed record NewPage(AlbumId? Album = null, [Words(PageContent.LongestTitle)] string? Title = null, CategoryId? Category = null);

/// <param name="Was">What the writer began with: with it, what others have written meanwhile is kept.</param>
/// <param name="Over">Where somebody else changed the same block, this one stands.</param>
public sealed record PageEdit([Words(PageAddress.Longest * 2)] string Address, PageContent Draft, PageBase? Was = null, bool Over = false);

/// <summary>A page as its writer had read it.</summary>
public sealed record PageBase([Words(PageAddress.Longest * 2)] string Address, PageContent Draft);

public sealed record NewBlock(Block Block);

/// <param name="Beside">How many blocks stand side by side where it stands.</param>
public sealed record InPlace(Block Block, [AtMost(240)] IReadOnlyList<PhotoId> Photos, int Beside = 1);

internal sealed record SmallPhotos(IReadOnlyList<SmallForBlock> Photos);

internal sealed record PageChanges(IReadOnlyList<PageChange> Changes);

internal sealed record PageVersions(IReadOnlyList<VersionLine> Versions);

public sealed record PagePlan(DateTimeOffset At);

/// <summary>A page as it is after a write, and what the write came to.</summary>
internal sealed record PageWritten(OpenedPage Page, Done Done);

/// <summary>Pages: drafts, publishing, withdrawing.</summary>
internal static class PageEndpoints
{
    public static void MapPages(this IEndpointRouteBuilder api)
    {
        var pages = api.MapGroup("/pages").RequireAuthorization(Security.Editors).WithTags("Pages");
        pages.MapGet("", List).WithSummary("All pages, the newest first");
        pages.MapPost("", Make).WithSummary("Makes a draft page: of an album, of a category, or with a heading alone");
        pages.MapPost("/small", Small).WithSummary("Which of some photos are too small for their place in a block");
        pages.MapGet("/{page}", Show).WithSummary("One page");
        pages.MapPut("/{page}", Edit).NeedsVersion().WithSummary("Writes a page's draft and address");
        pages.MapDelete("/{page}", Remove).WithSummary("Throws a page in the bin; albums and photos stay");
        pages.MapPost("/{page}/copy", Copy).WithSummary("Copies a page whole, as a draft");
        pages.MapPost("/{page}/blocks", Add).WithSummary("Puts a copy of a block at the foot of a page");
        pages.MapGet("/{page}/changes", Changes).WithSummary("What publishing the draft would change for visitors");
        pages.MapGet("/{page}/unseen", Unseen).WithSummary("Which photos of a page's draft visitors will not see, and why");
        pages.MapGet("/{page}/versions", Versions).WithSummary("What visitors had of a page, the latest first");
        pages.MapPost("/{page}/versions/{number}/back", Back).WithSummary("Makes an earlier version the draft");
        pages.MapPut("/{page}/plan", Plan).NeedsVersion().WithSummary("Plans the draft to be published at a time");
        pages.MapDelete("/{page}/plan", CallOff).WithSummary("Calls off what was planned");
        pages.MapPost("/{page}/publish", Publish).NeedsVersion().WithSummary("Makes the draft what visitors have");
        pages.MapPost("/{page}/withdraw", Withdraw).WithSummary("Takes a page out of visitors' reach");
    }

    static async Task<Ok<PageList>> List(PageStore store, CancellationToken ct) => TypedResults.Ok(new PageList(await store.ListAsync(ct)));

    static async Task<Results<Ok<SmallPhotos>, BadRequest<Problem>>> Small(InPlace body, PageStore store, CancellationToken ct) =>
        PageContent.FaultOf(body.Block) is { } fault ? Problems.Invalid(fault) : TypedResults.Ok(new SmallPhotos(await store.SmallAsync(body.Block.Bounded(), Math.Clamp(body.Beside, 1, BesideBlock.Most), body.Photos, ct)));

    static async Task<Results<Ok<OpenedPage>, NotFound<Problem>>> Show(PageId page, PageStore store, CancellationToken ct) =>
        await store.FindAsync(page, ct) is { } opened ? TypedResults.Ok(opened) : Problems.Gone("page");

    static async Task<Results<Ok<PageUnseen>, NotFound<Problem>>> Unseen(PageId page, UnseenStore store, CancellationToken ct) =>
        await store.OfAsync(page, ct) is { } unseen ? TypedResults.Ok(unseen) : Problems.Gone("page");

    static async Task<Results<Ok<OpenedPage>, NotFound<Problem>, BadRequest<Problem>>> Make(NewPage body, Actor who, PageStore store, CancellationToken ct)
    {
        if (body.Category is { } category)
        {
            return await store.MakeAsync(who, category, body.Title, ct) is { } made ? TypedResults.Ok((await store.FindAsync(made, ct))!) : Problems.Gone("category");
        }

        if (body.Album is null && string.IsNullOrWhiteSpace(body.Title))
        {
            return Problems.Invalid("A page needs a title.", new Dictionary<string, string> { ["title"] = "A page needs a title." });
        }

        return await store.MakeAsync(who, body.Album, body.Title, ct) is { } id ? TypedResults.Ok((await store.FindAsync(id, ct))!) : Problems.Gone("album");
    }

    static async Task<Results<Ok<OpenedPage>, NotFound<Problem>>> Copy(PageId page, Actor who, PageStore store, CancellationToken ct) =>
        await store.CopyAsync(who, page, ct) is { } id && await store.FindAsync(id, ct) is { } copy ? TypedResults.Ok(copy) : Problems.Gone("page");

    static async Task<Results<Ok<Done>, NotFound<Problem>, BadRequest<Problem>>> Add(PageId page, NewBlock body, Actor who, PageStore store, CancellationToken ct)
    {
        if (PageContent.FaultOf(body.Block) is { } wrong)
        {
            return Problems.Invalid(wrong);
        }

        var (done, fault) = await store.AddAsync(who, page, body.Block.Bounded(), ct);
        return done is not null ? TypedResults.Ok(done) : fault is not null ? Problems.Invalid(fault) : Problems.Gone("page");
    }

    static async Task<Results<Ok<PageWritten>, NotFound<Problem>, Stale, Conflict<Problem>, BadRequest<Problem>>> Edit(
        PageId page, PageEdit body, [FromHeader(Name = "If-Match")] long version, Actor who, PageStore store, CancellationToken ct)
    {
        var faults = body.Draft.Faults().ToDictionary();
        foreach (var text in faults.ContainsKey("blocks") ? [] : body.Draft.All().OfType<TextBlock>().Where(t => !Markdown.CanRender(t.Words)))
        {
            faults.TryAdd(text.Id.ToString(), "The text is nested too deeply to be shown. Take some of the quotes or lists within lists out.");
        }

        if (!PageAddress.TryParse(body.Address, out var address, out var fault))
        {
            faults["address"] = fault;
        }

        if (faults.Count > 0)
        {
            return Problems.Invalid(faults.First().Value, faults);
        }

        var was = body.Was is { } read && read.Draft.Faults().ContainsKey("blocks") is false ? new PageWork(read.Address, read.Draft) : null;
        var (outcome, collisions, done) = await store.EditAsync(who, page, address!, body.Draft.Bounded(), version, was, body.Over, ct);
        return outcome switch
        {
            PageOutcome.Stale => Problems.Stale("page"),
            PageOutcome.Collided => Problems.Collided("Somebody else changed the same block while you worked. Yours is kept here.", collisions),
            PageOutcome.AddressTaken => Problems.Taken($"Another page has the address “{address}”.", "address"),
            PageOutcome.Written when await store.FindAsync(page, ct) is { } opened => TypedResults.Ok(new PageWritten(opened, done)),
            _ => Problems.Gone("page"),
        };
    }

    static async Task<Results<Ok<PageWritten>, NotFound<Problem>, Stale>> Publish(
        PageId page, [FromHeader(Name = "If-Match")] long version, Actor who, PageStore store, VersionStore versions, CancellationToken ct)
    {
        var (outcome, done) = await versions.PublishAsync(who, page, version, ct);
        return outcome switch
        {
            PageOutcome.Stale => Problems.Stale("page"),
            PageOutcome.Written when await store.FindAsync(page, ct) is { } opened => TypedResults.Ok(new PageWritten(opened, done)),
            _ => Problems.Gone("page"),
        };
    }

    static async Task<Results<Ok<PageChanges>, NotFound<Problem>>> Changes(PageId page, VersionStore versions, CancellationToken ct) =>
        await versions.ChangesAsync(page, ct) is { } changes ? TypedResults.Ok(new PageChanges(changes)) : Problems.Gone("page");

    static async Task<Ok<PageVersions>> Versions(PageId page, VersionStore versions, CancellationToken ct) => TypedResults.Ok(new PageVersions(await versions.ListAsync(page, ct)));

    static async Task<Results<Ok<PageWritten>, NotFound<Problem>>> Back(PageId page, int number, Actor who, PageStore store, VersionStore versions, CancellationToken ct) =>
        await versions.BackAsync(who, page, number, ct) is { } done && await store.FindAsync(page, ct) is { } opened ? TypedResults.Ok(new PageWritten(opened, done)) : Problems.Gone("version");

    static async Task<Results<Ok<PageWritten>, NotFound<Problem>, Stale, BadRequest<Problem>>> Plan(
        PageId page, PagePlan body, [FromHeader(Name = "If-Match")] long version, Actor who, PageStore store, VersionStore versions, TimeProvider clock, CancellationToken ct)
    {
        var now = clock.GetUtcNow();
        if (body.At <= now || body.At > now.AddYears(5))
        {
            const string Sentence = "Choose a time that is still to come, within five years.";
            return Problems.Invalid(Sentence, new Dictionary<string, string> { ["at"] = Sentence });
        }

        var (outcome, done) = await versions.PlanAsync(who, page, version, body.At, ct);
        return outcome switch
        {
            PageOutcome.Stale => Problems.Stale("page"),
            PageOutcome.Written when await store.FindAsync(page, ct) is { } opened => TypedResults.Ok(new PageWritten(opened, done)),
            _ => Problems.Gone("page"),
        };
    }

    static async Task<Results<Ok<PageWritten>, NotFound<Problem>>> CallOff(PageId page, Actor who, PageStore store, VersionStore versions, CancellationToken ct) =>
        await versions.CallOffAsync(who, page, ct) is { } done && await store.FindAsync(page, ct) is { } opened ? TypedResults.Ok(new PageWritten(opened, done)) : Problems.Gone("page");

    static async Task<Results<Ok<PageWritten>, NotFound<Problem>>> Withdraw(PageId page, Actor who, PageStore store, CancellationToken ct) =>
        await store.WithdrawAsync(who, page, ct) is { } done && await store.FindAsync(page, ct) is { } opened ? TypedResults.Ok(new PageWritten(opened, done)) : Problems.Gone("page");

    static async Task<Results<Ok<Done>, NotFound<Problem>>> Remove(PageId page, Actor who, PageStore store, CancellationToken ct) =>
        await store.RemoveAsync(who, page, ct) is { } done ? TypedResults.Ok(done) : Problems.Gone("page");
}
