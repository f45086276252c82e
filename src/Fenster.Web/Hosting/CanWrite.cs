using Fenster.Store;
using Microsoft.Data.Sqlite;
using Microsoft.Extensions.Diagnostics.HealthChecks;

namespace Fenster.Web.Hosting;

/// <summary>Healthy is who can store what students do.</summary>
internal sealed class CanWrite(Database database) : IHealthCheck
{
    public Task<HealthCheckResult> CheckHealthAsync(HealthCheckContext context, CancellationToken cancellationToken = default)
    {
        if (database.HasFailedLately)
            return Task.FromResult(HealthCheckResult.Unhealthy("Something could not be stored lately."));
        try
        {
            database.TryWriting();
            return Task.FromResult(HealthCheckResult.Healthy());
        }
        catch (Exception exception) when (exception is SqliteException or IOException)
        {
            return Task.FromResult(HealthCheckResult.Unhealthy("Nothing can be stored.", exception));
        }
    }
}
