namespace Jovitar.Core.Comments;

/// <summary>Which of the visitors may say something about a photo: of several albums that it is in, the most that one of them lets.</summary>
public enum TalkFor
{
    Nobody,

    /// <summary>Those whom the site knows: members, and who came by an entry link or a passcode.</summary>
    Known,
    Everyone,
}
