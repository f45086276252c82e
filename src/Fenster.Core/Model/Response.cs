using System.Collections.Immutable;
using Fenster.Core.Geometry;

namespace Fenster.Core.Model;

/// <summary>Everything that a student did on one pane.</summary>
public sealed record Response
{
    public static readonly Response Empty = new();

    public ImmutableArray<Placement> Placements { get; init; } = [];

    public ImmutableArray<Pin> Pins { get; init; } = [];

    /// <summary>Marked points by the id of the hotspots they were made for.</summary>
    public ImmutableDictionary<string, ImmutableArray<Point>> Marks { get; init; } = ImmutableDictionary<string, ImmutableArray<Point>>.Empty;

    /// <summary>Typed answers by the id of their answer box or question point, and notes by that of their open note.</summary>
    public ImmutableDictionary<string, string> Texts { get; init; } = ImmutableDictionary<string, string>.Empty;

    /// <summary>Ids of picked options by the id of their question point.</summary>
    public ImmutableDictionary<string, ImmutableArray<string>> Picks { get; init; } = ImmutableDictionary<string, ImmutableArray<string>>.Empty;

    /// <summary>Links by the id of their matching.</summary>
    public ImmutableDictionary<string, ImmutableArray<Link>> Links { get; init; } = ImmutableDictionary<string, ImmutableArray<Link>>.Empty;

    /// <summary>Tried codes by the id of their lock, in their order.</summary>
    public ImmutableDictionary<string, ImmutableArray<string>> Codes { get; init; } = ImmutableDictionary<string, ImmutableArray<string>>.Empty;

    /// <summary>
    /// The number of the try at which a target reached its final state, from 1, by target id;
    /// a target that is not named took one try.
    /// </summary>
    public ImmutableDictionary<string, int> Tries { get; init; } = ImmutableDictionary<string, int>.Empty;

    public int TriesFor(string target) => Tries.GetValueOrDefault(target, 1);
}

/// <summary>One copy of a label, put into a drop zone.</summary>
/// <param name="Label">Id of the label.</param>
/// <param name="Copy">Which copy of the label, from 0.</param>
/// <param name="Zone">Id of the drop zone.</param>
public sealed record Placement(string Label, int Copy, string Zone);

/// <summary>One copy of a label, its tip on an exact spot.</summary>
/// <param name="At">In picture units.</param>
public sealed record Pin(string Label, int Copy, Point At);
