using System.Globalization;
using Jovitar.Core.Layout;

namespace Jovitar.Core.Pages;

/// <summary>How large photos stand in an embed beside how they stand on the page itself.</summary>
public enum EmbedSize
{
    Usual,
    Small,
    Large,
}

/// <summary>What is set of an embed: how the photos of a page, an album or a category stand on another website. It is kept nowhere but in its line.</summary>
/// <param name="Layout">Null for that of each block.</param>
/// <param name="Most">So many photos of each block stand there at most, and so many covers of an index.</param>
public sealed record Embed(LayoutKind? Layout, EmbedSize Size, int Most)
{
    /// <summary>So many a strip of another page holds without becoming that page.</summary>
    public const int UsualMost = 24;

    /// <summary>An embed is as high as all that it shows: more than this is what pages are for.</summary>
    public const int LargestMost = 200;

    /// <summary>The height of the window that is reckoned with where photos are as high as a share of it, CSS pixels: an embed has no window of its own.</summary>
    public const int Window = 900;

    public static readonly Embed Usual = new(null, EmbedSize.Usual, UsualMost);

    /// <summary>Reads what an address says; what it cannot mean is as usual.</summary>
    /// <param name="said">The value of a name; null or empty where it is not there.</param>
    public static Embed Read(Func<string, string?> said) => new(
        Named<LayoutKind>(said("layout")),
        Named<EmbedSize>(said("size")) ?? EmbedSize.Usual,
        int.TryParse(said("most"), NumberStyles.None, CultureInfo.InvariantCulture, out var most) ? Math.Clamp(most, 1, LargestMost) : UsualMost);

    /// <summary>As it stands behind an address, with the question mark; empty where all is as usual.</summary>
    public string Query
    {
        get
        {
            string?[] parts =
            [
                Layout is { } layout ? $"layout={Name(layout)}" : null,
                Size == EmbedSize.Usual ? null : $"size={Name(Size)}",
                Most == UsualMost ? null : string.Create(CultureInfo.InvariantCulture, $"most={Most}"),
            ];
            var there = parts.OfType<string>().ToArray();
            return there.Length == 0 ? "" : $"?{string.Join('&', there)}";
        }
    }

    /// <summary>How the photos of a block stand in it.</summary>
    /// <param name="own">How they stand on the page itself.</param>
    public BlockLayout Of(BlockLayout own)
    {
        var layout = Layout is { } kind ? own with { Kind = kind } : own;
        if (StripLayout.ShareOf(layout.Along.Height) is { } share)
        {
            layout = layout with { Along = layout.Along with { Height = StripHeight.Pixels }, Strip = Measures.Of((int)Math.Round(share * Window), layout.Strip.Gap) };
        }

        return layout.Scaled(Factor);
    }

    /// <summary>How many covers stand beside each other.</summary>
    /// <param name="own">On the page itself, at least 1.</param>
    public int Across(int own) => InARow.InRoomOf(own, Factor);

    double Factor => Size switch { EmbedSize.Small => 0.7, EmbedSize.Large => 1.4, _ => 1 };

    static string Name<T>(T value)
        where T : struct, Enum => value.ToString().ToLowerInvariant();

    /// <summary>Only by its name: a number names none.</summary>
    static T? Named<T>(string? text)
        where T : struct, Enum => Enum.GetValues<T>().Where(v => Name(v) == text).Select(v => (T?)v).FirstOrDefault();
}
