using Jovitar.Core;
using Jovitar.Core.Taxonomy;
using Jovitar.Server.Access;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace Jovitar.Server.Taxonomy;

internal sealed record Taxonomies(IReadOnlyList<CategoryLine> Categories);

internal sealed record TagList(IReadOnlyList<TagLine> Tags);

internal sealed record NewCategory(string Name, CategoryId? Parent);

/// <summary>A category's name and where it stands; <c>Place</c> is its place among its siblings, 0 = first, or null to leave it.</summary>
internal sealed record CategoryEdit(string Name, CategoryId? Parent, int? Place);

internal sealed record MadeCategory(CategoryId Id);

/// <summary>The tree of categories, and tags completed while typing.</summary>
internal static class TaxonomyEndpoints
{
    public static void MapTaxonomy(this IEndpointRouteBuilder api)
    {
        var categories = api.MapGroup("/categories").RequireAuthorization(Security.Editors).WithTags("Taxonomy");
        categories.MapGet("", List).WithSummary("The tree of categories in its order");
        categories.MapPost("", Make).WithSummary("Makes a category");
        categories.MapPut("/{category}", Change).WithSummary("Renames or moves a category");
        categories.MapDelete("/{category}", Remove).WithSummary("Removes a category and those beneath it; photos stay");
        api.MapGet("/tags", Tags).RequireAuthorization(Security.Editors).WithTags("Taxonomy").WithSummary("Tags that fit the words typed");
    }

    static async Task<Ok<Taxonomies>> List(TaxonomyStore taxonomy, CancellationToken ct) => TypedResults.Ok(new Taxonomies(await taxonomy.CategoriesAsync(ct)));

    static async Task<Ok<TagList>> Tags(string? typed, TaxonomyStore taxonomy, CancellationToken ct) => TypedResults.Ok(new TagList(await taxonomy.TagsAsync(typed, 300, ct)));

    static bool IsName(string name) => name.Trim().Length is > 0 and <= 120;

    static BadRequest<Problem> BadName() => Problems.Invalid("A category needs a name of up to 120 characters.", new Dictionary<string, string> { ["name"] = "Give it a name of up to 120 characters." });

    static async Task<Results<Ok<MadeCategory>, BadRequest<Problem>>> Make(NewCategory body, TaxonomyStore taxonomy, CancellationToken ct) =>
        IsName(body.Name) ? TypedResults.Ok(new MadeCategory(await taxonomy.MakeCategoryAsync(body.Name, body.Parent, ct))) : BadName();

    static async Task<Results<NoContent, BadRequest<Problem>, Conflict<Problem>>> Change(
        CategoryId category, CategoryEdit body, [FromHeader(Name = "If-Match")] long version, TaxonomyStore taxonomy, CancellationToken ct)
    {
        if (!IsName(body.Name))
        {
            return BadName();
        }

        var lines = await taxonomy.CategoriesAsync(ct);
        if (!new CategoryTree(lines.Select((l, i) => new CategoryNode(l.Id, l.Parent, l.Name, i))).MayStandBeneath(category, body.Parent))
        {
            return Problems.Invalid("A category cannot stand beneath itself.");
        }

        return await taxonomy.ChangeCategoryAsync(category, body.Name, body.Parent, body.Place, version, ct) ? TypedResults.NoContent() : Problems.Stale("category");
    }

    static async Task<NoContent> Remove(CategoryId category, TaxonomyStore taxonomy, CancellationToken ct)
    {
        await taxonomy.RemoveCategoryAsync(category, ct);
        return TypedResults.NoContent();
    }
}
