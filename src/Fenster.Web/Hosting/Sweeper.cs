using Fenster.Store;

namespace Fenster.Web.Hosting;

/// <summary>Once a day, removes for good what was deleted long enough ago.</summary>
internal sealed class Sweeper(Deletions deletions, Sessions sessions, TimeProvider clock, ILogger<Sweeper> log) : BackgroundService
{
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        // Not in the way of the first pages.
        await Task.Delay(TimeSpan.FromMinutes(1), clock, stoppingToken);
        using var timer = new PeriodicTimer(TimeSpan.FromDays(1), clock);
        do
        {
            try
            {
                sessions.Sweep();
                if (await Task.Run(deletions.Sweep, stoppingToken) is > 0 and var count)
                    Happenings.Swept(log, count);
            }
            catch (Exception exception) when (exception is not OperationCanceledException)
            {
                Happenings.SweepFailed(log, exception);
            }
        } while (await timer.WaitForNextTickAsync(stoppingToken));
    }
}
