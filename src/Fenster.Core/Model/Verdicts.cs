using System.Collections.Immutable;
using Fenster.Core.Geometry;

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

    /// <summary>A person will mark it.</summary>
    Waiting,

    /// <summary>It is there to be read, not to be earned.</summary>
    Unscored,
}

/// <param name="Credit">What the placement earned for its target, from 0 to 1.</param>
public sealed record PlacementMark(Placement Placement, Verdict Verdict, decimal Credit);

/// <param name="Target">Id of the target.</param>
/// <param name="Credit">From 0 to 1.</param>
public sealed record TargetMark(string Target, decimal Credit, TargetState State);

/// <param name="Credit">What the pin earned for its zone, its value or the regions it is sorted into, from 0 to 1.</param>
public sealed record PinMark(Pin Pin, Verdict Verdict, decimal Credit)
{
    /// <summary>Where it earned at a hidden zone or a scale; null when it did not.</summary>
    internal Checking.PinPlace? Place { get; init; }

    /// <summary>The regions whose sets it counts for.</summary>
    internal ImmutableArray<string> Sorted { get; init; } = [];

    /// <summary>The regions that it lies in and that don't ask for it: sets, counts, and totals that don't come out.</summary>
    internal ImmutableArray<string> Spoils { get; init; } = [];

    /// <summary>The regions whose count or total does not come out with it: all that lies there makes one wrong action.</summary>
    internal ImmutableArray<string> Together { get; init; } = [];

    /// <summary>Whether it lies within reach of a target that was taken out or awarded, so that nothing about it costs anything.</summary>
    internal bool IsFree { get; init; }
}

/// <summary>What one marked point came to.</summary>
/// <param name="Target">Id of the hotspots.</param>
/// <param name="Credit">From 0 to 1.</param>
public sealed record PointMark(string Target, Point At, Verdict Verdict, decimal Credit)
{
    /// <summary>Which of the spots it found, from 0; -1 for none.</summary>
    internal int Spot { get; init; } = -1;
}

/// <param name="Target">Id of the matching.</param>
public sealed record LinkMark(string Target, Link Link, Verdict Verdict);

/// <summary>What checking a response against the key of its pane gave.</summary>
/// <param name="Placements">In the order of the response.</param>
/// <param name="Links">In the order of the pane's targets, and for each in the order of the response.</param>
/// <param name="Pins">In the order of the response.</param>
/// <param name="Points">In the order of the pane's targets, and for each in the order of the response.</param>
/// <param name="Targets">In the order of the pane.</param>
public sealed record PaneMarks(
    ImmutableArray<PlacementMark> Placements,
    ImmutableArray<PinMark> Pins,
    ImmutableArray<PointMark> Points,
    ImmutableArray<LinkMark> Links,
    ImmutableArray<TargetMark> Targets
)
{
    /// <summary>Ids of the answer boxes and question points that were answered and earned nothing.</summary>
    public required ImmutableArray<string> WrongAnswers { get; init; }

    /// <summary>By what the best pairing was chosen.</summary>
    internal Checking.Weighing Weighing { get; init; } = Checking.Weighing.Plain;

    /// <summary>
    /// How many actions were wrong: placements, pins, marked points, links, and answers that earned nothing. What lies in a
    /// region whose count or total does not come out is one. Trying a code is never wrong.
    /// </summary>
    public int WrongActions => WrongActionsBeside(null);

    /// <summary>
    /// The wrong actions that cost something where some targets were taken out or awarded.
    /// </summary>
    /// <param name="targets">Ids; null for none.</param>
    public int WrongActionsBeside(IReadOnlySet<string>? targets)
    {
        var wrong = 0;
        foreach (var mark in Placements)
            Count(mark.Verdict, mark.Placement.Zone);
        HashSet<string>? together = null;
        foreach (var mark in Pins)
        {
            if (mark.IsFree && targets is not null)
                continue;
            if (!mark.Together.IsEmpty)
                (together ??= []).UnionWith(mark.Together);
            if (mark.Together.IsEmpty || !mark.Spoils.IsEmpty)
                Count(mark.Verdict, null);
        }
        foreach (var region in together ?? [])
            Count(Verdict.Wrong, region);
        foreach (var mark in Points)
            Count(mark.Verdict, mark.Target);
        foreach (var mark in Links)
            Count(mark.Verdict, mark.Target);
        foreach (var target in WrongAnswers)
            Count(Verdict.Wrong, target);
        return wrong;

        void Count(Verdict verdict, string? target)
        {
            if (verdict == Verdict.Wrong && (target is null || targets?.Contains(target) != true))
                wrong++;
        }
    }
}
