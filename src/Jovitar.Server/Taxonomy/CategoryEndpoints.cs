using System.ComponentModel.DataAnnotations;
using Jovitar.Core;
using Jovitar.Core.Pages;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace Jovitar.Server.Taxonomy;

internal sealed record Taxonomies(IReadOnlyList<CategoryLine> Categories);

public sealed record NewCategory([Required, Words(120)] string Name, CategoryId? Parent = null);

/// <summary>A category's name, where it stands, and what is said of it.</summary>
/// <param name="Place">Its place among its siblings, 0 = first; null to leave it.</param>
/// <param name="Description">What visitors read of it; null to leave it.</param>
/// <param name="Shown">Whether visitors see it and what stands beneath it; null to leave it.</param>
/// <param name="Page">What is set for its page; null to leave it.</param>
public sealed record CategoryEdit([Required, Words(120)] string Name, CategoryId? Parent, int? Place = null, [Words(10_000)] string? Description = null, bool? Shown = null, CategoryPage? Page = null);

internal sealed record MadeCategory(CategoryId Id);

/// <summary>The tree of categories.</summary>
internal static class CategoryEndpoints
{
    public static void MapCategories(this IEndpointRouteBuilder api)
    {
        var categories = api.MapGroup("/categories").RequireAuthorization(Security.Editors).WithTags("Taxonomy");
        categories.MapGet("", List).WithSummary("The tree of categories in its order");
        categories.MapPost("", Make).WithSummary("Makes a category");
        categories.MapPut("/{category}", Change).NeedsVersion().WithSummary("Renames, moves or describes a category, takes it out of view or brings it back");
        categories.MapDelete("/{category}", Remove).WithSummary("Throws a category in the bin with those beneath it; photos stay");
    }

    static async Task<Ok<Taxonomies>> List(CategoryStore categories, CancellationToken ct) => TypedResults.Ok(new Taxonomies(await categories.ListAsync(ct)));

    static BadRequest<Problem> NoParent() => Problems.Invalid("The category it is to stand beneath is not here any more.", new Dictionary<string, string> { ["parent"] = "Choose another category." });

    static async Task<Results<Ok<MadeCategory>, BadRequest<Problem>>> Make(NewCategory body, Actor who, CategoryStore categories, CancellationToken ct) =>
        await categories.MakeAsync(who, body.Name, body.Parent, ct) is { } made ? TypedResults.Ok(new MadeCategory(made)) : NoParent();

    static async Task<Results<Ok<Done>, BadRequest<Problem>, NotFound<Problem>, Conflict<Problem>, Stale>> Change(
        CategoryId category, CategoryEdit body, [FromHeader(Name = "If-Match")] long version, Actor who, CategoryStore categories, CancellationToken ct)
    {
        var page = body.Page;
        if (page is not null)
        {
            if (!PageAddress.TryParse(page.Address, out var address, out var fault))
            {
                return Problems.Invalid(fault, new Dictionary<string, string> { ["address"] = fault });
            }

            page = page with { Address = address.Value };
        }

        var (outcome, done) = await categories.ChangeAsync(who, category, new CategoryWish(body.Name, body.Parent, body.Place, body.Description, body.Shown, page), version, ct);
        return outcome switch
        {
            CategoryOutcome.Written => TypedResults.Ok(done),
            CategoryOutcome.Gone => Problems.Gone("category"),
            CategoryOutcome.Stale => Problems.Stale("category"),
            CategoryOutcome.NoParent => NoParent(),
            CategoryOutcome.AddressTaken => Problems.Taken($"Another category has the address “{page?.Address}”.", "address"),
            _ => Problems.Invalid("A category cannot stand beneath itself.", new Dictionary<string, string> { ["parent"] = "Choose one that does not stand beneath this one." }),
        };
    }

    static async Task<Results<Ok<Done>, NotFound<Problem>, Conflict<Problem>>> Remove(CategoryId category, Actor who, CategoryStore categories, CancellationToken ct)
    {
        var (outcome, done) = await categories.RemoveAsync(who, category, ct);
        return outcome switch
        {
            CategoryOutcome.Written => TypedResults.Ok(done),
            CategoryOutcome.Guards => Problems.Taken("This category keeps visitors from what stands in it, puts the watermark on it, or reserves something of it; with it gone they would have all that as it is. Take what stands in it elsewhere, or make the category be for everyone, without watermark and reserving nothing first.", "audience"),
            _ => Problems.Gone("category"),
        };
    }
}
