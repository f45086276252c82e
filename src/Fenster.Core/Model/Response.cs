using System.Collections.Immutable;

namespace Fenster.Core.Model;

/// <summary>Everything that a student did on one pane.</summary>
public sealed record Response
{
    public static readonly Response Empty = new();

    public ImmutableArray<Placement> Placements { get; init; } = [];

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
