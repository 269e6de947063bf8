using Jovitar.Core;
using Jovitar.Core.Pages;
using Jovitar.Server.Access;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace Jovitar.Server.Pages;

internal sealed record PageList(IReadOnlyList<PageLine> Pages);

internal sealed record NewPage(AlbumId Album);

internal sealed record PageEdit(string Address, PageContent Draft);

/// <summary>Pages: drafts, publishing, withdrawing.</summary>
internal static class PageEndpoints
{
    public static void MapPages(this IEndpointRouteBuilder api)
    {
        var pages = api.MapGroup("/pages").RequireAuthorization(Security.Editors).WithTags("Pages");
        pages.MapGet("", List).WithSummary("All pages, the newest first");
        pages.MapPost("", Make).WithSummary("Makes a draft page for an album");
        pages.MapGet("/{page}", Show).WithSummary("One page");
        pages.MapPut("/{page}", Edit).WithSummary("Writes a page's draft and address");
        pages.MapDelete("/{page}", Remove).WithSummary("Removes a page; album and photos stay");
        pages.MapPost("/{page}/publish", Publish).WithSummary("Makes the draft what visitors have");
        pages.MapPost("/{page}/withdraw", Withdraw).WithSummary("Takes a page out of visitors' reach");
    }

    static async Task<Ok<PageList>> List(PageStore store, CancellationToken ct) => TypedResults.Ok(new PageList(await store.ListAsync(null, ct)));

    static async Task<Results<Ok<PageLine>, NotFound<Problem>>> Show(PageId page, PageStore store, CancellationToken ct) =>
        await store.FindAsync(page, ct) is { } line ? TypedResults.Ok(line) : Problems.Gone("page");

    static async Task<Results<Ok<PageLine>, NotFound<Problem>>> Make(NewPage body, PageStore store, CancellationToken ct) =>
        await store.MakeAsync(body.Album, null, ct) is { } id ? TypedResults.Ok((await store.FindAsync(id, ct))!) : Problems.Gone("album");

    static async Task<Results<Ok<PageLine>, NotFound<Problem>, Conflict<Problem>, BadRequest<Problem>>> Edit(
        PageId page, PageEdit body, [FromHeader(Name = "If-Match")] long version, PageStore store, CancellationToken ct)
    {
        var faults = body.Draft.Faults().ToDictionary();
        if (!PageAddress.TryParse(body.Address, out var address, out var fault))
        {
            faults["address"] = fault;
        }

        if (faults.Count > 0)
        {
            return Problems.Invalid(faults.First().Value, faults);
        }

        var refusal = await store.EditAsync(page, address!, body.Draft, version, ct);
        return await store.FindAsync(page, ct) is not { } line ? Problems.Gone("page") : refusal switch
        {
            PageRefusal.Stale => Problems.Stale("page"),
            PageRefusal.AddressTaken => Problems.Taken($"Another page has, or had, the address “{address}”.", "address"),
            _ => TypedResults.Ok(line),
        };
    }

    static async Task<Results<Ok<PageLine>, NotFound<Problem>>> Publish(PageId page, PageStore store, CancellationToken ct) =>
        await store.PublishAsync(page, ct) ? TypedResults.Ok((await store.FindAsync(page, ct))!) : Problems.Gone("page");

    static async Task<Results<Ok<PageLine>, NotFound<Problem>>> Withdraw(PageId page, PageStore store, CancellationToken ct) =>
        await store.WithdrawAsync(page, ct) ? TypedResults.Ok((await store.FindAsync(page, ct))!) : Problems.Gone("page");

    static async Task<NoContent> Remove(PageId page, PageStore store, CancellationToken ct)
    {
        await store.RemoveAsync(page, ct);
        return TypedResults.NoContent();
    }
}
