using System.Globalization;
using System.Text.Json.Nodes;
using Fenster.Testing;

namespace Fenster.Bench;

/// <summary>
/// The 95th percentile of the time from frame to frame, in milliseconds, while one of many zones is dragged in the
/// workbench: of 100 with the processor slowed four times, and of 200 at its own speed; and while a student drags one of 100 labels; beside a frame of a screen that
/// shows 60 in a second.
/// </summary>
internal static class Drag
{
    private const double Frame = 1000.0 / 60;

    public static async Task<Line[]> Measure()
    {
        using var fenster = new RunningFenster();
        return
        [
            Line.AtMost("drag", await Percentile(fenster, zones: 100, slowed: 4), Frame, 1),
            Line.AtMost("drag (200 zones)", await Percentile(fenster, zones: 200, slowed: 1), Frame, 1),
            Line.AtMost("drag (student)", await StudentsPercentile(fenster, labels: 100, slowed: 4), Frame, 1),
        ];
    }

    /// <param name="slowed">How many times slower the browser's processor is made.</param>
    private static async Task<double> Percentile(RunningFenster fenster, int zones, int slowed)
    {
        using var visitor = new Visitor(fenster.Address);
        await visitor.SignIn();
        var id = await visitor.Begin("Many");
        (await visitor.Save(id, 1, Document(zones))).EnsureSuccessStatusCode();
        using var browser = new Browser(fenster.Address);
        browser.SignIn();
        browser.Go($"/activities/{id}");
        browser.Until(() => browser.Count(".zone-box") == zones, $"{zones} zones");
        browser.Cdp("Emulation.setCPUThrottlingRate", ("rate", slowed));
        return Line.Median([.. Enumerable.Range(0, 5).Select(_ => Run(browser, zones / 2 + 5))]);
    }

    /// <summary>The same while a student drags one of many labels over the picture.</summary>
    private static async Task<double> StudentsPercentile(RunningFenster fenster, int labels, int slowed)
    {
        using var visitor = await new Visitor(fenster.Address).SignIn();
        var (_, code) = await visitor.Publish(Document(labels));
        using var browser = new Browser(fenster.Address);
        browser.Go($"/do/{code}");
        browser.Enter("Drags");
        browser.See("#work[data-ready]");
        browser.Cdp("Emulation.setCPUThrottlingRate", ("rate", slowed));
        var to = browser.Spot(".stage");
        return Line.Median([.. Enumerable.Range(0, 5).Select(_ => Dragged(browser, browser.Spot(".bank .label"), to))]);
    }

    private static double Run(Browser browser, int zone)
    {
        var at = browser.Spot($".zone-box:nth-child({zone}) .zone-area");
        return Dragged(browser, at, at);
    }

    /// <summary>Drags from a spot about another.</summary>
    private static double Dragged(Browser browser, (int X, int Y) from, (int X, int Y) about)
    {
        browser.Script<object?>(
            """
            const frames = window.framesOfDrag = []
            let last = performance.now(), running = window.runningDrag = { on: true }
            const tick = now => { frames.push(now - last); last = now; if (running.on) requestAnimationFrame(tick) }
            requestAnimationFrame(tick)
            """
        );
        var (x, y) = about;
        browser.Drag([from, .. Enumerable.Range(1, 40).Select(i => (x + (int)(60 * Math.Sin(i / 4.0)), y + i % 12))]);
        var frames = browser.Script<IReadOnlyCollection<object>>("window.runningDrag.on = false; return window.framesOfDrag.slice(2)");
        // Frames come with the screen's ticks; the browser's clock rounds them to tenths of a millisecond.
        return frames
            .Select(frame => Frame * Math.Round(Convert.ToDouble(frame, CultureInfo.InvariantCulture) / Frame))
            .Order()
            .ElementAt((int)(frames.Count * 0.95));
    }

    private static string Document(int zones)
    {
        var (labels, targets) = (new JsonArray(), new JsonArray());
        for (var i = 0; i < zones; i++)
        {
            labels.Add(new JsonObject { ["id"] = $"label-{i}", ["text"] = $"Name {i}" });
            targets.Add(
                new JsonObject
                {
                    ["kind"] = "dropZone",
                    ["id"] = $"zone-{i}",
                    ["accepts"] = new JsonArray(new JsonObject { ["label"] = $"label-{i}" }),
                    ["region"] = new JsonObject
                    {
                        ["kind"] = "rectangle",
                        ["x"] = 10 + i % 14 * 70,
                        ["y"] = 10 + i / 14 * 45,
                        ["width"] = 62,
                        ["height"] = 36,
                    },
                }
            );
        }
        var document = JsonNode.Parse(Samples.Document(1))!;
        var pane = document["panes"]![0]!;
        (pane["labels"], pane["targets"]) = (labels, targets);
        pane["picture"] = new JsonObject
        {
            ["media"] = new string('a', 64),
            ["width"] = 1600,
            ["height"] = 1100,
        };
        return document.ToJsonString();
    }
}
