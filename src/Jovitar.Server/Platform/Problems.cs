using System.Text.Json;
using System.Text.Json.Serialization;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Http.HttpResults;
using Npgsql;

namespace Jovitar.Server.Platform;

/// <summary>What went wrong, for people and for programs (RFC 9457).</summary>
/// <param name="Type">Names the kind of problem, <c>urn:jovitar:…</c>.</param>
/// <param name="Title">A sentence for people.</param>
/// <param name="Fields">A sentence for each field that is wrong.</param>
internal sealed record Problem(
    string Type, string Title, int Status, [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] IReadOnlyDictionary<string, string>? Fields = null);

/// <summary>Makes the problems that endpoints answer with.</summary>
internal static class Problems
{
    public static JsonHttpResult<Problem> Json(int status, string kind, string sentence, IReadOnlyDictionary<string, string>? fields = null) =>
        TypedResults.Json(new Problem($"urn:jovitar:{kind}", sentence, status, fields), contentType: "application/problem+json", statusCode: status);

    public static BadRequest<Problem> Invalid(string sentence, IReadOnlyDictionary<string, string>? fields = null) =>
        TypedResults.BadRequest(new Problem("urn:jovitar:invalid", sentence, StatusCodes.Status400BadRequest, fields));

    public static NotFound<Problem> Gone(string what) =>
        TypedResults.NotFound(new Problem("urn:jovitar:gone", $"This {what} is not here any more.", StatusCodes.Status404NotFound));

    /// <summary>What was read is out of date (412).</summary>
    public static Stale Stale(string what) => new(what);

    public static Conflict<Problem> Conflict(string kind, string sentence) =>
        TypedResults.Conflict(new Problem($"urn:jovitar:{kind}", sentence, StatusCodes.Status409Conflict));

    /// <summary>Two changed the same; a sentence for each field or block where that is so.</summary>
    public static Conflict<Problem> Collided(string sentence, IEnumerable<string> fields) =>
        TypedResults.Conflict(new Problem("urn:jovitar:collided", sentence, StatusCodes.Status409Conflict, fields.ToDictionary(f => f, _ => sentence)));

    public static Conflict<Problem> Taken(string sentence, string field) =>
        TypedResults.Conflict(new Problem("urn:jovitar:taken", sentence, StatusCodes.Status409Conflict, new Dictionary<string, string> { [field] = sentence }));
}

/// <summary>Turns what was thrown into a problem; no text of an exception reaches a visitor.</summary>
internal sealed class ProblemHandler(ILogger<ProblemHandler> log) : IExceptionHandler
{
    public async ValueTask<bool> TryHandleAsync(HttpContext http, Exception exception, CancellationToken ct)
    {
        if (exception is OperationCanceledException && http.RequestAborted.IsCancellationRequested)
        {
            return true;
        }

        // What says of which kind a thing is can be missing, too.
        if (exception is BadHttpRequestException or JsonException or NotSupportedException { Source: "System.Text.Json" })
        {
            var bad = exception as BadHttpRequestException;
            var unread = bad?.InnerException as JsonException ?? exception as JsonException;
            // Where in the body it went wrong, as a program may need to know: $.photos[3].
            var fields = unread?.Path is { Length: > 2 } path ? new Dictionary<string, string> { [path[2..]] = "This is missing, or not of the kind it must be." } : null;
            await Problems.Json(bad?.StatusCode ?? StatusCodes.Status400BadRequest, "invalid", "The request could not be read.", fields).ExecuteAsync(http);
            return true;
        }

        var (status, kind, sentence) = exception switch
        {
            // A NUL: no text of PostgreSQL's holds one, and none that people write has one.
            PostgresException { SqlState: PostgresErrorCodes.CharacterNotInRepertoire or PostgresErrorCodes.UntranslatableCharacter } =>
                (StatusCodes.Status400BadRequest, "invalid", "This text has characters in it that cannot be kept."),
            // Who was let go while this was being done.
            PostgresException { SqlState: PostgresErrorCodes.ForeignKeyViolation, ConstraintName: { } of } when of.EndsWith("_account_fkey", StringComparison.Ordinal) =>
                (StatusCodes.Status401Unauthorized, "signed-out", "Sign in to go on."),
            PostgresException { SqlState: PostgresErrorCodes.DeadlockDetected or PostgresErrorCodes.SerializationFailure } =>
                (StatusCodes.Status503ServiceUnavailable, "busy", "Too many people change the same thing just now. Nothing was lost; try again."),
            NpgsqlException { IsTransient: true } or NpgsqlException { InnerException: IOException or System.Net.Sockets.SocketException or TimeoutException } or PostgresException { SqlState: "57P01" or "57P03" } =>
                (StatusCodes.Status503ServiceUnavailable, "database-away", "The database does not answer just now. Nothing was lost; try again in a few seconds."),
            IOException io when io.HResult == 28 || io.Message.Contains("No space left", StringComparison.Ordinal) =>
                (StatusCodes.Status507InsufficientStorage, "disk-full", "The disk is full. Nothing was lost; make room and try again."),
            _ => (StatusCodes.Status500InternalServerError, "internal", "Something went wrong here. It has been noted; try again."),
        };
        if (status >= 500)
        {
            log.LogError(exception, "{Method} {Path} failed", http.Request.Method, http.Request.Path);
        }

        http.Response.StatusCode = status;
        if (status == StatusCodes.Status503ServiceUnavailable)
        {
            http.Response.Headers.RetryAfter = "5";
        }

        if (http.Request.Path.StartsWithSegments("/api"))
        {
            await http.Response.WriteAsJsonAsync(new Problem($"urn:jovitar:{kind}", sentence, status), options: null, contentType: "application/problem+json", ct);
        }
        else
        {
            http.Response.ContentType = "text/plain; charset=utf-8";
            await http.Response.WriteAsync(sentence, ct);
        }

        return true;
    }
}

/// <summary>Writes what the platform's validation finds in the shape of all other problems: a sentence, and a sentence a field.</summary>
internal sealed class ProblemWriter : IProblemDetailsWriter
{
    public bool CanWrite(ProblemDetailsContext context) => true;

    public ValueTask WriteAsync(ProblemDetailsContext context)
    {
        var details = context.ProblemDetails;
        var status = details.Status ?? context.HttpContext.Response.StatusCode;
        if (details is HttpValidationProblemDetails invalid)
        {
            var fields = invalid.Errors.ToDictionary(e => Name(e.Key), e => e.Value.FirstOrDefault() ?? "This cannot be.");
            return new ValueTask(Problems.Json(status, "invalid", fields.Count == 1 ? fields.First().Value : "Something is missing or too long.", fields).ExecuteAsync(context.HttpContext));
        }

        return new ValueTask(Problems.Json(status, "invalid", details.Title ?? "The request could not be read.").ExecuteAsync(context.HttpContext));
    }

    /// <summary>A field as the body names it: <c>About.Tags[2]</c> is <c>about.tags[2]</c>.</summary>
    static string Name(string key) => string.Join('.', key.Split('.').Select(JsonNamingPolicy.CamelCase.ConvertName));
}
