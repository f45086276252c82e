namespace Fenster.Store.Tests;

/// <summary>A clock that stands until it is set.</summary>
internal sealed class StandingClock(DateTimeOffset now) : TimeProvider
{
    public DateTimeOffset Now { get; set; } = now;

    public override DateTimeOffset GetUtcNow() => Now;
}
