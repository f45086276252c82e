using Fenster.Core.Model;

namespace Fenster.Core.Geometry;

/// <summary>
/// A closed area of the picture plane, in pu. The boundary belongs to the region.
/// A region that came through <see cref="Fault"/> without a sentence has a positive size and finite numbers;
/// the other members are only meaningful then.
/// </summary>
public abstract record Region
{
    private protected Region() { }

    /// <summary>Euclidean distance in pu from a point to the region; 0 inside and on the boundary.</summary>
    public abstract double DistanceTo(Point point);

    /// <summary>The smallest upright box around the region.</summary>
    public abstract Bounds Bounds { get; }

    /// <summary>Area in square pu.</summary>
    public abstract double Area { get; }

    /// <summary>What it costs to measure the region once, in corners.</summary>
    internal int Corners => this is Polygon polygon ? polygon.Vertices.Length : 4;

    /// <summary>The stretches of a horizontal line that lie in the region, from left to right, in pu; none where it misses.</summary>
    internal abstract IEnumerable<(double From, double To)> Across(double y);

    /// <summary>
    /// Area in square pu that two regions share, measured along evenly spaced lines: off by less than a hundredth of the
    /// smaller region unless one is thinner than the lines are apart.
    /// </summary>
    /// <param name="lines">How many lines cross what both bounds share.</param>
    public double OverlapWith(Region other, int lines = 400)
    {
        if (!Bounds.Meets(other.Bounds))
            return 0;
        var (top, bottom) = (Math.Max(Bounds.Top, other.Bounds.Top), Math.Min(Bounds.Bottom, other.Bounds.Bottom));
        var shared = 0.0;
        for (var i = 0; i < lines; i++)
        {
            var y = top + (i + 0.5) / lines * (bottom - top);
            foreach (var (from, to) in Across(y))
            {
                foreach (var (otherFrom, otherTo) in other.Across(y))
                    shared += Math.Max(0, Math.Min(to, otherTo) - Math.Max(from, otherFrom));
            }
        }
        return shared * (bottom - top) / lines;
    }

    /// <summary>
    /// What makes the region unusable, as the end of a sentence ("has no size"); null when nothing does.
    /// Refused are NaN and infinities, coordinates beyond ±1 000 000 pu, zero or negative sizes,
    /// polygons with fewer than three distinct vertices and self-crossing polygons.
    /// </summary>
    public abstract string? Fault { get; }

    /// <summary>
    /// Whether a point counts for the region: its distance is at most <paramref name="slack"/> pu, with the allowance of
    /// <see cref="Rounding"/>.
    /// </summary>
    public virtual bool Contains(Point point, double slack = 0) => DistanceTo(point) <= slack + Rounding.At(point);

    /// <summary>The region of all points up to a distance from this one, where it is a region of a known kind; otherwise null.</summary>
    internal Region? Grown(double distance) =>
        this switch
        {
            _ when distance == 0 => this,
            Circle circle => circle with { Radius = circle.Radius + distance },
            _ => null,
        };

    private protected const double Limit = 1_000_000;

    private protected static string? NumberFault(params ReadOnlySpan<double> numbers)
    {
        foreach (var number in numbers)
        {
            if (!double.IsFinite(number))
                return "has a number that is not finite";
            if (Math.Abs(number) > Limit)
                return "lies too far outside the picture";
        }
        return null;
    }
}

/// <summary>A circle by its centre and radius in pu.</summary>
[KindName("circle")]
public sealed record Circle(Point Centre, double Radius) : Region
{
    public override double DistanceTo(Point point) => Math.Max(0, Centre.DistanceTo(point) - Radius);

    public override Bounds Bounds => new(Centre.X - Radius, Centre.Y - Radius, Centre.X + Radius, Centre.Y + Radius);
    public override double Area => Math.PI * Radius * Radius;

    internal override IEnumerable<(double From, double To)> Across(double y) => Ellipse.Across(Centre, Radius, Radius, y);

    public override string? Fault => NumberFault(Centre.X, Centre.Y, Radius) ?? (Radius > 0 ? null : "has no size");
}

/// <summary>
/// A rectangle by its upper left corner and size in pu, turned about its centre by <paramref name="Rotation"/>
/// degrees, clockwise on the screen.
/// </summary>
[KindName("rectangle")]
public sealed record Rectangle(double X, double Y, double Width, double Height, double Rotation = 0) : Region
{
    public Point Centre => new(X + Width / 2, Y + Height / 2);

    public override double DistanceTo(Point point)
    {
        var local = point.Turned(Centre, -Rotation);
        var dx = Math.Max(0, Math.Max(X - local.X, local.X - (X + Width)));
        var dy = Math.Max(0, Math.Max(Y - local.Y, local.Y - (Y + Height)));
        return Math.Sqrt(dx * dx + dy * dy);
    }

    public override Bounds Bounds
    {
        get
        {
            if (Rotation == 0)
                return new(X, Y, X + Width, Y + Height);
            var (sin, cos) = Math.SinCos(Rotation * Math.PI / 180);
            var halfWidth = (Math.Abs(Width * cos) + Math.Abs(Height * sin)) / 2;
            var halfHeight = (Math.Abs(Width * sin) + Math.Abs(Height * cos)) / 2;
            return new(Centre.X - halfWidth, Centre.Y - halfHeight, Centre.X + halfWidth, Centre.Y + halfHeight);
        }
    }

    public override double Area => Width * Height;

    /// <summary>The rectangle by its corners.</summary>
    internal Polygon Outline =>
        new([
            .. new Point[] { new(X, Y), new(X + Width, Y), new(X + Width, Y + Height), new(X, Y + Height) }.Select(corner =>
                corner.Turned(Centre, Rotation)
            ),
        ]);

    internal override IEnumerable<(double From, double To)> Across(double y) =>
        Rotation != 0 ? Outline.Across(y)
        : y >= Y && y <= Y + Height ? [(X, X + Width)]
        : [];

    public override string? Fault => NumberFault(X, Y, Width, Height, Rotation) ?? (Width > 0 && Height > 0 ? null : "has no size");
}
