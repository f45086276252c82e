using System.Collections.Immutable;
using Fenster.Core.Checking;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Fenster.Core.Scoring;
using static Fenster.Core.Tests.Build;

namespace Fenster.Core.Tests;

/// <summary>
/// Held against the response processing of the 1EdTech QTI 3 standard, whose functions stand here as the standard
/// defines them: match correct, map response, and map response point. Its sample items are from memory.
/// </summary>
public sealed class ResponseProcessingTests
{
    /// <summary>
    /// The sum of the mapped values of a response, each value once, within the bounds; the default value for what is not mapped.
    /// </summary>
    private static decimal MapResponse(
        IEnumerable<string> values,
        IReadOnlyDictionary<string, decimal> entries,
        decimal defaultValue = 0,
        decimal? lower = null,
        decimal? upper = null
    )
    {
        var sum = values.Distinct().Sum(value => entries.GetValueOrDefault(value, defaultValue));
        return Math.Min(upper ?? decimal.MaxValue, Math.Max(lower ?? decimal.MinValue, sum));
    }

    /// <summary>Each area once if a point is in it; the default value for each point that is in none.</summary>
    private static decimal MapResponsePoint(
        IReadOnlyList<Point> points,
        IReadOnlyList<(Region Area, decimal Value)> areas,
        decimal defaultValue,
        decimal lower,
        decimal upper
    ) =>
        Math.Clamp(
            areas.Where(area => points.Any(point => area.Area.Contains(point))).Sum(area => area.Value)
                + points.Count(point => !areas.Any(area => area.Area.Contains(point))) * defaultValue,
            lower,
            upper
        );

    // A third of a point is no decimal number; what is left over is far behind the point.
    private static decimal Score(Pane pane, Response response, decimal wrongCost = 0) =>
        Math.Round(Scorer.Score(pane, response, Checker.Check(pane, response), new() { WrongCost = wrongCost }).Score, 20);

    private static IEnumerable<string[]> Subsets(string[] items) =>
        Enumerable.Range(0, 1 << items.Length).Select(ways => items.Where((_, i) => (ways >> i & 1) == 1).ToArray());

    private static Pane Asking(Target target) => Pane([]) with { Targets = [target] };

    /// <summary>
    /// The sample about unattended luggage: one of three notices is right; match correct gives 1 for it and 0 for the others.
    /// </summary>
    [Fact]
    public void A_single_choice_is_matched_with_the_correct_response()
    {
        var pane = Asking(
            new QuestionPoint
            {
                Id = "q",
                At = new(1, 1),
                Question = new ChoiceQuestion
                {
                    Text = "?",
                    Options = [new("ChoiceA", "A", true), new("ChoiceB", "B"), new("ChoiceC", "C")],
                },
            }
        );
        foreach (var picked in (string[])["ChoiceA", "ChoiceB", "ChoiceC"])
            Assert.Equal(picked == "ChoiceA" ? 1 : 0, Score(pane, new() { Picks = Response("").Picks.Add("q", [picked]) }));
    }

    /// <summary>The sample about the composition of water: H and O count 1, Cl −1, from 0 to 2. Every way to pick among them.</summary>
    [Fact]
    public void A_multiple_choice_is_a_mapping_with_bounds()
    {
        var entries = new Dictionary<string, decimal>
        {
            ["H"] = 1,
            ["O"] = 1,
            ["Cl"] = -1,
        };
        var pane = Asking(
            new QuestionPoint
            {
                Id = "q",
                At = new(1, 1),
                Points = 2,
                Question = new ChoiceQuestion
                {
                    Text = "?",
                    Multiple = true,
                    Options =
                    [
                        new("H", "Hydrogen", true),
                        new("He", "Helium"),
                        new("C", "Carbon"),
                        new("O", "Oxygen", true),
                        new("N", "Nitrogen"),
                        new("Cl", "Chlorine"),
                    ],
                },
            }
        );
        foreach (var picks in Subsets(["H", "He", "C", "O", "N", "Cl"]))
            // Its default value of −2 for the others is harsher than one wrong pick for one right one: −1.
            Assert.Equal(
                MapResponse(picks, entries, defaultValue: -1, lower: 0, upper: 2),
                Score(pane, new() { Picks = Response("").Picks.Add("q", [.. picks]) })
            );
    }

    /// <summary>The sample with a gap in a speech of Richard III: "York" counts 1, "york" a half, everything else nothing.</summary>
    [Theory]
    [InlineData("York")]
    [InlineData("york")]
    [InlineData("Lancaster")]
    [InlineData("")]
    public void A_typed_word_is_a_mapping_of_strings(string typed)
    {
        var pane = Asking(
            new AnswerBox
            {
                Id = "b",
                Region = new Circle(new(9, 9), 9),
                Answer = new TypedText([new("York"), new("york", 0.5m)]) { Rules = new(IgnoreCapitals: false) },
            }
        );
        var expected = MapResponse([typed], new Dictionary<string, decimal> { ["York"] = 1, ["york"] = 0.5m });
        Assert.Equal(expected, Score(pane, new() { Texts = Response("").Texts.Add("b", typed) }));
    }

    /// <summary>
    /// The sample with words for two gaps: winter in the first counts 1, summer in the second 2, everything else −1, not below 0.
    /// </summary>
    [Fact]
    public void Labels_in_gaps_are_a_mapping_of_directed_pairs()
    {
        var entries = new Dictionary<string, decimal> { ["W G1"] = 1, ["Su G2"] = 2 };
        var pane = Pane(["W", "Sp", "Su", "A"], ("G1", "W", 1), ("G2", "Su", 2));
        string?[] words = [null, "W", "Sp", "Su", "A"];
        var pairs = words.SelectMany(first => words.Where(second => second is null || second != first), (first, second) => (first, second));
        foreach (var (first, second) in pairs)
        {
            var placed = new[] { (Word: first, Gap: "G1"), (Word: second, Gap: "G2") }.Where(pair => pair.Word is not null).ToList();
            Assert.Equal(
                MapResponse(placed.Select(pair => $"{pair.Word} {pair.Gap}"), entries, defaultValue: -1, lower: 0),
                Score(pane, new() { Placements = [.. placed.Select(pair => new Placement(pair.Word!, 0, pair.Gap))] }, wrongCost: 1)
            );
        }

        static Pane Pane(string[] labels, params (string Id, string Accepts, decimal Points)[] zones) =>
            new()
            {
                Id = "p",
                Labels = [.. labels.Select(id => new Label { Id = id, Text = id })],
                Targets =
                [
                    .. zones.Select(zone => new DropZone
                    {
                        Id = zone.Id,
                        Points = zone.Points,
                        Region = new Circle(new(9, 9), 9),
                        Accepts = [new(zone.Accepts)],
                    }),
                ],
            };
    }

    /// <summary>
    /// The sample that matches characters with plays, here with a point for each pair: every way to draw up to eight links.
    /// </summary>
    [Fact]
    public void Links_are_a_mapping_of_directed_pairs()
    {
        var matching = new Matching
        {
            Id = "m",
            Points = 4,
            Left = [new("C", "Capulet"), new("D", "Demetrius"), new("L", "Lysander"), new("P", "Prospero")],
            Right = [new("M", "A Midsummer-Night’s Dream"), new("R", "Romeo and Juliet"), new("T", "The Tempest")],
            Pairs = [new("C", "R"), new("D", "M"), new("L", "M"), new("P", "T")],
        };
        var entries = matching.Pairs.ToDictionary(pair => $"{pair.Left} {pair.Right}", _ => 1m);
        var all = Subsets(["C R", "D M", "L M", "P T", "C M", "P R", "D T", "L R"]).ToList();
        foreach (var (cost, defaultValue) in ((decimal, decimal)[])[(0, 0), (1, -1)])
        {
            foreach (var links in all)
            {
                Assert.Equal(
                    MapResponse(links, entries, defaultValue, lower: 0, upper: 4),
                    Score(
                        Asking(matching),
                        new() { Links = Response("").Links.Add("m", [.. links.Select(link => new Link(link[..1], link[2..]))]) },
                        cost
                    )
                );
            }
        }
    }

    /// <summary>The sample that asks for one point: a circle of radius 16 about (102, 113).</summary>
    [Theory]
    [InlineData(102, 113)]
    [InlineData(102, 129)]
    [InlineData(118, 114)]
    [InlineData(0, 0)]
    public void A_selected_point_is_a_mapping_of_areas(double x, double y)
    {
        var area = new Circle(new(102, 113), 16);
        var pane = Asking(
            new Hotspots
            {
                Id = "s",
                Needed = 1,
                Spots = [new(area)],
            }
        );
        Assert.Equal(
            MapResponsePoint([new(x, y)], [(area, 1)], 0, 0, 1),
            Score(pane, new() { Marks = Response("").Marks.Add("s", [new(x, y)]) })
        );
    }

    /// <summary>
    /// Three airports, each an area worth a point, and a point taken for a mark that is in none: seeded marks, up to three.
    /// </summary>
    [Fact]
    public void Several_points_are_a_mapping_of_areas_with_bounds()
    {
        var random = new Random(71);
        Region[] areas = [new Circle(new(118, 184), 12), new Circle(new(150, 235), 12), new Rectangle(80, 100, 30, 28)];
        var pane = Asking(
            new Hotspots
            {
                Id = "s",
                Needed = 3,
                Points = 3,
                Spots = [.. areas.Select(area => new Spot(area))],
            }
        );
        for (var i = 0; i < 3000; i++)
        {
            var points = Enumerable
                .Range(0, random.Next(0, 4))
                .Select(_ =>
                    random.Next(2) == 0 ? areas[random.Next(3)].Bounds.Centre : new Point(70 + random.Next(100), 95 + random.Next(150))
                )
                .ToImmutableArray();
            Assert.Equal(
                MapResponsePoint(points, [.. areas.Select(area => (area, 1m))], -1, 0, 3),
                Score(pane, new() { Marks = Response("").Marks.Add("s", points) }, wrongCost: 1)
            );
        }
    }
}
