using System.Collections.Concurrent;
using System.Globalization;

namespace Jovitar.Standins.Payments;

/// <summary>What a buyer does at the simulated payment service.</summary>
internal enum Mood
{
    /// <summary>Every payment is made at once, and told at once.</summary>
    Pays,

    /// <summary>Told only after a delay.</summary>
    Late,

    /// <summary>Never told: the site has to ask.</summary>
    Silent,

    /// <summary>Told twice, in a storm, and an end of the payment after it.</summary>
    Storm,

    /// <summary>Another amount comes than was asked.</summary>
    Wrong,
}

/// <summary>What the service is asked for.</summary>
/// <param name="Key">Whoever asks names it; the same name is the same payment.</param>
/// <param name="Amount">Digits with a point.</param>
internal sealed record Asked(Guid Key, string Amount, string Currency, string Title, string Back, string Notices);

internal sealed record RefundAsked(Guid Key, string Amount);

/// <summary>A payment, as whoever asked for it is told.</summary>
/// <param name="State">open, paid or ended.</param>
/// <param name="Returned">All that went back until now.</param>
internal sealed record Told(Guid Key, string State, string? Paid, string? Returned, string Currency, string Id, string Page);

/// <summary>A payment at the simulated service.</summary>
internal sealed class Payment(Asked asked, string id)
{
    readonly Dictionary<Guid, decimal> refunds = [];

    public Asked Asked { get; } = asked;

    public string Id { get; } = id;

    public decimal? Paid { get; private set; }

    public bool IsEnded { get; private set; }

    decimal Amount { get; } = decimal.Parse(asked.Amount, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture);

    /// <returns>False where it was paid or has ended already.</returns>
    public bool Pay(bool wrongly)
    {
        lock (refunds)
        {
            if (Paid is not null || IsEnded)
            {
                return false;
            }

            Paid = wrongly ? Math.Round(Amount / 2, Digits) : Amount;
            return true;
        }
    }

    public void End()
    {
        lock (refunds)
        {
            IsEnded = Paid is null;
        }
    }

    /// <returns>False where more would go back than came.</returns>
    public bool Refund(Guid key, decimal amount)
    {
        lock (refunds)
        {
            if (refunds.ContainsKey(key))
            {
                return true;
            }

            if (amount <= 0 || Paid is null || refunds.Values.Sum() + amount > Paid)
            {
                return false;
            }

            refunds[key] = amount;
            return true;
        }
    }

    int Digits => Asked.Amount.IndexOf('.', StringComparison.Ordinal) is >= 0 and var point ? Asked.Amount.Length - point - 1 : 0;

    string Text(decimal amount) => amount.ToString($"F{Digits}", CultureInfo.InvariantCulture);

    public Told Told(string address)
    {
        lock (refunds)
        {
            return new Told(Asked.Key, Paid is not null ? "paid" : IsEnded ? "ended" : "open", Paid is { } paid ? Text(paid) : null, refunds.Count > 0 ? Text(refunds.Values.Sum()) : null, Asked.Currency, Id, $"{address}/pay/{Id}");
        }
    }
}

/// <summary>What the simulated payment service holds.</summary>
/// <param name="key">What it wants to be told before it answers.</param>
/// <param name="secret">What it signs with.</param>
internal sealed class Till(string key, string secret)
{
    readonly ConcurrentDictionary<Guid, Payment> payments = new();

    public string Key { get; set; } = key;

    public string Secret => secret;

    public Mood Mood { get; set; }

    /// <summary>How long a late notice is on its way.</summary>
    public TimeSpan Delay { get; set; } = TimeSpan.FromMinutes(3);

    /// <summary>It answers nothing: a service that is down.</summary>
    public bool IsAway { get; set; }

    public Payment Open(Asked asked) => payments.GetOrAdd(asked.Key, _ => new Payment(asked, $"p{Guid.NewGuid():N}"));

    public Payment? Find(Guid asked) => payments.GetValueOrDefault(asked);

    public Payment? Find(string id) => payments.Values.FirstOrDefault(p => p.Id == id);
}
