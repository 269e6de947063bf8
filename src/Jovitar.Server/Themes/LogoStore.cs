using Jovitar.Core.Access;
using Jovitar.Core.Themes;
using Jovitar.Imaging;
using Jovitar.Server.Access;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Themes;

/// <summary>Pictures for the site's head. One by itself changes nothing: it is there for a look to name it.</summary>
internal sealed class LogoStore(NpgsqlDataSource db, AccessStore access)
{
    readonly SmallPictures pictures = new(db, "logo");

    /// <summary>Makes one of a file and keeps it.</summary>
    /// <returns>Null where the file is no picture that can be one.</returns>
    public async Task<Logo?> BringAsync(byte[] file, CancellationToken ct)
    {
        if (LogoPicture.Make(file, Logo.MostPixels, Logo.Longest) is not { } made)
        {
            return null;
        }

        return new Logo(await pictures.KeepAsync(made, ct), made.Width, made.Height, Logo.UsualHigh);
    }

    /// <summary>One that was brought, by its name and as large as it is; null for any other.</summary>
    public async Task<Logo?> KnownAsync(Logo logo, CancellationToken ct) =>
        await pictures.SizeAsync(logo.Picture, ct) is var (width, height) ? logo with { Width = width, Height = height } : null;

    /// <summary>The bytes of one that a viewer may see, WebP, and whether everybody may.</summary>
    public async Task<(byte[] Bytes, bool ForEverybody)?> FindAsync(string name, Viewer viewer, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            select l.webp, coalesce(t.published -> 'logo' ->> 'picture' = l.picture, false) as published
              from logo as l
             cross join theme as t
             where l.picture = @name
            """,
            ("name", name));
        return await command.FirstAsync(r => Tuple.Create(r.Get<byte[]>("webp"), new LogoThing(r.Get<bool>("published"))), ct) is var (bytes, thing) && access.May(viewer, Right.See, thing)
            ? (bytes, access.May(Viewer.Nobody, Right.See, thing))
            : null;
    }
}
