using System.Threading.RateLimiting;
using MimeKit;

namespace Fenster.Web.Hosting;

/// <summary>How many letters one teacher may send, so that nobody makes this server a nuisance to others.</summary>
public sealed class Invitations : IDisposable
{
    public const int MostAtOnce = 200;
    private const int MostWithinAnHour = 1000;

    private readonly PartitionedRateLimiter<long> limiter = PartitionedRateLimiter.Create<long, long>(teacher =>
        RateLimitPartition.GetSlidingWindowLimiter(teacher, _ => new()
            {
                PermitLimit = MostWithinAnHour,
                Window = TimeSpan.FromHours(1),
                SegmentsPerWindow = 12,
            })
    );

    public bool MaySend(long teacher, int letters)
    {
        using var lease = limiter.AttemptAcquire(teacher, letters);
        return lease.IsAcquired;
    }

    /// <summary>Whether a text is one address, with a host that has a name.</summary>
    public static bool IsAddress(string text) =>
        text.Length <= 200
        && MailboxAddress.TryParse(text, out var mailbox)
        && mailbox.Address.Contains('@', StringComparison.Ordinal)
        && !text.Any(char.IsControl);

    public void Dispose() => limiter.Dispose();
}
