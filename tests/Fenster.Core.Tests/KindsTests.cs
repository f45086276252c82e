using System.Collections.Immutable;
using Fenster.Core.Checking;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Fenster.Core.Revealing;
using Fenster.Core.Scoring;
using static Fenster.Core.Tests.Build;
using Lock = Fenster.Core.Model.Lock;

namespace Fenster.Core.Tests;

/// <summary>Hidden zones, hotspots, answer boxes, question points, locks and open notes.</summary>
public sealed class KindsTests
{
    private static Pane With(params Target[] targets) => Pane(Labels("A B C", copies: 3)) with { Targets = [.. targets] };

    private static HiddenZone Hidden(
        string id,
        double x,
        double radius,
        string accepts,
        string? group = null,
        Tolerance? tolerance = null
    ) =>
        new()
        {
            Id = id,
            Region = new Circle(new(x, 300), radius),
            Accepts = Zone(1, accepts).Accepts,
            Group = group,
            Tolerance = tolerance ?? Tolerance.None,
        };

    private static Response Pins(params (string Label, double X)[] pins) =>
        new() { Pins = [.. pins.Select((pin, i) => new Pin(pin.Label, i, new(pin.X, 300)))] };

    [Fact]
    public void A_pin_counts_when_its_tip_is_in_its_zone()
    {
        var marks = Checker.Check(With(Hidden("h", 300, 50, "A"), Hidden("k", 600, 50, "B")), Pins(("A", 340), ("B", 340), ("C", 900)));
        Assert.Equal([Verdict.Right, Verdict.Wrong, Verdict.Wrong], marks.Pins.Select(mark => mark.Verdict));
        Assert.Equal([TargetState.Earned, TargetState.Missed], marks.Targets.Select(mark => mark.State));
        Assert.Equal(2, marks.WrongActions);
    }

    [Theory]
    [InlineData(350, 1)]
    [InlineData(360, 1)]
    [InlineData(361, 0.5)]
    [InlineData(380, 0.5)]
    [InlineData(381, 0)]
    public void Slack_counts_in_full_and_a_wider_band_in_part(double x, double credit)
    {
        var pane = With(Hidden("h", 300, 50, "A", tolerance: new(10) { Bands = [new(30, 0.5m)] }));
        Assert.Equal((decimal)credit, Checker.Check(pane, Pins(("A", x))).Targets[0].Credit);
    }

    [Fact]
    public void Pins_in_overlapping_zones_are_paired_in_the_students_favour()
    {
        // The first pin lies in both zones, the second only in the first one.
        var pane = With(Hidden("h", 300, 50, "A B"), Hidden("k", 360, 50, "A"));
        foreach (
            var pins in ((string, double)[][])
                [
                    [("A", 330), ("B", 280)],
                    [("B", 280), ("A", 330)],
                ]
        )
            Assert.All(Checker.Check(pane, Pins(pins)).Pins, mark => Assert.Equal(Verdict.Right, mark.Verdict));
    }

    [Fact]
    public void Pins_earn_as_much_as_the_best_of_all_pairings_in_which_no_label_earns_twice_in_a_group()
    {
        var random = new Random(31);
        for (var i = 0; i < 400; i++)
        {
            var zones = Enumerable
                .Range(0, 4)
                .Select(n =>
                    Hidden(
                        $"h{n}",
                        200 + random.Next(300),
                        60,
                        random.Next(2) == 0 ? "A B=0.5" : "B C",
                        random.Next(2) == 0 ? "g" : null
                    ) with
                    {
                        Points = random.Next(1, 4),
                    }
                )
                .ToList();
            var pane = With([.. zones]);
            var pins = Pins([
                .. Enumerable.Range(0, random.Next(1, 5)).Select(_ => ($"{"ABC"[random.Next(3)]}", 150.0 + random.Next(400))),
            ]);
            var got = pane.Targets.Zip(Checker.Check(pane, pins).Targets).Sum(pair => pair.First.Points * pair.Second.Credit);
            Assert.Equal(Best(zones, pins.Pins, 0, [], []), got);
        }
    }

    /// <summary>Tries every pairing of pins and zones of one place each.</summary>
    private static decimal Best(List<HiddenZone> zones, ImmutableArray<Pin> pins, int next, HashSet<string> used, HashSet<string> answered)
    {
        if (next == pins.Length)
            return 0;
        var best = Best(zones, pins, next + 1, used, answered);
        foreach (var zone in zones)
        {
            var family = zone.Group is null ? [zone] : zones.Where(other => other.Group == zone.Group).ToList();
            var credit = family
                .SelectMany(other => other.Accepts)
                .Where(a => a.Label == pins[next].Label)
                .Select(a => a.Credit)
                .DefaultIfEmpty(0)
                .Max();
            var answer = $"{pins[next].Label} in {zone.Group ?? zone.Id}";
            if (credit == 0 || !zone.Region.Contains(pins[next].At) || used.Contains(zone.Id) || answered.Contains(answer))
                continue;
            best = Math.Max(best, zone.Points * credit + Best(zones, pins, next + 1, [.. used, zone.Id], [.. answered, answer]));
        }
        return best;
    }

    private static PaneMarks Mark(Hotspots hotspots, params (double X, double Y)[] points) =>
        Checker.Check(
            With(hotspots),
            new()
            {
                Marks = ImmutableDictionary<string, ImmutableArray<Point>>.Empty.Add(
                    hotspots.Id,
                    [.. points.Select(p => new Point(p.X, p.Y))]
                ),
            }
        );

    private static Hotspots Spots(int needed, params double[] xs) =>
        new()
        {
            Id = "s",
            Needed = needed,
            Spots = [.. xs.Select(x => new Spot(new Circle(new(x, 300), 50)))],
        };

    [Fact]
    public void Two_marks_in_overlapping_hotspots_find_both_in_either_order()
    {
        Assert.Equal(1, Mark(Spots(2, 300, 360), (330, 300), (280, 300)).Targets[0].Credit);
        Assert.Equal(1, Mark(Spots(2, 300, 360), (280, 300), (330, 300)).Targets[0].Credit);
    }

    [Fact]
    public void A_mark_outside_is_wrong_and_one_more_than_needed_is_surplus()
    {
        var marks = Mark(Spots(2, 100, 400, 700), (100, 300), (400, 300), (700, 300), (900, 300));
        Assert.Equal(1, marks.Targets[0].Credit);
        Assert.Equal([Verdict.Right, Verdict.Right, Verdict.Wrong, Verdict.Surplus], marks.Points.Select(mark => mark.Verdict).Order());
        Assert.Equal(1, marks.WrongActions);
        Assert.Equal(0.5m, Mark(Spots(2, 100, 400, 700), (100, 300), (101, 300)).Targets[0].Credit);
    }

    [Fact]
    public void Of_more_marks_than_needed_the_best_count()
    {
        var spots = new Hotspots
        {
            Id = "s",
            Needed = 1,
            Spots =
            [
                new(new Circle(new(100, 300), 20)) { Tolerance = new(0) { Bands = [new(100, 0.5m)] } },
                new(new Circle(new(160, 300), 20)) { Tolerance = new(0) { Bands = [new(100, 0.5m)] } },
            ],
        };
        Assert.Equal(1, Mark(spots, (130, 300), (100, 300)).Targets[0].Credit);
    }

    [Theory]
    [InlineData("x y", "0.6666666666666666666666666667")]
    [InlineData("x y n", "0.3333333333333333333333333333")]
    [InlineData("x y z", "1")]
    [InlineData("x n m", "0")]
    [InlineData("", "0")]
    public void Several_picks_earn_right_ones_less_wrong_ones_over_all_right_ones(string picks, string credit)
    {
        var question = new ChoiceQuestion
        {
            Text = "?",
            Multiple = true,
            Options = [new("x", "", true), new("y", "", true), new("z", "", true), new("n", ""), new("m", "")],
        };
        Assert.Equal(
            decimal.Parse(credit, System.Globalization.CultureInfo.InvariantCulture),
            Choices.Credit(picks.Split(' ', StringSplitOptions.RemoveEmptyEntries), question)
        );
    }

    [Fact]
    public void A_lock_opens_with_its_code_and_trying_costs_nothing()
    {
        var pane = With(
            new Lock
            {
                Id = "l",
                At = new(1, 1),
                Code = new([new("Half Tide 4")]),
            }
        );
        Response Try(params string[] codes) =>
            new() { Codes = ImmutableDictionary<string, ImmutableArray<string>>.Empty.Add("l", [.. codes]) };
        Assert.Equal(
            (TargetState.Missed, 0),
            (Checker.Check(pane, Try("1", "2")).Targets[0].State, Checker.Check(pane, Try("1", "2")).WrongActions)
        );
        Assert.Equal(TargetState.Earned, Checker.Check(pane, Try("1", " half  tide 4")).Targets[0].State);
    }

    private static decimal Read(Axis axis, double x, double answer, double within) =>
        Checker
            .Check(
                With(
                    new ScalePoint
                    {
                        Id = "p",
                        Scale = new(axis),
                        X = answer,
                        Within = new(within),
                    }
                ),
                new() { Marks = ImmutableDictionary<string, ImmutableArray<Point>>.Empty.Add("p", [new(x, 40)]) }
            )
            .Targets[0]
            .Credit;

    [Fact]
    public void On_a_linear_axis_from_0_to_12_hours_a_point_at_505_reads_6_hours_and_4_and_a_half_minutes()
    {
        var hours = new Axis(new(100, 50), new(900, 50), 0, 12);
        Assert.Equal(6.075, new Scale(hours).ValueAt(new(505, 700)).X, 1e-12);
        Assert.Equal((1, 0), (Read(hours, 505, 6, 0.25), Read(hours, 517, 6, 0.25)));
        Assert.Equal(1, Read(new(new(0, 0), new(1000, 0), 0, 1), 100, 0, 0.1));
    }

    [Fact]
    public void On_a_logarithmic_axis_from_1_to_10_000_the_middle_reads_100() =>
        Assert.Equal(100, new Scale(new Axis(new(100, 0), new(900, 0), 1, 10_000, AxisKind.Logarithmic)).ValueAt(new(500, 0)).X, 1e-9);

    [Fact]
    public void On_a_grid_of_slanting_axes_each_value_is_read_along_the_other_axis()
    {
        var grid = new Scale(new(new(100, 600), new(500, 600), 0, 10), new(new(100, 600), new(300, 200), 0, 4));
        var (x, y) = grid.ValueAt(new(100 + 0.3 * 400 + 0.5 * 200, 600 - 0.5 * 400));
        Assert.Equal(3, x, 1e-9);
        Assert.Equal(2, y, 1e-9);
    }

    [Fact]
    public void A_scale_that_is_none_says_what_is_wrong_with_it()
    {
        Assert.Contains("through zero", new Scale(new(new(0, 0), new(1, 0), 0, 10, AxisKind.Logarithmic)).Fault);
        Assert.Contains("same place", new Scale(new(new(0, 0), new(0, 0), 0, 10)).Fault);
        Assert.Contains("one value", new Scale(new(new(0, 0), new(1, 0), 3, 3)).Fault);
        Assert.Contains("same direction", new Scale(new(new(0, 0), new(1, 0), 0, 1), new(new(0, 9), new(5, 9), 0, 1)).Fault);
        Assert.Null(new Scale(new(new(0, 0), new(1, 0), 0, 1)).Fault);
    }

    [Fact]
    public void A_labels_pin_shows_a_value_on_a_timeline()
    {
        var pane = With(
            new ScalePoint
            {
                Id = "p",
                Scale = new(new(new(0, 300), new(1000, 300), 1900, 2000)),
                X = 1950,
                Within = new(2) { Bands = [new(10, 0.5m)] },
                Label = "A",
            }
        );
        Assert.Equal([Verdict.Right, Verdict.Wrong], Checker.Check(pane, Pins(("A", 510), ("B", 510))).Pins.Select(mark => mark.Verdict));
        Assert.Equal(
            (Verdict.Part, 0.5m),
            Checker.Check(pane, Pins(("A", 560))).Pins[0] is var mark ? (mark.Verdict, mark.Credit) : default
        );
    }

    [Theory]
    [InlineData("25 25 10", true)]
    [InlineData("25 15 10", false)]
    [InlineData("", false)]
    public void Bags_of_25_25_10_and_15_kg_make_60_kg_in_one_way(string bags, bool earned)
    {
        var pane = With(
            new SortRegion
            {
                Id = "boat",
                Region = new Circle(new(300, 300), 100),
                Want = new WantTotal(60, 60),
            }
        ) with
        {
            Labels =
            [
                .. ((decimal[])[25, 25, 10, 15]).Select(
                    (kg, i) =>
                        new Label
                        {
                            Id = $"{i}",
                            Text = $"{kg} kg",
                            Value = kg,
                        }
                ),
            ],
        };
        var free = pane.Labels.ToList();
        var response = new Response
        {
            Pins =
            [
                .. bags.Split(' ', StringSplitOptions.RemoveEmptyEntries)
                    .Select(kg =>
                    {
                        var label = free.First(l => l.Text == $"{kg} kg");
                        free.Remove(label);
                        return new Pin(label.Id, 0, new(300, 300));
                    }),
            ],
        };
        var marks = Checker.Check(pane, response);
        Assert.Equal(earned ? 1 : 0, marks.Targets[0].Credit);
        // Where the total does not come out, all that lies there is one wrong action.
        Assert.Equal(earned || bags == "" ? 0 : 1, marks.WrongActions);
    }

    [Fact]
    public void A_label_that_belongs_in_two_circles_must_lie_in_both_and_in_no_other()
    {
        // A belongs left, B in both, C outside.
        var pane = With(
            new SortRegion
            {
                Id = "left",
                Region = new Circle(new(300, 300), 100),
                Want = new WantSet(["A", "B"]),
            },
            new SortRegion
            {
                Id = "right",
                Region = new Circle(new(420, 300), 100),
                Want = new WantSet(["B"]),
            }
        );
        Assert.Equal([1, 1], Checker.Check(pane, Pins(("A", 220), ("B", 360))).Targets.Select(mark => mark.Credit));
        var marks = Checker.Check(pane, Pins(("A", 360), ("B", 220), ("C", 900)));
        Assert.Equal([Verdict.Wrong, Verdict.Part, Verdict.Unscored], marks.Pins.Select(mark => mark.Verdict));
        Assert.Equal([1, 0], marks.Targets.Select(mark => mark.Credit));
    }

    [Theory]
    [InlineData(CountIs.Exactly, 2, 2, true)]
    [InlineData(CountIs.Exactly, 2, 1, false)]
    [InlineData(CountIs.AtLeast, 2, 3, true)]
    [InlineData(CountIs.AtMost, 2, 3, false)]
    [InlineData(CountIs.AtMost, 2, 1, true)]
    public void A_region_may_ask_for_a_number_of_labels(CountIs rule, int number, int put, bool earned)
    {
        var pane = With(
            new SortRegion
            {
                Id = "r",
                Region = new Circle(new(300, 300), 100),
                Want = new WantCount(["A"], rule, number),
            }
        );
        Assert.Equal(earned ? 1 : 0, Checker.Check(pane, Pins([.. Enumerable.Repeat(("A", 300.0), put)])).Targets[0].Credit);
        Assert.Equal(0, Checker.Check(pane, Pins([.. Enumerable.Repeat(("A", 300.0), put), ("B", 300)])).Targets[0].Credit);
    }

    [Fact]
    public void A_link_is_right_when_the_key_has_it()
    {
        var matching = new Matching
        {
            Id = "m",
            Left = [new("1", "One short blast"), new("2", "Two short blasts"), new("x", "Nothing")],
            Right = [new("s", "To starboard"), new("p", "To port")],
            Pairs = [new("1", "s"), new("2", "p")],
        };
        PaneMarks Draw(params Link[] links) =>
            Checker.Check(With(matching), new() { Links = ImmutableDictionary<string, ImmutableArray<Link>>.Empty.Add("m", [.. links]) });
        Assert.Equal(1, Draw(new("1", "s"), new("2", "p")).Targets[0].Credit);
        var half = Draw(new("1", "s"), new("x", "p"));
        Assert.Equal((0.5m, 1), (half.Targets[0].Credit, half.WrongActions));
        Assert.Equal([Verdict.Right, Verdict.Wrong], half.Links.Select(mark => mark.Verdict));
    }

    [Fact]
    public void An_info_spot_is_worth_nothing_and_a_concealed_one_says_nothing()
    {
        var pane = With(
            new InfoSpot
            {
                Id = "i",
                At = new(1, 1),
                Text = "The chart drawer",
                Concealed = true,
            },
            Spots(1, 300)
        );
        Assert.Equal(1, pane.PossiblePoints);
        Assert.Equal(TargetState.Unscored, Checker.Check(pane, Core.Model.Response.Empty).Targets[0].State);
        Assert.Equal(
            2,
            StudentView.At(Moment.Placed, new Seat(Activity(pane), 1), On(pane, Core.Model.Response.Empty)).Panes[0].Targets.Length
        );
        Assert.IsType<TargetView.Concealed>(
            StudentView
                .At(Moment.Placed, new Seat(Activity(pane), 1), On(pane, Core.Model.Response.Empty))
                .Panes[0]
                .Targets.Single(t => t is not TargetView.Marking)
        );
    }

    [Fact]
    public void An_open_note_waits_for_a_person()
    {
        var pane = With(new OpenNote { Id = "o", Region = new Circle(new(1, 1), 1) });
        var written = new Response { Texts = ImmutableDictionary<string, string>.Empty.Add("o", "I think so") };
        Assert.Equal(TargetState.Waiting, Checker.Check(pane, written).Targets[0].State);
        Assert.Equal(TargetState.Missed, Checker.Check(pane, Core.Model.Response.Empty).Targets[0].State);
    }

    [Fact]
    public void A_wrong_typed_answer_costs_and_an_empty_one_does_not()
    {
        var pane = With(
            new AnswerBox
            {
                Id = "w",
                Region = new Circle(new(1, 1), 1),
                Answer = new TypedText([new("mast")]),
            },
            new AnswerBox
            {
                Id = "n",
                Region = new Circle(new(9, 1), 1),
                Answer = new TypedNumber(5m),
            }
        );
        var response = new Response { Texts = ImmutableDictionary<string, string>.Empty.Add("w", "boom") };
        Assert.Equal(1, Checker.Check(pane, response).WrongActions);
        Assert.Equal(
            1,
            Scorer
                .Score(
                    pane,
                    response with
                    {
                        Texts = response.Texts.SetItem("n", "5"),
                    },
                    Checker.Check(pane, response with { Texts = response.Texts.SetItem("n", "5") }),
                    new()
                )
                .Score
        );
    }

    [Fact]
    public void A_student_never_sees_a_hidden_zone_an_answer_or_a_code_before_the_moment()
    {
        var pane = With(
            Hidden("hidden-id", 300, 43.21, "A"),
            Spots(1, 987.6),
            new Lock
            {
                Id = "lock-id",
                At = new(1, 1),
                Code = new([new("open sesame")]),
            },
            new AnswerBox
            {
                Id = "box-id",
                Region = new Circle(new(1, 1), 1),
                Answer = new TypedText([new("topping lift")]),
            },
            new QuestionPoint
            {
                Id = "q-id",
                At = new(2, 2),
                Question = new ChoiceQuestion { Text = "Which?", Options = [new("right-id", "This", true), new("wrong-id", "That")] },
            }
        );
        string Json(Moment moment) =>
            System.Text.Json.JsonSerializer.Serialize(
                StudentView.At(moment, new Seat(Activity(pane, reveal: new() { Key = Moment.HandedIn }), 3), On(pane, Pins(("A", 300)))),
                new System.Text.Json.JsonSerializerOptions { Converters = { new AllOf<TargetView>() } }
            );
        var before = Json(Moment.LastTry);
        foreach (var secret in (string[])["43.21", "987.6", "open sesame", "topping lift", "-id", "IsRight"])
            Assert.DoesNotContain(secret, before);
        Assert.Contains("Which?", before);
        var after = Json(Moment.HandedIn);
        foreach (var answer in (string[])["open sesame", "topping lift"])
            Assert.Contains(answer, after);
    }

    /// <summary>Writes all members of a value's own type.</summary>
    private sealed class AllOf<T> : System.Text.Json.Serialization.JsonConverter<T>
        where T : class
    {
        public override T Read(ref System.Text.Json.Utf8JsonReader reader, Type type, System.Text.Json.JsonSerializerOptions options) =>
            throw new NotSupportedException();

        public override void Write(System.Text.Json.Utf8JsonWriter writer, T value, System.Text.Json.JsonSerializerOptions options) =>
            System.Text.Json.JsonSerializer.Serialize(writer, value, value.GetType());
    }

    [Fact]
    public void Moves_of_every_kind_change_the_response_and_nonsense_is_refused()
    {
        var pane = With(
            Spots(1, 300),
            new Lock
            {
                Id = "l",
                At = new(1, 1),
                Code = new([new("1")]),
            },
            new OpenNote { Id = "o", Region = new Circle(new(1, 1), 1) },
            new QuestionPoint
            {
                Id = "q",
                At = new(2, 2),
                Question = new ChoiceQuestion { Text = "?", Options = [new("x", "", true), new("y", "")] },
            }
        );
        Response After(params Move[] moves) =>
            moves.Aggregate(Core.Model.Response.Empty, (response, move) => Progress.Make(new(), pane, response, move).After);
        Assert.Equal(new Pin("A", 0, new(7, 7)), Assert.Single(After(new PinDown("A", 0, new(5, 5)), new PinDown("A", 0, new(7, 7))).Pins));
        Assert.Empty(After(new PinDown("A", 0, new(5, 5)), new TakeBack("A", 0)).Pins);
        Assert.Single(After(new MarkPoints("s", [new(1, 1), new(2, 2)]), new MarkPoints("s", [new(3, 3)])).Marks["s"]);
        Assert.Equal(["a", "b"], After(new TryCode("l", "a"), new TryCode("l", "b")).Codes["l"].AsEnumerable());
        Assert.Empty(After(new TypeText("o", "words"), new TypeText("o", "")).Texts);
        Assert.Equal(["y"], After(new PickOptions("q", ["x"]), new PickOptions("q", ["y"])).Picks["q"].AsEnumerable());
        Move[] nonsense =
        [
            new PinDown("A", 0, new(double.NaN, 1)),
            new MarkPoints("l", []),
            new MarkPoints("s", [new(1e9, 0)]),
            new TypeText("q", "x"),
            new TypeText("o", new('x', 10_001)),
            new PickOptions("q", ["x", "y"]),
            new PickOptions("q", ["z"]),
            new TryCode("o", "1"),
            new TryCode("l", new('x', 1001)),
        ];
        Assert.All(nonsense, move => Assert.NotNull(Progress.Make(new(), pane, Core.Model.Response.Empty, move).Refusal));
    }
}
