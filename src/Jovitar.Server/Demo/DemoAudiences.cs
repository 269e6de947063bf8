using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Access.Entries;
using Jovitar.Server.Access.Reserves;
using Jovitar.Server.Acts;

namespace Jovitar.Server.Demo;

/// <summary>Who of the visitors may see an album of the demo.</summary>
/// <param name="Groups">Of members, where it is for some.</param>
internal sealed record DemoAudience(string Album, Admitted Who, IReadOnlyList<string> Groups, IReadOnlyList<DemoHolder> Entries);

/// <summary>Who of the visitors may see photos of the demo by themselves.</summary>
/// <param name="Groups">Of members, where they are for some.</param>
internal sealed record DemoException(IReadOnlyList<string> Photos, Admitted Who, IReadOnlyList<string> Groups);

/// <summary>For whom a category of the demo reserves saving its photos in full size.</summary>
internal sealed record DemoReserve(string Category, ForWhom SaveFull);

/// <param name="Name">For whom it is.</param>
internal sealed record DemoHolder(string Name, EntryKind Kind);

/// <summary>Keeps some of the demo for those who hold an entry to it, and for members.</summary>
internal sealed class DemoAudiences(AudienceStore audiences, PhotoAudienceStore exceptions, EntryStore entries, ReserveStore reserves)
{
    public async Task MakeAsync(IEnumerable<DemoAudience> said, IReadOnlyDictionary<string, AlbumId> albums, IReadOnlyDictionary<string, Guid> groups, Actor owner, CancellationToken ct)
    {
        foreach (var each in said)
        {
            var of = new AudienceOf("album", albums[each.Album].Value);
            await audiences.SayAsync(owner, of, new Audience(each.Who) { Chosen = [.. each.Groups.Select(g => groups[g])] }, Audience.Everyone, ct);
            if ((await entries.ListAsync(of.Thing, ct)).Count == 0)
            {
                foreach (var entry in each.Entries)
                {
                    await entries.MakeAsync(owner, of, entry.Name, entry.Kind, null, null, ct);
                }
            }
        }
    }

    public async Task MakeAsync(IEnumerable<DemoException> said, IReadOnlyDictionary<string, PhotoId> photos, IReadOnlyDictionary<string, Guid> groups, Actor owner, CancellationToken ct)
    {
        foreach (var each in said)
        {
            await exceptions.SayAsync(owner, [.. each.Photos.Select(p => photos[p])], new Audience(each.Who) { Chosen = [.. each.Groups.Select(g => groups[g])] }, was: null, ct);
        }
    }
    public async Task MakeAsync(IEnumerable<DemoReserve> said, IReadOnlyDictionary<string, CategoryId> categories, Actor owner, CancellationToken ct)
    {
        foreach (var each in said)
        {
            await reserves.SayAsync(owner, "category", categories[each.Category].Value, Reserved.Nothing with { SaveFull = new Whom(each.SaveFull) }, Reserved.Nothing, ct);
        }
    }
}
