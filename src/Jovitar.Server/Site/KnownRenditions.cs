using System.Globalization;
using Jovitar.Core.Photos;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Opening;
using Jovitar.Server.Platform.Storing;
using Microsoft.AspNetCore.Authentication;

namespace Jovitar.Server.Site;

/// <summary>
/// Sends renditions that who asks was let have a moment ago before routing and the rest are asked: most of what visitors and members
/// fetch. Anything else (staff, a part of a file, a tag to compare, what must be decided first) takes the long way.
/// </summary>
internal static class KnownRenditions
{
    const string Before = "/i/";
    const string Behind = ".webp";
    static readonly string Middle = string.Create(CultureInfo.InvariantCulture, $"/{Renditions.Recipe}-");

    public static void UseKnownRenditions(this WebApplication app)
    {
        var renditions = app.Services.GetRequiredService<RenditionService>();
        var gate = app.Services.GetRequiredService<SiteGate>();
        var sights = app.Services.GetRequiredService<SightStore>();
        var storage = app.Services.GetRequiredService<Storage>();
        app.Use(async (http, next) =>
        {
            var headers = http.Request.Headers;
            if (HttpMethods.IsGet(http.Request.Method) && headers.Range.Count == 0 && headers.IfNoneMatch.Count == 0 && TryRead(http.Request.Path.Value, out var picture, out var width)
                && await gate.FrontAsync(http.RequestAborted) is { IsOpen: true, IsListed: true } && await MayBeSentAsync(http))
            {
                var sight = await sights.LookAsync(http, http.RequestAborted);
                if (!sight.IsEveryone && await renditions.KnownAsync(picture, width, sight) is { } theirs)
                {
                    SightStore.KeepNowhere(http);
                    await SendAsync(http, theirs);
                    return;
                }

                if (await renditions.KnownAsync(picture, width, await sights.EveryoneAsync(http.RequestAborted)) is { } file)
                {
                    http.Response.Headers.CacheControl = ForVisitors;
                    http.Response.Headers.ETag = Tag(picture, $"{width}");
                    await SendAsync(http, file);
                    return;
                }
            }

            await next(http);
        });

        Task SendAsync(HttpContext http, Stored file)
        {
            http.Response.ContentType = "image/webp";
            return storage.SendAsync(http.Response, file, http.RequestAborted);
        }
    }

    /// <summary>Whether it is a visitor or a member who asks: who shows a cookie is known by it from here on. What staff get is never decided beforehand.</summary>
    static async ValueTask<bool> MayBeSentAsync(HttpContext http)
    {
        if (http.Request.Headers.Cookie.Count > 0 && await http.AuthenticateAsync() is { Succeeded: true } known)
        {
            http.User = known.Principal;
        }

        return !http.User.Viewer().IsStaff;
    }

    /// <summary>A public rendition may be kept for a year: its address never means anything else.</summary>
    public const string ForVisitors = "public, max-age=31536000, immutable";

    /// <summary>The tag of a rendition, of part of its original's name and all of its correction's.</summary>
    /// <param name="form">Which of the renditions of the picture.</param>
    public static string Tag(string picture, string form) => $"\"{picture[..16]}{picture[PictureName.HashLength..]}-{Renditions.Recipe}-{form}\"";

    /// <summary>Reads <c>/i/PICTURE/RECIPE-WIDTH.webp</c> with today's recipe.</summary>
    static bool TryRead(string? path, out string picture, out int width)
    {
        (picture, width) = ("", 0);
        if (path is null || !path.StartsWith(Before, StringComparison.Ordinal) || !path.EndsWith(Behind, StringComparison.Ordinal))
        {
            return false;
        }

        var (from, to) = (Before.Length, path.IndexOf('/', Before.Length));
        if (to < 0 || !path.AsSpan(to).StartsWith(Middle, StringComparison.Ordinal) || to + Middle.Length > path.Length - Behind.Length
            || !int.TryParse(path.AsSpan(to + Middle.Length, path.Length - Behind.Length - to - Middle.Length), NumberStyles.None, CultureInfo.InvariantCulture, out width))
        {
            return false;
        }

        picture = path[from..to];
        return true;
    }
}
