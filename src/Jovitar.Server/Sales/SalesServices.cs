using Jovitar.Server.Sales.Ordering;

namespace Jovitar.Server.Sales;

/// <summary>What the site sells, by which prices, and what was ordered.</summary>
internal static class SalesServices
{
    public static void AddSales(this IServiceCollection services)
    {
        services.AddSingleton<PriceStore>();
        services.AddSingleton<SellingStore>();
        services.AddSingleton<FitStore>();
        services.AddSingleton<ShopStore>();
        services.AddSingleton<BasketStore>();
        services.AddSingleton<OrderStore>();
        services.AddSingleton<OrderListStore>();
    }
}
