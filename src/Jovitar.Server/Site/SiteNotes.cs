using Jovitar.Core;
using Jovitar.Core.Layout;

namespace Jovitar.Server.Site;

/// <summary>A photo that has fewer pixels than the place it fills on a page.</summary>
/// <param name="Device">Where that is worst: phone, tablet or desktop.</param>
/// <param name="Blurred">On any screen; else on sharp ones only.</param>
internal sealed record SmallOnPage(PhotoId Photo, string Picture, string Name, string Device, bool Blurred);

/// <summary>What the software notices of a page while somebody works on it.</summary>
/// <param name="Small">Photos that are too small for their places, those that lack most first; the first of them.</param>
/// <param name="WithoutWords">How many photos have no words for those who cannot see them.</param>
internal sealed record PageNotes(LayoutAdvice? Advice, IReadOnlyList<SmallOnPage> Small, int Blurred, int OnlySharp, int WithoutWords)
{
    const int MostNamed = 60;

    /// <summary>The notes of a page as its draft is.</summary>
    public static PageNotes Of(SitePage page)
    {
        var small = PixelNotes.Of(page.Content.Layout, [.. page.Photos.Select(p => (p.Width, p.Height))], Window.Usual);
        return new PageNotes(
            LayoutAdvice.For([.. page.Photos.Select(p => p.Shape)]),
            [.. small.Take(MostNamed).Select(s => (Small: s, Photo: page.Photos[s.Photo])).Select(s => new SmallOnPage(s.Photo.Id, s.Photo.Picture, s.Photo.Name, s.Small.Device, s.Small.IsBlurred))],
            small.Count(s => s.IsBlurred), small.Count(s => !s.IsBlurred), page.Photos.Count(p => p.Alt.Length == 0));
    }
}
