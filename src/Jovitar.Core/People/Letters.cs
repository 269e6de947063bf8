using System.Globalization;
using Jovitar.Core.Access;

namespace Jovitar.Core.People;

/// <summary>A letter, as it is read: plain text, which every program for mail shows as it is.</summary>
/// <param name="Subject">On one line.</param>
public sealed record Letter(string Subject, string Text);

/// <summary>The letters that the site writes to people.</summary>
public static class Letters
{
    /// <summary>Somebody is asked to work on the site.</summary>
    /// <param name="site">What it is called.</param>
    /// <param name="by">Who asks them.</param>
    /// <param name="until">Until when the link is good.</param>
    public static Letter Invitation(string site, string name, string by, Role role, string link, DateTimeOffset until) => new(
        $"{by} invites you to {site}",
        $"""
        Dear {name},

        {by} would like you to work on “{site}” {Part(role)}

        Open this link, choose a password, and you are in:

        {link}

        It works once, and until {Moment(until)}. If you do not know what this is about, leave it: nothing happens.
        """);

    /// <summary>Somebody is to have the site from now on.</summary>
    /// <param name="by">Who hands it over, and has no part in it any more then.</param>
    public static Letter HandingOver(string site, string name, string by, string link, DateTimeOffset until) => new(
        $"{site} is handed over to you",
        $"""
        Dear {name},

        {by} has made “{site}” ready and hands it over to you. Open this link, choose a password, and it is yours:

        {link}

        From then on you see to all that there is in it, its people and its settings, too, and {by} has no part in it any more. The link works once, and until {Moment(until)}.
        """);

    /// <summary>Somebody asked for a link that signs them in.</summary>
    public static Letter WayIn(string site, string name, string link, DateTimeOffset until) => new(
        $"Your way in to {site}",
        $"""
        Dear {name},

        this link signs you in to the workroom of “{site}”. If you have forgotten your password, you can choose a new one there:

        {link}

        It works once, and until {Moment(until)}. If you did not ask for it, leave it: nobody comes in without it.
        """);

    /// <summary>The same for a member, whom it leads to the site.</summary>
    public static Letter MemberWayIn(string site, string name, string link, DateTimeOffset until) => new(
        $"Your way in to {site}",
        $"""
        Dear {name},

        this link signs you in to “{site}”. You can choose a password there, if you would rather have one:

        {link}

        It works once, and until {Moment(until)}. If you did not ask for it, leave it: nobody comes in without it.
        """);

    /// <summary>Somebody asked to become a member, and nobody has to accept it. What they call themselves does not stand in it: they may have typed somebody else's address.</summary>
    public static Letter Joined(string site, string link, DateTimeOffset until) => new(
        $"{site}: the photographs for members",
        $"""
        Welcome,

        somebody, most likely you, asked with this address to become a member of “{site}”: photographs that are not for everyone are there for you.

        Open this link, and you are in:

        {link}

        It works once, and until {Moment(until)}. After that, sign in at the foot of any page with this address of yours: a letter like this one comes. If it was not you, leave it: nobody comes in without it.
        """);

    /// <summary>Somebody is a member from now on.</summary>
    public static Letter Membership(string site, string name, string by, string link, DateTimeOffset until) => new(
        $"{site}: the photographs for members",
        $"""
        Dear {name},

        {by} made you a member of “{site}”: photographs that are not for everyone are there for you.

        Open this link, and you are in:

        {link}

        It works once, and until {Moment(until)}. After that, sign in at the foot of any page with this address of yours: a letter like this one comes. If you do not know what this is about, leave it: nothing happens.
        """);

    /// <summary>A visitor has chosen favourites and is done.</summary>
    /// <param name="who">Who that is: a member, or for whom the entry link is that they came by.</param>
    /// <param name="words">What they say with it; empty for nothing.</param>
    /// <param name="link">Where they are seen; null where nobody knows where the site is to be reached.</param>
    public static Letter Favourites(string site, string name, string who, string album, int photos, string words, string? link) => new(
        $"{site}: favourites of {who}",
        $"""
        Dear {name},

        {who} has chosen {(photos == 1 ? "one photograph" : $"{photos:#,0} photographs")} of “{album}”{(words.Length > 0 ? " and says:" : ".")}
        {(words.Length > 0 ? $"\n{string.Join('\n', words.Split('\n').Select(l => $"> {l}"))}\n" : "")}
        {(link is null ? "They wait on the desk of the workroom." : $"They are here:\n\n{link}")}
        """);

    /// <summary>Photos were sent in, and nothing else waits.</summary>
    /// <param name="who">Who sent them.</param>
    /// <param name="link">Where they are decided on; null where nobody knows where the site is to be reached.</param>
    public static Letter SentIn(string site, string name, string who, int photos, string? link) => new(
        $"{site}: photographs of {who}",
        $"""
        Dear {name},

        {who} has sent in {(photos == 1 ? "one photograph" : $"{photos:#,0} photographs")}. {(photos == 1 ? "It waits" : "They wait")} until somebody accepts {(photos == 1 ? "it" : "them")}.

        {(link is null ? "Find them in the workroom, among contributions." : $"Here:\n\n{link}")}

        Until somebody has, no more letters like this one come.
        """);

    /// <summary>For who sent photos in without an account. What they typed does not stand in it: they may have typed somebody else's address.</summary>
    /// <param name="link">Where they see what becomes of them.</param>
    public static Letter Receipt(string site, int photos, string link) => new(
        $"{site}: your photographs have come",
        $"""
        Good day,

        somebody, most likely you, sent {(photos == 1 ? "one photograph" : $"{photos:#,0} photographs")} to “{site}” and gave this address. {(photos == 1 ? "It has" : "They have")} come.

        Here you see what becomes of {(photos == 1 ? "it" : "them")}, and can mend what you wrote or take {(photos == 1 ? "it" : "one of them")} back:

        {link}

        Keep this address to yourself: who has it can do the same. If it was not you, leave it.
        """);

    /// <summary>All that somebody sent in has been decided on.</summary>
    /// <param name="refused">What was said of those that are not taken, each once.</param>
    public static Letter Decided(string site, int accepted, int refusedCount, IReadOnlyList<string> refused) => new(
        $"{site}: your photographs",
        $"""
        Good day,

        this is what became of the photographs that you sent to “{site}”: {(accepted == 0 ? "none was taken" : accepted == 1 ? "one was taken" : $"{accepted:#,0} were taken")}{(refusedCount == 0 ? "." : refusedCount == 1 ? ", one was not." : $", {refusedCount:#,0} were not.")}
        {(refused.Count > 0 ? $"\n{string.Join('\n', refused.Select(r => $"> {r.ReplaceLineEndings(" ")}"))}\n" : "")}
        {(accepted > 0 ? "Thank you for them." : "Thank you for sending them all the same.")}
        """);

    static string Part(Role role) => role == Role.Owner
        ? "as an owner: with all that there is in it, its people and its settings, too."
        : "as an editor: with its photos, albums and pages.";

    static string Moment(DateTimeOffset at) => $"{Days.Said(DateOnly.FromDateTime(at.UtcDateTime))}, {at.UtcDateTime.ToString("HH:mm", CultureInfo.InvariantCulture)} UTC";
}
