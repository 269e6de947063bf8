using System.Security.Claims;

namespace Jovitar.Server.Acts;

/// <summary>Who acts: a person of the workroom by the key of their account, or a worker by its name.</summary>
/// <param name="Account">Null for a worker.</param>
internal sealed record Actor(Guid? Account, string Name)
{
    /// <summary>An operation that names an actor gets the one who is signed in.</summary>
    public static ValueTask<Actor?> BindAsync(HttpContext http) => ValueTask.FromResult<Actor?>(Of(http.User));

    /// <summary>The one who is signed in.</summary>
    public static Actor Of(ClaimsPrincipal user) =>
        new(Guid.TryParse(user.FindFirstValue(ClaimTypes.NameIdentifier), out var id) ? id : null, user.FindFirstValue(ClaimTypes.Name) ?? "");

    public static Actor Worker(string name) => new(null, name);
}
