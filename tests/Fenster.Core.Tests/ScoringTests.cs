using System.Collections.Immutable;
using Fenster.Core.Checking;
using Fenster.Core.Model;
using Fenster.Core.Scoring;
using FsCheck.Xunit;
using static Fenster.Core.Tests.Build;

namespace Fenster.Core.Tests;

public sealed class ScoringTests
{
    private static decimal Score(Pane pane, string placements, ScoreRules rules) =>
        Scorer.Score(pane, Response(placements), Checker.Check(pane, Response(placements)), rules).Score;

    private static readonly Pane FiveOfSeven = Pane(
        Labels("A B C D E F G"),
        Zone(1, "A"),
        Zone(2, "B"),
        Zone(3, "C"),
        Zone(4, "D"),
        Zone(5, "E")
    );

    [Fact]
    public void Three_right_one_distractor_and_one_empty_zone_at_a_quarter_point_a_mistake_earn_two_and_three_quarters()
    {
        Assert.Equal(2.75m, Score(FiveOfSeven, "A1 B2 C3 F4", new() { WrongCost = 0.25m }));
        Assert.Equal(0, Score(FiveOfSeven, "A1 B2 C3 F4", new() { WrongCost = 0.25m, Manner = ScoreManner.AllOrNothing }));
    }

    [Fact]
    public void A_zone_worth_two_at_a_quarter_for_each_further_try_right_at_the_third_earns_one()
    {
        var pane = Pane(Labels("A B C"), Zone(1, "A", points: 2));
        var response = Response("A1") with { Earlier = [Response("B1"), Response("C1")] };
        var rules = new ScoreRules { TryCost = 0.25m };
        Assert.Equal(1, Scorer.Score(pane, response, Checker.Check(pane, response), rules).Score);
        Assert.Equal(
            1,
            Scorer.Score(pane, response, Checker.Check(pane, response), rules with { Manner = ScoreManner.AllOrNothing }).Score
        );
    }

    [Fact]
    public void Tries_never_cost_more_than_the_target()
    {
        var pane = Pane(Labels("A B C D E F G H"), Zone(1, "A"));
        var response = Response("A1") with { Earlier = [.. "BCDEFGH".Select(letter => Response($"{letter}1"))] };
        Assert.Equal(0, Scorer.Score(pane, response, Checker.Check(pane, response), new() { TryCost = 0.5m }).Score);
    }

    [Fact]
    public void A_try_is_an_answer_that_was_checked()
    {
        var pane = Pane(Labels("A B C"), Zone(1, "A"), Zone(2, "B"));
        int[] Of(string now, params string[] earlier) =>
            [.. pane.Targets.Select(target => Tries.For(pane, target, Response(now) with { Earlier = [.. earlier.Select(Response)] }))];
        Assert.Equal([1, 1], Of("A1 B2"));
        // Zone 2 stood empty at both checks: it was first tried when it was handed in. Zone 1 was right at once and stayed.
        Assert.Equal([1, 1], Of("A1 B2", "A1", "A1"));
        Assert.Equal([2, 1], Of("A1 B2", "C1 B2"));
        // Zone 2 had C, stood empty, had B, had C again, and B at last: since B was last earned there was one bad check.
        Assert.Equal([1, 2], Of("A1 B2", "A1 C2", "A1", "A1 B2", "A1 C2"));
    }

    private static readonly DateTimeOffset Monday = new(2026, 3, 2, 10, 0, 0, TimeSpan.Zero);

    [Fact]
    public void A_persons_award_replaces_the_machines_credit_and_says_who_and_when()
    {
        var response = Response("B1 A2");
        var pane = Pane(Labels("A B"), Zone(1, "A", points: 2), Zone(2, "B"));
        var awards = new[] { new Award("1", 0.25m, "ms-low", Monday), new Award("1", 0.5m, "ms-low", Monday.AddHours(1), "Nearly.") };
        PaneScore Score(ScoreRules rules) => Scorer.Score(pane, response, Checker.Check(pane, response), rules, [.. awards]);
        Assert.Equal(1, Score(new()).Score);
        Assert.Equal(awards[1], Score(new()).Targets[0].Award);
        Assert.Null(Score(new()).Targets[1].Award);
        // The wrong label in zone 1 costs nothing any more; the one in zone 2 does.
        Assert.Equal(0.5m, Score(new() { WrongCost = 0.5m }).Score);
    }

    [Fact]
    public void An_award_is_not_lessened_by_tries_and_can_complete_all_or_nothing()
    {
        var pane = Pane(Labels("A B"), Zone(1, "A", points: 2));
        var response = Response("B1") with { Earlier = [Response("A1"), Response("")] };
        decimal Score(ScoreRules rules) =>
            Scorer.Score(pane, response, Checker.Check(pane, response), rules, [new("1", 1, "ms-low", Monday)]).Score;
        Assert.Equal(2, Score(new() { TryCost = 0.25m }));
        Assert.Equal(2, Score(new() { Manner = ScoreManner.AllOrNothing }));
    }

    [Fact]
    public void An_award_for_an_open_note_is_the_only_way_to_its_points()
    {
        var pane = Pane([]) with { Targets = [new OpenNote { Id = "note", Region = new Core.Geometry.Circle(new(9, 9), 9) }] };
        var response = new Response { Texts = ImmutableDictionary<string, string>.Empty.Add("note", "It floats.") };
        var marks = Checker.Check(pane, response);
        Assert.Equal(TargetState.Waiting, marks.Targets[0].State);
        Assert.Equal(0, Scorer.Score(pane, response, marks, new()).Score);
        Assert.Equal(0.75m, Scorer.Score(pane, response, marks, new(), [new("note", 0.75m, "ms-low", Monday)]).Score);
        Assert.Equal(TargetState.PartEarned, Award.Apply(marks, [new("note", 0.75m, "ms-low", Monday)]).Targets[0].State);
    }

    [Fact]
    public void All_or_nothing_gives_everything_only_when_everything_is_right()
    {
        var rules = new ScoreRules { Manner = ScoreManner.AllOrNothing };
        Assert.Equal(5, Score(FiveOfSeven, "A1 B2 C3 D4 E5", rules));
        Assert.Equal(0, Score(FiveOfSeven, "A1 B2 C3 D4", rules));
    }

    [Fact]
    public void A_wrong_label_costs_but_never_below_zero() => Assert.Equal(0, Score(FiveOfSeven, "A2 B1 C4", new() { WrongCost = 3 }));

    [Theory]
    [InlineData("A1 B2=0.5", 10, "5.00", null, null)]
    [InlineData("A1 B2", 10, "6.67", "6.67", true)]
    [InlineData("A1 B2", 10, "6.67", "6.68", false)]
    [InlineData("", 10, "0", "0", true)]
    public void A_grade_is_rounded_half_away_from_zero_before_it_meets_the_pass_mark(
        string placed,
        int maximum,
        string grade,
        string? pass,
        bool? passed
    )
    {
        var pane = Pane(Labels("A B C"), Zone(1, "A"), Zone(2, placed.Contains('=') ? "B=0.5" : "B"), Zone(3, "C"));
        var activity = Activity(
            pane,
            new()
            {
                MaximumGrade = maximum,
                PassMark = pass is null ? null : decimal.Parse(pass, System.Globalization.CultureInfo.InvariantCulture),
            }
        );
        var score = Scorer.Score(activity, On(pane, Response(placed.Replace("=0.5", ""))));
        Assert.Equal(decimal.Parse(grade, System.Globalization.CultureInfo.InvariantCulture), score.Grade);
        Assert.Equal(passed, score.Passed);
    }

    [Fact]
    public void A_half_cent_is_rounded_up()
    {
        var pane = Pane(Labels("A B"), Zone(1, "A"), Zone(2, "B", points: 7));
        Assert.Equal(0.13m, Scorer.Score(Activity(pane, new() { MaximumGrade = 1 }), On(pane, Response("A1"))).Grade);
    }

    [Fact]
    public void A_half_cent_made_of_thirds_is_rounded_up()
    {
        // Three targets worth a third of 0.125 each would be 0.1249… when added up.
        var matching = new Matching
        {
            Id = "m",
            Left = [new("1", "1"), new("2", "2"), new("3", "3")],
            Right = [new("a", "a"), new("b", "b"), new("c", "c")],
            Pairs = [new("1", "a"), new("2", "b"), new("3", "c")],
        };
        var pane = Pane([]) with { Targets = [matching, matching with { Id = "n" }, matching with { Id = "o" }] };
        var responses = On(
            pane,
            new()
            {
                Links = ImmutableDictionary<string, ImmutableArray<Link>>
                    .Empty.Add("m", [new("1", "a")])
                    .Add("n", [new("1", "a")])
                    .Add("o", [new("1", "a")]),
            }
        );
        Assert.Equal(0.13m, Scorer.Score(Activity(pane, new() { MaximumGrade = 0.375m }), responses).Grade);
    }

    [Fact]
    public void The_weight_of_a_pane_multiplies_its_score()
    {
        var pane = Pane(Labels("A B"), Zone(1, "A"), Zone(2, "B")) with { Weight = 2.5m };
        var score = Scorer.Score(Activity(pane), On(pane, Response("A1")));
        Assert.Equal((2.5m, 5m), (score.Score, score.Possible));
    }

    [Fact]
    public void An_activity_in_which_nothing_can_be_earned_has_the_grade_zero() =>
        Assert.Equal(0, Scorer.Score(Activity(Pane(Labels("A"))), On(Pane(Labels("A")), Core.Model.Response.Empty)).Grade);

    [Property]
    public bool A_score_stays_between_nothing_and_everything(int seed, byte wrongCost)
    {
        var (pane, response) = RandomWork.Make(seed);
        var score = Scorer.Score(pane, response, Checker.Check(pane, response), new() { WrongCost = wrongCost / 16m });
        return score.Score >= 0 && score.Score <= score.Possible;
    }

    [Property]
    public bool The_key_earns_everything_and_an_empty_response_nothing(int seed)
    {
        var (pane, _) = RandomWork.Make(seed);
        var key = RandomWork.KeyOf(pane);
        return Scorer.Score(pane, key, Checker.Check(pane, key), new()).Score == pane.PossiblePoints
            && Scorer.Score(pane, Core.Model.Response.Empty, Checker.Check(pane, Core.Model.Response.Empty), new()).Score == 0;
    }

    [Property]
    public bool Putting_one_more_label_where_it_belongs_never_lowers_the_score(int seed)
    {
        var (pane, response) = RandomWork.Make(seed);
        var next = RandomWork
            .KeyOf(pane)
            .Placements.FirstOrDefault(placement =>
                !response.Placements.Any(p => p.Label == placement.Label && p.Copy == placement.Copy)
                && !response.Placements.Any(p => p.Zone == placement.Zone)
            );
        if (next is null)
            return true;
        var more = response with { Placements = response.Placements.Add(next) };
        return Scorer.Score(pane, more, Checker.Check(pane, more), new() { WrongCost = 0.5m }).Score
            >= Scorer.Score(pane, response, Checker.Check(pane, response), new() { WrongCost = 0.5m }).Score;
    }
}

/// <summary>Panes of single labels with some distractors, and responses to them, from a seed.</summary>
internal static class RandomWork
{
    public static (Pane Pane, Response Response) Make(int seed)
    {
        var random = new Random(seed);
        var zones = random.Next(1, 8);
        var letters = "ABCDEFGHIJ"[..(zones + random.Next(0, 3))];
        var pane = Pane(
            letters.Select(letter => new Label { Id = $"{letter}", Text = $"{letter}" }),
            [.. Enumerable.Range(0, zones).Select(i => Zone(i + 1, $"{letters[i]}", points: random.Next(1, 5) / 2m))]
        );
        var placements = letters
            .OrderBy(_ => random.Next())
            .Take(random.Next(0, zones + 1))
            .Select((letter, i) => new Placement($"{letter}", 0, $"{i + 1}"));
        return (pane, new() { Placements = [.. placements] });
    }

    public static Response KeyOf(Pane pane) =>
        new() { Placements = [.. pane.Targets.OfType<DropZone>().Select(zone => new Placement(zone.Accepts[0].Label, 0, zone.Id))] };
}
