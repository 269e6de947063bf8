namespace Jovitar.Server.Sales.Payments;

/// <summary>The payment service that buyers pay at.</summary>
/// <param name="Address">Of the simulated service; null for the card service itself.</param>
/// <param name="Key">What we say to be let in there.</param>
/// <param name="Secret">What it signs its notices with.</param>
internal sealed record PaymentService(Uri? Address, string Key, string Secret);

/// <summary>Where buyers pay online.</summary>
/// <param name="Service">Null where nobody does.</param>
/// <param name="Pause">Between one look at what is still open and the next.</param>
internal sealed record PaymentSettings(PaymentService? Service, TimeSpan Pause)
{
    /// <summary>How the card service is named.</summary>
    const string Cards = "stripe";

    /// <summary>Reads which service it is: <c>stripe</c>, or the address of the simulated one.</summary>
    /// <exception cref="InvalidOperationException">It cannot be read, or its key or secret is missing.</exception>
    public static PaymentSettings From(string? service, string? key, string? secret, TimeSpan pause)
    {
        if (string.IsNullOrWhiteSpace(service))
        {
            return new PaymentSettings(null, pause);
        }

        var isCards = string.Equals(service.Trim(), Cards, StringComparison.OrdinalIgnoreCase);
        Uri? address = null;
        if (!isCards && !(Uri.TryCreate(service.Trim().TrimEnd('/') + "/", UriKind.Absolute, out address) && address.Scheme is "http" or "https"))
        {
            throw new InvalidOperationException($"The payment service is “{Cards}”, or the address of the simulated one, and “{service}” is neither.");
        }

        return !string.IsNullOrWhiteSpace(key) && !string.IsNullOrWhiteSpace(secret)
            ? new PaymentSettings(new PaymentService(address, key.Trim(), secret.Trim()), pause)
            : throw new InvalidOperationException("The payment service wants a key (Jovitar__PaymentsKey) and what it signs its notices with (Jovitar__PaymentsSecret).");
    }
}
