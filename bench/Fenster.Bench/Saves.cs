using System.Diagnostics;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using Fenster.Testing;

namespace Fenster.Bench;

/// <summary>
/// A save that changes one pane of twenty with 100 labels each, proof included, beside the same of an activity that has the one pane.
/// In milliseconds.
/// </summary>
internal static class Saves
{
    private const int Labels = 100;
    private const int Times = 40;

    public static async Task<Line[]> ProofOneOfTwenty()
    {
        using var fenster = new RunningFenster();
        using var teacher = await new Visitor(fenster.Address).SignIn();
        var (ours, baseline) = (await Draft.Begin(teacher, 20), await Draft.Begin(teacher, 1));
        for (var i = 0; i < Times; i++)
            (_, _) = (await ours.Save(i), await baseline.Save(i));
        var (twenty, one) = (new List<double>(), new List<double>());
        for (var i = 0; i < Times; i++)
        {
            twenty.Add(await ours.Save(Times + i));
            one.Add(await baseline.Save(Times + i));
        }
        return [Line.AtMost("proof-one-of-twenty", Line.Median(twenty), Line.Median(one), 1.5)];
    }

    private sealed class Draft(Visitor teacher, long id, JsonNode document)
    {
        private long version = 1;

        public static async Task<Draft> Begin(Visitor teacher, int panes)
        {
            var document = JsonNode.Parse(Samples.Document(Labels))!;
            var all = document["panes"]!.AsArray();
            for (var i = 1; i < panes; i++)
            {
                var pane = all[0]!.DeepClone();
                pane["id"] = $"pane-{i}";
                pane["labels"]![0]!["text"] = $"Pane {i}";
                all.Add(pane);
            }
            return new(teacher, await teacher.Begin($"{panes} panes"), document);
        }

        public async Task<double> Save(int number)
        {
            document["panes"]![0]!["labels"]![0]!["text"] = $"Changed {number}";
            // Made before the clock runs: a browser's own work is no part of it. Panes that are saved are named, as the workbench does.
            var panes = document["panes"]!.AsArray();
            if (version > 1)
                for (var i = 1; i < panes.Count; i++)
                    panes[i] = $"pane-{i}";
            using var body = new StringContent(
                $$"""{"version":{{version}},"document":{{document.ToJsonString()}}}""",
                Encoding.UTF8,
                "application/json"
            );
            var start = Stopwatch.GetTimestamp();
            using var response = await teacher.PostAsScript($"/activities/{id}?handler=Save", body);
            var time = Stopwatch.GetElapsedTime(start).TotalMilliseconds;
            response.EnsureSuccessStatusCode();
            version = JsonDocument.Parse(await response.Content.ReadAsStringAsync()).RootElement.GetProperty("version").GetInt64();
            return time;
        }
    }
}
