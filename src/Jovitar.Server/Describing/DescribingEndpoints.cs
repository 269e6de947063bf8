using Jovitar.Core.Describing;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Photos;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Describing;

/// <summary>A word as it is, and as it would be.</summary>
internal sealed record WordAnew(WordField Field, string Before, string After);

/// <summary>A photo as an example of what a change comes to.</summary>
/// <param name="Words">Those that would change.</param>
/// <param name="TakenBefore">Local time; null when nobody knows.</param>
/// <param name="TakenAfter">Null when it stays.</param>
internal sealed record DescribingExample(SheetPhoto Photo, IReadOnlyList<WordAnew> Words, DateTime? TakenBefore, DateTime? TakenAfter);

/// <summary>What a change of words would come to.</summary>
/// <param name="Reached">So many photos it reaches.</param>
/// <param name="Changed">So many of those looked at it changes.</param>
/// <param name="Looked">So many were looked at: of a great many only the first.</param>
/// <param name="Cut">On so many a word does not fit and is cut.</param>
/// <param name="Lacks">Of so many a part of the pattern has nothing to say.</param>
/// <param name="Refused">On so many what would be the link leads nowhere.</param>
internal sealed record DescribingPreview(int Reached, int Looked, int Changed, int Cut, int Lacks, int Refused, IReadOnlyList<DescribingExample> Examples);

/// <summary>What a change of words came to.</summary>
internal sealed record DescribingDone(Done Done, int Cut, int Refused);

/// <summary>People by name, and how many photos show them.</summary>
internal sealed record KnownPeople(IReadOnlyList<ValueCount> People);

/// <summary>Words of many photos at once: shown on examples before, one act that is taken back after.</summary>
internal static class DescribingEndpoints
{
    public static void MapDescribing(this IEndpointRouteBuilder api)
    {
        var words = api.MapGroup("/words").RequireAuthorization(Security.Editors).WithTags("Describing");
        words.MapPost("", Write).WithSummary("Changes the words of photos");
        words.MapPost("/preview", Preview).WithSummary("Shows on examples what a change of words would come to");
        words.MapGet("/people", People).WithSummary("People that photos show already");
        words.MapPost("/summary", Summary).WithSummary("What the words of photos have in common");
    }

    static async Task<Results<Ok<DescribingPreview>, BadRequest<Problem>>> Preview(DescribePhotos body, Actor who, HandStore hand, DescribingStore store, CancellationToken ct) =>
        body.Read() is (var changes, null) ? TypedResults.Ok(await store.PreviewAsync(changes, await hand.ReachedAsync(who, body, ct), ct)) : Problems.Invalid(body.Read().Wrong!);

    static async Task<Results<Ok<DescribingDone>, BadRequest<Problem>>> Write(DescribePhotos body, Actor who, HandStore hand, DescribingStore store, CancellationToken ct) =>
        body.Read() is (var changes, null) ? TypedResults.Ok(await store.WriteAsync(who, changes, await hand.ReachedAsync(who, body, ct), ct)) : Problems.Invalid(body.Read().Wrong!);

    static async Task<Ok<KnownPeople>> People(string? typed, SummaryStore store, CancellationToken ct) => TypedResults.Ok(new KnownPeople(await store.PeopleAsync(typed ?? "", ct)));

    static async Task<Ok<WordsSummary>> Summary(Reach body, Actor who, HandStore hand, SummaryStore store, CancellationToken ct) => TypedResults.Ok(await store.SummaryAsync(await hand.ReachedAsync(who, body, ct), ct));
}
