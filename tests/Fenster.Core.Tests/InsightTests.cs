using System.Collections.Immutable;
using Fenster.Core.Geometry;
using Fenster.Core.Insight;
using Fenster.Core.Model;
using Fenster.Core.Scoring;
using static Fenster.Core.Tests.Build;
using Reference = MathNet.Numerics.Statistics;

namespace Fenster.Core.Tests;

public sealed class InsightTests
{
    [Fact]
    public void Medians_quartiles_deviations_and_correlations_agree_with_a_statistics_library()
    {
        var random = new Random(51);
        for (var i = 0; i < 500; i++)
        {
            var xs = Enumerable.Range(0, random.Next(2, 40)).Select(_ => Math.Round(random.NextDouble() * 10, 1)).ToArray();
            var ys = xs.Select(x => random.NextDouble() * 5 + x).ToArray();
            Assert.Equal(Reference.Statistics.Median(xs), Statistics.Median(xs), 1e-9);
            foreach (var share in (double[])[0, 0.25, 0.75, 1])
                Assert.Equal(
                    Reference.Statistics.QuantileCustom(xs, share, Reference.QuantileDefinition.Excel),
                    Statistics.Quantile(xs, share),
                    1e-9
                );
            Assert.Equal(Reference.Statistics.StandardDeviation(xs), Statistics.StandardDeviation(xs), 1e-9);
            if (xs.Distinct().Count() > 1)
                Assert.Equal(Reference.Correlation.Pearson(xs, ys), Statistics.Correlation(xs, ys), 1e-9);
        }
    }

    /// <summary>
    /// With items of 0 and 1, alpha is KR-20: k ÷ (k − 1) × (1 − Σ p·q ÷ variance), here reckoned with the definition's own sums over
    /// n.
    /// </summary>
    [Fact]
    public void Alpha_of_right_and_wrong_items_is_formula_20_of_kuder_and_richardson()
    {
        double[][] answers =
        [
            [1, 1, 1, 1],
            [1, 1, 1, 0],
            [1, 1, 0, 0],
            [1, 0, 0, 0],
            [0, 0, 0, 0],
        ];
        // p is 0.8, 0.6, 0.4 and 0.2, so the sum of p·q is 0.8; the totals 4, 3, 2, 1, 0 have the variance 2.
        Assert.Equal(4 / 3.0 * (1 - 0.8 / 2), Statistics.CronbachAlpha(answers), 1e-12);
        Assert.Equal(0.8, Statistics.CronbachAlpha(answers), 1e-12);
        Assert.Equal(2, Statistics.ErrorOfMeasurement(Math.Sqrt(20), 0.8), 1e-12);
    }

    /// <summary>
    /// The attitude survey of Chatterjee and Price, "Regression Analysis by Example" (1977): 30 departments, 7 items. Its
    /// numbers and its alpha of 0.84 as printed with reliability software are from memory; the items' published means
    /// (64.63, 66.60, 53.13, 56.37, 64.63, 74.77, 42.93) show that the memory is right.
    /// </summary>
    [Fact]
    public void Alpha_of_a_published_survey_is_the_published_one()
    {
        int[][] survey =
        [
            [43, 51, 30, 39, 61, 92, 45],
            [63, 64, 51, 54, 63, 73, 47],
            [71, 70, 68, 69, 76, 86, 48],
            [61, 63, 45, 47, 54, 84, 35],
            [81, 78, 56, 66, 71, 83, 47],
            [43, 55, 49, 44, 54, 49, 34],
            [58, 67, 42, 56, 66, 68, 35],
            [71, 75, 50, 55, 70, 66, 41],
            [72, 82, 72, 67, 71, 83, 31],
            [67, 61, 45, 47, 62, 80, 41],
            [64, 53, 53, 58, 58, 67, 34],
            [67, 60, 47, 39, 59, 74, 41],
            [69, 62, 57, 42, 55, 63, 25],
            [68, 83, 83, 45, 59, 77, 35],
            [77, 77, 54, 72, 79, 77, 46],
            [81, 90, 50, 72, 60, 54, 36],
            [74, 85, 64, 69, 79, 79, 63],
            [65, 60, 65, 75, 55, 80, 60],
            [65, 70, 46, 57, 75, 85, 46],
            [50, 58, 68, 54, 64, 78, 52],
            [50, 40, 33, 34, 43, 64, 33],
            [64, 61, 52, 62, 66, 80, 41],
            [53, 66, 52, 50, 63, 80, 37],
            [40, 37, 42, 58, 50, 57, 49],
            [63, 54, 42, 48, 66, 75, 33],
            [66, 77, 66, 63, 88, 76, 72],
            [78, 75, 58, 74, 80, 78, 49],
            [48, 57, 44, 45, 51, 83, 38],
            [85, 85, 71, 71, 77, 74, 55],
            [82, 82, 39, 59, 64, 78, 39],
        ];
        Assert.Equal(
            [64.63, 66.60, 53.13, 56.37, 64.63, 74.77, 42.93],
            Enumerable.Range(0, 7).Select(item => Math.Round(survey.Average(row => row[item]), 2))
        );
        Assert.Equal(
            0.84,
            Math.Round(Statistics.CronbachAlpha([.. survey.Select(row => row.Select(score => (double)score).ToArray())]), 2)
        );
    }

    [Fact]
    public void Figures_that_mean_nothing_are_no_numbers()
    {
        Assert.True(double.IsNaN(Statistics.Median([])));
        Assert.True(double.IsNaN(Statistics.StandardDeviation([1])));
        Assert.True(
            double.IsNaN(
                Statistics.CronbachAlpha([
                    [1, 1],
                    [1, 1],
                ])
            )
        );
        Assert.True(
            double.IsNaN(
                Statistics.CronbachAlpha([
                    [1],
                    [0],
                ])
            )
        );
    }

    [Fact]
    public void A_pane_tells_which_label_went_where_and_how_hard_each_zone_was()
    {
        var pane = Pane(Labels("A B C"), Zone(1, "A"), Zone(2, "B", points: 2));
        var insight = Of(pane, Response("A1 B2"), Response("A1 C2"), Response("B1 C2"), Response("A1"));
        Assert.Equal((4, true), (insight.Works, insight.IsFewerThanTen));
        var targets = insight.Panes[0].Targets;
        Assert.Equal([0.75, 0.25], targets.Select(target => target.Facility));
        Assert.Equal([new("A", 3, 1), new("B", 1, 0)], Assert.IsType<Tally>(targets[0].Answers).Answers.AsEnumerable());
        Assert.Equal([new("C", 2, 0), new("B", 1, 1)], Assert.IsType<Tally>(targets[1].Answers).Answers.AsEnumerable());
        Assert.Equal(1.25, insight.Mean);
        Assert.Equal(1, insight.Median);
        // Credits 1 1 0 1 against the rest of the score 2 0 0 0.
        Assert.Equal(1 / 3.0, targets[0].Discrimination, 1e-12);
        // B went from its own zone to the first once; C belongs nowhere.
        Assert.Equal([new Flow("B", "2", "1", 1)], insight.Panes[0].Flows.AsEnumerable());
        Assert.Equal([0, 1], targets.Select(target => target.Missed));
    }

    [Fact]
    public void Near_misses_count_wrong_points_by_how_far_they_are_off()
    {
        var pane = Pane(Labels("A")) with
        {
            Targets =
            [
                new Hotspots
                {
                    Id = "s",
                    Needed = 1,
                    Spots = [new(new Core.Geometry.Circle(new(300, 300), 50))],
                },
            ],
        };
        Response At(double x) =>
            new() { Marks = ImmutableDictionary<string, ImmutableArray<Core.Geometry.Point>>.Empty.Add("s", [new(x, 300)]) };
        Assert.Equal([1, 2, 2, 2, 3], Of(pane, At(300), At(355), At(370), At(400), At(500)).Panes[0].Targets[0].NearMisses.AsEnumerable());
    }

    [Fact]
    public void Near_misses_are_those_that_counting_point_by_point_finds()
    {
        var random = new Random(77);
        var zone = new HiddenZone
        {
            Id = "h",
            Region = new Core.Geometry.Polygon([new(300, 300), new(420, 280), new(460, 400), new(330, 430)]),
            Accepts = [new("A")],
            Tolerance = new(4),
        };
        var pane = Pane(Labels("A")) with { Targets = [zone] };
        var points = Enumerable
            .Range(0, 600)
            .Select(_ => new Core.Geometry.Point(250 + random.NextDouble() * 270, 230 + random.NextDouble() * 260))
            .ToList();
        var figures = Of(pane, [.. points.Select(at => new Response { Pins = [new("A", 0, at)] })]).Panes[0].Targets[0];
        // The nearest point of the outline is looked for along all of it, in small steps.
        var corners = ((Core.Geometry.Polygon)zone.Region).Vertices;
        double Off(Core.Geometry.Point at) =>
            zone.Region.Contains(at)
                ? 0
                : Enumerable
                    .Range(0, corners.Length)
                    .SelectMany(i =>
                        Enumerable
                            .Range(0, 2001)
                            .Select(step => (from: corners[i], to: corners[(i + 1) % corners.Length], share: step / 2000.0))
                    )
                    .Min(line =>
                        at.DistanceTo(
                            new(line.from.X + line.share * (line.to.X - line.from.X), line.from.Y + line.share * (line.to.Y - line.from.Y))
                        )
                    );
        var off = points.Select(Off).Where(distance => distance > 4).ToList();
        Assert.Equal(off.Count, figures.Wrong);
        Assert.Equal(Enumerable.Range(1, 5).Select(percent => off.Count(distance => distance <= percent * 10)), figures.NearMisses);
    }

    [Fact]
    public void Median_tries_and_times_are_over_those_who_answered()
    {
        var pane = Pane(Labels("A B"), Zone(1, "A"), Zone(2, "B"));
        var thirdTry = Response("A1") with { Earlier = [Response("B1"), Response("A2")] };
        Work Taking(int seconds, Response response) =>
            new(
                On(pane, response),
                ImmutableDictionary<string, ImmutableDictionary<string, TimeSpan>>.Empty.Add(
                    pane.Id,
                    ImmutableDictionary<string, TimeSpan>.Empty.Add("1", TimeSpan.FromSeconds(seconds))
                )
            );
        var insight = ActivityInsight
            .Of(Activity(pane), [Taking(30, thirdTry), Taking(10, Response("A1")), new(On(pane, Response("B2")))])
            .Panes[0];
        // Zone 1 was tried with B, stood empty at the second check, then had A.
        Assert.Equal(1.5, insight.Targets[0].MedianTries);
        Assert.Equal(20, insight.Targets[0].MedianTime);
        Assert.Equal(20, insight.MedianTime);
        Assert.Equal(1, insight.Targets[1].MedianTries);
        Assert.True(double.IsNaN(insight.Targets[1].MedianTime));
    }

    [Fact]
    public void The_time_between_moves_belongs_to_what_the_next_one_concerns()
    {
        var pane = Pane(Labels("A B"), Zone(1, "A"), Zone(2, "B"));
        var start = new DateTimeOffset(2026, 3, 1, 9, 0, 0, TimeSpan.Zero);
        var times = Pace.Of(
            Activity(pane),
            [
                (start.AddSeconds(5), pane.Id, new PutDown("A", 0, "2")),
                (start.AddSeconds(6), pane.Id, new TakeBack("A", 0)),
                (start.AddSeconds(9), pane.Id, new PutDown("A", 0, "1")),
                (start.AddSeconds(11), "gone", new PutDown("A", 0, "1")),
                (start.AddSeconds(20), pane.Id, new PutDown("B", 0, "2")),
            ]
        );
        // What passes before the first is nobody's, and neither is what passes on a pane that is not there.
        Assert.Equal([3, 9], Assert.Single(times).Value.OrderBy(time => time.Key).Select(time => time.Value.TotalSeconds));
    }

    [Fact]
    public void Every_point_is_counted_in_the_hexagon_whose_centre_is_nearest()
    {
        var random = new Random(61);
        var points = Enumerable
            .Range(0, 3000)
            .Select(_ => new Core.Geometry.Point(random.NextDouble() * 1000, random.NextDouble() * 750))
            .ToList();
        var bins = Density.Of(points, 40);
        Assert.Equal(3000, bins.Sum(bin => bin.Count));
        Assert.True(bins.Zip(bins.Skip(1)).All(pair => pair.First.Count >= pair.Second.Count));
        // Every centre is there when there are so many points, so the nearest can be looked for among all of them.
        foreach (var bin in bins)
            Assert.Equal(bin.Count, points.Count(point => bins.MinBy(other => other.Centre.DistanceTo(point))!.Centre == bin.Centre));
        // Hexagons of radius r have the area 3√3/2 r².
        Assert.InRange(bins.Length, 750_000 / (1.5 * Math.Sqrt(3) * 1600), 750_000 / (1.5 * Math.Sqrt(3) * 1600) * 1.25);
    }

    [Fact]
    public void Answers_of_every_kind_are_counted()
    {
        var responses = new[] { ProofTests.KeyAnswers, ProofTests.KeyAnswers };
        var targets = Of(ProofTests.EveryKind, responses).Panes[0].Targets;
        AnswersAt At(string target) => targets.Single(each => each.Target == target).Answers;
        Assert.Equal([new("mast", 2, 1)], Assert.IsType<Tally>(At("words")).Answers.AsEnumerable());
        Assert.Contains(new Tallied("x", 2, 1), Assert.IsType<Tally>(At("choice")).Answers);
        Assert.Equal([new("P", 2, 1)], Assert.IsType<Tally>(At("hidden")).Answers.AsEnumerable());
        Assert.Equal([new("1815", 2, 1)], Assert.IsType<Tally>(At("lock")).Answers.AsEnumerable());
        // Every kind has a picture of its own, whatever was done.
        foreach (var insight in (ActivityInsight[])[Of(ProofTests.EveryKind), Of(ProofTests.EveryKind, Core.Model.Response.Empty)])
            Assert.Equal(ProofTests.EveryKind.Targets.Length, insight.Panes[0].Targets.Length);
    }

    private static ActivityInsight Of(Core.Model.Pane pane, params Response[] responses) =>
        ActivityInsight.Of(Activity(pane), [.. responses.Select(response => new Work(On(pane, response)))]);

    [Fact]
    public void A_change_of_the_key_is_scored_against_every_response_before_anything_is_changed()
    {
        var pane = Pane(Labels("A B C"), Zone(1, "A"), Zone(2, "B"));
        var before = Activity(pane, new() { MaximumGrade = 10, PassMark = 5 });
        var after = before with { Panes = [pane with { Targets = [Zone(1, "A C=0.5"), Zone(2, "C")] }] };
        (string, Work)[] responses =
        [
            ("ada", new(On(pane, Response("A1 C2")))),
            ("ben", new(On(pane, Response("B2")))),
            ("cy", new(On(pane, Response("C2")))),
            ("di", new(On(pane, Response("")))),
        ];
        var what = WhatIf.Compare(before, after, responses);
        Assert.Equal([(1m, 2m), (1m, 0m), (0m, 1m), (0m, 0m)], what.Scores.Select(score => (score.Before.Score, score.After.Score)));
        Assert.Equal(3, what.Changed);
        Assert.Equal(["cy"], what.NowPass.AsEnumerable());
        Assert.Equal(["ben"], what.NowFail.AsEnumerable());
        Assert.Equal(0, WhatIf.Compare(before, before, responses).Changed);
    }

    [Theory]
    [InlineData(AttemptPolicy.Best, "8.5")]
    [InlineData(AttemptPolicy.Latest, "7")]
    [InlineData(AttemptPolicy.First, "4")]
    [InlineData(AttemptPolicy.Mean, "6.5")]
    public void Of_several_attempts_the_one_counts_that_the_policy_names(AttemptPolicy policy, string grade) =>
        Assert.Equal(decimal.Parse(grade, System.Globalization.CultureInfo.InvariantCulture), AttemptGrades.Of([4m, 8.5m, 7m], policy));

    [Fact]
    public void A_question_that_is_taken_out_is_had_by_nobody_or_by_everybody_and_its_mistakes_cost_nothing()
    {
        var pane = Pane(Labels("A B C"), Zone(1, "A"), Zone(2, "B", points: 3));
        var activity = Activity(pane, new() { WrongCost = 0.5m });
        ActivityScore Score(TakenOut? takenOut, string placed) =>
            Scorer.Score(new Repair([new(0, 1, TakenOut: takenOut)]).In(activity), On(pane, Response(placed)));
        Assert.Equal((0.5m, 4m), (Score(null, "A1 C2").Score, Score(null, "A1 C2").Possible));
        Assert.Equal((1m, 1m), (Score(TakenOut.Nobody, "A1 C2").Score, Score(TakenOut.Nobody, "A1 C2").Possible));
        Assert.Equal((4m, 4m), (Score(TakenOut.Everybody, "A1 C2").Score, Score(TakenOut.Everybody, "A1 C2").Possible));
        // What is wrong elsewhere still costs.
        Assert.Equal(2.5m, Score(TakenOut.Everybody, "C1 A2").Score);
        // An award at what nobody can have gives nothing.
        var awards = ImmutableDictionary<string, ImmutableArray<Award>>.Empty.Add(pane.Id, [new("2", 1, "T", DateTimeOffset.UnixEpoch)]);
        Assert.Equal(
            1,
            Scorer.Score(new Repair([new(0, 1, TakenOut: TakenOut.Nobody)]).In(activity), On(pane, Response("A1")), awards).Score
        );
    }

    [Fact]
    public void A_repair_changes_what_it_names_and_nothing_else_and_leaves_out_what_is_not_there()
    {
        var activity = new Activity { Title = "T", Panes = [ProofTests.EveryKind] };
        Assert.Same(activity.Panes[0], new Repair([]).In(activity).Panes[0]);
        Assert.Equal(
            activity.Panes[0].Targets.AsEnumerable(),
            new Repair([new(0, 99, Points: 3), new(7, 0)]).In(activity).Panes[0].Targets
        );
        for (var t = 0; t < activity.Panes[0].Targets.Length; t++)
        {
            var repaired = new Repair(
                [new(0, t, Slack: 12, Accepts: ["nowhere"], Spellings: ["another"], Right: [], Points: 7)],
                WrongCost: 1,
                TryCost: 0.5m
            ).In(activity);
            Assert.Equal(7, repaired.Panes[0].Targets[t].Points);
            Assert.Equal(1, repaired.Rules.Score.WrongCost);
            for (var other = 0; other < activity.Panes[0].Targets.Length; other++)
                if (other != t)
                    Assert.Same(activity.Panes[0].Targets[other], repaired.Panes[0].Targets[other]);
        }
    }

    [Fact]
    public void A_repair_fits_only_what_is_there_and_what_its_kind_knows()
    {
        var somewhere = new Circle(new(5, 5), 3);
        (Target Target, TargetRepair[] Fitting, TargetRepair[] Misfits)[] all =
        [
            (
                new HiddenZone { Id = "t", Region = somewhere },
                [new(0, 0, Slack: 5), new(0, 0, Region: somewhere), new(0, 0, Accepts: ["x"])],
                [new(0, 0, Spellings: ["x"]), new(0, 0, Right: ["x"])]
            ),
            (
                new DropZone { Id = "t", Region = somewhere },
                [new(0, 0, Accepts: ["x"]), new(0, 0, Points: 2)],
                [new(0, 0, Slack: 5), new(0, 0, Region: somewhere)]
            ),
            (
                new Hotspots
                {
                    Id = "t",
                    Spots = [new(somewhere)],
                    Needed = 1,
                },
                [new(0, 0, Region: somewhere)],
                [new(0, 0, Region: somewhere, Spot: 1), new(0, 0, Region: somewhere, Spot: -1), new(0, 0, Accepts: ["x"])]
            ),
            (
                new AnswerBox
                {
                    Id = "t",
                    Region = somewhere,
                    Answer = new TypedNumber(5m),
                },
                [new(0, 0, TakenOut: TakenOut.Nobody)],
                [new(0, 0, Spellings: ["x"]), new(0, 0, Slack: 1)]
            ),
            (new OpenNote { Id = "t", Region = somewhere }, [new(0, 0, Points: 2)], [new(0, 0, Slack: 1), new(0, 0, Accepts: ["x"])]),
            (
                new InfoSpot
                {
                    Id = "t",
                    At = new(1, 1),
                    Text = "x",
                },
                [],
                [new(0, 0, Right: ["x"]), new(-1, 0), new(0, -1), new(0, 1), new(1, 0)]
            ),
        ];
        foreach (var (target, fitting, misfits) in all)
        {
            var activity = new Activity { Title = "A", Panes = [new Pane { Id = "p", Targets = [target] }] };
            Assert.All(fitting, repair => Assert.True(new Repair([repair]).Fits(activity), $"{target} {repair}"));
            Assert.All(misfits, repair => Assert.False(new Repair([repair]).Fits(activity), $"{target} {repair}"));
        }
        Assert.False(new Repair(default).Fits(new Activity { Title = "A", Panes = [] }));
    }
}
