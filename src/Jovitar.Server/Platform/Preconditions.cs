using System.Globalization;
using System.Reflection;
using Microsoft.AspNetCore.Http.Metadata;

namespace Jovitar.Server.Platform;

/// <summary>Marks an operation that writes over what was read: it names the version it read (RFC 9110 §13.1.1, If-Match).</summary>
internal sealed class NeedsVersion;

/// <summary>The answer to a write whose version is out of date.</summary>
internal sealed class Stale(string what) : IResult, IEndpointMetadataProvider
{
    public Task ExecuteAsync(HttpContext httpContext) =>
        Problems.Json(StatusCodes.Status412PreconditionFailed, "stale", $"Someone else changed this {what} in the meantime. What you typed is still here.").ExecuteAsync(httpContext);

    public static void PopulateMetadata(MethodInfo method, EndpointBuilder builder) =>
        builder.Metadata.Add(new ProducesResponseTypeMetadata(StatusCodes.Status412PreconditionFailed, typeof(Problem), ["application/problem+json"]));
}

/// <summary>Checks the version that writes must name before anything else of them is read: missing is 428 (RFC 6585), not a number 400.</summary>
internal static class Preconditions
{
    public static RouteHandlerBuilder NeedsVersion(this RouteHandlerBuilder endpoint) => endpoint.WithMetadata(new NeedsVersion());

    public static void UsePreconditions(this IApplicationBuilder app) => app.Use((http, next) =>
    {
        if (http.GetEndpoint()?.Metadata.GetMetadata<NeedsVersion>() is null)
        {
            return next(http);
        }

        var given = http.Request.Headers.IfMatch;
        if (given.Count == 0)
        {
            return Problems.Json(StatusCodes.Status428PreconditionRequired, "version-missing", "Say which version this was read as (If-Match).").ExecuteAsync(http);
        }

        if (given.Count > 1 || !long.TryParse(given[0]?.Trim('"'), NumberStyles.None, CultureInfo.InvariantCulture, out var version))
        {
            return Problems.Json(StatusCodes.Status400BadRequest, "invalid", "The version (If-Match) is a number, as it was read.").ExecuteAsync(http);
        }

        // An entity tag has quotes around it; what is bound is the number.
        http.Request.Headers.IfMatch = version.ToString(CultureInfo.InvariantCulture);
        return next(http);
    });
}
