using Jovitar.Core.Opening;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace Jovitar.Server.Opening;

/// <summary>The front as it is after a write, and what the write came to.</summary>
internal sealed record FrontWritten(OpenedFront Front, Done Done);

/// <summary>What the site says of itself, whether it is open, and a new one's first hour.</summary>
internal static class OpeningEndpoints
{
    public static void MapOpening(this IEndpointRouteBuilder api)
    {
        var site = api.MapGroup("/site").RequireAuthorization(Security.Editors).WithTags("Opening");
        site.MapGet("", Show).WithSummary("What the site says of itself, and whether visitors may come in");
        site.MapPut("", Write).NeedsVersion().RequireAuthorization(Security.Owners).WithSummary("Changes what the site says of itself, opens or closes it; visitors have it at once");
        site.MapGet("/first-hour", FirstHour).WithSummary("How far a new site has come, and what comes next");
        site.MapPut("/first-hour", Say).WithSummary("Puts the first hour's path away or takes it up again; says that the site looks as it is to look");
    }

    static async Task<Ok<OpenedFront>> Show(FrontStore store, CancellationToken ct) => TypedResults.Ok(await store.ReadAsync(ct));

    static async Task<Results<Ok<FrontWritten>, Stale, BadRequest<Problem>>> Write(Front body, [FromHeader(Name = "If-Match")] long version, Actor who, FrontStore store, CancellationToken ct)
    {
        if (body.Faults() is { Count: > 0 } faults)
        {
            return Problems.Invalid(faults.First().Value, faults);
        }

        return await store.WriteAsync(who, body.Trimmed(), version, ct) is { } done ? TypedResults.Ok(new FrontWritten(await store.ReadAsync(ct), done)) : Problems.Stale("site");
    }

    static async Task<Ok<FirstHourNow>> FirstHour(FrontStore store, CancellationToken ct) => TypedResults.Ok(await store.FirstHourAsync(ct));

    static async Task<Ok<FirstHourNow>> Say(FirstHourSaid body, FrontStore store, CancellationToken ct)
    {
        await store.SayAsync(body, ct);
        return TypedResults.Ok(await store.FirstHourAsync(ct));
    }
}
