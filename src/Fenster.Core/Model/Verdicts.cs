using System.Collections.Immutable;

namespace Fenster.Core.Model;

/// <summary>What one action of a student came to.</summary>
public enum Verdict
{
    Right,
    /// <summary>Credit strictly between 0 and 1.</summary>
    Part,
    Wrong,
    /// <summary>Would be right, but its place is already earned.</summary>
    Surplus,
    Unscored,
}

public enum TargetState
{
    Earned,
    PartEarned,
    /// <summary>Nothing was put there.</summary>
    Missed,
    Wrong,
}

/// <param name="Credit">What the placement earned for its target, from 0 to 1.</param>
public sealed record PlacementMark(Placement Placement, Verdict Verdict, decimal Credit);

/// <param name="Target">Id of the target.</param>
/// <param name="Credit">From 0 to 1.</param>
public sealed record TargetMark(string Target, decimal Credit, TargetState State);

/// <summary>What checking a response against the key of its pane gave.</summary>
/// <param name="Placements">In the order of the response.</param>
/// <param name="Targets">In the order of the pane.</param>
public sealed record PaneMarks(ImmutableArray<PlacementMark> Placements, ImmutableArray<TargetMark> Targets)
{
    /// <summary>How many actions were wrong.</summary>
    public int WrongActions => Placements.Count(mark => mark.Verdict == Verdict.Wrong);
}
