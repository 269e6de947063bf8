namespace Jovitar.Server.Platform;

/// <summary>Where the site is: at the address that the operator says, else at the one it was asked for at.</summary>
/// <param name="said">Null where nobody says it.</param>
internal sealed class SiteOrigin(Uri? said)
{
    /// <summary>The longest address that is kept.</summary>
    const int Longest = 300;

    /// <summary>The site's address as text, <c>https://photos.example.org</c>; empty for one that no site has.</summary>
    public string TextOf(HttpRequest request) => Of(request).GetLeftPart(UriPartial.Authority) is { Length: <= Longest } address ? address : "";

    /// <summary>The site's address, with nothing behind its host.</summary>
    public Uri Of(HttpRequest request) =>
        said ?? (Uri.TryCreate($"{request.Scheme}://{(request.Host.HasValue ? request.Host.Value : "localhost")}/", UriKind.Absolute, out var asked) ? asked : new Uri("http://localhost/"));
}
