using System.Text.Json.Serialization;
using Jovitar.Standins.Outbox;
using Jovitar.Standins.Payments;
using Jovitar.Standins.Scanner;

// Simulated outside devices and services for the demo and the tests: standins --urls http://127.0.0.1:PORT --prints FOLDER --mail PORT --key KEY --secret SECRET
var builder = WebApplication.CreateBuilder(args);
builder.Logging.SetMinimumLevel(LogLevel.Warning);
builder.Services.AddSingleton(new PrintTray(builder.Configuration["prints"] ?? "demo/photos"));
builder.Services.AddSingleton<ScannerState>();
builder.Services.AddSingleton<Tray>();
builder.Services.AddSingleton(new Till(builder.Configuration["key"] ?? "simulated", builder.Configuration["secret"] ?? "simulated"));
builder.Services.AddSingleton(services => new Notices(services.GetRequiredService<Till>(), new HttpClient { Timeout = TimeSpan.FromSeconds(20) }));
builder.Services.ConfigureHttpJsonOptions(options => options.SerializerOptions.Converters.Add(new JsonStringEnumConverter(System.Text.Json.JsonNamingPolicy.CamelCase)));
var app = builder.Build();
app.MapScanner();
app.MapOutbox();
app.MapPayments();
if (builder.Configuration.GetValue<int?>("mail") is { } port)
{
    _ = OutboxEndpoints.ListenAsync(app.Services.GetRequiredService<Tray>(), port, app.Lifetime.ApplicationStopping);
}

await app.RunAsync();
