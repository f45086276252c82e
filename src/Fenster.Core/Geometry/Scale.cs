namespace Fenster.Core.Geometry;

/// <summary>
/// Positions read as values: one axis for a number line or a timeline, two for a graph or a map grid. The axes need not
/// be perpendicular.
/// </summary>
public sealed record Scale(Axis X, Axis? Y = null)
{
    /// <summary>
    /// The values at a point. With one axis the point is projected onto it at a right angle, and the second value is 0;
    /// with two, each value is read along a line parallel to the other axis.
    /// </summary>
    public (double X, double Y) ValueAt(Point point)
    {
        if (Y is not { } y)
            return (X.ValueAt(X.Along(point, across: null)), 0);
        return (X.ValueAt(X.Along(point, across: y)), y.ValueAt(y.Along(point, across: X)));
    }

    /// <summary>The point at which the scale reads these values; with one axis it lies on the axis.</summary>
    public Point PointAt(double x, double y)
    {
        var along = X.ShareOf(x);
        var point = new Point(X.From.X + along * (X.To.X - X.From.X), X.From.Y + along * (X.To.Y - X.From.Y));
        if (Y is not { } other)
            return point;
        // From there along the second axis until it reads right.
        var rest = other.ShareOf(y) - other.Along(point, across: X);
        return new(point.X + rest * (other.To.X - other.From.X), point.Y + rest * (other.To.Y - other.From.Y));
    }

    /// <summary>What makes the scale unusable, as the end of a sentence; null when nothing does.</summary>
    public string? Fault =>
        X.Fault ?? Y?.Fault ?? (Y is { } y && Math.Abs(X.Cross(y)) < 1e-9 ? "has two axes in the same direction" : null);
}

/// <summary>An axis, calibrated by two points whose values are known.</summary>
/// <param name="From">In pu.</param>
/// <param name="To">In pu, elsewhere than <paramref name="From"/>.</param>
/// <param name="FromValue">On an axis of dates, days since 1 January 1970.</param>
/// <param name="ToValue">Another value; on a logarithmic axis both are above 0.</param>
public sealed record Axis(Point From, Point To, double FromValue, double ToValue, AxisKind Kind = AxisKind.Linear)
{
    /// <summary>The value at a share of the way from the first point to the second; below 0 and above 1 it goes on evenly.</summary>
    public double ValueAt(double share) =>
        Kind == AxisKind.Logarithmic ? FromValue * Math.Pow(ToValue / FromValue, share) : FromValue + share * (ToValue - FromValue);

    /// <summary>The inverse of <see cref="ValueAt"/>.</summary>
    public double ShareOf(double value) =>
        Kind == AxisKind.Logarithmic
            ? Math.Log(value / FromValue) / Math.Log(ToValue / FromValue)
            : (value - FromValue) / (ToValue - FromValue);

    /// <summary>How far along the axis a point lies, as a share, seen at a right angle or along another axis.</summary>
    internal double Along(Point point, Axis? across)
    {
        var (dx, dy) = (To.X - From.X, To.Y - From.Y);
        var (px, py) = (point.X - From.X, point.Y - From.Y);
        if (across is null)
            return (px * dx + py * dy) / (dx * dx + dy * dy);
        var (ax, ay) = (across.To.X - across.From.X, across.To.Y - across.From.Y);
        return (px * ay - py * ax) / (dx * ay - dy * ax);
    }

    internal double Cross(Axis other) =>
        ((To.X - From.X) * (other.To.Y - other.From.Y) - (To.Y - From.Y) * (other.To.X - other.From.X))
        / (From.DistanceTo(To) * other.From.DistanceTo(other.To));

    internal string? Fault =>
        !From.IsFinite || !To.IsFinite || !double.IsFinite(FromValue) || !double.IsFinite(ToValue) ? "has a number that is not finite"
        : !(From.DistanceTo(To) > 0 && From.DistanceTo(To) < 1e7) ? "has an axis between points in the same place or too far apart"
        : FromValue == ToValue ? "has an axis on which everything has one value"
        : Kind == AxisKind.Logarithmic && (FromValue <= 0 || ToValue <= 0) ? "has a logarithmic axis through zero"
        : null;
}

public enum AxisKind
{
    Linear,
    Logarithmic,
    Date,
}
