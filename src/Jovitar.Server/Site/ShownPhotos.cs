using Jovitar.Core;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Site;

/// <summary>Photos by their ids, as far as a visitor comes upon them anywhere on the site.</summary>
internal sealed class ShownPhotos(NpgsqlDataSource db, SitePhotos visitors)
{
    /// <summary>Those of some that they see, in the order given.</summary>
    public async Task<IReadOnlyList<SitePhoto>> OfAsync(IReadOnlyList<PhotoId> photos, Sight sight, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select {SitePhotos.Columns}, {AccessStore.PhotoOnColumns}
              from unnest(@photos) with ordinality as o(photo, n)
              join photo as p on p.id = o.photo
             {AccessStore.PhotoShownOn}
             order by o.n
            """,
            ("photos", photos.Values()), ("shut", sight.Shut), ("marking", sight.Marking));
        return [.. (await command.AllAsync(r => visitors.Read(r, AccessStore.On(r), sight), ct)).OfType<SitePhoto>()];
    }
}
