using System.Collections.Immutable;
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
        var insight = PaneInsight.Of(pane, [new(Response("A1 B2")), new(Response("A1 C2")), new(Response("B1 C2")), new(Response("A1"))]);
        Assert.Equal((4, true), (insight.Attempts, insight.IsFewerThanTen));
        Assert.Equal([0.75, 0.25], insight.Targets.Select(target => target.Facility));
        Assert.Equal([("A", 3), ("B", 1)], insight.Targets[0].Answers.AsEnumerable());
        Assert.Equal([("C", 2), ("B", 1)], insight.Targets[1].Answers.AsEnumerable());
        Assert.Equal(1.25, insight.Mean);
        Assert.Equal(1, insight.Median);
        // Credits 1 1 0 1 against the rest of the score 2 0 0 0.
        Assert.Equal(1 / 3.0, insight.Targets[0].Discrimination, 1e-12);
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
        Assert.Equal(
            [1, 2, 2, 2, 3],
            PaneInsight
                .Of(pane, [new(At(300)), new(At(355)), new(At(370)), new(At(400)), new(At(500))])
                .Targets[0]
                .NearMisses.AsEnumerable()
        );
    }

    [Fact]
    public void Median_tries_and_times_are_over_those_who_answered()
    {
        var pane = Pane(Labels("A B"), Zone(1, "A"), Zone(2, "B"));
        var thirdTry = Response("A1") with { Earlier = [Response("B1"), Response("A2")] };
        ImmutableDictionary<string, TimeSpan> Times(int seconds) =>
            ImmutableDictionary<string, TimeSpan>.Empty.Add("1", TimeSpan.FromSeconds(seconds));
        var insight = PaneInsight.Of(pane, [new(thirdTry, Times(30)), new(Response("A1"), Times(10)), new(Response("B2"))]);
        // Zone 1 was tried with B, stood empty at the second check, then had A.
        Assert.Equal(1.5, insight.Targets[0].MedianTries);
        Assert.Equal(20, insight.Targets[0].MedianTime);
        Assert.Equal(1, insight.Targets[1].MedianTries);
        Assert.True(double.IsNaN(insight.Targets[1].MedianTime));
    }

    [Fact]
    public void The_time_between_moves_belongs_to_what_the_next_one_concerns()
    {
        var pane = Pane(Labels("A B"), Zone(1, "A"), Zone(2, "B"));
        var start = new DateTimeOffset(2026, 3, 1, 9, 0, 0, TimeSpan.Zero);
        var times = Pace.Of(
            pane,
            start,
            [
                (start.AddSeconds(5), new PutDown("A", 0, "2")),
                (start.AddSeconds(6), new TakeBack("A", 0)),
                (start.AddSeconds(9), new PutDown("A", 0, "1")),
                (start.AddSeconds(20), new PutDown("B", 0, "2")),
            ]
        );
        Assert.Equal([3, 16], times.OrderBy(time => time.Key).Select(time => time.Value.TotalSeconds));
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
        var insight = PaneInsight.Of(ProofTests.EveryKind, [.. responses.Select(response => new PaneWork(response))]);
        Assert.Equal([("mast", 2)], insight.Targets.Single(target => target.Target == "words").Answers.AsEnumerable());
        Assert.Equal([("x", 2)], insight.Targets.Single(target => target.Target == "choice").Answers.AsEnumerable());
        Assert.Equal([("P", 2)], insight.Targets.Single(target => target.Target == "hidden").Answers.AsEnumerable());
        Assert.Equal([("1815", 2)], insight.Targets.Single(target => target.Target == "lock").Answers.AsEnumerable());
    }

    [Fact]
    public void A_change_of_the_key_is_scored_against_every_response_before_anything_is_changed()
    {
        var pane = Pane(Labels("A B C"), Zone(1, "A"), Zone(2, "B"));
        var before = Activity(pane, new() { MaximumGrade = 10, PassMark = 5 });
        var after = before with { Panes = [pane with { Targets = [Zone(1, "A C=0.5"), Zone(2, "C")] }] };
        var responses = new Dictionary<string, ImmutableDictionary<string, Response>>
        {
            ["ada"] = On(pane, Response("A1 C2")),
            ["ben"] = On(pane, Response("B2")),
            ["cy"] = On(pane, Response("C2")),
            ["di"] = On(pane, Response("")),
        };
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
}
