using Jovitar.Core;
using Jovitar.Core.Sales;
using Jovitar.Server.Acts;
using Jovitar.Server.Sales;

namespace Jovitar.Server.Demo;

/// <summary>A price list of the demo.</summary>
/// <param name="Albums">What sells by it.</param>
/// <param name="Without">Photos that are sold without an option, by what that is called.</param>
internal sealed record DemoPriceList(string Name, string Currency, IReadOnlyList<string> Albums, IReadOnlyList<OptionSaid> Options, IReadOnlyDictionary<string, IReadOnlyList<string>> Without);

/// <summary>Says what some of the demo's photos are sold for.</summary>
internal sealed class DemoPrices(PriceStore prices, SellingStore selling)
{
    public async Task MakeAsync(IReadOnlyList<DemoPriceList> lists, IReadOnlyDictionary<string, AlbumId> albums, IReadOnlyDictionary<string, PhotoId> photos, Actor owner, CancellationToken ct)
    {
        foreach (var said in lists)
        {
            var (read, wrong, _) = new PriceListSaid(said.Name, said.Currency, new PrintLimits(), SellsSmall: false, [.. said.Options.Select(o => o with { Id = Guid.CreateVersion7() })]).Read();
            if (read is null)
            {
                throw new InvalidDataException($"{said.Name}: {wrong}");
            }

            var (_, id, _) = await prices.MakeAsync(owner, read, ct);
            foreach (var album in said.Albums)
            {
                await selling.SayAsync(owner, albums[album], new Selling(id, []), new Selling(null, []), ct);
            }

            foreach (var (called, files) in said.Without)
            {
                await selling.SayAsync(owner, [.. files.Select(file => photos[file])], [read.Options.Single(o => o.Called == called).Id], [], ct);
            }
        }
    }
}
