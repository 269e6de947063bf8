using System.Security.Cryptography;
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
    /// <summary>Makes one of a file and keeps it.</summary>
    /// <returns>Null where the file is no picture that can be one.</returns>
    public async Task<Logo?> BringAsync(byte[] file, CancellationToken ct)
    {
        if (LogoPicture.Make(file, Logo.MostPixels, Logo.Longest) is not { } made)
        {
            return null;
        }

        var name = Convert.ToHexStringLower(SHA256.HashData(made.Bytes));
        await using var command = db.Command(
            """
            insert into logo (picture, webp, width, height)
            values (@name, @webp, @width, @height)
                on conflict do nothing
            """,
            ("name", name), ("webp", made.Bytes), ("width", made.Width), ("height", made.Height));
        await command.ExecuteNonQueryAsync(ct);
        return new Logo(name, made.Width, made.Height, Logo.UsualHigh);
    }

    /// <summary>One that was brought, by its name and as large as it is; null for any other.</summary>
    public async Task<Logo?> KnownAsync(Logo logo, CancellationToken ct)
    {
        await using var command = db.Command("select width, height from logo where picture = @name", ("name", logo.Picture));
        return await command.FirstAsync(r => logo with { Width = r.Get<int>("width"), Height = r.Get<int>("height") }, ct);
    }

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
