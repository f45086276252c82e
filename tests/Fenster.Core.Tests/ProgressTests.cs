using System.Collections.Immutable;
using Fenster.Core.Checking;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Fenster.Core.Revealing;
using Fenster.Words;
using static Fenster.Core.Tests.Build;
using Lock = Fenster.Core.Model.Lock;

namespace Fenster.Core.Tests;

/// <summary>Checking before handing in, feedback and explanations, and what is concealed.</summary>
public sealed class ProgressTests
{
    private static readonly Pane Three = Pane(Labels("A B C D"), Zone(1, "A"), Zone(2, "B"), Zone(3, "C"));

    private static readonly Rules Practice = new()
    {
        Check = new(Checks: 2),
        Reveal = new() { Marks = Moment.Checked, Score = Moment.LastTry },
    };

    private static Response Play(Rules rules, Pane pane, params Move[] moves) =>
        moves.Aggregate(Core.Model.Response.Empty, (response, move) => Progress.Make(rules, pane, response, move).After);

    /// <summary>Why the last of some moves is not made.</summary>
    private static Refused? WhyNot(Rules rules, Pane pane, params Move[] moves) =>
        Progress.Make(rules, pane, Play(rules, pane, moves[..^1]), moves[^1]).Refusal?.Why;

    private static PaneWorkView See(Rules rules, Pane pane, Response response, Moment moment = Moment.Placed) =>
        Work(rules, pane, response, moment).Panes[0]!;

    private static WorkView Work(Rules rules, Pane pane, Response response, Moment moment = Moment.Placed) =>
        WorkView.At(moment, new Seat(Activity(pane) with { Rules = rules }, 4), On(pane, response));

    private static PutDown Put(string labelAndZone) => new(labelAndZone[..1], 0, labelAndZone[1..]);

    [Fact]
    public void A_check_shows_right_and_wrong_of_what_was_checked_and_of_nothing_that_came_later()
    {
        Assert.Null(See(Practice, Three, Play(Practice, Three, Put("A1"), Put("C2"))).Marks);

        var response = Play(Practice, Three, Put("A1"), Put("C2"), new PressCheck(), Put("B2"), Put("D3"));
        var seen = See(Practice, Three, response);
        Assert.Equal([Verdict.Right, null, null], seen.Marks!.Placed.AsEnumerable());
        Assert.Equal([TargetState.Earned], seen.Marks.Zones.Select(zone => zone.State));
        Assert.Equal(1, seen.ChecksLeft);
        Assert.True(seen.Open);
    }

    [Fact]
    public void The_last_try_is_reached_with_the_last_check_that_is_allowed()
    {
        var once = Play(Practice, Three, Put("A1"), new PressCheck());
        Assert.Null(Work(Practice, Three, once).Score);
        var twice = Progress.Make(Practice, Three, Progress.Make(Practice, Three, once, Put("C2")).After, new PressCheck()).After;
        Assert.Equal(1, Work(Practice, Three, twice).Score!.Score);
        // The score is of what was checked, not of what was put down afterwards.
        Assert.Equal(1, Work(Practice, Three, Progress.Make(Practice, Three, twice, Put("B2")).After).Score!.Score);
        Assert.Equal(0, See(Practice, Three, twice).ChecksLeft);
    }

    [Fact]
    public void Checks_that_are_not_allowed_or_show_nothing_new_are_refused()
    {
        string Refused(Rules rules, params Move[] moves) =>
            Language.English.Say(Progress.Make(rules, Three, Play(rules, Three, moves[..^1]), moves[^1]).Refusal!);
        Assert.Contains("nothing is checked", Refused(new(), Put("A1"), new PressCheck()));
        Assert.Contains("nothing to check", Refused(Practice, new PressCheck()));
        Assert.Contains("Nothing has changed", Refused(Practice, Put("A1"), new PressCheck(), new PressCheck()));
        Assert.Contains(
            "All checks are used",
            Refused(Practice, Put("A1"), new PressCheck(), Put("B2"), new PressCheck(), Put("C3"), new PressCheck())
        );
    }

    [Fact]
    public void A_wrong_label_goes_back_and_a_right_one_is_held_fast_where_the_rules_say_so()
    {
        var rules = Practice with { Check = new(2, WrongLabels.GoBack, RightLabels.HeldFast) };
        var (moves, after, _) = Progress.Make(rules, Three, Play(rules, Three, Put("A1"), Put("C2")), new PressCheck());
        Assert.Equal([new PressCheck(), new TakeBack("C", 0)], moves.AsEnumerable());
        Assert.Equal([new Placement("A", 0, "1")], after.Placements.AsEnumerable());
        Assert.Single(See(rules, Three, after).Held);

        foreach (var move in (Move[])[new TakeBack("A", 0), Put("A2"), Put("B1")])
            Assert.Contains("stays where it is", Language.English.Say(Progress.Make(rules, Three, after, move).Refusal!));
        Assert.Equal(2, Progress.Make(rules, Three, after, Put("B2")).After.Placements.Length);
        // What follows from a move is a move itself: without the rules the same moves make the same response.
        Assert.True(moves.Aggregate(Response("A1 C2"), Moves.Apply).IsSameWork(after));
    }

    [Fact]
    public void Where_right_and_wrong_are_not_seen_a_label_neither_goes_back_nor_is_held()
    {
        var rules = new Rules { Check = new(3, WrongLabels.GoBack, RightLabels.HeldFast) };
        var response = Play(rules, Three, Put("A1"), Put("C2"), new PressCheck());
        Assert.Equal(2, response.Placements.Length);
        Assert.Empty(See(rules, Three, response).Held);
        Assert.Equal(2, Progress.Make(rules, Three, response, Put("A3")).After.Placements.Length);
    }

    [Fact]
    public void Where_marks_show_at_once_putting_down_is_checking()
    {
        var rules = new Rules
        {
            Check = new(Wrong: WrongLabels.GoBack),
            Reveal = new() { Marks = Moment.Placed },
        };
        var response = Play(rules, Three, Put("C1"), Put("B1"), Put("A1"));
        Assert.Equal([new Placement("A", 0, "1")], response.Placements.AsEnumerable());
        Assert.Equal(3, Tries.For(Three, Three.Targets[0], response));
        Assert.Equal([Verdict.Right], See(rules, Three, response).Marks!.Placed.Select(verdict => verdict!.Value));
        Assert.Contains("nothing is checked", Language.English.Say(Progress.Make(rules, Three, response, new PressCheck()).Refusal!));
    }

    [Fact]
    public void Once_the_right_places_are_seen_nothing_can_be_changed()
    {
        var rules = new Rules
        {
            Check = new(1),
            Reveal = new() { Marks = Moment.Checked, Key = Moment.LastTry },
        };
        var response = Play(rules, Three, Put("A2"), new PressCheck());
        Assert.NotNull(See(rules, Three, response).Key);
        Assert.False(See(rules, Three, response).Open);
        Assert.Contains("Nothing can be changed", Language.English.Say(Progress.Make(rules, Three, response, Put("A1")).Refusal!));
    }

    private static readonly Pane Talking = Three with
    {
        Labels = [.. Three.Labels.Select(label => label.Id == "D" ? label with { Feedback = "D is a distractor." } : label)],
        Targets =
        [
            .. Three.Targets.Select(target =>
                target with
                {
                    Feedback = new($"Yes, {target.Id}.", $"No, {target.Id}."),
                    Explanation = $"Because of {target.Id}.",
                }
            ),
            new QuestionPoint
            {
                Id = "q",
                At = new(5, 5),
                Question = new ChoiceQuestion
                {
                    Text = "?",
                    Options = [new("x", "X", true), new("y", "Y", Feedback: "Y is the other one.")],
                },
            },
            new HiddenZone
            {
                Id = "h",
                Region = new Circle(new(700, 700), 20),
                Accepts = [new("C")],
                Feedback = new("Found.", "Further down."),
            },
        ],
        Explanation = "That is how it is.",
    };

    [Fact]
    public void Feedback_answers_what_was_done_and_explanations_tell_why()
    {
        var response = Response("A1 D2") with
        {
            Pins = [new("C", 0, new(10, 10))],
            Picks = ImmutableDictionary<string, ImmutableArray<string>>.Empty.Add("q", ["y"]),
        };
        var seen = See(new() { Reveal = new() { Explanation = Moment.HandedIn } }, Talking, response, Moment.HandedIn);
        Assert.Equal(["Yes, 1.", "No, 2."], seen.Feedback!.Zones.Select(zone => zone.Text));
        Assert.Equal(["D is a distractor.", "Further down."], seen.Feedback.Labels.Select(label => label.Text));
        Assert.Equal(["Y is the other one."], seen.Feedback.Others.Select(other => other.Text));
        Assert.Equal("That is how it is.", seen.Explanation!.Pane);
        Assert.Equal(["Because of 1.", "Because of 2.", "Because of 3."], seen.Explanation.Zones.Select(zone => zone.Text));
        var before = See(new(), Talking, response);
        Assert.Null(before.Feedback);
        Assert.Null(before.Explanation);
    }

    [Theory]
    [InlineData("A1 B2 C3", "Splendid.")]
    [InlineData("A1 B2", "Good.")]
    [InlineData("A1", "Once more.")]
    public void A_score_band_has_its_own_words(string placed, string words)
    {
        var activity = Activity(Three) with { ScoreBands = [new(0.5m, "Good."), new(1, "Splendid."), new(0, "Once more.")] };
        Assert.Equal(words, WorkView.At(Moment.HandedIn, new Seat(activity, 4), On(Three, Response(placed))).BandText);
        Assert.Null(WorkView.At(Moment.Placed, new Seat(activity, 4), On(Three, Response(placed))).BandText);
    }

    private static readonly Pane Chartroom = Pane([]) with
    {
        Targets =
        [
            new InfoSpot
            {
                Id = "loose-board",
                At = new(300, 300),
                Text = "A key under the board.",
                Concealed = true,
                Reach = 30,
            },
            new Lock
            {
                Id = "drawer",
                At = new(500, 500),
                Code = new([new("1815")]),
                Inside = "A letter.",
                Opens = ["inner", "question"],
            },
            new Lock
            {
                Id = "inner",
                At = new(510, 500),
                Code = new([new("7")]),
                Opens = ["last"],
            },
            new InfoSpot
            {
                Id = "last",
                At = new(600, 500),
                Text = "The end.",
            },
            new QuestionPoint
            {
                Id = "question",
                At = new(520, 500),
                Question = new TypedQuestion { Text = "Who wrote it?", Answer = new TypedText([new("Ann")]) },
            },
        ],
    };

    [Fact]
    public void A_concealed_spot_is_found_by_looking_where_it_is()
    {
        var rules = new Rules();
        Assert.DoesNotContain(
            "A key under",
            System.Text.Json.JsonSerializer.Serialize(
                StudentView.At(Moment.Placed, new Seat(Activity(Chartroom), 1), ImmutableDictionary<string, Response>.Empty)
            )
        );
        Assert.Empty(Play(rules, Chartroom, new LookAt(new(331, 300))).Opened);
        var found = Play(rules, Chartroom, new LookAt(new(320, 310)));
        Assert.Equal(["loose-board"], found.Opened.AsEnumerable());
        Assert.Equal("A key under the board.", Assert.IsType<TargetView.Telling>(Assert.Single(See(rules, Chartroom, found).Found)).Text);
        Assert.Equal(Refused.NoSuchPlace, WhyNot(rules, Chartroom, new OpenSpot("loose-board")));
    }

    [Fact]
    public void What_lies_behind_locks_can_be_known_and_answered_only_once_they_are_open()
    {
        var rules = new Rules();
        var opened = Play(rules, Chartroom, new TryCode("drawer", "1805"), new TryCode("drawer", "1815"));
        Assert.Equal(2, See(rules, Chartroom, opened).Found.Length);
        Assert.Contains(See(rules, Chartroom, opened).Done, done => done is { Opened: true, Inside: "A letter." });
        Assert.Equal(Refused.NoSuchPlace, WhyNot(rules, Chartroom, new TypeText("question", "Ann")));
        Assert.Equal(Refused.NoSuchPlace, WhyNot(rules, Chartroom, new TryCode("inner", "7")));
        var all = Play(
            rules,
            Chartroom,
            new TryCode("drawer", "1815"),
            new TypeText("question", "Ann"),
            new TryCode("inner", "7"),
            new OpenSpot("last")
        );
        Assert.Equal(3, See(rules, Chartroom, all).Found.Length);
        Assert.Null(ResponseSoundness.Fault(Chartroom, all));
        Assert.NotNull(ResponseSoundness.Fault(Chartroom, all with { Codes = all.Codes.Remove("drawer") }));
    }

    [Theory]
    [InlineData("drawer", "drawer", "opens itself")]
    [InlineData("drawer", "moon", "which the pane does not have")]
    [InlineData("inner", "drawer", "behind locks that lie behind it")]
    [InlineData("inner", "question", "behind two locks")]
    public void Locks_that_can_not_be_are_refused(string @lock, string opens, string words)
    {
        var pane = Chartroom with
        {
            Targets =
            [
                .. Chartroom.Targets.Select(target => target is Lock l && l.Id == @lock ? l with { Opens = l.Opens.Add(opens) } : target),
            ],
        };
        Assert.Contains(Soundness.Faults(Activity(pane)), fault => fault.Sentence.Contains(words));
    }
}
