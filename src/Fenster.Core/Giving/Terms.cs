using System.Collections.Immutable;
using Fenster.Core.Model;
using Fenster.Core.Scoring;
using NodaTime;

namespace Fenster.Core.Giving;

/// <summary>What a teacher says of an assignment: when, how often and for how long, under which rules, and who may come.</summary>
public sealed record Terms
{
    /// <summary>Null for at once.</summary>
    public Instant? Opens { get; init; }

    /// <summary>The first moment at which nothing may be begun or done any more; null until the teacher closes it.</summary>
    public Instant? Closes { get; init; }

    /// <summary>From the start of an attempt; null for none.</summary>
    public Duration? TimeLimit { get; init; }

    /// <summary>How many each student may begin; null for any number.</summary>
    public int? Attempts { get; init; } = 1;

    /// <summary>Which of several attempts counts.</summary>
    public AttemptPolicy Counts { get; init; } = AttemptPolicy.Best;

    /// <summary>Whether what tells the answer may be seen although another attempt can be begun.</summary>
    public bool IsPractice { get; init; }

    public Joining Joining { get; init; } = Joining.FreeNames;

    /// <summary>Whether students wait until the teacher lets all begin.</summary>
    public bool BeginsTogether { get; init; }

    /// <summary>Whether a device forgets what it showed when the work is handed in.</summary>
    public bool ForgetsDevices { get; init; }

    /// <summary>When results are released; null until the teacher releases them.</summary>
    public Instant? Releases { get; init; }

    /// <summary>Addresses of the sites that may frame it, such as <c>https://school.example</c>.</summary>
    public ImmutableArray<string> Sites { get; init; } = [];

    /// <summary>Words that replace those of the activity and its panes.</summary>
    public RuleWords Rules { get; init; } = RuleWords.None;

    /// <summary>How it counts together with the assignment that it follows; null when it follows none.</summary>
    public Resit? Resit { get; init; }

    /// <summary>The shortest and the longest time limit.</summary>
    public static readonly Duration ShortestLimit = Duration.FromMinutes(1),
        LongestLimit = Duration.FromHours(24);

    /// <summary>The most attempts that can be told; more are any number.</summary>
    public const int MostAttempts = 100;

    /// <summary>Extra time in per cent of the time limit.</summary>
    public const int MostExtraTime = 400;

    /// <summary>Why these terms can't hold; null when they can.</summary>
    public TermsFault? Fault =>
        Closes <= Opens ? TermsFault.ClosesBeforeItOpens
        : TimeLimit < ShortestLimit || TimeLimit > LongestLimit ? TermsFault.NoSuchLimit
        : Attempts is < 1 or > MostAttempts ? TermsFault.NoSuchAttempts
        : null;
}

public enum TermsFault
{
    ClosesBeforeItOpens,
    NoSuchLimit,
    NoSuchAttempts,
}

/// <summary>Who may come in.</summary>
public enum Joining
{
    /// <summary>Anybody with the code, under any name.</summary>
    FreeNames,

    /// <summary>Who is on the list of the class, by name.</summary>
    Members,

    /// <summary>Who is on the list of the class, by the personal word.</summary>
    MembersByWord,
}

/// <summary>How two assignments that belong together count for a student who did both.</summary>
public enum Resit
{
    Best,
    Latest,

    /// <summary>The better, of which the second is worth the pass mark at most.</summary>
    Capped,
}

/// <summary>What holds for one student beside the terms.</summary>
/// <param name="ExtraTime">In per cent of the time limit.</param>
/// <param name="Closes">Instead of the terms' closing time, where it is later; null for none.</param>
/// <param name="Ended">When the teacher ended it for this student; null when not.</param>
public sealed record Allowance(int ExtraTime = 0, Instant? Closes = null, Instant? Ended = null)
{
    public static Allowance None { get; } = new();
}
