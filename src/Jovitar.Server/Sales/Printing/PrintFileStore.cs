using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Serialization;
using Jovitar.Core;
using Jovitar.Core.Corrections;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Core.Sales.Printing;
using Jovitar.Imaging;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Storing;
using Jovitar.Server.Sales.Ordering;
using Npgsql;

namespace Jovitar.Server.Sales.Printing;

/// <summary>The sheet that goes with print files, as programs read it.</summary>
/// <param name="Site">Whose orders they are.</param>
internal sealed record PrintsTold(string Site, DateTimeOffset Made, IReadOnlyList<PrintTold> Prints);

/// <summary>The files that orders are printed from: made when they are asked for, from originals that lie in the bin, too.</summary>
internal sealed class PrintFileStore(NpgsqlDataSource db, ShopStore shops, SettingsStore settings, Storage storage, TimeProvider clock)
{
    /// <summary>To be read by people, too: letters stand as they are.</summary>
    static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web) { WriteIndented = true, Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping, Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) } };

    /// <summary>A photo that is printed.</summary>
    /// <param name="Size">As it is corrected.</param>
    sealed record Printed(PhotoId Id, string Hash, string? Correction, PixelSize Size);

    /// <summary>A line of an order that is printed, and the file it is printed from; null where its photo was removed for good.</summary>
    sealed record Print(PrintTold Told, Printed? Photo, PrintFile? File);

    /// <summary>Sends the print files of orders while they are made, a folder each where they are several, and behind them the sheet that tells of them.</summary>
    public Task ZipAsync(IReadOnlyList<KeptOrder> of, Stream to, CancellationToken ct) => ZipOut.SendAsync(
        to,
        async zip =>
        {
            var (told, rule) = (new List<PrintTold>(), (await shops.ReadAsync(ct)).Shop.Prints);
            foreach (var print in await PrintsAsync(of, rule, ct))
            {
                told.Add(await AddAsync(zip, print, of.Count > 1 ? $"{print.Told.Order}/" : "", ct));
            }

            await zip.TextAsync("prints.json", JsonSerializer.SerializeToUtf8Bytes(new PrintsTold((await settings.ReadAsync(ct)).Title, clock.GetUtcNow(), told), Json), ct);
            using var table = new MemoryStream();
            await using (var csv = new CsvRows(table))
            {
                await csv.AddAsync(PrintSheet.Columns);
                foreach (var one in told)
                {
                    await csv.AddAsync(PrintSheet.Cells(one));
                }
            }

            await zip.TextAsync("prints.csv", table.ToArray(), ct);
        },
        ct);

    /// <summary>The file of one line.</summary>
    /// <param name="line">From 1.</param>
    /// <returns>Null where nothing of it is printed, or its photo is not here.</returns>
    public async Task<(string Name, Stream Bytes)?> OneAsync(KeptOrder order, int line, CancellationToken ct) =>
        (await PrintsAsync([order], (await shops.ReadAsync(ct)).Shop.Prints, ct)).FirstOrDefault(p => p.Told.Line == line) is { } print && await MadeAsync(print, ct) is { } bytes ? (print.Told.File, bytes) : null;

    async Task<PrintTold> AddAsync(ZipOut zip, Print print, string folder, CancellationToken ct)
    {
        if (await MadeAsync(print, ct) is not { } made)
        {
            return print.Told with { File = "", Missing = print.Photo is null ? "The photo was removed for good." : "The photo’s file is missing or damaged." };
        }

        await using (made)
        {
            var name = folder + print.Told.File;
            await zip.PackedAsync(name, made, ct);
            return print.Told with { File = name };
        }
    }

    /// <summary>Makes a file, outside memory; null where its photo is not here or is damaged.</summary>
    async Task<Stream?> MadeAsync(Print print, CancellationToken ct)
    {
        if (print is not { Photo: { } photo, File: { } file } || await storage.LocalAsync(StorageKeys.Original(photo.Hash)) is not { } local)
        {
            return null;
        }

        using var original = local;
        var made = storage.OpenScratch();
        try
        {
            await Task.Run(() => PrintPicture.Write(original.Path, photo.Size, CorrectionText.Read(photo.Correction), file, made), ct);
            made.Position = 0;
            return made;
        }
        catch (Exception e)
        {
            await made.DisposeAsync();
            if (e is PictureException)
            {
                return null;
            }

            throw;
        }
    }

    async Task<IReadOnlyList<Print>> PrintsAsync(IReadOnlyList<KeptOrder> orders, PrintRule rule, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            select id, encode(hash, 'hex') as hash, correction::text as correction, width, height
              from photo
             where id = any(@photos) and width > 0
            """,
            ("photos", orders.SelectMany(o => o.Placed.Lines).Select(l => l.Photo).Distinct().Values()));
        var photos = (await command.AllAsync(r => new Printed(new PhotoId(r.Get<Guid>("id")), r.Get<string>("hash"), r.MaybeText("correction"), new PixelSize(r.Get<int>("width"), r.Get<int>("height"))), ct)).ToDictionary(p => p.Id);
        return [.. orders.SelectMany(o => o.Placed.Lines.Index().Where(l => !l.Item.Option.IsFile).Select(l => Of(o, l.Item, l.Index + 1, photos.GetValueOrDefault(l.Item.Photo), rule)))];
    }

    static Print Of(KeptOrder order, PlacedLine line, int number, Printed? photo, PrintRule rule)
    {
        var file = photo is null ? null : PrintFile.Of(line, photo.Size, CorrectionText.Seen(photo.Correction), rule);
        return new Print(PrintTold.Of(order.Number, number, order.Placed, file, rule), photo, file);
    }
}
