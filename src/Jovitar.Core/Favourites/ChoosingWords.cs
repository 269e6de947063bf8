namespace Jovitar.Core.Favourites;

/// <summary>The sentences about favourites that an album asks for.</summary>
public static class ChoosingWords
{
    /// <summary>What visitors are asked, where whoever asks has no words of their own.</summary>
    public const string Usual = "Please mark the photographs that you would have.";

    /// <summary>How many, and until when, as a sentence that follows; empty where nothing of it is said.</summary>
    public static string Terms(Choosing choosing) => (choosing.Most, choosing.Until) switch
    {
        (null, null) => "",
        ({ } most, null) => $"{UpTo(most)}.",
        (null, { } until) => $"You have until {Days.Said(until)}.",
        ({ } most, { } until) => $"{UpTo(most)}, until {Days.Said(until)}.",
    };

    /// <summary>Why a visitor cannot do what they tried to.</summary>
    public static string Refused(Refusal why, Choosing choosing) => why switch
    {
        Refusal.Sent => "These favourites were sent. Who asked for them can let you change them again.",
        Refusal.Over => $"This was possible until {Days.Said(choosing.Until ?? default)}.",
        Refusal.Full when choosing.Most is { } most => $"You may choose {most:#,0}. Let go of one first.",
        Refusal.Full => $"More than {Choosing.MostOfAll:#,0} cannot be chosen.",
        _ => "Mark a photograph first.",
    };

    static string UpTo(int most) => most == 1 ? "One of them" : $"Up to {most:#,0}";
}
