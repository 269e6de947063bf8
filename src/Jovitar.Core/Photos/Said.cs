namespace Jovitar.Core.Photos;

/// <summary>Where a word, a tag, a category or a place in an album comes from.</summary>
public static class Said
{
    /// <summary>Somebody of the workroom said it.</summary>
    public const string Person = "person";

    /// <summary>The file itself says it.</summary>
    public const string File = "file";

    /// <summary>The album's rule finds it.</summary>
    public const string Rule = "rule";

    /// <summary>It was said once of all that an intake brings.</summary>
    public static string Intake(IntakeId intake) => $"intake:{intake}";
}
