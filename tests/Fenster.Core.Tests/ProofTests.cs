using Fenster.Core.Checking;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Fenster.Core.Proofing;
using Fenster.Core.Scoring;
using static Fenster.Core.Tests.Build;
using Lock = Fenster.Core.Model.Lock;

namespace Fenster.Core.Tests;

public sealed class ProofTests
{
    private static readonly ScoreRules Usual = new();

    private static GuessScore Guess(Pane pane) => Guessing.Of(pane, Usual);

    private static IReadOnlyList<Finding> Read(Pane pane) => Proof.Read(pane, Usual);

    private static Pane Blank(params Target[] targets) =>
        Pane([]) with
        {
            Picture = new(new string('a', 64), 1000, 750, "A drawing"),
            Targets = [.. targets],
        };

    internal static Response KeyAnswers => Keys.Of(EveryKind);

    /// <summary>A pane with every kind of target, all of which can be earned.</summary>
    internal static Pane EveryKind { get; } =
        Blank(
            Zone(1, "A"),
            Zone(2, "B C", group: "g"),
            Zone(3, "C B", group: "g"),
            Zone(4, "D E=0.5", capacity: 1),
            new HiddenZone
            {
                Id = "hidden",
                Region = new Polygon([new(600, 300), new(700, 300), new(700, 400), new(690, 310)]),
                Accepts = [new("P")],
            },
            new Hotspots
            {
                Id = "spots",
                Needed = 2,
                Spots = [new(new Circle(new(100, 500), 30)), new(new Circle(new(200, 500), 30)), new(new Circle(new(300, 500), 30))],
            },
            new AnswerBox
            {
                Id = "words",
                Region = new Circle(new(400, 500), 30),
                Answer = new TypedText([new("mast"), new("spar", 0.5m)]),
            },
            new AnswerBox
            {
                Id = "number",
                Region = new Circle(new(500, 500), 30),
                Answer = new TypedNumber(2.5m),
            },
            new QuestionPoint
            {
                Id = "choice",
                At = new(5, 5),
                Question = new ChoiceQuestion { Text = "?", Options = [new("x", "X", true), new("y", "Y"), new("z", "Z")] },
            },
            new QuestionPoint
            {
                Id = "typed",
                At = new(9, 5),
                Question = new TypedQuestion { Text = "?", Answer = new TypedText([new("yes")]) },
            },
            new Lock
            {
                Id = "lock",
                At = new(20, 20),
                Code = new([new("1815")]),
            },
            new ScalePoint
            {
                Id = "scale",
                Scale = new(new(new(100, 700), new(900, 700), 1, 10_000, AxisKind.Logarithmic)),
                X = 250,
                Within = new(1),
            },
            new ScalePoint
            {
                Id = "grid",
                Scale = new(new(new(100, 600), new(500, 600), 0, 10), new(new(100, 600), new(300, 200), 0, 4)),
                X = 3,
                Y = 2,
                Within = new(0.01),
                Label = "S",
            },
            new Matching
            {
                Id = "match",
                Left = [new("l1", "One"), new("l2", "Two")],
                Right = [new("r1", "I"), new("r2", "II")],
                Pairs = [new("l1", "r1"), new("l2", "r2")],
            },
            new SortRegion
            {
                Id = "left",
                Region = new Circle(new(300, 300), 80),
                Want = new WantSet(["L", "M"]),
            },
            new SortRegion
            {
                Id = "right",
                Region = new Circle(new(400, 300), 80),
                Want = new WantSet(["M"]),
            },
            new SortRegion
            {
                Id = "total",
                Region = new Circle(new(850, 150), 60),
                Want = new WantTotal(60, 60),
            },
            new InfoSpot
            {
                Id = "info",
                At = new(1, 1),
                Text = "Read me",
            }
        ) with
        {
            Labels =
            [
                .. Labels("A B C D E P S L M"),
                .. ((decimal[])[25, 25, 10, 15]).Select(
                    (kg, i) =>
                        new Label
                        {
                            Id = $"bag{i}",
                            Text = $"Bag {i} of {kg} kg",
                            Value = kg,
                        }
                ),
            ],
        };

    [Fact]
    public void The_key_of_every_kind_earns_full_marks_and_nothing_earns_nothing()
    {
        var key = Keys.Of(EveryKind);
        var marks = Checker.Check(EveryKind, key);
        Assert.All(EveryKind.Targets.Zip(marks.Targets).Where(pair => pair.First.IsScored), pair =>
            Assert.True(pair.Second.Credit == 1, $"{pair.First.Id} has {pair.Second.Credit}")
        );
        Assert.Equal(0, marks.WrongActions);
        Assert.Equal(EveryKind.PossiblePoints, Scorer.Score(EveryKind, key, marks, new() { WrongCost = 1 }).Score);
        Assert.DoesNotContain(Read(EveryKind), finding => finding.Weight == Weight.Error);
    }

    [Fact]
    public void What_can_not_be_earned_is_an_error_that_names_it()
    {
        var pane = Pane(Labels("A"), Zone(1, "A"), Zone(2, "A"));
        Assert.Contains(Read(pane), finding => finding is { Weight: Weight.Error, About: "2" });
    }

    [Fact]
    public void Four_zones_and_four_labels_give_one_point_away_and_five_with_seven_labels_five_sevenths()
    {
        Assert.Equal(1, Guess(Pane(Labels("A B C D"), Zone(1, "A"), Zone(2, "B"), Zone(3, "C"), Zone(4, "D"))).Points, 1e-12);
        Assert.Equal(
            5 / 7.0,
            Guess(Pane(Labels("A B C D E F G"), Zone(1, "A"), Zone(2, "B"), Zone(3, "C"), Zone(4, "D"), Zone(5, "E"))).Points,
            1e-12
        );
    }

    /// <summary>A random permutation has one fixed point on average, whatever its length: de Montmort's problem of 1708.</summary>
    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(9)]
    public void As_many_labels_as_zones_give_one_point_away_whatever_their_number(int n)
    {
        var letters = "ABCDEFGHI"[..n].Select(letter => $"{letter}").ToList();
        Assert.Equal(
            1,
            Guess(Pane(Labels(string.Join(' ', letters)), [.. letters.Select((letter, i) => Zone(i + 1, letter))])).Points,
            1e-12
        );
    }

    [Fact]
    public void One_hidden_circle_of_radius_65_on_a_picture_of_1000_by_750_gives_1_77_percent_away()
    {
        var pane = Pane(Labels("A")) with
        {
            Targets =
            [
                new HiddenZone
                {
                    Id = "h",
                    Region = new Circle(new(300, 300), 65),
                    Accepts = [new("A")],
                },
            ],
        };
        Assert.Equal(0.0177, Guess(pane).Share, 0.00005);
    }

    [Fact]
    public void What_guessing_earns_agrees_with_dealing_the_labels_at_random()
    {
        var random = new Random(41);
        var pane = Pane(
            Labels("A B", copies: 2).Concat(Labels("C D E")),
            Zone(1, "A"),
            Zone(2, "A", points: 3),
            Zone(3, "B C"),
            Zone(4, "D=0.5")
        );
        var bank = pane.Labels.SelectMany(label => Enumerable.Range(0, label.Copies!.Value).Select(copy => (label.Id, copy))).ToArray();
        const int Deals = 20_000;
        var scores = Enumerable
            .Range(0, Deals)
            .Select(_ =>
            {
                random.Shuffle(bank);
                var response = new Response
                {
                    Placements = [.. bank.Take(4).Select((label, i) => new Placement(label.Id, label.copy, $"{i + 1}"))],
                };
                return (double)Scorer.Score(pane, response, Checker.Check(pane, response), new()).Score;
            })
            .ToList();
        var mean = scores.Average();
        var error = Math.Sqrt(scores.Sum(score => (score - mean) * (score - mean)) / Deals / Deals);
        Assert.InRange(Guess(pane).Points, mean - 4 * error, mean + 4 * error);
    }

    /// <summary>Guessing earns the same whether it is worked out or played out, for every kind that can be worked out.</summary>
    [Fact]
    public void What_is_worked_out_agrees_with_what_is_played_out()
    {
        // A cost too small to be seen makes the whole pane one that must be played out.
        var played = Usual with { WrongCost = 1e-12m };
        Pane[] panes =
        [
            Blank(
                new HiddenZone
                {
                    Id = "h",
                    Region = new Rectangle(900, 100, 300, 200, 20),
                    Accepts = [new("A", 0.5m)],
                }
            ) with
            {
                Labels = [.. Labels("A")],
            },
            Blank(
                new HiddenZone
                {
                    Id = "h",
                    Region = new Circle(new(300, 300), 150),
                    Accepts = [new("A")],
                    Tolerance = new(20) { Bands = [new(80, 0.5m), new(50, 0.25m)] },
                }
            ) with
            {
                Labels = [.. Labels("A")],
            },
            Blank(
                new Hotspots
                {
                    Id = "s",
                    Needed = 2,
                    Spots =
                    [
                        new(new Circle(new(200, 200), 150)),
                        new(new Circle(new(700, 300), 200)),
                        new(new Ellipse(new(250, 600), 200, 100)),
                    ],
                }
            ),
            Blank(
                new QuestionPoint
                {
                    Id = "q",
                    At = new(5, 5),
                    Question = new ChoiceQuestion { Text = "?", Options = [new("x", "X", true), new("y", "Y"), new("z", "Z")] },
                }
            ),
            Blank(
                new Matching
                {
                    Id = "m",
                    Left = [new("1", "1"), new("2", "2"), new("3", "3")],
                    Right = [new("a", "a"), new("b", "b"), new("c", "c"), new("d", "d")],
                    Pairs = [new("1", "a"), new("2", "b")],
                }
            ),
            Pane(Labels("A B C"), Zone(1, "A"), Zone(2, "B C=0.5"), Zone(3, "C"), Zone(4, "A"), Zone(5, "B")),
        ];
        foreach (var pane in panes)
        {
            var (exact, play) = (Guess(pane), Guessing.Of(pane, played, plays: 20_000));
            Assert.Equal(0, exact.ShareError);
            Assert.InRange(play.ShareError, 1e-6, 0.01);
            Assert.InRange(exact.Share, play.Share - 4 * play.ShareError, play.Share + 4 * play.ShareError);
        }
    }

    /// <summary>Three right options of five, each picked one time in two: the mean over all 32 ways, counted here.</summary>
    [Fact]
    public void A_multiple_choice_is_played_out_and_says_how_far_it_may_be_off()
    {
        var pane = Blank(
            new QuestionPoint
            {
                Id = "q",
                At = new(5, 5),
                Question = new ChoiceQuestion
                {
                    Text = "?",
                    Multiple = true,
                    Options = [new("a", "A", true), new("b", "B", true), new("c", "C", true), new("d", "D"), new("e", "E")],
                },
            }
        );
        var mean = Enumerable.Range(0, 32).Average(ways => Math.Max(0, int.PopCount(ways & 7) - int.PopCount(ways >> 3)) / 3.0);
        var guess = Guessing.Of(pane, Usual, plays: 20_000);
        Assert.InRange(guess.Share, mean - 4 * guess.ShareError, mean + 4 * guess.ShareError);
        Assert.InRange(Guess(pane).ShareError, 0.001, 0.05);
        Assert.Equal(Guess(pane), Guess(pane));
    }

    [Fact]
    public void All_or_nothing_leaves_little_to_guessing()
    {
        // Of the 24 ways to deal four labels one is right.
        var pane = Pane(Labels("A B C D"), Zone(1, "A"), Zone(2, "B"), Zone(3, "C"), Zone(4, "D"));
        var guess = Guessing.Of(pane, new() { Manner = ScoreManner.AllOrNothing }, plays: 20_000);
        Assert.InRange(guess.Share, 1 / 24.0 - 4 * guess.ShareError, 1 / 24.0 + 4 * guess.ShareError);
    }

    [Fact]
    public void A_label_that_nobody_can_place_is_found()
    {
        var pane = Blank(
            new Hotspots
            {
                Id = "s",
                Needed = 1,
                Spots = [new(new Circle(new(200, 200), 150))],
            }
        ) with
        {
            Labels = [.. Labels("A")],
        };
        Assert.Contains(Read(pane), finding =>
            finding is { Weight: Weight.Warning, About: "A" } && finding.Sentence.Contains("Nobody can place")
        );
        Assert.DoesNotContain(Read(Pane(Labels("A"), Zone(1, "A"))), finding => finding.Sentence.Contains("Nobody can place"));
    }

    /// <summary>
    /// Common practice: a drop circle of 35 to 40 px on a picture under 600 px wide, which is about 65 pu. Wide enough to be
    /// hit on a tablet, and narrow enough to give little away.
    /// </summary>
    [Fact]
    public void The_customary_hidden_circle_can_be_hit_and_gives_little_away()
    {
        var pane = Pane(Labels("A")) with
        {
            Targets =
            [
                new HiddenZone
                {
                    Id = "h",
                    Region = new Circle(new(300, 300), 65),
                    Accepts = [new("A")],
                },
            ],
        };
        Assert.InRange(65 * 2 * 0.6 / 2, 35, 40);
        Assert.DoesNotContain(Read(pane), finding => finding.About == "h" && finding.Weight == Weight.Warning);
        Assert.InRange(Guess(pane).Share, 0.01, 0.02);
    }

    /// <summary>WCAG 2.2, success criterion 2.5.8: 24 by 24 CSS pixels. On a phone 360 px wide that is 66⅔ pu.</summary>
    [Theory]
    [InlineData(66.5, true)]
    [InlineData(66.8, false)]
    public void The_smallest_target_is_that_of_the_success_criterion(double side, bool warned)
    {
        var pane = Pane(Labels("A")) with
        {
            Targets =
            [
                new AnswerBox
                {
                    Id = "1",
                    Region = new Rectangle(10, 10, side, side),
                    Answer = new TypedText([new("A")]),
                },
            ],
        };
        Assert.Equal(
            warned,
            Read(pane).Any(finding => finding is { Weight: Weight.Warning, About: "1" } && finding.Sentence.Contains("a phone"))
        );
    }

    [Fact]
    public void More_than_a_quarter_by_guessing_is_warned_of()
    {
        Assert.Contains(Read(Pane(Labels("A B"), Zone(1, "A"), Zone(2, "B"))), finding => finding.Sentence.Contains("guessing earns 50 %"));
        Assert.DoesNotContain(Read(Pane(Labels("A B C D E"), Zone(1, "A"))), finding => finding.Sentence.Contains("guessing"));
    }

    [Theory]
    [InlineData(60, Weight.Warning)]
    [InlineData(100, Weight.Advice)]
    [InlineData(130, null)]
    public void A_zone_that_a_finger_can_not_hit_on_a_phone_is_warned_of(double side, Weight? weight)
    {
        var pane = Pane(Labels("A")) with
        {
            Targets =
            [
                new HiddenZone
                {
                    Id = "1",
                    Region = new Rectangle(10, 10, 300, side),
                    Accepts = [new("A")],
                },
            ],
        };
        Assert.Equal(
            weight,
            Read(pane)
                .Where(finding => finding.Sentence.Contains("pixels") && finding.About == "1")
                .Select(finding => (Weight?)finding.Weight)
                .FirstOrDefault()
        );
    }

    /// <summary>A finger takes the shown zone that is nearest, so that a low one alone is no trouble, and two close together are.</summary>
    [Theory]
    [InlineData(66, true)]
    [InlineData(67, false)]
    public void Shown_zones_are_warned_of_when_they_crowd(double apart, bool warned)
    {
        var pane = Pane(
            Labels("A B"),
            Zone(1, "A") with
            {
                Region = new Rectangle(10, 10, 300, 20),
            },
            Zone(2, "B") with
            {
                Region = new Rectangle(10, 10 + apart, 300, 20),
            }
        );
        Assert.Equal(
            warned,
            Read(pane).Any(finding => finding is { Weight: Weight.Warning, About: "1" } && finding.Sentence.Contains("from another zone"))
        );
    }

    [Fact]
    public void Overlapping_zones_like_labels_and_an_alt_text_that_gives_answers_away_are_found()
    {
        var pane = Pane(
            [new() { Id = "a", Text = "Forestay" }, new() { Id = "b", Text = "Forestey" }, new() { Id = "c", Text = "forestay " }],
            Zone(1, "a") with
            {
                Region = new Circle(new(300, 300), 60),
            },
            Zone(2, "b") with
            {
                Region = new Circle(new(330, 300), 60),
            }
        ) with
        {
            Picture = new(new string('a', 64), 400, 300, "A boat with its forestay in red"),
        };
        var found = Read(pane);
        Assert.Contains(found, finding => finding is { Weight: Weight.Error, About: "c" });
        Assert.Contains(found, finding => finding is { Weight: Weight.Advice, About: "b" } && finding.Sentence.Contains("one character"));
        Assert.Contains(found, finding => finding.Sentence.Contains("another zone"));
        Assert.Contains(found, finding => finding.Sentence.Contains("gives an answer away"));
        Assert.Contains(found, finding => finding.Sentence.Contains("only 400 pixels wide"));
        Assert.True(found.Zip(found.Skip(1)).All(pair => pair.First.Weight >= pair.Second.Weight));
    }

    [Theory]
    [InlineData(85, 120, true)]
    [InlineData(300, 120, false)]
    [InlineData(500, 520, true)]
    [InlineData(500, 640, false)]
    [InlineData(260, 700, true)]
    [InlineData(300, 700, false)]
    public void A_label_that_begins_where_it_belongs_is_found(double x, double y, bool found)
    {
        var scale = new Scale(new(new(100, 700), new(900, 700), 0, 10));
        var pane = Blank(
            Zone(1, "A"),
            new HiddenZone
            {
                Id = "2",
                Region = new Circle(new(500, 500), 15),
                Accepts = [new("B")],
                Tolerance = new(10),
            },
            new ScalePoint
            {
                Id = "3",
                Scale = scale,
                X = 2,
                Label = "C",
                Within = new(0.1),
            }
        ) with
        {
            Labels = [.. Labels("A B C").Select(label => label with { Start = new(x, y) })],
        };
        Assert.Equal(found, Read(pane).Any(finding => finding is { Weight: Weight.Warning, Mend: Mend.IntoBank }));
    }

    [Fact]
    public void A_small_picture_is_told_by_its_own_pixels_whatever_was_painted_onto_it()
    {
        var painted = new Picture(new string('a', 64), 1600, 1200, "A drawing")
        {
            Preparation = new(new string('b', 64), 800, 600) { Crop = new(0, 0, 500, 375) },
        };
        Assert.Equal(400, painted.OwnWidth);
        Assert.Contains(Read(Blank() with { Picture = painted }), finding => finding.Sentence.Contains("only 400 pixels wide"));
        Assert.Equal(1600, (painted with { Preparation = new(new string('b', 64), 3000, 2250) }).OwnWidth);
    }

    /// <summary>
    /// Pairs that are quoted with WCAG's definition of contrast, from memory: #767676 is the lightest grey that passes on white.
    /// </summary>
    [Theory]
    [InlineData(0, 0, 0, 21)]
    [InlineData(255, 255, 255, 1)]
    [InlineData(118, 118, 118, 4.54)]
    [InlineData(119, 119, 119, 4.48)]
    public void Contrast_on_white_is_as_wcag_defines_it(byte r, byte g, byte b, double ratio)
    {
        Assert.Equal(ratio, Proof.Contrast((r, g, b), (255, 255, 255)), 0.005);
        Assert.Equal(ratio, Proof.Contrast((255, 255, 255), (r, g, b)), 0.005);
    }

    [Fact]
    public void Of_twenty_panes_only_the_one_that_changed_is_read_again()
    {
        Pane Numbered(int i) => EveryKind with { Id = $"p{i}" };
        var activity = Activity(Numbered(0)) with { Panes = [.. Enumerable.Range(0, 20).Select(Numbered)] };
        var known = new Dictionary<PaneInQuestion, PaneReading>();
        var reads = 0;
        PaneReading Recall(PaneInQuestion question, Func<PaneReading> read)
        {
            if (!known.TryGetValue(question, out var reading))
            {
                reads++;
                known[question] = reading = read();
            }
            return reading;
        }
        Reading.Of(activity, Recall);
        Assert.Equal(20, reads);
        var changed = activity with { Panes = activity.Panes.SetItem(7, Blank()) };
        var recalled = Reading.Of(changed, Recall);
        Assert.Equal(21, reads);
        var anew = Reading.Of(changed);
        Assert.Equal(anew.Remarks, recalled.Remarks);
        Assert.Equal(anew.Guess, recalled.Guess);
        Assert.Contains(recalled.Remarks, remark => remark.Pane == 7);
        // Under other rules everything is read again.
        Reading.Of(changed with { Rules = changed.Rules with { Score = new() { WrongCost = 0.5m } } }, Recall);
        Assert.Equal(41, reads);
    }
}
