using System.Security.Cryptography;
using System.Text;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Identity;

namespace Jovitar.Server.Access.Passkeys;

/// <summary>What a browser is asked, and what it must send back with the answer.</summary>
/// <param name="Options">For the browser's own part (WebAuthn level 3 §5.1), JSON.</param>
/// <param name="State">Sealed; good once, for a few minutes.</param>
internal sealed record PasskeyAsked(string Options, string State);

/// <summary>
/// The questions and answers by which passkeys are made and sign in (WebAuthn level 3 §7.1 and §7.2), checked by the platform. What
/// was asked travels sealed through the browser, so that any process may check the answer; each is answered once.
/// </summary>
internal sealed class PasskeyDoor(IPasskeyHandler<Account> handler, PasskeyStore passkeys, IDataProtectionProvider protection, TimeProvider clock)
{
    static readonly TimeSpan Patience = TimeSpan.FromMinutes(5);

    readonly ITimeLimitedDataProtector seal = protection.CreateProtector("Jovitar.Passkeys").ToTimeLimitedDataProtector();

    public async Task<PasskeyAsked> AskForNewAsync(Account account, HttpContext http)
    {
        var asked = await handler.MakeCreationOptionsAsync(new PasskeyUserEntity { Id = account.Id.ToString(), Name = account.Email, DisplayName = account.Name }, http);
        return new PasskeyAsked(asked.CreationOptionsJson, seal.Protect($"{account.Id}{asked.AttestationState}", Patience));
    }

    /// <summary>Checks a passkey that was made for an account.</summary>
    /// <returns>Null where the answer does not fit the question, or came before.</returns>
    public async Task<UserPasskeyInfo?> MadeAsync(Account account, string state, string credential, HttpContext http, CancellationToken ct)
    {
        if (await OpenAsync(state, ct) is not { } asked || !asked.StartsWith(account.Id.ToString(), StringComparison.Ordinal))
        {
            return null;
        }

        var made = await handler.PerformAttestationAsync(new PasskeyAttestationContext { HttpContext = http, CredentialJson = credential, AttestationState = asked[account.Id.ToString().Length..] });
        return made.Succeeded ? made.Passkey : null;
    }

    public async Task<PasskeyAsked> AskWhoAsync(HttpContext http)
    {
        var asked = await handler.MakeRequestOptionsAsync(null, http);
        return new PasskeyAsked(asked.RequestOptionsJson, seal.Protect(asked.AssertionState!, Patience));
    }

    /// <summary>Whose passkey answered.</summary>
    /// <returns>Null where the answer does not fit the question, or came before, or nobody has this passkey.</returns>
    public async Task<Account?> WhoAsync(string state, string credential, HttpContext http, CancellationToken ct)
    {
        if (await OpenAsync(state, ct) is not { } asked)
        {
            return null;
        }

        var answer = await handler.PerformAssertionAsync(new PasskeyAssertionContext { HttpContext = http, CredentialJson = credential, AssertionState = asked });
        return answer.Succeeded && await passkeys.UsedAsync(answer.Passkey, ct) ? answer.User : null;
    }

    /// <summary>What was asked, the first time that it is answered.</summary>
    async Task<string?> OpenAsync(string state, CancellationToken ct)
    {
        try
        {
            var asked = seal.Unprotect(state);
            return await passkeys.AnswerAsync(SHA256.HashData(Encoding.UTF8.GetBytes(asked)), clock.GetUtcNow() + Patience, ct) ? asked : null;
        }
        catch (CryptographicException)
        {
            return null;
        }
    }
}
