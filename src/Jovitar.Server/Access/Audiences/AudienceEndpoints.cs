using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Server.Access.Entries;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Access.Audiences;

/// <summary>Who may see a thing, as it is said of the thing itself.</summary>
/// <param name="Chosen">The groups and members that it is for, where it is for some.</param>
/// <param name="Above">What else keeps visitors out of it, a sentence each.</param>
/// <param name="Entries">The entry links and passcodes to it.</param>
/// <param name="Address">What stands before the end of an entry link.</param>
/// <param name="Link">What whoever has it finds it by, where it is for everyone with its link.</param>
internal sealed record AudienceShown(string Name, Audience Audience, IReadOnlyList<Chosen> Chosen, IReadOnlyList<string> Above, IReadOnlyList<EntryLine> Entries, string Address, string? Link);

/// <param name="Was">What it was when it was looked at.</param>
public sealed record AudienceWish(Audience Audience, Audience Was);

/// <summary>What a change would do for visitors.</summary>
internal sealed record AudienceForecast(string Sentence);

/// <param name="Name">For whom it is.</param>
/// <param name="Ends">Good until then; null for as long as it is not withdrawn.</param>
/// <param name="Most">So many browsers may come in with it; null for as many as there are.</param>
public sealed record NewEntry([Words(120)] string Name, EntryKind Kind, DateTimeOffset? Ends = null, int? Most = null);

internal sealed record EntryUses(IReadOnlyList<EntryUse> Uses);

/// <summary>Audiences, and the entry links and passcodes that let visitors in.</summary>
internal static class AudienceEndpoints
{
    const int MostUses = 100_000;
    static readonly TimeSpan Furthest = TimeSpan.FromDays(3660);

    public static void MapAudiences(this IEndpointRouteBuilder api)
    {
        var audiences = api.MapGroup("/audiences/{kind}/{thing}").RequireAuthorization(Security.Editors).WithTags("Audiences");
        audiences.MapGet("", Show).WithSummary("Who may see a page, an album, a category or a photo, and the entry links and passcodes to it");
        audiences.MapPut("", Say).WithSummary("Says who may see it; visitors have it at once");
        audiences.MapPost("/forecast", Forecast).WithSummary("Who would gain and who would lose it");
        audiences.MapPost("/entries", Make).WithSummary("Makes an entry link or a passcode");
        var entries = api.MapGroup("/entries").RequireAuthorization(Security.Editors).WithTags("Audiences");
        entries.MapGet("/{entry}/uses", Uses).WithSummary("Who came in with an entry link or a passcode, the latest first");
        entries.MapDelete("/{entry}", Revoke).WithSummary("Withdraws an entry link or a passcode, and all who came in with it");
    }

    /// <summary>Of a photo by itself less can be said, and it is kept otherwise.</summary>
    const string Photo = "photo";

    static bool IsKind(string kind) => AudienceStore.Kinds.Contains(kind);

    static async Task<OwnAudience?> FindAsync(string kind, Guid thing, AudienceStore store, PhotoAudienceStore photos, CancellationToken ct) =>
        kind == Photo ? await photos.FindAsync(PhotoId.From(thing), ct) : IsKind(kind) ? await store.FindAsync(new AudienceOf(kind, thing), ct) : null;

    static async Task<Results<Ok<AudienceShown>, NotFound<Problem>>> Show(
        string kind, Guid thing, HttpContext http, AudienceStore store, PhotoAudienceStore photos, EntryStore entries, SiteOrigin origin, TimeProvider clock, CancellationToken ct) =>
        await FindAsync(kind, thing, store, photos, ct) is { } found
            ? TypedResults.Ok(new AudienceShown(found.Name, found.Audience, await store.ChosenAsync(found.Audience.Chosen, ct), [.. found.Above.Select(g => GateWords.Said(g, clock.GetUtcNow()))], await entries.ListAsync(thing, ct), new Uri(origin.Of(http.Request), $"{EntryStore.Path}/").AbsoluteUri,
                found.Audience.Who == Admitted.WithLink ? new Uri(origin.Of(http.Request), $"/album/{found.Address}").AbsoluteUri : null))
            : Problems.Gone("thing");

    static async Task<Results<Ok<Done>, NotFound<Problem>, BadRequest<Problem>, Conflict<Problem>>> Say(string kind, Guid thing, AudienceWish body, Actor who, AudienceStore store, PhotoAudienceStore photos, CancellationToken ct)
    {
        if (body.Audience.FaultOf(kind) is { } fault)
        {
            return Wrong(fault);
        }

        var (outcome, done) = kind == Photo ? await photos.SayAsync(who, [PhotoId.From(thing)], body.Audience, body.Was, ct)
            : IsKind(kind) ? await store.SayAsync(who, new AudienceOf(kind, thing), body.Audience, body.Was, ct)
            : (AudienceOutcome.Gone, Done.Nothing);
        return Ended(outcome, done);
    }

    /// <summary>What is wrong with an audience that was said, beneath its last field.</summary>
    public static BadRequest<Problem> Wrong(string fault) => Problems.Invalid(fault, new Dictionary<string, string> { ["until"] = fault });

    /// <summary>How a change of an audience ended, for who asked for it.</summary>
    public static Results<Ok<Done>, NotFound<Problem>, BadRequest<Problem>, Conflict<Problem>> Ended(AudienceOutcome outcome, Done done) => outcome switch
    {
        AudienceOutcome.Stale => Problems.Taken("Somebody else said who may see this while you looked, or who was chosen is gone. Look again before you say it.", "audience"),
        AudienceOutcome.Gone => Problems.Gone("thing"),
        _ => TypedResults.Ok(done),
    };

    static async Task<Results<Ok<AudienceForecast>, NotFound<Problem>, BadRequest<Problem>>> Forecast(string kind, Guid thing, AudienceWish body, AudienceStore store, PhotoAudienceStore photos, TimeProvider clock, CancellationToken ct)
    {
        if (body.Audience.FaultOf(kind) is { } fault)
        {
            return Wrong(fault);
        }

        if (await FindAsync(kind, thing, store, photos, ct) is not { } found)
        {
            return Problems.Gone("thing");
        }

        var now = clock.GetUtcNow();
        var what = kind == "category" ? "this category and all that stands in it" : $"this {kind}";
        var known = await store.ChosenAsync([.. body.Was.Chosen, .. body.Audience.Chosen], ct);
        var narrowing = found.Above.All(g => g.LetsIn(Viewer.Nobody, now)) ? null : kind == Photo ? "the places where it stands" : "its categories";
        var said = GateWords.Changes(body.Was, body.Audience, what, now, known, found.IsSeen, narrowing);
        return TypedResults.Ok(new AudienceForecast(body.Audience.Who == Admitted.WithLink && found.Pages > 0 ? $"{said} {GateWords.StaysOn(found.Pages)}" : said));
    }

    static async Task<Results<NoContent, NotFound<Problem>, BadRequest<Problem>>> Make(string kind, Guid thing, NewEntry body, Actor who, EntryStore entries, TimeProvider clock, CancellationToken ct)
    {
        var (name, now) = (Text.Name(body.Name), clock.GetUtcNow());
        var faults = new Dictionary<string, string>();
        if (name.Length == 0)
        {
            faults["name"] = "Say for whom it is.";
        }

        if (!Enum.IsDefined(body.Kind))
        {
            faults["kind"] = "Choose a link or a passcode.";
        }

        if (body.Ends is { } ends && (ends <= now || ends > now + Furthest))
        {
            faults["ends"] = "Choose a time that is still to come, within ten years.";
        }

        if (body.Most is < 1 or > MostUses)
        {
            faults["most"] = "Give a number from 1 to 100,000, or leave it empty.";
        }

        if (faults.Count > 0)
        {
            return Problems.Invalid(faults.First().Value, faults);
        }

        var outcome = IsKind(kind) ? await entries.MakeAsync(who, new AudienceOf(kind, thing), name, body.Kind, body.Ends?.ToUniversalTime(), body.Most, ct) : EntryOutcome.Gone;
        return outcome switch
        {
            EntryOutcome.Made => TypedResults.NoContent(),
            EntryOutcome.Full => Problems.Invalid($"There are {EntryStore.MostOfOne} entry links and passcodes to this. Withdraw some that are not used any more."),
            _ => Problems.Gone("thing"),
        };
    }

    static async Task<Results<Ok<EntryUses>, NotFound<Problem>>> Uses(Guid entry, EntryStore entries, CancellationToken ct) =>
        await entries.UsesAsync(entry, ct) is { } uses ? TypedResults.Ok(new EntryUses(uses)) : Problems.Gone("entry");

    static async Task<Results<NoContent, NotFound<Problem>>> Revoke(Guid entry, Actor who, EntryStore entries, CancellationToken ct) =>
        await entries.RevokeAsync(who, entry, ct) ? TypedResults.NoContent() : Problems.Gone("entry");
}
