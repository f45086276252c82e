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
            var rectangle = new Rectangle(random.NextDouble() * 900, random.NextDouble() * 700, 1 + random.NextDouble() * 200, 1 + random.NextDouble() * 200, random.Next(-180, 180));
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
            var reference = Factory.CreatePoint(new Coordinate(circle.Centre.X, circle.Centre.Y)).Distance(Factory.CreatePoint(new Coordinate(point.X, point.Y)));
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
    public void The_boundary_of_a_circle_belongs_to_it() =>
        Assert.True(new Circle(new(100, 100), 50).Contains(new(130, 140)));

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
}
