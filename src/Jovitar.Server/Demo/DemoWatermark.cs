using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Watermarks;
using Jovitar.Server.Acts;
using Jovitar.Server.Watermarks;

namespace Jovitar.Server.Demo;

/// <summary>The watermark of the demo, made of words.</summary>
internal sealed record DemoMark(string Words, Lettering Lettering, WatermarkPlace Place, int Size, int Strength, int Inset, IReadOnlyList<DemoSpared> Albums);

/// <param name="Groups">Of members, where some are spared.</param>
internal sealed record DemoSpared(string Album, ForWhom Spared, IReadOnlyList<string> Groups);

/// <summary>Puts the watermark on some of the demo.</summary>
internal sealed class DemoWatermark(WatermarkStore watermarks, MarkingStore markings)
{
    public async Task MakeAsync(DemoMark said, IReadOnlyDictionary<string, AlbumId> albums, IReadOnlyDictionary<string, Guid> groups, Actor owner, CancellationToken ct)
    {
        var opened = await watermarks.ReadAsync(ct);
        await watermarks.WriteAsync(owner, new Watermark(WatermarkKind.Words, said.Words, said.Lettering, null, said.Place, said.Size, said.Strength, said.Inset).AsKept(), opened.Edited, ct);
        foreach (var each in said.Albums)
        {
            await markings.SayAsync(owner, new MarkingOf("album", albums[each.Album].Value), new Whom(each.Spared) { Chosen = [.. each.Groups.Select(g => groups[g])] }, Whom.All, ct);
        }
    }
}
