using Jovitar.Core;
using Jovitar.Core.Describing;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Favourites;

/// <summary>What visitors chose, in the workroom.</summary>
internal static class ChoiceEndpoints
{
    public static void MapChoices(this IEndpointRouteBuilder api)
    {
        api.MapGet("/choices", List).RequireAuthorization(Security.Editors).WithTags("Favourites").WithSummary("What visitors chose of an album that asks for their favourites, or of all, a part of it");
        api.MapGet("/albums/{album}/choices", Count).RequireAuthorization(Security.Editors).WithTags("Favourites").WithSummary("How many visitors have chosen of an album");
        var choices = api.MapGroup("/choices/{choice}").RequireAuthorization(Security.Editors).WithTags("Favourites");
        choices.MapGet("", Show).WithSummary("What a visitor chose, with its photos");
        choices.MapGet("/photos.csv", Table).ExcludeFromDescription().WithSummary("What a visitor chose as CSV");
        choices.MapPost("/noted", Note).WithSummary("Takes note of a choice that was sent");
        choices.MapPost("/reopen", Reopen).WithSummary("Lets a visitor change again what they sent");
    }

    /// <param name="behind">The last one that is known.</param>
    static async Task<Ok<ChoiceList>> List(AlbumId? album, Guid? behind, ChoiceListStore store, CancellationToken ct) => TypedResults.Ok(await store.ListAsync(album, behind, ct));

    static async Task<Ok<ChoiceCount>> Count(AlbumId album, ChoiceListStore store, CancellationToken ct) => TypedResults.Ok(await store.CountAsync(album, ct));

    static async Task<Results<Ok<ChoiceShown>, NotFound<Problem>>> Show(Guid choice, ChoiceListStore store, CancellationToken ct) =>
        await store.FindAsync(choice, ct) is { } found ? TypedResults.Ok(found) : Problems.Gone("choice");

    static async Task<Results<FileContentHttpResult, NotFound<Problem>>> Table(Guid choice, HttpContext http, ChoiceListStore store, CancellationToken ct)
    {
        http.Response.Headers.CacheControl = "private, no-store";
        return await store.FindAsync(choice, ct) is { } found
            ? TypedResults.File(await ChoiceListStore.TableAsync(found), "text/csv; charset=utf-8", new LeavingNames().Next($"{found.Choice.AlbumName}, favourites of {found.Choice.Name}.csv"))
            : Problems.Gone("choice");
    }

    static async Task<Results<NoContent, NotFound<Problem>>> Note(Guid choice, Actor who, ChoiceListStore store, CancellationToken ct) =>
        await store.NoteAsync(who, choice, ct) ? TypedResults.NoContent() : Problems.Gone("choice");

    static async Task<Results<NoContent, NotFound<Problem>>> Reopen(Guid choice, Actor who, ChoiceListStore store, CancellationToken ct) =>
        await store.ReopenAsync(who, choice, ct) ? TypedResults.NoContent() : Problems.Gone("choice");
}
