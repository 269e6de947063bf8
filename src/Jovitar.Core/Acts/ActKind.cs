namespace Jovitar.Core.Acts;

/// <summary>What an act did. Kept by name; a name never changes its meaning.</summary>
public enum ActKind
{
    /// <summary>An intake was begun; what arrives through it is part of this act.</summary>
    Intake,

    /// <summary>A file arrived and became a photo or a file, or was here already.</summary>
    Arrived,

    /// <summary>The words in a photo's file were read.</summary>
    Read,

    /// <summary>What holds for all of an intake was said anew.</summary>
    About,

    /// <summary>What failed was put back to work.</summary>
    Retried,

    /// <summary>What failed or was refused was dropped.</summary>
    Dropped,
    Words,

    /// <summary>The words of several photos were changed in one go.</summary>
    Described,

    /// <summary>How photos are corrected was changed.</summary>
    Corrected,

    /// <summary>Prints on a scan were made photos of their own.</summary>
    CutPrints,
    Tagged,
    Categorised,
    Decided,

    /// <summary>A narrowing was kept under a name, changed, or let go.</summary>
    Narrowings,

    /// <summary>Settings of a block were kept under a name, changed, or let go.</summary>
    KeptSettings,
    MadeAlbum,
    AlbumWords,
    PutIn,
    TakenOut,
    Ordered,

    /// <summary>How an album keeps itself was said: by which rule, in which order.</summary>
    Filling,

    /// <summary>An album took up what its rule finds, or what it holds was put in its order.</summary>
    Filled,

    /// <summary>Where an album stands was said: in which categories, in view or out of it, at which address.</summary>
    Standing,

    /// <summary>A tag got another name.</summary>
    RenamedTag,

    /// <summary>One tag took the place of another.</summary>
    MergedTags,
    MadeCategory,
    ChangedCategory,
    MadePage,
    EditedPage,

    /// <summary>Blocks of a page were added, removed or moved.</summary>
    BuiltPage,
    Published,

    /// <summary>A page was planned to be published at a time, or that was called off.</summary>
    Planned,
    Withdrawn,

    /// <summary>The site's menu was changed.</summary>
    Menu,

    /// <summary>How the site is to look was changed.</summary>
    Theme,

    /// <summary>Visitors have the site as it was to look.</summary>
    PublishedTheme,

    /// <summary>The site was given to its owner.</summary>
    MadeSite,

    /// <summary>What the site says of itself was changed.</summary>
    Front,

    /// <summary>The site was opened to visitors, or closed.</summary>
    Opening,

    /// <summary>Comments of visitors were shown or refused.</summary>
    Comments,

    /// <summary>Whether photos may be shown to visitors at all was said: of photos, of persons, or of the whole site.</summary>
    Clearance,

    /// <summary>Who works on the site was changed: somebody was invited, came, or left. Said anew rather than taken back.</summary>
    People,

    /// <summary>Members or their groups were changed. Said anew rather than taken back.</summary>
    Members,

    /// <summary>Who of the visitors may see a page, an album or a category was said.</summary>
    Audience,

    /// <summary>An entry link or a passcode was made or withdrawn. A new one is made rather than that taken back.</summary>
    Entry,

    /// <summary>What visitors may do with an album's photos besides seeing them was said.</summary>
    Offers,

    /// <summary>A price list was made, changed or let go, or what is sold by one was said.</summary>
    Prices,

    /// <summary>A coupon was made, changed or let go.</summary>
    Coupons,

    /// <summary>What sending costs, tax or how buyers pay was made another, or the shop was opened or closed.</summary>
    Shop,

    /// <summary>An order has come further.</summary>
    Orders,

    /// <summary>Money of an order came or went back. What has happened to money is not taken back.</summary>
    Payments,

    /// <summary>Invoices or credit notes were written. What is written stays: a credit note takes it back.</summary>
    Invoices,

    /// <summary>The watermark was made another, or who gets photos without it was said.</summary>
    Watermark,

    /// <summary>For how long is kept what is recorded of visitors was said.</summary>
    Records,

    /// <summary>What a visitor had sent was noted, or they may change it again. Said anew rather than taken back.</summary>
    Choices,

    /// <summary>Photos that were sent in were decided on, or how they come in was said. Said anew rather than taken back.</summary>
    Contributions,

    /// <summary>Clearance that was given until a day came to its end.</summary>
    ClearanceEnded,
    Attached,
    Detached,

    /// <summary>Something went into the bin.</summary>
    Binned,

    /// <summary>Something came back out of the bin.</summary>
    Restored,

    /// <summary>Something was removed for good; it cannot be taken back.</summary>
    Emptied,

    /// <summary>Another act was taken back.</summary>
    TookBack,

    /// <summary>An intake was taken back whole.</summary>
    IntakeTakenBack,

    /// <summary>The demo or rows for trials were loaded.</summary>
    Loaded,
}

public static class ActKinds
{
    /// <summary>Whether an act of this kind can be taken back at all.</summary>
    public static bool CanUndo(ActKind kind) => kind is not (ActKind.Emptied or ActKind.Arrived or ActKind.Read or ActKind.Retried or ActKind.Loaded or ActKind.Filled or ActKind.MadeSite or ActKind.ClearanceEnded or ActKind.People or ActKind.Members or ActKind.Entry or ActKind.Choices or ActKind.Contributions or ActKind.Payments or ActKind.Invoices);

    /// <summary>Whether a further change of the same thing by the same person within a while is the same act: words typed in one go.</summary>
    public static bool GoesOn(ActKind kind) => kind is ActKind.Words or ActKind.Corrected or ActKind.AlbumWords or ActKind.EditedPage or ActKind.Menu or ActKind.Theme or ActKind.Front;

    /// <summary>How long apart such changes may lie.</summary>
    public static readonly TimeSpan OneGo = TimeSpan.FromMinutes(10);
}
