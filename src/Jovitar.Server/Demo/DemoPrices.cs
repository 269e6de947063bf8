using Jovitar.Core;
using Jovitar.Core.Sales;
using Jovitar.Server.Acts;
using Jovitar.Server.Sales;

namespace Jovitar.Server.Demo;

/// <summary>A price list of the demo.</summary>
/// <param name="Albums">What sells by it.</param>
internal sealed record DemoPriceList(string Name, string Currency, IReadOnlyList<string> Albums, IReadOnlyList<DemoOption> Options);

/// <param name="Not">Photos that are sold without it.</param>
internal sealed record DemoOption(
    OptionKind Kind, string Price, string Size = "", string Name = "", string Description = "", string Group = "", int Edge = 0, int? LongestEdge = null, string Licence = "", int? Downloads = null, int? Days = null, string Cost = "",
    IReadOnlyList<BreakSaid>? Breaks = null, IReadOnlyList<string>? Shapes = null, bool IsOff = false, IReadOnlyList<string>? Not = null);

/// <summary>Says what some of the demo's photos are sold for.</summary>
internal sealed class DemoPrices(PriceStore prices, SellingStore selling)
{
    public async Task MakeAsync(IReadOnlyList<DemoPriceList> lists, IReadOnlyDictionary<string, AlbumId> albums, IReadOnlyDictionary<string, PhotoId> photos, Actor owner, CancellationToken ct)
    {
        foreach (var said in lists)
        {
            var options = said.Options.Select(o => (Demo: o, Said: new OptionSaid(
                Guid.CreateVersion7(), o.Kind, o.Name, o.Description, o.Group, o.Size, o.Edge, o.LongestEdge, o.Licence, o.Downloads, o.Days, o.Price, o.Cost, o.Breaks, o.Shapes, o.IsOff))).ToList();
            var (read, wrong, _) = new PriceListSaid(said.Name, said.Currency, new PrintLimits(), SellsSmall: false, [.. options.Select(o => o.Said)]).Read();
            if (read is null)
            {
                throw new InvalidDataException($"{said.Name}: {wrong}");
            }

            var (_, id, _) = await prices.MakeAsync(owner, read, ct);
            foreach (var album in said.Albums)
            {
                await selling.SayAsync(owner, albums[album], new Selling(id, []), new Selling(null, []), ct);
            }

            foreach (var (demo, option) in options.Where(o => o.Demo.Not is not null))
            {
                await selling.SayAsync(owner, [.. demo.Not!.Select(file => photos[file])], [option.Id], [], ct);
            }
        }
    }
}
