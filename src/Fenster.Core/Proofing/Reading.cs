using System.Globalization;
using Fenster.Core.Model;

namespace Fenster.Core.Proofing;

/// <summary>One finding of a whole activity, as a teacher reads it.</summary>
/// <param name="Pane">Which pane, from 0.</param>
/// <param name="About">Id of the target or label that it concerns; null for the whole pane.</param>
/// <param name="Blocks">Whether it keeps the activity from being published.</param>
public sealed record Remark(int Pane, string? About, string Sentence, Weight Weight, bool Blocks, Mend Mend);

/// <summary>
/// The proof of a whole activity: what keeps it from students, what an examiner would say of each pane, and what guessing earns.
/// </summary>
/// <param name="Remarks">Pane by pane, the gravest first. What keeps it from being published is not said twice.</param>
/// <param name="Guess">What blind guessing earns on average on the whole activity, as a sentence.</param>
public sealed record Reading(IReadOnlyList<Remark> Remarks, string Guess)
{
    /// <param name="activity">A sound activity.</param>
    public static Reading Of(Activity activity)
    {
        // Guessing is played out many times, so that each pane's is worked out once. Where nothing is scored, guessing earns nothing.
        var guesses = activity
            .Panes.Select(pane => activity.Purpose == Purpose.Marked ? Guessing.Of(pane, activity.RulesOf(pane).Score) : new(0, 0, 0))
            .ToList();
        return new(
            [.. OfRules(activity), .. activity.Panes.SelectMany((pane, i) => OfPane(pane, i, guesses[i]))],
            InWords(activity, guesses)
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
            yield return new(
                0,
                null,
                "The right places show before the activity closes. Who joins a second time under another name knows them.",
                Weight.Warning,
                false,
                Mend.None
            );
    }

    private static IEnumerable<Remark> OfPane(Pane pane, int index, GuessScore guess)
    {
        var obstacles = Readiness.Obstacles(pane).ToList();
        foreach (var obstacle in obstacles)
            yield return new(index, obstacle.About, obstacle.Sentence, Weight.Error, true, obstacle.Mend);
        var said = obstacles.Select(obstacle => obstacle.About).OfType<string>().ToHashSet();
        foreach (var finding in Proof.Read(pane, guess).Distinct())
            if (finding.About is { } about ? !said.Contains(about) : obstacles.Count == 0)
                yield return new(index, finding.About, finding.Sentence, finding.Weight, false, finding.Mend);
    }

    private static string InWords(Activity activity, IReadOnlyList<GuessScore> guesses)
    {
        var possible = activity.Panes.Sum(pane => (double)(pane.Weight * pane.PossiblePoints));
        if (possible == 0 || activity.Purpose == Purpose.LearningOnly)
            return "Nothing is scored.";
        var points = activity.Panes.Zip(guesses).Sum(pane => (double)pane.First.Weight * pane.Second.Points);
        return string.Create(
            CultureInfo.InvariantCulture,
            $"On average guessing earns {points:0.##} of {possible:0.##} points, {100 * points / possible:0} %."
        );
    }
}
