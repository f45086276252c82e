using System.Collections.Immutable;

namespace Fenster.Core.Model;

/// <summary>What a teacher builds and students do: a title, instructions, panes, and rules.</summary>
public sealed record Activity
{
    /// <summary>The heading that students see.</summary>
    public required string Title { get; init; }

    /// <summary>What to do, as plain text; empty when the title says it all.</summary>
    public string Instructions { get; init; } = "";

    /// <summary>A BCP 47 language tag, such as <c>en</c> or <c>ar</c>.</summary>
    public string Language { get; init; } = "en";

    public WritingDirection Direction { get; init; } = WritingDirection.LeftToRight;

    public ImmutableArray<Pane> Panes { get; init; } = [];

    public Rules Rules { get; init; } = new();

    /// <summary>In any order.</summary>
    public ImmutableArray<ScoreBand> ScoreBands { get; init; } = [];

    /// <summary>The pane with this id. Throws <see cref="KeyNotFoundException"/> when there is none.</summary>
    public Pane Pane(string id) =>
        Panes.FirstOrDefault(pane => pane.Id == id) ?? throw new KeyNotFoundException($"There is no pane '{id}'.");
}

public enum WritingDirection { LeftToRight, RightToLeft }

/// <summary>One page of an activity: a picture and the work on it.</summary>
public sealed record Pane
{
    /// <summary>Unique within the activity.</summary>
    public required string Id { get; init; }

    /// <summary>Null while the teacher has not chosen one.</summary>
    public Picture? Picture { get; init; }

    public ImmutableArray<Label> Labels { get; init; } = [];

    public ImmutableArray<Target> Targets { get; init; } = [];

    public BankOrder BankOrder { get; init; } = BankOrder.Shuffled;

    /// <summary>Multiplies the pane's score; greater than 0.</summary>
    public decimal Weight { get; init; } = 1;

    /// <summary>What students may read about the pane when explanations may be seen; empty for nothing.</summary>
    public string Explanation { get; init; } = "";

    /// <summary>Sum of the points of the scored targets, before the weight.</summary>
    public decimal PossiblePoints => Targets.Where(target => target.IsScored).Sum(target => target.Points);
}

/// <summary>How the labels lie in the bank at the start. Shuffling is seeded by the attempt.</summary>
public enum BankOrder { Shuffled, AsListed, Alphabetical }
