namespace Jovitar.Core.Acts;

/// <summary>The sentences of the history about what is recorded of visitors.</summary>
public static class RecordWords
{
    public static string Kept(int days) => days == 0 ? "Had nothing recorded of visitors any more, and what was forgotten." : $"Had what is recorded of visitors kept for {days} days.";
}
