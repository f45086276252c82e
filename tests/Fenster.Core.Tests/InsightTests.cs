using System.Collections.Immutable;
using Fenster.Core.Insight;
using Fenster.Core.Model;
using Fenster.Core.Scoring;
using Reference = MathNet.Numerics.Statistics;
using static Fenster.Core.Tests.Build;

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
                Assert.Equal(Reference.Statistics.QuantileCustom(xs, share, Reference.QuantileDefinition.Excel), Statistics.Quantile(xs, share), 1e-9);
            Assert.Equal(Reference.Statistics.StandardDeviation(xs), Statistics.StandardDeviation(xs), 1e-9);
            if (xs.Distinct().Count() > 1) Assert.Equal(Reference.Correlation.Pearson(xs, ys), Statistics.Correlation(xs, ys), 1e-9);
        }
    }

    /// <summary>With items of 0 and 1, alpha is KR-20: k ÷ (k − 1) × (1 − Σ p·q ÷ variance), here reckoned with the definition's own sums over n.</summary>
    [Fact]
    public void Alpha_of_right_and_wrong_items_is_formula_20_of_kuder_and_richardson()
    {
        double[][] answers = [[1, 1, 1, 1], [1, 1, 1, 0], [1, 1, 0, 0], [1, 0, 0, 0], [0, 0, 0, 0]];
        // p is 0.8, 0.6, 0.4 and 0.2, so the sum of p·q is 0.8; the totals 4, 3, 2, 1, 0 have the variance 2.
        Assert.Equal(4 / 3.0 * (1 - 0.8 / 2), Statistics.CronbachAlpha(answers), 1e-12);
        Assert.Equal(0.8, Statistics.CronbachAlpha(answers), 1e-12);
        Assert.Equal(2, Statistics.ErrorOfMeasurement(Math.Sqrt(20), 0.8), 1e-12);
    }

    [Fact]
    public void Figures_that_mean_nothing_are_no_numbers()
    {
        Assert.True(double.IsNaN(Statistics.Median([])));
        Assert.True(double.IsNaN(Statistics.StandardDeviation([1])));
        Assert.True(double.IsNaN(Statistics.CronbachAlpha([[1, 1], [1, 1]])));
        Assert.True(double.IsNaN(Statistics.CronbachAlpha([[1], [0]])));
    }

    [Fact]
    public void A_pane_tells_which_label_went_where_and_how_hard_each_zone_was()
    {
        var pane = Pane(Labels("A B C"), Zone(1, "A"), Zone(2, "B", points: 2));
        var insight = PaneInsight.Of(pane, [Response("A1 B2"), Response("A1 C2"), Response("B1 C2"), Response("A1")]);
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
        var pane = Pane(Labels("A")) with { Targets = [new Hotspots { Id = "s", Needed = 1, Spots = [new(new Core.Geometry.Circle(new(300, 300), 50))] }] };
        Response At(double x) => new() { Marks = ImmutableDictionary<string, ImmutableArray<Core.Geometry.Point>>.Empty.Add("s", [new(x, 300)]) };
        Assert.Equal([1, 2, 2, 2, 3], PaneInsight.Of(pane, [At(300), At(355), At(370), At(400), At(500)]).Targets[0].NearMisses.AsEnumerable());
    }

    [Fact]
    public void A_change_of_the_key_is_scored_against_every_response_before_anything_is_changed()
    {
        var pane = Pane(Labels("A B C"), Zone(1, "A"), Zone(2, "B"));
        var before = Activity(pane, new() { MaximumGrade = 10, PassMark = 5 });
        var after = before with { Panes = [pane with { Targets = [Zone(1, "A C=0.5"), Zone(2, "C")] }] };
        var responses = new Dictionary<string, ImmutableDictionary<string, Response>>
        {
            ["ada"] = On(pane, Response("A1 C2")), ["ben"] = On(pane, Response("B2")), ["cy"] = On(pane, Response("C2")), ["di"] = On(pane, Response("")),
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
