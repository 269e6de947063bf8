using Jovitar.Core.Sales.Ordering;

namespace Jovitar.Server.Sales.Ordering;

/// <summary>Conditions of SQL that an order <c>o</c> counts, or is sold, as <see cref="OrderStanding"/> has it and as indexes have it, too.</summary>
internal static class CountingOrders
{
    static readonly string Idle = string.Join(", ", Enum.GetValues<OrderState>().Where(s => !new OrderStanding(s, IsPaid: true, Delivery.Post).Counts).Select(s => $"'{s}'"));

    /// <summary><see cref="OrderStanding.Counts"/>.</summary>
    public static readonly string Counts = $"o.state not in ({Idle})";

    /// <summary>The opposite.</summary>
    public static readonly string CountsNot = $"o.state in ({Idle})";

    /// <summary><see cref="OrderStanding.IsSold"/>.</summary>
    public static readonly string IsSold = $"o.paid is not null and {Counts}";
}
