namespace Jovitar.Core.Albums;

/// <summary>In which order an index lists albums. Kept by name.</summary>
public enum IndexSort
{
    /// <summary>By their date, the newest first.</summary>
    Newest,

    /// <summary>By their date, the oldest first.</summary>
    Oldest,

    /// <summary>By what visitors read as their title.</summary>
    Title,

    /// <summary>As somebody has placed them.</summary>
    Hand,
}

/// <summary>An album as an index orders it.</summary>
/// <param name="Date">Its own date, else the day it was made.</param>
/// <param name="Place">Where somebody has placed it; those that nobody placed have none and stand behind.</param>
/// <param name="PutFirst">Stands ahead of the others, whatever the order.</param>
public sealed record IndexEntry(AlbumId Album, string Title, DateOnly Date, long? Place, bool PutFirst);

/// <summary>The order of an index of albums.</summary>
public static class AlbumIndex
{
    /// <summary>Orders albums: those put first ahead, and within both in the order asked for. What is alike goes by title, then by age, the newest first.</summary>
    public static IReadOnlyList<IndexEntry> Order(IEnumerable<IndexEntry> entries, IndexSort sort)
    {
        var ahead = entries.OrderByDescending(e => e.PutFirst);
        var sorted = sort switch
        {
            IndexSort.Newest => ahead.ThenByDescending(e => e.Date),
            IndexSort.Oldest => ahead.ThenBy(e => e.Date),
            IndexSort.Title => ahead,
            _ => ahead.ThenBy(e => e.Place is null).ThenBy(e => e.Place),
        };
        return [.. sorted.ThenBy(e => e.Title, StringComparer.CurrentCultureIgnoreCase).ThenByDescending(e => e.Album.Value)];
    }
}
