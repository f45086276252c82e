using System.Collections.Immutable;
using Fenster.Core.Model;
using Fenster.Core.Scoring;

namespace Fenster.Core.Checking;

/// <summary>What says, beside the points of targets, which of several pairings is the best for a student.</summary>
/// <param name="WrongCost">In points, for each wrong action.</param>
/// <param name="Aside">Ids of the targets that take no pin, since they were taken out or a person has awarded them; null for none.</param>
internal sealed record Weighing(decimal WrongCost, bool IsAllOrNothing, IReadOnlySet<string>? Aside)
{
    /// <summary>Mistakes cost nothing, and each target counts on its own.</summary>
    public static Weighing Plain { get; } = new(0, false, null);

    public static Weighing Of(PaneKey key, ScoreRules rules, ImmutableArray<Award> awards) =>
        new(
            rules.WrongCost,
            rules.Manner == ScoreManner.AllOrNothing,
            awards.IsDefaultOrEmpty
                ? key.TakenOut
                : awards.Select(award => award.Target).Concat(key.TakenOut ?? Enumerable.Empty<string>()).ToHashSet()
        );

    public bool IsAside(Target target) => Aside?.Contains(target.Id) == true;

    /// <summary>Whether both find the same pairing the best.</summary>
    public bool IsLike(Weighing other) =>
        WrongCost == other.WrongCost
        && IsAllOrNothing == other.IsAllOrNothing
        && (Aside ?? System.Collections.Frozen.FrozenSet<string>.Empty).SetEquals(
            other.Aside ?? System.Collections.Frozen.FrozenSet<string>.Empty
        );
}
