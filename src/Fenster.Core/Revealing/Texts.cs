using System.Collections.Immutable;
using Fenster.Core.Checking;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Fenster.Core.Scoring;

namespace Fenster.Core.Revealing;

/// <summary>What the teacher says to what a student did.</summary>
public sealed record FeedbackView
{
    private FeedbackView() { }

    public required ImmutableArray<ZoneTextView> Zones { get; init; }

    /// <summary>To labels that were put where they are wrong, and to pins.</summary>
    public required ImmutableArray<LabelTextView> Labels { get; init; }
    public required ImmutableArray<OtherTextView> Others { get; init; }

    /// <summary>What the teacher has said to this work.</summary>
    public required ImmutableArray<RemarkView> Remarks { get; init; }

    internal static FeedbackView? At(Sight sight, Aliases aliases)
    {
        if (!sight.Reached.Feedback)
            return null;
        var (pane, seen, now) = (sight.Pane, sight.Seen, sight.Now);
        var marks = sight.Marks;
        var states = marks.Targets.ToDictionary(mark => mark.Target, mark => mark.State);
        string Of(Target target) =>
            !SameAnswer.At(target, seen, now)
                ? ""
                : states[target.Id] switch
                {
                    TargetState.Earned => target.Feedback.Right,
                    TargetState.PartEarned or TargetState.Wrong => target.Feedback.Wrong,
                    _ => "",
                };
        var labels = pane.Labels.ToDictionary(label => label.Id);
        var placed = marks
            .Placements.Where(mark => mark.Verdict == Verdict.Wrong && now.Placements.Contains(mark.Placement))
            .Select(mark => new LabelTextView(
                aliases.OfLabel(mark.Placement.Label),
                mark.Placement.Copy,
                labels[mark.Placement.Label].Feedback
            ));
        var pinned = marks
            .Pins.Where(mark => now.Pins.Contains(mark.Pin))
            .Select(mark => new LabelTextView(
                aliases.OfLabel(mark.Pin.Label),
                mark.Pin.Copy,
                string.Join(' ', OfPin(pane, mark, labels[mark.Pin.Label]).Where(text => text != ""))
            ));
        return new()
        {
            Zones = [.. aliases.Zones.Select(z => new ZoneTextView(z.Alias, Of(z.Zone))).Where(text => text.Text != "")],
            Labels = [.. placed.Concat(pinned).Where(text => text.Text != "")],
            Others =
            [
                .. aliases
                    .Others.Select(t => new OtherTextView(
                        t.Alias,
                        string.Join(' ', OfOptions(t.Target, seen).Prepend(Of(t.Target)).Where(text => text != ""))
                    ))
                    .Where(text => text.Text != ""),
            ],
            Remarks =
            [
                .. sight
                    .Marked.Remarks.Where(remark => remark.Pane == pane.Id)
                    .Select(remark => new RemarkView(
                        remark.Target is { } target ? aliases.OfTarget(target) : null,
                        remark.At,
                        remark.Text
                    )),
            ],
        };
    }

    /// <summary>The text of the highest band that the score reaches; null when there is none to be seen.</summary>
    internal static string? BandAt(Reached reached, Activity activity, Lazy<ActivityScore> score)
    {
        if (!reached.Feedback || activity.ScoreBands.IsEmpty)
            return null;
        var share = score.Value.Possible == 0 ? 0 : score.Value.Score / score.Value.Possible;
        return activity.ScoreBands.Where(band => band.From <= share).MaxBy(band => band.From)?.Text;
    }

    private static IEnumerable<string> OfPin(Pane pane, PinMark mark, Label label)
    {
        var zones = pane.Targets.OfType<HiddenZone>().Where(zone => zone.Accepts.Any(accepted => accepted.Label == label.Id)).ToList();
        return mark.Verdict switch
        {
            Verdict.Right => zones
                .Where(zone => zone.Tolerance.CreditFor(zone.Region, mark.Pin.At) > 0)
                .Select(zone => zone.Feedback.Right),
            Verdict.Wrong or Verdict.Part => zones
                .Select(zone => zone.Feedback.Wrong)
                .Append(mark.Verdict == Verdict.Wrong ? label.Feedback : ""),
            _ => [],
        };
    }

    private static IEnumerable<string> OfOptions(Target target, Response seen) =>
        target is QuestionPoint { Question: ChoiceQuestion choice }
            ? choice
                .Options.Where(option => !option.IsRight && seen.Picks.GetValueOrDefault(target.Id, []).Contains(option.Id))
                .Select(option => option.Feedback)
            : [];
}

/// <summary>Why the right answers are right.</summary>
public sealed record ExplanationView
{
    private ExplanationView() { }

    /// <summary>Of the whole pane; empty for nothing.</summary>
    public required string Pane { get; init; }
    public required ImmutableArray<ZoneTextView> Zones { get; init; }

    /// <summary>Of zones that were hidden.</summary>
    public required ImmutableArray<string> Hidden { get; init; }
    public required ImmutableArray<OtherTextView> Others { get; init; }

    internal static ExplanationView? At(Reached reached, Pane pane, Aliases aliases) =>
        !reached.Explanation
            ? null
            : new()
            {
                Pane = pane.Explanation,
                Zones = [.. aliases.Zones.Select(z => new ZoneTextView(z.Alias, z.Zone.Explanation)).Where(text => text.Text != "")],
                Hidden = [.. pane.Targets.OfType<HiddenZone>().Select(zone => zone.Explanation).Where(text => text != "")],
                Others = [.. aliases.Others.Select(t => new OtherTextView(t.Alias, t.Target.Explanation)).Where(text => text.Text != "")],
            };
}

public sealed record ZoneTextView(string Zone, string Text);

public sealed record LabelTextView(string Label, int Copy, string Text);

public sealed record OtherTextView(string Target, string Text);

/// <param name="Target">What it is about; null for a spot or the pane, and for what is hidden.</param>
/// <param name="At">The spot that it is about, in pu.</param>
public sealed record RemarkView(string? Target, Point? At, string Text);
