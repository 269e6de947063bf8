using System.Net;
using Jovitar.Server.Access;

namespace Jovitar.Server.People;

/// <summary>Counts the letters that are asked for, whether there is anybody to get them or not.</summary>
internal sealed class LetterLimit(TryCount tries)
{
    /// <summary>Letters an hour to one address.</summary>
    const int ToAddress = 3;

    /// <summary>Letters an hour asked for from one place: a class behind one line may have forgotten its passwords together.</summary>
    const int FromPlace = 30;

    static readonly TimeSpan Window = TimeSpan.FromHours(1);

    /// <summary>Counts one.</summary>
    /// <returns>How long it must wait; null when it may be written.</returns>
    public Task<TimeSpan?> WaitAsync(string email, IPAddress? from, CancellationToken ct) =>
        tries.WaitAsync(Window, ct, ($"l {AccountStore.Key(email)}", ToAddress), ($"m {TryCount.Network(from)}", FromPlace));

    public static string Sentence(TimeSpan wait) => $"So many letters were asked for that the next must wait {Math.Max(1, Math.Ceiling(wait.TotalMinutes))} minutes. Look among those that came.";
}
