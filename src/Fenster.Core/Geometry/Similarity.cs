namespace Fenster.Core.Geometry;

/// <summary>A map that turns, scales evenly and moves the plane: (x, y) becomes (a·x − b·y + dx, b·x + a·y + dy).</summary>
public readonly record struct Similarity(double A, double B, double Dx, double Dy)
{
    public static readonly Similarity Identity = new(1, 0, 0, 0);

    /// <summary>Turns about a centre by <paramref name="degrees"/>, clockwise on the screen.</summary>
    public static Similarity Turning(Point centre, double degrees)
    {
        // Quarter turns are exact.
        (double sin, double cos) = ((degrees % 360 + 360) % 360) switch
        {
            0 => (0, 1),
            90 => (1, 0),
            180 => (0, -1),
            270 => (-1, 0),
            var other => Math.SinCos(other * Math.PI / 180),
        };
        return new(cos, sin, centre.X - cos * centre.X + sin * centre.Y, centre.Y - sin * centre.X - cos * centre.Y);
    }

    /// <summary>Takes a box's upper left corner to the origin and its width to 1000.</summary>
    public static Similarity Framing(Bounds box)
    {
        var scale = 1000 / box.Width;
        return new(scale, 0, -scale * box.Left, -scale * box.Top);
    }

    public double Scale => Math.Sqrt(A * A + B * B);

    /// <summary>Clockwise on the screen, from −180 to 180.</summary>
    public double Degrees => Math.Atan2(B, A) * 180 / Math.PI;

    public Point Map(Point point) => new(A * point.X - B * point.Y + Dx, B * point.X + A * point.Y + Dy);

    /// <summary>This map first, then the other.</summary>
    public Similarity Then(Similarity other) =>
        new(
            other.A * A - other.B * B,
            other.A * B + other.B * A,
            other.A * Dx - other.B * Dy + other.Dx,
            other.B * Dx + other.A * Dy + other.Dy
        );

    public Similarity Inverse()
    {
        var square = A * A + B * B;
        var (a, b) = (A / square, -B / square);
        return new(a, b, -a * Dx + b * Dy, -b * Dx - a * Dy);
    }

    /// <summary>
    /// The region's image. Circles and rectangles stay what they are; an ellipse that no longer lies upright becomes a
    /// polygon of 64 corners.
    /// </summary>
    public Region Map(Region region)
    {
        var map = this;
        switch (region)
        {
            case Circle circle:
                return new Circle(Map(circle.Centre), circle.Radius * Scale);
            case Rectangle rectangle:
                var (middle, width, height) = (Map(rectangle.Centre), rectangle.Width * Scale, rectangle.Height * Scale);
                var turn = Math.Round(rectangle.Rotation + Degrees, 9) % 360;
                // A quarter turn is told without one.
                if (Math.Abs(turn) % 180 == 90)
                    (width, height, turn) = (height, width, 0);
                else if (Math.Abs(turn) == 180)
                    turn = 0;
                return new Rectangle(middle.X - width / 2, middle.Y - height / 2, width, height, turn);
            case Ellipse ellipse when Math.Round(Degrees, 9) % 180 == 0:
                return new Ellipse(Map(ellipse.Centre), ellipse.RadiusX * Scale, ellipse.RadiusY * Scale);
            case Ellipse ellipse when Math.Round(Degrees, 9) % 90 == 0:
                return new Ellipse(Map(ellipse.Centre), ellipse.RadiusY * Scale, ellipse.RadiusX * Scale);
            case Ellipse ellipse:
                return new Polygon([
                    .. Enumerable
                        .Range(0, 64)
                        .Select(i => Math.SinCos(2 * Math.PI * i / 64))
                        .Select(t =>
                            map.Map(new Point(ellipse.Centre.X + ellipse.RadiusX * t.Cos, ellipse.Centre.Y + ellipse.RadiusY * t.Sin))
                        ),
                ]);
            case Polygon polygon:
                return polygon with { Vertices = [.. polygon.Vertices.Select(Map)] };
            default:
                throw new ArgumentOutOfRangeException(nameof(region), region, "This kind of region is not known.");
        }
    }
}
