using Jovitar.Core;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Jovitar.Server.Intake.Watching;

/// <summary>Folders that are watched, and those that could be: names below the one place on the server where watching is allowed.</summary>
internal sealed record WatchedFolders(IReadOnlyList<WatchedFolder> Folders, string Root, IReadOnlyList<string> Choices);

/// <param name="Folder">A folder below the root, as <see cref="WatchedFolders.Choices"/> names it; empty for the root itself.</param>
/// <param name="Becomes">What folder names become: empty, album or category.</param>
public sealed record NewWatchedFolder([Words(1000)] string Folder, bool Subfolders, [OneOf("", "album", "category")] string Becomes);

/// <summary>Choosing folders on the server that are watched.</summary>
internal static class WatchedFolderEndpoints
{
    const int MostChoices = 200;

    public static void MapWatchedFolders(this IEndpointRouteBuilder api)
    {
        var folders = api.MapGroup("/watched-folders").RequireAuthorization(Security.Editors).WithTags("Intake");
        folders.MapGet("", List).WithSummary("Folders that are watched, and those that could be");
        folders.MapPost("", Add).WithSummary("Watches a folder");
        folders.MapDelete("/{folder}", Remove).WithSummary("Stops watching a folder; what it brought stays");
    }

    static async Task<Ok<WatchedFolders>> List(WatchedFolderStore store, WatchSettings settings, CancellationToken ct)
    {
        var watched = await store.ListAsync(ct);
        var taken = watched.Select(w => w.Path).ToHashSet();
        var choices = Directory.Exists(settings.Root)
            ? new DirectoryInfo(settings.Root).EnumerateDirectories("*", new EnumerationOptions { RecurseSubdirectories = true, MaxRecursionDepth = 3, IgnoreInaccessible = true })
                .Where(d => !taken.Contains(d.FullName)).Select(d => Path.GetRelativePath(settings.Root, d.FullName)).Order(StringComparer.CurrentCulture).Take(MostChoices).ToArray()
            : [];
        return TypedResults.Ok(new WatchedFolders(watched, settings.Root, choices));
    }

    static async Task<Results<NoContent, BadRequest<Problem>, Conflict<Problem>>> Add(NewWatchedFolder body, Actor who, WatchedFolderStore store, WatchSettings settings, CancellationToken ct)
    {
        var root = Path.TrimEndingDirectorySeparator(Path.GetFullPath(settings.Root));
        // “Club computer” and “Club computer/” are one folder.
        var path = Path.TrimEndingDirectorySeparator(Path.GetFullPath(Path.Combine(root, body.Folder)));
        if ((path != root && !path.StartsWith(root + Path.DirectorySeparatorChar, StringComparison.Ordinal)) || !Directory.Exists(path) || IsLink(root, path))
        {
            return Problems.Invalid($"Only folders in {root} can be watched, and this is none.", new Dictionary<string, string> { ["folder"] = "Choose one of the folders listed." });
        }

        return await store.AddAsync(path, body.Subfolders, body.Becomes, who.Name, ct) ? TypedResults.NoContent() : Problems.Taken("This folder is watched already.", "folder");
    }

    /// <summary>Whether a link anywhere on the way leads out of the root.</summary>
    static bool IsLink(string root, string path)
    {
        for (var at = path; at.Length > root.Length; at = Path.GetDirectoryName(at)!)
        {
            if (new DirectoryInfo(at).LinkTarget is not null)
            {
                return true;
            }
        }

        return false;
    }

    static async Task<NoContent> Remove(WatchedFolderId folder, WatchedFolderStore store, CancellationToken ct)
    {
        await store.RemoveAsync(folder, ct);
        return TypedResults.NoContent();
    }
}
