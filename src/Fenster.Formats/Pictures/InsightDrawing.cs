using System.Collections.Immutable;
using System.Globalization;
using System.Net;
using System.Text;
using Fenster.Core.Geometry;
using Fenster.Core.Insight;
using Fenster.Core.Model;
using Fenster.Words;
using Lock = Fenster.Core.Model.Lock;

namespace Fenster.Formats.Pictures;

/// <summary>
/// What a class did, drawn over its picture as SVG: a group for each layer (<c>facility</c>, <c>flows</c>, <c>density</c>, <c>near</c>),
/// in which what belongs to a target bears its number as <c>data-target</c>. All looks are attributes, so that the drawing is the same in
/// a page, on paper and as a file.
/// </summary>
public static class InsightDrawing
{
    /// <summary>The layers, in the order in which they lie over each other.</summary>
    public static ImmutableArray<string> Layers { get; } = ["density", "near", "flows", "facility"];

    /// <summary>More ribbons cover each other.</summary>
    private const int MostFlows = 14;

    private const string Ink = "#20242c";
    private const string Paper = "#fffefb";

    /// <summary>A pane of an insight with its layers.</summary>
    /// <param name="picture">An address of its picture, also a data address; null for a frame alone.</param>
    /// <param name="language">Of what is read out and of the tips.</param>
    public static string Of(Pane pane, PaneInsight insight, string? picture, Language language)
    {
        var (width, height) = (1000.0, pane.Picture is { } shown ? 1000.0 * shown.Height / shown.Width : 750);
        var drawing = new StringBuilder();
        drawing.Append(
            CultureInfo.InvariantCulture,
            $"<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {width} {N(height)}\" class=\"insight\" role=\"img\" font-family=\"sans-serif\">"
        );
        drawing.Append(CultureInfo.InvariantCulture, $"<title>{T(language.Say("insight.drawing"))}</title>");
        drawing.Append(
            picture is null
                ? FormattableString.Invariant($"<rect width=\"{width}\" height=\"{N(height)}\" fill=\"#e9e6dd\"/>")
                : FormattableString.Invariant(
                    $"<image href=\"{T(picture)}\" width=\"{width}\" height=\"{N(height)}\" preserveAspectRatio=\"none\"/>"
                )
        );
        foreach (var layer in Layers)
        {
            drawing.Append(CultureInfo.InvariantCulture, $"<g data-layer=\"{layer}\">");
            switch (layer)
            {
                case "density":
                    Density(drawing, insight);
                    break;
                case "near":
                    Near(drawing, pane, insight, language);
                    break;
                case "flows":
                    Flows(drawing, pane, insight, language);
                    break;
                case "facility":
                    Facility(drawing, pane, insight, language, width);
                    break;
            }
            drawing.Append("</g>");
        }
        return drawing.Append("</svg>").ToString();
    }

    private static void Density(StringBuilder drawing, PaneInsight insight)
    {
        if (insight.Hexagons.IsEmpty)
            return;
        var most = insight.Hexagons[0].Count;
        foreach (var (centre, count) in insight.Hexagons)
        {
            var corners = string.Join(
                ' ',
                Enumerable
                    .Range(0, 6)
                    .Select(i => Math.PI / 3 * i + Math.PI / 6)
                    .Select(angle =>
                        $"{N(centre.X + Core.Insight.Density.UsualRadius * Math.Cos(angle))},{N(centre.Y + Core.Insight.Density.UsualRadius * Math.Sin(angle))}"
                    )
            );
            drawing.Append(
                CultureInfo.InvariantCulture,
                $"<polygon points=\"{corners}\" fill=\"#7b3294\" fill-opacity=\"{N(0.25 + 0.6 * count / most)}\" stroke=\"{Paper}\" stroke-width=\"1\"/>"
            );
            if (count > 1)
                drawing.Append(Word(centre, $"{count}", 15, "#ffffff", "#4d1f5c"));
        }
    }

    /// <summary>Rings of 1 to 5 % of the width around what is found by pointing, with how many wrong points lie in 2 %.</summary>
    private static void Near(StringBuilder drawing, Pane pane, PaneInsight insight, Language language)
    {
        foreach (var (target, figures, number) in Targets(pane, insight).Where(each => each.Figures.NearMisses is { IsEmpty: false }))
        {
            drawing.Append(Group(number, language.Say("insight.near", ("count", figures.NearMisses[1]), ("wrong", figures.Wrong))));
            foreach (var region in RegionsOf(target))
            {
                // A line of twice the distance is a ring of the distance around.
                for (var percent = 5; percent >= 1; percent--)
                    drawing.Append(
                        Shape(
                            region,
                            $"fill=\"none\" stroke=\"#e66101\" stroke-opacity=\"0.18\" stroke-linejoin=\"round\" stroke-width=\"{percent * 20}\""
                        )
                    );
                drawing.Append(Shape(region, $"fill=\"{Paper}\" fill-opacity=\"0.25\" stroke=\"{Ink}\" stroke-width=\"2\""));
            }
            var box = RegionsOf(target).First().Bounds;
            drawing.Append(Word(new((box.Left + box.Right) / 2, box.Top - 12), $"{figures.NearMisses[1]}/{figures.Wrong}", 20, Ink, Paper));
            drawing.Append("</g>");
        }
    }

    private static void Flows(StringBuilder drawing, Pane pane, PaneInsight insight, Language language)
    {
        if (insight.Flows.IsEmpty)
            return;
        var places = pane
            .Targets.Select((target, i) => (target, i))
            .ToDictionary(each => each.target.Id, each => (At: CentreOf(each.target), each.i));
        var texts = pane.Labels.ToDictionary(label => label.Id, label => label.Text);
        var most = insight.Flows[0].Count;
        // The thin ones lie above the thick ones; what few did would only cover what many did.
        foreach (var flow in insight.Flows.Where(flow => flow.Count * 3 >= most).Take(MostFlows))
        {
            var ((from, number), (to, other)) = (places[flow.From], places[flow.To]);
            if (from is not { } start || to is not { } end)
                continue;
            var (dx, dy) = (end.X - start.X, end.Y - start.Y);
            // Bent to its left, so that there and back do not cover each other.
            var bend = new Point((start.X + end.X) / 2 + dy * 0.18, (start.Y + end.Y) / 2 - dx * 0.18);
            // Its number stands nearer to where it comes from, so that those of there and back do not meet.
            var (near, far) = (0.68, 0.32);
            var middle = new Point(
                near * near * start.X + 2 * near * far * bend.X + far * far * end.X,
                near * near * start.Y + 2 * near * far * bend.Y + far * far * end.Y
            );
            drawing.Append(
                Group(number, language.Say("insight.flow", ("count", flow.Count), ("label", texts[flow.Label])), $" data-other=\"{other}\"")
            );
            drawing.Append(
                CultureInfo.InvariantCulture,
                $"<path d=\"M{N(start.X)} {N(start.Y)}Q{N(bend.X)} {N(bend.Y)} {N(end.X)} {N(end.Y)}\" fill=\"none\" stroke=\"#b84300\" stroke-opacity=\"0.62\" stroke-linecap=\"round\" stroke-width=\"{N(4 + 20.0 * flow.Count / most)}\"/>"
            );
            drawing.Append(
                CultureInfo.InvariantCulture,
                $"<circle cx=\"{N(end.X)}\" cy=\"{N(end.Y)}\" r=\"9\" fill=\"#b84300\" stroke=\"{Paper}\" stroke-width=\"2\"/>"
            );
            drawing.Append(Word(middle, $"{flow.Count}", 22, "#ffffff", "#7a2c00"));
            drawing.Append("</g>");
        }
    }

    private static void Facility(StringBuilder drawing, Pane pane, PaneInsight insight, Language language, double width)
    {
        foreach (var (target, figures, number) in Targets(pane, insight))
        {
            if (double.IsNaN(figures.Facility) || CentreOf(target) is not { } centre)
                continue;
            var fill = Colour(figures.Facility);
            var percent = figures.Facility.ToString("P0", language.Culture);
            drawing.Append(Group(number, language.Say("insight.facilityAt", ("percent", percent))));
            foreach (var region in RegionsOf(target).DefaultIfEmpty(new Circle(centre, 24)))
                drawing.Append(Shape(region, $"fill=\"{fill}\" fill-opacity=\"0.72\" stroke=\"{Ink}\" stroke-width=\"2\""));
            drawing.Append(Word(centre, percent, 20, Ink, Paper));
            if (target is QuestionPoint { Question: ChoiceQuestion } && figures.Answers is Tally tally)
                Choices(drawing, centre, tally, width);
            drawing.Append("</g>");
        }
    }

    /// <summary>A bar for each option beside the spot of its question, in the order of the options.</summary>
    private static void Choices(StringBuilder drawing, Point spot, Tally tally, double width)
    {
        var most = Math.Max(1, tally.Answers.Max(answer => answer.Count));
        // On the side where there is room.
        var left = spot.X > width - 150 ? spot.X - 140 : spot.X + 32;
        drawing.Append(
            CultureInfo.InvariantCulture,
            $"<rect x=\"{N(left - 4)}\" y=\"{N(spot.Y - 22)}\" width=\"112\" height=\"{N(tally.Answers.Length * 16 + 6)}\" fill=\"{Paper}\" fill-opacity=\"0.88\"/>"
        );
        for (var i = 0; i < tally.Answers.Length; i++)
        {
            var (answer, y) = (tally.Answers[i], spot.Y - 18 + i * 16);
            drawing.Append(
                CultureInfo.InvariantCulture,
                $"<rect x=\"{N(left)}\" y=\"{N(y)}\" width=\"{N(Math.Max(1, 78.0 * answer.Count / most))}\" height=\"12\" fill=\"{(answer.Credit >= 1 ? "#0072b2" : "#b84300")}\"/>"
            );
            drawing.Append(Word(new(left + 94, y + 6), $"{answer.Count}", 13, Ink, Paper));
        }
    }

    /// <summary>
    /// Between three colours of cividis, the map of Nuñez, Anderton and Renslow (2018) for all kinds of colour vision, as remembered:
    /// dark is hard and light is easy.
    /// </summary>
    public static string Colour(double facility)
    {
        (double R, double G, double B)[] stops = [(0, 32, 77), (124, 123, 120), (255, 234, 70)];
        var place = Math.Clamp(facility, 0, 1) * 2;
        var (i, share) = place >= 2 ? (1, 1.0) : ((int)place, place - (int)place);
        var (one, other) = (stops[i], stops[i + 1]);
        byte Mix(double from, double to) => (byte)Math.Round(from + share * (to - from));
        return $"#{Mix(one.R, other.R):x2}{Mix(one.G, other.G):x2}{Mix(one.B, other.B):x2}";
    }

    /// <summary>The values that a class read on a scale, with what is right and what still counts.</summary>
    public static string Strip(ScalePoint point, Strip strip, Language language)
    {
        var axis = point.Scale.X;
        var (left, right) = (Math.Min(axis.FromValue, axis.ToValue), Math.Max(axis.FromValue, axis.ToValue));
        double X(double value) =>
            20 + 560 * Math.Clamp((axis.Kind == AxisKind.Logarithmic ? Log(value) - Log(left) : value - left) / Span(), -0.03, 1.03);
        double Log(double value) => value > 0 ? Math.Log(value) : Math.Log(left) - 1;
        double Span() => axis.Kind == AxisKind.Logarithmic ? Log(right) - Log(left) : right - left;
        var drawing = new StringBuilder(
            $"<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 600 76\" class=\"strip\" role=\"img\" font-family=\"sans-serif\"><title>{T(language.Say("insight.strip", ("count", strip.Values.Length)))}</title>"
        );
        foreach (
            var (slack, colour) in point
                .Within.Bands.Select(band => (band.Slack, "#f3e7c4"))
                .OrderByDescending(band => band.Slack)
                .Append((point.Within.Slack, "#bcd9d6"))
        )
        {
            var (from, to) = (X(point.X - slack), X(point.X + slack));
            drawing.Append(
                CultureInfo.InvariantCulture,
                $"<rect x=\"{N(from)}\" y=\"8\" width=\"{N(Math.Max(2, to - from))}\" height=\"44\" fill=\"{colour}\"/>"
            );
        }
        drawing.Append(CultureInfo.InvariantCulture, $"<path d=\"M20 52h560\" stroke=\"{Ink}\" stroke-width=\"2\"/>");
        drawing.Append(End(4, Read(left), "start") + End(596, Read(right), "end"));
        // What would cover each other is stacked.
        var heights = new Dictionary<int, int>();
        foreach (var value in strip.Values)
        {
            var x = X(value.X);
            var column = (int)Math.Round(x / 8);
            var row = heights[column] = heights.GetValueOrDefault(column) + 1;
            drawing.Append(
                CultureInfo.InvariantCulture,
                $"<circle cx=\"{N(column * 8)}\" cy=\"{N(Math.Max(6, 52 - row * 7))}\" r=\"3.4\" fill=\"{(value.Credit >= 1 ? "#0072b2" : value.Credit > 0 ? "#e8a317" : "#b84300")}\"><title>{T(Read(value.X))}</title></circle>"
            );
        }
        drawing.Append(Word(new(X(point.X), 68), Read(point.X), 15, "#0f5b57", Paper));
        return drawing.Append("</svg>").ToString();

        static string End(double x, string text, string anchor) =>
            $"<text x=\"{N(x)}\" y=\"73\" font-size=\"14\" text-anchor=\"{anchor}\" fill=\"{Ink}\">{T(text)}</text>";

        string Read(double value) =>
            axis.Kind == AxisKind.Date && value is > -700_000 and < 2_900_000
                ? DateTime.UnixEpoch.AddDays(value).ToString("d", language.Culture)
                : value.ToString("0.###", language.Culture);
    }

    /// <summary>What was matched, as ribbons between two columns, thick as they are many; what is wrong is dashed.</summary>
    public static string Matched(Matching matching, Linked linked, Language language)
    {
        const int row = 34;
        var rows = Math.Max(matching.Left.Length, matching.Right.Length);
        var height = rows * row + 8;
        double Y(ImmutableArray<MatchItem> side, string id) => 4 + row * (side.IndexOf(side.First(item => item.Id == id)) + 0.5);
        var most = linked.Links.IsEmpty ? 1 : linked.Links.Max(link => link.Count);
        var drawing = new StringBuilder(
            $"<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 600 {height}\" class=\"matched\" role=\"img\" font-family=\"sans-serif\"><title>{T(language.Say("insight.matched"))}</title>"
        );
        foreach (var link in linked.Links)
        {
            var (from, to) = (Y(matching.Left, link.Link.Left), Y(matching.Right, link.Link.Right));
            var words =
                $"{matching.Left.First(item => item.Id == link.Link.Left).Text} – {matching.Right.First(item => item.Id == link.Link.Right).Text}: {link.Count}";
            drawing.Append(
                CultureInfo.InvariantCulture,
                $"<g><title>{T(words)}</title><path d=\"M205 {N(from)}C300 {N(from)} 300 {N(to)} 395 {N(to)}\" fill=\"none\" stroke=\"{(link.IsRight ? "#0072b2" : "#b84300")}\" stroke-opacity=\"0.65\" stroke-width=\"{N(2 + 14.0 * link.Count / most)}\"{(link.IsRight ? "" : " stroke-dasharray=\"10 5\"")}/></g>"
            );
        }
        // Numbers stand where ribbons begin, one beside the other, so that none covers another.
        foreach (var side in linked.Links.GroupBy(link => link.Link.Left))
        foreach (var (link, i) in side.Select((link, i) => (link, i)))
        {
            var (from, to) = (Y(matching.Left, link.Link.Left), Y(matching.Right, link.Link.Right));
            var share = 0.16 + 0.14 * (i % 5);
            var (a, b) = (1 - share, share);
            var y = a * a * a * from + 3 * a * a * b * from + 3 * a * b * b * to + b * b * b * to;
            var x = a * a * a * 205 + 3 * a * a * b * 300 + 3 * a * b * b * 300 + b * b * b * 395;
            drawing.Append(Word(new(x, y), $"{link.Count}", 13, Ink, Paper));
        }
        foreach (var item in matching.Left)
            drawing.Append(Line(198, Y(matching.Left, item.Id), item.Text, "end"));
        foreach (var item in matching.Right)
            drawing.Append(Line(402, Y(matching.Right, item.Id), item.Text, "start"));
        return drawing.Append("</svg>").ToString();
    }

    private static string Line(double x, double y, string text, string anchor) =>
        $"<text x=\"{N(x)}\" y=\"{N(y + 5)}\" font-size=\"15\" text-anchor=\"{anchor}\" fill=\"{Ink}\"><title>{T(text)}</title>{T(text.Length > 26 ? text[..25] + "…" : text)}</text>";

    private static IEnumerable<(Target Target, TargetInsight Figures, int Number)> Targets(Pane pane, PaneInsight insight) =>
        pane.Targets.Zip(insight.Targets).Select((each, i) => (each.First, each.Second, i));

    private static string Group(int number, string title, string more = "") =>
        $"<g data-target=\"{number}\"{more}><title>{T(title)}</title>";

    private static string Word(Point at, string text, double size, string ink, string halo) =>
        $"<text x=\"{N(at.X)}\" y=\"{N(at.Y + size * 0.35)}\" font-size=\"{N(size)}\" font-weight=\"700\" text-anchor=\"middle\" fill=\"{ink}\" stroke=\"{halo}\" stroke-width=\"{N(size / 4)}\" stroke-linejoin=\"round\" paint-order=\"stroke\">{T(text)}</text>";

    private static string Shape(Region region, string looks) =>
        region switch
        {
            Circle circle => $"<circle cx=\"{N(circle.Centre.X)}\" cy=\"{N(circle.Centre.Y)}\" r=\"{N(circle.Radius)}\" {looks}/>",
            Ellipse ellipse =>
                $"<ellipse cx=\"{N(ellipse.Centre.X)}\" cy=\"{N(ellipse.Centre.Y)}\" rx=\"{N(ellipse.RadiusX)}\" ry=\"{N(ellipse.RadiusY)}\" {looks}/>",
            Rectangle box =>
                $"<rect x=\"{N(box.X)}\" y=\"{N(box.Y)}\" width=\"{N(box.Width)}\" height=\"{N(box.Height)}\" transform=\"rotate({N(box.Rotation)} {N(box.Centre.X)} {N(box.Centre.Y)})\" {looks}/>",
            Polygon polygon =>
                $"<polygon points=\"{string.Join(' ', polygon.Vertices.Select(corner => $"{N(corner.X)},{N(corner.Y)}"))}\" {looks}/>",
            _ => throw new ArgumentOutOfRangeException(nameof(region), region, "This kind of region is not known."),
        };

    /// <summary>The regions of a target, or none where it is a spot or is not on the picture.</summary>
    public static IEnumerable<Region> RegionsOf(Target target) =>
        target switch
        {
            Zone zone => [zone.Region],
            Hotspots hotspots => hotspots.Spots.Select(spot => spot.Region),
            AnswerBox box => [box.Region],
            OpenNote note => [note.Region],
            SortRegion sort => [sort.Region],
            _ => [],
        };

    /// <summary>Where a target is on the picture; null where it is not on it.</summary>
    public static Point? CentreOf(Target target) =>
        target switch
        {
            QuestionPoint point => point.At,
            Lock @lock => @lock.At,
            InfoSpot spot => spot.At,
            ScalePoint point => point.Scale.PointAt(point.X, point.Y),
            _ => RegionsOf(target).FirstOrDefault()?.Bounds is { } box ? new((box.Left + box.Right) / 2, (box.Top + box.Bottom) / 2) : null,
        };

    private static string N(double number) => Math.Round(number, 2).ToString(CultureInfo.InvariantCulture);

    private static string T(string text) => WebUtility.HtmlEncode(text);
}
