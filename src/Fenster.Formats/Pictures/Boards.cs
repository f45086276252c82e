using System.Collections.Immutable;
using System.Globalization;
using System.Net;
using System.Text;
using Fenster.Core.Geometry;
using Fenster.Core.Model;

namespace Fenster.Formats.Pictures;

/// <summary>What a teacher asks of a plain board.</summary>
/// <param name="Kind">One of <see cref="Boards.Kinds"/>.</param>
/// <param name="From">Where a line or an axis begins; a year on a timeline.</param>
/// <param name="To">Where it ends; above <paramref name="From"/>.</param>
/// <param name="Step">From one mark to the next, above 0.</param>
/// <param name="Names">Of circles or columns; of a game its list, line by line (<see cref="GameBoard.Read"/>); empty for none.</param>
/// <param name="Colour">Of the board, as <c>#rrggbb</c>.</param>
/// <param name="Values">What the cells of a game are worth, from the top.</param>
public sealed record BoardWish(
    string Kind,
    decimal From = 0,
    decimal To = 10,
    decimal Step = 1,
    IReadOnlyList<string?>? Names = null,
    string Colour = "#ffffff",
    IReadOnlyList<decimal>? Values = null
);

/// <summary>Boards that are no pictures of anything: made as SVG drawings to the teacher's numbers.</summary>
public static class Boards
{
    public static readonly string[] Kinds = ["plain", "squared", "numberLine", "axes", "timeline", "circles", "table", "game"];

    /// <summary>Characters.</summary>
    internal const int LongestName = 60;

    private const int Width = 1600;
    private const int MostMarks = 200;
    private const int MostNames = 8;
    private const string Ink = "#20242c";

    private static List<string> NamesOf(BoardWish wish) =>
        [.. (wish.Names ?? []).OfType<string>().Select(name => name.Trim()).Where(name => name.Length > 0)];

    /// <exception cref="PictureRefused">The numbers or names make no such board; the message says why.</exception>
    public static byte[] Draw(BoardWish wish)
    {
        if (wish.Colour is not ['#', ..] || wish.Colour.Length != 7 || wish.Colour.AsSpan(1).IndexOfAnyExcept("0123456789abcdef") >= 0)
            throw new PictureRefused(new("picture.boardColour"));
        if (wish.Kind == "game")
            return Svg(wish, 1000, GameOf(wish).Draw(Ink));
        var names = NamesOf(wish);
        if (names.Any(name => name.Length > LongestName))
            throw new PictureRefused(new("picture.boardName"));
        return wish.Kind switch
        {
            "plain" => Svg(wish, 1000, ""),
            "squared" => Svg(wish, 1000, Squares(wish)),
            "numberLine" => Svg(wish, 400, Line(wish, 100, 1500, 200, Number)),
            "axes" => Svg(wish, 1200, Axes(wish)),
            "timeline" => Svg(wish, 500, Line(wish, 100, 1500, 250, year => year.ToString("0", CultureInfo.InvariantCulture))),
            "circles" => Svg(wish, 1000, Circles(names)),
            "table" => Svg(wish, 1000, Table(names)),
            _ => throw new PictureRefused(new("picture.noSuchBoard")),
        };
    }

    /// <summary>
    /// What comes ready-made with a board, in pu: the scale of a line or of axes, already calibrated, and the regions of
    /// circles or columns, to sort into, or a game's spots.
    /// </summary>
    /// <param name="wish">One that was drawn.</param>
    public static (Scale? Scale, ImmutableArray<Target> Regions) Ready(BoardWish wish)
    {
        Axis Across(double left, double right, double y) => new(At(left, y), At(right, y), (double)wish.From, (double)wish.To);
        var names = NamesOf(wish);
        SortRegion Sort(int i, Region region) =>
            new()
            {
                Id = $"region-{i + 1}",
                Prompt = i < names.Count ? names[i] : "",
                Region = region,
                Want = new WantSet([]),
            };
        return wish.Kind switch
        {
            "numberLine" => (new(Across(100, 1500, 200)), []),
            "timeline" => (new(Across(100, 1500, 250)), []),
            "axes" => (
                new(
                    Across(AxesLeft, AxesLeft + AxesSpan, AxesBottom),
                    new(At(AxesLeft, AxesBottom), At(AxesLeft, AxesBottom - AxesSpan), (double)wish.From, (double)wish.To)
                ),
                []
            ),
            "circles" => (
                null,
                [
                    .. CirclePlaces(names.Count)
                        .Select((place, i) => Sort(i, new Circle(At(place.X, place.Y), CircleRadius(names.Count) * UnitsPerPixel))),
                ]
            ),
            "table" => (
                null,
                [
                    .. names.Select(
                        (_, i) =>
                            Sort(
                                i,
                                new Rectangle(
                                    (40 + i * 1520.0 / names.Count) * UnitsPerPixel,
                                    150 * UnitsPerPixel,
                                    1520.0 / names.Count * UnitsPerPixel,
                                    810 * UnitsPerPixel
                                )
                            )
                    ),
                ]
            ),
            "game" => (null, GameOf(wish).Spots(UnitsPerPixel)),
            _ => (null, []),
        };
    }

    private static GameBoard GameOf(BoardWish wish) => GameBoard.Read(NamesOf(wish), wish.Values ?? []);

    private const double UnitsPerPixel = 1000.0 / Width;

    private static Point At(double x, double y) => new(x * UnitsPerPixel, y * UnitsPerPixel);

    private static byte[] Svg(BoardWish wish, int height, string inside) =>
        Encoding.UTF8.GetBytes(
            $"<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {Width} {height}\" width=\"{Width}\" "
                + $"height=\"{height}\"><rect width=\"{Width}\" height=\"{height}\" fill=\"{wish.Colour}\"/>{inside}</svg>"
        );

    private static string Number(decimal number) => number.ToString("0.####", CultureInfo.InvariantCulture);

    /// <summary>The values of the marks, each exact: no step is added up twice.</summary>
    private static List<decimal> Marks(BoardWish wish)
    {
        if (((decimal[])[wish.From, wish.To, wish.Step]).Any(number => Math.Abs(number) > Limits.LargestNumber))
            throw new PictureRefused(new("picture.boardNumbers", ("most", Limits.LargestNumber)));
        if (wish.Step <= 0)
            throw new PictureRefused(new("picture.boardStep"));
        if (wish.To <= wish.From)
            throw new PictureRefused(new("picture.boardEnd"));
        // Multiplied, since a quotient by a very small step has no end.
        if (wish.To - wish.From > wish.Step * MostMarks)
            throw new PictureRefused(new("picture.boardMarks", ("most", MostMarks)));
        return [.. Enumerable.Range(0, (int)((wish.To - wish.From) / wish.Step) + 1).Select(i => wish.From + i * wish.Step)];
    }

    private static string Squares(BoardWish wish)
    {
        var squares = (int)Math.Clamp(wish.Step, 4, 100);
        var side = (double)Width / squares;
        var lines = new StringBuilder();
        for (var x = side; x < Width - 1; x += side)
            lines.Append(string.Create(CultureInfo.InvariantCulture, $"<path d=\"M{x} 0V1000\"/>"));
        for (var y = side; y < 999; y += side)
            lines.Append(string.Create(CultureInfo.InvariantCulture, $"<path d=\"M0 {y}H{Width}\"/>"));
        return $"<g stroke=\"#9fb8cc\" stroke-width=\"2\">{lines}</g>";
    }

    private static string Line(BoardWish wish, double left, double right, double y, Func<decimal, string> name)
    {
        var marks = Marks(wish);
        var everyOne = Math.Max(1, (int)Math.Ceiling(marks.Count / 26.0));
        var parts = new StringBuilder(
            string.Create(
                CultureInfo.InvariantCulture,
                $"<path d=\"M{left - 50} {y}H{right + 60}M{right + 36} {y - 12}L{right + 60} {y}L{right + 36} {y + 12}\" fill=\"none\"/>"
            )
        );
        var words = new StringBuilder();
        for (var i = 0; i < marks.Count; i++)
        {
            var x = left + (double)((marks[i] - wish.From) / (wish.To - wish.From)) * (right - left);
            var isNamed = i % everyOne == 0;
            parts.Append(
                string.Create(CultureInfo.InvariantCulture, $"<path d=\"M{x} {y - (isNamed ? 22 : 12)}V{y + (isNamed ? 22 : 12)}\"/>")
            );
            if (isNamed)
                words.Append(string.Create(CultureInfo.InvariantCulture, $"<text x=\"{x}\" y=\"{y + 62}\">{name(marks[i])}</text>"));
        }
        return Strokes(parts) + Words(words, 32);
    }

    private const double AxesLeft = 300,
        AxesBottom = 1100,
        AxesSpan = 1000;

    private static string Axes(BoardWish wish)
    {
        var marks = Marks(wish);
        // The same numbers on both axes, in squares; the axes cross at zero where it is on the board.
        const double Left = AxesLeft,
            Bottom = AxesBottom,
            Span = AxesSpan;
        double Place(decimal value) => (double)((value - wish.From) / (wish.To - wish.From)) * Span;
        var origin = wish.From <= 0 && wish.To >= 0 ? Place(0) : 0;
        var everyOne = Math.Max(1, (int)Math.Ceiling(marks.Count / 21.0));
        var (grid, axes, words) = (new StringBuilder(), new StringBuilder(), new StringBuilder());
        foreach (var mark in marks)
            grid.Append(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"<path d=\"M{Left + Place(mark)} {Bottom}V{Bottom - Span}M{Left} {Bottom - Place(mark)}H{Left + Span}\"/>"
                )
            );
        axes.Append(
            string.Create(
                CultureInfo.InvariantCulture,
                $"<path d=\"M{Left - 20} {Bottom - origin}H{Left + Span + 50}M{Left + Span + 28} "
                    + $"{Bottom - origin - 11}L{Left + Span + 50} {Bottom - origin}L{Left + Span + 28} {Bottom - origin + 11}\"/>"
            )
        );
        axes.Append(
            string.Create(
                CultureInfo.InvariantCulture,
                $"<path d=\"M{Left + origin} {Bottom + 20}V{Bottom - Span - 50}M{Left + origin - 11} "
                    + $"{Bottom - Span - 28}L{Left + origin} {Bottom - Span - 50}L{Left + origin + 11} {Bottom - Span - 28}\"/>"
            )
        );
        for (var i = 0; i < marks.Count; i += everyOne)
        {
            words.Append(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"<text x=\"{Left + Place(marks[i])}\" y=\"{Bottom - origin + 38}\">{Number(marks[i])}</text>"
                )
            );
            if (Math.Abs(Place(marks[i]) - origin) > 1)
                words.Append(
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"<text x=\"{Left + origin - 45}\" y=\"{Bottom - Place(marks[i])}\">{Number(marks[i])}</text>"
                    )
                );
        }
        return $"<g stroke=\"#b9c4cd\" stroke-width=\"2\">{grid}</g>" + Strokes(axes) + Words(words, 28);
    }

    private static (double X, double Y, double NameX, double NameY)[] CirclePlaces(int names) =>
        names == 3 ? [(620, 380, 330, 90), (980, 380, 1270, 90), (800, 660, 1180, 860)] : [(620, 500, 420, 70), (980, 500, 1180, 70)];

    private static int CircleRadius(int names) => names == 3 ? 300 : 380;

    private static string Circles(List<string> names)
    {
        if (names.Count is not (0 or 2 or 3))
            throw new PictureRefused(new("picture.boardCircles"));
        var (places, radius) = (CirclePlaces(names.Count), CircleRadius(names.Count));
        string[] fills = ["#a8d0e6", "#f0cf74", "#e5a79a"];
        var (parts, words) = (new StringBuilder(), new StringBuilder());
        for (var i = 0; i < places.Length; i++)
        {
            parts.Append(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"<circle cx=\"{places[i].X}\" cy=\"{places[i].Y}\" r=\"{radius}\" fill=\"{fills[i]}\" fill-opacity=\"0.5\"/>"
                )
            );
            if (names.Count > 0)
                words.Append(
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"<text x=\"{places[i].NameX}\" y=\"{places[i].NameY}\">{WebUtility.HtmlEncode(names[i])}</text>"
                    )
                );
        }
        return Strokes(parts, filled: true) + Words(words, 44);
    }

    private static string Table(List<string> names)
    {
        if (names.Count is < 1 or > MostNames)
            throw new PictureRefused(new("picture.boardTable", ("most", MostNames)));
        var width = 1520.0 / names.Count;
        var (parts, words) = (new StringBuilder(), new StringBuilder());
        parts.Append("<path d=\"M40 40H1560V960H40ZM40 150H1560\"/>");
        for (var i = 0; i < names.Count; i++)
        {
            if (i > 0)
                parts.Append(string.Create(CultureInfo.InvariantCulture, $"<path d=\"M{40 + i * width} 40V960\"/>"));
            words.Append(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"<text x=\"{40 + (i + 0.5) * width}\" y=\"95\">{WebUtility.HtmlEncode(names[i])}</text>"
                )
            );
        }
        return Strokes(parts) + Words(words, Math.Min(44, 1.7 * width / Math.Max(6, names.Max(name => name.Length))));
    }

    private static string Strokes(StringBuilder parts, bool filled = false) =>
        $"<g stroke=\"{Ink}\" stroke-width=\"4\"{(filled ? "" : " fill=\"none\"")}>{parts}</g>";

    private static string Words(StringBuilder words, double size) =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"<g font-family=\"sans-serif\" font-size=\"{size}\" text-anchor=\"middle\" "
                + $"dominant-baseline=\"central\" fill=\"{Ink}\">{words}</g>"
        );
}
