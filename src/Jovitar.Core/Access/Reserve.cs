using System.Text.Json.Serialization;
using Jovitar.Core.Pages;

namespace Jovitar.Core.Access;

/// <summary>
/// For whom what visitors may do with photos is reserved, besides seeing them: of what is offered, and never more than that. An album
/// or a category says it of all photos that stand in it or beneath it, wherever these are seen.
/// </summary>
/// <param name="Save">Saving them.</param>
/// <param name="SaveFull">Saving them in full size: the others have them as large as a page shows them.</param>
/// <param name="Talk">Saying something about them, and rating them.</param>
/// <param name="Choose">Choosing favourites among them for who asks for these.</param>
public sealed record Reserved(Whom Save, Whom SaveFull, Whom Talk, Whom Choose)
{
    /// <summary>What is not said otherwise: nothing is.</summary>
    public static readonly Reserved Nothing = new(Whom.All, Whom.All, Whom.All, Whom.All);

    /// <summary>All it says, in the order of its sentence.</summary>
    internal IReadOnlyList<Whom> All => [Save, SaveFull, Talk, Choose];

    /// <summary>All groups and members that something is for.</summary>
    [JsonIgnore]
    public IEnumerable<Guid> Chosen => All.SelectMany(w => w.Chosen).Distinct();

    /// <summary>What is wrong with it; null for nothing.</summary>
    public string? Fault() => All.Select(w => w.Fault("Choose for whom it is.")).FirstOrDefault(f => f is not null);

    /// <summary>The same without groups and members that are gone.</summary>
    public Reserved Among(IReadOnlyCollection<Guid> there)
    {
        Whom Left(Whom whom) => whom with { Chosen = [.. whom.Chosen.Where(there.Contains)] };
        return new Reserved(Left(Save), Left(SaveFull), Left(Talk), Left(Choose));
    }

    /// <summary>The same as the database keeps it.</summary>
    public Reserved AsKept() => new(Save.AsKept(), SaveFull.AsKept(), Talk.AsKept(), Choose.AsKept());
}

/// <summary>A thing that reserves something for some.</summary>
/// <param name="Kind">"album" or "category".</param>
/// <param name="Name">What it is called.</param>
public sealed record Reserve(Guid Thing, string Kind, string Name, Reserved For)
{
    /// <summary>The groups and members that something is for, as far as there still are such.</summary>
    public IReadOnlyList<Chosen> Called { get; init; } = [];

    /// <summary>What of it a viewer has no part in, a bit each: viewers of whom that is the same have the same pages.</summary>
    public int Keeps(Viewer viewer) => For.All.Select((w, i) => w.Takes(viewer) ? 0 : 1 << i).Sum();

    /// <summary>In what form a viewer may save a photo, of what is offered: all that reserve something of it must let them.</summary>
    public static Saving Saves(IReadOnlyList<Reserve> all, Viewer viewer, Saving offered) =>
        !all.All(r => r.For.Save.Takes(viewer)) ? Saving.Nothing
        : offered == Saving.Full && !all.All(r => r.For.SaveFull.Takes(viewer)) ? Saving.Large
        : offered;
}

/// <summary>Sentences about what is reserved.</summary>
public static class ReserveWords
{
    static readonly string[] Doings = ["saving them", "saving them in full size", "saying something about them", "choosing favourites among them"];

    /// <summary>What a thing reserves, each within a sentence: "saving them for all members".</summary>
    public static IReadOnlyList<string> Of(Reserved said, IReadOnlyList<Chosen> called) =>
        [.. said.All.Zip(Doings).Where(w => w.First.Who != ForWhom.Everyone).Select(w => $"{w.Second} for {Whom.Said(w.First.Who, [.. called.Where(c => w.First.Chosen.Contains(c.Id))])}")];

    static string Joined(IReadOnlyList<string> parts) => parts.Count < 2 ? parts[0] : $"{string.Join(", ", parts.SkipLast(1))}, and {parts[^1]}";

    /// <summary>What a thing above reserves of the photos of another.</summary>
    public static string Above(Reserve reserve) => $"The {reserve.Kind} “{reserve.Name}” reserves {Joined(Of(reserve.For, reserve.Called))}.";

    /// <summary>The sentence of the history.</summary>
    /// <param name="kind">"album" or "category".</param>
    public static string Said(string kind, string name, Reserved said, IReadOnlyList<Chosen> called) =>
        Of(said, called) is { Count: > 0 } parts ? $"Of the photos of {kind} “{name}”, reserved {Joined(parts)}." : $"Reserved nothing of the photos of {kind} “{name}” any more.";
}
