using Fenster.Core.Geometry;
using Fenster.Core.Layout;
using FsCheck.Xunit;
using NetTopologySuite.Geometries;
using Point = Fenster.Core.Geometry.Point;

namespace Fenster.Core.Tests;

/// <summary>Leader lines, with a geometry library to tell whether they cross.</summary>
public sealed class LeadersTests
{
    private static readonly Bounds Plane = new(-200, 0, 1200, 750);

    [Property]
    public bool No_two_lines_cross_and_no_two_boxes_overlap(int seed)
    {
        var random = new Random(seed);
        var spots = Enumerable
            .Range(0, 1 + random.Next(16))
            .Select(_ => new Point(random.NextDouble() * 1000, random.NextDouble() * 750))
            .ToList();
        var boxes = Leaders.LayOut(spots, 160, 44, Plane);
        var lines = boxes
            .Zip(spots, (box, spot) =>
            {
                var port = new Coordinate(box.X < 500 ? box.X + box.Width : box.X, box.Y + box.Height / 2);
                return new LineString([port, new(spot.X, spot.Y)]);
            })
            .ToList();
        return boxes.Length == spots.Count
            && Enumerable
                .Range(0, lines.Count)
                .All(i => Enumerable.Range(0, i).All(j => !lines[i].Crosses(lines[j]) && !boxes[i].Bounds.Meets(boxes[j].Bounds)))
            && boxes.All(box =>
                box.X >= Plane.Left && box.X + box.Width <= Plane.Right && box.Y >= Plane.Top && box.Y + box.Height <= Plane.Bottom
            );
    }

    [Fact]
    public void Boxes_become_lower_where_there_is_no_room_for_so_many()
    {
        var boxes = Leaders.LayOut([.. Enumerable.Range(0, 60).Select(i => new Point(500, i * 10))], 160, 44, Plane);
        Assert.All(boxes, box => Assert.InRange(box.Height, 5, 44));
        Assert.Empty(Leaders.LayOut([], 160, 44, Plane));
    }
}
