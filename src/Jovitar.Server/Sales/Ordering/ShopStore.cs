using System.Text.Json;
using Jovitar.Core.Acts;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Sales.Ordering;

/// <summary>How the site sells, as staff have it.</summary>
/// <param name="Edited">Counts the edits; expected by the next write.</param>
internal sealed record OpenedShop(Shop Shop, long Edited);

/// <summary>How the site sells.</summary>
internal sealed class ShopStore(NpgsqlDataSource db, ActRunner acts)
{
    const string Now = "select settings::text as settings, is_open, edited from shop";

    /// <summary>What is written is whole enough for a shop that is closed. One that is open and lacks something, because what was said of it was taken back, counts as closed.</summary>
    static OpenedShop Read(NpgsqlDataReader r)
    {
        var said = JsonSerializer.Deserialize<ShopSaid>(r.Get<string>("settings"), PriceStore.Json)!;
        var closed = (said with { IsOpen = false }).Read().Shop ?? throw new InvalidDataException($"The shop’s settings cannot be read: {said}");
        return new OpenedShop(closed with { IsOpen = r.Get<bool>("is_open") && (closed with { IsOpen = true }).Fault() is null }, r.Get<long>("edited"));
    }

    public async Task<OpenedShop> ReadAsync(CancellationToken ct)
    {
        await using var command = db.Command(Now);
        return (await command.FirstAsync(Read, ct))!;
    }

    /// <summary>Makes it another; visitors have it at once.</summary>
    /// <returns>What was done; null when somebody else has changed it since it was read.</returns>
    public async Task<Done?> WriteAsync(Actor who, Shop shop, long expected, CancellationToken ct)
    {
        var (written, done) = await acts.RunAsync(
            who, ActKind.Shop,
            async act =>
            {
                await using var find = act.Command($"{Now} where edited = @expected for no key update", ("expected", expected));
                if (await find.FirstAsync(Read, ct) is not { } before)
                {
                    return act.Drop(false);
                }

                act.Says = _ => OrderWords.Changed(before.Shop, shop);
                await act.RunAsync(
                    "update shop set settings = @settings::jsonb, is_open = @open, edited = edited + 1", ct,
                    ("settings", JsonSerializer.Serialize(ShopSaid.Of(shop) with { IsOpen = false }, PriceStore.Json)), ("open", shop.IsOpen));
                return true;
            },
            ct);
        return written ? done : null;
    }
}
