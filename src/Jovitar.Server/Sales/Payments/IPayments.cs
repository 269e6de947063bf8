using System.Net;
using Jovitar.Core;
using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Payments;

namespace Jovitar.Server.Sales.Payments;

/// <summary>What a payment service is asked for.</summary>
/// <param name="Title">What its buyer reads there.</param>
/// <param name="Email">Of the buyer.</param>
/// <param name="Back">Where they come back to, whatever they did there.</param>
/// <param name="Notices">Where the service says what has become of it.</param>
internal sealed record PaymentAsked(PaymentId Id, Money Amount, string Title, string Email, string Back, string Notices);

/// <summary>A payment, as its service knows it.</summary>
/// <param name="Reference">Its name there.</param>
/// <param name="Page">Where its buyer pays.</param>
internal sealed record PaymentPlace(string Reference, string Page);

/// <summary>What arrived as a notice.</summary>
/// <param name="Signature">Whether the service wrote it.</param>
/// <param name="Notices">What it says; empty where it is about nothing of ours.</param>
internal sealed record ReadNotice(Signature Signature, IReadOnlyList<PaymentNotice> Notices)
{
    public static ReadNotice Refused(Signature signature) => new(signature, []);
}

/// <summary>A payment service does not answer, or not as it should: it is asked again.</summary>
internal sealed class PaymentsAwayException(string message, Exception? inner = null) : Exception(message, inner);

/// <summary>A payment service refuses what it was asked for; asking again is no use.</summary>
internal sealed class PaymentsRefuseException(string message, Exception? inner = null) : Exception(message, inner)
{
    /// <summary>Whether a status says so. That we are not let in says nothing of what was asked for: people set that right, and it is asked again.</summary>
    public static bool Is(HttpStatusCode status) =>
        (int)status is >= 400 and < 500
        && status is not (HttpStatusCode.Unauthorized or HttpStatusCode.Forbidden or HttpStatusCode.RequestTimeout or HttpStatusCode.Conflict or HttpStatusCode.TooManyRequests);
}

/// <summary>A payment service. Whatever is asked of it with the same name twice is done once.</summary>
internal interface IPayments
{
    /// <summary>What it is kept as with each payment; a name never changes its meaning.</summary>
    string Name { get; }

    /// <summary>Where its pages are: scheme and host.</summary>
    string Pages { get; }

    /// <summary>Opens a payment.</summary>
    /// <exception cref="PaymentsAwayException"/>
    /// <exception cref="PaymentsRefuseException"/>
    Task<PaymentPlace> OpenAsync(PaymentAsked asked, CancellationToken ct);

    /// <summary>What has become of a payment, in case its notice is lost.</summary>
    /// <returns>Nothing while nothing has.</returns>
    /// <exception cref="PaymentsAwayException"/>
    /// <exception cref="PaymentsRefuseException"/>
    Task<IReadOnlyList<PaymentNotice>> AskAsync(PaymentId payment, string reference, CancellationToken ct);

    /// <summary>Sends money back.</summary>
    /// <exception cref="PaymentsAwayException"/>
    /// <exception cref="PaymentsRefuseException"/>
    Task RefundAsync(RefundId refund, PaymentId payment, string reference, Money amount, CancellationToken ct);

    /// <summary>Reads what arrived as a notice.</summary>
    ReadNotice Read(string body, IHeaderDictionary headers, DateTimeOffset now);
}
