using System.Globalization;

namespace Jovitar.Core.Narrowings;

/// <summary>What the parts of a narrowing ask of photos, and where these came from.</summary>
public sealed partial class PhotoIndex
{
    /// <summary>Says where intakes came from, as <see cref="PhotoSource"/> names it; those it was told of before stay.</summary>
    public void Came(IReadOnlyDictionary<Guid, string> from)
    {
        lock (gate)
        {
            foreach (var (intake, source) in from)
            {
                sources[intake] = source;
            }

            Forget();
        }
    }

    /// <summary>Those of some intakes of which it was not told where they came from.</summary>
    public IReadOnlyList<Guid> WithoutSource(IEnumerable<Guid> some)
    {
        lock (gate)
        {
            return [.. some.Distinct().Where(i => !sources.ContainsKey(i))];
        }
    }

    PhotoSet Fits(NarrowingPart part) => Test(part).Where(ids.Count);

    /// <summary>Whether photos have what a part speaks of, turned round or not.</summary>
    IFacetTest Test(NarrowingPart part)
    {
        var choices = part.Choices.ToHashSet(StringComparer.Ordinal);
        var none = choices.Contains(Narrowing.None);
        IFacetTest Ids(Facet<Many<Guid>> facet, HashSet<Guid> wanted) => facet.Test(set => set.All.Length == 0 ? none : Array.Exists(set.All, wanted.Contains));
        HashSet<Guid> wanted = [.. part.Choices.Select(c => Guid.TryParse(c, out var id) ? id : (Guid?)null).OfType<Guid>()];
        bool Named(string value) => value.Length == 0 ? none : choices.Contains(value);
        switch (part.Kind)
        {
            case PartKind.Album:
                return Ids(albums, wanted);
            case PartKind.Category:
                return Ids(categories, Beneath(wanted));
            case PartKind.Tag:
                return Ids(tags, wanted);
            case PartKind.Intake:
                return Ids(intakes, wanted);
            case PartKind.Source:
                return intakes.Test(set => set.All.Length == 0 ? none : Array.Exists(set.All, i => choices.Contains(From(i))));
            case PartKind.People:
                return people.Test(set => set.All.Length == 0 ? none : Array.Exists(set.All, choices.Contains));
            case PartKind.Corrected:
                return corrected.Test(set => set.All.Length == 0 ? none : Array.Exists(set.All, choices.Contains));
            case PartKind.Taken:
                var spans = part.Choices.Select(TakenSpan.Read).OfType<TakenSpan>().ToArray();
                return day.Test(d => d == default ? none : Array.Exists(spans, s => s.Holds(d)));
            case PartKind.Camera:
                return camera.Test(Named);
            case PartKind.Lens:
                return lens.Test(Named);
            case PartKind.Rating:
                return rating.Test(r => choices.Contains(r.ToString(CultureInfo.InvariantCulture)));
            case PartKind.Decision:
                return decision.Test(Named);
            case PartKind.Clearance:
                return clearance.Test(Named);
            case PartKind.Shape:
                return shape.Test(choices.Contains);
            case PartKind.Pixels:
                var lengths = part.Choices.Select(PixelSpan.Read).OfType<PixelSpan>().ToArray();
                return pixels.Test(p => Array.Exists(lengths, s => s.Holds(p)));
            default:
                var bits = Lacks.Sum(l => choices.Contains(l.Name) ? l.Bit : 0);
                return missing.Test(m => (m & bits) != 0);
        }
    }

    string From(Guid intake) => sources.GetValueOrDefault(intake, "");

    static readonly (string Name, int Bit)[] Lacks = [("title", 1), ("alt", 2), ("credit", 4), ("clearance", 8)];

    HashSet<Guid> Beneath(HashSet<Guid> wanted) => [.. wanted, .. parents.Keys.Where(c => Up(c).Any(wanted.Contains))];

    IEnumerable<Guid> Up(Guid category)
    {
        for (Guid? at = category; at is { } id; at = parents.GetValueOrDefault(id))
        {
            yield return id;
        }
    }
}
