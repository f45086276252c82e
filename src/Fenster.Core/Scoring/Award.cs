using System.Collections.Immutable;
using Fenster.Core.Checking;
using Fenster.Core.Model;

namespace Fenster.Core.Scoring;

/// <summary>A person's decision on what a target earned. It replaces the machine's credit.</summary>
/// <param name="Target">Id of the target.</param>
/// <param name="Credit">From 0 to 1.</param>
/// <param name="By">Who decided.</param>
/// <param name="Comment">For the student; empty for nothing.</param>
public sealed record Award(string Target, decimal Credit, string By, DateTimeOffset At, string Comment = "")
{
    /// <summary>What does not fit the pane, as the end of a sentence; null when everything does.</summary>
    public string? FaultOn(Pane pane) =>
        pane.Targets.All(target => target.Id != Target || !target.IsScored) ? $"is for the target '{Target}', which the pane does not score"
        : Credit is < 0 or > 1 ? $"gives the target '{Target}' a credit that is not from 0 to 1"
        : string.IsNullOrWhiteSpace(By) ? $"for the target '{Target}' does not say who made it"
        : null;

    /// <summary>What a response comes to, with what people have decided of it in the place of the machine's credit.</summary>
    public static PaneMarks Marks(Pane pane, Response response, ScoreRules rules, ImmutableArray<Award> awards) =>
        Apply(Checker.Check(pane, response, rules, awards), awards);

    /// <summary>The marks with the awards in the place of the machine's credit. Of two awards for a target the later counts.</summary>
    public static PaneMarks Apply(PaneMarks marks, IEnumerable<Award> awards)
    {
        var latest = Latest(awards);
        return latest.Count == 0
            ? marks
            : marks with
            {
                Targets =
                [
                    .. marks.Targets.Select(mark =>
                        latest.TryGetValue(mark.Target, out var award) ? Checker.Mark(mark.Target, isAnswered: true, award.Credit) : mark
                    ),
                ],
            };
    }

    internal static IReadOnlyDictionary<string, Award> Latest(IEnumerable<Award> awards) =>
        awards.GroupBy(award => award.Target).ToDictionary(alike => alike.Key, alike => alike.MaxBy(award => award.At)!);
}
