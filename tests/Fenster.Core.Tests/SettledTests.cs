using System.Collections.Immutable;
using Fenster.Core.Checking;
using Fenster.Core.Geometry;
using Fenster.Core.Insight;
using Fenster.Core.Model;
using Fenster.Core.Proofing;
using Fenster.Core.Revealing;
using Fenster.Core.Scoring;
using static Fenster.Core.Tests.Build;

namespace Fenster.Core.Tests;

/// <summary>Where the rules could be read in two ways, which of them holds.</summary>
public sealed class SettledTests
{
    private static Pane With(IEnumerable<Label> labels, params Target[] targets) => Pane(labels) with { Targets = [.. targets] };

    private static SortRegion Region(string id, double x, Want want) =>
        new()
        {
            Id = id,
            Region = new Circle(new(x, 300), 100),
            Want = want,
        };

    private static HiddenZone Hidden(string id, double x, params string[] accepts) =>
        new()
        {
            Id = id,
            Region = new Circle(new(x, 300), 50),
            Accepts = [.. accepts.Select(label => new Accepted(label))],
        };

    private static ScalePoint Value(string id, double value, string? label) =>
        new()
        {
            Id = id,
            Scale = new(new Axis(new(0, 300), new(1000, 300), 0, 100)),
            X = value,
            Within = new(5),
            Label = label,
        };

    private static Response Pins(params (string Label, double X)[] pins) =>
        new()
        {
            Pins =
            [
                .. pins.Select((pin, i) => new Pin(pin.Label, pins.Take(i).Count(before => before.Label == pin.Label), new(pin.X, 300))),
            ],
        };

    private static string Verdicts(Pane pane, Response response) =>
        string.Join(' ', Checker.Check(pane, response).Pins.Select(mark => mark.Verdict));

    private static string States(Pane pane, Response response) =>
        string.Join(' ', Checker.Check(pane, response).Targets.Select(mark => mark.State));

    // Whose rules (1)

    [Fact]
    public void A_panes_words_replace_the_activitys_and_an_assignments_replace_both()
    {
        var pane = Pane(Labels("A"), Zone(1, "A")) with { Rules = new RuleWords { WrongCost = 2 } };
        var activity = Activity(
            pane,
            new()
            {
                WrongCost = 1,
                TryCost = 0.5m,
                MaximumGrade = 10,
            }
        );
        Assert.Equal((2, 0.5m), (activity.RulesOf(pane).Score.WrongCost, activity.RulesOf(pane).Score.TryCost));
        var given = new RuleWords
        {
            WrongCost = 3,
            MaximumGrade = 20,
            Key = Moment.Never,
        };
        Assert.Equal((3, 20), (activity.RulesOf(pane, given).Score.WrongCost, activity.RulesOf(given).Score.MaximumGrade));
        Assert.Equal(Moment.Never, activity.RulesOf(pane, given).Reveal.Key);
        // Grade and pass mark are never a pane's own.
        Assert.Equal(10, activity.RulesOf(pane with { Rules = new RuleWords { MaximumGrade = 99 } }).Score.MaximumGrade);
    }

    // Repeats (3)

    [Fact]
    public void What_a_document_repeats_counts_once()
    {
        var matching = new Matching
        {
            Id = "m",
            Left = [new("1", "1"), new("2", "2"), new("3", "3")],
            Right = [new("a", "a"), new("b", "b"), new("c", "c")],
            Pairs = [new("1", "a"), new("2", "b"), new("3", "c")],
        };
        var pane = With([], matching);
        var (once, repeats) = ResponseSoundness.WithoutRepeats(
            new()
            {
                Links = ImmutableDictionary<string, ImmutableArray<Link>>.Empty.Add(
                    "m",
                    [new("1", "a"), new("1", "a"), new("1", "a"), new("1", "a")]
                ),
            }
        );
        Assert.Equal(3, repeats);
        Assert.Equal(1 / 3m, Checker.Check(pane, once).Targets[0].Credit);
        Assert.InRange(
            Checker
                .Check(
                    pane,
                    new()
                    {
                        Links = ImmutableDictionary<string, ImmutableArray<Link>>.Empty.Add(
                            "m",
                            [.. Enumerable.Repeat(new Link("1", "a"), 9)]
                        ),
                    }
                )
                .Targets[0]
                .Credit,
            0,
            1
        );
    }

    // One mark (4)

    [Fact]
    public void A_point_asked_for_without_a_label_takes_one_mark()
    {
        var pane = With([], Value("v", 50, null));
        Assert.Equal(
            Refused.OneMarkOnly,
            MoveRules.Fit(pane, Core.Model.Response.Empty, new MarkPoints("v", [new(500, 300), new(700, 300)]))!.Why
        );
        Assert.Null(MoveRules.Fit(pane, Core.Model.Response.Empty, new MarkPoints("v", [new(500, 300)])));
        var marks = ImmutableDictionary<string, ImmutableArray<Point>>.Empty.Add("v", [new(500, 300), new(700, 300)]);
        Assert.Contains("'v'", ResponseSoundness.Fault(pane, new() { Marks = marks })!.What);
    }

    // Pins (5)

    [Fact]
    public void One_pin_earns_one_value_only()
    {
        var pane = With(Labels("A", copies: 2), Value("v", 50, "A"), Value("w", 52, "A"));
        Assert.Equal(1, Checker.Check(pane, Pins(("A", 510))).Targets.Sum(mark => mark.Credit));
        Assert.Equal(2, Checker.Check(pane, Pins(("A", 510), ("A", 511))).Targets.Sum(mark => mark.Credit));
    }

    [Fact]
    public void A_copy_more_than_can_be_earned_is_surplus_where_it_would_be_right_and_wrong_elsewhere() =>
        Assert.Equal(
            "Right Surplus Wrong",
            Verdicts(With(Labels("A", copies: 3), Value("v", 50, "A")), Pins(("A", 500), ("A", 510), ("A", 900)))
        );

    [Fact]
    public void A_wrong_pin_is_wrong_also_where_there_is_something_to_sort()
    {
        var pane = With(Labels("A B C"), Hidden("h", 800, "A"), Region("r", 200, new WantSet(["B"])));
        Assert.Equal("Wrong Right", Verdicts(pane, Pins(("A", 600), ("B", 200))));
        Assert.Equal(1, Checker.Check(pane, Pins(("A", 600), ("B", 200))).WrongActions);
        // A label that belongs nowhere is wrong where places are hidden.
        Assert.Equal("Wrong", Verdicts(pane, Pins(("C", 600))));
        Assert.Equal("Unscored", Verdicts(With(Labels("B C"), Region("r", 200, new WantSet(["B"]))), Pins(("C", 600))));
        Assert.Equal("Wrong", Verdicts(With(Labels("B C"), Region("r", 200, new WantSet(["B"]))), Pins(("C", 200))));
    }

    [Fact]
    public void A_pin_that_earns_elsewhere_neither_spoils_nor_fills_the_region_it_lies_in()
    {
        var pane = With(
            [
                .. Labels("A B"),
                new Label
                {
                    Id = "K",
                    Text = "5 kg",
                    Value = 5,
                },
            ],
            Hidden("h", 300, "A"),
            Region("r", 300, new WantSet(["B"])),
            Region("t", 300, new WantTotal(5, 5))
        );
        var marks = Checker.Check(pane, Pins(("A", 300), ("B", 310)));
        Assert.Equal([TargetState.Earned, TargetState.Earned], marks.Targets.Take(2).Select(mark => mark.State));
    }

    [Fact]
    public void Labels_wanted_by_a_hidden_zone_and_a_region_earn_at_one_of_them()
    {
        var pane = With(Labels("A", copies: 2), Hidden("h", 300, "A"), Region("r", 300, new WantSet(["A"])));
        Assert.Equal(1, Checker.Check(pane, Pins(("A", 300))).Targets.Sum(mark => mark.Credit));
        Assert.Equal(2, Checker.Check(pane, Pins(("A", 300), ("A", 310))).Targets.Sum(mark => mark.Credit));
    }

    // Edges (6)

    [Theory]
    [InlineData(100.1, 200.7, 0.1, 0.2)]
    [InlineData(33.3, 0.1, 66.6, 0.7)]
    public void The_edge_of_a_region_made_of_decimal_numbers_belongs_to_it(double x, double y, double width, double height)
    {
        var box = new Rectangle(x, y, width, height);
        foreach (var point in (Point[])[new(x, y), new(x + width, y + height), new(x + width, y)])
            Assert.True(box.Contains(point));
        Assert.Equal(1, new Tolerance(0.3).CreditFor(new Circle(new(0.1, 0.1), 0.1), new(0.5, 0.1)));
        Assert.Equal(0, new Tolerance(0.3).CreditFor(new Circle(new(0.1, 0.1), 0.1), new(0.50001, 0.1)));
    }

    [Fact]
    public void The_corners_of_turned_boxes_belong_to_them()
    {
        var random = new Random(7);
        for (var i = 0; i < 500; i++)
        {
            var box = new Rectangle(
                random.Next(1000) / 10.0,
                random.Next(1000) / 10.0,
                random.Next(1, 100) / 10.0,
                random.Next(1, 100) / 10.0,
                random.Next(3600) / 10.0
            );
            Assert.All(box.Outline.Vertices, corner => Assert.True(box.Contains(corner)));
        }
    }

    // Counts and totals (7)

    [Theory]
    [InlineData(CountIs.Exactly, 0, true)]
    [InlineData(CountIs.AtMost, 0, true)]
    [InlineData(CountIs.AtLeast, 0, true)]
    [InlineData(CountIs.Exactly, 1, false)]
    public void A_count_asks_for_at_least_one_label(CountIs @is, int number, bool refused) =>
        Assert.Equal(refused, Soundness.Faults(Activity(With(Labels("A"), Region("r", 300, new WantCount(["A"], @is, number))))).Count > 0);

    [Fact]
    public void Where_a_count_does_not_come_out_the_labels_in_it_make_one_wrong_action_together()
    {
        var pane = With(Labels("A B C D"), Region("r", 300, new WantCount(["A", "B", "C"], CountIs.Exactly, 2)));
        var three = Checker.Check(pane, Pins(("A", 300), ("B", 310), ("C", 320)));
        Assert.Equal((1, "Wrong Wrong Wrong"), (three.WrongActions, Verdicts(pane, Pins(("A", 300), ("B", 310), ("C", 320)))));
        Assert.Equal(
            (0, "Right Right Surplus"),
            (
                Checker.Check(pane, Pins(("A", 300), ("B", 310), ("C", 900))).WrongActions,
                Verdicts(pane, Pins(("A", 300), ("B", 310), ("C", 900)))
            )
        );
        Assert.Equal(TargetState.Wrong, Checker.Check(pane, Pins(("A", 300), ("B", 310), ("D", 320))).Targets[0].State);
        // An award frees the region of it.
        var response = Pins(("A", 300));
        Assert.Equal(
            1,
            Scorer
                .Score(
                    pane,
                    response,
                    Checker.Check(pane, response),
                    new() { WrongCost = 1 },
                    [new("r", 1, "a teacher", DateTimeOffset.UnixEpoch)]
                )
                .Score
        );
    }

    // Sorting (15) and states (16)

    [Fact]
    public void A_label_that_belongs_in_two_regions_and_lies_in_one_is_part_right()
    {
        var pane = With(Labels("A", copies: 2), Region("l", 300, new WantSet(["A"])), Region("r", 420, new WantSet(["A"])));
        Assert.Equal("Part", Verdicts(pane, Pins(("A", 220))));
        Assert.Equal("Right", Verdicts(pane, Pins(("A", 360))));
        Assert.Equal("Right Surplus", Verdicts(pane, Pins(("A", 360), ("A", 365))));
    }

    [Fact]
    public void Intruders_in_a_set_are_counted_by_pins()
    {
        var pane = With([.. Labels("A B"), .. Labels("D", copies: 2)], Region("r", 300, new WantSet(["A", "B"])));
        Assert.Equal(0, Checker.Check(pane, Pins(("A", 300), ("B", 310), ("D", 320), ("D", 330))).Targets[0].Credit);
        Assert.Equal(2, Checker.Check(pane, Pins(("A", 300), ("B", 310), ("D", 320), ("D", 330))).WrongActions);
    }

    [Fact]
    public void A_hidden_zone_is_missed_unless_a_wrong_pin_lies_in_it()
    {
        var pane = With(Labels("A B", copies: 2), Hidden("h", 300, "A"), Hidden("k", 600, "B"));
        Assert.Equal("Missed Missed", States(pane, Pins(("A", 900))));
        Assert.Equal("Wrong Missed", States(pane, Pins(("B", 300))));
        Assert.Equal("Earned Missed", States(pane, Pins(("A", 300), ("A", 310))));
        Assert.Equal("Wrong", States(With(Labels("A"), Value("v", 50, "A")), Pins(("A", 900))));
        Assert.Equal("Missed", States(With(Labels("A"), Value("v", 50, "A")), Core.Model.Response.Empty));
    }

    // Numbers (8, 17, 18)

    [Theory]
    [InlineData("10²", "100")]
    [InlineData("1½", "1.5")]
    [InlineData("½", "0.5")]
    [InlineData("- 5", "-5")]
    [InlineData("−2,5", "-2.5")]
    [InlineData("5×10⁻³", "0.005")]
    [InlineData("1,23,456", "123456")]
    [InlineData("12,34,567.5", "1234567.5")]
    [InlineData("1 234 567", "1234567")]
    [InlineData("١٢٫٥", "12.5")]
    [InlineData("١٬٢٣٤", "1234")]
    [InlineData("१२३", "123")]
    [InlineData("1٬234٫5", "1234.5")]
    [InlineData("3٫5", "3.5")]
    [InlineData("2   ½", "2.5")]
    [InlineData("1   234", "1234")]
    [InlineData("1e300", "1e300")]
    public void Numbers_are_read_as_they_are_written_in_many_places(string typed, string value) =>
        Assert.Contains(ExactNumber.Parse(value)!.Value, Numbers.Readings(typed, []));

    [Theory]
    [InlineData("1,234.567,8")]
    [InlineData("1.234.56")]
    [InlineData("12,34,567,8")]
    [InlineData("12.34.567")]
    [InlineData("1२")]
    [InlineData("1,23,456,7")]
    [InlineData("12,34,567,5")]
    [InlineData("-")]
    [InlineData("")]
    [InlineData("5D2")]
    [InlineData("½1")]
    [InlineData("1.5½")]
    [InlineData("⅟")]
    public void What_is_no_number_is_none(string typed) => Assert.Empty(Numbers.Readings(typed, []));

    [Fact]
    public void Units_are_exact_and_ten_to_the_power_of_three_hundred_is_allowed_still()
    {
        TypedNumber Seconds(decimal value) => new(value) { Units = [new("s", 1m), new("min", 60m), new("h", 3600m)] };
        Assert.True(Numbers.IsRight("⅓ min", Seconds(20)));
        Assert.True(Numbers.IsRight("2⅔ min", Seconds(160)));
        Assert.True(Numbers.IsRight("⅐ h", Seconds(3600m / 7) with { Within = ExactNumber.Parse("1e-20")!.Value }));
        Assert.False(Numbers.IsRight("⅓ min", Seconds(20.000000001m)));
        Assert.Null(new TypedNumber(ExactNumber.Parse("1e300")!.Value).Faults.FirstOrDefault());
        Assert.NotNull(new TypedNumber(ExactNumber.Parse("1.1e300")!.Value).Faults.FirstOrDefault());
        Assert.NotNull(new TypedNumber(ExactNumber.Parse("1e301")!.Value).Faults.FirstOrDefault());
    }

    [Fact]
    public void What_fits_nothing_at_an_earlier_check_is_said_in_a_sentence()
    {
        var pane = With(Labels("A"), Hidden("h", 300, "A"));
        var fault = ResponseSoundness.Fault(pane, Core.Model.Response.Empty with { Earlier = [Pins(("Z", 300))] });
        Assert.Equal("has something earlier that places the label 'Z', which the pane does not have", fault?.What);
    }

    [Fact]
    public void A_pane_on_which_too_many_pins_have_a_choice_is_not_published()
    {
        Pane Of(int labels, int? copies) =>
            With(
                Enumerable
                    .Range(0, labels)
                    .Select(n => new Label
                    {
                        Id = $"{n}",
                        Text = $"{n}",
                        Copies = copies,
                    }),
                [
                    .. Enumerable.Range(0, labels).Select(n => (Target)Hidden($"h{n}", 300, $"{n}")),
                    Region("r", 300, new WantCount(["0"], CountIs.AtLeast, 1)),
                ]
            );
        bool IsObstacle(Pane pane) => Readiness.Obstacles(Activity(pane)).Any(obstacle => obstacle.Said.Name == "proof.tooManyChoices");
        Assert.False(IsObstacle(Of(20, 1)));
        Assert.True(IsObstacle(Of(21, 1)));
        Assert.True(IsObstacle(Of(2, null)));
        Assert.False(IsObstacle(Of(30, 1) with { Targets = [.. Of(30, 1).Targets.OfType<HiddenZone>()] }));
    }

    [Fact]
    public void Capitals_of_units_matter_unless_the_teacher_lets_them_be()
    {
        var answer = new TypedNumber(5m) { Units = [new("MW", 1m)] };
        Assert.True(Numbers.IsRight("5 MW", answer));
        Assert.False(Numbers.IsRight("5 mW", answer));
        Assert.True(Numbers.IsRight("5 mW", answer with { IgnoreUnitCapitals = true }));
        Assert.True(Numbers.IsRight("5 m²", new(5m) { Units = [new("m²", 1m)] }));
    }

    [Theory]
    [InlineData("1234567890123456789012345678901", true)]
    [InlineData("1e301", true)]
    [InlineData("1e-301", true)]
    [InlineData("123456789012345678901234567890", false)]
    public void An_answer_has_up_to_thirty_digits_and_exponents_within_300(string value, bool refused) =>
        Assert.Equal(refused, new TypedNumber(ExactNumber.Parse(value)!.Value).Faults.Any());

    // Punctuation (9, 18)

    [Theory]
    [InlineData("half-tide", "half tide")]
    [InlineData("half‑tide", "half – tide")]
    [InlineData("o’clock", "oʼclock")]
    [InlineData("o´clock", "o`clock")]
    [InlineData("Hawaiʻi", "Hawai'i")]
    [InlineData("„rudder“", "rudder")]
    [InlineData("5−3", "5 3")]
    [InlineData("rud\u00ADder", "rudder")]
    [InlineData("12′", "12")]
    public void Where_punctuation_is_ignored_hyphens_are_blanks_and_apostrophes_nothing(string one, string other) =>
        Assert.Equal(Spellings.Fold(other, new(IgnorePunctuation: true)), Spellings.Fold(one, new(IgnorePunctuation: true)));

    [Fact]
    public void A_spelling_of_which_nothing_is_left_is_refused()
    {
        Assert.Contains(new TypedText([new("—")]) { Rules = new(IgnorePunctuation: true) }.Faults, fault =>
            fault.Contains("nothing is left")
        );
        Assert.Empty(new TypedText([new("—")]).Faults);
    }

    // Size (10)

    public static TheoryData<string, Pane> TooLarge =>
        new()
        {
            { "points", Pane(Labels("A"), Zone(1, "A", points: 1_000_000_001m)) },
            { "points", Pane(Labels("A"), Zone(1, "A", points: 0.1234567891m)) },
            { "weight", Pane(Labels("A"), Zone(1, "A")) with { Weight = 1e12m } },
            { "capacity", Pane(Labels("A"), Zone(1, "A", capacity: int.MaxValue)) },
            { "copies", Pane(Labels("A", copies: 10_001), Zone(1, "A")) },
            {
                "value",
                Pane(
                    [
                        new Label
                        {
                            Id = "A",
                            Text = "A",
                            Value = decimal.MaxValue,
                        },
                    ],
                    Zone(1, "A")
                )
            },
        };

    [Theory, MemberData(nameof(TooLarge))]
    public void Numbers_that_could_overflow_are_refused_with_their_place(string what, Pane pane) =>
        Assert.True(Soundness.Faults(Activity(pane)) is [{ Where: not "" }, ..], what);

    [Fact]
    public void The_largest_sound_activity_is_graded_without_an_overflow()
    {
        var pane = Pane(Labels("A B"), Zone(1, "A", points: Limits.LargestNumber), Zone(2, "B", points: Limits.LargestNumber)) with
        {
            Weight = Limits.LargestNumber,
        };
        var activity = Activity(pane, new() { MaximumGrade = Limits.LargestNumber, WrongCost = Limits.LargestNumber });
        Assert.Empty(Soundness.Faults(activity));
        Assert.Equal(500_000_000m, Scorer.Score(activity, On(pane, Response("A1"))).Grade);
        Assert.DoesNotContain(
            Proof.Read(pane with { Targets = [Zone(1, "A", capacity: Limits.MostCapacity)] }, new ScoreRules()),
            finding => finding.Weight == Weight.Error
        );
    }

    [Fact]
    public void A_pass_mark_above_the_maximum_grade_is_refused() =>
        Assert.Equal(
            "rules.score.passMark",
            Assert.Single(Soundness.Faults(Activity(Pane(Labels("A"), Zone(1, "A")), new() { MaximumGrade = 10, PassMark = 11 }))).Where
        );

    // Guessing (11)

    [Fact]
    public void Blind_sorting_lays_each_label_in_one_region_in_none_or_in_an_overlap()
    {
        // Two regions apart: left, right or none, so that each of two labels is where it belongs one time in three.
        var apart = With(Labels("A B"), Region("l", 150, new WantSet(["A"])), Region("r", 850, new WantSet(["B"])));
        Assert.InRange(Guessing.Of(apart, new(), 4000).Share, 0.18, 0.32);
        var distracted = With(Labels("A B C D E"), Region("l", 150, new WantSet(["A"])), Region("r", 850, new WantSet(["B"])));
        Assert.True(Guessing.Of(distracted, new(), 4000).Share < Guessing.Of(apart, new(), 4000).Share - 0.02);
    }

    // A blank note (12), and moments as events

    [Fact]
    public void A_blank_note_is_missed()
    {
        var pane = With([], new OpenNote { Id = "n", Region = new Circle(new(9, 9), 9) });
        Assert.Equal(
            TargetState.Missed,
            Checker.Check(pane, new() { Texts = ImmutableDictionary<string, string>.Empty.Add("n", "  \n ") }).Targets[0].State
        );
    }

    [Fact]
    public void While_something_waits_for_a_person_the_score_is_so_far_and_nobody_has_passed()
    {
        var pane = With([], new OpenNote { Id = "n", Region = new Circle(new(9, 9), 9) });
        var activity = Activity(pane, new() { PassMark = 0 });
        var written = On(pane, new() { Texts = ImmutableDictionary<string, string>.Empty.Add("n", "Words") });
        Assert.True(Scorer.Score(activity, written) is { IsSoFar: true, Passed: null });
        var awards = ImmutableDictionary<string, ImmutableArray<Award>>.Empty.Add(
            pane.Id,
            [new("n", 1, "a teacher", DateTimeOffset.UnixEpoch)]
        );
        Assert.True(Scorer.Score(activity, written, awards) is { IsSoFar: false, Passed: true });
    }

    [Fact]
    public void The_teachers_word_opens_what_waits_for_it_and_nothing_else()
    {
        var pane = Pane(Labels("A"), Zone(1, "A"));
        PaneWorkView See(Reach reach) =>
            WorkView
                .At(
                    reach,
                    new Seat(Activity(pane, reveal: new() { Marks = Moment.Released, Key = Moment.Closed }), 1),
                    On(pane, Response("A1"))
                )
                .Panes[0]!;
        Assert.True(See(new(Moment.HandedIn, IsReleased: true)) is { Marks: not null, Key: null });
        Assert.True(See(new(Moment.HandedIn, IsClosed: true)) is { Marks: null, Key: not null });
        // What tells the answer waits for the last attempt.
        Assert.True(See(new(Moment.HandedIn, IsClosed: true, IsReleased: true, MayBeginAgain: true)) is { Marks: null, Key: null });
    }

    [Fact]
    public void The_mean_of_several_attempts_is_rounded_once() =>
        Assert.Equal(3.34m, AttemptGrades.Of([3.334m, 3.337m], AttemptPolicy.Mean));

    // What a thousand of it cost

    [Fact]
    public void A_thousand_pins_of_one_label_are_no_more_work_than_can_earn()
    {
        var pane = With(Labels("A", copies: null), [.. Enumerable.Range(0, 12).Select(i => Hidden($"h{i}", 100 + i * 60, "A"))]);
        var pins = new Response { Pins = [.. Enumerable.Range(0, 1000).Select(i => new Pin("A", i, new(100 + i * 0.7, 300)))] };
        Assert.Equal(12, Checker.Check(pane, pins).Targets.Sum(mark => mark.Credit));
        var grouped = pane with
        {
            Targets = [.. pane.Targets.OfType<HiddenZone>().Select(zone => zone with { Group = "g", Capacity = 2 })],
        };
        Assert.Equal(1, Checker.Check(grouped, pins).Pins.Count(mark => mark.Verdict == Verdict.Right));
    }

    [Fact]
    public void What_one_attempt_may_pile_up_is_bounded()
    {
        var pane = With(Labels("A", copies: null), Hidden("h", 300, "A"), new OpenNote { Id = "n", Region = new Circle(new(9, 9), 9) });
        var full = new Response { Pins = [.. Enumerable.Range(0, Limits.MostOfOneLabel).Select(i => new Pin("A", i, new(i, 1)))] };
        Assert.Equal(Refused.TooManyCopies, MoveRules.Fit(pane, full, new PinDown("A", Limits.MostOfOneLabel, new(5, 5)))!.Why);
        Assert.Null(MoveRules.Fit(pane, full, new PinDown("A", 3, new(5, 5))));
        Assert.Equal(Refused.NoSuchCopy, MoveRules.Fit(pane, full, new PinDown("A", -1, new(5, 5)))!.Why);
        Assert.DoesNotContain("which has ;", ResponseSoundness.Fault(pane, new() { Pins = [new("A", -1, new(1, 1))] })!.What);
        Assert.EndsWith("counted from 0", ResponseSoundness.Fault(pane, new() { Pins = [new("A", -1, new(1, 1))] })!.What);
    }

    // Nothing of the key

    [Fact]
    public void Things_to_match_that_read_the_same_are_in_no_order_that_tells_which_belong_together()
    {
        var matching = new Matching
        {
            Id = "m",
            Left = [.. Enumerable.Range(0, 6).Select(i => new MatchItem($"a{i}", "Listen"))],
            Right = [.. Enumerable.Range(0, 6).Select(i => new MatchItem($"b{i}", "Look"))],
            Pairs = [.. Enumerable.Range(0, 6).Select(i => new Link($"a{i}", $"b{i}"))],
        };
        var pane = With([], matching);
        var right = Enumerable
            .Range(0, 600)
            .Sum(seed =>
            {
                var (left, other) = Aliases.For(pane, seed).Items(matching);
                return left.Zip(other).Count(row => row.First.Item.Id[1] == row.Second.Item.Id[1]);
            });
        // Row by row is as good as chance: one of six on average, within five standard deviations.
        Assert.InRange(right / 600.0, 0.8, 1.2);
    }
}
