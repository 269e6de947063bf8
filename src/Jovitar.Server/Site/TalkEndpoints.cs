using Jovitar.Core;
using Jovitar.Core.Comments;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Comments;
using Jovitar.Server.Platform;
using Jovitar.Server.Site.Drawing;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace Jovitar.Server.Site;

/// <summary>A comment that a visitor is writing.</summary>
/// <param name="Faults">What is wrong with it, by field; under "" what holds for all of it.</param>
public sealed record Writing(string Name, string Words, IReadOnlyDictionary<string, string> Faults)
{
    public static readonly Writing Nothing = new("", "", new Dictionary<string, string>());

    /// <summary>What was written, with a sentence that holds for all of it.</summary>
    public static Writing Of(Comment written, string fault) => new(written.Name, written.Words, new Dictionary<string, string> { [""] = fault });
}

/// <summary>What is said about a photo, as its page shows it.</summary>
/// <param name="Sent">A comment was just sent.</param>
public sealed record TalkShown(PhotoTalk Talk, Writing Writing, bool Sent);

/// <param name="Visitor">What the visitor's browser calls itself: 16 bytes as base64url.</param>
/// <param name="Value">1 to 5; null takes it back.</param>
internal sealed record RatingGiven(string? Visitor, int? Value);

/// <summary>What visitors say about photos, at the photos' own pages.</summary>
internal static class TalkEndpoints
{
    /// <summary>Says in an address that a comment was just sent.</summary>
    public const string Sent = "sent";

    /// <summary>Where on a photo's own page it is talked of.</summary>
    public const string Place = "talk";

    /// <summary>Who looks at the form does not see this field: only programs fill it in.</summary>
    public const string Trap = "about";

    /// <summary>16 bytes as base64url.</summary>
    const int VisitorLength = 22;

    public static void MapTalk(this IEndpointRouteBuilder site)
    {
        foreach (var kind in Enum.GetValues<SiteKind>())
        {
            var path = $"{PageVersion.PathOf(kind, "{address}")}/photo/{{photo}}";
            site.MapPost(path, (string address, PhotoId photo, [FromQuery(Name = "in")] int? walk, HttpContext http, SiteDoor door, TalkStore talks, CancellationToken ct) => Comment(kind, address, photo, walk ?? 1, http, door, talks, ct));
        }

        site.MapPost("/site/rate/{photo}", Rate);
    }

    static async Task Comment(SiteKind kind, string address, PhotoId photo, int walk, HttpContext http, SiteDoor door, TalkStore talks, CancellationToken ct)
    {
        http.Response.Headers.CacheControl = "no-store";
        var sight = await door.SightAsync(http, ct);
        if (await door.FindAsync(kind, address, sight, ct) is not { } version || await door.Renderer.ModelAsync(version) is not { } page || page.Find(photo, walk) is not var (found, n))
        {
            await SiteEndpoints.Missing(http, door.Renderer, ct);
            return;
        }

        var view = new Narrowed(found, Choices.Read(page, http.Request.Query), page.Path, draft: false);
        var (status, writing) = await TakeAsync(photo, http, talks, sight, ct);
        if (status == StatusCodes.Status303SeeOther)
        {
            // Sent anew by nobody who reloads the page.
            var own = view.PhotoLink(found.Photos[n]);
            http.Response.StatusCode = status;
            http.Response.Headers.Location = $"{own}{(own.Contains('?', StringComparison.Ordinal) ? '&' : '?')}{Sent}=1#{Place}";
            return;
        }

        if (await talks.OfAsync(photo, sight, ct) is not { Comments: not null } talk)
        {
            await SiteEndpoints.Missing(http, door.Renderer, ct);
            return;
        }

        http.Response.StatusCode = status;
        await SiteEndpoints.SendAsync(http, await door.Renderer.PhotoPageAsync(page, view, n, door.Origin.Of(http.Request), new TalkShown(talk, writing, Sent: false), ct), ct);
    }

    /// <summary>Takes what somebody wrote.</summary>
    /// <returns>303 where it is taken; else what the answer is, and what was written with what is wrong with it.</returns>
    static async Task<(int Status, Writing Writing)> TakeAsync(PhotoId photo, HttpContext http, TalkStore talks, Sight sight, CancellationToken ct)
    {
        if (VisitorForm.IsFromElsewhere(http) || await VisitorForm.ReadAsync(http, ct) is not { } form)
        {
            return (StatusCodes.Status400BadRequest, Writing.Of(new Comment("", ""), "This could not be read. Write it here, and send it again."));
        }

        var written = new Comment(form["name"].ToString(), form["words"].ToString());
        if (written.Faults() is { Count: > 0 } faults)
        {
            return (StatusCodes.Status422UnprocessableEntity, new Writing(written.Name, written.Words, faults));
        }

        // A program that fills in what nobody sees is told that all went well, and nothing is kept.
        var taken = form[Trap].ToString().Length > 0 ? Taken.Written : await talks.WriteAsync(photo, written.Trimmed(), TryCount.Network(http.Connection.RemoteIpAddress), sight, ct);
        return taken switch
        {
            Taken.Written => (StatusCodes.Status303SeeOther, Writing.Nothing),
            Taken.TooMany => (StatusCodes.Status429TooManyRequests, Writing.Of(written, "Many comments came from where you are. Wait a minute, then send it again.")),
            Taken.Full => (StatusCodes.Status503ServiceUnavailable, Writing.Of(written, "Many comments wait to be read just now. Send it again another day.")),
            _ => (StatusCodes.Status404NotFound, Writing.Nothing),
        };
    }

    static async Task<Results<Ok<Rated>, NotFound<Problem>, BadRequest<Problem>, JsonHttpResult<Problem>>> Rate(PhotoId photo, RatingGiven body, HttpContext http, TalkStore talks, SightStore sights, CancellationToken ct)
    {
        http.Response.Headers.CacheControl = "no-store";
        if (VisitorForm.IsFromElsewhere(http) || body.Visitor is not { Length: VisitorLength } visitor || body.Value is < Ratings.Least or > Ratings.Most)
        {
            return Problems.Invalid($"A rating is from {Ratings.Least} to {Ratings.Most}.", new Dictionary<string, string> { ["value"] = $"Give {Ratings.Least} to {Ratings.Most}." });
        }

        var sight = await sights.OfAsync(http, ct);
        return await talks.RateAsync(photo, visitor, body.Value, TryCount.Network(http.Connection.RemoteIpAddress), sight, ct) switch
        {
            Taken.NotOffered => Problems.Gone("photo"),
            Taken.TooMany => Problems.Json(StatusCodes.Status429TooManyRequests, "too-many", "Many ratings came from where you are. Wait a minute."),
            _ => TypedResults.Ok(new Rated((await talks.OfAsync(photo, sight, ct))?.Ratings?.Line ?? "")),
        };
    }

    /// <param name="Line">What visitors gave the photo by now.</param>
    internal sealed record Rated(string Line);
}
