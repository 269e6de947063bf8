using System.Globalization;

namespace Jovitar.Core.Acts;

/// <summary>What an act came to, for its sentence.</summary>
/// <param name="Photos">How many photos it concerns.</param>
/// <param name="Fields">The fields that changed, as the database names them.</param>
public sealed record ActTally(int Photos, IReadOnlyList<string> Fields);

/// <summary>The sentences that say what acts did.</summary>
public static class ActWords
{
    static readonly Dictionary<string, string> FieldNames = new(StringComparer.Ordinal)
    {
        ["title"] = "title",
        ["caption"] = "caption",
        ["alt"] = "description",
        ["credit"] = "credit",
        ["copyright"] = "copyright",
        ["licence"] = "licence",
        ["origin"] = "origin",
        ["place"] = "place",
        ["people"] = "people shown",
        ["taken"] = "date taken",
        ["latitude"] = "position",
        ["longitude"] = "position",
        ["taken_offset_minutes"] = "date taken",
        ["link"] = "link",
        ["rating"] = "rating",
        ["decision"] = "decision",
        ["correction"] = "correction",
        ["creator"] = "creator",
        ["working_name"] = "working name",
        ["description"] = "description",
        ["cover"] = "cover",
        ["address"] = "address",
        ["draft"] = "draft",
        ["published"] = "published version",
        ["name"] = "name",
        ["shown"] = "place in view",
        ["search"] = "narrowing",
        ["rule"] = "rule",
        ["most"] = "largest number",
        ["sort"] = "order",
        ["reversed"] = "order",
        ["by_lot"] = "order",
        ["block"] = "settings",
        ["parent"] = "parent",
        ["binned"] = "place in the bin",
        ["said_by"] = "origin",
        ["album"] = "album",
        ["tags"] = "tags",
        ["categories"] = "categories",
        ["taken_back"] = "taking back",
        ["settled"] = "decision on repeats",
        ["file_name"] = "file name",
        ["tagline"] = "tagline",
        ["is_open"] = "opening",
        ["meanwhile"] = "words while it is closed",
        ["is_listed"] = "listing by search engines",
        ["starts_at"] = "start page",
        ["cleared_by"] = "who cleared it",
        ["cleared_until"] = "end of the clearance",
        ["people_say"] = "what those say whom it shows",
        ["people_until"] = "end of the clearance",
        ["clearance_needed"] = "need of clearance",
        ["audience"] = "audience",
        ["seen_from"] = "beginning of the audience",
        ["seen_until"] = "end of the audience",
        ["chosen"] = "groups and members of the audience",
        ["own_gate"] = "audience of the photo itself",
        ["saves"] = "saving by everyone",
        ["known_save"] = "saving by those whom it knows",
        ["has_choosing"] = "asking for favourites",
        ["choosing_most"] = "number of favourites",
        ["choosing_until"] = "end of the choosing",
        ["choosing_asks"] = "words that ask for favourites",
        ["price_list"] = "price list",
        ["unsold"] = "options it is sold without",
        ["options"] = "prices",
        ["sells_small"] = "selling of what is too small",
        ["limits"] = "pixels an inch",
        ["records_kept"] = "keeping of records",
        ["says"] = "what a person says",
        ["until"] = "end of a yes",
    };

    /// <summary>A field in words.</summary>
    public static string Field(string field) => FieldNames.TryGetValue(field, out var name) ? name : field.Replace('_', ' ');

    public static string Photos(int count) => count == 1 ? "1 photo" : string.Create(CultureInfo.InvariantCulture, $"{count:#,0} photos");

    public static string Things(int count, string one, string many) => count == 1 ? $"1 {one}" : string.Create(CultureInfo.InvariantCulture, $"{count:#,0} {many}");

    /// <summary>Names in a row: “a”, “b” and “c”; past three only how many more.</summary>
    public static string Names(IReadOnlyList<string> names) => names.Count switch
    {
        0 => "nothing",
        1 => $"“{names[0]}”",
        <= 3 => $"{string.Join(", ", names.SkipLast(1).Select(n => $"“{n}”"))} and “{names[^1]}”",
        _ => string.Create(CultureInfo.InvariantCulture, $"“{names[0]}”, “{names[1]}” and {names.Count - 2} more"),
    };

    /// <summary>Words of a photo that were written: “Wrote title and caption of “Over the pier”.”</summary>
    public static string Words(string photo, ActTally tally, IReadOnlyList<string> tagsOn, IReadOnlyList<string> tagsOff)
    {
        var parts = new List<string>();
        var fields = tally.Fields.Where(f => FieldNames.ContainsKey(f) && f is not ("binned" or "said_by" or "decision" or "settled")).Select(Field).Distinct().ToArray();
        if (fields.Length > 0)
        {
            parts.Add($"wrote {(fields.Length == 1 ? fields[0] : $"{string.Join(", ", fields.SkipLast(1))} and {fields[^1]}")} of “{photo}”");
        }

        if (tagsOn.Count > 0)
        {
            parts.Add($"tagged “{photo}” {Names(tagsOn)}");
        }

        if (tagsOff.Count > 0)
        {
            parts.Add($"took {Names(tagsOff)} off “{photo}”");
        }

        var sentence = parts.Count == 0 ? $"changed “{photo}”" : string.Join(", ", parts);
        return $"{char.ToUpperInvariant(sentence[0])}{sentence[1..]}.";
    }

    /// <summary>Words of several photos changed in one go: “Wrote title, cleared caption of 40 photos.”</summary>
    /// <param name="verbs">What was done to which words.</param>
    public static string Described(ActTally tally, IReadOnlyList<string> verbs)
    {
        var sentence = $"{string.Join(", ", verbs)} of {Photos(tally.Photos)}";
        return $"{char.ToUpperInvariant(sentence[0])}{sentence[1..]}.";
    }

    /// <summary>Words that came in with a spreadsheet's file.</summary>
    public static string FromTable(ActTally tally, string file) => $"Wrote words from “{file}” on {Photos(tally.Photos)}.";

    /// <summary>Photos that were corrected.</summary>
    /// <param name="photo">What it is called, where it is one.</param>
    /// <param name="back">They are again as they came in.</param>
    public static string Corrected(ActTally tally, string? photo, bool back)
    {
        var what = photo is { } name ? $"“{name}”" : Photos(tally.Photos);
        return back ? $"Took the corrections of {what} back." : $"Corrected {what}.";
    }

    /// <summary>Prints on a scan that became photos of their own.</summary>
    public static string CutPrints(int count, string scan) => $"Cut {Things(count, "print", "prints")} out of “{scan}”.";

    public static string Tagged(ActTally tally, IReadOnlyList<string> on, IReadOnlyList<string> off) => (on.Count, off.Count) switch
    {
        ( > 0, 0) => $"Tagged {Photos(tally.Photos)} {Names(on)}.",
        (0, > 0) => $"Took {Names(off)} off {Photos(tally.Photos)}.",
        _ => $"Tagged {Photos(tally.Photos)} {Names(on)} and took {Names(off)} off.",
    };

    public static string Categorised(ActTally tally, IReadOnlyList<string> on, IReadOnlyList<string> off) => (on.Count, off.Count) switch
    {
        ( > 0, 0) => $"Put {Photos(tally.Photos)} in {Names(on)}.",
        (0, > 0) => $"Took {Photos(tally.Photos)} out of {Names(off)}.",
        _ => $"Put {Photos(tally.Photos)} in {Names(on)} and out of {Names(off)}.",
    };

    /// <summary>A decision about one photo.</summary>
    public static string Decided(string photo, string decision) => decision switch
    {
        "leave_out" => $"Left “{photo}” out everywhere.",
        "keep" => $"Kept “{photo}”.",
        "doubt" => $"Put “{photo}” in doubt.",
        _ => $"Took the decision on “{photo}” back.",
    };

    /// <summary>A decision about several photos at once.</summary>
    public static string Decided(ActTally tally, string decision) => decision switch
    {
        "leave_out" => $"Left {Photos(tally.Photos)} out everywhere.",
        "keep" => $"Kept {Photos(tally.Photos)}.",
        "doubt" => $"Put {Photos(tally.Photos)} in doubt.",
        _ => $"Took the decision on {Photos(tally.Photos)} back.",
    };

    /// <summary>A rating of one photo, by its name, or of several.</summary>
    public static string Rated(ActTally tally, string? photo, int rating)
    {
        var what = photo is { } name ? $"“{name}”" : Photos(tally.Photos);
        return rating == 0 ? $"Took the rating of {what} back." : $"Rated {what} {rating}.";
    }

    /// <summary>A decision about photos that look nearly the same.</summary>
    public static string DecidedRepeats(int kept, int leftOut) =>
        leftOut == 0 ? $"Kept all {kept} of a group that look nearly the same." : $"Kept {kept} of a group that look nearly the same, left {Photos(leftOut)} out everywhere.";

    public static string KeptNarrowing(string name) => $"Kept the narrowing “{name}”.";

    public static string ChangedNarrowing(string name) => $"Changed the narrowing “{name}”.";

    public static string LetNarrowingGo(string name) => $"Let the narrowing “{name}” go.";

    public static string KeptSettings(string name) => $"Kept settings of blocks as “{name}”.";

    public static string LetSettingsGo(string name) => $"Let the settings “{name}” go.";

    /// <summary>What changed of a category: in view or not before all, then its name, its place, its words.</summary>
    public static string ChangedCategory(string before, string after, bool? shown, bool described, bool page) =>
        shown == false ? $"Took category “{before}” out of view."
        : shown == true ? $"Brought category “{before}” back into view."
        : before != after ? $"Renamed category “{before}” to “{after}”."
        : described ? $"Described category “{before}”." : page ? $"Said how category “{before}” is shown." : $"Moved category “{before}”.";

    public static string RenamedTag(string before, string after) => $"Renamed tag “{before}” “{after}”.";

    public static string MergedTags(IReadOnlyList<string> gone, string into, ActTally tally) => $"Made {Names([.. gone, into])} one tag, “{into}”, on {Photos(tally.Photos)}.";

    public static string BinnedTags(IReadOnlyList<string> names) => $"Threw {Things(names.Count, "unused tag", "unused tags")} in the bin: {Names(names)}.";

    public static string AlbumWords(string album, ActTally tally) =>
        tally.Fields.Count == 1 && tally.Fields[0] == "cover" ? $"Chose the cover of “{album}”." : $"Changed {string.Join(", ", tally.Fields.Select(Field))} of album “{album}”.";

    public static string PutIn(ActTally tally, string album) => $"Put {Photos(tally.Photos)} into “{album}”.";

    public static string TakenOut(ActTally tally, string album) => $"Took {Photos(tally.Photos)} out of “{album}”.";

    public static string Ordered(int moved, string album) => $"Moved {Photos(moved)} in “{album}”.";

    public static string Rearranged(string album, bool shuffled) => $"{(shuffled ? "Shuffled" : "Turned the order of")} “{album}”{(shuffled ? "" : " round")}.";

    /// <summary>Where an album stands.</summary>
    /// <param name="shown">Whether it came into view or went out of it; null for neither.</param>
    /// <param name="into">Categories it was put in.</param>
    /// <param name="outOf">Categories it was taken out of.</param>
    public static string Standing(string album, bool? shown, IReadOnlyList<string> into, IReadOnlyList<string> outOf) =>
        shown == false ? $"Took album “{album}” out of view."
        : shown == true ? $"Brought album “{album}” back into view."
        : into.Count > 0 ? $"Put album “{album}” in category {Names(into)}."
        : outOf.Count > 0 ? $"Took album “{album}” out of category {Names(outOf)}." : $"Said where album “{album}” stands.";

    public static string PlacedAlbum(string album) => $"Moved album “{album}” in a category.";

    public static string Filling(string album, bool hasRule, bool hadRule) =>
        hasRule ? $"Said what fills album “{album}”." : hadRule ? $"Made album “{album}” hand-picked." : $"Said in which order album “{album}” stands.";

    /// <summary>What an album did by itself.</summary>
    public static string Filled(string album, int came, int went) => (came, went) switch
    {
        ( > 0, 0) => $"{Photos(came)} came into “{album}” by its rule.",
        (0, > 0) => $"{Photos(went)} left “{album}” by its rule.",
        (0, 0) => $"“{album}” was put in its order.",
        _ => $"{Photos(came)} came into “{album}” by its rule, {Photos(went)} left it.",
    };

    public static string LetIn(ActTally tally, string album) => $"Let {Photos(tally.Photos)} into “{album}” again.";

    public static string Intake(string cameBy, string label) => cameBy switch
    {
        "watched" => $"Took in from the watched folder “{label}”.",
        "scanner" => "Scanned into an intake.",
        "sent" => $"Took in what {label} sent.",
        _ => "Brought in from a computer.",
    };

    public static string TookIntakeBack(int binned, int files, int kept)
    {
        var went = binned == 0 && files > 0 ? Things(files, "file", "files") : files == 0 ? Photos(binned) : $"{Photos(binned)} and {Things(files, "file", "files")}";
        return kept == 0 ? $"Took an intake back: {went} into the bin." : $"Took an intake back: {went} into the bin, {Things(kept, "thing", "things")} used elsewhere stayed.";
    }

    /// <summary>One thing that went into the bin.</summary>
    /// <param name="kind">What it is, in words: album, category, tag, page.</param>
    public static string Binned(string kind, string name) => $"Threw {kind} “{name}” in the bin.";

    /// <summary>Things that went into the bin or came back.</summary>
    public static string Binned(bool back, int photos, IReadOnlyList<string> others)
    {
        var what = (photos, others.Count) switch
        {
            ( > 0, 0) => Photos(photos),
            (0, _) => Names(others),
            _ => $"{Photos(photos)} and {Names(others)}",
        };
        return back ? $"Took {what} back out of the bin." : $"Threw {what} in the bin.";
    }

    /// <summary>An act that was taken back, by its own sentence.</summary>
    public static string TookBack(string sentence) => $"Took back: {char.ToLowerInvariant(sentence[0])}{sentence[1..]}";
}
