using Jovitar.Core;
using Jovitar.Core.Corrections;
using Jovitar.Core.Sales.Invoicing;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Core.Sales.Papers;
using Jovitar.Core.Themes;
using Jovitar.Imaging;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Storing;
using Jovitar.Server.Sales.Ordering;
using Jovitar.Server.Themes;

namespace Jovitar.Server.Sales.Papers;

/// <summary>What is printed on paper to make and to pack orders, in the colours of the site.</summary>
internal sealed class PaperStore(OrderListStore orders, ShopStore shops, SettingsStore settings, ThemeStore themes, Storage storage, TimeProvider clock)
{
    /// <summary>Large enough for what is two centimetres wide, pixels.</summary>
    const int Edge = 360;

    /// <summary>The packing slip of an order.</summary>
    public async Task<byte[]> SlipAsync(KeptOrder order, CancellationToken ct)
    {
        var pictures = await PicturesAsync([order], ct);
        return PackingSlip.Draw((await settings.ReadAsync(ct)).Title, await AccentAsync(ct), order, [.. order.Placed.Lines.Select(l => Of(l, pictures))]);
    }

    /// <summary>What is to be made and gathered for the orders that are to be printed by now.</summary>
    public async Task<byte[]> PickListAsync(CancellationToken ct)
    {
        var of = await orders.ToPrintAsync(ct);
        var pictures = await PicturesAsync(of, ct);
        return PickPaper.Draw(
            (await settings.ReadAsync(ct)).Title, await AccentAsync(ct), PaperFormat.Of((await shops.ReadAsync(ct)).Shop.Postage.Home), clock.GetUtcNow(), of.Count, PickList.Of(of.Select(o => (o.Number, o.Placed))), picked => Of(picked.Of, pictures));
    }

    /// <summary>What draws invoices and credit notes.</summary>
    public async Task<Func<Invoice, byte[]>> InvoicesAsync(CancellationToken ct)
    {
        var accent = await AccentAsync(ct);
        return invoice => InvoicePaper.Draw(invoice, accent);
    }

    /// <summary>The site's accent, as it stands on paper: that of its light colours.</summary>
    async Task<Colour> AccentAsync(CancellationToken ct) => Colour.Parse((await themes.PublishedAsync(ct)).Look().Light.Accent) ?? Colour.Ink;

    static PaperPicture? Of(PlacedLine line, IReadOnlyDictionary<PhotoId, (OrderedPhoto Photo, byte[] Jpeg)> pictures)
    {
        if (!pictures.TryGetValue(line.Photo, out var found))
        {
            return null;
        }

        var size = new PixelSize(found.Photo.Width, found.Photo.Height);
        return new PaperPicture(found.Jpeg, size, line.FitOn(size, found.Photo.Focus) is { } fit ? FitCrop.Of(fit, size) : null);
    }

    /// <summary>Small pictures of what was ordered and is still here, made of renditions.</summary>
    async Task<IReadOnlyDictionary<PhotoId, (OrderedPhoto Photo, byte[] Jpeg)>> PicturesAsync(IEnumerable<KeptOrder> of, CancellationToken ct)
    {
        var pictures = new Dictionary<PhotoId, (OrderedPhoto Photo, byte[] Jpeg)>();
        foreach (var photo in (await orders.PhotosAsync(of.SelectMany(o => o.Placed.Lines).Where(l => !l.Option.IsFile).Select(l => l.Photo), ct)).Values)
        {
            if (await JpegAsync(photo, ct) is { } jpeg)
            {
                pictures[photo.Id] = (photo, jpeg);
            }
        }

        return pictures;
    }

    async Task<byte[]?> JpegAsync(OrderedPhoto photo, CancellationToken ct)
    {
        if (photo.Renditions.Count == 0 || await storage.LocalAsync(StorageKeys.Rendition(photo.Picture, photo.Renditions.Where(w => w >= Edge).DefaultIfEmpty(photo.Renditions.Max()).Min())) is not { } local)
        {
            return null;
        }

        using var rendition = local;
        try
        {
            return await Task.Run(() => PrintPicture.Small(rendition.Path, Edge), ct);
        }
        catch (PictureException)
        {
            return null;
        }
    }
}
