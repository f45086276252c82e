using System.Threading.RateLimiting;

namespace Fenster.Web.Hosting;

/// <summary>
/// Slows down whoever guesses passwords or join codes. Right answers cost nothing, so a whole class behind one address gets in.
/// </summary>
public sealed class WrongGuesses : IDisposable
{
    public const int PerMinute = 20;

    private readonly PartitionedRateLimiter<string> limiter = PartitionedRateLimiter.Create<string, string>(who =>
        RateLimitPartition.GetFixedWindowLimiter(who, _ => new FixedWindowRateLimiterOptions
        {
            PermitLimit = PerMinute,
            Window = TimeSpan.FromMinutes(1),
        })
    );

    public bool TooMany(HttpContext context, string what) => !limiter.AttemptAcquire(Key(context, what), 0).IsAcquired;

    public void Add(HttpContext context, string what) => limiter.AttemptAcquire(Key(context, what)).Dispose();

    private static string Key(HttpContext context, string what) => $"{what} {context.Connection.RemoteIpAddress}";

    public void Dispose() => limiter.Dispose();
}
