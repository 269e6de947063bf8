using Jovitar.Server.Sales.Coupons;
using Jovitar.Server.Sales.Figures;
using Jovitar.Server.Sales.Forgetting;
using Jovitar.Server.Sales.Invoicing;
using Jovitar.Server.Sales.Ordering;
using Jovitar.Server.Sales.Papers;
using Jovitar.Server.Sales.Payments;
using Jovitar.Server.Sales.Printing;

namespace Jovitar.Server.Sales;

/// <summary>What the site sells, by which prices, and what was ordered.</summary>
internal static class SalesServices
{
    public static void AddSales(this IServiceCollection services, PaymentSettings payments)
    {
        services.AddSingleton<PriceStore>();
        services.AddSingleton<SellingStore>();
        services.AddSingleton<EditionStore>();
        services.AddSingleton<FitStore>();
        services.AddSingleton<ShopStore>();
        services.AddSingleton<ShopShowing>();
        services.AddSingleton<CouponStore>();
        services.AddSingleton<BasketStore>();
        services.AddSingleton<BuyerLetters>();
        services.AddSingleton<OrderStore>();
        services.AddSingleton<OrderListStore>();
        services.AddSingleton<NeededStore>();
        services.AddSingleton<OrderTableStore>();
        services.AddSingleton<YearFile>();
        services.AddSingleton<SoldStore>();
        services.AddSingleton<OrderDoor>();
        services.AddSingleton<PrintFileStore>();
        services.AddSingleton<PaperStore>();
        services.AddSingleton<InvoiceStore>();
        services.AddSingleton(payments);
        services.AddSingleton(_ => PaymentDesk.Of(payments));
        services.AddSingleton<PaymentStore>();
        services.AddSingleton<RefundStore>();
        services.AddSingleton<ForgettingStore>();
    }

    public static void MapSales(this IEndpointRouteBuilder api)
    {
        api.MapPrices();
        api.MapSelling();
        api.MapShop();
        api.MapCoupons();
        api.MapOrders();
        api.MapRefunds();
        api.MapPrints();
        api.MapPapers();
        api.MapInvoices();
        api.MapSold();
        api.MapForgetting();
    }
}
