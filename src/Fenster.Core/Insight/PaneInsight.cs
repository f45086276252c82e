using System.Collections.Immutable;
using Fenster.Core.Checking;
using Fenster.Core.Geometry;
using Fenster.Core.Model;

namespace Fenster.Core.Insight;

/// <summary>What the responses to a pane tell about one of its targets.</summary>
/// <param name="Facility">Mean credit, from 0 to 1.</param>
/// <param name="Discrimination">Point-biserial correlation of its credit with the rest of the score; NaN when either never varies.</param>
/// <param name="Answers">Labels that were put there, the commonest first, with how many did; for drop zones only.</param>
/// <param name="NearMisses">How many wrong points lie within 1, 2, 3, 4 and 5 % of the picture's width outside; for hidden zones and hotspots.</param>
public sealed record TargetInsight(
    string Target, double Facility, double Discrimination, ImmutableArray<(string Label, int Count)> Answers, ImmutableArray<int> NearMisses);

/// <param name="IsFewerThanTen">Fewer than ten attempts: every figure is to be taken with caution.</param>
public sealed record PaneInsight(
    int Attempts, bool IsFewerThanTen, double Mean, double Median, double StandardDeviation, double LowerQuartile, double UpperQuartile,
    double Alpha, double ErrorOfMeasurement, ImmutableArray<TargetInsight> Targets)
{
    private const int MostNearMisses = 5;

    /// <summary>Figures over all responses to a pane; each target's credit counts by its points.</summary>
    public static PaneInsight Of(Pane pane, IReadOnlyList<Response> responses)
    {
        var scored = pane.Targets.Where(target => target.IsScored).ToList();
        var marks = responses.Select(response => Checker.Check(pane, response)).ToList();
        var credits = marks.Select(mark =>
        {
            var byTarget = mark.Targets.ToDictionary(t => t.Target, t => (double)t.Credit);
            return scored.Select(target => byTarget[target.Id] * (double)target.Points).ToArray();
        }).ToList();
        var totals = credits.Select(row => row.Sum()).ToList();
        var alpha = Statistics.CronbachAlpha(credits);
        var deviation = Statistics.StandardDeviation(totals);
        return new(
            responses.Count, responses.Count < 10, totals.Count == 0 ? double.NaN : totals.Average(), Statistics.Median(totals), deviation,
            Statistics.Quantile(totals, 0.25), Statistics.Quantile(totals, 0.75), alpha, Statistics.ErrorOfMeasurement(deviation, alpha),
            [.. scored.Select((target, i) => Of(target, [.. credits.Select(row => row[i])], totals, responses, marks))]);
    }

    private static TargetInsight Of(Target target, double[] points, List<double> totals, IReadOnlyList<Response> responses, List<PaneMarks> marks)
    {
        var rest = totals.Zip(points, (total, own) => total - own).ToList();
        var answers = responses.SelectMany(response => response.Placements).Where(placement => placement.Zone == target.Id)
            .GroupBy(placement => placement.Label).Select(alike => (alike.Key, alike.Count()))
            .OrderByDescending(answer => answer.Item2).ThenBy(answer => answer.Key, StringComparer.Ordinal).ToImmutableArray();
        var regions = target switch
        {
            HiddenZone zone => [zone.Region],
            Hotspots hotspots => hotspots.Spots.Select(spot => spot.Region).ToArray(),
            _ => Array.Empty<Region>(),
        };
        var wrong = target switch
        {
            HiddenZone zone => marks.SelectMany(mark => mark.Pins).Where(pin => pin.Verdict == Verdict.Wrong && zone.Accepts.Any(a => a.Label == pin.Pin.Label)).Select(pin => pin.Pin.At),
            Hotspots => marks.SelectMany(mark => mark.Points).Where(point => point.Target == target.Id && point.Verdict == Verdict.Wrong).Select(point => point.At),
            _ => [],
        };
        var off = wrong.Select(point => regions.Min(region => region.DistanceTo(point))).ToList();
        return new(
            target.Id, points.Length == 0 ? double.NaN : points.Average() / (double)target.Points, points.Length < 2 ? double.NaN : Statistics.Correlation(points, rest), answers,
            regions.Length == 0 ? [] : [.. Enumerable.Range(1, MostNearMisses).Select(percent => off.Count(distance => distance <= percent * 10))]);
    }
}
