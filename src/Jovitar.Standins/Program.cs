using Jovitar.Standins.Scanner;

// Simulated outside devices and services for the demo and the tests: standins --urls http://127.0.0.1:PORT --prints FOLDER
var builder = WebApplication.CreateBuilder(args);
builder.Logging.SetMinimumLevel(LogLevel.Warning);
builder.Services.AddSingleton(new PrintTray(builder.Configuration["prints"] ?? "demo/photos"));
builder.Services.AddSingleton<ScannerState>();
var app = builder.Build();
app.MapScanner();
await app.RunAsync();
