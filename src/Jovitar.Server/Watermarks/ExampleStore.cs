using Jovitar.Core;
using Jovitar.Core.Photos;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Storing;
using Npgsql;

namespace Jovitar.Server.Watermarks;

/// <summary>Photos of the library on which a watermark can be looked at.</summary>
internal sealed class ExampleStore(NpgsqlDataSource db)
{
    /// <summary>The latest of so many, one of each shape.</summary>
    const int Looked = 500;

    /// <summary>A lying one, one that does not lie, and a long one, as far as there are such, in this order.</summary>
    public async Task<IReadOnlyList<WatermarkExample>> ListAsync(CancellationToken ct)
    {
        await using var command = db.Command(
            """
            with latest as (
              select id, coalesce(nullif(title, ''), file_name) as name, width, height, arrived,
                     case when width >= 2 * height then 3
                          when width > 1.1 * height then 1
                          else 2 end as shape
                from photo
               where state = 'ready' and stage > 0 and binned is null
               order by arrived desc, id desc
               limit @looked)
            select distinct on (shape) id, name, width, height from latest order by shape, arrived desc, id desc
            """,
            ("looked", Looked));
        return await command.AllAsync(r => new WatermarkExample(new PhotoId(r.Get<Guid>("id")), r.Get<string>("name"), r.Get<int>("width"), r.Get<int>("height")), ct);
    }

    /// <summary>Where a rendition of a photo is stored, without watermark: of the width, or the nearest beneath it that photos of its size have.</summary>
    /// <returns>Null when there is no such photo.</returns>
    public async Task<string?> RenditionAsync(PhotoId photo, int width, CancellationToken ct)
    {
        await using var command = db.Command("select picture, width, stage from photo where id = @photo and stage > 0 and binned is null", ("photo", photo.Value));
        return await command.FirstAsync(r => Tuple.Create(r.Get<string>("picture"), r.Get<int>("width"), r.Get<short>("stage")), ct) is var (picture, wide, stage)
            ? StorageKeys.Rendition(picture, Renditions.There(stage, wide).LastOrDefault(w => w <= width, Renditions.Sheet))
            : null;
    }
}
