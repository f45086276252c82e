using System.Collections.Immutable;
using System.Runtime.CompilerServices;
using System.Text.Json;
using Fenster.Core.Geometry;

namespace Fenster.Core.Tests;

/// <summary>
/// What the browser's geometry has to agree with: worked out here and kept in a file that the scripts' own tests read. Written anew by
/// <c>./fenster contract</c>.
/// </summary>
public sealed class FixturesTests
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web) { WriteIndented = true, IndentSize = 1 };

    private static string File([CallerFilePath] string here = "") =>
        Path.Combine(Path.GetDirectoryName(here)!, "../Fenster.Scripts.Tests/geometry.json");

    [Fact]
    public void The_fixtures_are_what_the_rules_say()
    {
        var now = JsonSerializer.Serialize(
            new
            {
                Regions,
                Outlines,
                Scales,
            },
            Json
        );
        if (Environment.GetEnvironmentVariable("FENSTER_CONTRACT") == "write")
            System.IO.File.WriteAllText(File(), now + "\n");
        Assert.Equal(now + "\n", System.IO.File.ReadAllText(File()));
    }

    /// <summary>A region as it stands in a document.</summary>
    private static object Drawn(Region region) =>
        region switch
        {
            Circle circle => new
            {
                Kind = "circle",
                circle.Centre,
                circle.Radius,
            },
            Ellipse ellipse => new
            {
                Kind = "ellipse",
                ellipse.Centre,
                ellipse.RadiusX,
                ellipse.RadiusY,
            },
            Rectangle box => new
            {
                Kind = "rectangle",
                box.X,
                box.Y,
                box.Width,
                box.Height,
                box.Rotation,
            },
            Polygon polygon => new { Kind = "polygon", polygon.Vertices },
            _ => throw new ArgumentOutOfRangeException(nameof(region)),
        };

    private static IEnumerable<object> Regions
    {
        get
        {
            var random = new Random(7);
            double Any(double from, double to) => Math.Round(from + random.NextDouble() * (to - from), 2);
            for (var i = 0; i < 48; i++)
            {
                var centre = new Point(Any(100, 900), Any(100, 650));
                Region region = (i % 4) switch
                {
                    0 => new Circle(centre, Any(5, 120)),
                    1 => new Ellipse(centre, Any(5, 150), Any(5, 90)),
                    2 => new Rectangle(centre.X, centre.Y, Any(5, 200), Any(5, 90), i % 8 == 2 ? 0 : Any(-180, 180)),
                    _ => new Polygon([
                        .. Enumerable
                            .Range(0, 3 + random.Next(6))
                            .Select(n => new Point(Math.Round(centre.X + 60 * Math.Cos(n)), Math.Round(centre.Y + 45 * Math.Sin(n)))),
                    ]),
                };
                var points = Enumerable
                    .Range(0, 12)
                    .Select(_ => new Point(Any(centre.X - 200, centre.X + 200), Any(centre.Y - 150, centre.Y + 150)))
                    .ToList();
                yield return new
                {
                    Region = Drawn(region),
                    Bounds = new
                    {
                        region.Bounds.Left,
                        region.Bounds.Top,
                        region.Bounds.Right,
                        region.Bounds.Bottom,
                    },
                    Points = points.Select(point => new { point, Distance = region.DistanceTo(point) }),
                };
            }
        }
    }

    /// <summary>Corners on a small grid, so that outlines often touch themselves or double back.</summary>
    private static IEnumerable<object> Outlines
    {
        get
        {
            var random = new Random(11);
            for (var i = 0; i < 300; i++)
            {
                ImmutableArray<Point> vertices =
                [
                    .. Enumerable
                        .Range(0, 3 + random.Next(5))
                        .Select(_ => new Point(random.Next(i < 150 ? 5 : 100), random.Next(i < 150 ? 5 : 100))),
                ];
                // What has fewer than three corners is refused before anybody asks.
                if (vertices.Distinct().Count() < 3)
                    continue;
                yield return new
                {
                    vertices,
                    Crosses = new Polygon(vertices).Fault is { } fault && fault.Contains("cross", StringComparison.Ordinal),
                };
            }
        }
    }

    private static IEnumerable<object> Scales
    {
        get
        {
            var random = new Random(13);
            double Any(double from, double to) => Math.Round(from + random.NextDouble() * (to - from), 2);
            for (var i = 0; i < 24; i++)
            {
                var kind = (AxisKind)(i % 3);
                var (from, to) = kind == AxisKind.Logarithmic ? (0.1 + i, 1000.0 * (i + 1)) : (Any(-50, 50), Any(60, 4000));
                var x = new Axis(new(Any(50, 200), Any(400, 600)), new(Any(700, 950), Any(300, 600)), from, to, kind);
                var y = i % 2 == 0 ? null : new Axis(new(Any(50, 200), Any(400, 600)), new(Any(50, 300), Any(20, 200)), 0, Any(5, 90));
                var scale = new Scale(x, y);
                var point = new Point(Any(100, 900), Any(100, 600));
                var (valueX, valueY) = scale.ValueAt(point);
                var back = scale.PointAt(valueX, valueY);
                yield return new
                {
                    Scale = new { X = Drawn(x), Y = y is null ? null : Drawn(y) },
                    point,
                    Value = new { X = valueX, Y = valueY },
                    back,
                };
            }
        }
    }

    private static object Drawn(Axis axis) =>
        new
        {
            axis.From,
            axis.To,
            axis.FromValue,
            axis.ToValue,
            Kind = axis.Kind.ToString().ToLowerInvariant(),
        };
}
