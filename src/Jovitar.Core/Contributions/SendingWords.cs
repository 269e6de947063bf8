namespace Jovitar.Core.Contributions;

/// <summary>The sentences that somebody reads who sends photos in.</summary>
public static class SendingWords
{
    /// <param name="most">So many photos fit.</param>
    public static string Refused(SendingRefusal refusal, int most) => refusal switch
    {
        SendingRefusal.Sent => "These are sent already. Begin anew to send more.",
        SendingRefusal.Full => most == 1 ? "One photo can be sent at once." : $"{most} photos can be sent at once. Send these first, then begin anew.",
        SendingRefusal.TooMuchWaits => "So many photos wait here already that no more are taken for now. Try again in a few days.",
        SendingRefusal.Over => "Photos are not taken here any more. What you sent stays.",
        SendingRefusal.Empty => "There is no photo among these yet. Choose some first.",
        _ => "Somebody has decided on this photo meanwhile.",
    };

    /// <summary>How many of a contribution's photos stand where, in a sentence.</summary>
    public static string Standing(int waiting, int accepted, int refused, int withdrawn)
    {
        (int Count, string Says)[] parts =
        [
            (waiting, waiting == 1 ? "waits to be looked at" : "wait to be looked at"), (accepted, accepted == 1 ? "is taken" : "are taken"), (refused, refused == 1 ? "is not taken" : "are not taken"),
            (withdrawn, withdrawn == 1 ? "was taken back" : "were taken back"),
        ];
        var said = parts.Where(p => p.Count > 0).Select((p, i) => i == 0 ? $"{(p.Count == 1 ? "1 photograph" : $"{p.Count} photographs")} {p.Says}" : $"{p.Count} {p.Says}").ToArray();
        return said.Length == 0 ? "No photographs." : $"{string.Join(", ", said)}.";
    }
}
