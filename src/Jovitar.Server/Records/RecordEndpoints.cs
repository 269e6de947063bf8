using Jovitar.Core.Records;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Records;

/// <param name="Days">Records are kept for so many; 0 records nothing.</param>
public sealed record RecordsKept(int Days);

/// <summary>What is recorded of visitors whom the site knows, and of those it turned away.</summary>
internal static class RecordEndpoints
{
    public static void MapRecords(this IEndpointRouteBuilder api)
    {
        var records = api.MapGroup("/records").RequireAuthorization(Security.Editors).WithTags("Records");
        records.MapGet("", List).WithSummary("What visitors opened and saved whom the site knows, and who was turned away, the latest first, a part of it");
        records.MapPut("/kept", Keep).RequireAuthorization(Security.Owners).WithSummary("Says for how long records are kept; what is older is forgotten at once");
    }

    /// <param name="what">"opened", "saved" or "refused"; all unless said. What was saved all at once is among what was saved.</param>
    /// <param name="member">Of this member alone.</param>
    /// <param name="entry">Of those alone who came in by this entry.</param>
    /// <param name="behind">The last one that is known.</param>
    static async Task<Results<Ok<RecordList>, BadRequest<Problem>>> List(string? what, Guid? member, Guid? entry, Guid? behind, RecordStore store, CancellationToken ct)
    {
        Recorded? wanted = what is null ? null : Enum.GetValues<Recorded>().Where(r => r != Recorded.SavedAll && r.ToString().Equals(what, StringComparison.OrdinalIgnoreCase)).Select(r => (Recorded?)r).FirstOrDefault();
        return what is not null && wanted is null
            ? Problems.Invalid("A record is of what was opened, saved or refused.", new Dictionary<string, string> { ["what"] = "Say opened, saved or refused." })
            : TypedResults.Ok(await store.ListAsync(new RecordQuery(wanted, member, entry, behind), ct));
    }

    static async Task<Results<Ok<Done>, BadRequest<Problem>>> Keep(RecordsKept body, Actor who, RecordStore store, CancellationToken ct) =>
        Keeping.IsOffered(body.Days)
            ? TypedResults.Ok(await store.SayAsync(who, body.Days, ct))
            : Problems.Invalid($"Records are kept for {string.Join(", ", Keeping.Choices.Skip(1))} days, or not at all.", new Dictionary<string, string> { ["days"] = "Choose one of these." });
}
