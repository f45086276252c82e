using System.Collections.Immutable;
using Fenster.Core.Geometry;
using NetTopologySuite.Geometries;
using Point = Fenster.Core.Geometry.Point;

namespace Fenster.Core.Tests;

/// <summary>
/// Outlines of drawn shapes with known areas, beside counted pixels and beside NetTopologySuite's areas and overlays.
/// </summary>
public class OutlinesTests
{
    private const int White = 0xFFFFFF;

    private static ImmutableArray<Point> Circle(double x, double y, double radius) =>
        [.. Enumerable.Range(0, 360).Select(i => new Point(x, y + radius).Turned(new(x, y), i))];

    private static ImmutableArray<Point> Star(double x, double y, double outer, double inner) =>
        [.. Enumerable.Range(0, 10).Select(i => new Point(x, y - (i % 2 == 0 ? outer : inner)).Turned(new(x, y), i * 36))];

    /// <summary>Like a coast: many corners, none sharp.</summary>
    private static ImmutableArray<Point> Country(int seed, double x, double y, double radius)
    {
        var random = new Random(seed);
        var waves = Enumerable.Range(2, 6).Select(n => (n, Size: random.NextDouble() * 0.25 / n, At: random.NextDouble() * 6)).ToList();
        return
        [
            .. Enumerable
                .Range(0, 240)
                .Select(i =>
                    new Point(x, y - radius * (1 + waves.Sum(wave => wave.Size * Math.Sin(wave.n * i * Math.PI / 120 + wave.At)))).Turned(
                        new(x, y),
                        i * 1.5
                    )
                ),
        ];
    }

    /// <summary>Draws shapes with soft edges: each pixel is mixed by the share of 16 points in it that lie in the shape.</summary>
    private static Raster Drawn(int width, int height, params (ImmutableArray<Point> Shape, int Colour)[] shapes)
    {
        var pixels = Enumerable.Repeat(White, width * height).ToArray();
        foreach (var (shape, colour) in shapes)
        {
            var polygon = new Core.Geometry.Polygon(shape);
            var bounds = polygon.Bounds;
            for (var y = Math.Max(0, (int)bounds.Top); y <= Math.Min(height - 1, (int)bounds.Bottom); y++)
            {
                var share = new int[width];
                for (var line = 0; line < 4; line++)
                    foreach (var (from, to) in Crossings(shape, y + (line + 0.5) / 4))
                        for (var i = Math.Max(0, (int)Math.Ceiling(from * 4 - 0.5)); i <= Math.Min(4 * width - 1, to * 4 - 0.5); i++)
                            share[i / 4]++;
                for (var x = 0; x < width; x++)
                    pixels[y * width + x] = Mixed(pixels[y * width + x], colour, share[x] / 16.0);
            }
        }
        return new(width, height, pixels);
    }

    private static IEnumerable<(double From, double To)> Crossings(ImmutableArray<Point> shape, double y)
    {
        var crossings = new List<double>();
        for (var i = 0; i < shape.Length; i++)
        {
            var (a, b) = (shape[i], shape[(i + 1) % shape.Length]);
            if (a.Y > y != b.Y > y)
                crossings.Add(a.X + (y - a.Y) / (b.Y - a.Y) * (b.X - a.X));
        }
        crossings.Sort();
        for (var i = 0; i + 1 < crossings.Count; i += 2)
            yield return (crossings[i], crossings[i + 1]);
    }

    private static int Mixed(int under, int over, double share)
    {
        int Part(int shift) => (int)Math.Round(((under >> shift) & 255) * (1 - share) + ((over >> shift) & 255) * share);
        return (Part(16) << 16) | (Part(8) << 8) | Part(0);
    }

    private static NetTopologySuite.Geometries.Geometry Reference(IEnumerable<Point> corners)
    {
        var coordinates = corners.Select(corner => new Coordinate(corner.X, corner.Y)).ToList();
        coordinates.Add(coordinates[0].Copy());
        return new GeometryFactory().CreatePolygon([.. coordinates]);
    }

    /// <summary>The share of a shape's area by which an outline has too much or too little.</summary>
    private static double Wrong(ImmutableArray<Point> shape, Outline outline) =>
        Reference(shape).SymmetricDifference(Reference(outline.Corners)).Area / Reference(shape).Area;

    private static void IsRight(ImmutableArray<Point> shape, Outline? outline, double within = 0.01)
    {
        Assert.NotNull(outline);
        Assert.InRange(outline.Corners.Length, 3, Outlines.MostCorners);
        Assert.Null(new Core.Geometry.Polygon(outline.Corners).Fault);
        var area = Reference(shape).Area;
        Assert.InRange(outline.Pixels, area * (1 - within), area * (1 + within));
        Assert.InRange(new Core.Geometry.Polygon(outline.Corners).Area, area * (1 - within), area * (1 + within));
        Assert.True(Wrong(shape, outline) < 2 * within + 2 * outline.Off * Reference(shape).Length / area, $"{Wrong(shape, outline)}");
    }

    [Theory]
    [InlineData(40)]
    [InlineData(100)]
    [InlineData(300)]
    public void A_filled_circle_has_its_area_within_a_hundredth(double radius)
    {
        var circle = Circle(400.3, 380.7, radius);
        IsRight(circle, Outlines.Around(Drawn(800, 760, (circle, 0x3366AA)), 400, 380));
    }

    [Fact]
    public void Points_and_coasts_are_followed()
    {
        var star = Star(300, 300, 200, 90);
        IsRight(star, Outlines.Around(Drawn(600, 600, (star, 0xC04020)), 300, 300));
        for (var seed = 1; seed <= 8; seed++)
        {
            var country = Country(seed, 400, 400, 220);
            IsRight(country, Outlines.Around(Drawn(800, 800, (country, 0xD9E8C0)), 400, 400));
        }
    }

    [Fact]
    public void A_shape_that_is_only_a_line_is_what_the_line_encloses_and_names_in_it_are_filled()
    {
        var (outer, inner) = (Country(3, 400, 400, 226), Country(3, 400, 400, 220));
        var raster = Drawn(
            800,
            800,
            (outer, 0x202020),
            (inner, White),
            // A letter of a name.
            ([new(360, 390), new(364, 390), new(364, 414), new(360, 414)], 0x202020)
        );
        IsRight(inner, Outlines.Around(raster, 400, 300));
        // A click on the name means what it stands in.
        IsRight(inner, Outlines.Around(raster, 362, 400));
    }

    [Fact]
    public void A_slice_beside_others_ends_where_they_begin()
    {
        ImmutableArray<Point> Slice(int from, int to) =>
            [new(300, 300), .. Enumerable.Range(from, to - from + 1).Select(i => new Point(300, 80).Turned(new(300, 300), i))];
        var raster = Drawn(600, 600, (Slice(0, 100), 0x3366AA), (Slice(100, 250), 0x66AA33), (Slice(250, 360), 0xAA6633));
        IsRight(Slice(100, 250), Outlines.Around(raster, 350, 420));
        IsRight(Slice(0, 100), Outlines.Around(raster, 380, 220));
    }

    [Fact]
    public void The_grain_of_a_photograph_changes_little()
    {
        var random = new Random(5);
        var country = Country(5, 400, 400, 220);
        var clean = Drawn(800, 800, (country, 0x4F7F5F));
        int Grained(int pixel)
        {
            var grain = random.Next(-7, 8);
            int Part(int shift) => Math.Clamp(((pixel >> shift) & 255) + grain, 0, 255) << shift;
            return Part(16) | Part(8) | Part(0);
        }
        IsRight(country, Outlines.Around(clean with { Pixels = [.. clean.Pixels.Select(Grained)] }, 400, 400));
    }

    [Fact]
    public void More_and_less_of_it_follow_the_reach()
    {
        // Three rings, each a little lighter.
        var raster = Drawn(
            600,
            600,
            (Circle(300, 300, 250), 0xC0C0C0),
            (Circle(300, 300, 150), 0x909090),
            (Circle(300, 300, 60), 0x606060)
        );
        var found = ((double[])[20, 70, 110]).Select(reach => Outlines.Around(raster, 300, 300, reach)!).ToList();
        IsRight(Circle(300, 300, 60), found[0]);
        IsRight(Circle(300, 300, 150), found[1]);
        IsRight(Circle(300, 300, 250), found[2]);
    }

    [Fact]
    public void Nothing_and_nearly_everything_are_no_shapes()
    {
        var raster = Drawn(400, 400, (Circle(200, 200, 3), 0x202020));
        Assert.Null(Outlines.Around(raster, 200, 200));
        Assert.Null(Outlines.Around(raster, 10, 10));
        Assert.Null(Outlines.Around(raster, -1, 500));
    }

    [Fact]
    public void A_shape_at_the_edge_of_the_picture_ends_there()
    {
        var circle = Circle(0, 200, 120);
        var outline = Outlines.Around(Drawn(400, 400, (circle, 0x3366AA)), 20, 200)!;
        Assert.InRange(new Core.Geometry.Polygon(outline.Corners).Area, Math.PI * 120 * 120 / 2 * 0.99, Math.PI * 120 * 120 / 2 * 1.01);
        Assert.All(outline.Corners, corner => Assert.InRange(corner.X, -0.6, 400));
    }

    [Fact]
    public void A_jagged_edge_still_gets_few_corners_and_says_how_far_off_it_is()
    {
        var comb = new List<Point> { new(50, 350) };
        for (var i = 0; i < 60; i++)
            comb.AddRange([new(50 + i * 10, 60), new(55 + i * 10, 160)]);
        comb.Add(new(655, 350));
        var outline = Outlines.Around(Drawn(720, 400, ([.. comb], 0x3366AA)), 300, 300)!;
        Assert.InRange(outline.Corners.Length, 3, Outlines.MostCorners);
        Assert.True(outline.Off > 5, $"{outline.Off}");
    }
}
