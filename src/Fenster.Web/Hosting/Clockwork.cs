using Fenster.Store;

namespace Fenster.Web.Hosting;

/// <summary>
/// Hands in what is there when a time is over, every second, whether or not a browser still lives; after the server was off, all that
/// ran out meanwhile. What opens, closes and is released does so by the time alone, whoever asks.
/// </summary>
internal sealed class Clockwork(Attempts attempts, TimeProvider clock, ILogger<Clockwork> log) : BackgroundService
{
    private const int MostAtOnce = 200;

    /// <summary>How long one waits that could not be handed in, so that the others have their turn.</summary>
    private static readonly TimeSpan TriedAgainAfter = TimeSpan.FromMinutes(1);

    /// <summary>Those that could not be handed in, and when they are tried again.</summary>
    private readonly Dictionary<long, DateTimeOffset> later = [];

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(TimeSpan.FromSeconds(1), clock);
        do
        {
            try
            {
                foreach (var id in later.Where(each => each.Value <= clock.GetUtcNow()).Select(each => each.Key).ToList())
                    later.Remove(id);
                while (
                    attempts.Due(MostAtOnce, except: later.Keys) is { Count: > 0 } due
                    && await HandIn(due)
                    && !stoppingToken.IsCancellationRequested
                ) { }
            }
            catch (Exception exception) when (exception is not OperationCanceledException)
            {
                // A disk that is full now may not be so in a second; nothing is lost meanwhile.
                Happenings.HandingInFailed(log, exception);
            }
        } while (await timer.WaitForNextTickAsync(stoppingToken));
    }

    /// <returns>Whether there may be more that can be handed in.</returns>
    private async Task<bool> HandIn(IReadOnlyList<long> due)
    {
        var any = false;
        foreach (var id in due)
            try
            {
                if (await attempts.HandInDue(id) is { Handed: not null })
                {
                    any = true;
                    Happenings.HandedIn(log, id);
                }
            }
            catch (Exception exception) when (exception is not OperationCanceledException && !Problems.IsOfDisk(exception))
            {
                // Whatever is wrong with this one, the others go on.
                later[id] = clock.GetUtcNow() + TriedAgainAfter;
                any = true;
                Happenings.HandingInOneFailed(log, id, exception);
            }
        return any;
    }
}
