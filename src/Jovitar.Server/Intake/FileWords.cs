using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Photos;
using Jovitar.Core.Taxonomy;

namespace Jovitar.Server.Intake;

/// <summary>The words out of a photo's file or its sidecar, as long as they may be.</summary>
/// <param name="Words">By the column they are kept in; blank ones are left out.</param>
/// <param name="Cut">What did not fit, in words; null when all of it does.</param>
internal sealed record FileWords(IReadOnlyDictionary<string, string> Words, IReadOnlyList<TagName> Tags, string? Cut)
{
    const int LongestShort = 200;

    static readonly (string Column, Func<MetadataBlock, string?> Of, int Most)[] Texts =
    [
        ("title", w => w.Title, PhotoWords.LongestTitle), ("caption", w => w.Caption, PhotoWords.LongestText), ("alt", w => w.Alt, PhotoWords.LongestText), ("credit", w => w.Credit, PhotoWords.LongestTitle),
        ("creator", w => w.Creator, PhotoWords.LongestTitle), ("copyright", w => w.Copyright, PhotoWords.LongestCopyright), ("place", w => w.Place, PhotoWords.LongestTitle),
        ("licence", w => w.Licence, PhotoWords.LongestTitle), ("origin", w => w.Origin, PhotoWords.LongestTitle),
    ];

    /// <summary>The columns that texts out of files are kept in.</summary>
    public static IReadOnlyList<string> Columns { get; } = [.. Texts.Select(t => t.Column)];

    /// <summary>What is said of a photo whose file says more than is kept here; null when all of it is.</summary>
    public string? Remark => Cut is null ? null : $"Its file says more than is kept here ({Cut}); the original keeps all of it.";

    /// <summary>The same of a sidecar, which itself is not kept.</summary>
    public string? SidecarRemark => Cut is null ? null : $"It says more than is kept here ({Cut}), and was cut.";

    public static FileWords Of(PhotoMetadata metadata)
    {
        var w = metadata.Words;
        var cut = new List<string>();
        var words = new Dictionary<string, string>(StringComparer.Ordinal);
        foreach (var (column, of, most) in Texts)
        {
            if (of(w) is not { } text)
            {
                continue;
            }

            words[column] = Text.Cut(text, most);
            if (text.Length > most)
            {
                cut.Add(ActWords.Field(column));
            }
        }

        var tags = TagName.All(w.Keywords);
        if (tags.Count > PhotoWords.MostTags || w.Keywords.Any(k => k.Length > TagName.Longest))
        {
            cut.Add("keywords");
        }

        return new FileWords(words, [.. tags.Take(PhotoWords.MostTags)], cut.Count == 0 ? null : string.Join(", ", cut));
    }

    public static string? Short(string? text) => text is null ? null : Text.Cut(text, LongestShort);
}
