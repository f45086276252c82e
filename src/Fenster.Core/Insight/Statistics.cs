namespace Fenster.Core.Insight;

/// <summary>The figures of test theory, as handbooks define them.</summary>
public static class Statistics
{
    /// <summary>The middle of the numbers; of two middles their mean. NaN when there are none.</summary>
    public static double Median(IReadOnlyCollection<double> numbers) => Quantile(numbers, 0.5);

    /// <summary>
    /// The value below which a share of the numbers lies, by linear interpolation between the order statistics
    /// (definition 7 of Hyndman and Fan, 1996, the one of most spreadsheets). NaN when there are none.
    /// </summary>
    /// <param name="share">From 0 to 1.</param>
    public static double Quantile(IReadOnlyCollection<double> numbers, double share)
    {
        if (numbers.Count == 0)
            return double.NaN;
        var sorted = numbers.Order().ToArray();
        var position = share * (sorted.Length - 1);
        var below = (int)Math.Floor(position);
        return below + 1 < sorted.Length ? sorted[below] + (position - below) * (sorted[below + 1] - sorted[below]) : sorted[below];
    }

    /// <summary>The standard deviation of a sample (divided by n − 1). NaN for fewer than two numbers.</summary>
    public static double StandardDeviation(IReadOnlyCollection<double> numbers) => Math.Sqrt(Variance(numbers));

    private static double Variance(IReadOnlyCollection<double> numbers)
    {
        if (numbers.Count < 2)
            return double.NaN;
        var mean = numbers.Average();
        return numbers.Sum(number => (number - mean) * (number - mean)) / (numbers.Count - 1);
    }

    /// <summary>Pearson's correlation, which is the point-biserial one when one side is 0 or 1. NaN when a side never varies.</summary>
    public static double Correlation(IReadOnlyList<double> xs, IReadOnlyList<double> ys)
    {
        var (meanX, meanY) = (xs.Average(), ys.Average());
        var both = xs.Zip(ys, (x, y) => (x - meanX) * (y - meanY)).Sum();
        return both / Math.Sqrt(xs.Sum(x => (x - meanX) * (x - meanX)) * ys.Sum(y => (y - meanY) * (y - meanY)));
    }

    /// <summary>
    /// Cronbach's alpha (1951): k ÷ (k − 1) × (1 − sum of the items' variances ÷ variance of the totals). With items of
    /// 0 and 1 it is Kuder and Richardson's formula 20. NaN for fewer than two items or totals that never vary.
    /// </summary>
    /// <param name="scores">One row an attempt, one number an item.</param>
    public static double CronbachAlpha(IReadOnlyList<double[]> scores)
    {
        if (scores.Count < 2 || scores[0].Length < 2)
            return double.NaN;
        var items = scores[0].Length;
        var ofItems = Enumerable.Range(0, items).Sum(item => Variance([.. scores.Select(row => row[item])]));
        var ofTotals = Variance([.. scores.Select(row => row.Sum())]);
        return ofTotals == 0 ? double.NaN : items / (items - 1.0) * (1 - ofItems / ofTotals);
    }

    /// <summary>How far a score is off by chance: the standard deviation times √(1 − α).</summary>
    public static double ErrorOfMeasurement(double standardDeviation, double alpha) => standardDeviation * Math.Sqrt(1 - alpha);
}
