using Microsoft.Extensions.Diagnostics.HealthChecks;
using Npgsql;

namespace Jovitar.Server.Platform;

/// <summary>Whether the database answers.</summary>
internal sealed class DatabaseCheck(NpgsqlDataSource db) : IHealthCheck
{
    public async Task<HealthCheckResult> CheckHealthAsync(HealthCheckContext context, CancellationToken cancellationToken = default)
    {
        try
        {
            await using var command = db.CreateCommand("select 1");
            command.CommandTimeout = 3;
            await command.ExecuteScalarAsync(cancellationToken);
            return HealthCheckResult.Healthy();
        }
        catch (NpgsqlException e)
        {
            return HealthCheckResult.Unhealthy(exception: e);
        }
    }
}
