using System.Text.Json;
using System.Text.Json.Nodes;
using System.Xml.Linq;
using Fenster.Formats.Documents;

namespace Fenster.Formats.Tests;

/// <summary>A file of responses, studied; every number was worked out by hand.</summary>
public sealed class InsightDocumentTests
{
    private const string Activity = """
        {
          "fenster": 1, "title": "On the boat",
          "panes": [{
            "id": "p", "labels": [{"id": "a", "text": "Mast"}, {"id": "b", "text": "Boom"}, {"id": "c", "text": "Jib"}],
            "targets": [
              {"kind": "dropZone", "id": "za", "region": {"kind": "rectangle", "x": 10, "y": 10, "width": 100, "height": 40}, "accepts": [{"label": "a"}]},
              {"kind": "dropZone", "id": "zb", "region": {"kind": "rectangle", "x": 10, "y": 110, "width": 100, "height": 40}, "accepts": [{"label": "b"}]},
              {"kind": "hiddenZone", "id": "hc", "region": {"kind": "circle", "centre": {"x": 500, "y": 300}, "radius": 50}, "accepts": [{"label": "c"}]},
              {"kind": "openNote", "id": "note", "region": {"kind": "rectangle", "x": 700, "y": 10, "width": 100, "height": 40}},
              {"kind": "infoSpot", "id": "info", "at": {"x": 8, "y": 8}, "text": "Look"}
            ]
          }]
        }
        """;

    /// <summary>Half of them have mast and boom the wrong way round; seven of twelve point 15 pu outside of the circle.</summary>
    private static JsonArray ThreeDozen() =>
        new([
            .. Enumerable
                .Range(0, 36)
                .Select(i =>
                    JsonNode.Parse(
                        $$$$"""
                        {"id": "s{{{{i}}}}", "panes": {"p": {
                          "placements": [{"label": "a", "copy": 0, "zone": "{{{{(
                            i % 12 < 6 ? "zb" : "za"
                        )}}}}"}, {"label": "b", "copy": 0, "zone": "{{{{(i % 12 < 6 ? "za" : "zb")}}}}"}],
                          "pins": [{"label": "c", "copy": 0, "at": {"x": {{{{(i % 12 < 7 ? 565 : 500)}}}}, "y": 300}}]}}}
                        """
                    )
                ),
        ]);

    private static (JsonElement Document, List<string> Drawings) Study(JsonArray responses)
    {
        var activity = ActivityDocument.Read(Activity);
        var read = ResponsesDocument.Read(new JsonObject { ["fenster"] = 1, ["responses"] = responses }.ToJsonString());
        var insight = InsightDocument.Read(activity, read);
        return (
            JsonSerializer.Deserialize<JsonElement>(InsightDocument.Write(activity, read, insight)),
            [.. InsightDocument.Drawings(activity, insight).Select(drawing => drawing.Svg)]
        );
    }

    [Fact]
    public void Figures_and_findings_are_those_that_were_worked_out()
    {
        var (document, drawings) = Study(ThreeDozen());
        Assert.Equal(36, document.GetProperty("works").GetInt32());
        var pane = document.GetProperty("panes")[0];
        var targets = pane.GetProperty("targets");
        Assert.Equal(0.5, targets[0].GetProperty("facility").GetDouble());
        Assert.Equal(5 / 12.0, targets[2].GetProperty("facility").GetDouble(), 1e-12);
        Assert.Equal([0, 21, 21, 21, 21], targets[2].GetProperty("nearMisses").EnumerateArray().Select(count => count.GetInt32()));
        Assert.Equal([18, 18], pane.GetProperty("flows").EnumerateArray().Select(flow => flow.GetProperty("count").GetInt32()));
        Assert.Equal([21, 15], pane.GetProperty("hexagons").EnumerateArray().Select(hexagon => hexagon.GetProperty("count").GetInt32()));
        // Of 4 points; of each dozen six have 2 by the labels and five 1 by the pin: 17 in all.
        Assert.Equal(17 / 12.0, document.GetProperty("mean").GetDouble(), 1e-12);
        Assert.Equal(
            ["“Jib”: 21 of 21 wrong points lie within 2 % of its edge. Is the region too small?"],
            document
                .GetProperty("findings")
                .EnumerateArray()
                .Where(finding => finding.GetProperty("finding").GetString() == "tooSmall")
                .Select(finding => finding.GetProperty("says").GetString())
        );
        var drawing = XDocument.Parse(Assert.Single(drawings));
        Assert.Contains(drawing.Descendants(), element => element.Name.LocalName == "title" && element.Value == "18 put “Mast” there");
    }

    [Theory]
    [InlineData(0)]
    [InlineData(1)]
    public void Where_nothing_can_be_reckoned_it_is_null(int count)
    {
        var (document, drawings) = Study(new([.. ThreeDozen().Take(count).Select(each => each!.DeepClone())]));
        Assert.Equal(JsonValueKind.Null, document.GetProperty("alpha").ValueKind);
        Assert.True(document.GetProperty("isFewerThanTen").GetBoolean());
        Assert.Equal(0, document.GetProperty("findings").GetArrayLength());
        Assert.Single(drawings);
    }

    [Fact]
    public void What_marking_refuses_is_refused() =>
        Assert.Throws<DocumentRefused>(() => Study(new(JsonNode.Parse("""{"id": "x", "panes": {"elsewhere": {}}}"""))));
}
