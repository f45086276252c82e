using System.Collections.Immutable;
using NodaTime;

namespace Fenster.Core.Giving;

/// <summary>Where an assignment is.</summary>
public enum AssignmentState
{
    /// <summary>It opens later.</summary>
    Planned,
    Open,

    /// <summary>Nobody works, and no time limit runs.</summary>
    Paused,

    /// <summary>Its time is over; some may still work, or what they did is still on its way.</summary>
    Closing,
    Closed,
}

/// <summary>From when until when nobody worked; it goes on while <paramref name="Until"/> is null.</summary>
public sealed record Pause(Instant From, Instant? Until);

/// <summary>What has happened to an assignment so far.</summary>
public sealed record Course
{
    /// <summary>When the teacher closed it for everybody; null when not.</summary>
    public Instant? Ended { get; init; }

    /// <summary>When those who waited were let in together; null when they were not.</summary>
    public Instant? Begun { get; init; }

    /// <summary>When the teacher released results; null when not.</summary>
    public Instant? Released { get; init; }

    /// <summary>In their order; none but the last may go on.</summary>
    public ImmutableArray<Pause> Pauses { get; init; } = [];

    /// <summary>The latest closing time of single students; null for none.</summary>
    public Instant? LastClosing { get; init; }

    public bool IsPaused => !Pauses.IsEmpty && Pauses[^1].Until is null;
}

/// <summary>Why an attempt can't be begun.</summary>
public enum Hindrance
{
    NotOpenYet,

    /// <summary>For the teacher to let all begin.</summary>
    Waiting,
    Paused,
    Closed,

    /// <summary>No attempt is left.</summary>
    UsedUp,
}

/// <summary>When things may be done at an assignment. All of it is worked out from what the teacher said and what has happened.</summary>
public static class Timing
{
    /// <summary>What has arrived so long after the end still counts, for everybody (rules, Settled 13).</summary>
    public static readonly Duration Grace = Duration.FromSeconds(10);

    /// <summary>
    /// Where an assignment is at a time. The opening second belongs to it, the closing second does not. It is closed when the last
    /// sitting is over, later closings and <see cref="Grace"/> included.
    /// </summary>
    public static AssignmentState StateAt(Terms terms, Course course, Instant now) =>
        EndOf(terms, course) is { } end && now > end + Grace ? AssignmentState.Closed
        : now >= course.Ended || now >= terms.Closes ? AssignmentState.Closing
        : now < terms.Opens ? AssignmentState.Planned
        : course.IsPaused ? AssignmentState.Paused
        : AssignmentState.Open;

    /// <summary>When nobody can work any more; null while that is not known.</summary>
    public static Instant? EndOf(Terms terms, Course course) => Earlier(course.Ended, Later(terms.Closes, course.LastClosing));

    /// <summary>The end for one student, apart from a time limit; null while it is not known.</summary>
    public static Instant? EndFor(Terms terms, Course course, Allowance allowance) =>
        Earlier(Earlier(course.Ended, allowance.Ended), Later(terms.Closes, allowance.Closes));

    /// <summary>The time limit with what a student has more; null for none.</summary>
    public static Duration? LimitFor(Terms terms, Allowance allowance) => terms.TimeLimit * ((100 + allowance.ExtraTime) / 100.0);

    /// <summary>
    /// When a sitting ends: when its time limit has run out, in which pauses do not count, or when the assignment ends for this
    /// student, whichever is earlier. Null while that is not known: without either, and during a pause before the closing time.
    /// </summary>
    /// <param name="started">When the attempt was begun.</param>
    public static Instant? EndOfSitting(Instant started, Terms terms, Course course, Allowance allowance)
    {
        var end = EndFor(terms, course, allowance);
        if (LimitFor(terms, allowance) is not { } limit)
            return end;
        var runsOut = started + limit;
        foreach (var pause in course.Pauses)
        {
            if (pause.Until <= started || pause.From >= runsOut)
                continue;
            if (pause.Until is not { } until)
                return end;
            runsOut += until - (pause.From > started ? pause.From : started);
        }
        return Earlier(end, runsOut);
    }

    /// <summary>Why a student can't begin an attempt at a time; null when the student can.</summary>
    /// <param name="begun">How many attempts the student has begun.</param>
    public static Hindrance? HindranceAt(Terms terms, Course course, Allowance allowance, int begun, Instant now) =>
        now >= EndFor(terms, course, allowance) ? Hindrance.Closed
        : begun >= terms.Attempts ? Hindrance.UsedUp
        : now < terms.Opens ? Hindrance.NotOpenYet
        : course.IsPaused ? Hindrance.Paused
        : terms.BeginsTogether && course.Begun is null ? Hindrance.Waiting
        : null;

    /// <summary>Whether a student can begin another attempt, now or later, so that what tells the answer has to wait.</summary>
    /// <inheritdoc cref="HindranceAt"/>
    public static bool MayBeginAgain(Terms terms, Course course, Allowance allowance, int begun, Instant now) =>
        HindranceAt(terms, course, allowance, begun, now) is not (Hindrance.Closed or Hindrance.UsedUp);

    /// <summary>Whether results are released at a time.</summary>
    public static bool IsReleased(Terms terms, Course course, Instant now) => now >= course.Released || now >= terms.Releases;

    private static Instant? Earlier(Instant? one, Instant? other) =>
        one is null ? other
        : other is null || one < other ? one
        : other;

    // What never ends is the latest of all.
    private static Instant? Later(Instant? one, Instant? other) =>
        one is null ? null
        : other is null || one > other ? one
        : other;
}
