using Fenster.Store;

namespace Fenster.Web.Hosting;

/// <summary>
/// Hands in what is there when a time is over, every second, whether or not a browser still lives; after the server was off, all that
/// ran out meanwhile. What opens, closes and is released does so by the time alone, whoever asks.
/// </summary>
internal sealed class Clockwork(Attempts attempts, TimeProvider clock, ILogger<Clockwork> log) : BackgroundService
{
    private const int MostAtOnce = 200;

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(TimeSpan.FromSeconds(1), clock);
        do
        {
            try
            {
                while (attempts.Due(MostAtOnce) is { Count: > 0 } due && await HandIn(due) && !stoppingToken.IsCancellationRequested) { }
            }
            catch (Exception exception) when (exception is not OperationCanceledException)
            {
                // A disk that is full now may not be so in a second; nothing is lost meanwhile.
                Happenings.HandingInFailed(log, exception);
            }
        } while (await timer.WaitForNextTickAsync(stoppingToken));
    }

    /// <returns>Whether any was handed in.</returns>
    private async Task<bool> HandIn(IReadOnlyList<long> due)
    {
        var any = false;
        foreach (var id in due)
            if (await attempts.HandInDue(id) is { Handed: not null })
            {
                any = true;
                Happenings.HandedIn(log, id);
            }
        return any;
    }
}
