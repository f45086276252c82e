using System.Runtime.CompilerServices;
using Fenster.Core.Geometry;

namespace Fenster.Core.Model;

/// <summary>One reason why an activity can't be taken as it is.</summary>
/// <param name="Where">Path in the document, such as <c>panes[0].targets[2]</c>.</param>
/// <param name="Sentence">What is wrong, for a person.</param>
public sealed record Fault(string Where, string Sentence);

/// <summary>What an activity must fulfil before anything else looks at it.</summary>
public static class Soundness
{
    public const int MostPanes = 200;
    public const int MostLabels = 2000;
    public const int MostTargets = 2000;
    public const int LongestTitle = 200;
    public const int LongestDescription = 2000;
    public const int LongestInstructions = 20_000;
    public const int LongestPrompt = 300;
    public const int MostKeywords = 30;

    /// <summary>Everything degenerate or contradictory in an activity, in document order; empty when it is sound.</summary>
    public static IReadOnlyList<Fault> Faults(Activity activity) => [.. OfActivity(activity)];

    private static IEnumerable<Fault> OfActivity(Activity activity)
    {
        if (string.IsNullOrWhiteSpace(activity.Title))
            yield return new("title", "The activity has no title.");
        if (activity.Title.Length > LongestTitle)
            yield return new("title", $"A title holds up to {LongestTitle} characters.");
        foreach (var fault in OfTexts(activity))
            yield return fault;
        foreach (var fault in OfRules(activity.Rules, "rules"))
            yield return fault;
        if (activity.Rules.Score is { MaximumGrade: { } maximum, PassMark: { } pass } && pass > maximum)
            yield return new("rules.score.passMark", "The pass mark is above the maximum grade.");
        if (
            activity.ScoreBands.Any(band => band.From is < 0 or > 1)
            || activity.ScoreBands.DistinctBy(band => band.From).Count() < activity.ScoreBands.Length
        )
            yield return new("scoreBands", "The score bands do not begin at different shares from 0 to 1.");
        if (activity.ScoreBands.Any(band => band.Text.Length > Feedback.LongestText))
            yield return new("scoreBands", $"The text of a score band holds up to {Feedback.LongestText} characters.");
        if (activity.Panes.Length > MostPanes)
        {
            yield return new("panes", $"An activity holds up to {MostPanes} panes.");
            yield break;
        }
        foreach (var fault in Twice(activity.Panes.Select(pane => pane.Id), "panes", "pane"))
            yield return fault;
        for (var i = 0; i < activity.Panes.Length; i++)
        {
            var pane = activity.Panes[i];
            if (Sound.TryGetValue(pane, out _))
                continue;
            var faults = OfPane(pane, $"panes[{i}]").ToList();
            if (faults.Count == 0)
                Sound.TryAdd(pane, pane);
            foreach (var fault in faults)
                yield return fault;
        }
    }

    /// <summary>Panes in which nothing was found. They never change, so they are looked at once.</summary>
    private static readonly ConditionalWeakTable<Pane, Pane> Sound = [];

    private static IEnumerable<Fault> OfTexts(Activity activity)
    {
        if (activity.PrivateName.Length > LongestTitle)
            yield return new("privateName", $"A private name holds up to {LongestTitle} characters.");
        if (activity.Description.Length > LongestDescription)
            yield return new("description", $"A description holds up to {LongestDescription} characters.");
        if (activity.Instructions.Length > LongestInstructions)
            yield return new("instructions", $"Instructions hold up to {LongestInstructions} characters.");
        if (activity.MessageText.Length > LongestDescription)
            yield return new("messageText", $"The description of a message holds up to {LongestDescription} characters.");
        if (activity.Keywords.Length > MostKeywords || activity.Keywords.Any(word => word.Length > 60))
            yield return new("keywords", $"An activity has up to {MostKeywords} subjects of up to 60 characters.");
        if (activity.Message?.Fault is { } fault)
            yield return new("message", $"The message {fault}.");
    }

    private static IEnumerable<Fault> OfRules(Rules rules, string where)
    {
        if (rules.Check.Checks is < 0 or > Limits.MostChecks)
            yield return new($"{where}.check", $"The number of checks is not between 0 and {Limits.MostChecks}.");
        if (rules.Reveal.Key < Moment.LastTry)
            yield return new($"{where}.reveal.key", "The right places may not show before the last try.");
        if (rules.Score.WrongCost < 0)
            yield return new($"{where}.score.wrongCost", "The cost of a wrong placement is below zero.");
        if (rules.Score.TryCost is < 0 or > 1)
            yield return new($"{where}.score.tryCost", "The cost of a further try is not between 0 and 1.");
        if (rules.Score.MaximumGrade <= 0)
            yield return new($"{where}.score.maximumGrade", "The maximum grade is not above zero.");
        if (rules.Score.PassMark < 0)
            yield return new($"{where}.score.passMark", "The pass mark is below zero.");
        foreach (
            var (name, number) in new (string, decimal?)[]
            {
                ("wrongCost", rules.Score.WrongCost),
                ("tryCost", rules.Score.TryCost),
                ("maximumGrade", rules.Score.MaximumGrade),
                ("passMark", rules.Score.PassMark),
            }
        )
            if (Limits.Fault(number) is { } fault)
                yield return new($"{where}.score.{name}", $"A number there {fault}.");
    }

    private static IEnumerable<Fault> OfPane(Pane pane, string where)
    {
        if (pane.Weight <= 0)
            yield return new($"{where}.weight", "The pane's weight is not above zero.");
        if (Limits.Fault(pane.Weight) is { } weight)
            yield return new($"{where}.weight", $"The pane's weight {weight}.");
        if (pane.Rules is { } rules)
            foreach (var fault in OfRules(rules.Over(new()), $"{where}.rules"))
                yield return fault;
        if (pane.Scale?.Fault is { } inScale)
            yield return new($"{where}.scale", $"The pane's scale {inScale}.");
        foreach (var fault in pane.Picture?.Faults ?? [])
            yield return new($"{where}.picture", $"The picture {fault}.");
        if (pane.Labels.Length > MostLabels || pane.Targets.Length > MostTargets)
        {
            yield return new(where, $"A pane holds up to {MostLabels} labels and {MostTargets} targets.");
            yield break;
        }
        foreach (var fault in Twice(pane.Labels.Select(label => label.Id), $"{where}.labels", "label"))
            yield return fault;
        if (pane.Targets.OfType<OwnPicture>().Any() && pane.Targets.Length + pane.Labels.Length > 1)
            yield return new($"{where}.targets", "A pane on which students make their own picture has nothing else on it.");
        if (pane.Targets.OfType<SortRegion>().Skip(Limits.MostSortRegions).Any())
            yield return new($"{where}.targets", $"A pane holds up to {Limits.MostSortRegions} regions to sort into.");
        foreach (var fault in Twice(pane.Targets.Select(target => target.Id), $"{where}.targets", "target"))
            yield return fault;

        for (var i = 0; i < pane.Labels.Length; i++)
        {
            var (label, here) = (pane.Labels[i], $"{where}.labels[{i}]");
            foreach (var fault in label.Faults)
                yield return new(here, $"The label '{Short(label.Text)}' {fault}.");
        }

        var labels = pane.Labels.ToDictionaryOfFirst(label => label.Id);
        for (var i = 0; i < pane.Targets.Length; i++)
            foreach (var fault in OfTarget(pane.Targets[i], labels, $"{where}.targets[{i}]"))
                yield return fault;
        foreach (var fault in OfLocks(pane, where))
            yield return fault;
    }

    private static IEnumerable<Fault> OfTarget(Target target, Dictionary<string, Label> labels, string where)
    {
        if (target.Points <= 0)
            yield return new(where, $"The target '{target.Id}' is not worth more than zero points.");
        if (Limits.Fault(target.Points) is { } points)
            yield return new(where, $"The target '{target.Id}' is worth a number that {points}.");
        foreach (var fault in target.Faults.Concat(target.Feedback.Faults))
            yield return new(where, $"The target '{target.Id}' {fault}.");
        if (target.Prompt.Length > LongestPrompt)
            yield return new(where, $"What the target '{target.Id}' asks for holds up to {LongestPrompt} characters.");
        if (target.Explanation.Length > Feedback.LongestText)
            yield return new(where, $"The explanation of the target '{target.Id}' holds up to {Feedback.LongestText} characters.");
        foreach (var label in target.NamedLabels)
            if (!labels.ContainsKey(label))
                yield return new(where, $"The target '{target.Id}' accepts the label '{label}', which the pane does not have.");
    }

    /// <summary>A lock names what it opens; no two open the same, and none lies behind itself.</summary>
    private static IEnumerable<Fault> OfLocks(Pane pane, string where)
    {
        var targets = pane.Targets.ToDictionaryOfFirst(target => target.Id);
        var behind = new Dictionary<string, string>();
        for (var i = 0; i < pane.Targets.Length; i++)
        {
            if (pane.Targets[i] is not Lock @lock)
                continue;
            foreach (var id in @lock.Opens)
                if (!targets.TryGetValue(id, out var opened))
                    yield return new($"{where}.targets[{i}]", $"The target '{@lock.Id}' opens '{id}', which the pane does not have.");
                else if (opened is Zone)
                    yield return new($"{where}.targets[{i}]", $"The target '{@lock.Id}' opens the zone '{id}'; zones are always there.");
                else if (!behind.TryAdd(id, @lock.Id))
                    yield return new($"{where}.targets[{i}]", $"The target '{id}' lies behind two locks.");
        }
        foreach (var @lock in behind.Keys)
        {
            var (outer, steps) = (@lock, 0);
            while (behind.TryGetValue(outer, out var next) && steps++ <= behind.Count)
                outer = next;
            if (steps <= behind.Count)
                continue;
            yield return new(where, $"The target '{@lock}' lies behind locks that lie behind it.");
            yield break;
        }
    }

    private static IEnumerable<Fault> Twice(IEnumerable<string> ids, string where, string what)
    {
        var seen = new HashSet<string>();
        foreach (var id in ids)
        {
            if (string.IsNullOrWhiteSpace(id) || id.Length > 64)
                yield return new(where, $"A {what} has no id of 1 to 64 characters.");
            else if (!seen.Add(id))
                yield return new(where, $"The id '{id}' of a {what} is there twice.");
        }
    }

    private static Dictionary<string, T> ToDictionaryOfFirst<T>(this IEnumerable<T> items, Func<T, string> id)
    {
        var dictionary = new Dictionary<string, T>();
        foreach (var item in items)
            dictionary.TryAdd(id(item), item);
        return dictionary;
    }

    private static string Short(string text) => text.Length <= 40 ? text : text[..40] + "…";
}
