using System.Buffers.Text;
using System.ComponentModel.DataAnnotations;
using Jovitar.Core;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;

namespace Jovitar.Server.Access.Passkeys;

/// <param name="Current">The password: whoever finds a browser signed in may not make themselves a key to it.</param>
public sealed record PasskeyWanted([Required, Words(500)] string Current);

/// <param name="State">As it was given.</param>
/// <param name="Credential">What the browser made, JSON.</param>
/// <param name="Name">The device and program it was made with.</param>
public sealed record PasskeyMade([Required, Words(8_000)] string State, [Required, Words(32_000)] string Credential, [Words(120)] string Name);

/// <param name="State">As it was given.</param>
/// <param name="Credential">What the browser answers, JSON.</param>
public sealed record PasskeyShown([Required, Words(8_000)] string State, [Required, Words(32_000)] string Credential);

/// <summary>Passkeys: making one, taking one off, and signing in with one. Each asks its owner on the device, so that it counts as a password and a second step.</summary>
internal static class PasskeyEndpoints
{
    /// <summary>Answers a minute from one place.</summary>
    const int FromPlace = 60;

    static readonly TimeSpan Window = TimeSpan.FromMinutes(1);

    /// <param name="address">Where visitors find the site; null for wherever it is asked for. A passkey made there is good there, and nowhere else.</param>
    public static void AddPasskeys(this IServiceCollection services, Uri? address)
    {
        services.AddIdentityCore<Account>().AddUserStore<PasskeyStore>();
        services.Configure<IdentityPasskeyOptions>(options =>
        {
            options.ServerDomain = address?.Host;
            // One signs in without saying who one is, and the device asks for its owner.
            options.ResidentKeyRequirement = "required";
            options.UserVerificationRequirement = "required";
        });
        services.AddScoped<IPasskeyHandler<Account>, PasskeyHandler<Account>>();
        services.AddScoped<PasskeyStore>();
        services.AddScoped<PasskeyDoor>();
    }

    public static void MapPasskeys(this IEndpointRouteBuilder api)
    {
        var own = api.MapGroup("/account/passkeys").RequireAuthorization(Security.SignedIn).WithTags("Access");
        own.MapPost("/begin", Begin).WithSummary("Begins to make a passkey");
        own.MapPost("", Make).WithSummary("Puts a passkey on one's account");
        own.MapDelete("/{passkey}", Remove).WithSummary("Takes a passkey off");
        var session = api.MapGroup("/session/passkey").AllowAnonymous().WithMetadata(AlwaysOpen.Instance).WithTags("Access");
        session.MapPost("/begin", async Task<Ok<PasskeyAsked>> (HttpContext http, PasskeyDoor door) => TypedResults.Ok(await door.AskWhoAsync(http))).WithSummary("Begins to sign in with a passkey");
        session.MapPost("", Enter).WithSummary("Signs in with a passkey");
    }

    static async Task<Results<Ok<PasskeyAsked>, BadRequest<Problem>, JsonHttpResult<Problem>>> Begin(
        PasskeyWanted body, HttpContext http, AccountStore accounts, PasskeyDoor door, SignInLimit limit, IPasswordHasher<Account> hasher, CancellationToken ct)
    {
        var (account, wait) = await AccountEndpoints.KnownAsync(body.Current, http, accounts, limit, hasher, ct);
        if (account is null)
        {
            return wait is { } time ? SessionEndpoints.MustWait(http, time) : AccountEndpoints.NotTheirs();
        }

        await limit.ClearAsync(account.Email, http.Connection.RemoteIpAddress, ct);
        return TypedResults.Ok(await door.AskForNewAsync(account, http));
    }

    static async Task<Results<NoContent, BadRequest<Problem>, NotFound<Problem>, Conflict<Problem>>> Make(
        PasskeyMade body, HttpContext http, AccountStore accounts, PasskeyStore passkeys, PasskeyDoor door, CancellationToken ct)
    {
        if (Actor.Of(http.User).Account is not { } id || await accounts.FindAsync(id, ct) is not { } account)
        {
            return Problems.Gone("account");
        }

        if (await door.MadeAsync(account, body.State, body.Credential, http, ct) is not { } made)
        {
            return Problems.Invalid("This passkey could not be checked. Begin again.");
        }

        return await passkeys.AddAsync(id, made, Text.Name(body.Name), ct) ? TypedResults.NoContent() : Problems.Conflict("full", $"An account has room for {PasskeyStore.Most} passkeys, each once.");
    }

    static async Task<Results<NoContent, NotFound<Problem>>> Remove(string passkey, HttpContext http, PasskeyStore passkeys, CancellationToken ct) =>
        Actor.Of(http.User).Account is { } account && Base64Url.IsValid(passkey) && await passkeys.RemoveAsync(account, Base64Url.DecodeFromChars(passkey), ct) ? TypedResults.NoContent() : Problems.Gone("passkey");

    static async Task<Results<NoContent, BadRequest<Problem>, JsonHttpResult<Problem>>> Enter(
        PasskeyShown body, HttpContext http, SessionStore sessions, PasskeyDoor door, TryCount tries, CancellationToken ct)
    {
        if (await tries.WaitAsync(Window, ct, ($"p {TryCount.Network(http.Connection.RemoteIpAddress)}", FromPlace)) is { } wait)
        {
            return SessionEndpoints.MustWait(http, wait);
        }

        if (await door.WhoAsync(body.State, body.Credential, http, ct) is not { } account)
        {
            return Problems.Invalid("This passkey does not open this site, or was taken off. Sign in another way.");
        }

        await Security.SignInAsync(http, account, sessions, ct);
        return TypedResults.NoContent();
    }
}
