namespace Jovitar.Core.Narrowings;

/// <summary>Which photos a narrowing finds, among those that are here and among those in the bin.</summary>
public sealed partial class PhotoIndex
{
    /// <summary>The photos that lie in the bin and would be found if they were here.</summary>
    public IReadOnlyList<Guid> InBin(Narrowing narrowing)
    {
        lock (gate)
        {
            return [.. Find(narrowing, inBin: true).Numbers().Select(n => ids[n])];
        }
    }

    /// <param name="inBin">Among those in the bin, instead of those that are here.</param>
    PhotoSet Find(Narrowing narrowing, bool inBin = false)
    {
        var among = inBin ? Binned() : Here();
        if (narrowing.IsNothing)
        {
            return among;
        }

        var key = inBin ? $"bin {narrowing}" : narrowing.ToString();
        if (kept.TryGetValue(key, out var found))
        {
            return found;
        }

        found = new PhotoSet(ids.Count);
        found.Join(among);
        foreach (var word in WordIndex.Fold(narrowing.Words).Distinct())
        {
            found.Keep(words.Kept(ids.Count, word));
        }

        foreach (var part in narrowing.Parts)
        {
            var fits = Fits(part);
            if (part.Not)
            {
                found.TakeOff(fits);
            }
            else
            {
                found.Keep(fits);
            }
        }

        if (kept.Count >= MostKept)
        {
            kept.Clear();
        }

        return kept[key] = found;
    }

    PhotoSet Binned()
    {
        if (allBinned is null)
        {
            allBinned = new PhotoSet(ids.Count);
            foreach (var n in numbers.Values.Where(n => !here[n]))
            {
                allBinned.Add(n);
            }
        }

        return allBinned;
    }

    PhotoSet Here()
    {
        if (allHere is null)
        {
            allHere = new PhotoSet(ids.Count);
            for (var n = 0; n < ids.Count; n++)
            {
                if (here[n])
                {
                    allHere.Add(n);
                }
            }
        }

        return allHere;
    }
}
