using System.ComponentModel.DataAnnotations;
using Jovitar.Core;
using Jovitar.Core.Taxonomy;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Taxonomy;

internal sealed record TagList(IReadOnlyList<TagLine> Tags);

internal sealed record TagTwinGroups(IReadOnlyList<TagTwinGroup> Groups);

/// <summary>A tag's new name, and the one it is known by.</summary>
public sealed record TagRename([Required, Words(TagName.Longest)] string Name, [Required, Words(TagName.Longest)] string Was);

/// <summary>Tags that give way to another.</summary>
public sealed record TagMerge([Required, AtMost(TagMerge.Most)] IReadOnlyList<TagId> Others)
{
    internal const int Most = 50;
}

/// <summary>What throwing unused tags away came to.</summary>
internal sealed record TagsDropped(int Count, Done Done);

/// <summary>Tags completed while typing, and kept in order.</summary>
internal static class TagEndpoints
{
    const int TagsAtOnce = 300;

    public static void MapTags(this IEndpointRouteBuilder api)
    {
        var tags = api.MapGroup("/tags").RequireAuthorization(Security.Editors).WithTags("Taxonomy");
        tags.MapGet("", Find).WithSummary("Tags that fit the words typed");
        tags.MapGet("/all", All).WithSummary("All tags by name, window by window");
        tags.MapGet("/twins", Twins).WithSummary("Tags that are likely one");
        tags.MapPatch("/{tag}", Rename).WithSummary("Renames a tag");
        tags.MapPost("/{tag}/merging", Merge).WithSummary("Makes tags one: whatever had the others has this one");
        tags.MapPost("/unused/removal", DropUnused).WithSummary("Throws the tags that no photo has in the bin");
        tags.MapDelete("/{tag}", Remove).WithSummary("Throws a tag in the bin; it comes off every photo");
    }

    static async Task<Ok<TagList>> Find(string? typed, TagId[]? also, TagStore tags, CancellationToken ct) =>
        TypedResults.Ok(new TagList(await tags.TagsAsync(typed, also ?? [], TagsAtOnce, ct)));

    static async Task<Ok<TagWindow>> All(string? typed, bool? unused, string? after, TagKeeping tags, CancellationToken ct) =>
        TypedResults.Ok(await tags.WindowAsync(typed, unused ?? false, after, ct));

    static async Task<Ok<TagTwinGroups>> Twins(TagKeeping tags, CancellationToken ct) => TypedResults.Ok(new TagTwinGroups(await tags.TwinsAsync(ct)));

    static async Task<Results<Ok<Done>, BadRequest<Problem>, NotFound<Problem>, Conflict<Problem>>> Rename(TagId tag, TagRename body, Actor who, TagKeeping tags, CancellationToken ct)
    {
        if (!TagName.TryParse(body.Name, out var name))
        {
            return Problems.Invalid("A tag needs a name.", new Dictionary<string, string> { ["name"] = "A tag needs a name." });
        }

        var (outcome, done) = await tags.RenameAsync(who, tag, name, body.Was, ct);
        return outcome switch
        {
            TagOutcome.Written => TypedResults.Ok(done),
            TagOutcome.Taken => Problems.Taken($"There is a tag “{name.Text}” already. Make the two one instead.", "name"),
            TagOutcome.TakenInBin => Problems.Conflict("in-bin", $"A tag “{name.Text}” lies in the bin. Take it back, or empty the bin."),
            TagOutcome.Stale => Problems.Conflict("renamed", "Somebody renamed this tag meanwhile."),
            _ => Problems.Gone("tag"),
        };
    }

    static async Task<Results<Ok<Done>, NotFound<Problem>>> Merge(TagId tag, TagMerge body, Actor who, TagKeeping tags, CancellationToken ct) =>
        await tags.MergeAsync(who, tag, body.Others, ct) is { } done ? TypedResults.Ok(done) : Problems.Gone("tag");

    static async Task<Ok<TagsDropped>> DropUnused(Actor who, TagKeeping tags, CancellationToken ct)
    {
        var (count, done) = await tags.DropUnusedAsync(who, ct);
        return TypedResults.Ok(new TagsDropped(count, done));
    }

    static async Task<Results<Ok<Done>, NotFound<Problem>>> Remove(TagId tag, Actor who, TagStore tags, CancellationToken ct) =>
        await tags.RemoveAsync(who, tag, ct) is { } done ? TypedResults.Ok(done) : Problems.Gone("tag");
}
