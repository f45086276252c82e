using System.Collections.Immutable;
using Fenster.Core.Geometry;
using Fenster.Core.Insight;
using Fenster.Core.Model;
using Fenster.Core.Proofing;
using Fenster.Core.Revealing;
using Fenster.Core.Scoring;
using Fenster.Words;
using static Fenster.Core.Tests.Build;
using Lock = Fenster.Core.Model.Lock;

namespace Fenster.Core.Tests;

/// <summary>
/// Several panes: their own rules and order, the moves that play a key, the reading of all of them, and what each is in words.
/// </summary>
public sealed class PanesTests
{
    private static readonly RuleSentences InEnglish = new(Language.English);

    private static readonly ImmutableArray<Target> Everything =
    [
        new DropZone
        {
            Id = "zone",
            Region = new Rectangle(10, 10, 200, 90),
            Accepts = [new("a")],
        },
        new HiddenZone
        {
            Id = "hidden",
            Prompt = "planted-hidden",
            Region = new Circle(new(500, 300), 60),
            Accepts = [new("b")],
        },
        new Hotspots
        {
            Id = "spots",
            Prompt = "Mark both",
            Needed = 2,
            Spots = [new(new Circle(new(300, 500), 60)), new(new Circle(new(700, 500), 60))],
        },
        new AnswerBox
        {
            Id = "box",
            Region = new Rectangle(10, 600, 200, 90),
            Answer = new TypedText([new("planted-answer")]),
        },
        new QuestionPoint
        {
            Id = "choice",
            At = new(800, 100),
            Question = new ChoiceQuestion
            {
                Text = "Which?",
                Options = [new("x", "The right one", true), new("y", "Another", Feedback: "planted-feedback")],
            },
        },
        new QuestionPoint
        {
            Id = "number",
            At = new(800, 200),
            Question = new TypedQuestion { Text = "How many?", Answer = new TypedNumber(7) },
        },
        new ScalePoint
        {
            Id = "value",
            Scale = new(new(new(0, 700), new(1000, 700), 0, 10)),
            X = 4,
            Label = "c",
            Within = new(0.1),
        },
        new ScalePoint
        {
            Id = "mark",
            Prompt = "Mark 6",
            Scale = new(new(new(0, 700), new(1000, 700), 0, 10)),
            X = 6,
            Within = new(0.1),
        },
        new Matching
        {
            Id = "match",
            Left = [new("1", "One"), new("2", "Two")],
            Right = [new("i", "I"), new("ii", "II")],
            Pairs = [new("1", "i"), new("2", "ii")],
        },
        new SortRegion
        {
            Id = "region",
            Prompt = "Red things",
            Region = new Rectangle(600, 300, 300, 120),
            Want = new WantSet(["d"]),
        },
        new InfoSpot
        {
            Id = "info",
            At = new(100, 300),
            Text = "Look.",
        },
        new InfoSpot
        {
            Id = "concealed",
            Prompt = "planted-title",
            At = new(150, 400),
            Text = "planted-text",
            Link = "https://tideford.example/planted",
            Concealed = true,
        },
        new Lock
        {
            Id = "lock",
            At = new(900, 600),
            Code = new([new("planted-code")]),
            Inside = "planted-inside",
            Opens = ["behind"],
        },
        new QuestionPoint
        {
            Id = "behind",
            At = new(950, 650),
            Question = new ChoiceQuestion { Text = "planted-question", Options = [new("t", "True", true), new("f", "False")] },
        },
        new OpenNote { Id = "note", Region = new Rectangle(300, 600, 200, 90) },
    ];

    private static readonly Pane Full = Pane(Labels("a b c d")) with { Targets = Everything };

    [Theory]
    [InlineData(1)]
    [InlineData(42)]
    public void The_key_is_played_move_by_move_under_the_names_that_a_student_sees(long seed)
    {
        var activity = Activity(Full);
        var seat = new Seat(activity, seed);
        var responses = ImmutableDictionary<string, Response>.Empty;
        foreach (var move in MovesOf.Response(Full, Keys.Of(Full)))
        {
            var named = seat.Name(Full.Id, move);
            var (pane, resolved) = seat.Resolve(named.Pane, named.Move, out _)!.Value;
            responses = Progress.Make(activity, responses, pane, resolved).After;
        }
        var score = Scorer.Score(activity, responses);
        // All but the note, which waits for a person.
        Assert.Equal(score.Possible - 1, score.Score);
    }

    [Fact]
    public void A_blind_student_makes_moves_that_are_allowed()
    {
        var activity = Activity(Full);
        for (var i = 0; i < 50; i++)
        {
            var after = MovesOf
                .Response(Full, Guessing.Play(Full, new Random(i)))
                .Aggregate(ImmutableDictionary<string, Response>.Empty, (responses, move) =>
                    Progress.Make(activity, responses, Full.Id, move).After
                );
            Assert.InRange(Scorer.Score(activity, after).Score, 0, Full.PossiblePoints - 1);
        }
    }

    [Fact]
    public void Nothing_of_a_key_is_in_the_view_of_any_kind_before_its_moment()
    {
        var activity = Activity(Full);
        var view = System.Text.Json.JsonSerializer.Serialize<object>(
            StudentView.At(Moment.Placed, new Seat(activity, 3), ImmutableDictionary<string, Response>.Empty)
        );
        Assert.DoesNotContain("planted", view, StringComparison.OrdinalIgnoreCase);
        // What students are asked is there.
        Assert.Contains(
            "Mark both",
            System.Text.Json.JsonSerializer.Serialize<object[]>([
                .. StudentView.At(Moment.Placed, new Seat(activity, 3), ImmutableDictionary<string, Response>.Empty).Panes[0].Targets,
            ])
        );
    }

    [Fact]
    public void A_pane_of_its_own_rules_is_checked_and_scored_by_them()
    {
        var zone = Zone(1, "A");
        var pane = Pane(Labels("A B"), zone, Zone(2, "B"));
        var strict = pane with
        {
            Id = "strict",
            Rules = new RuleWords
            {
                Manner = ScoreManner.AllOrNothing,
                MaximumGrade = 99,
                Checks = 1,
            },
        };
        var activity = Activity(pane, new() { MaximumGrade = 10 }) with { Panes = [pane, strict] };
        var half = Response("A1");
        var score = Scorer.Score(activity, new Dictionary<string, Response> { [pane.Id] = half, ["strict"] = half });
        Assert.Equal([1, 0], score.Panes.Select(p => p.Score));
        // The grade is the activity's.
        Assert.Equal(10, score.MaximumGrade);
        Assert.Equal(Refused.NoChecks, Progress.Make(activity, On(pane, half), pane.Id, new PressCheck()).Refusal!.Why);
        Assert.Single(Progress.Make(activity, On(strict, half), "strict", new PressCheck()).After["strict"].Earlier);
        // The pane's word is marked as its own, the others are not.
        var words = InEnglish
            .ScoreWords(activity, strict)
            .Select(word => word.Choice)
            .OfType<WordChoice>()
            .ToDictionary(choice => choice.Path);
        Assert.True(words["score.manner"].IsOwn);
        Assert.False(words["score.wrongCost"].IsOwn);
        Assert.False(words.ContainsKey("score.maximumGrade"));
        Assert.Contains(
            new("1", "one check"),
            InEnglish.CheckWords(activity, strict).Select(word => word.Choice).OfType<WordChoice>().Single().Options
        );
    }

    [Fact]
    public void Each_target_says_in_words_what_counts_there_and_marks_what_is_not_usual()
    {
        string Said(Target target) => string.Concat(TargetSentences.Of(Language.English, Full, target).Select(word => word.Text));
        WordChoice Word(Target target, string path) =>
            TargetSentences
                .Of(Language.English, Full, target)
                .Select(word => word.Choice)
                .OfType<WordChoice>()
                .Single(choice => choice.Path == path);
        var hidden = new HiddenZone
        {
            Id = "h",
            Region = new Circle(new(5, 5), 5),
            Accepts = [new(Full.Labels[0].Id, 0.5m)],
            Points = 2,
            Tolerance = new(20) { Bands = [new(40, 0.25m)] },
        };
        Assert.Equal(
            "A pin counts when its tip is at most 20 pu outside this place. Part credit reaches 40 pu outside this "
                + $"place: 25 %. “{Full.Labels[0].Text}” earns 50 %. The place takes 1 label. It may be left open. It is worth 2 points.",
            Said(hidden)
        );
        Assert.True(Word(hidden, "points").IsOwn && Word(hidden, "slack").IsOwn && Word(hidden, "credit").IsOwn);
        Assert.Equal(("2", "1"), (Word(hidden, "points").Value, Word(hidden, "points").Usual));
        Assert.False(Word(hidden, "capacity").IsOwn);
        Assert.Contains("reaches nowhere.", Said(hidden with { Tolerance = Tolerance.None }));
        Assert.StartsWith(
            "Students mark any 1 of the 2 places.",
            Said(
                new Hotspots
                {
                    Id = "s",
                    Needed = 1,
                    Spots = [new(new Circle(new(5, 5), 5)), new(new Circle(new(50, 5), 5))],
                }
            )
        );
        var box = new AnswerBox
        {
            Id = "b",
            Region = new Circle(new(5, 5), 5),
            Answer = new TypedText([new("gaff")]) { Rules = new(ForgiveSlips: true) },
        };
        Assert.Equal(
            "What is typed counts when it is one of the accepted answers. Capitals make no difference, accents must "
                + "be right, hyphens and dots must be right. Small slips are forgiven. It may be left open. It is worth 1 point.",
            Said(box)
        );
        Assert.True(Word(box, "rules.forgiveSlips").IsOwn);
        var two = box with { Answer = new TypedText([new("gaff"), new("spar", 0.5m)]) };
        Assert.StartsWith(
            "What is typed counts when it is one of the accepted answers. “gaff” earns 100 %. “spar” earns 50 %. Capitals",
            Said(two)
        );
        Assert.True(Word(two, "spelling.1").IsOwn && !Word(two, "spelling.0").IsOwn);
        Assert.Equal(
            "The number counts when it is at most 0.1 off, or at most 5 % of the answer. It may be left open. It is worth 1 point.",
            Said(
                box with
                {
                    Answer = new TypedNumber(2.5m) { Within = 0.1m, WithinShare = 0.05m },
                }
            )
        );
        Assert.StartsWith(
            "It counts when a number of its labels lie in it: at least 2.",
            Said(
                new SortRegion
                {
                    Id = "r",
                    Region = new Circle(new(5, 5), 5),
                    Want = new WantCount([], CountIs.AtLeast, 2),
                }
            )
        );
        Assert.StartsWith(
            "It counts when values that add up lie in it: from 60 to 60.",
            Said(
                new SortRegion
                {
                    Id = "r",
                    Region = new Circle(new(5, 5), 5),
                    Want = new WantTotal(60, 60),
                }
            )
        );
        // Not scored, not worth anything.
        var spot = new Lock
        {
            Id = "l",
            At = new(1, 1),
            Code = new([new("7")]),
            Scored = false,
        };
        Assert.EndsWith("Opening it earns nothing. It may be left open.", Said(spot));
        Assert.Empty(
            TargetSentences.Of(
                Language.English,
                Full,
                new InfoSpot
                {
                    Id = "i",
                    At = new(1, 1),
                    Text = "x",
                }
            )
        );
    }

    [Fact]
    public void Every_kind_of_target_on_a_pane_can_be_said()
    {
        Assert.All(Full.Targets.Where(target => target.IsScored), target =>
            Assert.EndsWith(
                target.Points == 1 ? "worth 1 point." : " points.",
                string.Concat(TargetSentences.Of(Language.English, Full, target).Select(word => word.Text))
            )
        );
    }

    [Fact]
    public void Panes_are_shuffled_for_each_attempt_and_the_same_for_the_same_one()
    {
        var panes = Enumerable
            .Range(1, 6)
            .Select(i =>
                Pane(Labels("A"), Zone(1, "A")) with
                {
                    Id = $"pane-{i}",
                    LabelSize = i == 1 ? LabelSize.Large : LabelSize.Medium,
                }
            );
        var activity = Activity(Pane([])) with { Panes = [.. panes], PaneOrder = PaneOrder.Shuffled };
        int PlaceOfFirst(long seed) =>
            StudentView
                .At(Moment.Placed, new Seat(activity, seed), ImmutableDictionary<string, Response>.Empty)
                .Panes.ToList()
                .FindIndex(pane => pane.LabelSize == LabelSize.Large);
        Assert.Equal(PlaceOfFirst(7), PlaceOfFirst(7));
        Assert.Equal(6, Enumerable.Range(0, 100).Select(seed => PlaceOfFirst(seed)).Distinct().Count());
        // A move goes to the pane that the student saw it on.
        var first = PlaceOfFirst(7);
        Assert.Equal("pane-1", new Seat(activity, 7).Resolve($"p{first + 1}", new PutDown("l1", 0, "z1"), out _)!.Value.Pane);
    }

    [Fact]
    public void The_reading_names_each_pane_and_what_mends_it()
    {
        var one = Pane(Labels("A")) with
        {
            Id = "one",
            Targets =
            [
                new HiddenZone
                {
                    Id = "1",
                    Region = new Rectangle(10, 10, 20, 20),
                    Accepts = [new("A")],
                },
            ],
        };
        var activity = Activity(one) with { Panes = [one, new Pane { Id = "two" }] };
        var remarks = Reading.Of(activity).Remarks;
        Assert.Contains(remarks, remark => remark is { Pane: 0, About: "1", Mend: Mend.Enlarge, Blocks: false });
        Assert.Contains(remarks, remark => remark is { Pane: 0, About: null, Mend: Mend.WriteAltText });
        Assert.Contains(remarks, remark => remark is { Pane: 1, Blocks: true });
        Assert.Contains(
            "guessing earns 1 of 1 points, 100 %",
            Language.English.Say(Reading.Of(Activity(Pane(Labels("A"), Zone(1, "A")))).Guess)
        );
        // Where nothing is scored there is nothing to guess.
        var learning = Reading.Of(Activity(Pane(Labels("A"), Zone(1, "A"))) with { Purpose = Purpose.LearningOnly });
        Assert.Equal("Nothing is scored.", Language.English.Say(learning.Guess));
        Assert.DoesNotContain(learning.Remarks, remark => remark.Sentence.Contains("guessing"));
        // Matching needs no picture.
        Assert.DoesNotContain(
            Reading.Of(Activity(new Pane { Id = "m", Targets = [Everything.OfType<Matching>().Single()] })).Remarks,
            remark => remark.Blocks
        );
    }

    [Fact]
    public void What_is_not_ready_is_named_for_every_kind()
    {
        var spoilt = Full with
        {
            Targets =
            [
                Everything[0],
                ((InfoSpot)Everything[10]) with
                {
                    Text = " ",
                },
                ((QuestionPoint)Everything[5]) with
                {
                    Question = new TypedQuestion { Text = "", Answer = new TypedNumber(7) },
                },
                ((Matching)Everything[8]) with
                {
                    Left = [new("1", ""), new("2", "Two")],
                },
                ((Lock)Everything[12]) with
                {
                    At = new(5000, 5),
                    Opens = [],
                },
            ],
        };
        var about = Readiness.Obstacles(Activity(spoilt)).Select(obstacle => obstacle.About).ToList();
        Assert.Equal(["lock", "match", "number", "info"], about.Where(id => id is not null && !"abcd".Contains(id)));
        Assert.Empty(Readiness.Obstacles(Activity(Full)));
    }

    [Fact]
    public void A_target_is_said_in_words()
    {
        var key = Keys.Of(Full);
        var words = Everything.ToDictionary(target => target.Id, target => TargetWords.Of(Language.English, Full, target, key));
        Assert.Equal(("Label a", "Label a"), (words["zone"].Key, words["zone"].Given));
        Assert.Equal(("Mark both", "all 2", "2 marks"), (words["spots"].Name, words["spots"].Key, words["spots"].Given));
        Assert.Equal("The right one", words["choice"].Given);
        Assert.Equal(("4", "4"), (words["value"].Key, words["value"].Given));
        Assert.Equal("One – I; Two – II", words["match"].Given);
        Assert.Equal(("Red things", "Label d", "Label d"), (words["region"].Name, words["region"].Key, words["region"].Given));
        Assert.Equal("", TargetWords.Of(Language.English, Full, Everything[3], Model.Response.Empty).Given);
    }

    [Fact]
    public void Learning_only_has_no_score_and_says_so()
    {
        var activity = Activity(Full) with { Purpose = Purpose.LearningOnly };
        var view = StudentView.At(Moment.Released, new Seat(activity, 1), On(Full, Keys.Of(Full)));
        Assert.Null(view.Work.Score);
        Assert.Equal("This is there to learn from: nothing is scored or handed in.", InEnglish.Short(activity));
        Assert.Equal("It is there to learn from: nothing is scored or handed in.", InEnglish.Score(activity));
    }

    [Fact]
    public void A_clip_that_ends_before_it_begins_is_refused()
    {
        var hash = new string('0', 64);
        Activity With(Face face) =>
            Activity(
                Pane([
                    new()
                    {
                        Id = "a",
                        Text = "A",
                        Face = face,
                    },
                ])
            );
        Assert.Empty(Soundness.Faults(With(new SoundFace(hash, 1, 2))));
        Assert.NotEmpty(Soundness.Faults(With(new SoundFace(hash, 2, 2))));
        Assert.NotEmpty(Soundness.Faults(With(new SoundFace(hash, -1))));
        Assert.NotEmpty(Soundness.Faults(With(new VideoFace(hash, 0, 10))));
        Assert.NotEmpty(Soundness.Faults(With(new VideoFace(hash, 10, 10, Captions: "x"))));
        Assert.NotEmpty(
            Soundness.Faults(Activity(Full with { Targets = [((InfoSpot)Everything[10]) with { Link = "javascript:alert(1)" }] }))
        );
        Assert.NotEmpty(Soundness.Faults(Activity(Full with { Rules = new RuleWords { Key = Moment.Placed } })));
    }
}
