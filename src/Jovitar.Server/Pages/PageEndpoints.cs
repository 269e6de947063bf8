using Jovitar.Core;
using Jovitar.Core.Pages;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace Jovitar.Server.Pages;

internal sealed record PageList(IReadOnlyList<PageLine> Pages);

public sealed record NewPage(AlbumId Album);

public sealed record PageEdit([Words(PageAddress.Longest * 2)] string Address, PageContent Draft);

/// <summary>A page as it is after a write, and what the write came to.</summary>
internal sealed record PageWritten(PageLine Page, Done Done);

/// <summary>Pages: drafts, publishing, withdrawing.</summary>
internal static class PageEndpoints
{
    public static void MapPages(this IEndpointRouteBuilder api)
    {
        var pages = api.MapGroup("/pages").RequireAuthorization(Security.Editors).WithTags("Pages");
        pages.MapGet("", List).WithSummary("All pages, the newest first");
        pages.MapPost("", Make).WithSummary("Makes a draft page for an album");
        pages.MapGet("/{page}", Show).WithSummary("One page");
        pages.MapPut("/{page}", Edit).NeedsVersion().WithSummary("Writes a page's draft and address");
        pages.MapDelete("/{page}", Remove).WithSummary("Throws a page in the bin; album and photos stay");
        pages.MapPost("/{page}/publish", Publish).NeedsVersion().WithSummary("Makes the draft what visitors have");
        pages.MapPost("/{page}/withdraw", Withdraw).WithSummary("Takes a page out of visitors' reach");
    }

    static async Task<Ok<PageList>> List(PageStore store, CancellationToken ct) => TypedResults.Ok(new PageList(await store.ListAsync(null, ct)));

    static async Task<Results<Ok<PageLine>, NotFound<Problem>>> Show(PageId page, PageStore store, CancellationToken ct) =>
        await store.FindAsync(page, ct) is { } line ? TypedResults.Ok(line) : Problems.Gone("page");

    static async Task<Results<Ok<PageLine>, NotFound<Problem>>> Make(NewPage body, Actor who, PageStore store, CancellationToken ct) =>
        await store.MakeAsync(who, body.Album, null, ct) is { } id ? TypedResults.Ok((await store.FindAsync(id, ct))!) : Problems.Gone("album");

    static async Task<Results<Ok<PageWritten>, NotFound<Problem>, Stale, Conflict<Problem>, BadRequest<Problem>>> Edit(
        PageId page, PageEdit body, [FromHeader(Name = "If-Match")] long version, Actor who, PageStore store, CancellationToken ct)
    {
        var faults = body.Draft.Faults().ToDictionary();
        if (!faults.ContainsKey("text") && !Markdown.CanRender(body.Draft.Text))
        {
            faults["text"] = "The text is nested too deeply to be shown. Take some of the quotes or lists within lists out.";
        }

        if (!PageAddress.TryParse(body.Address, out var address, out var fault))
        {
            faults["address"] = fault;
        }

        if (faults.Count > 0)
        {
            return Problems.Invalid(faults.First().Value, faults);
        }

        var (outcome, done) = await store.EditAsync(who, page, address!, body.Draft, version, ct);
        return outcome switch
        {
            PageOutcome.Stale => Problems.Stale("page"),
            PageOutcome.AddressTaken => Problems.Taken($"Another page has the address “{address}”.", "address"),
            PageOutcome.Written when await store.FindAsync(page, ct) is { } line => TypedResults.Ok(new PageWritten(line, done)),
            _ => Problems.Gone("page"),
        };
    }

    static async Task<Results<Ok<PageWritten>, NotFound<Problem>, Stale>> Publish(
        PageId page, [FromHeader(Name = "If-Match")] long version, Actor who, PageStore store, CancellationToken ct)
    {
        var (outcome, done) = await store.PublishAsync(who, page, version, ct);
        return outcome switch
        {
            PageOutcome.Stale => Problems.Stale("page"),
            PageOutcome.Written when await store.FindAsync(page, ct) is { } line => TypedResults.Ok(new PageWritten(line, done)),
            _ => Problems.Gone("page"),
        };
    }

    static async Task<Results<Ok<PageWritten>, NotFound<Problem>>> Withdraw(PageId page, Actor who, PageStore store, CancellationToken ct) =>
        await store.WithdrawAsync(who, page, ct) is { } done && await store.FindAsync(page, ct) is { } line ? TypedResults.Ok(new PageWritten(line, done)) : Problems.Gone("page");

    static async Task<Results<Ok<Done>, NotFound<Problem>>> Remove(PageId page, Actor who, PageStore store, CancellationToken ct) =>
        await store.RemoveAsync(who, page, ct) is { } done ? TypedResults.Ok(done) : Problems.Gone("page");
}
