namespace Fenster.Bench;

/// <param name="Target">The ratio to reach, as it is written: <c>≤ 0.8</c> or <c>≥ 0.35</c>.</param>
internal sealed record Line(string Name, double Ours, double Baseline, double Ratio, string Target, bool Met)
{
    public static Line AtMost(string name, double ours, double baseline, double target) =>
        new(name, ours, baseline, ours / baseline, $"≤ {target}", ours / baseline <= target);

    public static Line AtLeast(string name, double ours, double baseline, double target) =>
        new(name, ours, baseline, ours / baseline, $"≥ {target}", ours / baseline >= target);

    public static double Median(IEnumerable<double> numbers)
    {
        var sorted = numbers.Order().ToArray();
        return (sorted[(sorted.Length - 1) / 2] + sorted[sorted.Length / 2]) / 2;
    }
}
