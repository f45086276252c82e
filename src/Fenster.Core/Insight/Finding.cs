using System.Collections.Immutable;
using Fenster.Core.Checking;
using Fenster.Core.Model;
using Lock = Fenster.Core.Model.Lock;

namespace Fenster.Core.Insight;

/// <summary>How a scale is misread.</summary>
public enum Misreading
{
    /// <summary>From the other end of an axis.</summary>
    WrongEnd,

    /// <summary>One axis is taken for the other.</summary>
    SwappedAxes,
}

/// <summary>Something that the figures of a class tell a teacher, and where. docs/insight.md has the rules, their sources and how often they err.</summary>
/// <param name="Pane">Null for the activity as a whole.</param>
/// <param name="Target">Null for no target of its own.</param>
public abstract record Finding(Pane? Pane, Target? Target)
{
    /// <summary>Fewer works carry no finding.</summary>
    public const int FewestWorks = 10;

    /// <summary>How often, at most, a rule may find something by chance in a class where nothing is to be found.</summary>
    private const double MayErr = 0.005;

    /// <summary>The same where there are few things to choose from: counts are coarse there, and what is found by chance comes to less than a third of it.</summary>
    private const double AmongFew = 0.02;

    /// <summary>The best third of a class, of which at least so many are looked at.</summary>
    private const int FewestBest = 5;

    /// <summary>Those who did best gave mostly one and the same answer that the key calls wrong.</summary>
    /// <param name="Given">What they answered, as one of them gave it: a response to the pane.</param>
    public sealed record KeyDoubt(Pane Pane, Target Target, Response Given, int Count, int Best) : Finding(Pane, Target);

    /// <summary>Two labels are taken for each other.</summary>
    public sealed record MixedUp(Pane Pane, Target Target, Target Other, int There, int Back, int Works) : Finding(Pane, Target);

    /// <summary>Two things to be matched are taken for each other.</summary>
    /// <param name="There">How many linked the one with what belongs to the other.</param>
    public sealed record MixedPairs(Pane Pane, Target Target, MatchItem One, MatchItem Other, int There, int Back, int Works)
        : Finding(Pane, Target);

    /// <summary>Many read a scale in one wrong way.</summary>
    public sealed record Misread(Pane Pane, Target Target, Misreading How, int Count, int Works) : Finding(Pane, Target);

    /// <summary>Wrong points lie close outside.</summary>
    /// <param name="Near">How many within 2 % of the picture's width.</param>
    public sealed record TooSmall(Pane Pane, Target Target, int Near, int Wrong) : Finding(Pane, Target);

    /// <summary>Those who did well overall got it less often than the others.</summary>
    public sealed record BestMiss(Pane Pane, Target Target, double Discrimination, int Works) : Finding(Pane, Target);

    /// <summary>Many put one label to one wrong place.</summary>
    public sealed record CommonWrong(Pane Pane, Target Target, Label Label, int Count, int Works) : Finding(Pane, Target);

    /// <summary>Many gave one and the same wrong answer.</summary>
    /// <param name="Given">What they answered, as one of them gave it: a response to the pane.</param>
    public sealed record CommonAnswer(Pane Pane, Target Target, Response Given, int Count, int Works) : Finding(Pane, Target);

    /// <summary>Hardly anybody got it.</summary>
    public sealed record Hardly(Pane Pane, Target Target, int Count, int Works) : Finding(Pane, Target);

    /// <summary>Many left it open.</summary>
    public sealed record LeftOut(Pane Pane, Target Target, int Count, int Works) : Finding(Pane, Target);

    /// <summary>It took much longer than the others.</summary>
    /// <param name="Times">By how much.</param>
    public sealed record Slow(Pane Pane, Target Target, double Seconds, double Times) : Finding(Pane, Target);

    /// <summary>Nobody who missed the one got the other.</summary>
    public sealed record Needs(Pane Pane, Target Target, Pane OtherPane, Target Other, int Missed) : Finding(Pane, Target);

    /// <summary>The class did no better than by guessing.</summary>
    /// <param name="Mean">Share of the points.</param>
    /// <param name="Guess">What guessing earns of them.</param>
    public sealed record Guessed(double Mean, double Guess) : Finding((Pane?)null, null);

    /// <summary>All findings, the most useful first; none where there are too few works.</summary>
    /// <param name="responses">By pane id, in the order of the works that the insight is of.</param>
    /// <param name="guess">Share of the points that guessing earns; null where that is not known.</param>
    public static ImmutableArray<Finding> In(
        Activity activity,
        ActivityInsight insight,
        IReadOnlyList<ImmutableDictionary<string, Response>> responses,
        double? guess = null
    )
    {
        if (insight.Works < FewestWorks || insight.Possible == 0)
            return [];
        // A class that guesses says nothing about single questions.
        if (guess is { } share && Guesses(insight, share) is { } guessed)
            return [guessed];
        var items = activity
            .Panes.Zip(insight.Panes)
            .SelectMany(pane =>
                pane.First.Targets.Zip(pane.Second.Targets).Select(target => new Item(pane.First, target.First, target.Second))
            )
            .Where(item => !item.Figures.Credits.IsEmpty)
            .ToList();
        var best = BestThird(insight);
        var doubts = items.SelectMany(item => Doubts(item, best, responses)).ToList();
        bool IsTold(Target target) => doubts.Any(doubt => ReferenceEquals(doubt.Target, target));
        var mixed = activity.Panes.Zip(insight.Panes).SelectMany(pane => Mixed(pane.First, pane.Second, insight.Works)).ToList();
        bool IsMixed(string from, string to) =>
            mixed.Any(each => (each.Target!.Id == from && each.Other.Id == to) || (each.Target.Id == to && each.Other.Id == from));
        return
        [
            .. doubts,
            .. mixed,
            .. items.SelectMany(item => Swapped(item, responses)),
            .. items.Select(item => Reading(item, items.Count, responses)).OfType<Finding>(),
            .. items.Select(item => Small(item, insight.Works)).OfType<Finding>(),
            .. items.Where(item => !IsTold(item.Target)).Select(item => Backwards(item, items.Count)).OfType<Finding>(),
            .. activity
                .Panes.Zip(insight.Panes)
                .SelectMany(pane => Common(pane.First, pane.Second, insight.Works))
                .Where(found => found.Home is null || !IsMixed(found.Finding.Target!.Id, found.Home))
                .Select(found => found.Finding),
            .. items.Where(item => !IsTold(item.Target)).Select(item => Alike(item, items.Count, responses)).OfType<Finding>(),
            .. items.Where(item => !IsTold(item.Target)).Select(Rare).OfType<Finding>(),
            .. items.Select(item => Open(item, insight.Works)).OfType<Finding>(),
            .. Needing(items),
            .. Slower(items),
        ];
    }

    private sealed record Item(Pane Pane, Target Target, TargetInsight Figures)
    {
        /// <summary>How many got it whole.</summary>
        public int Right => Figures.Credits.Count(credit => credit >= 1);
    }

    /// <summary>The works of the best third by total, as numbers.</summary>
    private static int[] BestThird(ActivityInsight insight) =>
        [
            .. insight
                .Totals.Select((total, i) => (total, i))
                .OrderByDescending(work => work.total)
                .Take(Math.Max(FewestBest, insight.Works / 3))
                .Select(work => work.i),
        ];

    private static Guessed? Guesses(ActivityInsight insight, double guess)
    {
        var error = insight.StandardDeviation / Math.Sqrt(insight.Works);
        return
            insight.Mean <= guess * insight.Possible + 2.5 * error && insight.Mean < 0.6 * insight.Possible && insight.Alpha is not >= 0.5
            ? new(insight.Mean / insight.Possible, guess)
            : null;
    }

    /// <summary>
    /// At least half of the best gave the same wrong answer, and fewer than a quarter of them the right one. Where an answer has
    /// parts, each of them is looked at by itself.
    /// </summary>
    private static IEnumerable<KeyDoubt> Doubts(Item item, int[] best, IReadOnlyList<ImmutableDictionary<string, Response>> responses)
    {
        Response On(int work) => responses[work].GetValueOrDefault(item.Pane.Id, Response.Empty);
        bool IsDoubt(int same, int right) => same >= 0.5 * best.Length && right < 0.25 * best.Length;
        KeyDoubt Of(Response given, int count) => new(item.Pane, item.Target, given, count, best.Length);
        switch (item.Target)
        {
            case Hotspots or ScalePoint or Lock:
            case { IsOpenWork: true }:
                return [];
            case Matching matching:
                var linked = best.Select(work => On(work).Links.GetValueOrDefault(matching.Id, []).ToHashSet()).ToList();
                return linked
                    .SelectMany(links => links)
                    .Where(link => !matching.Pairs.Contains(link))
                    .CountBy(link => link)
                    .Where(link =>
                        IsDoubt(
                            link.Value,
                            linked.Count(links => links.Any(other => other.Left == link.Key.Left && matching.Pairs.Contains(other)))
                        )
                    )
                    .Select(link =>
                        Of(
                            Response.Empty with
                            {
                                Links = ImmutableDictionary<string, ImmutableArray<Link>>.Empty.Add(matching.Id, [link.Key]),
                            },
                            link.Value
                        )
                    );
            case SortRegion { Want: WantSet } region:
                IEnumerable<Pin> In(SortRegion where, int work) => On(work).Pins.Where(pin => where.Region.Contains(pin.At));
                bool IsRight(string label, int work) =>
                    item
                        .Pane.Targets.OfType<SortRegion>()
                        .Any(other => other.NamedLabels.Contains(label) && In(other, work).Any(pin => pin.Label == label));
                return best.SelectMany(work => In(region, work).DistinctBy(pin => pin.Label))
                    .Where(pin => !region.NamedLabels.Contains(pin.Label))
                    .GroupBy(pin => pin.Label)
                    .Where(same => IsDoubt(same.Count(), best.Count(work => IsRight(same.Key, work))))
                    .Select(same => Of(Response.Empty with { Pins = [same.First()] }, same.Count()));
            default:
                var common = best.Where(i => item.Figures.Given[i] != "" && item.Figures.Credits[i] == 0)
                    .GroupBy(i => item.Figures.Given[i])
                    .MaxBy(same => same.Count());
                return common is not null && IsDoubt(common.Count(), best.Count(i => item.Figures.Credits[i] >= 1))
                    ? [Of(On(common.First()), common.Count())]
                    : [];
        }
    }

    /// <summary>Each of two labels lies at the other's place for a fifth of the class, far more often than at other wrong places.</summary>
    private static IEnumerable<MixedUp> Mixed(Pane pane, PaneInsight insight, int works)
    {
        var targets = pane.Targets.ToDictionary(target => target.Id);
        var places = pane.Targets.Count(target => target.Takes is Doing.Placing or Doing.Pinning) - 1;
        var away = insight.Flows.GroupBy(flow => flow.From).ToDictionary(from => from.Key, from => from.Sum(flow => flow.Count));
        bool IsMuch(Flow flow) =>
            flow.Count >= Math.Max(3, works / 5.0)
            && Tail(flow.Count, away[flow.From], 1.0 / Math.Max(1, places)) < MayErr / Math.Max(1, places);
        var much = insight.Flows.Where(IsMuch).ToLookup(flow => (flow.From, flow.To));
        foreach (var flow in much.SelectMany(each => each).Where(flow => string.CompareOrdinal(flow.From, flow.To) < 0))
            if (much[(flow.To, flow.From)].FirstOrDefault() is { } back)
                yield return new(pane, targets[flow.From], targets[flow.To], flow.Count, back.Count, works);
    }

    /// <summary>A third of the wrong points, and those of a seventh of the class, lie within 2 % of the picture's width.</summary>
    private static TooSmall? Small(Item item, int works) =>
        item.Figures.NearMisses is [_, var near, ..] && near >= Math.Max(4, works / 7.0) && near >= item.Figures.Wrong / 3.0
            ? new(item.Pane, item.Target, near, item.Figures.Wrong)
            : null;

    /// <summary>The correlation with the rest of the score is below zero beyond chance (Fisher's transformation, all targets together).</summary>
    private static BestMiss? Backwards(Item item, int items) =>
        item.Figures.Discrimination is var r and < 0 and > -1
        && item.Figures.Facility is > 0.03 and < 0.97
        && Math.Atanh(r) * Math.Sqrt(item.Figures.Credits.Length - 3) < Quantile(4 * MayErr / items)
            ? new(item.Pane, item.Target, r, item.Figures.Credits.Length)
            : null;

    /// <summary>
    /// A fifth of the class put a label to one wrong place, far more often than other labels go astray to that place. A label that
    /// belongs nowhere may be put to any.
    /// </summary>
    private static IEnumerable<(CommonWrong Finding, string? Home)> Common(Pane pane, PaneInsight insight, int works)
    {
        var targets = pane.Targets.ToDictionary(target => target.Id);
        var homes = pane
            .Targets.SelectMany(target => target.NamedLabels.Select(label => (label, target.Id)))
            .ToLookup(home => home.label, home => home.Id);
        var labels = pane.Labels.ToDictionary(label => label.Id);
        var places = Math.Max(1, pane.Targets.Count(target => target.Takes is Doing.Placing or Doing.Pinning));
        var (all, away, there) = (
            insight.Strays.Sum(stray => stray.Count),
            insight.Strays.GroupBy(stray => stray.Label).ToDictionary(label => label.Key, label => label.Sum(stray => stray.Count)),
            insight.Strays.GroupBy(stray => stray.To).ToDictionary(to => to.Key, to => to.Sum(stray => stray.Count))
        );
        // Where other labels go that are put to wrong places is where this one would go by chance. Of that as much is known as there are
        // of them; before any is seen, all places are alike.
        double ByChance(Stray stray)
        {
            var free = Math.Max(1, places - homes[stray.Label].Count());
            var others = all - away[stray.Label] - targets[stray.To].NamedLabels.Sum(label => away.GetValueOrDefault(label));
            return TailOfUnknown(stray.Count, away[stray.Label], there[stray.To] - stray.Count + 1, others + free);
        }
        return insight
            .Strays.Where(stray =>
                stray.Count >= Math.Max(4, works / 5.0)
                && ByChance(stray) < (targets[stray.To] is SortRegion ? AmongFew : 2 * MayErr) / Math.Max(1, labels.Count)
            )
            .OrderByDescending(stray => stray.Count)
            .Select(stray =>
                (new CommonWrong(pane, targets[stray.To], labels[stray.Label], stray.Count, works), homes[stray.Label].FirstOrDefault())
            );
    }

    /// <summary>
    /// Each of two things on the left was linked with what belongs to the other, by an eighth of the class, both together far more often
    /// than chance does that.
    /// </summary>
    private static IEnumerable<MixedPairs> Swapped(Item item, IReadOnlyList<ImmutableDictionary<string, Response>> responses)
    {
        if (item.Target is not Matching matching)
            yield break;
        var wrong = responses
            .SelectMany(response =>
                response.GetValueOrDefault(item.Pane.Id, Response.Empty).Links.GetValueOrDefault(matching.Id, []).Distinct()
            )
            .Where(link => !matching.Pairs.Contains(link))
            .ToList();
        var (counts, away) = (
            wrong.GroupBy(link => link).ToDictionary(link => link.Key, link => link.Count()),
            wrong.GroupBy(link => link.Left).ToDictionary(link => link.Key, link => link.Count())
        );
        var chance = 1.0 / Math.Max(1, matching.Right.Length - 1);
        var pairs = Math.Max(1, matching.Pairs.Length * (matching.Pairs.Length - 1) / 2);
        int Count(string left, string right) => counts.GetValueOrDefault(new(left, right));
        double TailOf(string left, int count) => Tail(count, away.GetValueOrDefault(left), chance);
        for (var i = 0; i < matching.Pairs.Length; i++)
        for (var j = 0; j < i; j++)
        {
            var (one, other) = (matching.Pairs[j], matching.Pairs[i]);
            var (there, back) = (Count(one.Left, other.Right), Count(other.Left, one.Right));
            // Both at once by chance is rarer than either.
            if (
                Math.Min(there, back) >= Math.Max(3, responses.Count / 8.0)
                && TailOf(one.Left, there) * TailOf(other.Left, back) < MayErr / (24.0 * pairs)
            )
                yield return new(
                    item.Pane,
                    matching,
                    matching.Left.First(left => left.Id == one.Left),
                    matching.Left.First(left => left.Id == other.Left),
                    there,
                    back,
                    responses.Count
                );
        }
    }

    /// <summary>
    /// An eighth of the class read a scale from its wrong end, or took one axis for the other: what they read would be right so, far more
    /// often than wrong readings from anywhere on the scale would be.
    /// </summary>
    private static Misread? Reading(Item item, int items, IReadOnlyList<ImmutableDictionary<string, Response>> responses)
    {
        if (item.Target is not ScalePoint point)
            return null;
        var wrong = responses
            .Select(response => ScaleCheck.PointOf(point, response.GetValueOrDefault(item.Pane.Id, Response.Empty)))
            .OfType<Geometry.Point>()
            .Where(at => ScaleCheck.Credit(point, at) == 0)
            .Select(at => point.Scale.ValueAt(at))
            .ToList();
        var best = Enum.GetValues<Misreading>()
            .Select(how => (How: how, Count: wrong.Count(read => WouldBeRight(point, read, how))))
            .MaxBy(each => each.Count);
        return best.Count >= Math.Max(3, responses.Count / 8.0) && Tail(best.Count, wrong.Count, ByChance(point, best.How)) < MayErr / items
            ? new(item.Pane, point, best.How, best.Count, responses.Count)
            : null;
    }

    /// <summary>The share of a scale that is right in one of the ways that are looked at.</summary>
    private static double ByChance(ScalePoint point, Misreading how)
    {
        static double Share(Geometry.Axis axis, double value, double off) =>
            axis.Kind == Geometry.AxisKind.Logarithmic && value <= off
                ? 1
                : Math.Min(1, Math.Abs(axis.ShareOf(value + off) - axis.ShareOf(value - off)));
        var across = Share(point.Scale.X, point.X, point.Within.Reach);
        return point.Scale.Y is not { } up
            ? across
            : Math.Min(1, across * Share(up, point.Y, point.Within.Reach) * (how == Misreading.WrongEnd ? 3 : 1));
    }

    private static bool WouldBeRight(ScalePoint point, (double X, double Y) read, Misreading how)
    {
        var (across, up) = (point.Scale.X, point.Scale.Y);
        static double Turned(Geometry.Axis axis, double value) => axis.ValueAt(1 - axis.ShareOf(value));
        (double X, double Y)[] meant = how switch
        {
            Misreading.WrongEnd when up is null => [(Turned(across, read.X), 0)],
            Misreading.WrongEnd =>
            [
                (Turned(across, read.X), read.Y),
                (read.X, Turned(up, read.Y)),
                (Turned(across, read.X), Turned(up, read.Y)),
            ],
            Misreading.SwappedAxes when up is null => [],
            Misreading.SwappedAxes => [(read.Y, read.X)],
            _ => throw new ArgumentOutOfRangeException(nameof(how), how, "This way to misread is not known."),
        };
        return Array.Exists(meant, value =>
            point.Within.CreditAt(
                Math.Max(Math.Abs(value.X - point.X), up is null ? 0 : Math.Abs(value.Y - point.Y)) - Geometry.Rounding.Of(point.X, point.Y)
            ) > 0
        );
    }

    /// <summary>
    /// A seventh of the class typed the same wrong answer, and no fewer than all other wrong ones; or a fifth picked it, far more often
    /// than other wrong ones.
    /// </summary>
    private static CommonAnswer? Alike(Item item, int items, IReadOnlyList<ImmutableDictionary<string, Response>> responses)
    {
        if (item.Target.Takes is not (Doing.Typing or Doing.Picking) || item.Target.IsOpenWork)
            return null;
        var works = responses.Count;
        var wrong = Enumerable.Range(0, works).Where(i => item.Figures.Given[i] != "" && item.Figures.Credits[i] == 0).ToList();
        var common = wrong.GroupBy(i => item.Figures.Given[i]).MaxBy(same => same.Count());
        if (common is null)
            return null;
        var isMuch = item.Target is QuestionPoint { Question: ChoiceQuestion choice }
            ? common.Count() >= Math.Max(4, works / 5.0)
                && Tail(common.Count(), wrong.Count, 1.0 / Math.Max(1, choice.Options.Count(option => !option.IsRight)))
                    < AmongFew / items / choice.Options.Length
            : common.Count() >= Math.Max(4, works / 7.0) && common.Count() >= wrong.Count / 2.0;
        return isMuch
            ? new(item.Pane, item.Target, responses[common.First()].GetValueOrDefault(item.Pane.Id, Response.Empty), common.Count(), works)
            : null;
    }

    /// <summary>At most one in twelve got it.</summary>
    private static Hardly? Rare(Item item) =>
        item.Figures.Credits.Length is var works && item.Right <= works / 12 && item.Figures.Facility < 0.15 && !item.Target.IsOpenWork
            ? new(item.Pane, item.Target, item.Right, works)
            : null;

    /// <summary>A third of the class left it open.</summary>
    private static LeftOut? Open(Item item, int works) =>
        item.Figures.Missed >= Math.Max(4, works / 3.0) && item.Target is not (HiddenZone or Lock)
            ? new(item.Pane, item.Target, item.Figures.Missed, works)
            : null;

    /// <summary>
    /// Nobody who missed the one got the other, though so many missed it that some should have, even were the other half as easy for
    /// them as for the class.
    /// </summary>
    private static IEnumerable<Needs> Needing(List<Item> items)
    {
        foreach (var one in items)
        {
            var missed = Enumerable.Range(0, one.Figures.Credits.Length).Where(i => one.Figures.Credits[i] == 0).ToList();
            if (missed.Count < 8)
                continue;
            foreach (var other in items)
                if (
                    !ReferenceEquals(one, other)
                    && missed.All(i => other.Figures.Credits[i] == 0)
                    && Math.Pow(1 - other.Figures.Facility / 2, missed.Count) < MayErr / (items.Count * items.Count)
                )
                    yield return new(other.Pane, other.Target, one.Pane, one.Target, missed.Count);
        }
    }

    /// <summary>Its median time is three times that of the others' middle, and half a minute at least.</summary>
    private static IEnumerable<Slow> Slower(List<Item> items)
    {
        var timed = items.Where(item => double.IsFinite(item.Figures.MedianTime)).ToList();
        if (timed.Count < 4)
            yield break;
        var middle = Statistics.Median([.. timed.Select(item => item.Figures.MedianTime)]);
        foreach (var item in timed.Where(item => item.Figures.MedianTime >= Math.Max(30, 3 * middle) && middle > 0))
            yield return new(item.Pane, item.Target, item.Figures.MedianTime, item.Figures.MedianTime / middle);
    }

    /// <summary>The probability of at least so many of so many tries, each with this chance.</summary>
    private static double Tail(int count, int tries, double chance)
    {
        var (sum, term) = (0.0, Math.Pow(1 - chance, tries));
        if (chance >= 1)
            return 1;
        for (var k = 0; k <= tries; k++)
        {
            if (k >= count)
                sum += term;
            term *= (tries - k) / (k + 1.0) * (chance / (1 - chance));
        }
        return sum;
    }

    /// <summary>The same where the chance itself is known from other tries alone (the beta-binomial distribution).</summary>
    /// <param name="seen">How often it was seen there.</param>
    /// <param name="of">How many those tries were, at least as many.</param>
    private static double TailOfUnknown(int count, int tries, int seen, int of)
    {
        var (sum, term) = (0.0, 1.0);
        var not = of - seen;
        for (var i = 0; i < tries; i++)
            term *= (double)(not + i) / (of + i);
        if (not <= 0)
            return 1;
        for (var k = 0; k <= tries; k++)
        {
            if (k >= count)
                sum += term;
            if (k < tries)
                term *= (tries - k) / (k + 1.0) * ((seen + k) / (double)(not + tries - k - 1));
        }
        return sum;
    }

    /// <summary>The value below which a share of the standard normal distribution lies, for small shares (Abramowitz and Stegun, 26.2.23).</summary>
    private static double Quantile(double share)
    {
        var t = Math.Sqrt(-2 * Math.Log(share));
        return -(t - (2.515517 + 0.802853 * t + 0.010328 * t * t) / (1 + 1.432788 * t + 0.189269 * t * t + 0.001308 * t * t * t));
    }
}
