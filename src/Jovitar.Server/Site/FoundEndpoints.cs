using Jovitar.Core;
using Jovitar.Core.Pages;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Platform;
using Jovitar.Server.Site.Drawing;
using Jovitar.Server.Themes;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Site;

/// <param name="From">The first that is asked for, from 0.</param>
public sealed record BlockAsked(Block Block, int From = 0);

/// <summary>A photo that visitors find in a block.</summary>
internal sealed record PhotoOfBlock(PhotoId Id, string Picture, string Name);

/// <param name="Total">How many there are.</param>
/// <param name="Most">So many an answer holds.</param>
internal sealed record PhotosOfBlock(int Total, int Most, IReadOnlyList<PhotoOfBlock> Photos)
{
    public const int Step = 120;
}

/// <summary>What visitors find on pages, told to those who make them.</summary>
internal static class FoundEndpoints
{
    public static void MapFound(this IEndpointRouteBuilder api)
    {
        var pages = api.MapGroup("/pages").RequireAuthorization(Security.Editors).WithTags("Pages");
        pages.MapPost("/photos", OfBlock).WithSummary("The photos that visitors find in a block, a part of them");
        pages.MapGet("/{page}/notes", Notes).WithSummary("What the software notices of a page's draft: which layout suits, which photos are too small");
    }

    static async Task<Results<Ok<PageNotes>, NotFound<Problem>>> Notes(PageId page, SiteStore store, SiteSources sources, SiteWeights weights, ThemeStore themes, CancellationToken ct) =>
        await store.PageAsync(page, draft: true, Sight.Somebody, ct) is { } model
            ? TypedResults.Ok(PageNotes.Of(model, weights, (await themes.PublishedAsync(ct)).Look(), await sources.HeldAsync(model.All.OfType<SitePhotosBlock>(), ct)))
            : Problems.Gone("page");

    static async Task<Results<Ok<PhotosOfBlock>, BadRequest<Problem>>> OfBlock(BlockAsked body, SiteSources sources, CancellationToken ct)
    {
        if (PageContent.FaultOf(body.Block) is { } fault)
        {
            return Problems.Invalid(fault);
        }

        var photos = body.Block is PhotosBlock block ? await sources.PhotosAsync(block.Source, sources.Seeing(Sight.Somebody, ct), ct) : [];
        return TypedResults.Ok(new PhotosOfBlock(photos.Count, PhotosOfBlock.Step, [.. photos.Skip(Math.Max(0, body.From)).Take(PhotosOfBlock.Step).Select(p => new PhotoOfBlock(p.Id, p.Picture, p.Name))]));
    }
}
