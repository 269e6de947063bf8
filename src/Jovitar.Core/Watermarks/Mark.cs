using Jovitar.Core.Access;

namespace Jovitar.Core.Watermarks;

/// <summary>A thing whose photos have the watermark for some.</summary>
/// <param name="Thing">The album or category; <see cref="Site"/> for all there is.</param>
/// <param name="Kind">"album", "category" or "site".</param>
/// <param name="Name">What it is called; empty for the site.</param>
/// <param name="Spared">Who gets its photos without: it only ever adds to what is said elsewhere.</param>
public sealed record Mark(Guid Thing, string Kind, string Name, Whom Spared)
{
    /// <summary>What stands for the whole site.</summary>
    public static readonly Guid Site = Guid.Empty;

    /// <summary>The groups and members who are spared, as far as there still are such.</summary>
    public IReadOnlyList<Chosen> Called { get; init; } = [];

    /// <summary>Whether a viewer gets its photos without the watermark, as far as this says.</summary>
    public bool Spares(Viewer viewer) => Spared.Takes(viewer);
}
