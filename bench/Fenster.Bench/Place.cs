using System.Collections.Concurrent;
using System.Diagnostics;
using System.Text;
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
    private static readonly TimeSpan RunTime = TimeSpan.FromSeconds(2);

    private sealed record Run(double Throughput, double P99);

    public static async Task<Line[]> Measure()
    {
        using var fenster = new RunningFenster();
        using var echo = new Baseline("echo");
        string code;
        using (var teacher = await new Visitor(fenster.Address).SignIn())
            code = (await teacher.Publish(Samples.Document(Zones))).Code;
        var students = new Visitor[Connections];
        for (var i = 0; i < Connections; i++)
        {
            students[i] = new(fenster.Address);
            await students[i].Join(code, $"Student {i}");
            await students[i].View(code);
        }
        var echoers = Enumerable.Range(0, Connections).Select(_ => new Visitor(echo.Address)).ToArray();

        Task Ours(int who, int n) =>
            Check(students[who].Move(code, $"{who}-{n}-{Guid.NewGuid()}", $"l{n % Zones + 1}", $"z{n % Zones + 1}"));
        Task Echo(int who, int n) =>
            Check(
                echoers[who]
                    .PostAsScript(
                        "/",
                        new StringContent(
                            $$$"""{"moves":[{"key":"{{{who}}}-{{{n}}}-{{{Guid.NewGuid()}}}","pane":"p1","move":{"kind":"putDown","label":"l{{{n % Zones + 1}}}","copy":0,"zone":"z{{{n % Zones + 1}}}"}}]}""",
                            Encoding.UTF8,
                            "application/json"
                        )
                    )
            );

        // Both run long enough beforehand for the runtime to have compiled what is hot.
        for (var warmUp = 0; warmUp < 5; warmUp++)
        {
            await Load(Ours);
            await Load(Echo);
        }
        var (ours, baseline) = (new List<Run>(), new List<Run>());
        for (var run = 0; run < 5; run++)
        {
            ours.Add(await Load(Ours));
            baseline.Add(await Load(Echo));
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

    private static async Task Check(Task<HttpResponseMessage> sending)
    {
        using var response = await sending;
        response.EnsureSuccessStatusCode();
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
