using System.Collections.Immutable;
using Fenster.Core.Checking;
using Fenster.Core.Model;

namespace Fenster.Core.Revealing;

/// <summary>How an attempt goes on under the rules: what a student's move brings with it, and which moment is reached.</summary>
public static class Progress
{
    /// <summary>
    /// A move together with those that follow from it: where right and wrong show at once, putting down is checked; after a
    /// check wrong labels may go back to the bank.
    /// </summary>
    /// <returns>The moves, each of which stands for itself from now on, and the response after them.</returns>
    /// <exception cref="MoveRefused">The move does not fit the pane, or the rules don't allow it.</exception>
    public static (ImmutableArray<Move> Moves, Response After) Make(Rules rules, Pane pane, Response before, Move move)
    {
        if (move is PressCheck) RequireCheck(rules, pane, before);
        var after = Moves.Apply(pane, before, move);
        if (IsSettled(rules, before) && !after.IsSameWork(before)) throw new MoveRefused("The right places are shown. Nothing can be changed any more.");
        RequireHeld(Held(rules, pane, before), after);

        ImmutableArray<Move> moves = [move];
        if (rules.Reveal.IsImmediate && move is not PressCheck && !after.IsSameWork(before) && after.Earlier.Length < Moves.MostChecks) Follow(new PressCheck());
        if (moves[^1] is PressCheck)
            foreach (var back in GoingBack(rules, pane, after)) Follow(back);
        return (moves, after);

        void Follow(Move next)
        {
            moves = moves.Add(next);
            after = Moves.Apply(pane, after, next);
        }
    }

    /// <summary>The same for the responses to an activity, by pane id.</summary>
    /// <inheritdoc cref="Make(Rules, Pane, Response, Move)" path="/exception"/>
    public static (ImmutableArray<Move> Moves, ImmutableDictionary<string, Response> After) Make(
        Activity activity, ImmutableDictionary<string, Response> before, string pane, Move move)
    {
        var (moves, after) = Make(activity.RulesOf(activity.Pane(pane)), activity.Pane(pane), before.GetValueOrDefault(pane, Response.Empty), move);
        return (moves, before.SetItem(pane, after));
    }

    /// <summary>How often Check may still be pressed on a pane; null for freely, 0 also where putting down is checking.</summary>
    public static int? ChecksLeft(Rules rules, Response response) =>
        rules.Reveal.IsImmediate ? 0 : rules.Check.Checks is { } checks ? Math.Max(0, checks - response.Earlier.Length) : null;

    /// <summary>The moment that work which is not handed in has reached on a pane.</summary>
    public static Moment MomentOf(Rules rules, Response response) =>
        rules.Reveal.IsImmediate || response.Earlier.IsEmpty ? Moment.Placed
        : rules.Check.Checks is { } checks && response.Earlier.Length >= checks ? Moment.LastTry
        : Moment.Checked;

    /// <summary>Whether the right places show on a pane, so that changing it would be no work of the student's.</summary>
    public static bool IsSettled(Rules rules, Response response) => At(rules, response) is { Key: true } or { Explanation: true };

    /// <summary>
    /// The state of work that is not handed in that marks, score and feedback are of: the last one that was checked, so that
    /// nothing tells right from wrong before the next check.
    /// </summary>
    public static Response Seen(Rules rules, Response response) =>
        rules.Reveal.IsImmediate || response.Earlier.IsEmpty ? response : response.Earlier[^1];

    /// <summary>The placements and pins that a check found right and that stay where they are.</summary>
    public static (ImmutableArray<Placement> Placements, ImmutableArray<Pin> Pins) Held(Rules rules, Pane pane, Response response)
    {
        if (rules.Check.Right == RightLabels.MayMove || response.Earlier.IsEmpty || !At(rules, response).Marks) return ([], []);
        var marks = Checker.Check(pane, response.Earlier[^1]);
        return (
            [.. marks.Placements.Where(mark => mark.Verdict == Verdict.Right).Select(mark => mark.Placement).Where(response.Placements.Contains)],
            [.. marks.Pins.Where(mark => mark.Verdict == Verdict.Right).Select(mark => mark.Pin).Where(response.Pins.Contains)]);
    }

    private static Reached At(Rules rules, Response response) => new(MomentOf(rules, response), rules.Reveal);

    /// <summary>The labels that the last check sends back to the bank.</summary>
    private static IEnumerable<TakeBack> GoingBack(Rules rules, Pane pane, Response response)
    {
        if (rules.Check.Wrong == WrongLabels.Stay || !At(rules, response).Marks) return [];
        var marks = Checker.Check(pane, response.Earlier[^1]);
        return
        [
            .. marks.Placements.Where(mark => mark.Verdict == Verdict.Wrong).Select(mark => new TakeBack(mark.Placement.Label, mark.Placement.Copy)),
            .. marks.Pins.Where(mark => mark.Verdict == Verdict.Wrong).Select(mark => new TakeBack(mark.Pin.Label, mark.Pin.Copy)),
        ];
    }

    private static void RequireCheck(Rules rules, Pane pane, Response response)
    {
        if (rules.Reveal.IsImmediate || rules.Check.Checks == 0) throw new MoveRefused("Here nothing is checked before handing in.");
        if (ChecksLeft(rules, response) == 0) throw new MoveRefused("All checks are used. You can still change your answers and hand in.");
        var last = response.Earlier.IsEmpty ? Response.Empty : GoingBack(rules, pane, response).Aggregate(response.Earlier[^1], (left, back) => Moves.Apply(pane, left, back));
        if (response.IsSameWork(last))
            throw new MoveRefused(response.Earlier.IsEmpty ? "There is nothing to check yet." : "Nothing has changed since the last check.");
    }

    private static void RequireHeld((ImmutableArray<Placement> Placements, ImmutableArray<Pin> Pins) held, Response after)
    {
        if (!held.Placements.All(after.Placements.Contains) || !held.Pins.All(after.Pins.Contains))
            throw new MoveRefused("That label is right and stays where it is.");
    }
}
