using Fenster.Store;

namespace Fenster.Web.Hosting;

/// <summary>
/// Soon after the start, and every night in the time zone of the machine, removes for good what was deleted long enough ago; by night it
/// gives the room back too.
/// </summary>
internal sealed class Sweeper(Deletions deletions, Sessions sessions, Database database, TimeProvider clock, ILogger<Sweeper> log)
    : BackgroundService
{
    /// <summary>When nobody teaches.</summary>
    private static readonly TimeSpan Night = TimeSpan.FromHours(3);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        // Not in the way of the first pages.
        await Task.Delay(TimeSpan.FromMinutes(1), clock, stoppingToken);
        await Sweep(byNight: false, stoppingToken);
        while (true)
        {
            await Task.Delay(UntilNight(clock.GetLocalNow()), clock, stoppingToken);
            await Sweep(byNight: true, stoppingToken);
        }
    }

    /// <summary>How long it is until the next night. Where clocks change it comes an hour off, once.</summary>
    internal static TimeSpan UntilNight(DateTimeOffset now) =>
        now.TimeOfDay < Night ? Night - now.TimeOfDay : TimeSpan.FromDays(1) + Night - now.TimeOfDay;

    private async Task Sweep(bool byNight, CancellationToken stoppingToken)
    {
        try
        {
            sessions.Sweep();
            if (await Task.Run(deletions.Sweep, stoppingToken) is > 0 and var count)
                Happenings.Swept(log, count);
            if (byNight)
                await Task.Run(() => database.Shrink(stoppingToken), stoppingToken);
        }
        catch (Exception exception) when (exception is not OperationCanceledException)
        {
            Happenings.SweepFailed(log, exception);
        }
    }
}
