using System.Collections.Immutable;
using Fenster.Core.Checking;
using Fenster.Core.Model;

namespace Fenster.Core.Scoring;

/// <param name="Target">Id of the target.</param>
/// <param name="Points">What it earned, after the cost of further tries.</param>
/// <param name="Possible">What it is worth.</param>
/// <param name="Award">Null when the machine's credit stands.</param>
public sealed record TargetPoints(string Target, decimal Points, decimal Possible, Award? Award = null);

/// <param name="Score">After costs and the pane's weight, from 0 to <paramref name="Possible"/>.</param>
/// <param name="Possible">Sum of the targets' points times the pane's weight.</param>
/// <param name="IsSoFar">Whether a scored target waits for a person.</param>
public sealed record PaneScore(string Pane, decimal Score, decimal Possible, ImmutableArray<TargetPoints> Targets, bool IsSoFar = false);

/// <param name="Grade">Rounded half away from zero to two decimals.</param>
/// <param name="Passed">Null when the activity has no pass mark, and while the score is so far.</param>
/// <param name="IsSoFar">Whether a scored target waits for a person: nothing of the score is final then.</param>
/// <param name="ExactGrade">The grade before it is rounded, of which the mean of several attempts is made.</param>
public sealed record ActivityScore(
    decimal Score,
    decimal Possible,
    decimal Grade,
    decimal MaximumGrade,
    bool? Passed,
    bool IsSoFar,
    decimal ExactGrade,
    ImmutableArray<PaneScore> Panes
);

/// <summary>Turns verdicts into points and a grade. Nothing is rounded before the grade.</summary>
public static class Scorer
{
    /// <summary>Far beyond what points are given in, and short of where a third ends.</summary>
    private const int MostPlaces = 18;

    /// <summary>
    /// The score of one pane under the rules. An award stands as the person gave it: tries don't lessen it, and the wrong
    /// actions at its target cost nothing. A target that was taken out is had by everybody or by nobody, whatever was done there.
    /// </summary>
    /// <param name="marks">What the machine found.</param>
    public static PaneScore Score(Pane pane, Response response, PaneMarks marks, ScoreRules rules, ImmutableArray<Award> awards = default)
    {
        var awarded = awards.IsDefaultOrEmpty ? null : Award.Latest(awards);
        var takenOut = PaneKey.Of(pane).TakenOut;
        var wrongActions = marks.WrongActionsBeside(
            awarded is null ? takenOut : awarded.Keys.Concat(takenOut ?? System.Collections.Frozen.FrozenSet<string>.Empty).ToHashSet()
        );
        var tries = rules.TryCost == 0 || response.Earlier.IsEmpty ? null : Tries.Of(pane, response, marks);
        if (awarded is not null)
            marks = Award.Apply(marks, awarded.Values);
        var (possible, earned, everybodys, isPerfect, leastFactor, isSoFar) = (0m, 0m, 0m, true, 1m, false);
        var points = ImmutableArray.CreateBuilder<TargetPoints>(pane.Targets.Length);
        for (var i = 0; i < pane.Targets.Length; i++)
        {
            var (target, credit) = (pane.Targets[i], marks.Targets[i].Credit);
            if (!target.IsScored)
                continue;
            if (target.TakenOut is { } forWhom)
            {
                var all = forWhom == TakenOut.Everybody ? target.Points : 0;
                points.Add(new(target.Id, all, all));
                everybodys += all;
                continue;
            }
            var award = awarded?.GetValueOrDefault(target.Id);
            var (share, least) = tries is null || award is not null ? (1, 1) : tries.Left(target, rules.TryCost);
            // What a person gave as points is kept as a share of them: one of three is one again.
            var worth = award is null ? target.Points * credit * share : Math.Round(target.Points * credit, MostPlaces);
            points.Add(new(target.Id, worth, target.Points, award));
            isSoFar |= marks.Targets[i].State == TargetState.Waiting;
            (possible, earned, isPerfect, leastFactor) = (
                possible + target.Points,
                earned + worth,
                isPerfect && credit == 1,
                Math.Min(leastFactor, least)
            );
        }
        var raw = rules.Manner switch
        {
            ScoreManner.EachOnItsOwn => everybodys + earned - rules.WrongCost * wrongActions,
            // What everybody gets is theirs as well who have something else wrong.
            ScoreManner.AllOrNothing when isPerfect && wrongActions == 0 => everybodys + possible * leastFactor,
            ScoreManner.AllOrNothing => everybodys,
            _ => throw new ArgumentOutOfRangeException(nameof(rules), rules.Manner, "This manner is not known."),
        };
        possible += everybodys;
        return new(pane.Id, pane.Weight * Math.Clamp(raw, 0, possible), pane.Weight * possible, points.ToImmutable(), isSoFar);
    }

    /// <summary>Checks and scores every pane of an activity.</summary>
    /// <param name="responses">By pane id; a pane without one is taken as untouched.</param>
    /// <param name="awards">By pane id; null for none.</param>
    /// <param name="assignment">Words of the assignment's own; null for none.</param>
    public static ActivityScore Score(
        Activity activity,
        IReadOnlyDictionary<string, Response> responses,
        IReadOnlyDictionary<string, ImmutableArray<Award>>? awards = null,
        RuleWords? assignment = null
    )
    {
        var panes = activity
            .Panes.Select(pane =>
            {
                var (response, rules) = (responses.GetValueOrDefault(pane.Id, Response.Empty), activity.RulesOf(pane, assignment).Score);
                var own = awards?.GetValueOrDefault(pane.Id) ?? default;
                return Score(pane, response, Checker.Check(pane, response, rules, own), rules, own);
            })
            .ToImmutableArray();
        return Sum(panes, activity.RulesOf(assignment).Score);
    }

    /// <summary>The scores of many students, in their order, worked out on all processors.</summary>
    /// <param name="read">Gives a student's responses by pane id; called on several threads at once.</param>
    public static ImmutableArray<ActivityScore> ScoreAll<T>(
        Activity activity,
        IReadOnlyList<T> students,
        Func<T, IReadOnlyDictionary<string, Response>> read
    ) => [.. students.AsParallel().AsOrdered().Select(student => Score(activity, read(student)))];

    /// <summary>
    /// The activity's score and grade: maximum grade × score ÷ possible. Without a maximum grade, the grade is out of
    /// the possible score. An activity in which nothing can be earned has the grade 0.
    /// </summary>
    public static ActivityScore Sum(ImmutableArray<PaneScore> panes, ScoreRules rules)
    {
        var (score, possible, isSoFar) = (panes.Sum(pane => pane.Score), panes.Sum(pane => pane.Possible), panes.Any(pane => pane.IsSoFar));
        var maximum = rules.MaximumGrade ?? possible;
        // Thirds are no decimal numbers. What they leave far behind the point must not keep a half from being rounded up.
        var exact = possible == 0 ? 0 : Math.Round(GradeOf(maximum, score, possible), 15);
        var grade = Math.Round(exact, 2, MidpointRounding.AwayFromZero);
        return new(
            score,
            possible,
            grade,
            maximum,
            isSoFar || rules.PassMark is not { } pass ? null : grade >= pass,
            isSoFar,
            exact,
            panes
        );
    }

    /// <summary>Multiplied first where no product can overflow, so that nothing is lost before the division.</summary>
    private static decimal GradeOf(decimal maximum, decimal score, decimal possible) =>
        IsTooLarge(maximum, score) ? maximum * (score / possible) : maximum * score / possible;

    private static bool IsTooLarge(decimal maximum, decimal score) => maximum > 0 && score > decimal.MaxValue / Math.Max(1, maximum);
}
