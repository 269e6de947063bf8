namespace Jovitar.Core.Contributions;

/// <summary>Whether a member sends photos in, and what becomes of them. Kept by name.</summary>
public enum Contributing
{
    /// <summary>They send none in.</summary>
    No,

    /// <summary>What they send waits until somebody accepts it.</summary>
    Waits,

    /// <summary>What they send is accepted by itself.</summary>
    Trusted,
}

/// <summary>Where a photo stands that was sent in. Kept by name.</summary>
public enum SentState
{
    /// <summary>Nobody has decided on it.</summary>
    Waiting,

    /// <summary>It is taken: it is a photo here, or becomes one in a moment.</summary>
    Accepted,

    /// <summary>It is not taken.</summary>
    Refused,

    /// <summary>Whoever sent it has taken it back.</summary>
    Withdrawn,
}

/// <summary>Why something that a sender wants to do is not done.</summary>
public enum SendingRefusal
{
    /// <summary>It was sent already.</summary>
    Sent,

    /// <summary>No more photos fit into one contribution.</summary>
    Full,

    /// <summary>So much waits already that nothing more is taken for now.</summary>
    TooMuchWaits,

    /// <summary>Photos are no longer taken in this way.</summary>
    Over,

    /// <summary>There is no photo in it.</summary>
    Empty,

    /// <summary>Somebody has decided on it.</summary>
    Decided,
}

/// <summary>The bounds of sending photos in.</summary>
public static class Sending
{
    /// <summary>So many photos one contribution holds at most, whatever is said.</summary>
    public const int MostPhotos = 200;

    /// <summary>So many photos wait at most of those that came by one link, or of one member: whoever looks after the site comes first.</summary>
    public const int MostWaiting = 2000;

    /// <summary>So many bytes wait at most of those that came by one link, or of one member.</summary>
    public const long MostBytesWaiting = 20L << 30;

    /// <summary>What was begun and not sent is kept for so long.</summary>
    public static readonly TimeSpan DraftLife = TimeSpan.FromDays(7);

    /// <summary>For so long after it was refused a photo can be accepted after all; then its bytes go.</summary>
    public static readonly TimeSpan RefusedLife = TimeSpan.FromDays(30);

    public const int LongestTitle = 200;
    public const int LongestCaption = 2000;

    /// <summary>What is said with a contribution, and why a photo is refused, UTF-16 code units.</summary>
    public const int LongestWords = 2000;

    /// <summary>Whether whoever sent it may still write its words.</summary>
    public static bool CanMend(SentState state) => state == SentState.Waiting;

    /// <summary>Whether whoever sent it may take it back: also after it was accepted, for it is theirs.</summary>
    public static bool CanWithdraw(SentState state) => state is SentState.Waiting or SentState.Accepted;

    /// <summary>Whether staff may decide on a photo so.</summary>
    /// <param name="from">Where it stands.</param>
    /// <param name="isKept">Its bytes are kept: what was refused can be accepted after all.</param>
    /// <param name="to">Accepted or refused.</param>
    public static bool CanDecide(SentState from, bool isKept, SentState to) => to switch
    {
        SentState.Accepted => from == SentState.Waiting || (from == SentState.Refused && isKept),
        SentState.Refused => from == SentState.Waiting,
        _ => false,
    };

    /// <summary>Why no photo more is taken into a contribution; null where one is.</summary>
    /// <param name="isSent">It was sent.</param>
    /// <param name="photos">How many are in it.</param>
    /// <param name="most">So many fit.</param>
    /// <param name="waiting">How many wait of all that came in the same way.</param>
    /// <param name="bytes">Of those.</param>
    public static SendingRefusal? RefusesMore(bool isSent, int photos, int most, int waiting, long bytes) =>
        isSent ? SendingRefusal.Sent
        : photos >= Math.Min(most, MostPhotos) ? SendingRefusal.Full
        : waiting >= MostWaiting || bytes >= MostBytesWaiting ? SendingRefusal.TooMuchWaits
        : null;
}
