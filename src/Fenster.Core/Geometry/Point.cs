namespace Fenster.Core.Geometry;

/// <summary>
/// A position in picture units (pu): x runs from 0 at the picture's left edge to 1000 at its right edge,
/// y from 0 at the top; both directions have the same unit. Margins extend the plane beyond these bounds.
/// </summary>
public readonly record struct Point(double X, double Y)
{
    /// <summary>False when either coordinate is NaN or infinite.</summary>
    public bool IsFinite => double.IsFinite(X) && double.IsFinite(Y);

    /// <summary>Euclidean distance in pu.</summary>
    public double DistanceTo(Point other) => Math.Sqrt(SquaredDistanceTo(other));

    internal double SquaredDistanceTo(Point other)
    {
        var dx = X - other.X;
        var dy = Y - other.Y;
        return dx * dx + dy * dy;
    }

    /// <summary>The point turned about <paramref name="centre"/> by <paramref name="degrees"/>, clockwise on the screen.</summary>
    public Point Turned(Point centre, double degrees)
    {
        if (degrees == 0)
            return this;
        var (sin, cos) = Math.SinCos(degrees * Math.PI / 180);
        var dx = X - centre.X;
        var dy = Y - centre.Y;
        return new(centre.X + dx * cos - dy * sin, centre.Y + dx * sin + dy * cos);
    }
}

/// <summary>An upright box around something, in pu.</summary>
public readonly record struct Bounds(double Left, double Top, double Right, double Bottom)
{
    internal static readonly Bounds Everywhere = new(
        double.NegativeInfinity,
        double.NegativeInfinity,
        double.PositiveInfinity,
        double.PositiveInfinity
    );

    public double Width => Right - Left;
    public double Height => Bottom - Top;
    public Point Centre => new((Left + Right) / 2, (Top + Bottom) / 2);

    /// <summary>Whether a point lies in the box; its boundary belongs to it.</summary>
    public bool Holds(Point point) => point.X >= Left && point.X <= Right && point.Y >= Top && point.Y <= Bottom;

    /// <summary>Euclidean distance in pu from a point to the box; 0 inside.</summary>
    public double DistanceTo(Point point)
    {
        var dx = Math.Max(0, Math.Max(Left - point.X, point.X - Right));
        var dy = Math.Max(0, Math.Max(Top - point.Y, point.Y - Bottom));
        return Math.Sqrt(dx * dx + dy * dy);
    }

    /// <summary>The box with a margin on every side.</summary>
    public Bounds Grown(double margin) => new(Left - margin, Top - margin, Right + margin, Bottom + margin);

    /// <summary>Whether the two boxes share at least one point; touching counts.</summary>
    public bool Meets(Bounds other) => Left <= other.Right && other.Left <= Right && Top <= other.Bottom && other.Top <= Bottom;
}
