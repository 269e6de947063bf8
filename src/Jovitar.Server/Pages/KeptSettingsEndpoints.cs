using System.ComponentModel.DataAnnotations;
using Jovitar.Core;
using Jovitar.Core.Pages;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Pages;

internal sealed record KeptSettingsList(IReadOnlyList<KeptSettings> Settings);

/// <summary>Settings to be kept.</summary>
/// <param name="Block">Whose they are.</param>
public sealed record KeepSettings([Required, Words(KeptSettingsEndpoints.LongestName)] string Name, Block Block);

/// <summary>A block as it is set then.</summary>
public sealed record SetBlock(Block Block);

/// <summary>Settings of blocks under names, to be used again by anybody of the staff.</summary>
internal static class KeptSettingsEndpoints
{
    public const int LongestName = 80;

    public static void MapKeptSettings(this IEndpointRouteBuilder api)
    {
        var settings = api.MapGroup("/kept-settings").RequireAuthorization(Security.Editors).WithTags("Pages");
        settings.MapGet("", List).WithSummary("Settings of blocks that are kept under a name");
        settings.MapPost("", Keep).WithSummary("Keeps the settings of a block under a name");
        settings.MapPost("/{settings}/on", On).WithSummary("A block as it is with kept settings");
        settings.MapDelete("/{settings}", LetGo).WithSummary("Lets kept settings go");
    }

    static async Task<Ok<KeptSettingsList>> List(KeptSettingsStore store, CancellationToken ct) => TypedResults.Ok(new KeptSettingsList(await store.ListAsync(ct)));

    static async Task<Results<Ok<Done>, BadRequest<Problem>>> Keep(KeepSettings body, Actor who, KeptSettingsStore store, CancellationToken ct)
    {
        if (PageContent.FaultOf(body.Block) is { } fault)
        {
            return Problems.Invalid(fault);
        }

        return await store.KeepAsync(who, body.Name.Trim(), body.Block.Bounded(), ct) is { } done
            ? TypedResults.Ok(done)
            : Problems.Invalid($"The settings of {KeptSettingsStore.Most} blocks are kept already; let some go first.");
    }

    static async Task<Results<Ok<SetBlock>, NotFound<Problem>, BadRequest<Problem>>> On(KeptSettingsId settings, SetBlock body, KeptSettingsStore store, CancellationToken ct) =>
        PageContent.FaultOf(body.Block) is { } fault ? Problems.Invalid(fault)
        : await store.OnAsync(settings, body.Block.Bounded(), ct) is { } set ? TypedResults.Ok(new SetBlock(set))
        : Problems.Gone("kept setting");

    static async Task<Results<Ok<Done>, NotFound<Problem>>> LetGo(KeptSettingsId settings, Actor who, KeptSettingsStore store, CancellationToken ct) =>
        await store.LetGoAsync(who, settings, ct) is { } done ? TypedResults.Ok(done) : Problems.Gone("kept setting");
}
