using System.Collections.Immutable;
using Fenster.Core.Checking;
using Fenster.Core.Model;

namespace Fenster.Core.Revealing;

/// <summary>
/// What a move came to: the moves that are kept, the move itself first, and the response after them; or why it is refused.
/// </summary>
/// <param name="Moves">Each stands for itself from now on; empty when the move is refused.</param>
/// <param name="After">The response as it was when the move is refused.</param>
/// <param name="Refusal">Null when the move is made.</param>
public sealed record Outcome<T>(ImmutableArray<Move> Moves, T After, Refusal? Refusal = null);

/// <summary>How an attempt goes on under the rules: what a student's move brings with it, and which moment is reached.</summary>
public static class Progress
{
    /// <summary>
    /// A move together with those that follow from it: where right and wrong show at once, putting down is checked; after a
    /// check wrong labels may go back to the bank.
    /// </summary>
    public static Outcome<Response> Make(Rules rules, Pane pane, Response before, Move move)
    {
        if (MoveRules.Fit(pane, before, move) is { } misfit)
            return Not(before, misfit);
        if (move is PressCheck && OfCheck(rules, pane, before) is { } unready)
            return Not(before, unready);
        move = MoveRules.Tidy(move);
        var moves = ImmutableArray.CreateBuilder<Move>();
        var after = before;
        Follow(move);
        foreach (var next in MoveRules.Following(pane, before, move))
            Follow(next);

        if (IsSettled(rules, before) && !after.IsSameWork(before))
            return Not(before, new(Refused.Settled));
        if (!AllStay(Held(rules, pane, before), after))
            return Not(before, new(Refused.HeldFast));

        if (
            rules.Reveal.IsImmediate
            && move is not PressCheck
            && !IsOfOpenWork(pane, move)
            && !after.IsSameWork(before)
            && after.Earlier.Length < Limits.MostChecks
        )
            Follow(new PressCheck());
        if (moves[^1] is PressCheck)
            foreach (var back in GoingBack(rules, pane, after))
                Follow(back);
        return new(moves.ToImmutable(), after);

        void Follow(Move next)
        {
            moves.Add(next);
            after = Moves.Apply(after, next);
        }
    }

    /// <summary>Whether a move concerns what only a person marks, so that there is nothing to check of it.</summary>
    private static bool IsOfOpenWork(Pane pane, Move move) =>
        Moves.TargetOf(move) is { } id && pane.Targets.Any(target => target.Id == id && target.IsOpenWork);

    private static Outcome<Response> Not(Response before, Refusal refusal) => new([], before, refusal);

    /// <summary>The same for the responses to an activity, by pane id.</summary>
    public static Outcome<ImmutableDictionary<string, Response>> Make(
        Activity activity,
        ImmutableDictionary<string, Response> before,
        string pane,
        Move move
    )
    {
        var made = Make(activity.RulesOf(activity.Pane(pane)), activity.Pane(pane), before.GetValueOrDefault(pane, Response.Empty), move);
        return new(made.Moves, made.Refusal is null ? before.SetItem(pane, made.After) : before, made.Refusal);
    }

    /// <summary>How often Check may still be pressed on a pane; null for freely, 0 also where putting down is checking.</summary>
    public static int? ChecksLeft(Rules rules, Response response) =>
        rules.Reveal.IsImmediate ? 0
        : rules.Check.Checks is { } checks ? Math.Max(0, checks - response.Earlier.Length)
        : null;

    /// <summary>The moment that work which is not handed in has reached on a pane.</summary>
    public static Moment MomentOf(Rules rules, Response response) =>
        rules.Reveal.IsImmediate || response.Earlier.IsEmpty ? Moment.Placed
        : rules.Check.Checks is { } checks && response.Earlier.Length >= checks ? Moment.LastTry
        : Moment.Checked;

    /// <summary>Whether the right places show on a pane, so that changing it would be no work of the student's.</summary>
    public static bool IsSettled(Rules rules, Response response) => At(rules, response) is { Key: true } or { Explanation: true };

    /// <summary>
    /// The state of work that is not handed in that marks, score and feedback are of: the last one that was checked, with those
    /// before it, so that nothing tells right from wrong before the next check.
    /// </summary>
    public static Response Seen(Rules rules, Response response) =>
        rules.Reveal.IsImmediate || response.Earlier.IsEmpty ? response : response.Earlier[^1] with { Earlier = response.Earlier[..^1] };

    /// <summary>The placements and pins that a check found right and that stay where they are.</summary>
    public static (ImmutableArray<Placement> Placements, ImmutableArray<Pin> Pins) Held(Rules rules, Pane pane, Response response)
    {
        if (rules.Check.Right == RightLabels.MayMove || response.Earlier.IsEmpty || !At(rules, response).Marks)
            return ([], []);
        var marks = Checker.Check(pane, response.Earlier[^1], rules.Score);
        return (
            [
                .. marks
                    .Placements.Where(mark => mark.Verdict == Verdict.Right)
                    .Select(mark => mark.Placement)
                    .Where(response.Placements.Contains),
            ],
            [.. marks.Pins.Where(mark => mark.Verdict == Verdict.Right).Select(mark => mark.Pin).Where(response.Pins.Contains)]
        );
    }

    private static Reached At(Rules rules, Response response) => new(MomentOf(rules, response), rules.Reveal);

    /// <summary>The labels that the last check sends back to the bank.</summary>
    private static IEnumerable<TakeBack> GoingBack(Rules rules, Pane pane, Response response)
    {
        if (rules.Check.Wrong == WrongLabels.Stay || !At(rules, response).Marks)
            return [];
        var marks = Checker.Check(pane, response.Earlier[^1], rules.Score);
        return
        [
            .. marks
                .Placements.Where(mark => mark.Verdict == Verdict.Wrong)
                .Select(mark => new TakeBack(mark.Placement.Label, mark.Placement.Copy)),
            .. marks.Pins.Where(mark => mark.Verdict == Verdict.Wrong).Select(mark => new TakeBack(mark.Pin.Label, mark.Pin.Copy)),
        ];
    }

    private static Refusal? OfCheck(Rules rules, Pane pane, Response response)
    {
        if (rules.Reveal.IsImmediate || rules.Check.Checks == 0)
            return new(Refused.NoChecks);
        if (ChecksLeft(rules, response) == 0)
            return new(Refused.ChecksUsed);
        var last = response.Earlier.IsEmpty
            ? Response.Empty
            : GoingBack(rules, pane, response).Aggregate(response.Earlier[^1], Moves.Apply);
        if (!response.IsSameWork(last))
            return null;
        return new(response.Earlier.IsEmpty ? Refused.NothingToCheck : Refused.NothingChanged);
    }

    private static bool AllStay((ImmutableArray<Placement> Placements, ImmutableArray<Pin> Pins) held, Response after) =>
        held.Placements.All(after.Placements.Contains) && held.Pins.All(after.Pins.Contains);
}
