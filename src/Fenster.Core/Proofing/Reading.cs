using Fenster.Core.Model;

namespace Fenster.Core.Proofing;

/// <summary>What can mend a finding with one click.</summary>
public enum Mend { None, MakeOne, Enlarge, WriteAltText, AddDistractor, BringBack, Delete }

/// <summary>One finding of a whole activity, as a teacher reads it.</summary>
/// <param name="Pane">Which pane, from 0.</param>
/// <param name="About">Id of the target or label that it concerns; null for the whole pane.</param>
/// <param name="Blocks">Whether it keeps the activity from being published.</param>
public sealed record Remark(int Pane, string? About, string Sentence, Weight Weight, bool Blocks, Mend Mend);

/// <summary>The proof of a whole activity: what keeps it from students, and what an examiner would say of each pane.</summary>
public static class Reading
{
    /// <summary>All remarks, pane by pane, the gravest first. What keeps it from being published is not said twice.</summary>
    /// <param name="activity">A sound activity.</param>
    public static IReadOnlyList<Remark> Of(Activity activity) => [.. activity.Panes.SelectMany((pane, i) => OfPane(activity, pane, i))];

    private static IEnumerable<Remark> OfPane(Activity activity, Pane pane, int index)
    {
        var obstacles = Readiness.Obstacles(pane).ToList();
        foreach (var obstacle in obstacles)
            yield return new(index, obstacle.About, obstacle.Sentence, Weight.Error, true,
                obstacle.Alike ? Mend.MakeOne : obstacle.Sentence.Contains("lies outside") ? Mend.BringBack : Mend.None);
        var said = obstacles.Select(obstacle => obstacle.About).OfType<string>().ToHashSet();
        foreach (var finding in Proof.Read(pane, activity.RulesOf(pane).Score).Distinct())
            if (finding.About is { } about ? !said.Contains(about) : obstacles.Count == 0)
                yield return new(index, finding.About, finding.Sentence, finding.Weight, false, finding.Mend);
    }
}
