using System.Collections.Immutable;
using System.Globalization;
using Fenster.Core.Model;

namespace Fenster.Core.Revealing;

/// <summary>
/// The rules of an activity, or of one of its panes, in plain words, made from the rules themselves so that they are always true.
/// </summary>
public static class RuleSentences
{
    public static string Check(Activity activity) => Text(CheckWords(activity));

    public static string Reveal(Activity activity) => Text(RevealWords(activity));

    public static string Score(Activity activity) => Text(ScoreWords(activity));

    /// <summary>
    /// The score and what is shown when, as short as they can be said: what shows at the same time stands in one sentence.
    /// </summary>
    public static string Short(Activity activity)
    {
        if (activity.Purpose == Purpose.LearningOnly)
            return "This is there to learn from: nothing is scored or handed in.";
        var things = Shown(activity, null).Where(thing => thing.Path != "reveal.key" || thing.At != Moment.Never);
        var shown = things
            .GroupBy(thing => thing.At)
            .OrderBy(group => group.Key)
            .Select(group =>
            {
                var names = group.Select(thing => thing.Name).ToList();
                var joined = names.Count == 1 ? names[0] : $"{string.Join(", ", names[..^1])} and {names[^1]}";
                return $"{Capital(joined)} {(names.Count == 1 && group.First().IsOne ? "shows" : "show")} {When(group.Key)}.";
            });
        return $"{Score(activity)} {string.Join(" ", shown)}";
    }

    private static string Text(IEnumerable<Wording> words) => string.Concat(words.Select(word => word.Text));

    /// <summary>How work is checked, with the words that can be changed.</summary>
    /// <param name="pane">Null for the activity's own rules.</param>
    public static ImmutableArray<Wording> CheckWords(Activity activity, Pane? pane = null)
    {
        var rules = pane is null ? activity.Rules : activity.RulesOf(pane);
        var own = new Own(activity.Rules, rules);
        var panes = pane is null ? activity.Panes : [pane];
        var words = new List<Wording>(Facts(panes).SelectMany(fact => new[] { new Wording(fact), new Wording(" ") }));
        if (rules.Reveal.IsImmediate)
        {
            words.Add(new("Each label is checked as soon as it is put down."));
        }
        else
        {
            words.Add(new("Students have "));
            words.Add(
                own.Choice(
                    "check.checks",
                    Checks(rules.Check.Checks),
                    [.. ((int?[])[0, 1, 2, 3, 5, null]).Select(checks => new WordOption(Wording.Value(checks), Checks(checks)))],
                    r => Wording.Value(r.Check.Checks)
                )
            );
            words.Add(new(" before handing in."));
        }
        // These two act where right and wrong are seen before handing in.
        var isSeen = rules.Reveal.Marks switch
        {
            Moment.Placed => true,
            Moment.Checked => !rules.Reveal.IsImmediate && rules.Check.Checks != 0,
            Moment.LastTry => !rules.Reveal.IsImmediate && rules.Check.Checks is > 0,
            _ => false,
        };
        if (isSeen)
        {
            words.Add(new(" A label that was found wrong "));
            words.Add(
                own.Choice(
                    "check.wrong",
                    rules.Check.Wrong == WrongLabels.GoBack ? "goes back to the bank" : "stays",
                    [new("stay", "stays"), new("goBack", "goes back to the bank")],
                    r => Wording.Value(r.Check.Wrong)
                )
            );
            words.Add(new(". A label that was found right "));
            words.Add(
                own.Choice(
                    "check.right",
                    rules.Check.Right == RightLabels.HeldFast ? "stays where it is" : "may be moved",
                    [new("mayMove", "may be moved"), new("heldFast", "stays where it is")],
                    r => Wording.Value(r.Check.Right)
                )
            );
            words.Add(new("."));
        }
        return [.. words];
    }

    /// <summary>What counts as right, by what there is on the panes.</summary>
    private static IEnumerable<string> Facts(IReadOnlyList<Pane> panes)
    {
        var targets = panes.SelectMany(pane => pane.Targets).ToList();
        var zones = targets.OfType<DropZone>().ToList();
        var labels = panes.SelectMany(pane => pane.Labels).ToList();
        if (zones.Count > 0 || targets.Count == 0)
            yield return "A label counts when it lies in its zone.";
        if (targets.Any(target => target is HiddenZone or ScalePoint))
            yield return "A pin counts when its tip is on its place.";
        if (targets.OfType<Hotspots>().Any())
            yield return "A mark counts when it lies in one of the places.";
        if (targets.OfType<SortRegion>().Any())
            yield return "A region counts when all that belongs into it lies there, and nothing else.";
        if (targets.Any(target => target is AnswerBox or QuestionPoint { Question: TypedQuestion }))
            yield return "What is typed counts when it is one of the accepted answers.";
        if (targets.OfType<Matching>().Any())
            yield return "A link counts when the two belong together.";
        if (labels.Count > 0 || targets.Count == 0)
            yield return labels.All(label => label.Copies == 1) ? "Each label can be used once."
            : labels.All(label => label.Copies is null) ? "Each label can be used as often as you like."
            : "Some labels can be used more than once.";
        if (zones.Count > 0 || targets.Count == 0)
            yield return zones.All(zone => zone.Capacity == 1) ? "Each zone takes one label." : "Some zones take several labels.";
        if (targets.OfType<OpenNote>().Any())
            yield return "Notes are read by the teacher.";
    }

    private sealed record Thing(string Path, string Name, bool IsOne, Moment At, Func<Rules, Moment> Of);

    private static IEnumerable<Thing> Shown(Activity activity, Pane? pane)
    {
        var rules = (pane is null ? activity.Rules : activity.RulesOf(pane)).Reveal;
        var panes = pane is null ? activity.Panes : [pane];
        var targets = panes.SelectMany(p => p.Targets).ToList();
        var hasFeedback =
            !activity.ScoreBands.IsEmpty
            || targets.Any(target =>
                target.Feedback != Feedback.None
                || target is QuestionPoint { Question: ChoiceQuestion choice } && choice.Options.Any(option => option.Feedback != "")
            )
            || panes.SelectMany(p => p.Labels).Any(label => label.Feedback != "");
        var hasExplanation = panes.Any(p => p.Explanation != "") || targets.Any(target => target.Explanation != "");
        yield return new("reveal.marks", "right and wrong", false, rules.Marks, r => r.Reveal.Marks);
        // The score is one for all panes.
        if (pane is null && activity.Purpose == Purpose.Marked)
            yield return new("reveal.score", "the score", true, rules.Score, r => r.Reveal.Score);
        yield return new("reveal.key", "the right places", false, rules.Key, r => r.Reveal.Key);
        if (hasFeedback)
            yield return new("reveal.feedback", "your teacher’s feedback", true, rules.Feedback, r => r.Reveal.Feedback);
        if (hasExplanation)
            yield return new("reveal.explanation", "explanations", false, rules.Explanation, r => r.Reveal.Explanation);
    }

    /// <summary>What is shown when, with the words that can be changed.</summary>
    /// <param name="pane">Null for the activity's own rules.</param>
    public static ImmutableArray<Wording> RevealWords(Activity activity, Pane? pane = null)
    {
        var own = new Own(activity.Rules, pane is null ? activity.Rules : activity.RulesOf(pane));
        var words = new List<Wording>();
        foreach (var thing in Shown(activity, pane))
        {
            words.Add(new($"{(words.Count > 0 ? " " : "")}{Capital(thing.Name)} {(thing.IsOne ? "shows" : "show")} "));
            var moments = Enum.GetValues<Moment>().Where(moment => thing.Path != "reveal.key" || moment >= Moment.LastTry);
            words.Add(
                own.Choice(
                    thing.Path,
                    When(thing.At),
                    [.. moments.Select(moment => new WordOption(Wording.Value(moment), When(moment)))],
                    r => Wording.Value(thing.Of(r))
                )
            );
            words.Add(new("."));
        }
        return [.. words];
    }

    /// <summary>What is earned, with the words that can be changed.</summary>
    /// <param name="pane">Null for the activity's own rules.</param>
    public static ImmutableArray<Wording> ScoreWords(Activity activity, Pane? pane = null)
    {
        var all = pane is null ? activity.Rules : activity.RulesOf(pane);
        var (rules, own) = (all.Score, new Own(activity.Rules, all));
        var panes = pane is null ? activity.Panes : [pane];
        var words = new List<Wording>();
        if (pane is null)
        {
            words.Add(
                own.Choice(
                    "purpose",
                    activity.Purpose == Purpose.Marked ? "It is marked" : "It is there to learn from",
                    [new("marked", "It is marked"), new("learningOnly", "It is there to learn from")],
                    _ => Wording.Value(activity.Purpose)
                )
            );
            if (activity.Purpose == Purpose.LearningOnly)
            {
                words.Add(new(": nothing is scored or handed in."));
                return [.. words];
            }
            words.Add(new(". "));
        }
        var targets = panes.SelectMany(p => p.Targets).Where(target => target.IsScored).ToList();
        var what = targets.Count > 0 && targets.All(target => target is Zone) ? "zone" : "target";
        var points = targets.Select(target => target.Points).Distinct().ToList();
        var possible = panes.Sum(p => p.PossiblePoints * p.Weight);
        words.Add(
            new(
                targets.Count == 0 ? "Nothing can be earned yet. "
                : points.Count == 1 ? $"Each {what} is worth {Number(points[0], "point")}, {Number(possible, "point")} in all. "
                : $"The {what}s are worth {Number(points.Min())} to "
                    + $"{Number(points.Max(), "point")} each, {Number(possible, "point")} in all. "
            )
        );
        words.Add(
            own.Choice(
                "score.manner",
                rules.Manner == ScoreManner.AllOrNothing ? "Points are given only when everything is right" : "Each counts on its own",
                [new("eachOnItsOwn", "Each counts on its own"), new("allOrNothing", "Points are given only when everything is right")],
                r => Wording.Value(r.Score.Manner)
            )
        );
        words.Add(new(rules.WrongCost == 0 ? ". A wrong one costs " : ". Each wrong one costs "));
        words.Add(
            own.Number("score.wrongCost", rules.WrongCost == 0 ? "nothing" : Number(rules.WrongCost, "point"), r => r.Score.WrongCost)
        );
        words.Add(new("."));
        if (all.Check.Checks != 0 || all.Reveal.IsImmediate)
        {
            words.Add(new(" Each further try costs "));
            words.Add(
                own.Number("score.tryCost", rules.TryCost == 0 ? "nothing" : $"{Number(rules.TryCost * 100)} %", r => r.Score.TryCost * 100)
            );
            words.Add(new(rules.TryCost == 0 ? "." : " of the points."));
        }
        if (pane is null)
        {
            words.Add(new(" The best grade is "));
            words.Add(
                own.Number("score.maximumGrade", rules.MaximumGrade is { } maximum ? Number(maximum) : "the number of points", r =>
                    r.Score.MaximumGrade
                )
            );
            words.Add(new(rules.PassMark is null ? "; there is " : ". The pass mark is "));
            words.Add(own.Number("score.passMark", rules.PassMark is { } mark ? Number(mark) : "no pass mark", r => r.Score.PassMark));
            words.Add(new("."));
        }
        return [.. words];
    }

    /// <summary>Words of a pane beside those of its activity.</summary>
    private sealed record Own(Rules Activity, Rules Pane)
    {
        public Wording Choice(string path, string text, ImmutableArray<WordOption> options, Func<Rules, string> of) =>
            Wording.Choose(
                path,
                of(Pane),
                text,
                options.Any(option => option.Value == of(Pane)) ? options : [.. options, new(of(Pane), text)],
                of(Activity)
            );

        public Wording Number(string path, string text, Func<Rules, decimal?> of) =>
            Wording.Type(path, Wording.Value(of(Pane)), text, Wording.Value(of(Activity)));
    }

    private static string Checks(int? checks) =>
        checks switch
        {
            0 => "no check",
            1 => "one check",
            null => "as many checks as they like",
            _ => $"{checks} checks",
        };

    private static string Capital(string text) => char.ToUpperInvariant(text[0]) + text[1..];

    private static string When(Moment moment) =>
        moment switch
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
        Wording.Value(number)
        + (
            unit is null ? ""
            : number == 1 ? $" {unit}"
            : $" {unit}s"
        );
}
