using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Corrections;
using Jovitar.Core.Photos;
using Jovitar.Imaging;
using Jovitar.Server.Acts;
using Jovitar.Server.Albums;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Storing;
using Jovitar.Server.Taxonomy;

namespace Jovitar.Server.Corrections;

/// <summary>Prints that lie together on one scan: found, and made photos of their own, which share the scan's original.</summary>
internal sealed class PrintStore(ActRunner acts, Storage storage)
{
    /// <summary>Looks at a scan. Empty when it is one picture, or its original is not there.</summary>
    /// <exception cref="PictureException">It cannot be decoded.</exception>
    public async Task<IReadOnlyList<Correction>> FindAsync(CorrectedPhoto scan, CancellationToken ct)
    {
        if (await storage.LocalAsync(StorageKeys.Original(scan.Hash)) is not { } local)
        {
            return [];
        }

        using var original = local;
        return await Task.Run(
            () =>
            {
                var (rgb, size) = Picture.Small(original.Path, Prints.Side);
                return (IReadOnlyList<Correction>)[.. Prints.Find(rgb, size.Width, size.Height).Select(c => c.Within(scan.Original))];
            },
            ct);
    }

    /// <summary>Makes prints photos of their own, with what is known of the scan: where it belongs, its credit and its rights. One that was cut already is not cut again.</summary>
    public async Task<(IReadOnlyList<PhotoId> Made, Done Done)> CutAsync(Actor who, CorrectedPhoto scan, IReadOnlyList<Correction> prints, CancellationToken ct) => await acts.RunAsync(
        who, ActKind.CutPrints,
        async act =>
        {
            var (albums, categories, tags) = await PlacesAsync(act, scan.Id, ct);
            await act.HoldAsync("tag", tags.Values(), ct);
            await act.HoldAsync("category", categories.Values(), ct);
            await act.LockAsync("album", albums.Values(), ct);
            await act.LockAsync("photo", [scan.Id.Value], ct);
            var made = await MakeAsync(act, scan, prints, ct);
            act.Says = _ => ActWords.CutPrints(made.Count, scan.Name);
            if (made.Count == 0)
            {
                return act.Drop(made);
            }

            await TagStore.AddAsync(act, made, tags, Said.Person, ct);
            await CategoryStore.AddPhotosAsync(act, made, categories, Said.Person, ct);
            foreach (var album in albums)
            {
                await AlbumPhotoStore.PutArrivedAsync(act, album, made, Said.Person, ct);
            }

            return made;
        },
        ct);

    /// <summary>Where a photo belongs.</summary>
    sealed record Places(IReadOnlyList<AlbumId> Albums, IReadOnlyList<CategoryId> Categories, IReadOnlyList<TagId> Tags);

    static async Task<Places> PlacesAsync(Act act, PhotoId scan, CancellationToken ct)
    {
        await using var read = act.Command(
            """
            select array(select album from album_photo where photo = @id order by album) as albums,
                   array(select category from photo_category where photo = @id order by category) as categories,
                   array(select tag from photo_tag where photo = @id order by tag) as tags
            """,
            ("id", scan.Value));
        return (await read.FirstAsync(
            r => new Places([.. r.Get<Guid[]>("albums").Select(a => new AlbumId(a))], [.. r.Get<Guid[]>("categories").Select(c => new CategoryId(c))], [.. r.Get<Guid[]>("tags").Select(t => new TagId(t))]), ct))!;
    }

    static async Task<IReadOnlyList<PhotoId>> MakeAsync(Act act, CorrectedPhoto scan, IReadOnlyList<Correction> prints, CancellationToken ct)
    {
        // Two who cut one scan at once wait for each other at its row; the numbers that follow are the second's to read then.
        await using var insert = act.Command(
            """
            insert into photo (
                   id, hash, part, correction, file_name, media_type, bytes, own_width, own_height, state, stage, arrived, ready_at,
                   credit, creator, copyright, licence, origin, place, taken, taken_offset_minutes, said,
                   clearance, cleared_by, cleared_until, own_gate)
            select w.id, s.hash, b.last + w.n, w.correction::jsonb,
                   regexp_replace(s.file_name, '(\.[^.]*)?$', '-' || (b.last + w.n) || '\1'), s.media_type, s.bytes, s.own_width,
                   s.own_height, 'ready', 1, @now, @now, s.credit, s.creator, s.copyright, s.licence, s.origin, s.place, s.taken,
                   s.taken_offset_minutes, s.said - '{title,caption,alt,people,latitude,link,rating}'::text[],
                   -- Whom a print shows nobody has said yet: where somebody on the scan says no, none of it is shown.
                   case s.people_say when 'no' then 'not_cleared' else s.clearance end, s.cleared_by, s.cleared_until, s.own_gate
              from photo as s
             cross join lateral (select coalesce(max(o.part), 0) as last from photo as o where o.hash = s.hash) as b
             cross join lateral (
               select c.id, c.correction, row_number() over (order by c.place) as n
                 from unnest(@ids, @corrections) with ordinality as c(id, correction, place)
                where not exists (
                  select
                    from photo as o
                   where o.hash = s.hash and o.binned is null and o.correction ->> 'key' = c.correction::jsonb ->> 'key')) as w
             where s.id = @scan and s.binned is null
            returning id
            """,
            ("scan", scan.Id.Value), ("now", act.Now), ("ids", prints.Select(_ => Guid.CreateVersion7(act.Now)).Order().ToArray()), ("corrections", prints.Select(p => CorrectionText.Write(p, scan.Original)).ToArray()));
        var made = await insert.AllAsync(r => new PhotoId(r.GetGuid(0)), ct);
        await act.RunAsync("notify photo_waiting", ct);
        return made;
    }
}
