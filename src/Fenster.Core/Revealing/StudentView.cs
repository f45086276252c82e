using System.Collections.Immutable;
using Fenster.Core.Checking;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Fenster.Core.Scoring;

namespace Fenster.Core.Revealing;

/// <summary>
/// The only thing a student's browser is ever given. What is not visible yet is not in it: marks, score and key are
/// parts of their own, which can only be made from a moment that has reached theirs.
/// </summary>
public sealed record StudentView
{
    public required string Title { get; init; }
    public required string Instructions { get; init; }
    public required string Language { get; init; }
    public required WritingDirection Direction { get; init; }
    public required ImmutableArray<PaneView> Panes { get; init; }
    public required ScoreView? Score { get; init; }

    /// <summary>Whether the student may still change something.</summary>
    public required bool Open { get; init; }

    /// <summary>What an attempt may see at a moment.</summary>
    /// <param name="responses">By pane id; a pane without one is taken as untouched.</param>
    /// <param name="seed">The attempt's seed, which orders the bank.</param>
    public static StudentView At(Moment moment, Activity activity, IReadOnlyDictionary<string, Response> responses, long seed)
    {
        var reached = new Reached(moment, activity.Rules.Reveal);
        return new()
        {
            Title = activity.Title,
            Instructions = activity.Instructions,
            Language = activity.Language,
            Direction = activity.Direction,
            Open = moment < Moment.HandedIn,
            Score = ScoreView.At(reached, activity, responses),
            Panes = [.. activity.Panes.Select((pane, i) =>
                PaneView.At(reached, pane, $"p{i + 1}", responses.GetValueOrDefault(pane.Id, Response.Empty), seed))],
        };
    }

    /// <summary>The id of the pane that a student's browser knows under an alias.</summary>
    /// <exception cref="MoveRefused">There is no such pane.</exception>
    public static Pane PaneOf(Activity activity, string alias) =>
        activity.Panes.Where((_, i) => $"p{i + 1}" == alias).FirstOrDefault()
        ?? throw new MoveRefused("That picture is not part of this activity.");
}

/// <summary>The moment an attempt has reached, held against the rules of revealing.</summary>
internal readonly record struct Reached(Moment Moment, RevealRules Rules)
{
    private bool Has(Moment moment) => moment != Moment.Never && Moment >= moment;
    public bool Marks => Has(Rules.Marks);
    public bool Score => Has(Rules.Score);
    public bool Key => Has(Rules.Key);
}

public sealed record PaneView
{
    public required string Id { get; init; }
    public required Picture? Picture { get; init; }
    public required ImmutableArray<ZoneView> Zones { get; init; }
    public required ImmutableArray<LabelView> Labels { get; init; }
    public required ImmutableArray<Placement> Placed { get; init; }
    public required MarksView? Marks { get; init; }
    public required KeyView? Key { get; init; }

    internal static PaneView At(Reached reached, Pane pane, string alias, Response response, long seed)
    {
        var aliases = Aliases.For(pane, seed);
        return new()
        {
            Id = alias,
            Picture = pane.Picture,
            Zones = [.. aliases.Zones.Select(z => new ZoneView(z.Alias, z.Zone.Region, z.Zone.Capacity))],
            Labels = [.. aliases.Labels.Select(l => new LabelView(l.Alias, l.Label.Text, l.Label.Copies))],
            Placed = [.. response.Placements.Select(p => Seen(p, aliases))],
            Marks = MarksView.At(reached, pane, response, aliases),
            Key = KeyView.At(reached, pane, aliases),
        };
    }

    internal static Placement Seen(Placement placement, Aliases aliases) =>
        new(aliases.OfLabel(placement.Label), placement.Copy, aliases.OfZone(placement.Zone));
}

/// <param name="Capacity">How many labels it takes.</param>
public sealed record ZoneView(string Id, Region Region, int Capacity);

/// <param name="Copies">How often it may be placed; null for without limit.</param>
public sealed record LabelView(string Id, string Text, int? Copies);

/// <summary>Which placements are right or wrong.</summary>
public sealed record MarksView
{
    private MarksView() { }

    /// <summary>In the order of <see cref="PaneView.Placed"/>.</summary>
    public required ImmutableArray<Verdict> Placed { get; init; }
    public required ImmutableArray<ZoneMarkView> Zones { get; init; }

    internal static MarksView? At(Reached reached, Pane pane, Response response, Aliases aliases)
    {
        if (!reached.Marks) return null;
        var marks = Checker.Check(pane, response);
        var states = marks.Targets.ToDictionary(mark => mark.Target, mark => mark.State);
        return new()
        {
            Placed = [.. marks.Placements.Select(mark => mark.Verdict)],
            Zones = [.. aliases.Zones.Select(z => new ZoneMarkView(z.Alias, states[z.Zone.Id]))],
        };
    }
}

public sealed record ZoneMarkView(string Zone, TargetState State);

/// <summary>Where things belong.</summary>
public sealed record KeyView
{
    private KeyView() { }

    public required ImmutableArray<ZoneKeyView> Zones { get; init; }

    internal static KeyView? At(Reached reached, Pane pane, Aliases aliases) => !reached.Key ? null : new()
    {
        Zones = [.. aliases.Zones.Select(z => new ZoneKeyView(z.Alias, [.. z.Zone.Accepts.Select(a => aliases.OfLabel(a.Label))]))],
    };
}

/// <param name="Labels">Aliases of the labels that belong here.</param>
public sealed record ZoneKeyView(string Zone, ImmutableArray<string> Labels);

public sealed record ScoreView
{
    private ScoreView() { }

    public required decimal Score { get; init; }
    public required decimal Possible { get; init; }
    public required decimal Grade { get; init; }
    public required decimal MaximumGrade { get; init; }
    public required bool? Passed { get; init; }

    internal static ScoreView? At(Reached reached, Activity activity, IReadOnlyDictionary<string, Response> responses)
    {
        if (!reached.Score) return null;
        var score = Scorer.Score(activity, responses);
        return new()
        {
            Score = score.Score,
            Possible = score.Possible,
            Grade = score.Grade,
            MaximumGrade = score.MaximumGrade,
            Passed = score.Passed,
        };
    }
}
