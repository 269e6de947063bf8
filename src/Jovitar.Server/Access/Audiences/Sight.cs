using System.Collections.Frozen;
using System.Security.Cryptography;
using Jovitar.Core;
using Jovitar.Core.Access;

namespace Jovitar.Server.Access.Audiences;

/// <summary>All gates of the site at a moment, what has photos with the watermark, and what reserves something of them.</summary>
internal sealed class GateList(IEnumerable<Gate> gates, MarkList? marks = null, ReserveList? reserves = null)
{
    public static readonly GateList None = new([]);

    readonly FrozenDictionary<Guid, Gate> all = gates.ToFrozenDictionary(g => g.Thing);

    public IReadOnlyList<Gate> All => all.Values;

    public MarkList Marks { get; } = marks ?? MarkList.None;

    public ReserveList Reserves { get; } = reserves ?? ReserveList.None;

    /// <summary>Those that a row names; one that is not known lets nobody in.</summary>
    public IReadOnlyList<Gate> Of(Guid[] things) => things.Length == 0 ? [] : [.. things.Select(t => all.GetValueOrDefault(t) ?? Gate.Unknown(t))];
}

/// <summary>An entry link or a passcode that is good, and what it opens.</summary>
internal sealed record HeldEntry(Guid Entry, Guid Thing);

/// <summary>Whom the site knows somebody as: a member, or whoever came in by an entry.</summary>
internal sealed record KnownAs(Guid? Member, Guid? Entry);

/// <summary>How somebody came to a page.</summary>
public enum Came
{
    Freely,

    /// <summary>By an entry link or a passcode.</summary>
    Invited,

    /// <summary>As a member who is signed in.</summary>
    Member,
}

/// <summary>What of the site is open to a visitor: pages, counts and photos are made for it.</summary>
/// <param name="Shut">The things whose gates do not let them in, by number.</param>
/// <param name="Key">The same for all whom the same gates keep out, who have the watermark on the same, and from whom the same is reserved: they have the same pages.</param>
/// <param name="IsEveryone">They are let in nowhere that everyone is not: what they get anybody may keep.</param>
internal sealed record Sight(Viewer Viewer, GateList Gates, Guid[] Shut, string Key, bool IsEveryone)
{
    const int KeyLength = 16;

    /// <summary>Of somebody whom every gate lets in: for those who make pages, and for what is true of any visitor.</summary>
    public static readonly Sight Somebody = new(Viewer.Somebody, GateList.None, [], "somebody", IsEveryone: false);

    /// <summary>What has its photos with the watermark for them, or reserves something of those for others, by number.</summary>
    public Guid[] Marking { get; private init; } = [];

    /// <summary>Staff look through it as somebody else: what they may besides does not count.</summary>
    public bool IsSeenAs { get; init; }

    /// <summary>Of a member: themselves. Pages are made for all who stand where they do, so nothing of it is in a page.</summary>
    public Guid? Member { get; init; }

    /// <summary>What they came in with and is good, the latest first; the same holds of it.</summary>
    public IReadOnlyList<HeldEntry> Held { get; init; } = [];

    /// <summary>Who they are to something behind some gates: the member that they are, else who came in by the entry to it, else by the one they came in with last.</summary>
    /// <returns>Null for who is nobody in particular.</returns>
    public KnownAs? KnownTo(IReadOnlyList<Gate> gates) =>
        !Viewer.IsKnown ? null
        : Member is not null ? new KnownAs(Member, null)
        : (Held.FirstOrDefault(h => gates.Any(g => g.Thing == h.Thing)) ?? (Held.Count > 0 ? Held[0] : null)) is { } held ? new KnownAs(null, held.Entry)
        : null;

    FrozenSet<Guid>? kept;

    /// <summary>Whether the gate of a category does not let them in.</summary>
    public bool IsShut(CategoryId category) => (kept ??= Shut.ToFrozenSet()).Contains(category.Value);

    /// <summary>The categories whose gates do not let them in.</summary>
    public IReadOnlyList<CategoryId> ShutCategories() => [.. Gates.All.Where(g => g.Kind == "category").Select(g => CategoryId.From(g.Thing)).Where(IsShut)];

    /// <summary>How whoever has a page of theirs came to it, and leaves again.</summary>
    public Came Came => Viewer.Role == Role.Member ? Came.Member : IsEveryone || Viewer == Viewer.Somebody ? Came.Freely : Came.Invited;

    /// <param name="everyone">Where everyone stands; null for that itself.</param>
    public static Sight Of(Viewer viewer, GateList gates, DateTimeOffset at, Sight? everyone = null)
    {
        Guid[] shut = [.. gates.All.Where(g => !g.LetsIn(viewer, at)).Select(g => g.Thing).Order()];
        var isMember = viewer.Role == Role.Member;
        // What a member gets is for them alone, also where everyone would get the same: it says that they are signed in.
        var isEveryone = everyone is null || (shut.AsSpan().SequenceEqual(everyone.Shut) && !isMember);
        // The pages of who was let in say so, also where everyone comes to be let in later.
        // Who holds what lets in nobody more than everyone has everyone's pages, and no part in what is for those whom the site knows.
        var seen = isEveryone && everyone is not null ? Viewer.Nobody : viewer;
        Guid[] marking = [.. gates.Marks.All.Where(m => !m.Spares(seen)).Select(m => m.Thing).Order()];
        (Guid Thing, int Keeps)[] reserving = [.. gates.Reserves.All.Select(r => (r.Thing, Keeps: r.Keeps(seen))).Where(r => r.Keeps != 0).OrderBy(r => r.Thing)];
        var came = isEveryone ? "" : isMember ? "-member" : "-invited";
        var marked = marking.Length == 0 ? "" : $"-w{KeyOf(marking)}-{gates.Marks.Key}";
        var reserved = reserving.Length == 0 ? "" : $"-r{KeyOf(reserving.SelectMany(r => r.Thing.ToByteArray().Append((byte)r.Keeps)))}";
        return new Sight(seen, gates, shut, $"{KeyOf(shut)}{came}{marked}{reserved}", isEveryone) { Marking = [.. marking.Concat(reserving.Select(r => r.Thing)).Distinct()] };
    }

    static string KeyOf(Guid[] things) => things.Length == 0 ? "" : KeyOf(things.SelectMany(s => s.ToByteArray()));

    static string KeyOf(IEnumerable<byte> bytes) => Convert.ToHexStringLower(SHA256.HashData([.. bytes]))[..KeyLength];
}
