using System.Text.Json;
using System.Text.Json.Serialization;
using Jovitar.Core.Acts;
using Jovitar.Core.Watermarks;
using Jovitar.Imaging;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Watermarks;

/// <summary>The watermark, as staff have it.</summary>
/// <param name="Edited">Counts the edits; expected by the next write.</param>
internal sealed record OpenedWatermark(Watermark Watermark, long Edited);

/// <summary>The site's watermark, and what it is drawn from.</summary>
internal sealed class WatermarkStore(NpgsqlDataSource db, ActRunner acts)
{
    static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web) { Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) } };

    readonly SmallPictures pictures = new(db, "watermark_picture");

    /// <summary>The one that was drawn last, and by which key.</summary>
    Tuple<string, Stamp>? drawn;

    static Watermark Parse(string json) => JsonSerializer.Deserialize<Watermark>(json, Json)!;

    public async Task<OpenedWatermark> ReadAsync(CancellationToken ct)
    {
        await using var command = db.CreateCommand("select settings::text as settings, edited from watermark");
        return (await command.FirstAsync(r => new OpenedWatermark(Parse(r.Get<string>("settings")), r.Get<long>("edited")), ct))!;
    }

    /// <summary>What is made into pictures now.</summary>
    /// <param name="key">Of the watermark that is wanted.</param>
    /// <returns>Null when it is another one by now.</returns>
    public async ValueTask<Stamp?> StampAsync(string key, CancellationToken ct)
    {
        if (Volatile.Read(ref drawn) is { } there && there.Item1 == key)
        {
            return there.Item2;
        }

        var (watermark, _) = await ReadAsync(ct);
        if (watermark.Key() != key || await DrawAsync(watermark, ct) is not { } stamp)
        {
            return null;
        }

        await using var note = db.Command("insert into watermark_made (key) values (@key) on conflict do nothing", ("key", key));
        await note.ExecuteNonQueryAsync(ct);
        Volatile.Write(ref drawn, Tuple.Create(key, stamp));
        return stamp;
    }

    /// <summary>Draws a watermark, whoever has it yet; null where there is nothing of it to be seen.</summary>
    public async Task<Stamp?> DrawAsync(Watermark watermark, CancellationToken ct)
    {
        var picture = watermark is { Kind: WatermarkKind.Picture, Picture.Picture: var name } ? await pictures.BytesAsync(name, ct) : null;
        return await Task.Run(() => Stamp.Draw(watermark, picture), ct);
    }

    /// <summary>Makes a picture for it of a file and keeps it.</summary>
    /// <returns>Null where the file is no picture that can be one.</returns>
    public async Task<WatermarkPicture?> BringAsync(byte[] file, CancellationToken ct)
    {
        if (LogoPicture.Make(file, WatermarkPicture.MostPixels, WatermarkPicture.Longest) is not { } made)
        {
            return null;
        }

        return new WatermarkPicture(await pictures.KeepAsync(made, ct), made.Width, made.Height);
    }

    /// <summary>One that was brought, by its name and as large as it is; null for any other.</summary>
    public async Task<WatermarkPicture?> KnownAsync(string picture, CancellationToken ct) =>
        await pictures.SizeAsync(picture, ct) is var (width, height) ? new WatermarkPicture(picture, width, height) : null;

    /// <summary>Makes it another one; visitors who get photos with it have it at once.</summary>
    /// <returns>What was done; null when somebody else has changed it since it was read.</returns>
    public async Task<Done?> WriteAsync(Actor who, Watermark watermark, long expected, CancellationToken ct)
    {
        var (written, done) = await acts.RunAsync(
            who, ActKind.Watermark,
            async act =>
            {
                await using var write = act.Command(
                    """
                    update watermark
                       set settings = @settings::jsonb, key = @key, edited = edited + 1
                     where edited = @expected
                    returning id
                    """,
                    ("settings", JsonSerializer.Serialize(watermark, Json)), ("key", watermark.Key()), ("expected", expected));
                if (await write.ExecuteScalarAsync(ct) is not Guid)
                {
                    return act.Drop(false);
                }

                act.Says = _ => watermark.IsNothing ? "Took the watermark away." : "Changed the watermark.";
                return true;
            },
            ct);
        return written ? done : null;
    }
}
