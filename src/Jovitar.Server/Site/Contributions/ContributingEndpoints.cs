using System.ComponentModel.DataAnnotations;
using Jovitar.Core;
using Jovitar.Core.Contributions;
using Jovitar.Core.Intake;
using Jovitar.Core.People;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Contributions;
using Jovitar.Server.Intake;
using Jovitar.Server.People;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Storing;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace Jovitar.Server.Site.Contributions;

/// <summary>The words of a photo that is sent in.</summary>
public sealed record SentWords([Words(Sending.LongestTitle)] string Title, [Words(Sending.LongestCaption)] string Caption);

/// <param name="Photos">Of one contribution, as they are to stand.</param>
public sealed record SentOrder([Required, AtMost(Sending.MostPhotos)] IReadOnlyList<Guid> Photos);

/// <summary>What is said with photos that are sent in.</summary>
/// <param name="Album">What a member wants made of them.</param>
public sealed record ToBeSent(
    [Words(MemberRules.LongestName)] string Name, [Words(254)] string Email, [Words(Sending.LongestWords)] string Words, bool Agreed, AlbumWish? Album = null);

/// <summary>Photos that visitors send in: what the page on which they are put together asks for.</summary>
internal static class ContributingEndpoints
{
    /// <summary>What is done from one network within a minute; a class behind one line may send together.</summary>
    const int ChangesAMinute = 1200;

    public static void MapContributing(this IEndpointRouteBuilder app)
    {
        var sent = app.MapGroup($"{ContributingPages.Sent}/{{key}}").AllowAnonymous().WithTags("Site");
        sent.MapGet("/state", Show).WithSummary("What a visitor sends in, or has sent");
        sent.MapPost("/photos", Add).WithSummary("Receives a photo that is sent in; the body is its bytes").Accepts<IFormFile>("application/octet-stream").WithMetadata(new UnboundedBody());
        sent.MapPut("/photos/{photo}", Mend).WithSummary("Writes the words of a photo that nobody has decided on");
        sent.MapDelete("/photos/{photo}", Withdraw).WithSummary("Takes a photo back that was sent in");
        sent.MapPut("/order", Order).WithSummary("Puts the photos that are sent in into another order");
        sent.MapPost("/sent", Send).WithSummary("Sends what was put together");
        sent.MapGet("/photos/{photo:guid}/{width:int}.webp", Picture).ExcludeFromDescription().WithSummary("A picture of a photo that was sent in");
    }

    static async Task<Results<Ok<SentContribution>, NotFound<Problem>>> Show(string key, HttpContext http, SentStore store, CancellationToken ct)
    {
        SightStore.KeepNowhere(http);
        return Sender.Of(key, ContributingPages.AccountOf(http)) is { } sender && await store.FindAsync(sender, ct) is { } found ? TypedResults.Ok(found) : Problems.Gone("contribution");
    }

    static async Task<Results<Ok<SentPhoto>, NotFound<Problem>, JsonHttpResult<Problem>>> Add(
        string key, [FromQuery] string name, HttpContext http, ContributionStore store, SentFiles files, Arrivals arrivals, Receiver receiver, TryCount tries, CancellationToken ct)
    {
        if (await VisitorForm.RefusedAsync(http, tries, "d", ChangesAMinute, ct) is { } refused)
        {
            return refused;
        }

        // Asked before a byte is read: what nobody takes is not received.
        if (Sender.Of(key, ContributingPages.AccountOf(http)) is not { } sender || await store.RoomAsync(sender, ct) is not { IsThere: true } room)
        {
            return Problems.Gone("contribution");
        }

        if (room.Refusal is not null)
        {
            return Refused(room);
        }

        var limits = await receiver.LimitsAsync(ct);
        var fileName = Incoming.Named(name).FileName;
        if (http.Request.ContentLength > limits.Bytes)
        {
            return TooLarge(limits);
        }

        Arrived arrived;
        try
        {
            arrived = await arrivals.ReceiveAsync(http.Request.Body, limits.Bytes, ct);
        }
        catch (TooManyBytesException)
        {
            return TooLarge(limits);
        }

        try
        {
            var (looked, fault) = await files.LookAsync(arrived, limits, ct);
            if (looked is null)
            {
                return Problems.Json(StatusCodes.Status422UnprocessableEntity, "refused", fault);
            }

            var (answer, photo) = await store.AddAsync(sender, fileName, arrived, looked, ct);
            return !answer.IsThere ? Problems.Gone("contribution") : photo is null ? Refused(answer) : TypedResults.Ok(photo);
        }
        catch (TimeoutException)
        {
            return Problems.Json(StatusCodes.Status503ServiceUnavailable, "busy", "Many send photos just now. Nothing was lost; try again in a minute.");
        }
        finally
        {
            await arrivals.DropAsync(arrived);
        }
    }

    static JsonHttpResult<Problem> TooLarge(IntakeLimits limits) => Problems.Json(StatusCodes.Status422UnprocessableEntity, "refused", IntakeRefusal.Sentence(IntakeProblem.TooManyBytes, limits));

    static async Task<Results<NoContent, NotFound<Problem>, JsonHttpResult<Problem>>> Mend(string key, Guid photo, SentWords body, HttpContext http, ContributionStore store, TryCount tries, CancellationToken ct) =>
        await VisitorForm.RefusedAsync(http, tries, "d", ChangesAMinute, ct) ?? await DoAsync(key, http, sender => store.MendAsync(sender, photo, Text.Name(body.Title.ReplaceLineEndings(" ")), body.Caption.Trim().ReplaceLineEndings("\n"), ct));

    static async Task<Results<NoContent, NotFound<Problem>, JsonHttpResult<Problem>>> Order(string key, SentOrder body, HttpContext http, ContributionStore store, TryCount tries, CancellationToken ct) =>
        await VisitorForm.RefusedAsync(http, tries, "d", ChangesAMinute, ct) ?? await DoAsync(key, http, sender => store.OrderAsync(sender, body.Photos, ct));

    static async Task<Results<NoContent, NotFound<Problem>, JsonHttpResult<Problem>>> Withdraw(string key, Guid photo, HttpContext http, ContributionStore store, DecidingStore deciding, TryCount tries, CancellationToken ct) =>
        await VisitorForm.RefusedAsync(http, tries, "d", ChangesAMinute, ct) ?? await DoAsync(
            key, http,
            async sender =>
            {
                var (answer, accepted) = await store.WithdrawAsync(sender, photo, ct);
                if (accepted is not null)
                {
                    await deciding.TakeBackAsync(photo, accepted, ct);
                }

                return answer;
            });

    static async Task<Results<NoContent, NotFound<Problem>, JsonHttpResult<Problem>>> Send(string key, ToBeSent body, HttpContext http, SentStore sent, ContributionStore store, LetterLimit letters, SiteOrigin origin, TryCount tries, CancellationToken ct)
    {
        if (await VisitorForm.RefusedAsync(http, tries, "d", ChangesAMinute, ct) is { } refused)
        {
            return refused;
        }

        if (Sender.Of(key, ContributingPages.AccountOf(http)) is not { } sender || await sent.FindAsync(sender, ct) is not { } found)
        {
            return Problems.Gone("contribution");
        }

        var wish = new SendWish(body.Name, body.Email, body.Words, body.Agreed).Trimmed();
        if (wish.Faults(found.Agree, found.IsKnown) is { Count: > 0 } faults)
        {
            return Problems.Json(StatusCodes.Status422UnprocessableEntity, "invalid", faults.Values.First(), faults);
        }

        // Of an account the address is known, and so is where they see to what they sent.
        var writes = !found.IsKnown && wish.Email.Length > 0 && await letters.WaitAsync(wish.Email, http.Connection.RemoteIpAddress, ct) is null;
        var album = body.Album is { } asked ? asked with { Title = Text.Name(asked.Title.ReplaceLineEndings(" ")) } : AlbumWish.None;
        return Answer(await store.SendAsync(sender, wish, album, writes ? $"{origin.TextOf(http.Request)}{ContributingPages.Sent}/{key}" : null, ct));
    }

    static async Task<Results<FileAnswer, NotFound<Problem>>> Picture(string key, Guid photo, int width, HttpContext http, SentStore store, SentFiles files, Storage storage, CancellationToken ct)
    {
        SightStore.KeepNowhere(http);
        return Sender.Of(key, ContributingPages.AccountOf(http)) is { } sender && await store.IsOfAsync(sender, photo, ct) && await files.FindAsync(photo, width) is { } stored
            ? storage.Answer(stored, "image/webp")
            : Problems.Gone("photo");
    }

    static async Task<Results<NoContent, NotFound<Problem>, JsonHttpResult<Problem>>> DoAsync(string key, HttpContext http, Func<Sender, Task<SenderAnswer>> change) =>
        Sender.Of(key, ContributingPages.AccountOf(http)) is { } sender ? Answer(await change(sender)) : Problems.Gone("contribution");

    static Results<NoContent, NotFound<Problem>, JsonHttpResult<Problem>> Answer(SenderAnswer answer) =>
        !answer.IsThere ? Problems.Gone("contribution") : answer.Refusal is null ? TypedResults.NoContent() : Refused(answer);

    static JsonHttpResult<Problem> Refused(SenderAnswer answer) => Problems.Json(StatusCodes.Status409Conflict, "refused", SendingWords.Refused(answer.Refusal!.Value, answer.Most));
}
