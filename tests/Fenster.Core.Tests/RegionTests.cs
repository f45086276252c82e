using Fenster.Core.Geometry;
using NetTopologySuite.Geometries;
using NetTopologySuite.Geometries.Utilities;
using Point = Fenster.Core.Geometry.Point;

namespace Fenster.Core.Tests;

/// <summary>Regions against NetTopologySuite, a general-purpose geometry library, on seeded random shapes.</summary>
public sealed class RegionTests
{
    private static readonly GeometryFactory Factory = new();

    [Fact]
    public void Distance_area_and_bounds_of_a_turned_rectangle_agree_with_a_geometry_library()
    {
        var random = new Random(7);
        for (var i = 0; i < 5000; i++)
        {
            var rectangle = new Rectangle(
                random.NextDouble() * 900,
                random.NextDouble() * 700,
                1 + random.NextDouble() * 200,
                1 + random.NextDouble() * 200,
                random.Next(-180, 180)
            );
            var reference = Reference(rectangle);
            var point = new Point(random.NextDouble() * 1200 - 100, random.NextDouble() * 1000 - 100);
            Assert.Equal(reference.Distance(Factory.CreatePoint(new Coordinate(point.X, point.Y))), rectangle.DistanceTo(point), 1e-7);
            Assert.Equal(reference.Area, rectangle.Area, 1e-6);
            Assert.Equal(reference.EnvelopeInternal.MinX, rectangle.Bounds.Left, 1e-7);
            Assert.Equal(reference.EnvelopeInternal.MaxY, rectangle.Bounds.Bottom, 1e-7);
        }
    }

    private static NetTopologySuite.Geometries.Geometry Reference(Rectangle r)
    {
        var upright = Factory.ToGeometry(new Envelope(r.X, r.X + r.Width, r.Y, r.Y + r.Height));
        return AffineTransformation.RotationInstance(r.Rotation * Math.PI / 180, r.Centre.X, r.Centre.Y).Transform(upright);
    }

    [Fact]
    public void Distance_to_a_circle_is_the_distance_to_its_centre_less_the_radius()
    {
        var random = new Random(8);
        for (var i = 0; i < 2000; i++)
        {
            var circle = new Circle(new(random.NextDouble() * 1000, random.NextDouble() * 750), 1 + random.NextDouble() * 100);
            var point = new Point(random.NextDouble() * 1000, random.NextDouble() * 750);
            var reference = Factory
                .CreatePoint(new Coordinate(circle.Centre.X, circle.Centre.Y))
                .Distance(Factory.CreatePoint(new Coordinate(point.X, point.Y)));
            Assert.Equal(Math.Max(0, reference - circle.Radius), circle.DistanceTo(point), 1e-9);
        }
    }

    [Theory]
    [InlineData(10, 20)]
    [InlineData(60, 50)]
    [InlineData(10, 35)]
    public void The_boundary_of_a_rectangle_belongs_to_it(double x, double y) =>
        Assert.True(new Rectangle(10, 20, 50, 30).Contains(new(x, y)));

    [Fact]
    public void The_boundary_of_a_circle_belongs_to_it() => Assert.True(new Circle(new(100, 100), 50).Contains(new(130, 140)));

    [Fact]
    public void A_point_counts_up_to_the_slack_and_no_further()
    {
        var rectangle = new Rectangle(0, 0, 100, 100);
        Assert.True(rectangle.Contains(new(103, 104), 5));
        Assert.False(rectangle.Contains(new(103, 104.01), 5));
    }

    [Fact]
    public void A_degenerate_region_says_what_is_wrong_with_it()
    {
        Assert.Equal("has no size", new Circle(new(1, 1), 0).Fault);
        Assert.Equal("has no size", new Circle(new(1, 1), -3).Fault);
        Assert.Equal("has no size", new Rectangle(0, 0, 10, 0).Fault);
        Assert.Contains("not finite", new Rectangle(double.NaN, 0, 10, 10).Fault);
        Assert.Contains("not finite", new Circle(new(0, double.PositiveInfinity), 10).Fault);
        Assert.Contains("too far", new Circle(new(0, 5e7), 10).Fault);
        Assert.Null(new Circle(new(0, 0), 10).Fault);
    }

    private static NetTopologySuite.Geometries.Point Reference(Point point) => Factory.CreatePoint(new Coordinate(point.X, point.Y));

    private static NetTopologySuite.Geometries.Polygon Reference(Core.Geometry.Polygon polygon) =>
        Factory.CreatePolygon([.. polygon.Vertices.Append(polygon.Vertices[0]).Select(v => new Coordinate(v.X, v.Y))]);

    /// <summary>A polygon around a centre, so that it never crosses itself, with bays and capes.</summary>
    private static Core.Geometry.Polygon RandomPolygon(Random random)
    {
        var corners = random.Next(3, 30);
        var (x, y) = (random.NextDouble() * 1000, random.NextDouble() * 750);
        return new([
            .. Enumerable
                .Range(0, corners)
                .Select(i =>
                {
                    var (sin, cos) = Math.SinCos(2 * Math.PI * i / corners);
                    var radius = 10 + random.NextDouble() * 150;
                    return new Point(x + radius * cos, y + radius * sin);
                }),
        ]);
    }

    [Fact]
    public void Distance_area_bounds_and_containment_of_a_polygon_agree_with_a_geometry_library()
    {
        var random = new Random(9);
        for (var i = 0; i < 4000; i++)
        {
            var polygon = RandomPolygon(random);
            var reference = Reference(polygon);
            var point = new Point(random.NextDouble() * 1000, random.NextDouble() * 750);
            Assert.Null(polygon.Fault);
            Assert.Equal(reference.Distance(Reference(point)), polygon.DistanceTo(point), 1e-7);
            Assert.Equal(reference.Covers(Reference(point)), polygon.Contains(point));
            Assert.Equal(reference.Distance(Reference(point)) <= 12, polygon.Contains(point, 12));
            Assert.Equal(reference.Area, polygon.Area, 1e-6);
            Assert.Equal(reference.EnvelopeInternal.MinY, polygon.Bounds.Top, 1e-9);
        }
    }

    [Fact]
    public void The_area_that_two_regions_share_agrees_with_a_geometry_library()
    {
        var random = new Random(13);
        for (var i = 0; i < 400; i++)
        {
            var (first, firstReference) = RandomRegion(random);
            var (second, secondReference) = RandomRegion(random);
            var shared = firstReference.Intersection(secondReference).Area;
            Assert.Equal(shared, first.OverlapWith(second), Math.Min(first.Area, second.Area) / 100);
            Assert.Equal(first.OverlapWith(second), second.OverlapWith(first), 1e-6);
            Assert.Equal(first.Area, first.OverlapWith(first), first.Area / 100);
        }
    }

    private static (Region Region, NetTopologySuite.Geometries.Geometry Reference) RandomRegion(Random random)
    {
        var (x, y) = (300 + random.NextDouble() * 200, 300 + random.NextDouble() * 200);
        Region region = random.Next(4) switch
        {
            0 => new Circle(new(x, y), 20 + random.NextDouble() * 150),
            1 => new Ellipse(new(x, y), 20 + random.NextDouble() * 150, 20 + random.NextDouble() * 150),
            2 => new Rectangle(x - 100, y - 100, 40 + random.NextDouble() * 200, 40 + random.NextDouble() * 200, random.NextDouble() * 360),
            _ => RandomPolygon(random) is var polygon
                ? polygon with
                {
                    Vertices = [.. polygon.Vertices.Select(vertex => new Point(vertex.X / 3 + 200, vertex.Y / 3 + 250))],
                }
                : null!,
        };
        Point Rim(Point centre, double a, double b, int n) =>
            new(centre.X + a * Math.Cos(2 * Math.PI * n / 720), centre.Y + b * Math.Sin(2 * Math.PI * n / 720));
        return (
            region,
            region switch
            {
                Circle circle => Reference(
                    new Core.Geometry.Polygon([
                        .. Enumerable.Range(0, 720).Select(n => Rim(circle.Centre, circle.Radius, circle.Radius, n)),
                    ])
                ),
                Ellipse ellipse => Reference(
                    new Core.Geometry.Polygon([
                        .. Enumerable.Range(0, 720).Select(n => Rim(ellipse.Centre, ellipse.RadiusX, ellipse.RadiusY, n)),
                    ])
                ),
                Rectangle rectangle => Reference(rectangle),
                Core.Geometry.Polygon polygon => Reference(polygon),
                _ => throw new InvalidOperationException(),
            }
        );
    }

    [Fact]
    public void Corners_and_edges_of_a_polygon_belong_to_it()
    {
        var polygon = new Core.Geometry.Polygon([new(0, 0), new(100, 0), new(100, 100), new(50, 40), new(0, 100)]);
        Assert.All((Point[])[new(0, 0), new(100, 100), new(50, 0), new(100, 30), new(0, 50), new(50, 40), new(75, 70)], point =>
            Assert.True(polygon.Contains(point))
        );
        Assert.False(polygon.Contains(new(50, 80)));
    }

    [Fact]
    public void Distance_to_an_ellipse_agrees_with_a_fine_polygon_of_a_geometry_library()
    {
        var random = new Random(10);
        for (var i = 0; i < 300; i++)
        {
            var ellipse = new Ellipse(
                new(random.NextDouble() * 1000, random.NextDouble() * 750),
                5 + random.NextDouble() * 200,
                5 + random.NextDouble() * 200
            );
            var rim = Enumerable
                .Range(0, 2000)
                .Select(n => 2 * Math.PI * n / 2000)
                .Select(t => new Point(ellipse.Centre.X + ellipse.RadiusX * Math.Cos(t), ellipse.Centre.Y + ellipse.RadiusY * Math.Sin(t)));
            var reference = Reference(new Core.Geometry.Polygon([.. rim]));
            for (var n = 0; n < 20; n++)
            {
                var point = new Point(random.NextDouble() * 1000, random.NextDouble() * 750);
                Assert.Equal(reference.Distance(Reference(point)), ellipse.DistanceTo(point), 0.01);
            }
            Assert.Equal(reference.Area, ellipse.Area, ellipse.Area * 1e-5);
        }
    }

    [Fact]
    public void Points_on_the_axes_of_an_ellipse_and_its_rim_are_exact()
    {
        var ellipse = new Ellipse(new(100, 100), 50, 20);
        Assert.Equal(10, ellipse.DistanceTo(new(160, 100)), 1e-12);
        Assert.Equal(5, ellipse.DistanceTo(new(100, 125)), 1e-12);
        Assert.True(ellipse.Contains(new(150, 100)));
        Assert.Equal(0, ellipse.DistanceTo(new(100, 100)));
    }

    [Fact]
    public void A_polygon_that_is_none_says_what_is_wrong_with_it()
    {
        Assert.Contains("fewer than three", new Core.Geometry.Polygon([new(0, 0), new(1, 1), new(0, 0)]).Fault);
        Assert.Contains("crosses itself", new Core.Geometry.Polygon([new(0, 0), new(10, 10), new(10, 0), new(0, 10)]).Fault);
        Assert.Contains("no size", new Core.Geometry.Polygon([new(0, 0), new(5, 5), new(10, 10)]).Fault);
        Assert.Contains("not finite", new Core.Geometry.Polygon([new(0, 0), new(5, double.NaN), new(10, 10)]).Fault);
    }

    [Fact]
    public void A_simplified_outline_stays_within_its_tolerance()
    {
        var random = new Random(12);
        for (var i = 0; i < 200; i++)
        {
            var outline = Enumerable
                .Range(0, 300)
                .Select(n => new Point(n + random.NextDouble(), 100 * Math.Sin(n / 40.0) + random.NextDouble() * 8))
                .ToArray();
            var simple = Core.Geometry.Polygon.Simplify([.. outline], 5);
            var line = Factory.CreateLineString([.. simple.Select(p => new Coordinate(p.X, p.Y))]);
            Assert.True(simple.Length < outline.Length / 3);
            Assert.All(outline, point => Assert.True(line.Distance(Reference(point)) <= 5 + 1e-9));
            Assert.All(simple, point => Assert.Contains(point, outline));
        }
    }
}
