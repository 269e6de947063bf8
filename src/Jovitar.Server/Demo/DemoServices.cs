namespace Jovitar.Server.Demo;

/// <summary>What loads the demo.</summary>
internal static class DemoServices
{
    public static void AddDemo(this IServiceCollection services)
    {
        services.AddSingleton<DemoTalk>();
        services.AddSingleton<DemoClearance>();
        services.AddSingleton<DemoPeople>();
        services.AddSingleton<DemoAudiences>();
        services.AddSingleton<DemoWatermark>();
        services.AddSingleton<DemoPrices>();
        services.AddSingleton<DemoShop>();
        services.AddSingleton<DemoFavourites>();
        services.AddSingleton<DemoContributions>();
        services.AddSingleton<DemoMembers>();
        services.AddSingleton<DemoLoader>();
    }
}
