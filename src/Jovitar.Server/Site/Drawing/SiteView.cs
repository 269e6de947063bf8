using Jovitar.Core;
using Jovitar.Core.Layout;
using Jovitar.Core.Photos;

namespace Jovitar.Server.Site.Drawing;

/// <summary>A button of the filter bar with its state.</summary>
/// <param name="Group">Index of its group.</param>
/// <param name="Link">Where pressing it leads, relative to the page.</param>
public sealed record FilterButton(string Key, string Name, int Group, int Depth, int Count, bool Chosen, string Link);

/// <summary>An order of the photos that can be chosen.</summary>
/// <param name="Key">As addresses name it; empty for the one in which they stand.</param>
public sealed record OrderLink(string Key, bool Chosen, string Link);

/// <summary>Where one photo stands, CSS pixels from the block's upper left corner.</summary>
public sealed record SiteBox(double X, double Y, double Width, double Height);

/// <summary>A photo in its place, with all that the visitors' script makes a frame of.</summary>
/// <param name="Place">Its place among those shown, from 0.</param>
/// <param name="Facts">Where and when it was taken and with what, as far as it is told.</param>
/// <param name="Credit">Whose it is, and what may be done with it.</param>
/// <param name="Lines">The words that stand with it, two lines; empty where none do.</param>
/// <param name="Press">What a press on it does.</param>
/// <param name="Talk">What visitors say about it, at its own page: "comments", or where there are only those "ratings"; null for nothing.</param>
/// <param name="Kept">Others may save it, and not whoever looks.</param>
/// <param name="Focus">Classes that keep its focus in view.</param>
/// <param name="Box">Null where it does not stand there: on another page, or not yet.</param>
public sealed record SiteFrame(
    int Place, PhotoId Id, string Href, string Source, string Sources, int Width, int Height, string Title, string Caption, string Alt, string Facts, string Credit, IReadOnlyList<string> Lines, FramePress Press, string? Talk, bool Kept, string? Focus, SiteBox? Box);

/// <summary>A page of the photos of a block.</summary>
/// <param name="Number">From 1; null where some are left out.</param>
/// <param name="Link">Where it is; empty where some are left out.</param>
public sealed record PartLink(int? Number, string Link, bool Present);

/// <summary>What leads to more photos of a block.</summary>
/// <param name="First">The place of the first that stands there, from 0.</param>
/// <param name="Standing">How many stand there.</param>
/// <param name="MoreLink">Has more of them stand there; null where all do, or where they come otherwise.</param>
/// <param name="Pages">The pages they stand on; empty where they come otherwise.</param>
public sealed record MoreLinks(int First, int Standing, string? MoreLink, IReadOnlyList<PartLink> Pages);

/// <summary>What the visitors' script needs to show another choice, another width or another part of many photos.</summary>
/// <param name="Mark">What stands there; a page with another mark was opened before its photos changed.</param>
/// <param name="Frames">The photos of the part that was asked for.</param>
/// <param name="IsCut">There are more in that part than an answer holds; they stand behind the last.</param>
/// <param name="Height">The height of all, CSS pixels.</param>
/// <param name="Shown">How many the choice leaves.</param>
/// <param name="AllCount">How many one would see if no button were chosen.</param>
/// <param name="Find">The words that were looked for.</param>
/// <param name="WholeLink">Lets go of every choice and of the words.</param>
/// <param name="WordlessLink">Lets go of the words.</param>
/// <param name="Further">What leads to more of them.</param>
/// <param name="Link">The address of the page with this choice.</param>
public sealed record SiteView(string Mark, IReadOnlyList<SiteFrame> Frames, bool IsCut, double Height, int Shown, int Total, IReadOnlyList<FilterButton> Buttons, string AllLink, int AllCount, bool IsAll, string Find, IReadOnlyList<OrderLink> Orders,
    string WholeLink, string WordlessLink, MoreLinks Further, string Link);

/// <summary>Which part of the photos is asked for: by places, or what stands between two heights.</summary>
/// <param name="From">The first place, from 0.</param>
/// <param name="Top">CSS pixels from the block's upper edge.</param>
public sealed record SitePart(int From, int Count, double? Top, double? Bottom)
{
    /// <summary>So many an answer holds.</summary>
    public const int Most = 240;

    /// <summary>The places that are asked for, in their order.</summary>
    /// <param name="shown">How many places there are.</param>
    /// <param name="first">The place that the first box is of.</param>
    public IEnumerable<int> Of(int shown, int first, IReadOnlyList<Box> boxes)
    {
        if (Top is not { } top || Bottom is not { } bottom)
        {
            var from = Math.Clamp(From, 0, shown);
            return Enumerable.Range(from, Math.Clamp(Count, 0, shown - from));
        }

        return Enumerable.Range(0, boxes.Count).Where(i => boxes[i].Bottom >= top && boxes[i].Y <= bottom).Select(i => first + i);
    }
}

/// <summary>Where pictures are, and what the visitors' script asks for.</summary>
public static class SiteAddress
{
    /// <summary>What stands before a page's own address where its script asks for photos in their places.</summary>
    public const string View = "/site/view";

    /// <summary>What stands before a page's own address where its embed is.</summary>
    public const string Embed = "/embed";

    /// <summary>Where a rendition is: for visitors under the address that may be kept, in a draft under the workroom's own.</summary>
    public static string Of(string picture, int width, bool draft) => draft ? $"/api/renditions/{picture}/{width}" : Renditions.Address(picture, width);

    /// <summary>All renditions of a photo, for a <c>srcset</c>.</summary>
    public static string Sources(SitePhoto photo, bool draft) => string.Join(", ", Renditions.For(photo.Width).Select(w => $"{Of(photo.Picture, w, draft)} {Renditions.PixelsAcross(w, photo.Width)}w"));
}
