using Fenster.Store;

namespace Fenster.Web.Hosting;

/// <summary>
/// Slows down whoever guesses passwords or join codes. Wrong guesses are counted by address and by what they were meant for; after
/// a few, each further one makes the next wait longer, up to half a minute. Right ones cost nothing, and a device that was let in
/// before is counted for itself, so that nobody waits for what others behind one address do.
/// </summary>
public sealed class Guesses(TimeProvider clock)
{
    /// <summary>Wrong guesses that cost nothing, from one address or device.</summary>
    public const int FreeByAddress = 20;

    /// <summary>Wrong guesses that cost nothing, from all devices behind one address that were let in before.</summary>
    public const int FreeByKnown = 60;

    /// <summary>Wrong guesses that cost nothing, for one account.</summary>
    public const int FreeByAccount = 10;

    /// <summary>Wrong guesses that cost nothing, from everywhere.</summary>
    public const int FreeInAll = 600;

    public static readonly TimeSpan LongestWait = TimeSpan.FromSeconds(30);

    /// <summary>In which a wrong guess is forgotten.</summary>
    private static readonly TimeSpan Forgotten = TimeSpan.FromMinutes(1);

    private const int MostCounted = 50_000;

    private sealed record Count(double Wrong, DateTimeOffset At);

    private readonly Lru<string, Count> counts = new(MostCounted);

    /// <summary>How long a person has to wait before the next guess counts; null for not at all.</summary>
    /// <param name="what">Passwords or codes.</param>
    /// <param name="account">What the guess is for; null for nothing that is known.</param>
    public TimeSpan? Wait(HttpContext context, string what, string? account = null)
    {
        var wait = Keys(context, what, account).Select(key => WaitOf(key.Key, key.Free)).Max();
        return wait > TimeSpan.Zero ? wait : null;
    }

    /// <summary>Counts a wrong guess.</summary>
    public void Add(HttpContext context, string what, string? account = null)
    {
        foreach (var (key, _) in Keys(context, what, account))
            counts.Put(key, new(WrongOf(key) + 1, clock.GetUtcNow()));
    }

    private static IEnumerable<(string Key, int Free)> Keys(HttpContext context, string what, string? account)
    {
        // A device that was in before has an allowance of its own, whatever its address or the account is worth to others.
        if (KnownDevice.Of(context, account is null ? what : $"{what} {account}") is { } device)
        {
            yield return ($"{what} device {device}", FreeByAddress);
            // Marks are had by joining, so that as many as one likes are worth no more than a few.
            if (account is null)
                yield return ($"{what} known devices at {context.Connection.RemoteIpAddress}", FreeByKnown);
            yield break;
        }
        yield return ($"{what} address {context.Connection.RemoteIpAddress}", FreeByAddress);
        yield return ($"{what} all", FreeInAll);
        if (account is not null)
            yield return ($"{what} account {account}", FreeByAccount);
    }

    private double WrongOf(string key) =>
        counts.TryGet(key, out var count) ? Math.Max(0, count.Wrong - (clock.GetUtcNow() - count.At) / Forgotten * FreeByAddress) : 0;

    private TimeSpan WaitOf(string key, int free)
    {
        if (!counts.TryGet(key, out var count) || Math.Round(count.Wrong) < free)
            return TimeSpan.Zero;
        var wait = TimeSpan.FromSeconds(Math.Min(LongestWait.TotalSeconds, Math.Pow(2, Math.Min(10, Math.Round(count.Wrong) - free))));
        return count.At + wait - clock.GetUtcNow();
    }
}
