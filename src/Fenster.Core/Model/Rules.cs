namespace Fenster.Core.Model;

/// <summary>The three groups of rules that a teacher sets for an activity.</summary>
public sealed record Rules
{
    public CheckRules Check { get; init; } = new();
    public RevealRules Reveal { get; init; } = new();
    public ScoreRules Score { get; init; } = new();
}

/// <summary>How students may have their work checked before they hand it in, and what a check does to labels.</summary>
/// <param name="Checks">How often Check may be pressed on each pane; 0 for a test, null for freely.</param>
/// <param name="Wrong">Of labels that a check found wrong.</param>
/// <param name="Right">Of labels that a check found right.</param>
public sealed record CheckRules(int? Checks = 0, WrongLabels Wrong = WrongLabels.Stay, RightLabels Right = RightLabels.MayMove);

public enum WrongLabels
{
    Stay,
    GoBack,
}

public enum RightLabels
{
    MayMove,
    HeldFast,
}

/// <summary>
/// From which moment on each of five things is visible to the student. The key may not come before
/// <see cref="Moment.LastTry"/>.
/// </summary>
public sealed record RevealRules
{
    public Moment Marks { get; init; } = Moment.HandedIn;
    public Moment Score { get; init; } = Moment.HandedIn;
    public Moment Feedback { get; init; } = Moment.HandedIn;
    public Moment Key { get; init; } = Moment.Closed;
    public Moment Explanation { get; init; } = Moment.Closed;

    /// <summary>When what shows.</summary>
    public IEnumerable<Moment> Moments() => [Marks, Score, Feedback, Key, Explanation];

    /// <summary>Whether something that tells right from wrong shows as soon as it is put down, so that putting down is checking.</summary>
    public bool IsImmediate => Marks == Moment.Placed || Score == Moment.Placed || Feedback == Moment.Placed;
}

/// <summary>
/// The moments of an attempt, in the order in which they are offered. The last that come are events of their own: see <see
/// cref="Revealing.Reach"/>.
/// </summary>
public enum Moment
{
    /// <summary>As soon as something is put down; every attempt has reached it.</summary>
    Placed,

    /// <summary>The student pressed Check.</summary>
    Checked,

    /// <summary>The last check that the rules allow was used.</summary>
    LastTry,
    HandedIn,

    /// <summary>The activity's end has passed.</summary>
    Closed,

    /// <summary>The teacher released the results.</summary>
    Released,

    /// <summary>No attempt ever reaches it.</summary>
    Never,
}

public sealed record ScoreRules
{
    public ScoreManner Manner { get; init; } = ScoreManner.EachOnItsOwn;

    /// <summary>Points that each wrong action costs, 0 or more. A pane's score never falls below 0.</summary>
    public decimal WrongCost { get; init; }

    /// <summary>Share of a target's points that each further try costs, from 0 to 1.</summary>
    public decimal TryCost { get; init; }

    /// <summary>The grade for full marks; null when the grade is the score itself.</summary>
    public decimal? MaximumGrade { get; init; }

    /// <summary>The grade from which an attempt has passed; null when there is no pass mark.</summary>
    public decimal? PassMark { get; init; }
}

public enum ScoreManner
{
    EachOnItsOwn,
    AllOrNothing,
}
