using System.Collections.Frozen;
using Jovitar.Core.Watermarks;

namespace Jovitar.Server.Access.Audiences;

/// <summary>What has photos with the watermark at a moment, and for whom.</summary>
/// <param name="key">Of the watermark.</param>
internal sealed class MarkList(string key, IEnumerable<Mark> marks)
{
    public static readonly MarkList None = new("", []);

    readonly FrozenDictionary<Guid, Mark> all = marks.ToFrozenDictionary(m => m.Thing);

    public string Key => key;

    public IReadOnlyList<Mark> All => all.Values;

    /// <summary>Those of a photo: of what a row names, as far as it still says so, and of the site: albums first.</summary>
    public IReadOnlyList<Mark> Of(Guid[] things) => all.Count == 0 ? [] : [.. things.Append(Mark.Site).Distinct().Select(all.GetValueOrDefault).OfType<Mark>().OrderBy(m => m.Kind, StringComparer.Ordinal).ThenBy(m => m.Name, StringComparer.Ordinal)];
}
