using Jovitar.Core;
using Jovitar.Core.Clearance;
using Jovitar.Server.Acts;
using Jovitar.Server.Clearance;
using Jovitar.Server.Photos;
using Jovitar.Server.Platform;

namespace Jovitar.Server.Demo;

/// <summary>Who may be shown in the demo.</summary>
/// <param name="List">The file of the list of persons.</param>
/// <param name="Shown">Whom photos show.</param>
internal sealed record DemoCleared(string List, IReadOnlyList<DemoShown> Shown, IReadOnlyList<DemoSaidOf> Cleared, IReadOnlyList<DemoSaidOf> Refused);

internal sealed record DemoShown(string File, IReadOnlyList<string> People);

internal sealed record DemoSaidOf(string File, string By, DateOnly? Until);

/// <summary>Takes in a list of persons, and says of some photos whether they are cleared.</summary>
internal sealed class DemoClearance(PhotoStore photoStore, PersonStore persons, ClearanceStore clearance)
{
    /// <param name="list">What the file of the list holds.</param>
    public async Task MakeAsync(DemoCleared cleared, byte[] list, IReadOnlyDictionary<string, PhotoId> photos, Actor owner, CancellationToken ct)
    {
        foreach (var shown in cleared.Shown)
        {
            await photoStore.ChangeAsync(owner, photos[shown.File], new PhotoChange(AddPeople: shown.People), expected: 0, ct);
        }

        var (csv, _) = CsvText.Read(list, "utf-8");
        await persons.TakeInAsync(owner, csv!, cleared.List, ct);
        foreach (var (said, some) in ((string, IReadOnlyList<DemoSaidOf>)[])[(Clearances.Cleared, cleared.Cleared), (Clearances.NotCleared, cleared.Refused)])
        {
            foreach (var photo in some)
            {
                await clearance.ClearAsync(owner, [photos[photo.File]], said, photo.By, photo.Until, ct);
            }
        }
    }
}
