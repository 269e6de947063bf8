using Jovitar.Core.Sales.Payments;

namespace Jovitar.Core.Sales.Ordering;

/// <summary>How far an order has come. Kept by name.</summary>
public enum OrderState
{
    Placed,

    /// <summary>What was ordered is being made.</summary>
    InWork,
    Sent,

    /// <summary>Its buyer has it.</summary>
    Collected,
    Cancelled,
}

/// <summary>What is done with an order. Kept by name.</summary>
public enum OrderStep
{
    /// <summary>Its money has come.</summary>
    Pay,
    Begin,
    Send,
    HandOver,
    Cancel,
}

/// <summary>Where an order stands.</summary>
/// <param name="IsPaid">Its money has come. Work may begin before: whoever sells decides whom they trust.</param>
/// <param name="Refunded">How much of it went back.</param>
public readonly record struct OrderStanding(OrderState State, bool IsPaid, Delivery Delivery, Refunded Refunded = Refunded.Nothing)
{
    /// <summary>What can be done with it now, what usually comes next first.</summary>
    public IReadOnlyList<OrderStep> Next => State switch
    {
        OrderState.Cancelled => [],
        OrderState.Sent or OrderState.Collected => IsPaid ? [] : [OrderStep.Pay],
        _ =>
        [
            .. IsPaid ? (OrderStep[])[] : [OrderStep.Pay],
            .. State == OrderState.Placed ? (OrderStep[])[OrderStep.Begin] : [],
            Delivery == Delivery.Collect ? OrderStep.HandOver : OrderStep.Send,
            OrderStep.Cancel,
        ],
    };

    /// <summary>It counts: what it has of an edition is sold, and its coupons are used.</summary>
    public bool Counts => State != OrderState.Cancelled;

    /// <summary>What it comes to is what was sold.</summary>
    public bool IsSold => Counts && IsPaid;

    /// <summary>Something of it is still to be done.</summary>
    public bool IsOpen => State is OrderState.Placed or OrderState.InWork;

    /// <summary>Something of it is to be printed by now: it is paid, or whoever sells has begun with it.</summary>
    public bool IsToPrint => Delivery != Delivery.Files && (State == OrderState.InWork || (State == OrderState.Placed && IsPaid));

    /// <summary>Its buyer can pay it: late, too, and while it is in work or has been sent.</summary>
    public bool CanBePaid => !IsPaid && State != OrderState.Cancelled;

    /// <summary>Where it stands after a step; null where that cannot be done.</summary>
    public OrderStanding? After(OrderStep step) => !Next.Contains(step) ? null : step switch
    {
        OrderStep.Pay => this with { IsPaid = true },
        OrderStep.Begin => this with { State = OrderState.InWork },
        OrderStep.Send => this with { State = OrderState.Sent },
        OrderStep.HandOver => this with { State = OrderState.Collected },
        _ => this with { State = OrderState.Cancelled },
    };
}
