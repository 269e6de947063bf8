using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Pages;

namespace Jovitar.Server.Pages;

/// <summary>A page as lists have it.</summary>
/// <param name="Photos">How many photos of albums and picked by hand stand in its draft, each once.</param>
/// <param name="Published">Whether visitors can open it.</param>
/// <param name="Changed">Whether the draft differs from what visitors have.</param>
/// <param name="Picture">To know it by: the first photo that stands there, or the cover of its first album.</param>
/// <param name="Views">How often visitors have looked at it within the last thirty days.</param>
/// <param name="Posted">The day that its draft is a post of; null for a page that is none.</param>
internal sealed record PageLine(PageId Id, string Title, string Address, int Photos, bool Published, bool Changed, string? Picture, int Views, DateOnly? Posted);

/// <summary>A page being worked on.</summary>
/// <param name="Album">The album it was made for; null for none.</param>
/// <param name="Edited">Counts the edits of the draft; expected by the next write.</param>
/// <param name="Version">The number of the version that visitors have or had last; null where they never had one.</param>
/// <param name="PlannedAt">When what was planned becomes what visitors have; null where nothing is planned.</param>
internal sealed record OpenedPage(
    PageId Id, AlbumId? Album, string Address, PageContent Draft, int Photos, bool Published, bool Changed, DateTimeOffset? PublishedAt, AudienceLine Audience, long Edited, int? Version,
    DateTimeOffset? PlannedAt);

/// <summary>What somebody began to work on.</summary>
internal sealed record PageWork(string Address, PageContent Draft);

/// <summary>A photo that has fewer pixels than its place in a block.</summary>
/// <param name="Device">Where that is worst: phone, tablet or desktop.</param>
/// <param name="Blurred">On any screen; else on sharp ones only.</param>
internal sealed record SmallForBlock(PhotoId Photo, string Device, bool Blurred);

/// <summary>How a write to a page ended.</summary>
internal enum PageOutcome
{
    Written,
    Gone,
    Stale,
    AddressTaken,

    /// <summary>Somebody else changed the same block meanwhile.</summary>
    Collided,
}
