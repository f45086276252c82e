using System.Collections.Concurrent;
using System.Diagnostics;
using Fenster.Testing;

namespace Fenster.Bench;

/// <summary>
/// Placements over 32 connections, each stored durably, checked and answered, beside a bare Kestrel endpoint that
/// echoes the same JSON. Throughput in requests a second, p99 in milliseconds.
/// </summary>
internal static class Place
{
    private const int Connections = 32;
    private const int Zones = 12;
    private const int WarmUps = 8;
    private static readonly TimeSpan RunTime = TimeSpan.FromSeconds(2);

    private sealed record Run(double Throughput, double P99);

    public static async Task<Line[]> Measure()
    {
        using var fenster = new RunningFenster();
        using var echo = new Baseline("echo");
        using var teacher = await new Visitor(fenster.Address).SignIn();
        // Both are sent the very same requests, and run long enough beforehand for the runtime to have compiled what is hot.
        for (var warmUp = 0; warmUp < WarmUps; warmUp++)
            await Both();
        var runs = new List<(Run Ours, Run Baseline)>();
        for (var run = 0; run < 5; run++)
            runs.Add(await Both());
        var (ours, baseline) = (runs.Select(run => run.Ours), runs.Select(run => run.Baseline));

        async Task<(Run Ours, Run Baseline)> Both()
        {
            // A class of its own for each run: no attempt takes more than some thousand moves.
            var (_, code) = await teacher.Publish(Samples.Document(Zones));
            var students = new Visitor[Connections];
            for (var i = 0; i < Connections; i++)
            {
                students[i] = new(fenster.Address);
                await students[i].Join(code, $"Student {i}");
                await students[i].View(code);
            }
            Func<int, int, Task> To(Uri address, string stored) =>
                (who, n) =>
                    Check(
                        students[who]
                            .Move(code, $"{who}-{n}-{Guid.NewGuid()}", $"l{n % Zones + 1}", $"z{n % Zones + 1}", address, knows: n),
                        stored
                    );
            var both = (await Load(To(fenster.Address, "\"refused\":[]")), await Load(To(echo.Address, "putDown")));
            foreach (var student in students)
                student.Dispose();
            return both;
        }
        return
        [
            Line.AtLeast(
                "place throughput",
                Line.Median(ours.Select(r => r.Throughput)),
                Line.Median(baseline.Select(r => r.Throughput)),
                0.3
            ),
            Line.AtMost("place p99", Line.Median(ours.Select(r => r.P99)), Line.Median(baseline.Select(r => r.P99)), 5),
        ];
    }

    /// <param name="expected">What an answer says only when the move was taken.</param>
    private static async Task Check(Task<HttpResponseMessage> sending, string expected)
    {
        using var response = await sending;
        response.EnsureSuccessStatusCode();
        if (!(await response.Content.ReadAsStringAsync()).Contains(expected, StringComparison.Ordinal))
            throw new InvalidOperationException($"A move was not taken: {await response.Content.ReadAsStringAsync()}");
    }

    private static async Task<Run> Load(Func<int, int, Task> send)
    {
        var times = new ConcurrentBag<double>();
        var clock = Stopwatch.StartNew();
        await Task.WhenAll(
            Enumerable
                .Range(0, Connections)
                .Select(who =>
                    Task.Run(async () =>
                    {
                        for (var n = 0; clock.Elapsed < RunTime; n++)
                        {
                            var start = Stopwatch.GetTimestamp();
                            await send(who, n);
                            times.Add(Stopwatch.GetElapsedTime(start).TotalMilliseconds);
                        }
                    })
                )
        );
        var seconds = clock.Elapsed.TotalSeconds;
        var sorted = times.Order().ToArray();
        return new(sorted.Length / seconds, sorted[(int)(sorted.Length * 0.99)]);
    }
}
