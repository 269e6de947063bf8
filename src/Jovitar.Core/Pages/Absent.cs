using Jovitar.Core.Layout;

namespace Jovitar.Core.Pages;

/// <summary>Photos of a block that do not stand there on some devices. What is no photo of the block is passed over.</summary>
/// <param name="Phone">Those that a phone does not show.</param>
/// <param name="Tablet">Those that a tablet does not show.</param>
/// <param name="Desktop">Those that a desktop does not show.</param>
public sealed record Absent(IReadOnlyList<PhotoId> Phone, IReadOnlyList<PhotoId> Tablet, IReadOnlyList<PhotoId> Desktop)
{
    /// <summary>So many may be absent on one device.</summary>
    public const int Most = 500;

    /// <summary>Every photo stands on every device.</summary>
    public static readonly Absent None = new([], [], []);

    /// <summary>Those that a device does not show.</summary>
    public IReadOnlyList<PhotoId> On(Device device) => device switch { Device.Phone => Phone, Device.Tablet => Tablet, _ => Desktop };

    /// <summary>Those that no device shows.</summary>
    public IReadOnlySet<PhotoId> Everywhere()
    {
        var all = Phone.ToHashSet();
        all.IntersectWith(Tablet);
        all.IntersectWith(Desktop);
        return all;
    }

    /// <summary>What is wrong with it, a sentence; null when it may be kept.</summary>
    public string? Fault() => Phone.Count > Most || Tablet.Count > Most || Desktop.Count > Most ? $"{Most} photos of a block may be left out on a device. Make an album of those that stay." : null;
}
