namespace Jovitar.Core.Describing;

/// <summary>A photo with its words, as a change of words finds it.</summary>
/// <param name="Album">The working name of the album it stands in; of several, the first by name; empty without one.</param>
/// <param name="Taken">By the clock on the wall where it was; null when nobody knows.</param>
/// <param name="Offset">Of that clock from UTC, minutes; null when nobody knows.</param>
/// <param name="Words">By <see cref="WordField"/>, one for each.</param>
public sealed record Described(
    Guid Id, string FileName, string Camera, string Album, DateTime? Taken, int? Offset, IReadOnlyList<string> Words, IReadOnlyList<string> People, IReadOnlyList<string> Tags)
{
    public string this[WordField field] => Words[(int)field];
}

/// <summary>What a change comes to for one photo.</summary>
/// <param name="Words">The new words by <see cref="WordField"/>; null where a word stays as it is.</param>
/// <param name="Taken">When it was taken, if that changes.</param>
/// <param name="People">The people it shows, if they change.</param>
/// <param name="Cut">A word did not fit and is cut.</param>
/// <param name="Lacks">A part of a pattern had nothing to say: no date, no album.</param>
/// <param name="Refused">What would have become its link leads nowhere; the link stays as it is.</param>
public sealed record DescribedAnew(IReadOnlyList<string?> Words, (DateTime Local, int? Offset)? Taken, IReadOnlyList<string>? People, bool Cut, bool Lacks, bool Refused)
{
    /// <summary>Whether anything changes.</summary>
    public bool Changes => Taken is not null || People is not null || Words.Any(w => w is not null);
}
