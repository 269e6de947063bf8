using Jovitar.Server.Intake.Archives;
using Jovitar.Server.Intake.Scanning;
using Jovitar.Server.Intake.Uploads;
using Jovitar.Server.Intake.Watching;

namespace Jovitar.Server.Intake;

/// <summary>What the intake is made of.</summary>
internal static class IntakeServices
{
    public static void AddIntake(this IServiceCollection services)
    {
        services.AddSingleton<IntakeStore>();
        services.AddSingleton<IntakeLines>();
        services.AddSingleton<IntakeAbouts>();
        services.AddSingleton<IntakeActs>();
        services.AddSingleton<PhotoQueue>();
        services.AddSingleton<Receiver>();
        services.AddSingleton<UploadStore>();
        services.AddSingleton<UploadWriter>();
        services.AddSingleton<UploadTaker>();
        services.AddSingleton<UnpackingStore>();
        services.AddSingleton<Unpacker>();
        services.AddSingleton<WatchedFolderStore>();
        services.AddHttpClient<EsclClient>(client => client.Timeout = TimeSpan.FromSeconds(90)).ConfigurePrimaryHttpMessageHandler(() => new SocketsHttpHandler { AllowAutoRedirect = false, ConnectTimeout = TimeSpan.FromSeconds(5) });
    }

    /// <summary>What works on by itself; a process without workers only answers requests.</summary>
    public static void AddIntakeWorkers(this IServiceCollection services, WorkerSettings settings)
    {
        services.AddHostedService<TidyWorker>();
        if (settings.Workers > 0)
        {
            services.AddHostedService<IntakeWorker>();
            services.AddHostedService<UnpackWorker>();
            services.AddHostedService<WatchedFolderWorker>();
        }
    }
}
