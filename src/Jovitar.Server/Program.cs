using System.Globalization;
using System.Text.Json;
using System.Text.Json.Serialization;
using Jovitar.Server;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Access.Entries;
using Jovitar.Server.Access.Passkeys;
using Jovitar.Server.Access.Reserves;
using Jovitar.Server.Acts;
using Jovitar.Server.Albums;
using Jovitar.Server.Bins;
using Jovitar.Server.Clearance;
using Jovitar.Server.Comments;
using Jovitar.Server.Contributions;
using Jovitar.Server.Demo;
using Jovitar.Server.Corrections;
using Jovitar.Server.Describing;
using Jovitar.Server.Desk;
using Jovitar.Server.Favourites;
using Jovitar.Server.Files;
using Jovitar.Server.Intake;
using Jovitar.Server.Intake.Scanning;
using Jovitar.Server.Intake.Uploads;
using Jovitar.Server.Intake.Watching;
using Jovitar.Server.Narrowings;
using Jovitar.Server.Opening;
using Jovitar.Server.Pages;
using Jovitar.Server.People;
using Jovitar.Server.People.Members;
using Jovitar.Server.Photos;
using Jovitar.Server.PersonalData;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Mailing;
using Jovitar.Server.Platform.Storing;
using Jovitar.Server.Records;
using Jovitar.Server.Sales;
using Jovitar.Server.Sales.Forgetting;
using Jovitar.Server.Sales.Invoicing;
using Jovitar.Server.Sales.Ordering;
using Jovitar.Server.Sales.Payments;
using Jovitar.Server.Site;
using Jovitar.Server.Site.Buying;
using Jovitar.Server.Site.Drawing;
using Jovitar.Server.Site.Embedding;
using Jovitar.Server.Site.Entering;
using Jovitar.Server.Site.Favourites;
using Jovitar.Server.Site.Finding;
using Jovitar.Server.Starters;
using Jovitar.Server.Taxonomy;
using Jovitar.Server.Themes;
using Jovitar.Server.Visits;
using Jovitar.Server.Watermarks;
using Jovitar.Server.Verify;
using Microsoft.AspNetCore.ResponseCompression;
using Microsoft.AspNetCore.StaticFiles;
using OpenTelemetry.Metrics;
using OpenTelemetry.Trace;
using Serilog;

if (args is ["verify", var checkedData, var checkedDatabase])
{
    return await DataCheck.RunAsync(checkedData, checkedDatabase, Console.Out, CancellationToken.None) ? 0 : 1;
}

NativeMemory.KeepFlat();
var builder = WebApplication.CreateBuilder(args);
var settings = ServerSettings.From(builder.Configuration);
builder.Services.AddSerilog(log => log
    .MinimumLevel.Is(builder.Configuration.GetValue("Jovitar:Log", Serilog.Events.LogEventLevel.Warning))
    // The keys lie in the database, guarded as the passwords are; that they are not sealed once more is as meant.
    .MinimumLevel.Override("Microsoft.AspNetCore.DataProtection", Serilog.Events.LogEventLevel.Error)
    .WriteTo.Console(formatProvider: CultureInfo.InvariantCulture, outputTemplate: "{Timestamp:HH:mm:ss} {Level:u3} {SourceContext} {Message:lj}{NewLine}{Exception}"));
if (!string.IsNullOrEmpty(builder.Configuration["OTEL_EXPORTER_OTLP_ENDPOINT"]))
{
    builder.Services.AddOpenTelemetry()
        .WithTracing(t => t.AddAspNetCoreInstrumentation().AddSource("Npgsql").AddOtlpExporter())
        .WithMetrics(m => m.AddAspNetCoreInstrumentation().AddMeter("Npgsql", "System.Runtime").AddOtlpExporter());
}

builder.Services.AddSingleton(TimeProvider.System);
builder.Services.AddSingleton(_ => Database.Open(settings.Connection));
builder.Services.AddSingleton(_ => new Storage(settings.Data));
builder.Services.AddSingleton<Arrivals>();
builder.Services.AddSingleton(settings.Worker);
builder.Services.AddSingleton(settings.Watch);
builder.Services.AddSingleton(settings.Scanners);
builder.Services.AddSingleton(settings);
builder.Services.AddSingleton(settings.Mail);
builder.Services.AddSingleton<LetterStore>();
builder.Services.AddSingleton<SettingsStore>();
builder.Services.AddSingleton<Originals>();
builder.Services.AddSingleton<ActRunner>();
builder.Services.AddSingleton<ActUndo>();
builder.Services.AddSingleton<AccessStore>();
builder.Services.AddSingleton<SightStore>();
builder.Services.AddSingleton<AudienceStore>();
builder.Services.AddSingleton<PhotoAudienceStore>();
builder.Services.AddSingleton<ViewerStore>();
builder.Services.AddSingleton<MemberSightStore>();
builder.Services.AddSingleton<EntryStore>();
builder.Services.AddSingleton<AccountStore>();
builder.Services.AddSingleton<SessionStore>();
builder.Services.AddSingleton<SecondStepStore>();
builder.Services.AddSingleton<TryCount>();
builder.Services.AddSingleton<SignInLimit>();
builder.Services.AddSingleton<PeopleStore>();
builder.Services.AddSingleton<MemberStore>();
builder.Services.AddSingleton<JoinStore>();
builder.Services.AddSingleton<GroupStore>();
builder.Services.AddSingleton<LetterLimit>();
builder.Services.AddSingleton<InvitationStore>();
builder.Services.AddSingleton<WayInStore>();
builder.Services.AddSingleton<FrontStore>();
builder.Services.AddSingleton<SiteGate>();
builder.Services.AddSingleton<TagStore>();
builder.Services.AddSingleton<TagKeeping>();
builder.Services.AddSingleton<CategoryStore>();
builder.Services.AddSingleton<PhotoStore>();
builder.Services.AddSingleton<IndexKeeper>();
builder.Services.AddSingleton<SheetStore>();
builder.Services.AddSingleton<CountStore>();
builder.Services.AddSingleton<NarrowingStore>();
builder.Services.AddSingleton<RepeatStore>();
builder.Services.AddSingleton<HandStore>();
builder.Services.AddSingleton<FileStore>();
builder.Services.AddSingleton<AlbumStore>();
builder.Services.AddSingleton<AlbumPhotoStore>();
builder.Services.AddSingleton<FillingStore>();
builder.Services.AddSingleton<StandingStore>();
builder.Services.AddSingleton<OfferStore>();
builder.Services.AddSingleton<CategoryAlbumStore>();
builder.Services.AddSingleton<CorrectionStore>();
builder.Services.AddSingleton<PrintStore>();
builder.Services.AddSingleton<DescribingStore>();
builder.Services.AddSingleton<SummaryStore>();
builder.Services.AddSingleton<LeavingStore>();
builder.Services.AddSingleton<RowStore>();
builder.Services.AddSingleton<TableStore>();
builder.Services.AddSingleton<PageStore>();
builder.Services.AddSingleton<KeptSettingsStore>();
builder.Services.AddSingleton<VersionStore>();
builder.Services.AddSingleton<UnseenStore>();
builder.Services.AddSingleton<StarterStore>();
builder.Services.AddSingleton<MenuStore>();
builder.Services.AddSingleton<ThemeStore>();
builder.Services.AddSingleton<LogoStore>();
builder.Services.AddSingleton<WatermarkStore>();
builder.Services.AddSingleton<MarkingStore>();
builder.Services.AddSingleton<ReserveStore>();
builder.Services.AddSales(settings.Payments);
builder.Services.AddSingleton<ExampleStore>();
builder.Services.AddSingleton<SiteLinks>();
builder.Services.AddSingleton<SiteBars>();
builder.Services.AddSingleton<SiteSources>();
builder.Services.AddSingleton<PhotoColours>();
builder.Services.AddSingleton<SiteOffers>();
builder.Services.AddSingleton<SiteBlocks>();
builder.Services.AddSingleton<BinStore>();
builder.Services.AddSingleton<SitePhotos>();
builder.Services.AddSingleton<SiteIndexStore>();
builder.Services.AddSingleton<ShownPhotos>();
builder.Services.AddSingleton<SiteFavourites>();
builder.Services.AddBuying();
builder.Services.AddSingleton<SiteStore>();
builder.Services.AddSingleton(new SiteOrigin(settings.Address));
builder.Services.AddSingleton<SiteMapStore>();
builder.Services.AddSingleton<PhotoFeeds>();
builder.Services.AddSingleton<SiteDoor>();
builder.Services.AddSingleton<SavingDoor>();
builder.Services.AddSingleton(settings.Visits);
builder.Services.AddSingleton<VisitStore>();
builder.Services.AddSingleton<VisitCounter>();
builder.Services.AddSingleton<RecordStore>();
builder.Services.AddSingleton<RecordWriter>();
builder.Services.AddSingleton<OwnerLetters>();
builder.Services.AddSingleton<LinkStore>();
builder.Services.AddSingleton<SentFiles>();
builder.Services.AddSingleton<SentStore>();
builder.Services.AddSingleton<ContributionStore>();
builder.Services.AddSingleton<ContributionListStore>();
builder.Services.AddSingleton<DecidingStore>();
builder.Services.AddSingleton<Admission>();
builder.Services.AddSingleton<PersonalDataStore>();
builder.Services.AddSingleton<ChoiceStore>();
builder.Services.AddSingleton<ChoiceListStore>();
builder.Services.AddSingleton<SiteChoices>();
builder.Services.AddSingleton<TalkStore>();
builder.Services.AddSingleton<CommentStore>();
builder.Services.AddSingleton<ClearanceStore>();
builder.Services.AddSingleton<PersonStore>();
builder.Services.AddSingleton<SiteAssets>();
builder.Services.AddSingleton<SiteRenderer>();
builder.Services.AddSingleton<SiteWeights>();
builder.Services.AddSingleton<RenditionService>();
builder.Services.AddSingleton<DeskStore>();
builder.Services.AddSingleton<DeskNews>();
builder.Services.AddSingleton<HistoryStore>();
// What follows from acts, in the order in which it follows: what goes and comes back with what, then words, then pages.
builder.Services.AddSingleton<IActListener, IntakeListener>();
builder.Services.AddSingleton<IActListener, BinListener>();
builder.Services.AddSingleton<IActListener, PlaceListener>();
builder.Services.AddSingleton<IActListener, TagWords>();
builder.Services.AddSingleton<IActListener, FillingListener>();
builder.Services.AddSingleton<IActListener, PageFreshness>();
builder.Services.AddIntake();
builder.Services.AddDemo();
builder.Services.AddSingleton<TrialPhotos>();
if (!settings.DescribeOnly)
{
    builder.Services.AddHostedService<IndexWarmer>();
    builder.Services.AddHostedService<FillingWorker>();
    builder.Services.AddHostedService<PlanWorker>();
    builder.Services.AddHostedService<ClearanceWorker>();
    builder.Services.AddHostedService<WayInWorker>();
    builder.Services.AddHostedService<JoinWorker>();
    builder.Services.AddHostedService<LetterWorker>();
    builder.Services.AddHostedService<ContributionWorker>();
    builder.Services.AddHostedService<WatermarkWorker>();
    builder.Services.AddHostedService<BasketWorker>();
    builder.Services.AddHostedService<PaymentWorker>();
    builder.Services.AddHostedService<InvoiceWorker>();
    builder.Services.AddHostedService<ForgettingWorker>();
    builder.Services.AddHostedService(services => services.GetRequiredService<VisitCounter>());
    builder.Services.AddHostedService(services => services.GetRequiredService<RecordWriter>());
    builder.Services.AddIntakeWorkers(settings.Worker);
}

builder.Services.AddSecurity(settings.Proxies);
builder.Services.AddPasskeys(settings.Address);
builder.Services.AddExceptionHandler<ProblemHandler>();
builder.Services.AddSingleton<IProblemDetailsWriter, ProblemWriter>();
builder.Services.AddProblemDetails();
builder.Services.AddValidation();
builder.Services.Configure<RouteHandlerOptions>(options => options.ThrowOnBadRequest = true);
builder.Services.ConfigureHttpJsonOptions(options =>
{
    options.SerializerOptions.Converters.Add(new TypedIdConverters());
    // A number names none: those that are not there would be kept and break whoever reads them.
    options.SerializerOptions.Converters.Add(new JsonStringEnumConverter(JsonNamingPolicy.CamelCase, allowIntegerValues: false));
    options.SerializerOptions.NumberHandling = JsonNumberHandling.Strict;
    // What a type says must be there must be there: a missing or null value never gets past the edge.
    options.SerializerOptions.RespectNullableAnnotations = true;
    options.SerializerOptions.RespectRequiredConstructorParameters = true;
});
builder.Services.AddOpenApi("v1", options =>
{
    options.AddSchemaTransformer<TypedIdSchemas>();
    options.AddDocumentTransformer((document, _, _) =>
    {
        document.Info.Title = "Jovitar";
        document.Servers = [];
        Discriminators.Require(document);
        return Task.CompletedTask;
    });
});
builder.Services.AddResponseCompression(options => options.MimeTypes = [.. ResponseCompressionDefaults.MimeTypes.Where(t => t != "text/html"), "image/svg+xml"]);
builder.Services.AddHealthChecks().AddCheck<DatabaseCheck>("database");

await using var app = builder.Build();
try
{
    if (!settings.DescribeOnly)
    {
        Database.Migrate(settings.Connection);
    }
}
catch (NewerDataException e)
{
    Console.Error.WriteLine(e.Message);
    return 1;
}

if (settings.Proxies.Count > 0)
{
    // With nobody named the platform would believe everybody.
    app.UseForwardedHeaders();
}

app.UseExceptionHandler();
app.UseSecurityHeaders();
app.UseKnownRenditions();
app.UseHeads();
app.UseSoundAddresses();
app.UseResponseCompression();
app.UseStaticFiles(new StaticFileOptions
{
    ContentTypeProvider = new FileExtensionContentTypeProvider(),
    // Built files carry a hash in their names and never change; the few that do not are asked for again.
    OnPrepareResponse = context => context.Context.Response.Headers.CacheControl = context.File.Name.Contains('-', StringComparison.Ordinal) ? "public, max-age=31536000, immutable" : "public, max-age=3600",
});
app.UseRouting();
app.UseAuthentication();
app.UseAuthorization();
app.UseForgeryCheck();
app.UsePreconditions();
app.UseClosedSite();
app.UseSeeingAs();

app.MapHealthChecks("/health/live", new() { Predicate = _ => false }).AllowAnonymous().WithMetadata(AlwaysOpen.Instance);
app.MapHealthChecks("/health/ready").AllowAnonymous().WithMetadata(AlwaysOpen.Instance);
app.MapOpenApi().AllowAnonymous().WithMetadata(AlwaysOpen.Instance);
var api = app.MapGroup("/api");
api.MapSession();
api.MapAccount();
api.MapPasskeys();
api.MapPeople();
api.MapMembers();
api.MapAudiences();
api.MapViewers();
api.MapWaysIn();
api.MapOpening();
api.MapDesk();
api.MapHistory();
api.MapIntake();
api.MapUploads();
api.MapWatchedFolders();
api.MapScanners();
api.MapFiles();
api.MapPhotos();
api.MapRepeats();
api.MapHand();
api.MapExceptions();
api.MapBin();
api.MapNarrowings();
api.MapCategories();
api.MapTags();
api.MapAlbums();
api.MapOffers();
api.MapSales();
api.MapChoices();
api.MapContributions();
api.MapPersonalData();
api.MapCorrections();
api.MapDescribing();
api.MapLeaving();
api.MapTables();
api.MapThemes();
api.MapWatermarks();
api.MapReserves();
api.MapPages();
api.MapStarters();
api.MapComments();
api.MapClearance();
api.MapRecords();
api.MapFound();
api.MapKeptSettings();
api.MapMenu();
api.MapEmbeds();
foreach (var address in (string[])["/workroom", "/workroom/{**station}"])
{
    app.MapGet(address, (HttpContext http, SiteAssets assets) =>
    {
        http.Response.Headers.CacheControl = "no-cache";
        // Radix places what floats by setting styles through the CSSOM, which the policy allows; no inline style is written.
        return TypedResults.Content(assets.WorkroomHtml, "text/html; charset=utf-8");
    }).AllowAnonymous().WithMetadata(AlwaysOpen.Instance).ExcludeFromDescription();
}

app.MapPaymentNotices();
app.MapSite();
app.MapFilesOfPages();
app.MapLogo();

try
{
    await app.StartAsync();
}
catch (IOException e) when (e.InnerException is Microsoft.AspNetCore.Connections.AddressInUseException)
{
    Console.Error.WriteLine($"Another program already uses this address: {string.Join(", ", app.Urls)}. Choose another port with --port.");
    return 1;
}

if (settings.DemoFolder is { } demo)
{
    await app.Services.GetRequiredService<DemoLoader>().LoadOnceAsync(demo, app.Lifetime.ApplicationStopping);
}

if (!settings.DescribeOnly)
{
    await app.Services.GetRequiredService<TrialPhotos>().FindBytesAsync(app.Lifetime.ApplicationStopping);
}

if (settings.TrialPhotos > 0)
{
    await app.Services.GetRequiredService<TrialPhotos>().AddUpToAsync(settings.TrialPhotos, app.Lifetime.ApplicationStopping);
}

if (settings.Announce)
{
    Console.WriteLine("ready");
}

await app.WaitForShutdownAsync();
return 0;

/// <summary>Named so that tests can start the server in their own process.</summary>
internal sealed partial class Program;
