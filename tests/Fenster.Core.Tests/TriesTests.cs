using System.Collections.Immutable;
using Fenster.Core.Checking;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Fenster.Core.Revealing;
using Fenster.Core.Scoring;
using static Fenster.Core.Tests.Build;

namespace Fenster.Core.Tests;

/// <summary>What further tries cost: counted by parts, at the place where something newly stood wrong.</summary>
public sealed class TriesTests
{
    private static readonly ScoreRules Quarter = new() { TryCost = 0.25m };

    private static decimal Score(Pane pane, Response now, params Response[] earlier) => Of(pane, now with { Earlier = [.. earlier] });

    private static decimal Of(Pane pane, Response response) => Scorer.Score(pane, response, Checker.Check(pane, response), Quarter).Score;

    private static Response Work(Pane pane, Rules rules, params Move[] moves) =>
        moves.Aggregate(Core.Model.Response.Empty, (response, move) => Progress.Make(rules, pane, response, move).After);

    private static readonly Rules AtOnce = new() { Reveal = new() { Marks = Moment.Placed } };

    private static Response Pinned(params (string Label, double X)[] pins) =>
        new() { Pins = [.. pins.Select(pin => new Pin(pin.Label, 0, new(pin.X, 300)))] };

    private static Pane Hidden(params (string Id, double X, string Accepts)[] zones) =>
        Pane(Labels("A B C")) with
        {
            Targets =
            [
                .. zones.Select(zone => new HiddenZone
                {
                    Id = zone.Id,
                    Region = new Circle(new(zone.X, 300), 50),
                    Accepts = [new(zone.Accepts)],
                }),
            ],
        };

    private static Response Linked(params string[] links) =>
        new()
        {
            Links = ImmutableDictionary<string, ImmutableArray<Link>>.Empty.Add(
                "m",
                [.. links.Select(link => new Link(link[..1], link[1..]))]
            ),
        };

    private static readonly Pane Matched = Pane([]) with
    {
        Targets =
        [
            new Matching
            {
                Id = "m",
                Points = 5,
                Left = [.. "12345".Select(id => new MatchItem($"{id}", $"{id}"))],
                Right = [.. "abcde".Select(id => new MatchItem($"{id}", $"{id}"))],
                Pairs = [new("1", "a"), new("2", "b"), new("3", "c"), new("4", "d"), new("5", "e")],
            },
        ],
    };

    private static Pane Boxed(TypedAnswer answer) =>
        Pane([]) with
        {
            Targets =
            [
                new AnswerBox
                {
                    Id = "b",
                    Region = new Circle(new(9, 9), 9),
                    Answer = answer,
                },
            ],
        };

    private static Response Typed(string text) => new() { Texts = ImmutableDictionary<string, string>.Empty.Add("b", text) };

    [Fact]
    public void In_a_zone_for_three_each_label_answers_for_the_bad_checks_since_the_one_before()
    {
        var pane = Pane(Labels("A B C D"), Zone(1, "A B C", points: 3, capacity: 3));
        Assert.Equal(1 + 0.75m + 1, Score(pane, Response("A1 B1 C1"), Response("A1 D1"), Response("A1 B1")), 20);
    }

    [Fact]
    public void Six_misses_before_a_hit_cost_six_tries()
    {
        var pane = Hidden(("h", 300, "A"));
        var response = Work(
            pane,
            AtOnce,
            [.. Enumerable.Range(0, 6).Select(i => new PinDown("A", 0, new(600 + i, 300))), new PinDown("A", 0, new(300, 300))]
        );
        Assert.Equal(7, Tries.For(pane, pane.Targets[0], response));
        Assert.Equal(0, Of(pane, response));
    }

    [Fact]
    public void What_was_right_once_and_is_so_again_keeps_what_it_had() =>
        Assert.Equal(1, Score(Pane(Labels("A B"), Zone(1, "A")), Response("A1"), Response("A1"), Response("B1")));

    [Fact]
    public void Five_right_links_one_after_the_other_are_five_first_tries() =>
        Assert.Equal(
            5,
            Of(
                Matched,
                Work(
                    Matched,
                    AtOnce,
                    [
                        .. Enumerable
                            .Range(1, 5)
                            .Select(n => new DrawLinks("m", [.. Matched.Targets.OfType<Matching>().Single().Pairs.Take(n)])),
                    ]
                )
            )
        );

    [Fact]
    public void A_wrong_link_is_a_try_of_the_thing_on_its_left_alone() =>
        Assert.Equal(5 - 0.25m, Score(Matched, Linked("1a", "2b", "3c", "4d", "5e"), Linked("1b", "2b"), Linked("1a", "2b")));

    [Fact]
    public void A_pin_that_is_earned_elsewhere_is_no_try_at_other_zones()
    {
        var pane = Pane(Labels("A", copies: 2)) with { Targets = Hidden(("h", 300, "A"), ("k", 600, "A")).Targets };
        Assert.Equal(2, Score(pane, new() { Pins = [new("A", 0, new(300, 300)), new("A", 1, new(600, 300))] }, Pinned(("A", 300))));
    }

    [Fact]
    public void Nudging_a_pin_within_its_zone_is_no_further_try() =>
        Assert.Equal(1, Score(Hidden(("h", 300, "A")), Pinned(("A", 305)), Pinned(("A", 300)), Pinned(("A", 310))));

    [Theory]
    [InlineData("Mast", "mast ", 1)]
    [InlineData("boom", "BOOM  ", 0.75)]
    [InlineData("boom", "spar", 0.5)]
    public void Other_capitals_and_blanks_are_no_other_answer(string first, string second, double score) =>
        Assert.Equal((decimal)score, Score(Boxed(new TypedText([new("mast")])), Typed("mast"), Typed(first), Typed(second)));

    [Fact]
    public void A_number_written_otherwise_is_no_other_answer() =>
        Assert.Equal(0.75m, Score(Boxed(new TypedNumber(7m)), Typed("7"), Typed("8"), Typed("8.0"), Typed("8,00")));

    [Fact]
    public void Equal_labels_swapped_within_a_group_are_no_other_answer()
    {
        var pane = Pane(Labels("A B"), Zone(1, "A B", group: "g"), Zone(2, "A B", group: "g"));
        Assert.Equal(2, Score(pane, Response("B1 A2"), Response("A1 B2")));
    }

    [Fact]
    public void What_earned_part_and_is_mended_earns_no_less_than_the_part()
    {
        var pane = Pane(Labels("A B"), Zone(1, "A B=0.9"));
        // Full at the second try would be 0.75 alone; both ways it is never less than the 0.9 that stood before.
        Assert.Equal(0.75m, Score(pane, Response("A1"), Response("B1")));
        var banded = Hidden(("h", 300, "A")) with
        {
            Targets =
            [
                new HiddenZone
                {
                    Id = "h",
                    Region = new Circle(new(300, 300), 50),
                    Accepts = [new("A")],
                    Tolerance = new(0) { Bands = [new(50, 0.9m)] },
                },
            ],
        };
        Assert.Equal(0.9m, Score(banded, Pinned(("A", 300)), Pinned(("A", 380))));
    }

    [Fact]
    public void A_label_that_leaves_a_region_and_comes_back_right_is_no_bad_check()
    {
        var pane = Pane(Labels("A B")) with
        {
            Targets =
            [
                new SortRegion
                {
                    Id = "r",
                    Region = new Circle(new(300, 300), 100),
                    Want = new WantSet(["A"]),
                },
            ],
        };
        Assert.Equal(1, Score(pane, Pinned(("A", 300)), Pinned(("A", 300)), Pinned(), Pinned(("A", 310))));
        // An intruder is one, of the region that it came into.
        Assert.Equal(0.75m, Score(pane, Pinned(("A", 300)), Pinned(("B", 300))));
    }

    [Fact]
    public void All_or_nothing_is_lessened_by_the_part_that_took_most_tries()
    {
        var pane = Pane(Labels("A B C"), Zone(1, "A"), Zone(2, "B"));
        var response = Response("A1 B2") with { Earlier = [Response("C1"), Response("B1 A2"), Response("A1")] };
        Assert.Equal(
            2 * 0.5m,
            Scorer.Score(pane, response, Checker.Check(pane, response), Quarter with { Manner = ScoreManner.AllOrNothing }).Score
        );
    }

    [Fact]
    public void The_score_that_a_check_shows_counts_the_tries_before_it()
    {
        var pane = Pane(Labels("A B"), Zone(1, "A"));
        var rules = new Rules
        {
            Check = new(3),
            Reveal = new() { Score = Moment.Checked },
            Score = Quarter,
        };
        var response = Work(pane, rules, new PutDown("B", 0, "1"), new PressCheck(), new PutDown("A", 0, "1"), new PressCheck());
        Assert.Equal(
            0.75m,
            WorkView.At(Moment.Placed, new Seat(Activity(pane) with { Rules = rules }, 1), On(pane, response)).Score!.Score
        );
    }

    [Fact]
    public void A_hundred_placements_with_marks_at_once_are_checked_each_once()
    {
        var pane = Pane(Enumerable.Range(0, 100).Select(i => new Label { Id = $"{i}", Text = $"Part {i}" })) with
        {
            Targets =
            [
                .. Enumerable
                    .Range(0, 100)
                    .Select(i => new DropZone
                    {
                        Id = $"{i}",
                        Region = new Rectangle(i * 9, 10, 8, 8),
                        Accepts = [new($"{i}")],
                    }),
            ],
        };
        var response = Work(
            pane,
            AtOnce,
            [
                .. Enumerable
                    .Range(0, 100)
                    .Select(i => new PutDown($"{i}", 0, $"{(i == 7 ? 8 : i == 8 ? 7 : i)}")),
            ]
        );
        Assert.Equal(100, response.Earlier.Length);
        Assert.Equal(98, Of(pane, response));
    }
}
