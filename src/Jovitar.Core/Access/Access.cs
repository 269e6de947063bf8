using Jovitar.Core.Clearance;
using Jovitar.Core.Comments;
using Jovitar.Core.Contributions;
using Jovitar.Core.Pages;
using Jovitar.Core.Watermarks;

namespace Jovitar.Core.Access;

/// <summary>What an account may be. Kept by name.</summary>
public enum Role
{
    /// <summary>An account with no part in anything any more.</summary>
    None,

    /// <summary>A visitor whom the site knows: signs in to it, and has no part in the workroom.</summary>
    Member,
    Editor,
    Owner,
}

/// <summary>Who looks: nobody in particular, or the holder of an account.</summary>
public sealed record Viewer(Role Role)
{
    /// <summary>A visitor who has not signed in and holds nothing.</summary>
    public static readonly Viewer Nobody = new(Role.None);

    /// <summary>A visitor whom every gate lets in: what somebody can see at all is what this one sees.</summary>
    public static readonly Viewer Somebody = new(Role.None) { SeesBehindAll = true };

    /// <summary>The things of which the viewer holds an entry link or a passcode that is good.</summary>
    public IReadOnlySet<Guid> Holds { get; init; } = new HashSet<Guid>();

    /// <summary>Of a member: themselves, and the groups that they are in.</summary>
    public IReadOnlySet<Guid> Is { get; init; } = new HashSet<Guid>();

    internal bool SeesBehindAll { get; private init; }

    /// <summary>Whether the viewer is one of some members, or in one of some groups.</summary>
    internal bool IsAmong(IReadOnlyList<Guid> chosen) => Role == Role.Member && chosen.Any(Is.Contains);

    public bool IsStaff => Role is Role.Editor or Role.Owner;

    /// <summary>A visitor of whom the site knows who they are: a member, or who came by an entry link or a passcode.</summary>
    public bool IsKnown => Role == Role.Member || Holds.Count > 0;
}

/// <summary>What somebody wants to do with a thing.</summary>
public enum Right
{
    See,

    /// <summary>Coming upon a thing in lists, indexes, the site map and what pages gather.</summary>
    Find,

    /// <summary>Getting a photo without the watermark.</summary>
    SeeUnmarked,

    /// <summary>Saving a photo in a form that a page offers.</summary>
    Save,

    /// <summary>Writing about a photo, and reading what others wrote.</summary>
    Comment,

    /// <summary>Saying from 1 to 5 what one thinks of a photo, and seeing what others think.</summary>
    Rate,

    /// <summary>Choosing among an album's photos, and telling who asked for it.</summary>
    Choose,

    /// <summary>Buying what is offered of an album's photos.</summary>
    Buy,

    /// <summary>Sending photos in.</summary>
    Contribute,
    SeeOriginal,
    Change,
    Publish,

    /// <summary>Letting the place on Earth where photos were taken leave with them.</summary>
    SendPosition,

    /// <summary>The site itself: its accounts, its settings, what is removed for good.</summary>
    LookAfter,
}

/// <summary>A thing somebody wants to see or change, as far as the decision depends on it.</summary>
public abstract record Thing;

/// <summary>The workroom and all that is done in it.</summary>
public sealed record TheWorkroom : Thing;

/// <summary>The site as a whole: the door before all others.</summary>
/// <param name="IsOpen">Visitors may come in.</param>
/// <param name="ClearanceNeeded">It shows visitors only photos that are cleared.</param>
public sealed record TheSite(bool IsOpen, bool ClearanceNeeded = false) : Thing;

/// <summary>Where a viewer comes upon a photo or an album, and where they would.</summary>
/// <param name="Pages">On how many published pages it stands that let this viewer in.</param>
/// <param name="OwnPages">On how many pages that albums in view have by themselves, because they stand in a category.</param>
/// <param name="Drafts">On how many pages that visitors cannot open.</param>
/// <param name="OutOfView">How many albums that are out of view it is in; their pages are not counted.</param>
/// <param name="Shut">On how many pages more it stands behind gates that do not let this viewer in.</param>
public readonly record struct ShownOn(int Pages, int OwnPages = 0, int Drafts = 0, int OutOfView = 0, int Shut = 0)
{
    /// <summary>All pages on which this viewer finds it.</summary>
    public int All => Pages + OwnPages;
}

/// <summary>A photo on a page that may offer to save it.</summary>
/// <param name="Offered">In which form it does.</param>
public sealed record PhotoToSave(PhotoThing Photo, Saving Offered) : Thing;

/// <summary>A photo that visitors may say something about.</summary>
/// <param name="Comments">For whom it is in an album in view whose photos may be commented on.</param>
/// <param name="Ratings">For whom it is in an album in view whose photos may be rated.</param>
public sealed record PhotoToTalkOf(PhotoThing Photo, TalkFor Comments, TalkFor Ratings) : Thing;

/// <summary>An album that may ask visitors for their favourites.</summary>
/// <param name="Asks">It does.</param>
public sealed record AlbumToChooseFrom(AlbumThing Album, bool Asks) : Thing;

/// <summary>An album that may sell its photos.</summary>
/// <param name="Sells">It has a price list that the shop sells by, and the shop is open.</param>
public sealed record AlbumToBuyFrom(AlbumThing Album, bool Sells) : Thing;

/// <summary>A contribution link.</summary>
/// <param name="IsOpen">It was not withdrawn, and has not ended.</param>
/// <param name="ForMembers">Only members send photos by it.</param>
public sealed record CallForPhotos(bool IsOpen, bool ForMembers) : Thing;

/// <summary>A member's own place, where they send photos in.</summary>
public sealed record OwnPlace(Contributing Contributing) : Thing;

/// <summary>A photo.</summary>
/// <param name="State">Whether there is a picture of it.</param>
/// <param name="Clearance">Whether it may be shown to visitors at all.</param>
public sealed record PhotoThing(PhotoState State, bool LeftOut, bool Binned, ShownOn On, PhotoClearance Clearance) : Thing
{
    /// <summary>Those of the categories that it stands in.</summary>
    public IReadOnlyList<Gate> Gates { get; init; } = [];

    /// <summary>Those of everything that it stands in: each must spare a viewer.</summary>
    public IReadOnlyList<Mark> Marks { get; init; } = [];

    /// <summary>What everything that it stands in reserves.</summary>
    public IReadOnlyList<Reserve> Reserves { get; init; } = [];
}

public enum PhotoState
{
    Waiting,
    Ready,
    Failed,
}

/// <summary>An album; visitors see it on pages, or on one of its own where it stands in a category.</summary>
/// <param name="Held">So many of its photos no visitor sees for want of clearance.</param>
public sealed record AlbumThing(bool Binned, ShownOn On, int Held = 0) : Thing
{
    /// <summary>Its own, and those of all categories that it stands in: each must let a viewer in.</summary>
    public IReadOnlyList<Gate> Gates { get; init; } = [];

    /// <summary>What it reserves itself, and all categories that it stands in.</summary>
    public IReadOnlyList<Reserve> Reserves { get; init; } = [];

    /// <summary>It is for everyone with its link.</summary>
    public bool ByLinkAlone { get; init; }
}

/// <summary>A category.</summary>
/// <param name="InView">Neither it nor one above it is out of view.</param>
public sealed record CategoryThing(bool Binned, bool InView) : Thing
{
    /// <summary>Its own, and those of all above it.</summary>
    public IReadOnlyList<Gate> Gates { get; init; } = [];
}

/// <summary>A page.</summary>
/// <param name="Changed">Its draft differs from what was published.</param>
public sealed record PageThing(bool Binned, bool Published, bool Changed) : Thing
{
    /// <summary>Its own, where it has one.</summary>
    public IReadOnlyList<Gate> Gates { get; init; } = [];
}

/// <summary>A sound, document or video; visitors see it on the pages that it stands on.</summary>
public sealed record FileThing(bool Binned, ShownOn On) : Thing;

/// <summary>What a visitor has marked, opened by its address.</summary>
/// <param name="Offered">Visitors may mark photos on this site.</param>
public sealed record FavouritesThing(bool Offered) : Thing;

/// <summary>A picture for the site's head.</summary>
/// <param name="Published">The site has it there now.</param>
public sealed record LogoThing(bool Published) : Thing;

/// <summary>Why something is allowed or not.</summary>
public enum Reason
{
    IsStaff,
    OnPublishedPage,
    Published,
    InView,
    InTheBin,
    NotReadyYet,
    CouldNotBeMadeReady,
    LeftOutEverywhere,
    NotCleared,

    /// <summary>Somebody whom it shows says no.</summary>
    SomebodySaysNo,

    /// <summary>The site shows only what is cleared, and nobody has said that of it.</summary>
    NotClearedYet,

    /// <summary>The same; it was, until a day.</summary>
    ClearanceRanOut,
    /// <summary>A gate does not let this viewer in.</summary>
    NotLetIn,

    /// <summary>Every page on which it stands is behind a gate that does not let this viewer in.</summary>
    OnlyBehindGates,
    OnNoPage,
    OnlyOnDrafts,
    OutOfView,
    IsADraft,
    IsOpen,
    NotOpenYet,
    ForStaffOnly,
    ForOwnerOnly,

    /// <summary>Whoever sees it has its link: no list leads there.</summary>
    FoundByLinkAlone,

    /// <summary>It has no watermark for this viewer.</summary>
    Spared,

    /// <summary>It has the watermark for this viewer.</summary>
    Marked,
    OfferedForSaving,
    NotOfferedForSaving,
    Offered,
    NotOffered,

    /// <summary>It asks only visitors whom the site knows.</summary>
    NotKnown,

    /// <summary>Something it stands in reserves it for others.</summary>
    ReservedForOthers,

    /// <summary>Photos are taken there.</summary>
    TakesPhotos,

    /// <summary>Photos are not taken there any more.</summary>
    TakesNoPhotos,

    /// <summary>Only members send photos there.</summary>
    ForMembersOnly,
}

/// <summary>A decision, with what it rests on.</summary>
/// <param name="Reasons">What speaks for it when it is allowed, all that speaks against it when it is not.</param>
public sealed record Decision(bool Allowed, IReadOnlyList<Reason> Reasons)
{
    internal static Decision Yes(Reason reason) => new(true, [reason]);

    internal static Decision No(params IReadOnlyList<Reason> reasons) => new(false, reasons);
}

/// <summary>The one decision who may do what with which thing. Every door asks it; what it does not allow is denied.</summary>
public static class Access
{
    /// <summary>Decides.</summary>
    /// <param name="at">When: clearance may end.</param>
    public static Decision Decide(Viewer viewer, Right right, Thing thing, DateTimeOffset at)
    {
        if (right == Right.Contribute)
        {
            // What staff bring in comes by the intake; here they are visitors.
            return Contribute(viewer, thing);
        }

        if (right == Right.Buy)
        {
            // Staff buy as visitors do: what is not sold is sold to nobody.
            return Buy(viewer, thing, at);
        }

        if (viewer.IsStaff)
        {
            return right is Right.LookAfter or Right.SendPosition && viewer.Role != Role.Owner ? Decision.No(Reason.ForOwnerOnly) : Decision.Yes(Reason.IsStaff);
        }

        return right switch
        {
            Right.See => Visible(viewer, thing, at),
            Right.Find => Visible(viewer, thing, at) is { Allowed: true } && thing is AlbumThing { ByLinkAlone: true } ? Decision.No(Reason.FoundByLinkAlone) : Visible(viewer, thing, at),
            Right.SeeUnmarked when thing is PhotoThing photo =>
                Visible(viewer, photo, at) is { Allowed: false } unseen ? unseen : photo.Marks.All(m => m.Spares(viewer)) ? Decision.Yes(Reason.Spared) : Decision.No(Reason.Marked),
            Right.Save when thing is PhotoToSave { Photo: var photo, Offered: var offered } =>
                Visible(viewer, photo, at) is { Allowed: false } unseen ? unseen : offered == Saving.Nothing ? Decision.No(Reason.NotOfferedForSaving)
                : Reserve.Saves(photo.Reserves, viewer, offered) == offered ? Decision.Yes(Reason.OfferedForSaving)
                : Decision.No(Reason.ReservedForOthers),
            Right.Comment when thing is PhotoToTalkOf talk => Talk(viewer, talk.Photo, talk.Comments, at),
            Right.Choose when thing is AlbumToChooseFrom { Album: var album, Asks: var asks } => Choose(viewer, album, asks, at),
            Right.Rate when thing is PhotoToTalkOf talk => Talk(viewer, talk.Photo, talk.Ratings, at),
            _ => Decision.No(Reason.ForStaffOnly),
        };
    }

    static Decision Talk(Viewer viewer, PhotoThing photo, TalkFor offered, DateTimeOffset at) =>
        Visible(viewer, photo, at) is { Allowed: false } unseen ? unseen
        : offered == TalkFor.Nobody ? Decision.No(Reason.NotOffered)
        : offered != TalkFor.Everyone && !viewer.IsKnown ? Decision.No(Reason.NotKnown)
        : photo.Reserves.All(r => r.For.Talk.Takes(viewer)) ? Decision.Yes(Reason.Offered)
        : Decision.No(Reason.ReservedForOthers);

    static Decision Contribute(Viewer viewer, Thing thing) => thing switch
    {
        CallForPhotos call => Weigh(
            Reason.TakesPhotos,
            [.. call.IsOpen ? (Reason[])[] : [Reason.TakesNoPhotos], .. call.ForMembers && viewer.Role != Role.Member && !viewer.IsStaff ? (Reason[])[Reason.ForMembersOnly] : []]),
        OwnPlace place => viewer.Role != Role.Member ? Decision.No(Reason.ForMembersOnly) : place.Contributing == Contributing.No ? Decision.No(Reason.TakesNoPhotos) : Decision.Yes(Reason.TakesPhotos),
        _ => Decision.No(Reason.ForStaffOnly),
    };

    static Decision Choose(Viewer viewer, AlbumThing album, bool asks, DateTimeOffset at) =>
        Visible(viewer, album, at) is { Allowed: false } unseen ? unseen : !asks ? Decision.No(Reason.NotOffered)
        : !viewer.IsKnown ? Decision.No(Reason.NotKnown)
        : album.Reserves.All(r => r.For.Choose.Takes(viewer)) ? Decision.Yes(Reason.Offered)
        : Decision.No(Reason.ReservedForOthers);

    static Decision Buy(Viewer viewer, Thing thing, DateTimeOffset at) =>
        thing is not AlbumToBuyFrom { Album: var album, Sells: var sells } ? Decision.No(Reason.ForStaffOnly)
        : !viewer.IsStaff && Visible(viewer, album, at) is { Allowed: false } unseen ? unseen
        : sells ? Decision.Yes(Reason.Offered) : Decision.No(Reason.NotOffered);

    static Decision Visible(Viewer viewer, Thing thing, DateTimeOffset at) => thing switch
    {
        PhotoThing photo => Photo(viewer, photo, at),
        AlbumThing album => Weigh(Reason.OnPublishedPage, [.. Binned(album.Binned), .. Gates(viewer, album.Gates, at), .. Pages(album.On)]),
        FileThing file => Weigh(Reason.OnPublishedPage, [.. Binned(file.Binned), .. Pages(file.On)]),
        CategoryThing category => Weigh(Reason.InView, [.. Binned(category.Binned), .. category.InView ? (Reason[])[] : [Reason.OutOfView], .. Gates(viewer, category.Gates, at)]),
        PageThing page => Weigh(Reason.Published, [.. Binned(page.Binned), .. page.Published ? (Reason[])[] : [Reason.IsADraft], .. Gates(viewer, page.Gates, at)]),
        TheSite site => Weigh(Reason.IsOpen, site.IsOpen ? [] : [Reason.NotOpenYet]),
        FavouritesThing favourites => Weigh(Reason.Offered, favourites.Offered ? [] : [Reason.NotOffered]),
        LogoThing logo => Weigh(Reason.Published, logo.Published ? [] : [Reason.IsADraft]),
        _ => Decision.No(Reason.ForStaffOnly),
    };

    static Decision Photo(Viewer viewer, PhotoThing photo, DateTimeOffset at) => Weigh(
        Reason.OnPublishedPage,
        [
            .. Binned(photo.Binned),
            .. photo.State switch { PhotoState.Ready => (Reason[])[], PhotoState.Failed => [Reason.CouldNotBeMadeReady], _ => [Reason.NotReadyYet] },
            .. photo.LeftOut ? (Reason[])[Reason.LeftOutEverywhere] : [],
            .. Cleared(photo.Clearance, at),
            .. Gates(viewer, photo.Gates, at),
            .. Pages(photo.On),
        ]);

    /// <summary>The gates that a thing itself stands behind.</summary>
    public static IReadOnlyList<Gate> GatesOf(Thing thing) => thing switch
    {
        PhotoThing photo => photo.Gates,
        AlbumThing album => album.Gates,
        CategoryThing category => category.Gates,
        PageThing page => page.Gates,
        _ => [],
    };

    /// <summary>All of them: whoever is kept out by one of the gates on a way does not go it.</summary>
    static Reason[] Gates(Viewer viewer, IReadOnlyList<Gate> gates, DateTimeOffset at) => gates.All(g => g.LetsIn(viewer, at)) ? [] : [Reason.NotLetIn];

    static Reason[] Cleared(PhotoClearance clearance, DateTimeOffset at) => clearance.At(at) switch
    {
        Clearances.NotCleared => [.. clearance.Said == Clearances.NotCleared ? (Reason[])[Reason.NotCleared] : [], .. clearance.People == Consents.No ? (Reason[])[Reason.SomebodySaysNo] : []],
        Clearances.Unknown when clearance.IsNeeded => [clearance.RanOut(at) is null ? Reason.NotClearedYet : Reason.ClearanceRanOut],
        _ => [],
    };

    static Reason[] Binned(bool binned) => binned ? [Reason.InTheBin] : [];

    static Reason[] Pages(ShownOn on) =>
        on.All > 0 ? [] : on.Shut > 0 ? [Reason.OnlyBehindGates] : on.OutOfView > 0 ? [Reason.OutOfView] : on.Drafts > 0 ? [Reason.OnlyOnDrafts] : [Reason.OnNoPage];

    static Decision Weigh(Reason allows, IReadOnlyList<Reason> against) => against.Count == 0 ? Decision.Yes(allows) : Decision.No(against);
}
