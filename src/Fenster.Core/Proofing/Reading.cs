using Fenster.Core.Model;

namespace Fenster.Core.Proofing;

/// <summary>One finding of a whole activity.</summary>
/// <param name="Pane">Which pane, from 0.</param>
/// <param name="About">Id of the target or label that it concerns; null for the whole pane.</param>
/// <param name="Blocks">Whether it keeps the activity from being published.</param>
public sealed record Remark(int Pane, string? About, Said Said, Weight Weight, bool Blocks, Mend Mend);

/// <summary>
/// The proof of a whole activity: what keeps it from students, what an examiner would say of each pane, and what guessing earns.
/// </summary>
/// <param name="Remarks">Pane by pane, the gravest first. What keeps it from being published is not said twice.</param>
/// <param name="Guess">What blind guessing earns on average on the whole activity.</param>
public sealed record Reading(IReadOnlyList<Remark> Remarks, Said Guess)
{
    /// <param name="activity">A sound activity.</param>
    /// <param name="recall">
    /// Gives what was read of a pane before, under these rules, or reads it by the function it is given; null to read all anew.
    /// </param>
    public static Reading Of(Activity activity, Func<PaneInQuestion, Func<PaneReading>, PaneReading>? recall = null)
    {
        var panes = activity
            .Panes.Select(pane => new PaneInQuestion(pane, activity.Purpose == Purpose.Marked ? activity.RulesOf(pane).Score : null))
            .Select(pane => recall is null ? PaneReading.Of(pane) : recall(pane, () => PaneReading.Of(pane)))
            .ToList();
        return new(
            [.. OfRules(activity), .. panes.SelectMany((pane, i) => pane.Remarks.Select(remark => remark with { Pane = i }))],
            InWords(activity, [.. panes.Select(pane => pane.Guess)])
        );
    }

    /// <summary>What the rules give away where whoever has the code may join under any name.</summary>
    private static IEnumerable<Remark> OfRules(Activity activity)
    {
        var rules = activity.Rules.Reveal;
        // Practice shows right and wrong while it is worked on, and may show everything.
        if (
            activity.Purpose == Purpose.LearningOnly
            || activity.Panes.IsEmpty
            || rules.Marks < Moment.HandedIn
            || rules.Feedback < Moment.HandedIn
        )
            yield break;
        if (rules.Key is Moment.LastTry or Moment.HandedIn || rules.Explanation <= Moment.HandedIn)
            yield return new(0, null, new("proof.twice"), Weight.Warning, false, Mend.None);
    }

    private static Said InWords(Activity activity, IReadOnlyList<GuessScore> guesses)
    {
        var possible = activity.Panes.Sum(pane => (double)(pane.Weight * pane.PossiblePoints));
        if (possible == 0 || activity.Purpose == Purpose.LearningOnly)
            return new("proof.nothingScored");
        var points = activity.Panes.Zip(guesses).Sum(pane => (double)pane.First.Weight * pane.Second.Points);
        return new(
            "proof.onAverage",
            ("points", Math.Round(points, 2)),
            ("possible", Math.Round(possible, 2)),
            ("share", Math.Round(100 * points / possible))
        );
    }
}

/// <summary>All that the reading of a pane depends on.</summary>
/// <param name="Rules">Null where nothing is scored, and so guessing earns nothing.</param>
public sealed record PaneInQuestion(Pane Pane, ScoreRules? Rules);

/// <summary>What was read of one pane.</summary>
/// <param name="Remarks">As if it were the activity's first.</param>
public sealed record PaneReading(GuessScore Guess, IReadOnlyList<Remark> Remarks)
{
    public static PaneReading Of(PaneInQuestion question)
    {
        // Guessing is played out many times, so that it is worked out once.
        var guess = question.Rules is { } rules ? Guessing.Of(question.Pane, rules) : new(0, 0, 0);
        return new(guess, [.. RemarksOn(question.Pane, question.Rules ?? new(), guess)]);
    }

    private static IEnumerable<Remark> RemarksOn(Pane pane, ScoreRules rules, GuessScore guess)
    {
        var obstacles = Readiness.Obstacles(pane);
        foreach (var obstacle in obstacles)
            yield return new(0, obstacle.About, obstacle.Said, Weight.Error, true, obstacle.Mend);
        var said = obstacles.Select(obstacle => obstacle.About).OfType<string>().ToHashSet();
        foreach (var finding in Proof.Read(pane, rules, guess).Distinct())
            if (finding.About is { } about ? !said.Contains(about) : obstacles.Count == 0)
                yield return new(0, finding.About, finding.Said, finding.Weight, false, finding.Mend);
    }
}
