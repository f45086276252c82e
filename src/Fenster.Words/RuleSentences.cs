using System.Collections.Immutable;
using Fenster.Core.Model;

namespace Fenster.Words;

/// <summary>
/// The rules of an activity, or of one of its panes, in plain words, made from the rules themselves so that they are always true.
/// </summary>
/// <param name="language">In which they are said.</param>
/// <param name="assignment">Words of an assignment, which are marked where they differ from the activity's; null for none.</param>
public sealed class RuleSentences(Language language, RuleWords? assignment = null)
{
    /// <summary>What holds for the activity, or for one of its panes.</summary>
    private Rules Holding(Activity activity, Pane? pane) =>
        pane is null ? activity.RulesOf(assignment) : activity.RulesOf(pane, assignment);

    public string Check(Activity activity) => Text(CheckWords(activity));

    public string Reveal(Activity activity) => Text(RevealWords(activity));

    public string Score(Activity activity) => Text(ScoreWords(activity));

    /// <summary>
    /// The score and what is shown when, as short as they can be said: what shows at the same time stands in one sentence.
    /// </summary>
    public string Short(Activity activity)
    {
        if (activity.Purpose == Purpose.LearningOnly)
            return language.Say("rules.toLearn");
        var things = Shown(activity, null).Where(thing => thing.Name != "key" || thing.At != Moment.Never);
        var shown = things.GroupBy(thing => thing.At).OrderBy(group => group.Key).Select(group => WhatShows([.. group], group.Key));
        return string.Join(' ', shown.Prepend(Score(activity)));
    }

    private string WhatShows(IReadOnlyList<Thing> things, Moment moment)
    {
        var count = things.Count == 1 && things[0].IsOne ? 1 : 2;
        var names = language.ListedWithAnd([.. things.Select(thing => language.Say($"rules.things.{thing.Name}"))]);
        var sentence = language.Parts("rules.shown", ("count", count), ("things", names), ("moment", When(moment)));
        return language.Capital(string.Concat(sentence.Select(part => part.Slot ?? part.Text)));
    }

    private static string Text(IEnumerable<Wording> words) => string.Concat(words.Select(word => word.Text));

    /// <summary>How work is checked, with the words that can be changed.</summary>
    /// <param name="pane">Null for the activity's own rules.</param>
    public ImmutableArray<Wording> CheckWords(Activity activity, Pane? pane = null)
    {
        var rules = Holding(activity, pane);
        var own = new Own(activity.Rules, rules);
        var sentences = new WordingBuilder(language);
        foreach (var fact in Facts(pane is null ? activity.Panes : [pane]))
            sentences.Add(fact);
        if (rules.Reveal.IsImmediate)
            sentences.Add("rules.checkedAtOnce");
        else
            sentences.Add(
                "rules.checks",
                (
                    "checks",
                    own.Choice(
                        "check.checks",
                        Checks(rules.Check.Checks),
                        [.. ((int?[])[0, 1, 2, 3, 5, null]).Select(checks => new WordOption(Wording.Value(checks), Checks(checks)))],
                        r => Wording.Value(r.Check.Checks)
                    )
                )
            );
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
            sentences.Add(
                "rules.wrongLabel",
                ("wrong", own.Choice("check.wrong", Options<WrongLabels>("rules.wrong"), r => r.Check.Wrong))
            );
            sentences.Add(
                "rules.rightLabel",
                ("right", own.Choice("check.right", Options<RightLabels>("rules.right"), r => r.Check.Right))
            );
        }
        return sentences.Made();
    }

    /// <summary>What counts as right, by what there is on the panes.</summary>
    private static IEnumerable<string> Facts(IReadOnlyList<Pane> panes)
    {
        var targets = panes.SelectMany(pane => pane.Targets).ToList();
        var zones = targets.OfType<DropZone>().ToList();
        var labels = panes.SelectMany(pane => pane.Labels).ToList();
        if (zones.Count > 0 || targets.Count == 0)
            yield return "rules.zonesCount";
        if (targets.Any(target => target is HiddenZone or ScalePoint))
            yield return "rules.pinsCount";
        if (targets.OfType<Hotspots>().Any())
            yield return "rules.marksCount";
        if (targets.OfType<SortRegion>().Any())
            yield return "rules.regionsCount";
        if (targets.Any(target => target is AnswerBox or QuestionPoint { Question: TypedQuestion }))
            yield return "rules.typedCounts";
        if (targets.OfType<Matching>().Any())
            yield return "rules.linksCount";
        if (labels.Count > 0 || targets.Count == 0)
            yield return labels.All(label => label.Copies == 1) ? "rules.labelsOnce"
            : labels.All(label => label.Copies is null) ? "rules.labelsFreely"
            : "rules.labelsSome";
        if (zones.Count > 0 || targets.Count == 0)
            yield return zones.All(zone => zone.Capacity == 1) ? "rules.zonesOne" : "rules.zonesSome";
        if (targets.OfType<OpenNote>().Any())
            yield return "rules.notesRead";
        if (targets.OfType<OwnPicture>().Any())
            yield return "rules.ownRead";
    }

    /// <param name="Name">Of the field of the rules that says when it shows.</param>
    /// <param name="Sentence">That it shows.</param>
    /// <param name="IsOne">Whether it is one thing.</param>
    private sealed record Thing(string Name, string Sentence, bool IsOne, Moment At, Func<Rules, Moment> Of);

    private IEnumerable<Thing> Shown(Activity activity, Pane? pane)
    {
        var rules = Holding(activity, pane).Reveal;
        var panes = pane is null ? activity.Panes : [pane];
        var targets = panes.SelectMany(p => p.Targets).ToList();
        var hasFeedback =
            !activity.ScoreBands.IsEmpty
            || targets.Any(target =>
                target.IsOpenWork
                || target.Feedback != Feedback.None
                || target is QuestionPoint { Question: ChoiceQuestion choice } && choice.Options.Any(option => option.Feedback != "")
            )
            || panes.SelectMany(p => p.Labels).Any(label => label.Feedback != "");
        var hasExplanation = panes.Any(p => p.Explanation != "") || targets.Any(target => target.Explanation != "");
        yield return new("marks", "rules.marksShow", false, rules.Marks, r => r.Reveal.Marks);
        // The score is one for all panes.
        if (pane is null && activity.Purpose == Purpose.Marked)
            yield return new("score", "rules.scoreShows", true, rules.Score, r => r.Reveal.Score);
        if (!IsOpenWork(panes))
            yield return new("key", "rules.keyShows", false, rules.Key, r => r.Reveal.Key);
        if (hasFeedback)
            yield return new("feedback", "rules.feedbackShows", true, rules.Feedback, r => r.Reveal.Feedback);
        if (hasExplanation)
            yield return new("explanation", "rules.explanationShows", false, rules.Explanation, r => r.Reveal.Explanation);
    }

    /// <summary>What is shown when, with the words that can be changed.</summary>
    /// <param name="pane">Null for the activity's own rules.</param>
    public ImmutableArray<Wording> RevealWords(Activity activity, Pane? pane = null)
    {
        var own = new Own(activity.Rules, Holding(activity, pane));
        var sentences = new WordingBuilder(language);
        foreach (var thing in Shown(activity, pane))
        {
            var moments = Options<Moment>("rules.moment");
            if (thing.Name == "key")
                moments = moments.RemoveRange(0, (int)Moment.LastTry);
            sentences.Add(thing.Sentence, ("moment", own.Choice($"reveal.{thing.Name}", moments, thing.Of)));
        }
        return sentences.Made();
    }

    /// <summary>What is earned, with the words that can be changed.</summary>
    /// <param name="pane">Null for the activity's own rules.</param>
    public ImmutableArray<Wording> ScoreWords(Activity activity, Pane? pane = null)
    {
        var all = Holding(activity, pane);
        var (rules, own) = (all.Score, new Own(activity.Rules, all));
        var sentences = new WordingBuilder(language);
        if (pane is null)
        {
            var purpose = own.Choice("purpose", Options<Purpose>("rules.purpose"), _ => activity.Purpose);
            // What it is for is no word of an assignment's.
            object said = assignment is null ? purpose : purpose.Text;
            sentences.Add(activity.Purpose == Purpose.LearningOnly ? "rules.onlyToLearn" : "rules.purpose", ("purpose", said));
            if (activity.Purpose == Purpose.LearningOnly)
                return sentences.Made();
        }
        ImmutableArray<Pane> panes = pane is null ? activity.Panes : [pane];
        AddWorth(sentences, panes);
        if (!IsOpenWork(panes))
            AddCosts(sentences, all, own);
        if (pane is null)
        {
            var grade = rules.MaximumGrade is { } maximum ? language.Number(maximum) : language.Say("rules.grade.points");
            var pass = rules.PassMark is { } mark ? language.Number(mark) : language.Say("rules.pass.none");
            sentences.Add(
                rules.PassMark is null ? "rules.gradeOnly" : "rules.gradeAndPass",
                ("grade", own.Number("score.maximumGrade", grade, r => r.Score.MaximumGrade)),
                ("pass", own.Number("score.passMark", pass, r => r.Score.PassMark))
            );
        }
        return sentences.Made();
    }

    /// <summary>What a wrong answer and a further try cost.</summary>
    private void AddCosts(WordingBuilder sentences, Rules all, Own own)
    {
        var rules = all.Score;
        sentences.Add("rules.manner", ("manner", own.Choice("score.manner", Options<ScoreManner>("rules.manner"), r => r.Score.Manner)));
        var nothing = language.Say("rules.cost.nothing");
        sentences.Add(
            rules.WrongCost == 0 ? "rules.wrongFree" : "rules.wrongCosts",
            ("cost", own.Number("score.wrongCost", rules.WrongCost == 0 ? nothing : Points(rules.WrongCost), r => r.Score.WrongCost))
        );
        if (all.Check.Checks != 0 || all.Reveal.IsImmediate)
        {
            var share = rules.TryCost == 0 ? nothing : language.Say("rules.percent", ("number", rules.TryCost * 100));
            sentences.Add(
                rules.TryCost == 0 ? "rules.tryFree" : "rules.tryCosts",
                ("cost", own.Number("score.tryCost", share, r => r.Score.TryCost * 100))
            );
        }
    }

    /// <summary>Whether people mark all of it: then nothing is right or wrong by itself.</summary>
    private static bool IsOpenWork(IReadOnlyList<Pane> panes) =>
        panes.SelectMany(pane => pane.Targets).Where(target => target.IsScored).ToList() is { Count: > 0 } scored
        && scored.All(target => target.IsOpenWork);

    private void AddWorth(WordingBuilder sentences, IReadOnlyList<Pane> panes)
    {
        var targets = panes.SelectMany(p => p.Targets).Where(target => target.IsScored).ToList();
        var areZones = targets.Count > 0 && targets.All(target => target is Zone);
        var points = targets.Select(target => target.Points).Distinct().ToList();
        var possible = Points(panes.Sum(p => p.PossiblePoints * p.Weight));
        if (targets.Count == 0)
            sentences.Add("rules.nothingYet");
        else if (points.Count == 1)
            sentences.Add(areZones ? "rules.zoneWorth" : "rules.targetWorth", ("points", Points(points[0])), ("all", possible));
        else
            sentences.Add(
                areZones ? "rules.zonesWorth" : "rules.targetsWorth",
                ("least", points.Min()),
                ("most", Points(points.Max())),
                ("all", possible)
            );
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

        public Wording Choice<T>(string path, ImmutableArray<WordOption> options, Func<Rules, T> of)
            where T : struct, Enum => Wording.Choose(path, Wording.Value(of(Pane)), options, Wording.Value(of(Activity)));

        public Wording Number(string path, string text, Func<Rules, decimal?> of) =>
            Wording.Type(path, Wording.Value(of(Pane)), text, Wording.Value(of(Activity)));
    }

    /// <summary>All values of a word of the rules, as the sentences beneath a name say them.</summary>
    private ImmutableArray<WordOption> Options<T>(string name)
        where T : struct, Enum =>
        [.. Enum.GetValues<T>().Select(value => new WordOption(Wording.Value(value), language.Say($"{name}.{Wording.Value(value)}")))];

    private string Checks(int? checks) =>
        checks switch
        {
            0 => language.Say("rules.checks.none"),
            null => language.Say("rules.checks.freely"),
            { } count => language.Say("rules.checks.count", ("count", count)),
        };

    private string When(Moment moment) => language.Say($"rules.moment.{Wording.Value(moment)}");

    private string Points(decimal points) => language.Say("rules.points", ("count", points));
}
