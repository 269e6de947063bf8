using Jovitar.Core;
using Jovitar.Core.Corrections;
using Jovitar.Core.Photos;
using Jovitar.Core.Sales;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Sales;

/// <summary>An option at the head of a fit list.</summary>
/// <param name="Offered">Whether the list offers it at all.</param>
/// <param name="Here">Whether it is offered in this sales gallery.</param>
internal sealed record FitOption(Guid Id, string Called, string Price, bool Offered, bool Here, OptionFits Fits);

/// <summary>The part of a picture that is printed, in shares of its width and height from the upper left corner.</summary>
internal sealed record FitCrop(double X, double Y, double Width, double Height)
{
    public static FitCrop Of(PrintFit fit, PixelSize photo) =>
        new(Math.Round(fit.Crop.X / photo.Width, 4), Math.Round(fit.Crop.Y / photo.Height, 4), Math.Round(fit.Crop.Width / photo.Width, 4), Math.Round(fit.Crop.Height / photo.Height, 4));
}

/// <summary>Whether an option is offered of a photo, and how the photo fits it.</summary>
/// <param name="Crop">Null where nothing is printed.</param>
/// <param name="Lost">The share of the picture that is cut off, 0 to 1; null where nothing is printed.</param>
/// <param name="Round">The share that goes round the edges of a wrap.</param>
/// <param name="PixelsPerInch">Null where nothing is printed.</param>
/// <param name="Sentence">What the photo's size comes to, where that is less than good.</param>
internal sealed record FitCell(NotOffered Why, PrintGrade? Grade, FitCrop? Crop, double? Lost, double Round, int? PixelsPerInch, string Sentence);

/// <summary>A photo in a fit list.</summary>
/// <param name="Cells">As the options stand.</param>
/// <param name="Renditions">The widths that are made already.</param>
internal sealed record FitPhoto(PhotoId Id, string Picture, string Title, string FileName, int Width, int Height, IReadOnlyList<int> Renditions, IReadOnlyList<FitCell> Cells);

/// <summary>How the photos of an album fit what it sells: some of them, and figures of all.</summary>
/// <param name="Found">So many are listed in all.</param>
/// <param name="Step">So many are in one answer.</param>
internal sealed record FitList(string Album, PriceListId List, string Name, string Currency, IReadOnlyList<FitOption> Options, int Photos, int Nothing, int Found, int Step, IReadOnlyList<FitPhoto> Listed);

/// <summary>How photos fit the options that they are sold by, before anybody buys them.</summary>
internal sealed class FitStore(NpgsqlDataSource db, EditionStore editions)
{
    const int Step = 60;

    sealed record Row(PhotoId Id, string Picture, string Title, string FileName, int Stage, ForSale Sold);

    /// <summary>The fit list of an album from one of its photos on, in their order.</summary>
    /// <param name="nothing">Only photos of which nothing is offered.</param>
    /// <returns>Null when the album is not there, or sells nothing.</returns>
    public async Task<FitList?> ListAsync(AlbumId album, int at, bool nothing, CancellationToken ct)
    {
        await using var find = db.Command(
            $"""
            select a.working_name, a.unsold, l.id, {PriceStore.Columns("l")}
              from album as a
              join price_list as l on l.id = a.price_list and l.binned is null
             where a.id = @album and a.binned is null
            """,
            ("album", album.Value));
        if (await find.FirstAsync(r => Tuple.Create(r.Get<string>("working_name"), r.Get<Guid[]>("unsold").ToHashSet(), new PriceListId(r.Get<Guid>("id")), PriceStore.Read(r)), ct) is not var (name, unsold, id, list))
        {
            return null;
        }

        var sold = await editions.SoldAsync(album, list.Options, ct);
        await using var read = db.Command(
            """
            select p.id, p.picture, p.title, p.file_name, p.stage, p.width, p.height, p.correction::text as correction, p.unsold
              from album_photo as ap
              join photo as p on p.id = ap.photo and p.binned is null
             where ap.album = @album
             order by ap.place, ap.photo
            """,
            ("album", album.Value));
        var (tally, found, listed) = (new FitTally(list), 0, new List<FitPhoto>());
        await using var rows = await read.ExecuteReaderAsync(ct);
        while (await rows.ReadAsync(ct))
        {
            var photo = Read(rows, unsold, sold);
            var offers = Offering.Of(list, photo.Sold);
            if (tally.Add(offers) && nothing)
            {
                continue;
            }

            if (found++ >= at && listed.Count < Step)
            {
                listed.Add(Line(photo, offers, list));
            }
        }

        var fits = tally.Options;
        return new FitList(
            name, id, list.Name, list.Currency.Code,
            [.. list.Options.Select((o, i) => new FitOption(o.Id, o.Called, o.Price?.ToString() ?? "", o.IsOffered, !unsold.Contains(o.Id), fits[i]))],
            tally.Photos, tally.Nothing, found, Step, listed);
    }

    static Row Read(NpgsqlDataReader r, IReadOnlyCollection<Guid> unsold, IReadOnlyDictionary<PhotoId, IReadOnlyDictionary<Guid, long>> sold) => new(
        new PhotoId(r.Get<Guid>("id")), r.Get<string>("picture"), r.Get<string>("title"), r.Get<string>("file_name"), r.Get<short>("stage"),
        new ForSale(new PixelSize(r.Get<int>("width"), r.Get<int>("height")), CorrectionText.Seen(r.MaybeText("correction")), r.Get<Guid[]>("unsold"), unsold, sold.GetValueOrDefault(new PhotoId(r.Get<Guid>("id")))));

    static FitPhoto Line(Row photo, IReadOnlyList<Offer> offers, PriceList list) => new(
        photo.Id, photo.Picture, photo.Title, photo.FileName, photo.Sold.Size.Width, photo.Sold.Size.Height, Renditions.There(photo.Stage, photo.Sold.Size.Width),
        [
            .. offers.Select(o => new FitCell(
                o.Why, o.Grade, o.Fit is null ? null : FitCrop.Of(o.Fit, photo.Sold.Size), o.Fit is { } fit ? Math.Round(fit.Lost, 4) : null, Math.Round(o.Fit?.Round ?? 0, 4), o.Fit is { } print ? (int)Math.Floor(print.PixelsPerInch) : null, o.Sentence(list.Limits, photo.Sold.Size))),
        ]);
}
