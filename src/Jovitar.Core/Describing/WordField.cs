using Jovitar.Core.Photos;

namespace Jovitar.Core.Describing;

/// <summary>A word of a photo: one of the texts that people write about it.</summary>
public enum WordField
{
    Title,
    Caption,
    Alt,
    Credit,
    Creator,
    Copyright,
    Licence,
    Origin,
    Place,

    /// <summary>An address of the photo's own, that a press on it may lead to.</summary>
    Link,
}

/// <summary>What holds of the words of photos.</summary>
public static class WordFields
{
    public static readonly IReadOnlyList<WordField> All = Enum.GetValues<WordField>();

    /// <summary>What a word is called in the database and in what is said about it.</summary>
    public static string Name(WordField field) => Names[(int)field];

    /// <summary>UTF-16 code units that fit.</summary>
    public static int Longest(WordField field) => field switch
    {
        WordField.Caption or WordField.Alt => PhotoWords.LongestText,
        WordField.Copyright => PhotoWords.LongestCopyright,
        WordField.Link => PhotoWords.LongestLink,
        _ => PhotoWords.LongestTitle,
    };

    /// <summary>Whether it may have more than one line.</summary>
    public static bool HasLines(WordField field) => field is WordField.Caption or WordField.Alt or WordField.Copyright;

    /// <summary>An address that a press may lead to: http or https with a host, or a mail address.</summary>
    public static bool IsLink(string text) =>
        Uri.TryCreate(text, UriKind.Absolute, out var uri) && (uri.Scheme is "http" or "https" ? uri.Host.Length > 0 && uri.UserInfo.Length == 0 : uri.Scheme == "mailto");

    static readonly string[] Names = [.. All.Select(f => f.ToString().ToLowerInvariant())];
}
