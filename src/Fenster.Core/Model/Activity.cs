using System.Collections.Immutable;

namespace Fenster.Core.Model;

/// <summary>What a teacher builds and students do: a title, instructions, panes, and rules.</summary>
public sealed record Activity
{
    /// <summary>The heading that students see.</summary>
    public required string Title { get; init; }

    /// <summary>What the teacher calls it; empty when it is called as students see it.</summary>
    public string PrivateName { get; init; } = "";

    /// <summary>For the teacher and colleagues; students don't see it.</summary>
    public string Description { get; init; } = "";

    /// <summary>Whether it is kept as a beginning for others.</summary>
    public bool IsStarter { get; init; }

    /// <summary>Subjects to find it by.</summary>
    public ImmutableArray<string> Keywords { get; init; } = [];

    /// <summary>
    /// What to do: text with a small set of HTML elements, which whoever takes a document in cleans; empty when the title says it all.
    /// </summary>
    public string Instructions { get; init; } = "";

    /// <summary>A picture, sound or video that goes with the instructions; null for none.</summary>
    public Face? Message { get; init; }

    /// <summary>What the message shows or says, for who can't see or hear it.</summary>
    public string MessageText { get; init; } = "";

    /// <summary>A BCP 47 language tag, such as <c>en</c> or <c>ar</c>.</summary>
    public string Language { get; init; } = "en";

    public WritingDirection Direction { get; init; } = WritingDirection.LeftToRight;

    public ImmutableArray<Pane> Panes { get; init; } = [];

    public PaneOrder PaneOrder { get; init; } = PaneOrder.AsListed;

    public Purpose Purpose { get; init; } = Purpose.Marked;

    public Rules Rules { get; init; } = new();

    public Screen Screen { get; init; } = Screen.Usual;

    /// <summary>In any order.</summary>
    public ImmutableArray<ScoreBand> ScoreBands { get; init; } = [];

    /// <summary>
    /// The rules that hold for the activity as a whole: its own, in which an assignment's words replace the words that they name.
    /// </summary>
    public Rules RulesOf(RuleWords? assignment = null) => assignment?.Over(Rules) ?? Rules;

    /// <summary>
    /// The rules that hold on a pane, asked for by everything that makes a score: the activity's, in which the pane's own words
    /// replace those that they name, in which an assignment's replace those that they name. Grade and pass mark are never a
    /// pane's own, nor is the moment of the score.
    /// </summary>
    public Rules RulesOf(Pane pane, RuleWords? assignment = null)
    {
        if (pane.Rules is null)
            return RulesOf(assignment);
        var own = pane.Rules with { ScoreShows = default, MaximumGrade = default, PassMark = default };
        var both = own.Over(Rules);
        return assignment?.Over(both) ?? both;
    }

    /// <summary>
    /// The activity as it is given under an assignment's words: its own rules and those of its panes with these words in the place of
    /// theirs. <see cref="RulesOf(Pane, RuleWords?)"/> of it says what holds.
    /// </summary>
    public Activity Under(RuleWords assignment) =>
        assignment == RuleWords.None
            ? this
            : this with
            {
                Rules = assignment.Over(Rules),
                Panes = [.. Panes.Select(pane => pane.Rules is { } own ? pane with { Rules = assignment.Over(own) } : pane)],
            };

    /// <summary>Whether something of it shows only at a moment.</summary>
    public bool WaitsFor(Moment moment) =>
        Panes.Select(pane => RulesOf(pane)).Append(Rules).Any(rules => rules.Reveal.Moments().Contains(moment));

    /// <summary>The pane with this id. Throws <see cref="KeyNotFoundException"/> when there is none.</summary>
    public Pane Pane(string id) =>
        Panes.FirstOrDefault(pane => pane.Id == id) ?? throw new KeyNotFoundException($"There is no pane '{id}'.");
}

public enum WritingDirection
{
    LeftToRight,
    RightToLeft,
}

/// <summary>The order of the panes for students; shuffling is seeded by the attempt.</summary>
public enum PaneOrder
{
    AsListed,
    Shuffled,
}

/// <summary>What an activity is for: to be marked, or only to learn from, with no score and nothing handed in.</summary>
public enum Purpose
{
    Marked,
    LearningOnly,
}

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

    public LabelSize LabelSize { get; init; } = LabelSize.Medium;

    /// <summary>The scale that the picture carries, on which new scale points are put; null for none.</summary>
    public Geometry.Scale? Scale { get; init; }

    /// <summary>Words of the pane's own; null where the activity's hold.</summary>
    public RuleWords? Rules { get; init; }

    /// <summary>Multiplies the pane's score; greater than 0.</summary>
    public decimal Weight { get; init; } = 1;

    /// <summary>What students may read about the pane when explanations may be seen; empty for nothing.</summary>
    public string Explanation { get; init; } = "";

    /// <summary>Sum of the points of the scored targets, before the weight.</summary>
    public decimal PossiblePoints =>
        Targets.Where(target => target.IsScored && target.TakenOut != TakenOut.Nobody).Sum(target => target.Points);
}

/// <summary>How the labels lie in the bank at the start. Shuffling is seeded by the attempt.</summary>
public enum BankOrder
{
    Shuffled,
    AsListed,
    Alphabetical,
}
