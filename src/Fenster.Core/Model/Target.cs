using System.Collections.Immutable;
using Fenster.Core.Geometry;

namespace Fenster.Core.Model;

/// <summary>Something on a pane that a student's action can earn.</summary>
public abstract record Target
{
    private protected Target() { }

    /// <summary>Unique within the pane.</summary>
    public required string Id { get; init; }

    /// <summary>What the target is worth, greater than 0.</summary>
    public decimal Points { get; init; } = 1;
}

/// <summary>A region that takes labels, with corners that students see.</summary>
public sealed record DropZone : Target
{
    public required Region Region { get; init; }

    /// <summary>The labels that belong here, each with the credit it earns.</summary>
    public ImmutableArray<Accepted> Accepts { get; init; } = [];

    /// <summary>How many labels it takes, at least 1.</summary>
    public int Capacity { get; init; } = 1;

    /// <summary>Zones of one group are interchangeable; null for a zone that stands alone.</summary>
    public string? Group { get; init; }
}

/// <param name="Label">Id of a label of the same pane.</param>
/// <param name="Credit">More than 0, at most 1.</param>
public sealed record Accepted(string Label, decimal Credit = 1);
