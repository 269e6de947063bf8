using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using Jovitar.Core;
using Jovitar.Core.Intake;
using Jovitar.Server.Access;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Intake.Uploads;

/// <summary>Uploads that go on where they stopped: tus resumable upload protocol 1.0.0 with its extensions creation, creation-with-upload, expiration, termination and checksum.</summary>
internal static class UploadEndpoints
{
    const string Version = "1.0.0";
    const string PartType = "application/offset+octet-stream";
    const int ChecksumMismatch = 460;

    static readonly Dictionary<string, HashAlgorithmName> Checksums = new(StringComparer.Ordinal) { ["sha256"] = HashAlgorithmName.SHA256, ["sha1"] = HashAlgorithmName.SHA1, ["md5"] = HashAlgorithmName.MD5 };

    public static void MapUploads(this IEndpointRouteBuilder api)
    {
        var uploads = api.MapGroup("/uploads").RequireAuthorization(Security.Editors).ExcludeFromDescription().AddEndpointFilter(CheckVersion).WithMetadata(new UnboundedBody());
        uploads.MapMethods("", ["OPTIONS"], Describe);
        uploads.MapPost("", Create);
        uploads.MapMethods("/{upload}", ["HEAD"], Head);
        uploads.MapPatch("/{upload}", Patch);
        uploads.MapDelete("/{upload}", End);
    }

    /// <summary>Every request but OPTIONS says which version of the protocol it speaks, and every answer, too.</summary>
    static async ValueTask<object?> CheckVersion(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        var http = context.HttpContext;
        http.Response.Headers["Tus-Resumable"] = Version;
        if (HttpMethods.IsOptions(http.Request.Method) || http.Request.Headers["Tus-Resumable"] == Version)
        {
            return await next(context);
        }

        http.Response.Headers["Tus-Version"] = Version;
        return Problems.Json(StatusCodes.Status412PreconditionFailed, "version", $"This server speaks version {Version} of the upload protocol.");
    }

    static async Task Describe(HttpContext http, Receiver receiver, CancellationToken ct)
    {
        var headers = http.Response.Headers;
        headers["Tus-Version"] = Version;
        headers["Tus-Extension"] = "creation,creation-with-upload,expiration,termination,checksum";
        headers["Tus-Checksum-Algorithm"] = string.Join(',', Checksums.Keys);
        headers["Tus-Max-Size"] = Text((await receiver.LimitsAsync(ct)).Most);
        http.Response.StatusCode = StatusCodes.Status204NoContent;
    }

    static async Task<IResult> Create(HttpContext http, UploadStore store, UploadWriter writer, UploadTaker taker, Receiver receiver, CancellationToken ct)
    {
        var request = http.Request.Headers;
        if (!long.TryParse(request["Upload-Length"], NumberStyles.None, CultureInfo.InvariantCulture, out var bytes))
        {
            return Problems.Invalid("An upload says how long it is when it begins (Upload-Length).");
        }

        if (Metadata(request["Upload-Metadata"].ToString()) is not { } metadata || !IntakeId.TryParse(metadata.GetValueOrDefault("intake"), null, out var intake))
        {
            return Problems.Invalid("An upload names the intake it belongs to and its file (Upload-Metadata: intake, filename).");
        }

        var incoming = Incoming.Named(metadata.GetValueOrDefault("filename") ?? "", metadata.GetValueOrDefault("path")) with
        {
            Changed = long.TryParse(metadata.GetValueOrDefault("changed"), NumberStyles.None, CultureInfo.InvariantCulture, out var changed) ? changed : null,
        };
        var limits = await receiver.LimitsAsync(ct);
        var most = Endings.Most(incoming.FileName, limits);
        if (bytes > most)
        {
            return await receiver.RefuseAsync(intake, incoming, IntakeProblem.TooManyBytes, bytes, limits, ct, most) is { Reason: { } reason } ? Problems.Json(StatusCodes.Status413PayloadTooLarge, "too-large", reason) : Problems.Gone("intake");
        }

        if (await store.BeginAsync(intake, incoming, bytes, ct) is not { } upload)
        {
            return Problems.Gone("intake");
        }

        http.Response.Headers.Location = $"/api/uploads/{upload.Id}";
        var carriesBytes = http.Request.ContentType == PartType;
        return carriesBytes || bytes == 0
            ? await WriteAsync(http, upload, 0, carriesBytes, StatusCodes.Status201Created, store, writer, taker, ct)
            : Answer(http, upload, 0, StatusCodes.Status201Created);
    }

    static async Task<IResult> Head(UploadId upload, HttpContext http, UploadStore store, UploadTaker taker, CancellationToken ct)
    {
        http.Response.Headers.CacheControl = "no-store";
        if (await store.FindAsync(upload, ct) is not { } found)
        {
            return TypedResults.NotFound();
        }

        if (found.IsWhole)
        {
            await TakeAsync(http, found, taker, ct);
        }

        http.Response.Headers["Upload-Length"] = Text(found.Bytes);
        return Answer(http, found, found.Come, StatusCodes.Status200OK);
    }

    static async Task<IResult> Patch(UploadId upload, HttpContext http, UploadStore store, UploadWriter writer, UploadTaker taker, CancellationToken ct)
    {
        if (http.Request.ContentType != PartType)
        {
            return Problems.Json(StatusCodes.Status415UnsupportedMediaType, "invalid", $"Parts of an upload are sent as {PartType}.");
        }

        if (!long.TryParse(http.Request.Headers["Upload-Offset"], NumberStyles.None, CultureInfo.InvariantCulture, out var offset))
        {
            return Problems.Invalid("A part says where it begins (Upload-Offset).");
        }

        if (await store.FindAsync(upload, ct) is not { } found)
        {
            return Problems.Gone("upload");
        }

        return found.Number is not null
            ? (offset == found.Bytes ? Answer(http, found, offset, StatusCodes.Status204NoContent) : Problems.Json(StatusCodes.Status409Conflict, "elsewhere", "This upload is complete."))
            : await WriteAsync(http, found, offset, carriesBytes: true, StatusCodes.Status204NoContent, store, writer, taker, ct);
    }

    static async Task<IResult> End(UploadId upload, UploadStore store, CancellationToken ct) => await store.EndAsync(upload, ct) switch
    {
        UploadEnd.Ended => TypedResults.NoContent(),
        UploadEnd.Complete => Problems.Json(StatusCodes.Status409Conflict, "complete", "This upload is complete; what it brought is taken back in its intake."),
        _ => Problems.Gone("upload"),
    };

    static async Task<IResult> WriteAsync(HttpContext http, Upload upload, long offset, bool carriesBytes, int status, UploadStore store, UploadWriter writer, UploadTaker taker, CancellationToken ct)
    {
        if (!TryReadChecksum(http.Request.Headers["Upload-Checksum"].ToString(), out var checksum))
        {
            return Problems.Invalid("The checksum names an algorithm that this server does not know, or is no Base64.");
        }

        var (outcome, stands) = await writer.WriteAsync(upload, offset, carriesBytes ? http.Request.Body : Stream.Null, checksum, ct);
        switch (outcome)
        {
            case UploadWrite.Elsewhere:
                http.Response.Headers["Upload-Offset"] = Text(stands);
                return Problems.Json(StatusCodes.Status409Conflict, "elsewhere", "This upload stands somewhere else; ask where before going on.");
            case UploadWrite.Gone:
                return Problems.Gone("upload");
            case UploadWrite.TooMuch:
                return Problems.Json(StatusCodes.Status413PayloadTooLarge, "too-large", "More bytes came than the upload said it has.");
            case UploadWrite.WrongChecksum:
                return Problems.Json(ChecksumMismatch, "checksum", "The part does not fit its checksum; it was not kept.");
        }

        // Ended meanwhile, by somebody or with its intake: nobody is told that it was written.
        if (stands == upload.Bytes && !await TakeAsync(http, upload, taker, CancellationToken.None) && await store.FindAsync(upload.Id, CancellationToken.None) is null)
        {
            return Problems.Gone("upload");
        }

        return Answer(http, upload, stands, status);
    }

    /// <summary>Takes in an upload whose last byte is here. Says in the answer which line of the intake it became.</summary>
    static async Task<bool> TakeAsync(HttpContext http, Upload upload, UploadTaker taker, CancellationToken ct)
    {
        if (await taker.TakeAsync(upload, ct) is not { } file)
        {
            return false;
        }

        http.Response.Headers["Jovitar-Number"] = Text(file.Number);
        http.Response.Headers["Jovitar-Outcome"] = file.Outcome;
        return true;
    }

    static StatusCodeHttpResult Answer(HttpContext http, Upload upload, long offset, int status)
    {
        http.Response.Headers["Upload-Offset"] = Text(offset);
        http.Response.Headers["Upload-Expires"] = upload.Expires.ToString("R", CultureInfo.InvariantCulture);
        return TypedResults.StatusCode(status);
    }

    static string Text(long number) => number.ToString(CultureInfo.InvariantCulture);

    /// <summary>Reads <c>key base64,key base64</c>; null when it is not written so.</summary>
    static Dictionary<string, string>? Metadata(string text)
    {
        var read = new Dictionary<string, string>(StringComparer.Ordinal);
        foreach (var pair in text.Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries))
        {
            var cut = pair.IndexOf(' ', StringComparison.Ordinal);
            var value = new byte[pair.Length];
            if (!Convert.TryFromBase64String(cut < 0 ? "" : pair[(cut + 1)..], value, out var length))
            {
                return null;
            }

            read[cut < 0 ? pair : pair[..cut]] = Encoding.UTF8.GetString(value, 0, length);
        }

        return read;
    }

    static bool TryReadChecksum(string text, out PartChecksum? checksum)
    {
        checksum = null;
        if (text.Length == 0)
        {
            return true;
        }

        var cut = text.IndexOf(' ', StringComparison.Ordinal);
        var value = new byte[text.Length];
        if (cut < 0 || !Checksums.TryGetValue(text[..cut], out var name) || !Convert.TryFromBase64String(text[(cut + 1)..], value, out var length))
        {
            return false;
        }

        checksum = new PartChecksum(name, value[..length]);
        return true;
    }
}
