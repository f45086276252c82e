using System.Collections.Immutable;
using Fenster.Core.Model;

namespace Fenster.Core.Geometry;

/// <summary>The outline of a shape in a picture.</summary>
/// <param name="Corners">In pixels; a pixel's own area runs from its number to the next one.</param>
/// <param name="Off">How far the shape's edge lies from the outline at most, in pixels.</param>
/// <param name="Pixels">How many pixels the shape has.</param>
public sealed record Outline(ImmutableArray<Point> Corners, double Off, int Pixels);

/// <summary>
/// Finds shapes in pictures: the area of like colour around a point, with its holes filled, and its edge as a polygon of few corners.
/// </summary>
public static class Outlines
{
    public const int MostCorners = 60;

    /// <summary>A smaller share of the picture is a letter or a line, and no shape.</summary>
    private const double LeastOfPicture = 1.0 / 4000;

    /// <summary>More than this share of the picture is its ground, and no shape.</summary>
    private const double MostOfPicture = 0.9;

    /// <param name="x">In pixels, from the left.</param>
    /// <param name="y">In pixels, from the top.</param>
    /// <param name="reach">How unlike the point's colour what belongs to the shape may be, from 0 to 255.</param>
    /// <returns>Null where there is no shape: next to nothing, or nearly all of the picture.</returns>
    public static Outline? Around(Raster raster, int x, int y, double reach = Usual.ShapeReach)
    {
        var best = Filled.Around(raster, x, y, reach);
        if (best is null || best.Count < LeastOfPicture * raster.Pixels.Length)
        {
            // On a letter or a thin line: what lies beside it is meant.
            var step = Math.Max(3, raster.Width / 120);
            foreach (var (dx, dy) in (ReadOnlySpan<(int, int)>)[(step, 0), (-step, 0), (0, step), (0, -step)])
                if (Filled.Around(raster, x + dx, y + dy, reach) is { } beside && IsShape(beside) && beside.Count > (best?.Count ?? 0))
                    best = beside;
        }
        if (best is null || !IsShape(best))
            return null;
        var edge = EdgeOf(best);
        var (corners, off) = Simplified(edge);
        return new(ToArea(corners, best.Count), off, best.Count);
    }

    private static bool IsShape(Filled filled) =>
        filled.Count >= LeastOfPicture * filled.Width * filled.Height && filled.Count <= MostOfPicture * filled.Width * filled.Height;

    /// <summary>
    /// The middles of the pixel sides that lie between the shape and what is around it, in their order, the shape on the right hand.
    /// </summary>
    private static List<Point> EdgeOf(Filled filled)
    {
        // From the left side of the uppermost pixel of the leftmost ones in its row, upwards.
        var first = filled.First;
        var (startX, startY) = (first % filled.Width, first / filled.Width + 1);
        var (x, y, dx, dy) = (startX, startY, 0, -1);
        var edge = new List<Point>();
        do
        {
            edge.Add(new(x + dx / 2.0, y + dy / 2.0));
            (x, y) = (x + dx, y + dy);
            // Of the two pixels ahead, seen in the direction of travel.
            var (rightX, rightY) = (x + (dx - dy - 1) / 2, y + (dy + dx - 1) / 2);
            var (leftX, leftY) = (x + (dx + dy - 1) / 2, y + (dy - dx - 1) / 2);
            if (!filled.Has(rightX, rightY))
                (dx, dy) = (-dy, dx);
            else if (filled.Has(leftX, leftY))
                (dx, dy) = (dy, -dx);
        } while (x != startX || y != startY || dx != 0 || dy != -1);
        return edge;
    }

    /// <summary>As few corners as are near enough, and never more than <see cref="MostCorners"/>.</summary>
    private static (ImmutableArray<Point> Corners, double Off) Simplified(List<Point> edge)
    {
        var furthest = Enumerable.Range(0, edge.Count).MaxBy(i => edge[i].SquaredDistanceTo(edge[0]));
        ImmutableArray<Point> there = [.. edge[..(furthest + 1)]];
        ImmutableArray<Point> back = [.. edge[furthest..], edge[0]];
        for (var tolerance = 0.4; ; tolerance *= 1.3)
        {
            ImmutableArray<Point> corners =
            [
                .. Polygon.Simplify(there, tolerance).SkipLast(1),
                .. Polygon.Simplify(back, tolerance).SkipLast(1),
            ];
            if (corners.Length <= MostCorners && new Polygon(corners).Fault is null)
                return (corners, tolerance);
            if (corners.Length < 4)
                return (corners, tolerance);
        }
    }

    /// <summary>Corners on a curve cut off a little of it all around: the outline is widened by what is missing.</summary>
    private static ImmutableArray<Point> ToArea(ImmutableArray<Point> corners, int pixels)
    {
        var length = corners.Select((corner, i) => corner.DistanceTo(corners[(i + 1) % corners.Length])).Sum();
        var by = (pixels - new Polygon(corners).Area) / length;
        if (corners.Length < 3 || Math.Abs(by) < 0.01)
            return corners;
        ImmutableArray<Point> wider = [.. corners.Select((_, i) => Moved(corners, i, by))];
        return new Polygon(wider).Fault is null ? wider : corners;
    }

    /// <summary>A corner whose two sides are moved outwards, the shape on the right hand.</summary>
    private static Point Moved(ImmutableArray<Point> corners, int i, double by)
    {
        var (before, here, after) = (corners[(i + corners.Length - 1) % corners.Length], corners[i], corners[(i + 1) % corners.Length]);
        var (ax, ay) = Outwards(before, here);
        var (bx, by2) = Outwards(here, after);
        var (sx, sy) = (ax + bx, ay + by2);
        // A sharp corner would fly far away.
        var square = Math.Max(0.5, sx * sx + sy * sy);
        return new(here.X + 2 * by * sx / square, here.Y + 2 * by * sy / square);
    }

    private static (double X, double Y) Outwards(Point from, Point to)
    {
        var length = Math.Max(1e-9, from.DistanceTo(to));
        return ((to.Y - from.Y) / length, (from.X - to.X) / length);
    }
}
