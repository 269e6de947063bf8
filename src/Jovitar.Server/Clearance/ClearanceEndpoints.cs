using System.ComponentModel.DataAnnotations;
using Jovitar.Core;
using Jovitar.Core.Clearance;
using Jovitar.Core.Describing;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Photos;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace Jovitar.Server.Clearance;

/// <summary>What is said of the clearance of several photos.</summary>
/// <param name="Said">Empty takes back what was said.</param>
/// <param name="By">Who says so, and how it is known.</param>
/// <param name="Until">The last day on which they are cleared.</param>
public sealed record ClearPhotos(
    [OneOf(Clearances.Unknown, Clearances.Cleared, Clearances.NotCleared)] string Said, [Words(PhotoClearance.LongestBy)] string? By = null, DateOnly? Until = null,
    IReadOnlyList<PhotoId>? Photos = null, bool? InHand = null) : Reach(Photos, InHand);

/// <summary>What the site shows.</summary>
/// <param name="Needed">Only what is cleared; else what nobody has said anything of, too.</param>
public sealed record ClearanceSetting(bool Needed);

/// <summary>Whether photos may be shown to visitors at all: of photos, of persons, of the whole site.</summary>
internal static class ClearanceEndpoints
{
    /// <summary>Bytes of a file of persons.</summary>
    const int MostBytes = 8 << 20;

    public static void MapClearance(this IEndpointRouteBuilder api)
    {
        var clearance = api.MapGroup("/clearance").RequireAuthorization(Security.Editors).WithTags("Clearance");
        clearance.MapGet("", Show).WithSummary("Whether the site shows only what is cleared");
        clearance.MapPut("", Need).RequireAuthorization(Security.Owners).WithSummary("Says whether the site shows only what is cleared; visitors have it at once");
        clearance.MapPost("/photos", Clear).WithSummary("Says of photos in hand whether they are cleared");
        clearance.MapGet("/persons", List).WithSummary("A part of the list of persons, and how many say what");
        clearance.MapPut("/persons", Write).NeedsVersion().WithSummary("Writes what a person says of being shown");
        clearance.MapDelete("/persons", Strike).NeedsVersion().WithSummary("Strikes a person off the list");
        clearance.MapGet("/persons.csv", Table).ExcludeFromDescription().WithSummary("The list of persons as CSV");
        clearance.MapPost("/persons/preview", Preview).Accepts<byte[]>("text/csv").WithMetadata(new RequestSizeLimitAttribute(MostBytes)).WithSummary("What writing a CSV of persons would come to");
        clearance.MapPost("/persons/table", TakeIn).Accepts<byte[]>("text/csv").WithMetadata(new RequestSizeLimitAttribute(MostBytes)).WithSummary("Writes what a CSV says of persons");
    }

    static async Task<Ok<ClearanceSetting>> Show(AccessStore access, CancellationToken ct) => TypedResults.Ok(new ClearanceSetting((await access.SiteAsync(ct)).ClearanceNeeded));

    static async Task<Ok<Done>> Need(ClearanceSetting body, Actor who, ClearanceStore store, CancellationToken ct) => TypedResults.Ok(await store.NeedAsync(who, body.Needed, ct));

    static async Task<Ok<PhotosCleared>> Clear(ClearPhotos body, Actor who, HandStore hand, ClearanceStore store, CancellationToken ct) =>
        TypedResults.Ok(await store.ClearAsync(who, await hand.ReachedAsync(who, body, ct), body.Said, Text.Name((body.By ?? "").ReplaceLineEndings(" ")), body.Until, ct));

    /// <param name="says">"yes", "no" or "nothing"; all unless said.</param>
    /// <param name="q">Looked for in their names.</param>
    /// <param name="at">0 = first.</param>
    static async Task<Results<Ok<PersonList>, BadRequest<Problem>>> List(string? says, [Words(Persons.Longest)] string? q, int? at, PersonStore store, CancellationToken ct) =>
        says is null or Consents.Yes or Consents.No or "nothing"
            ? TypedResults.Ok(await store.ListAsync(says == "nothing" ? Consents.Nothing : says, q ?? "", Math.Max(0, at ?? 0), ct))
            : Problems.Invalid("A person says yes, no, or nothing.", new Dictionary<string, string> { ["says"] = "Say yes, no or nothing." });

    static async Task<Results<Ok<Done>, BadRequest<Problem>, Stale>> Write(
        PersonConsent body, [FromHeader(Name = "If-Match")] long version, Actor who, PersonStore store, CancellationToken ct)
    {
        var person = new PersonSaid(body.Name, body.Says, body.Until, body.By);
        return person.Wrong() is { } wrong ? Problems.Invalid(wrong)
            : await store.WriteAsync(who, person.Trimmed(), version, ct) is { } done ? TypedResults.Ok(done)
            : Problems.Stale("person");
    }

    static async Task<Results<Ok<Done>, Stale>> Strike(string name, [FromHeader(Name = "If-Match")] long version, Actor who, PersonStore store, CancellationToken ct) =>
        Text.IsSound(name) && await store.StrikeAsync(who, name, version, ct) is { } done ? TypedResults.Ok(done) : Problems.Stale("person");

    static async Task<FileContentHttpResult> Table(HttpContext http, PersonStore store, SettingsStore settings, CancellationToken ct)
    {
        http.Response.Headers.CacheControl = "private, no-store";
        var name = new LeavingNames().Next($"{(await settings.ReadAsync(ct)).Title}, persons.csv");
        return TypedResults.File(await store.TableAsync(ct), "text/csv; charset=utf-8", name);
    }

    static async Task<Results<Ok<PersonPreview>, BadRequest<Problem>>> Preview(string? encoding, HttpContext http, Actor who, PersonStore store, CancellationToken ct)
    {
        var (csv, wrong) = await CsvText.ReadAsync(http.Request, encoding, ct);
        if (csv is null)
        {
            return Problems.Invalid(wrong!);
        }

        var (preview, not) = await store.PreviewAsync(who, csv, ct);
        return preview is null ? Problems.Invalid(not!) : TypedResults.Ok(preview);
    }

    static async Task<Results<Ok<PersonsDone>, BadRequest<Problem>>> TakeIn([Words(300)] string? name, string? encoding, HttpContext http, Actor who, PersonStore store, CancellationToken ct)
    {
        var (csv, wrong) = await CsvText.ReadAsync(http.Request, encoding, ct);
        if (csv is null)
        {
            return Problems.Invalid(wrong!);
        }

        var (done, not) = await store.TakeInAsync(who, csv, Text.Name(name ?? "a table"), ct);
        return done is null ? Problems.Invalid(not!) : TypedResults.Ok(done);
    }
}

/// <summary>What a person says of being shown.</summary>
/// <param name="Until">The last day of a yes.</param>
/// <param name="By">Who says so, and how it is known.</param>
public sealed record PersonConsent(
    [Required, Words(Persons.Longest)] string Name, [OneOf(Consents.Nothing, Consents.Yes, Consents.No)] string Says, DateOnly? Until = null, [Words(PhotoClearance.LongestBy)] string By = "");
