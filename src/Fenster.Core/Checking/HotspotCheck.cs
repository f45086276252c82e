using System.Collections.Immutable;
using Fenster.Core.Geometry;
using Fenster.Core.Model;

namespace Fenster.Core.Checking;

/// <summary>Marked points against the spots they may have found.</summary>
internal static class HotspotCheck
{
    /// <summary>
    /// The verdict of each point. Of the points that lie in spots, as many count as are needed, paired so that they earn
    /// most; the others are surplus. A point outside every spot is wrong.
    /// </summary>
    public static ImmutableArray<PointMark> Of(Hotspots hotspots, ImmutableArray<Point> points)
    {
        if (points.IsEmpty)
            return [];
        var spots = hotspots.Spots.Length;
        // Rows that only keep the spots beyond the needed number occupied come last; they outweigh every point.
        var spare = spots - hotspots.Needed;
        var pairs = new List<Assignment.Pair>();
        var credits = new decimal[points.Length, spots];
        // In an order of their own, so that equal pairings don't depend on the order of the clicks.
        var order = Enumerable.Range(0, points.Length).OrderBy(i => points[i].X).ThenBy(i => points[i].Y).ToArray();
        for (var spot = 0; spot < spots; spot++)
        {
            var (region, tolerance) = (hotspots.Spots[spot].Region, hotspots.Spots[spot].Tolerance);
            for (var row = 0; row < points.Length; row++)
            {
                credits[row, spot] = tolerance.CreditFor(region, points[order[row]]);
                if (credits[row, spot] > 0)
                    pairs.Add(new(row, spot, (double)credits[row, spot]));
            }
            for (var row = points.Length; row < points.Length + spare; row++)
                pairs.Add(new(row, spot, 1 + spots));
        }
        var columns = Assignment.Solve(points.Length + spare, spots, pairs);
        var counted = Enumerable
            .Range(0, points.Length)
            .Where(row => columns[row] != Assignment.None)
            .ToDictionary(row => order[row], row => (Credit: credits[row, columns[row]], Spot: columns[row]));
        var inside = Enumerable
            .Range(0, points.Length)
            .Where(row => Enumerable.Range(0, hotspots.Spots.Length).Any(spot => credits[row, spot] > 0))
            .Select(row => order[row])
            .ToHashSet();
        return
        [
            .. points.Select(
                (point, i) =>
                    counted.TryGetValue(i, out var found)
                        ? new PointMark(hotspots.Id, point, Checker.VerdictOf(found.Credit), found.Credit) { Spot = found.Spot }
                        : new PointMark(hotspots.Id, point, inside.Contains(i) ? Verdict.Surplus : Verdict.Wrong, 0)
            ),
        ];
    }

    /// <summary>The sum of the credits over the number of spots needed.</summary>
    public static decimal Credit(Hotspots hotspots, ImmutableArray<PointMark> points)
    {
        var sum = points.Sum(point => point.Credit);
        return sum == hotspots.Needed ? 1 : sum / hotspots.Needed;
    }
}
