using System.Globalization;
using System.Text.Json.Nodes;
using Fenster.Testing;

namespace Fenster.Bench;

/// <summary>
/// The 95th percentile of the time from frame to frame, in milliseconds, while one of 200 zones is dragged in the
/// workbench, with the processor slowed four times; beside a frame of a screen that shows 60 in a second.
/// </summary>
internal static class Drag
{
    private const double Frame = 1000.0 / 60;

    public static async Task<Line[]> Measure()
    {
        using var fenster = new RunningFenster();
        using var visitor = new Visitor(fenster.Address);
        await visitor.SignIn();
        var id = await visitor.Begin("Two hundred");
        (await visitor.Save(id, 1, Document())).EnsureSuccessStatusCode();
        using var browser = new Browser(fenster.Address);
        browser.SignIn();
        browser.Go($"/activities/{id}");
        browser.Until(() => browser.Count(".zone-box") == 200, "200 zones");
        browser.Cdp("Emulation.setCPUThrottlingRate", ("rate", 4));
        var runs = Enumerable.Range(0, 5).Select(_ => Run(browser)).ToList();
        return [Line.AtMost("drag", Line.Median(runs), Frame, 1)];
    }

    private static double Run(Browser browser)
    {
        browser.Script<object?>("""
            const frames = window.frames200 = []
            let last = performance.now(), running = window.running200 = { on: true }
            const tick = now => { frames.push(now - last); last = now; if (running.on) requestAnimationFrame(tick) }
            requestAnimationFrame(tick)
            """);
        var (x, y) = browser.Spot(".zone-box:nth-child(105) .zone-area");
        browser.Drag([(x, y), .. Enumerable.Range(1, 40).Select(i => (x + (int)(60 * Math.Sin(i / 4.0)), y + i % 12))]);
        var frames = browser.Script<IReadOnlyCollection<object>>("window.running200.on = false; return window.frames200.slice(2)");
        return frames.Select(frame => Convert.ToDouble(frame, CultureInfo.InvariantCulture)).Order().ElementAt((int)(frames.Count * 0.95));
    }

    private static string Document()
    {
        var (labels, targets) = (new JsonArray(), new JsonArray());
        for (var i = 0; i < 200; i++)
        {
            labels.Add(new JsonObject { ["id"] = $"label-{i}", ["text"] = $"Name {i}" });
            targets.Add(new JsonObject
            {
                ["kind"] = "dropZone", ["id"] = $"zone-{i}", ["accepts"] = new JsonArray(new JsonObject { ["label"] = $"label-{i}" }),
                ["region"] = new JsonObject { ["kind"] = "rectangle", ["x"] = 10 + i % 14 * 70, ["y"] = 10 + i / 14 * 45, ["width"] = 62, ["height"] = 36 },
            });
        }
        var document = JsonNode.Parse(Samples.Document(1))!;
        var pane = document["panes"]![0]!;
        (pane["labels"], pane["targets"]) = (labels, targets);
        pane["picture"] = new JsonObject { ["media"] = new string('a', 64), ["width"] = 1600, ["height"] = 1100 };
        return document.ToJsonString();
    }
}
