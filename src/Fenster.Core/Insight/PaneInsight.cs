using System.Collections.Immutable;
using Fenster.Core.Checking;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Lock = Fenster.Core.Model.Lock;

namespace Fenster.Core.Insight;

/// <summary>What the responses to a pane tell about one of its targets.</summary>
/// <param name="Facility">Mean credit, from 0 to 1.</param>
/// <param name="Discrimination">Point-biserial correlation of its credit with the rest of the score; NaN when either never varies.</param>
/// <param name="Answers">What was given there, the commonest first, with how many did: ids of labels or options, or typed words as they
/// are compared.</param>
/// <param name="MedianTries">Over all who answered; NaN when nobody did.</param>
/// <param name="MedianTime">In seconds, over all whose time is known; NaN when nobody's is.</param>
/// <param name="NearMisses">How many wrong points lie within 1, 2, 3, 4 and 5 % of the picture's width outside; for hidden zones and
/// hotspots.</param>
public sealed record TargetInsight(
    string Target,
    double Facility,
    double Discrimination,
    ImmutableArray<(string Answer, int Count)> Answers,
    double MedianTries,
    double MedianTime,
    ImmutableArray<int> NearMisses
);

/// <summary>What one student did on a pane.</summary>
/// <param name="Times">By target id (see <see cref="Pace"/>); null when they are not known.</param>
public sealed record PaneWork(Response Response, ImmutableDictionary<string, TimeSpan>? Times = null);

/// <param name="IsFewerThanTen">Fewer than ten attempts: every figure is to be taken with caution.</param>
public sealed record PaneInsight(
    int Attempts,
    bool IsFewerThanTen,
    double Mean,
    double Median,
    double StandardDeviation,
    double LowerQuartile,
    double UpperQuartile,
    double Alpha,
    double ErrorOfMeasurement,
    ImmutableArray<TargetInsight> Targets
)
{
    private const int MostNearMisses = 5;

    /// <summary>Figures over all responses to a pane; each target's credit counts by its points.</summary>
    public static PaneInsight Of(Pane pane, IReadOnlyList<PaneWork> works)
    {
        var responses = works.Select(work => work.Response).ToList();
        var scored = pane.Targets.Where(target => target.IsScored).ToList();
        var marks = responses.Select(response => Checker.Check(pane, response)).ToList();
        var credits = marks
            .Select(mark =>
            {
                var byTarget = mark.Targets.ToDictionary(t => t.Target, t => (double)t.Credit);
                return scored.Select(target => byTarget[target.Id] * (double)target.Points).ToArray();
            })
            .ToList();
        var totals = credits.Select(row => row.Sum()).ToList();
        var alpha = Statistics.CronbachAlpha(credits);
        var deviation = Statistics.StandardDeviation(totals);
        return new(
            responses.Count,
            responses.Count < 10,
            totals.Count == 0 ? double.NaN : totals.Average(),
            Statistics.Median(totals),
            deviation,
            Statistics.Quantile(totals, 0.25),
            Statistics.Quantile(totals, 0.75),
            alpha,
            Statistics.ErrorOfMeasurement(deviation, alpha),
            [.. scored.Select((target, i) => Of(target, [.. credits.Select(row => row[i])], totals, pane, works, marks))]
        );
    }

    private static TargetInsight Of(
        Target target,
        double[] points,
        List<double> totals,
        Pane pane,
        IReadOnlyList<PaneWork> works,
        List<PaneMarks> marks
    )
    {
        var rest = totals.Zip(points, (total, own) => total - own).ToList();
        var answers = works
            .SelectMany(work => target.Match(new Answers(work.Response)))
            .GroupBy(answer => answer)
            .Select(alike => (alike.Key, alike.Count()))
            .OrderByDescending(answer => answer.Item2)
            .ThenBy(answer => answer.Key, StringComparer.Ordinal)
            .ToImmutableArray();
        var answered = works.Where((_, i) => marks[i].Targets.First(mark => mark.Target == target.Id).State != TargetState.Missed).ToList();
        var tries = answered.Select(work => (double)Tries.For(pane, target, work.Response)).ToList();
        var times = works
            .Where(work => work.Times?.ContainsKey(target.Id) == true)
            .Select(work => work.Times![target.Id].TotalSeconds)
            .ToList();
        var regions = target switch
        {
            HiddenZone zone => [zone.Region],
            Hotspots hotspots => hotspots.Spots.Select(spot => spot.Region).ToArray(),
            _ => Array.Empty<Region>(),
        };
        var wrong = target switch
        {
            HiddenZone zone => marks
                .SelectMany(mark => mark.Pins)
                .Where(pin => pin.Verdict == Verdict.Wrong && zone.Accepts.Any(a => a.Label == pin.Pin.Label))
                .Select(pin => pin.Pin.At),
            Hotspots => marks
                .SelectMany(mark => mark.Points)
                .Where(point => point.Target == target.Id && point.Verdict == Verdict.Wrong)
                .Select(point => point.At),
            _ => [],
        };
        var off = wrong.Select(point => regions.Min(region => region.DistanceTo(point))).ToList();
        return new(
            target.Id,
            points.Length == 0 ? double.NaN : points.Average() / (double)target.Points,
            points.Length < 2 ? double.NaN : Statistics.Correlation(points, rest),
            answers,
            Statistics.Median(tries),
            Statistics.Median(times),
            regions.Length == 0
                ? []
                : [.. Enumerable.Range(1, MostNearMisses).Select(percent => off.Count(distance => distance <= percent * 10))]
        );
    }

    /// <summary>What was given at a target.</summary>
    private sealed class Answers(Response response) : ITargetCases<IEnumerable<string>>
    {
        public IEnumerable<string> Of(DropZone zone) =>
            response.Placements.Where(placement => placement.Zone == zone.Id).Select(placement => placement.Label);

        public IEnumerable<string> Of(HiddenZone zone) =>
            response.Pins.Where(pin => zone.Tolerance.CreditFor(zone.Region, pin.At) > 0).Select(pin => pin.Label);

        public IEnumerable<string> Of(Hotspots hotspots) => [];

        public IEnumerable<string> Of(AnswerBox box) => Folded(box, box.Answer);

        public IEnumerable<string> Of(QuestionPoint point) =>
            point.Question is TypedQuestion typed ? Folded(point, typed.Answer) : response.Picks.GetValueOrDefault(point.Id, []);

        public IEnumerable<string> Of(Lock @lock) =>
            response.Codes.GetValueOrDefault(@lock.Id, []).Select(code => Spellings.Fold(code, @lock.Code.Rules));

        public IEnumerable<string> Of(OpenNote note) => [];

        public IEnumerable<string> Of(ScalePoint point) => [];

        public IEnumerable<string> Of(Matching matching) =>
            response.Links.GetValueOrDefault(matching.Id, []).Select(link => $"{link.Left} – {link.Right}");

        public IEnumerable<string> Of(SortRegion region) =>
            response.Pins.Where(pin => region.Region.Contains(pin.At)).Select(pin => pin.Label);

        public IEnumerable<string> Of(InfoSpot spot) => [];

        private IEnumerable<string> Folded(Target target, TypedAnswer answer) =>
            response.Texts.TryGetValue(target.Id, out var text) && !string.IsNullOrWhiteSpace(text)
                ? [Spellings.Fold(text, answer is TypedText words ? words.Rules : new())]
                : [];
    }
}
