using System.Security.Cryptography;
using Jovitar.Imaging;
using Npgsql;

namespace Jovitar.Server.Platform;

/// <summary>Small pictures that people bring, kept in a table of their own and named by their bytes: what names one that was let go still finds it.</summary>
/// <param name="table">With the columns <c>picture</c>, <c>webp</c>, <c>width</c> and <c>height</c>.</param>
internal sealed class SmallPictures(NpgsqlDataSource db, string table)
{
    /// <summary>Keeps one.</summary>
    /// <returns>Its name: the SHA-256 of its bytes, in small hexadecimal digits.</returns>
    public async Task<string> KeepAsync(SmallPicture made, CancellationToken ct)
    {
        var name = Convert.ToHexStringLower(SHA256.HashData(made.Bytes));
        await using var command = db.Command(
            $"""
            insert into {table} (picture, webp, width, height)
            values (@name, @webp, @width, @height)
                on conflict do nothing
            """,
            ("name", name), ("webp", made.Bytes), ("width", made.Width), ("height", made.Height));
        await command.ExecuteNonQueryAsync(ct);
        return name;
    }

    /// <summary>How large one is, pixels; null when there is none of that name.</summary>
    public async Task<(int Width, int Height)?> SizeAsync(string name, CancellationToken ct)
    {
        await using var command = db.Command($"select width, height from {table} where picture = @name", ("name", name));
        return await command.FirstAsync(r => Tuple.Create(r.Get<int>("width"), r.Get<int>("height")), ct) is var (width, height) ? (width, height) : null;
    }

    /// <summary>The bytes of one, WebP; null when there is none of that name.</summary>
    public async Task<byte[]?> BytesAsync(string name, CancellationToken ct)
    {
        await using var command = db.Command($"select webp from {table} where picture = @name", ("name", name));
        return (byte[]?)await command.ExecuteScalarAsync(ct);
    }
}
