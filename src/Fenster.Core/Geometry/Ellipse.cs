using Fenster.Core.Model;

namespace Fenster.Core.Geometry;

/// <summary>An upright ellipse by its centre and its two radii in pu.</summary>
[KindName("ellipse")]
public sealed record Ellipse(Point Centre, double RadiusX, double RadiusY) : Region
{
    /// <inheritdoc/>
    /// <remarks>
    /// The nearest point of the rim is found by bisection to the last bit of a double, after D. Eberly, "Distance from
    /// a Point to an Ellipse" (2013).
    /// </remarks>
    public override double DistanceTo(Point point)
    {
        var (x, y) = (Math.Abs(point.X - Centre.X), Math.Abs(point.Y - Centre.Y));
        var (ux, uy) = (x / RadiusX, y / RadiusY);
        if (ux * ux + uy * uy <= 1)
            return 0;
        return RadiusX >= RadiusY ? Outside(RadiusX, RadiusY, x, y) : Outside(RadiusY, RadiusX, y, x);
    }

    /// <summary>Distance from a point of the first quadrant outside an ellipse whose first radius is the longer one.</summary>
    private static double Outside(double a, double b, double x, double y)
    {
        if (y == 0)
            return x - a;
        if (x == 0)
            return y - b;
        var ratio = a / b * (a / b);
        var (zx, zy) = (x / a, y / b);
        var (low, high) = (zy - 1, Math.Sqrt(ratio * zx * (ratio * zx) + zy * zy) - 1);
        var s = 0.0;
        for (var i = 0; i < 128; i++)
        {
            s = (low + high) / 2;
            if (s == low || s == high)
                break;
            var (gx, gy) = (ratio * zx / (s + ratio), zy / (s + 1));
            var g = gx * gx + gy * gy - 1;
            if (g > 0)
                low = s;
            else if (g < 0)
                high = s;
            else
                break;
        }
        var (nearX, nearY) = (ratio * x / (s + ratio), y / (s + 1));
        return Math.Sqrt((nearX - x) * (nearX - x) + (nearY - y) * (nearY - y));
    }

    public override Bounds Bounds => new(Centre.X - RadiusX, Centre.Y - RadiusY, Centre.X + RadiusX, Centre.Y + RadiusY);

    internal override IEnumerable<(double From, double To)> Across(double y) => Across(Centre, RadiusX, RadiusY, y);

    internal static IEnumerable<(double From, double To)> Across(Point centre, double radiusX, double radiusY, double y)
    {
        var share = (y - centre.Y) / radiusY;
        if (Math.Abs(share) > 1)
            return [];
        var half = radiusX * Math.Sqrt(1 - share * share);
        return [(centre.X - half, centre.X + half)];
    }

    public override double Area => Math.PI * RadiusX * RadiusY;
    public override string? Fault =>
        NumberFault(Centre.X, Centre.Y, RadiusX, RadiusY) ?? (RadiusX > 0 && RadiusY > 0 ? null : "has no size");
}
