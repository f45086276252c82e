using System.Globalization;
using Fenster.Core.Model;

namespace Fenster.Core.Revealing;

/// <summary>The rules of an activity in plain words, made from the rules themselves so that they are always true.</summary>
public static class RuleSentences
{
    public static string Check(Activity activity)
    {
        var zones = activity.Panes.SelectMany(pane => pane.Targets).OfType<DropZone>().ToList();
        var labels = activity.Panes.SelectMany(pane => pane.Labels).ToList();
        var copies = labels.All(label => label.Copies == 1) ? "Each label can be used once."
            : labels.All(label => label.Copies is null) ? "Each label can be used as often as you like."
            : "Some labels can be used more than once.";
        var capacity = zones.All(zone => zone.Capacity == 1) ? "Each zone takes one label." : "Some zones take several labels.";
        var checks = activity.Rules.Reveal.IsImmediate ? "Each label is checked as soon as it is put down." : activity.Rules.Check.Checks switch
        {
            0 => "Nothing is checked before handing in.",
            null => "Work can be checked as often as wanted before handing in.",
            1 => "Work can be checked once before handing in.",
            var n => $"Work can be checked {n} times before handing in.",
        };
        // These two act where right and wrong are seen before handing in.
        var isSeen = activity.Rules.Reveal.Marks switch
        {
            Moment.Placed => true,
            Moment.Checked => !activity.Rules.Reveal.IsImmediate && activity.Rules.Check.Checks != 0,
            Moment.LastTry => !activity.Rules.Reveal.IsImmediate && activity.Rules.Check.Checks is > 0,
            _ => false,
        };
        var wrong = isSeen && activity.Rules.Check.Wrong == WrongLabels.GoBack ? " A label that was found wrong goes back to the bank." : "";
        var right = isSeen && activity.Rules.Check.Right == RightLabels.HeldFast ? " A label that was found right stays where it is." : "";
        return $"A label counts when it lies in its zone. {copies} {capacity} {checks}{wrong}{right}";
    }

    public static string Reveal(Activity activity)
    {
        var rules = activity.Rules.Reveal;
        var targets = activity.Panes.SelectMany(pane => pane.Targets).ToList();
        var hasFeedback = !activity.ScoreBands.IsEmpty || targets.Any(target => target.Feedback != Feedback.None)
            || activity.Panes.SelectMany(pane => pane.Labels).Any(label => label.Feedback != "");
        var hasExplanation = activity.Panes.Any(pane => pane.Explanation != "") || targets.Any(target => target.Explanation != "");
        var things = new List<(string Name, Moment At)>
        {
            ("right and wrong", rules.Marks),
            ("the score", rules.Score),
            ("the right places", rules.Key),
        };
        if (hasFeedback) things.Add(("your teacher’s feedback", rules.Feedback));
        if (hasExplanation) things.Add(("explanations", rules.Explanation));
        var sentences = things.GroupBy(thing => thing.At).OrderBy(group => group.Key).Select(group =>
        {
            var names = group.Select(thing => thing.Name).ToList();
            var joined = names.Count == 1 ? names[0] : $"{string.Join(", ", names[..^1])} and {names[^1]}";
            return $"{char.ToUpperInvariant(joined[0])}{joined[1..]} {(names.Count == 1 && group.First().Name is "the score" or "your teacher’s feedback" ? "shows" : "show")} {When(group.Key)}.";
        });
        return string.Join(" ", sentences);
    }

    public static string Score(Activity activity)
    {
        var rules = activity.Rules.Score;
        var zones = activity.Panes.SelectMany(pane => pane.Targets).ToList();
        var points = zones.Select(zone => zone.Points).Distinct().ToList();
        var possible = activity.Panes.Sum(pane => pane.PossiblePoints * pane.Weight);
        var worth = zones.Count == 0 ? "Nothing can be earned yet."
            : points.Count == 1 ? $"Each zone is worth {Number(points[0], "point")}, {Number(possible, "point")} in all."
            : $"The zones are worth {Number(points.Min())} to {Number(points.Max(), "point")} each, {Number(possible, "point")} in all.";
        var manner = rules.Manner == ScoreManner.AllOrNothing ? "Points are given only when everything is right." : "Each counts on its own.";
        var wrong = rules.WrongCost == 0 ? "A wrong label costs nothing." : $"Each wrong label costs {Number(rules.WrongCost, "point")}.";
        var grade = rules.MaximumGrade is { } maximum ? $" The best grade is {Number(maximum)}." : "";
        var pass = rules.PassMark is { } mark ? $" The pass mark is {Number(mark)}." : "";
        return $"{worth} {manner} {wrong}{grade}{pass}";
    }

    private static string When(Moment moment) => moment switch
    {
        Moment.Placed => "as soon as a label is put down",
        Moment.Checked => "after each check",
        Moment.LastTry => "after the last try",
        Moment.HandedIn => "after handing in",
        Moment.Closed => "once the activity has closed",
        Moment.Released => "when the teacher releases them",
        Moment.Never => "never",
        _ => throw new ArgumentOutOfRangeException(nameof(moment), moment, "This moment is not known."),
    };

    private static string Number(decimal number, string? unit = null) =>
        number.ToString("0.####", CultureInfo.InvariantCulture) + (unit is null ? "" : number == 1 ? $" {unit}" : $" {unit}s");
}
