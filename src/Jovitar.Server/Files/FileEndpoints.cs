using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Files;
using Jovitar.Core.Pages;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Storing;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Files;

/// <summary>Some files; <c>After</c> asks for the next ones, or is null at the end.</summary>
internal sealed record FileList(IReadOnlyList<FileLine> Files, FileId? After);

/// <summary>Files for staff: listed, attached to albums, saved.</summary>
internal static class FileEndpoints
{
    const int AtOnce = 200;

    public static void MapFiles(this IEndpointRouteBuilder api)
    {
        var files = api.MapGroup("/files").RequireAuthorization(Security.Editors).WithTags("Files");
        files.MapGet("", List).WithSummary("Files, the latest first, or those of an album");
        files.MapPut("/{file}/albums/{album}", Attach).WithSummary("Attaches a file to an album");
        files.MapDelete("/{file}/albums/{album}", Detach).WithSummary("Takes a file off an album");
        files.MapGet("/named", Named).WithSummary("Files by their ids, those that are there");
        files.MapGet("/{file}/content", Content).WithSummary("The file as it came in").ExcludeFromDescription();
    }

    static async Task<Ok<FileList>> List(AlbumId? album, string? kind, string? typed, FileId? after, FileStore store, CancellationToken ct)
    {
        var files = await store.ListAsync(album, kind, typed?.Trim() ?? "", after, AtOnce, ct);
        return TypedResults.Ok(new FileList(files, files.Count == AtOnce ? files[^1].Id : null));
    }

    static async Task<Results<Ok<Done>, NotFound<Problem>>> Attach(FileId file, AlbumId album, Actor who, FileStore store, CancellationToken ct) =>
        await store.AttachAsync(who, file, album, ct) is { } done ? TypedResults.Ok(done) : Problems.Gone("file or album");

    static async Task<Results<Ok<Done>, NotFound<Problem>>> Detach(FileId file, AlbumId album, Actor who, FileStore store, CancellationToken ct) =>
        await store.DetachAsync(who, file, album, ct) is { } done ? TypedResults.Ok(done) : Problems.Gone("file or album");

    /// <param name="id">As many as a block of a page may offer; more are left out.</param>
    static async Task<Ok<IReadOnlyList<NamedFile>>> Named(FileId[] id, FileStore store, CancellationToken ct) =>
        TypedResults.Ok<IReadOnlyList<NamedFile>>([.. (await store.NamedAsync([.. id.Take(FilesBlock.Most)], ct)).Values]);

    /// <summary>A file that stands on a page, for visitors; and for staff, whose previews show what visitors do not see yet.</summary>
    public static void MapFilesOfPages(this IEndpointRouteBuilder app) =>
        app.MapGet("/file/{file:guid}/{name}", (FileId file, string name, HttpContext http, FileStore store, AccessStore access, SightStore sights, Storage storage, CancellationToken ct) => SendAsync(file, Right.See, show: true, http, store, access, sights, storage, ct))
            .AllowAnonymous().ExcludeFromDescription();

    static Task<Results<FileAnswer, NotFound<Problem>>> Content(FileId file, bool? show, HttpContext http, FileStore store, AccessStore access, SightStore sights, Storage storage, CancellationToken ct) =>
        SendAsync(file, Right.SeeOriginal, show == true, http, store, access, sights, storage, ct);

    /// <summary>Sound, video and PDF may be shown in place when asked for so; everything else is only ever saved. Nothing in it may run.</summary>
    static async Task<Results<FileAnswer, NotFound<Problem>>> SendAsync(FileId file, Right right, bool show, HttpContext http, FileStore store, AccessStore access, SightStore sights, Storage storage, CancellationToken ct)
    {
        // Staff may have any; a visitor is one whom the gates of a page let in on which it stands.
        var sight = await sights.OfAsync(http, ct);
        if (await access.FileAsync(file, sight, ct) is not { } thing || !(access.May(sight.IsSeenAs ? sight.Viewer : http.User.Viewer(), right, thing) || access.May(sight.Viewer, right, thing))
            || await store.FindAsync(file, ct) is not { } found || await storage.FindAsync(StorageKeys.Original(found.Hash)) is not { } kept)
        {
            return Problems.Gone("file");
        }

        var inline = show && FileKinds.MayShow(found.Kind);
        http.Response.Headers.ContentSecurityPolicy = inline && found.Kind == FileKind.Pdf ? Security.OfPdf : "default-src 'none'; media-src 'self'; style-src 'unsafe-inline'; sandbox";
        http.Response.Headers.CacheControl = "private, no-cache";
        return storage.Answer(kept, inline ? found.MediaType : "application/octet-stream", inline ? null : found.FileName);
    }
}
