using System.Collections.Concurrent;
using System.Diagnostics;
using System.Text.Json;
using Fenster.Testing;

namespace Fenster.Bench;

/// <summary>
/// A wall of 200 students who make 100 moves a second for a minute: the 95th percentile of the time from a move's answer to its event on
/// an open wall, in milliseconds; what the server's processor works with a wall open, beside the same moves without one, in seconds; and the
/// 95th percentile of the time from frame to frame of a browser that shows it.
/// </summary>
internal static class Wall
{
    private const int Students = 200;
    private const int Zones = 12;
    private const int MovesASecond = 100;
    private static readonly TimeSpan RunTime = TimeSpan.FromSeconds(60);
    private const double Wanted = 300;

    /// <summary>Milliseconds from frame to frame.</summary>
    private const double WantedFrame = 33;

    public static async Task<Line[]> Measure()
    {
        using var fenster = new RunningFenster();
        using var teacher = await new Visitor(fenster.Address).SignIn();
        var (id, code) = await teacher.Publish(Samples.Document(Zones));
        var of = await teacher.AssignmentOf(id);
        var students = new Visitor[Students];
        for (var i = 0; i < Students; i++)
        {
            students[i] = new(fenster.Address);
            // So many do not come in at once from one place; they are let in one after the other.
            while (students[i].SecretFor(code) is null)
                if ((await students[i].Join(code, Name(i))).IsSuccessStatusCode && students[i].SecretFor(code) is null)
                    await Task.Delay(500);
        }
        // Without a wall first, so that what is hot is compiled for both.
        var alone = await Run(fenster, students, code, first: 0, answered: null);
        var answered = new ConcurrentDictionary<(string Name, int Moves), long>();
        using var over = new CancellationTokenSource();
        var watching = Watch(teacher, $"/activities/{id}/wall?handler=Feed&of={of}", over.Token);
        var watched = await Run(fenster, students, code, first: MovesASecond * (int)RunTime.TotalSeconds / Students, answered);
        await Task.Delay(1000);
        await over.CancelAsync();
        var seen = await watching;
        var frames = await Frames(
            fenster,
            students,
            code,
            $"/activities/{id}/wall?of={of}",
            2 * MovesASecond * (int)RunTime.TotalSeconds / Students
        );
        foreach (var student in students)
            student.Dispose();
        // What a later event says stands for the moves before it too.
        var late = answered
            .Select(move =>
                seen.Where(told => told.Name == move.Key.Name && told.Version >= move.Key.Moves)
                    .Select(told => told.At)
                    .DefaultIfEmpty(long.MaxValue)
                    .Min() - move.Value
            )
            .Select(ticks => Math.Max(0, ticks * 1000.0 / Stopwatch.Frequency))
            .Order()
            .ToArray();
        return
        [
            Line.AtMost("wall", late[(int)(late.Length * 0.95)], Wanted, 1),
            Line.AtMost("wall cpu", watched.TotalSeconds, alone.TotalSeconds, 1.5),
            Line.AtMost("wall frames", frames, WantedFrame, 1),
        ];
    }

    /// <summary>The 95th percentile of the time from frame to frame on the wall in a browser, while all work.</summary>
    private static async Task<double> Frames(RunningFenster fenster, Visitor[] students, string code, string path, int first)
    {
        using var browser = new Browser(fenster.Address);
        browser.SignIn();
        browser.Go(path);
        browser.Until(() => browser.Count(".tile") == Students, "all tiles");
        browser.Script<object?>(
            """
            const frames = window.frames_ = []
            let last = performance.now()
            const tick = now => { frames.push(now - last); last = now; requestAnimationFrame(tick) }
            requestAnimationFrame(tick)
            return null
            """
        );
        await Run(fenster, students, code, first, answered: null);
        return
            browser
                .Script<IReadOnlyCollection<object>>("return window.frames_.slice(2)")
                .Select(frame => Convert.ToDouble(frame, System.Globalization.CultureInfo.InvariantCulture))
                .Order()
                .ToArray()
                is var sorted
            ? sorted[(int)(sorted.Length * 0.95)]
            : 0;
    }

    private static string Name(int student) => $"Student {student:000}";

    /// <summary>Makes moves in an even rhythm; the time that the server's processor worked for it.</summary>
    /// <param name="first">How many moves each student has made before.</param>
    /// <param name="answered">Gets when a student's move of a number was answered, in ticks of the stopwatch.</param>
    private static async Task<TimeSpan> Run(
        RunningFenster fenster,
        Visitor[] students,
        string code,
        int first,
        ConcurrentDictionary<(string, int), long>? answered
    )
    {
        var before = fenster.ProcessorTime;
        var clock = Stopwatch.StartNew();
        var all = MovesASecond * (int)RunTime.TotalSeconds;
        var sent = new List<Task>();
        for (var n = 0; n < all; n++)
        {
            var due = TimeSpan.FromSeconds((double)n / MovesASecond);
            if (due > clock.Elapsed)
                await Task.Delay(due - clock.Elapsed);
            var (who, number) = (n % Students, first + n / Students);
            sent.Add(Move(who, number));
        }
        await Task.WhenAll(sent);
        return fenster.ProcessorTime - before;

        async Task Move(int who, int number)
        {
            // Each into another zone than before, so that no move brings others with it.
            using var answer = await students[who].Move(code, $"d{who}.{number}", $"l{number % Zones + 1}", $"z{number % Zones + 1}");
            answer.EnsureSuccessStatusCode();
            if (answered is not null)
                answered[(Name(who), number + 1)] = Stopwatch.GetTimestamp();
        }
    }

    private static async Task<List<(string Name, int Version, long At)>> Watch(Visitor teacher, string feed, CancellationToken over)
    {
        var seen = new List<(string, int, long)>();
        using var response = await teacher.Begin(new HttpRequestMessage(HttpMethod.Get, feed));
        using var lines = new StreamReader(await response.Content.ReadAsStreamAsync(over));
        try
        {
            while (await lines.ReadLineAsync(over) is { } line)
            {
                var now = Stopwatch.GetTimestamp();
                if (line.StartsWith("data: ", StringComparison.Ordinal))
                    foreach (var tile in JsonDocument.Parse(line[6..]).RootElement.GetProperty("tiles").EnumerateArray())
                        seen.Add((tile.GetProperty("name").GetString()!, tile.GetProperty("version").GetInt32(), now));
            }
        }
        catch (OperationCanceledException)
        {
            // The minute is over.
        }
        return seen;
    }
}
