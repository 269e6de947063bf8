using System.ComponentModel.DataAnnotations;
using Jovitar.Core;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace Jovitar.Server.Narrowings;

internal sealed record KeptNarrowings(IReadOnlyList<KeptNarrowing> Narrowings);

/// <summary>A narrowing to be kept.</summary>
/// <param name="Search">What the address of the sheet says behind its question mark.</param>
public sealed record KeepNarrowing([Required, Words(NarrowingEndpoints.LongestName)] string Name, [Required, Words(NarrowingEndpoints.LongestSearch)] string Search);

/// <summary>What is to be changed of one; what is null stays.</summary>
public sealed record ChangeNarrowing([Words(NarrowingEndpoints.LongestName)] string? Name = null, [Words(NarrowingEndpoints.LongestSearch)] string? Search = null);

/// <summary>A narrowing as it is kept, and the act that did it.</summary>
internal sealed record NarrowingKept(KeptNarrowing Kept, Done Done);

/// <summary>Narrowings under names, to be opened again by anybody of the staff.</summary>
internal static class NarrowingEndpoints
{
    public const int LongestName = 80;
    public const int LongestSearch = 4000;

    public static void MapNarrowings(this IEndpointRouteBuilder api)
    {
        var narrowings = api.MapGroup("/narrowings").RequireAuthorization(Security.Editors).WithTags("Narrowings");
        narrowings.MapGet("", List).WithSummary("Narrowings that are kept under a name, and how many photos each finds");
        narrowings.MapPost("", Keep).WithSummary("Keeps a narrowing under a name");
        narrowings.MapPatch("/{narrowing}", Change).NeedsVersion().WithSummary("Renames a kept narrowing, or lets it find something else");
        narrowings.MapDelete("/{narrowing}", LetGo).NeedsVersion().WithSummary("Lets a kept narrowing go");
    }

    static async Task<Ok<KeptNarrowings>> List(NarrowingStore store, CancellationToken ct) => TypedResults.Ok(new KeptNarrowings(await store.ListAsync(ct)));

    static async Task<Results<Ok<NarrowingKept>, NotFound<Problem>, BadRequest<Problem>>> Keep(KeepNarrowing body, Actor who, NarrowingStore store, CancellationToken ct)
    {
        if (!NarrowingStore.Narrows(body.Search))
        {
            return Problems.Invalid("This shows all photos; narrow the sheet first.");
        }

        var (outcome, id, done) = await store.KeepAsync(who, body.Name.Trim(), body.Search, ct);
        return outcome == KeptOutcome.Taken ? Problems.Invalid(IsTaken)
            : outcome == KeptOutcome.TooMany ? Problems.Invalid($"{NarrowingStore.Most} narrowings are kept already; let one go first.")
            : await store.FindAsync(id, ct) is { } kept ? TypedResults.Ok(new NarrowingKept(kept, done)) : Problems.Gone("narrowing");
    }

    static async Task<Results<Ok<NarrowingKept>, NotFound<Problem>, BadRequest<Problem>, Stale>> Change(
        NarrowingId narrowing, ChangeNarrowing body, [FromHeader(Name = "If-Match")] long version, Actor who, NarrowingStore store, CancellationToken ct)
    {
        if (body.Name is { } name && name.Trim().Length == 0)
        {
            return Problems.Invalid("It needs a name.");
        }

        if (body.Search is { } search && !NarrowingStore.Narrows(search))
        {
            return Problems.Invalid("This shows all photos; narrow the sheet first.");
        }

        var (outcome, done) = await store.ChangeAsync(who, narrowing, body.Name?.Trim(), body.Search, version, ct);
        return outcome switch
        {
            KeptOutcome.Stale => Problems.Stale("narrowing"),
            KeptOutcome.Taken => Problems.Invalid(IsTaken),
            KeptOutcome.Written when await store.FindAsync(narrowing, ct) is { } kept => TypedResults.Ok(new NarrowingKept(kept, done)),
            _ => Problems.Gone("narrowing"),
        };
    }

    static async Task<Results<Ok<Done>, NotFound<Problem>, Stale>> LetGo(NarrowingId narrowing, [FromHeader(Name = "If-Match")] long version, Actor who, NarrowingStore store, CancellationToken ct)
    {
        var (outcome, done) = await store.LetGoAsync(who, narrowing, version, ct);
        return outcome switch
        {
            KeptOutcome.Stale => Problems.Stale("narrowing"),
            KeptOutcome.Written => TypedResults.Ok(done),
            _ => Problems.Gone("narrowing"),
        };
    }

    const string IsTaken = "Another narrowing is called so already.";
}
