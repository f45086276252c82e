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
    public ImmutableDictionary<string, ImmutableArray<Point>> Marks { get; init; } =
        ImmutableDictionary<string, ImmutableArray<Point>>.Empty;

    /// <summary>Typed answers by the id of their answer box or question point, and notes by that of their open note.</summary>
    public ImmutableDictionary<string, string> Texts { get; init; } = ImmutableDictionary<string, string>.Empty;

    /// <summary>Ids of picked options by the id of their question point.</summary>
    public ImmutableDictionary<string, ImmutableArray<string>> Picks { get; init; } =
        ImmutableDictionary<string, ImmutableArray<string>>.Empty;

    /// <summary>Links by the id of their matching.</summary>
    public ImmutableDictionary<string, ImmutableArray<Link>> Links { get; init; } = ImmutableDictionary<string, ImmutableArray<Link>>.Empty;

    /// <summary>Tried codes by the id of their lock, in their order.</summary>
    public ImmutableDictionary<string, ImmutableArray<string>> Codes { get; init; } =
        ImmutableDictionary<string, ImmutableArray<string>>.Empty;

    /// <summary>Students' own pictures by the id of their target.</summary>
    public ImmutableDictionary<string, OwnWork> Own { get; init; } = ImmutableDictionary<string, OwnWork>.Empty;

    /// <summary>Ids of the info spots that were opened or found, in that order.</summary>
    public ImmutableArray<string> Opened { get; init; } = [];

    /// <summary>What the response was each time it was checked, the first time first. These have no earlier ones of their own.</summary>
    public ImmutableArray<Response> Earlier { get; init; } = [];

    /// <summary>How many answers there are: labels that lie somewhere, and targets that were marked, typed, picked or linked.</summary>
    public int Answers =>
        Placements.Length
        + Pins.Length
        + Texts.Count
        + Marks.Count(mark => !mark.Value.IsEmpty)
        + Picks.Count(pick => !pick.Value.IsEmpty)
        + Links.Count(link => !link.Value.IsEmpty)
        + Own.Count(own => !own.Value.IsEmpty);

    /// <summary>Whether the same is done in both, whatever the order and whatever was earlier.</summary>
    public bool IsSameWork(Response other) =>
        Placements.Length == other.Placements.Length
        && Placements.ToHashSet().SetEquals(other.Placements)
        && Pins.Length == other.Pins.Length
        && Pins.ToHashSet().SetEquals(other.Pins)
        && AreSame(Marks, other.Marks, (a, b) => a.SequenceEqual(b))
        && AreSame(Texts, other.Texts, (a, b) => a == b)
        && AreSame(Picks, other.Picks, (a, b) => a.Length == b.Length && a.ToHashSet().SetEquals(b))
        && AreSame(Links, other.Links, (a, b) => a.Length == b.Length && a.ToHashSet().SetEquals(b))
        && AreSame(Codes, other.Codes, (a, b) => a.SequenceEqual(b))
        && AreSame(Own, other.Own, (a, b) => a.IsSame(b));

    private static bool AreSame<T>(ImmutableDictionary<string, T> ours, ImmutableDictionary<string, T> others, Func<T, T, bool> same) =>
        ours.Count == others.Count && ours.All(pair => others.TryGetValue(pair.Key, out var other) && same(pair.Value, other));
}

/// <summary>One copy of a label, put into a drop zone.</summary>
/// <param name="Label">Id of the label.</param>
/// <param name="Copy">Which copy of the label, from 0.</param>
/// <param name="Zone">Id of the drop zone.</param>
public sealed record Placement(string Label, int Copy, string Zone);

/// <summary>One copy of a label, its tip on an exact spot.</summary>
/// <param name="At">In picture units.</param>
public sealed record Pin(string Label, int Copy, Point At);
