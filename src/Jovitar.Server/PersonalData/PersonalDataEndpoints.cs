using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.PersonalData;

/// <summary>What is kept of a member, for the owner who is asked for it.</summary>
internal static class PersonalDataEndpoints
{
    /// <summary>What the file is called that a member gets.</summary>
    public const string FileName = "what-is-kept-of-you.json";

    public static void MapPersonalData(this IEndpointRouteBuilder api)
    {
        var member = api.MapGroup("/members/{member}").RequireAuthorization(Security.Owners).WithTags("Members");
        member.MapGet("/kept.json", Export).ExcludeFromDescription().WithSummary("What is kept of a member");
        member.MapPost("/erase", Erase).WithSummary("Ends a membership and erases what is kept of whoever it was, for good");
    }

    static async Task<Results<FileContentHttpResult, NotFound<Problem>>> Export(Guid member, HttpContext http, PersonalDataStore store, CancellationToken ct)
    {
        http.Response.Headers.CacheControl = "private, no-store";
        return await store.ExportAsync(member, ct) is { } file ? TypedResults.File(file, "application/json; charset=utf-8", FileName) : Problems.Gone("member");
    }

    static async Task<Results<NoContent, NotFound<Problem>>> Erase(Guid member, Actor who, PersonalDataStore store, CancellationToken ct) =>
        await store.EraseAsync(who, member, ct) ? TypedResults.NoContent() : Problems.Gone("member");
}
