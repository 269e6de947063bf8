using Jovitar.Core.Corrections;

namespace Jovitar.Core.Starters;

/// <summary>A page laid out ready to begin from, for a case that comes often.</summary>
public enum Starter
{
    /// <summary>What happened at one event.</summary>
    EventReport,

    /// <summary>What a class or a group did, one album after the other.</summary>
    ClassPage,

    /// <summary>The best of everything.</summary>
    Portfolio,

    /// <summary>A year's albums at a glance.</summary>
    SeasonOverview,

    /// <summary>Photos that can be ordered.</summary>
    SalesGallery,

    /// <summary>How somebody is reached.</summary>
    Contact,

    /// <summary>Where visitors of a club or a school begin.</summary>
    ClubHome,
}

/// <summary>An album, as far as it decides which place of a starter it suits.</summary>
/// <param name="Title">As visitors read it.</param>
/// <param name="Day">Its own date, else that of its last photo, else the day it was made.</param>
/// <param name="Days">Over how many days its photos were taken; 0 where no photo says when.</param>
/// <param name="Photos">How many photos it has that visitors may find, counted no further than it matters.</param>
/// <param name="Loved">How many of them are rated <see cref="LeastLoved"/> or better.</param>
/// <param name="FillsItself">By a rule: it cuts across what others hold.</param>
/// <param name="OnPage">A page shows it already.</param>
public sealed record AlbumHeld(AlbumId Id, string Title, string Description, DateOnly Day, int Days, int Photos, int Loved, bool FillsItself, bool OnPage)
{
    public const int LeastLoved = 4;

    /// <summary>Most days that one event takes.</summary>
    const int LongestEvent = 5;

    /// <summary>What it holds is of one occasion.</summary>
    public bool IsEvent() => !FillsItself && Days is > 0 and <= LongestEvent;
}

/// <summary>A photo that may stand alone.</summary>
/// <param name="Picture">The name of its picture.</param>
/// <param name="Size">As it is corrected, pixels.</param>
public sealed record PhotoHeld(PhotoId Id, string Picture, PixelSize Size, int Rating)
{
    public double Shape() => (double)Size.Width / Size.Height;
}

/// <summary>An album that was matched, with what is seen of it.</summary>
/// <param name="Photos">Some of its photos, in its order.</param>
public sealed record AlbumSeen(AlbumHeld Album, IReadOnlyList<PhotoHeld> Photos);
