using System.Collections.Immutable;
using Fenster.Core.Checking;
using Fenster.Core.Geometry;

namespace Fenster.Core.Layout;

/// <summary>Zones at the sides of a picture, each joined by a straight line to the spot that it names.</summary>
public static class Leaders
{
    /// <summary>Between two zones, and between a zone and the edge, in pu.</summary>
    private const double Gap = 12;

    /// <summary>
    /// Boxes of one size in a column on either side, so that no two lines cross. The boxes share the spots out such that
    /// the lines are as short as they can be in sum: of two lines that cross, the other two ways to join the same four
    /// ends are shorter in sum (triangle inequality), so that in the shortest sum none cross.
    /// </summary>
    /// <param name="spots">Where the lines end, in pu.</param>
    /// <param name="width">Of each box, in pu, greater than 0.</param>
    /// <param name="height">Of each box, in pu, greater than 0; less where the plane has no room for so many.</param>
    /// <param name="plane">What there is room in: the picture with its margins.</param>
    /// <returns>A box for each spot, in their order.</returns>
    public static ImmutableArray<Rectangle> LayOut(IReadOnlyList<Point> spots, double width, double height, Bounds plane)
    {
        if (spots.Count == 0)
            return [];
        var left = (spots.Count + 1) / 2;
        var boxes = Column(left, plane.Left + Gap, width, height, plane)
            .Concat(Column(spots.Count - left, plane.Right - Gap - width, width, height, plane))
            .ToList();
        var middle = plane.Centre.X;
        // Lines begin at the side of a box that faces the picture.
        Point Port(Rectangle box) => new(box.X + width / 2 < middle ? box.X + width : box.X, box.Y + box.Height / 2);
        var longest = 1 + (plane.Width + plane.Height) * 2 + spots.Max(spot => Math.Abs(spot.X) + Math.Abs(spot.Y));
        var pairs = new List<Assignment.Pair>();
        for (var row = 0; row < spots.Count; row++)
        {
            for (var column = 0; column < boxes.Count; column++)
                pairs.Add(new(row, column, longest - Port(boxes[column]).DistanceTo(spots[row])));
        }
        return [.. Assignment.Solve(spots.Count, boxes.Count, pairs).Select(column => boxes[column])];
    }

    private static IEnumerable<Rectangle> Column(int count, double x, double width, double height, Bounds plane)
    {
        var share = (plane.Height - Gap) / Math.Max(1, count);
        var high = Math.Min(height, Math.Max(1, share - Gap));
        return Enumerable
            .Range(0, count)
            .Select(i => new Rectangle(x, plane.Top + Gap + share * i + (share - Gap - high) / 2, width, high));
    }
}
