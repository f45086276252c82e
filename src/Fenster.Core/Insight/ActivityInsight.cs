using System.Collections.Immutable;
using Fenster.Core.Checking;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Fenster.Core.Scoring;

namespace Fenster.Core.Insight;

/// <summary>What one student did.</summary>
/// <param name="Responses">By pane id.</param>
/// <param name="Times">By pane and target id (see <see cref="Pace"/>); null when they are not known.</param>
public sealed record Work(
    ImmutableDictionary<string, Response> Responses,
    ImmutableDictionary<string, ImmutableDictionary<string, TimeSpan>>? Times = null
)
{
    /// <summary>What people decided.</summary>
    public Marking Marking { get; init; } = Marking.None;

    internal Response On(Pane pane) => Responses.GetValueOrDefault(pane.Id, Response.Empty);
}

/// <summary>What the responses to an activity tell about one of its targets.</summary>
/// <param name="Facility">Mean credit, from 0 to 1; NaN when nothing is scored there, or nobody did anything.</param>
/// <param name="Discrimination">Point-biserial correlation of its credit with the rest of the score; NaN when either never varies.</param>
/// <param name="Answers">What was given there.</param>
/// <param name="Missed">How many left it open.</param>
/// <param name="MedianTries">Over all who answered; NaN when nobody did.</param>
/// <param name="MedianTime">In seconds, over all whose time is known; NaN when nobody's is.</param>
/// <param name="Wrong">How many points meant it and are wrong; for hidden zones and hotspots, 0 for all else.</param>
/// <param name="NearMisses">How many of these lie within 1, 2, 3, 4 and 5 % of the picture's width outside; empty for all else.</param>
public sealed record TargetInsight(
    string Target,
    double Facility,
    double Discrimination,
    AnswersAt Answers,
    int Missed,
    double MedianTries,
    double MedianTime,
    int Wrong,
    ImmutableArray<int> NearMisses
)
{
    /// <summary>In how many works it waits for a person: until then it is left out of all figures.</summary>
    public int Waiting { get; init; }

    /// <summary>Each student's credit, from 0 to 1, in the order of the works; empty when nothing is scored there.</summary>
    internal ImmutableArray<double> Credits { get; init; } = [];

    /// <summary>The rest of each student's score.</summary>
    internal ImmutableArray<double> Rest { get; init; } = [];

    /// <summary>What each student answered, as the checking folds it; empty for nothing.</summary>
    internal ImmutableArray<string> Given { get; init; } = [];
}

/// <param name="MedianTime">In seconds, of what students spent there; NaN when nobody's time is known.</param>
/// <param name="Targets">In the order of the pane.</param>
/// <param name="Flows">The largest first.</param>
/// <param name="Hexagons">All pins and marks; the fullest first.</param>
public sealed record PaneInsight(
    string Pane,
    double MedianTime,
    ImmutableArray<TargetInsight> Targets,
    ImmutableArray<Flow> Flows,
    ImmutableArray<HexagonBin> Hexagons
)
{
    /// <summary>What lay at wrong places.</summary>
    internal ImmutableArray<Stray> Strays { get; init; } = [];
}

/// <summary>The figures of classical test theory over all works at an activity, and what they answered.</summary>
/// <param name="IsFewerThanTen">Fewer than ten works: every figure is to be taken with caution.</param>
/// <param name="Mean">Of the points that credits earn, each target's by its points and its pane's weight.</param>
/// <param name="Possible">The most of these.</param>
public sealed record ActivityInsight(
    int Works,
    bool IsFewerThanTen,
    double Mean,
    double Possible,
    double Median,
    double StandardDeviation,
    double LowerQuartile,
    double UpperQuartile,
    double Alpha,
    double ErrorOfMeasurement,
    ImmutableArray<PaneInsight> Panes
)
{
    private const int MostNearMisses = 5;

    /// <summary>What each student earned by credits, in the order of the works.</summary>
    public ImmutableArray<double> Totals { get; init; } = [];

    public static ActivityInsight Of(Activity activity, IReadOnlyList<Work> works)
    {
        var marks = activity
            .Panes.Select(pane =>
                works
                    .Select(work => Award.Marks(pane, work.On(pane), activity.RulesOf(pane).Score, work.Marking.AwardsAt(pane.Id)))
                    .ToArray()
            )
            .ToArray();
        var items = activity
            .Panes.SelectMany(
                (pane, p) =>
                    pane
                        .Targets.Select((target, t) => (pane, target, p, t))
                        .Where(item => item.target is { IsScored: true, TakenOut: null })
                        // What waits for a person has no credit yet, and none is not nothing.
                        .Where(item => marks[item.p].All(mark => mark.Targets[item.t].State != TargetState.Waiting))
            )
            .Select(
                (item, number) => (item.pane, item.target, item.p, item.t, number, worth: (double)(item.target.Points * item.pane.Weight))
            )
            .ToList();
        var credits = works.Select((_, w) => items.Select(item => (double)marks[item.p][w].Targets[item.t].Credit).ToArray()).ToArray();
        var points = credits.Select(row => row.Select((credit, i) => credit * items[i].worth).ToArray()).ToArray();
        var totals = points.Select(row => row.Sum()).ToArray();
        var alpha = Statistics.CronbachAlpha(points);
        var deviation = Statistics.StandardDeviation(totals);
        var numbers = items.ToDictionary(item => (item.p, item.t), item => item.number);
        return new(
            works.Count,
            works.Count < 10,
            totals.Length == 0 ? double.NaN : totals.Average(),
            items.Sum(item => item.worth),
            Statistics.Median(totals),
            deviation,
            Statistics.Quantile(totals, 0.25),
            Statistics.Quantile(totals, 0.75),
            alpha,
            Statistics.ErrorOfMeasurement(deviation, alpha),
            [
                .. activity.Panes.Select(
                    (pane, p) =>
                        Of(pane, works, marks[p], t =>
                            numbers.TryGetValue((p, t), out var i)
                                ? ([.. credits.Select(row => row[i])], [.. totals.Select((total, w) => total - points[w][i])])
                                : ([], [])
                        )
                ),
            ]
        )
        {
            Totals = [.. totals],
        };
    }

    /// <param name="scores">Of a target by its number, each work's credit and the rest of its score; empty where nothing is scored.</param>
    private static PaneInsight Of(
        Pane pane,
        IReadOnlyList<Work> works,
        PaneMarks[] marks,
        Func<int, (ImmutableArray<double> Credits, ImmutableArray<double> Others)> scores
    )
    {
        var responses = works.Select(work => work.On(pane)).ToList();
        var times = works
            .Select(work => work.Times?.GetValueOrDefault(pane.Id)?.Values.Sum(time => time.TotalSeconds))
            .OfType<double>()
            .ToList();
        var strays = Stray.Of(pane, marks);
        // Tries are told for all targets at once, and what is asked of a target is asked of what was done there alone.
        var tries = responses.Select((response, i) => Tries.Of(pane, response, marks[i])).ToArray();
        var there = pane.Targets.Any(target => target is DropZone)
            ? responses.Select(response => response.Placements.ToLookup(placement => placement.Zone)).ToArray()
            : null;
        return new(
            pane.Id,
            Statistics.Median(times),
            [
                .. pane.Targets.Select(
                    (target, t) =>
                        Of(pane, target, t, works, there is null ? responses : At(target, responses, there), tries, marks, scores(t))
                ),
            ],
            Flow.Of(pane, strays),
            Density.Of(Density.PointsOf(responses))
        )
        {
            Strays = strays,
        };
    }

    /// <summary>The responses with those placements alone that are at a zone; as they are for all else.</summary>
    private static List<Response> At(Target target, List<Response> responses, ILookup<string, Placement>[] there) =>
        target is DropZone ? [.. responses.Select((response, i) => response with { Placements = [.. there[i][target.Id]] })] : responses;

    private static TargetInsight Of(
        Pane pane,
        Target target,
        int number,
        IReadOnlyList<Work> works,
        List<Response> responses,
        Tries[] counted,
        PaneMarks[] marks,
        (ImmutableArray<double> Credits, ImmutableArray<double> Others) scores
    )
    {
        var isOpen = marks.Select(mark => mark.Targets[number].State == TargetState.Missed).ToList();
        var tries = counted.Where((_, i) => !isOpen[i]).Select(each => (double)each.At(pane, target)).ToList();
        var times = works
            .Select(work =>
                work.Times?.GetValueOrDefault(pane.Id)?.TryGetValue(target.Id, out var time) == true ? time.TotalSeconds : (double?)null
            )
            .OfType<double>()
            .ToList();
        var off = WrongPoints(target, marks).ToList();
        return new(
            target.Id,
            scores.Credits.IsEmpty ? double.NaN : scores.Credits.Average(),
            scores.Credits.Length < 2 ? double.NaN : Statistics.Correlation(scores.Credits, scores.Others),
            AnswersAt.Of(target, responses),
            isOpen.Count(open => open),
            Statistics.Median(tries),
            Statistics.Median(times),
            off.Count,
            target is HiddenZone or Hotspots
                ? [.. Enumerable.Range(1, MostNearMisses).Select(percent => off.Count(distance => distance <= percent * 10))]
                : []
        )
        {
            Waiting = marks.Count(mark => mark.Targets[number].State == TargetState.Waiting),
            Credits = scores.Credits,
            Rest = scores.Others,
            Given = [.. AnswerGroups.NamesOf(target, responses)],
        };
    }

    /// <summary>How far outside the wrong points lie that meant a target, in pu.</summary>
    private static IEnumerable<double> WrongPoints(Target target, PaneMarks[] marks) =>
        target switch
        {
            HiddenZone zone => marks
                .SelectMany(mark => mark.Pins)
                .Where(pin => pin.Verdict == Verdict.Wrong && zone.Accepts.Any(accepted => accepted.Label == pin.Pin.Label))
                .Select(pin => zone.Region.DistanceTo(pin.Pin.At)),
            Hotspots hotspots => marks
                .SelectMany(mark => mark.Points)
                .Where(point => point.Target == hotspots.Id && point.Verdict == Verdict.Wrong)
                .Select(point => hotspots.Spots.Min(spot => spot.Region.DistanceTo(point.At))),
            _ => [],
        };
}
