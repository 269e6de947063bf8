namespace Jovitar.Core.Starters;

/// <summary>Which of the owner's albums stand in a starter's empty places, by what they hold.</summary>
public static class StarterMatch
{
    /// <summary>Fewer photos make no report.</summary>
    const int LeastReported = 3;

    /// <summary>A season ends where the newest album lies this many days behind.</summary>
    const int Season = 365;

    /// <summary>How many albums a starter takes at most.</summary>
    public static int Most(Starter starter) => starter switch
    {
        Starter.ClassPage or Starter.ClubHome => 3,
        Starter.Portfolio => 5,
        Starter.SeasonOverview => 12,
        _ => 1,
    };

    /// <summary>Whether the page is that of the album on it; any other only shows something of albums.</summary>
    public static bool IsOfAlbum(Starter starter) => starter == Starter.EventReport;

    /// <summary>Albums that hold different photos: those that fill themselves only where there are no others.</summary>
    static AlbumHeld[] Apart(AlbumHeld[] albums) => albums.Any(a => !a.FillsItself) ? [.. albums.Where(a => !a.FillsItself)] : albums;

    /// <summary>The albums that suit best, in the order in which they stand on the page. An album without photos suits nothing.</summary>
    public static IReadOnlyList<AlbumHeld> Of(Starter starter, IReadOnlyList<AlbumHeld> albums)
    {
        var newest = albums.Where(a => a.Photos > 0).OrderByDescending(a => a.Day).ThenByDescending(a => a.Photos).ThenBy(a => a.Id.Value).ToArray();
        IEnumerable<AlbumHeld> fits = starter switch
        {
            // Of the occasions, what is shown nowhere yet waits for its report.
            Starter.EventReport => newest.OrderBy(a => !a.IsEvent()).ThenBy(a => a.OnPage).ThenBy(a => a.Photos < LeastReported),
            Starter.Portfolio or Starter.SalesGallery or Starter.Contact => newest.Any(a => a.Loved > 0) ? newest.Where(a => a.Loved > 0).OrderByDescending(a => a.Loved) : newest.OrderByDescending(a => a.Photos),
            Starter.SeasonOverview => Apart(newest) is [var last, ..] apart ? apart.Where(a => a.Day.DayNumber > last.Day.DayNumber - Season) : [],
            _ => Apart(newest),
        };
        return [.. fits.Take(Most(starter))];
    }
}
