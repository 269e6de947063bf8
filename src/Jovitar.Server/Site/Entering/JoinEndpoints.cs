using Jovitar.Core.People;
using Jovitar.Server.People;
using Jovitar.Server.People.Members;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Mailing;

namespace Jovitar.Server.Site.Entering;

/// <summary>What somebody finds who asks to become a member.</summary>
/// <param name="Wish">What they typed.</param>
/// <param name="Faults">What was wrong with it, by field.</param>
/// <param name="IsFree">Nobody has to accept it.</param>
/// <param name="HasMail">The site writes letters.</param>
/// <param name="IsSent">They have asked.</param>
public sealed record ToJoin(JoinWish Wish, IReadOnlyDictionary<string, string> Faults, bool IsFree, bool HasMail, bool IsSent = false);

/// <summary>Visitors ask to become members, where they may. No script is needed.</summary>
internal static class JoinEndpoints
{
    public const string Path = $"{SignInEndpoints.Path}/join";

    /// <summary>Where what they typed is sent.</summary>
    public const string Form = "/site/join";

    static readonly JoinWish Nothing = new("", "", "");

    /// <param name="site">Doors that are open to everybody and stand in no description.</param>
    public static void MapJoining(this IEndpointRouteBuilder site)
    {
        site.MapGet(Path, Show);
        site.MapPost(Form, Ask);
    }

    static async Task Show(HttpContext http, SiteDoor door, SettingsStore settings, MailSettings mail, CancellationToken ct)
    {
        EnteringEndpoints.Hide(http);
        if ((await settings.ReadAsync(ct)).Joining is var joining && joining == Joining.Closed)
        {
            await SiteEndpoints.Missing(http, door.Renderer, ct);
            return;
        }

        await AnswerAsync(http, door, new ToJoin(Nothing, new Dictionary<string, string>(), IsFree(joining, mail), mail.IsSet), ct);
    }

    static async Task Ask(HttpContext http, SiteDoor door, SettingsStore settings, MailSettings mail, JoinStore joins, LetterLimit letters, CancellationToken ct)
    {
        EnteringEndpoints.Hide(http);
        var joining = (await settings.ReadAsync(ct)).Joining;
        if (joining == Joining.Closed || VisitorForm.IsFromElsewhere(http) || await VisitorForm.ReadAsync(http, ct) is not { } form)
        {
            await SiteEndpoints.Missing(http, door.Renderer, ct);
            return;
        }

        var wish = new JoinWish(form["name"].ToString(), form["email"].ToString(), form["words"].ToString()).Trimmed();
        var asked = new ToJoin(wish, wish.Faults(), IsFree(joining, mail), mail.IsSet);
        if (asked.Faults.Count > 0)
        {
            http.Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
        }
        else if (await letters.WaitAsync(wish.Email, http.Connection.RemoteIpAddress, ct) is { } pause)
        {
            http.Response.StatusCode = StatusCodes.Status429TooManyRequests;
            asked = asked with { Faults = new Dictionary<string, string> { ["email"] = $"This was asked for so often that the next must wait {Math.Max(1, Math.Ceiling(pause.TotalMinutes))} minutes." } };
        }
        else
        {
            await joins.WishAsync(wish, door.Origin.TextOf(http.Request), ct);
            asked = asked with { IsSent = true };
        }

        await AnswerAsync(http, door, asked, ct);
    }

    static bool IsFree(Joining joining, MailSettings mail) => joining == Joining.Open && mail.IsSet;

    static async Task AnswerAsync(HttpContext http, SiteDoor door, ToJoin asked, CancellationToken ct) => await SiteEndpoints.SendAsync(http, await door.Renderer.JoinPageAsync(asked, ct), ct);
}
