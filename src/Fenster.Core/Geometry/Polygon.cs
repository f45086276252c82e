using System.Collections.Immutable;
using Fenster.Core.Model;

namespace Fenster.Core.Geometry;

/// <summary>
/// A polygon by its vertices in pu, in either direction, closed from the last to the first; what is inside is told by
/// the even-odd rule.
/// </summary>
[KindName("polygon")]
public sealed record Polygon(ImmutableArray<Point> Vertices) : Region
{
    public const int MostVertices = 2000;

    private readonly Bounds bounds = BoundsOf(Vertices);

    public ImmutableArray<Point> Vertices
    {
        get;
        init => (field, bounds) = (value, BoundsOf(value));
    } = Vertices;

    public override double DistanceTo(Point point)
    {
        var nearest = double.PositiveInfinity;
        var inside = false;
        var vertices = Vertices.AsSpan();
        var from = vertices[^1];
        foreach (var to in vertices)
        {
            if (from.Y > point.Y != to.Y > point.Y && point.X < (to.X - from.X) * (point.Y - from.Y) / (to.Y - from.Y) + from.X)
                inside = !inside;
            nearest = Math.Min(nearest, SquaredDistance(point, from, to));
            from = to;
        }
        return inside ? 0 : Math.Sqrt(nearest);
    }

    /// <inheritdoc/>
    /// <remarks>Most points are far from most polygons: those beyond the bounds are answered without a look at the edges.</remarks>
    public override bool Contains(Point point, double slack = 0) =>
        slack + Rounding.At(point) is var reach && bounds.DistanceTo(point) <= reach && DistanceTo(point) <= reach;

    private static double SquaredDistance(Point point, Point from, Point to)
    {
        var (dx, dy) = (to.X - from.X, to.Y - from.Y);
        var squaredLength = dx * dx + dy * dy;
        var along = squaredLength == 0 ? 0 : Math.Clamp(((point.X - from.X) * dx + (point.Y - from.Y) * dy) / squaredLength, 0, 1);
        return point.SquaredDistanceTo(new(from.X + along * dx, from.Y + along * dy));
    }

    public override Bounds Bounds => bounds;

    internal override IEnumerable<(double From, double To)> Across(double y)
    {
        var crossings = new List<double>();
        var from = Vertices[^1];
        foreach (var to in Vertices)
        {
            if (from.Y > y != to.Y > y)
                crossings.Add((to.X - from.X) * (y - from.Y) / (to.Y - from.Y) + from.X);
            from = to;
        }
        crossings.Sort();
        return crossings.Chunk(2).Select(pair => (pair[0], pair[1]));
    }

    public override double Area
    {
        get
        {
            var doubled = 0.0;
            for (var i = 0; i < Vertices.Length; i++)
            {
                var (a, b) = (Vertices[i], Vertices[(i + 1) % Vertices.Length]);
                doubled += a.X * b.Y - b.X * a.Y;
            }
            return Math.Abs(doubled) / 2;
        }
    }

    public override string? Fault
    {
        get
        {
            if (Vertices.IsDefault || Vertices.Distinct().Count() < 3)
                return "has fewer than three different corners";
            if (Vertices.Length > MostVertices)
                return $"has more than {MostVertices} corners";
            foreach (var vertex in Vertices)
                if (NumberFault(vertex.X, vertex.Y) is { } fault)
                    return fault;
            if (CrossesItself())
                return "crosses itself";
            return Area > 0 ? null : "has no size";
        }
    }

    private bool CrossesItself()
    {
        var n = Vertices.Length;
        for (var i = 0; i < n; i++)
        {
            for (var j = i + 2; j < n; j++)
            {
                if (i == 0 && j == n - 1)
                    continue;
                if (Cross(Vertices[i], Vertices[i + 1], Vertices[j], Vertices[(j + 1) % n]))
                    return true;
            }
        }
        return false;
    }

    /// <summary>Whether two edges cross in a point that is no end of either.</summary>
    private static bool Cross(Point a, Point b, Point c, Point d)
    {
        static double Side(Point p, Point q, Point r) => (q.X - p.X) * (r.Y - p.Y) - (q.Y - p.Y) * (r.X - p.X);
        return Side(a, b, c) * Side(a, b, d) < 0 && Side(c, d, a) * Side(c, d, b) < 0;
    }

    private static Bounds BoundsOf(ImmutableArray<Point> vertices) =>
        vertices.IsDefaultOrEmpty
            ? default
            : new(vertices.Min(v => v.X), vertices.Min(v => v.Y), vertices.Max(v => v.X), vertices.Max(v => v.Y));

    public bool Equals(Polygon? other) => other is not null && Vertices.AsSpan().SequenceEqual(other.Vertices.AsSpan());

    public override int GetHashCode() => Vertices.Aggregate(0, HashCode.Combine);

    /// <summary>
    /// A free outline with fewer corners, of which none of the given ones lies further away than
    /// <paramref name="tolerance"/> pu. Source: the method of Ramer (1972) and of Douglas and Peucker (1973).
    /// </summary>
    public static ImmutableArray<Point> Simplify(ImmutableArray<Point> outline, double tolerance)
    {
        if (outline.Length < 4)
            return outline;
        var keep = new bool[outline.Length];
        keep[0] = keep[^1] = true;
        var pending = new Stack<(int From, int To)>([(0, outline.Length - 1)]);
        while (pending.TryPop(out var part))
        {
            var (furthest, distance) = (-1, tolerance * tolerance);
            for (var i = part.From + 1; i < part.To; i++)
                if (SquaredDistance(outline[i], outline[part.From], outline[part.To]) is var d && d > distance)
                    (furthest, distance) = (i, d);
            if (furthest < 0)
                continue;
            keep[furthest] = true;
            pending.Push((part.From, furthest));
            pending.Push((furthest, part.To));
        }
        return [.. outline.Where((_, i) => keep[i])];
    }
}
