using System.Collections.Immutable;
using Fenster.Core.Geometry;
using Fenster.Core.Model;

namespace Fenster.Core.Insight;

/// <summary>How many points lie in one hexagon.</summary>
/// <param name="Centre">In pu.</param>
public sealed record HexagonBin(Point Centre, int Count);

/// <summary>Where a class put its points: counts in a honeycomb over the picture.</summary>
public static class Density
{
    /// <summary>A hexagon's usual size in pu.</summary>
    public const double UsualRadius = 18;

    /// <summary>All pins and marks of some responses.</summary>
    public static IEnumerable<Point> PointsOf(IEnumerable<Response> responses) =>
        responses.SelectMany(response => response.Pins.Select(pin => pin.At).Concat(response.Marks.Values.SelectMany(points => points)));

    /// <summary>The hexagons that hold points, the fullest first. Each point is in the hexagon whose centre is nearest.</summary>
    /// <param name="radius">From a hexagon's centre to its corners, in pu, greater than 0; one corner points up.</param>
    public static ImmutableArray<HexagonBin> Of(IEnumerable<Point> points, double radius = UsualRadius)
    {
        var (width, height) = (Math.Sqrt(3) * radius, 1.5 * radius);
        // Centres lie in rows, every second one moved by half a hexagon: of the two rows around a point one has the nearest.
        Point Nearest(Point point, double row)
        {
            var shift = row % 2 == 0 ? 0 : width / 2;
            return new(Math.Round((point.X - shift) / width) * width + shift, row * height);
        }
        return
        [
            .. points
                .Select(point =>
                {
                    var above = Math.Floor(point.Y / height);
                    var (one, other) = (Nearest(point, above), Nearest(point, above + 1));
                    return one.DistanceTo(point) <= other.DistanceTo(point) ? one : other;
                })
                .GroupBy(centre => (Math.Round(centre.X, 6), Math.Round(centre.Y, 6)))
                .Select(bin => new HexagonBin(bin.First(), bin.Count()))
                .OrderByDescending(bin => bin.Count)
                .ThenBy(bin => bin.Centre.Y)
                .ThenBy(bin => bin.Centre.X),
        ];
    }
}
