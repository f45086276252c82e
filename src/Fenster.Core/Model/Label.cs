namespace Fenster.Core.Model;

/// <summary>A movable thing that students place.</summary>
public sealed record Label
{
    /// <summary>The most characters a label's text may have.</summary>
    public const int LongestText = 500;

    /// <summary>Unique within the pane.</summary>
    public required string Id { get; init; }

    public required string Text { get; init; }

    /// <summary>How many times the label may be placed, at least 1; null for without limit.</summary>
    public int? Copies { get; init; } = 1;

    /// <summary>What the label adds to a total; null for a label that has no value.</summary>
    public decimal? Value { get; init; }
}
