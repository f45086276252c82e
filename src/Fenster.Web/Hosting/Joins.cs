using System.Threading.RateLimiting;

namespace Fenster.Web.Hosting;

/// <summary>
/// How fast new names may join one activity from one address: eight classes behind one address never meet it, a script does.
/// </summary>
public sealed class Joins : IDisposable
{
    /// <summary>Names that may join at once.</summary>
    public const int AtOnce = 120;

    /// <summary>And then, each second.</summary>
    public const int PerSecond = 4;

    private readonly PartitionedRateLimiter<(string Address, long Assignment)> limiter = PartitionedRateLimiter.Create<
        (string Address, long Assignment),
        (string, long)
    >(who => RateLimitPartition.GetTokenBucketLimiter(who, _ => new()
            {
                TokenLimit = AtOnce,
                TokensPerPeriod = PerSecond,
                ReplenishmentPeriod = TimeSpan.FromSeconds(1),
            }));

    public bool TooFast(HttpContext context, long assignment)
    {
        using var lease = limiter.AttemptAcquire(($"{context.Connection.RemoteIpAddress}", assignment));
        return !lease.IsAcquired;
    }

    public void Dispose() => limiter.Dispose();
}
