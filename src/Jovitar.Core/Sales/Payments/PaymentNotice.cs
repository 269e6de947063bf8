namespace Jovitar.Core.Sales.Payments;

/// <summary>What a payment service says has become of a payment. It says so again and again, late, and in any order.</summary>
public enum PaymentNews
{
    Paid,

    /// <summary>Nobody will pay it any more: its time was over, or it was called off.</summary>
    Ended,

    /// <summary>Money went back.</summary>
    Refunded,
}

/// <summary>Something that a payment service says of a payment.</summary>
/// <param name="Payment">Our own name for it.</param>
/// <param name="Amount">What came; or what went back in all until then, so that hearing it twice changes nothing. Null where it says none.</param>
public sealed record PaymentNotice(PaymentId Payment, PaymentNews News, Money? Amount);
