namespace Jovitar.Core.Acts;

/// <summary>The sentences of the history about what is recorded of visitors.</summary>
public static class RecordWords
{
    public static string Kept(int days) => days == 0 ? "No longer had anything recorded of visitors; what was recorded is gone." : $"Had what is recorded of visitors kept for {days} days.";
}
