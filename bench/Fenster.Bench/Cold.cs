using System.Diagnostics;
using Fenster.Testing;

namespace Fenster.Bench;

/// <summary>From the start of the process to its first page, beside an empty Razor Pages application. In milliseconds.</summary>
internal static class Cold
{
    public static async Task<Line[]> Measure()
    {
        var data = Directory.CreateTempSubdirectory("fenster-bench-").FullName;
        try
        {
            using (new RunningFenster(data: data)) { }
            var (ours, baseline) = (new List<double>(), new List<double>());
            for (var run = 0; run < 15; run++)
            {
                ours.Add(await Time(() => new RunningFenster(demo: false, data), fenster => new Uri(fenster.Address, "/sign-in")));
                baseline.Add(await Time(() => new Baseline("razor"), razor => razor.Address));
            }
            return [Line.AtMost("cold", Line.Median(ours), Line.Median(baseline), 1.4)];
        }
        finally
        {
            Directory.Delete(data, recursive: true);
        }
    }

    private static async Task<double> Time<T>(Func<T> start, Func<T, Uri> page)
        where T : IDisposable
    {
        using var http = new HttpClient();
        var watch = Stopwatch.StartNew();
        using var program = start();
        (await http.GetAsync(page(program))).EnsureSuccessStatusCode();
        return watch.Elapsed.TotalMilliseconds;
    }
}
