using System.Text.Json.Nodes;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Fenster.Formats.Documents;

namespace Fenster.Formats.Tests;

public sealed class ActivityDocumentTests
{
    [Fact]
    public void What_is_written_reads_back_as_the_same()
    {
        var text = ActivityDocument.Write(FullSample.Activity);
        Assert.Equal(text, ActivityDocument.Write(ActivityDocument.Read(text)));
        Assert.Equal(new Circle(new(100.5, 20), 30), ((DropZone)ActivityDocument.Read(text).Panes[0].Targets[0]).Region);
        Assert.StartsWith("""{"fenster":1,"title":"Parts of a boat",""", text);
        Assert.Contains("\"kind\":\"dropZone\"", text);
    }

    [Fact]
    public void What_a_person_leaves_out_has_its_usual_value()
    {
        var activity = ActivityDocument.Read(
            """{"fenster": 1, "title": "T", "panes": [{"id": "p", "labels": [{"text": "A", "id": "a"}]}]}"""
        );
        Assert.Equal(1, activity.Panes[0].Labels[0].Copies);
        Assert.Equal((Moment.HandedIn, Moment.Closed), (activity.Rules.Reveal.Marks, activity.Rules.Reveal.Key));
    }

    [Theory]
    [InlineData("", "readable")]
    [InlineData("[]", "not a JSON object")]
    [InlineData("{", "readable")]
    [InlineData("{}", "'fenster'")]
    [InlineData("""{"fenster": "1", "title": "T"}""", "'fenster'")]
    [InlineData("""{"fenster": 7, "title": "T"}""", "version 7")]
    [InlineData("""{"fenster": 1}""", "readable")]
    [InlineData("""{"fenster": 1, "title": null}""", "readable")]
    [InlineData("""{"fenster": 1, "title": "  "}""", "no title")]
    [InlineData("""{"fenster": 1, "title": "T", "panes": null}""", "readable")]
    [InlineData(
        """{"fenster": 1, "title": "T", "panes": [{"id": "p", "targets": [{"kind": "moon", "id": "z"}]}]}""",
        "panes[0].targets[0]"
    )]
    [InlineData(
        """{"fenster": 1, "title": "T", "panes": [{"id": "p", "targets": [{"kind": "dropZone", "id": "z", "region": {"kind": "circle", "centre": {"x": "NaN", "y": 0}, "radius": 3}}]}]}""",
        "readable"
    )]
    [InlineData(
        """{"fenster": 1, "title": "T", "panes": [{"id": "p", "targets": [{"kind": "dropZone", "id": "z", "region": {"kind": "circle", "centre": {"x": 1, "y": 0}, "radius": -3}}]}]}""",
        "'z' has no size"
    )]
    [InlineData("""{"fenster": 1, "title": "T", "title": "U"}""", "readable")]
    [InlineData("""{"fenster": 1, "title": "T", "panes": [{"id": "p", "labels": [null]}]}""", "panes[0].labels[0]")]
    [InlineData(
        """{"fenster": 1, "title": "T", "panes": [{"id": "p", "targets": [{"kind": "lock", "id": "x", "at": {"x": 1, "y": 1}, "code": {"spellings": []}}]}]}""",
        "'x' has no accepted answer"
    )]
    [InlineData(
        """{"fenster": 1, "title": "T", "panes": [{"id": "p", "targets": [{"kind": "hotspots", "id": "x", "needed": 3, "spots": []}]}]}""",
        "'x' asks for 3 of 0 spots"
    )]
    public void What_can_not_be_read_gets_a_sentence(string text, string words) =>
        Assert.Contains(words, Assert.Throws<DocumentRefused>(() => ActivityDocument.Read(text)).Message);

    [Fact]
    public void Documents_as_deep_as_a_well_are_refused() =>
        Assert.Throws<DocumentRefused>(() => ActivityDocument.Read($$"""{"fenster": 1, "title": {{new string('[', 100_000)}}"""));

    [Theory]
    [InlineData("""{"x": 1e999, "y": 0}""")]
    [InlineData("""{"x": 1e308, "y": 0}""")]
    [InlineData("""{"x": "Infinity", "y": 0}""")]
    [InlineData("""{"x": null, "y": 0}""")]
    [InlineData("""{"x": [0], "y": 0}""")]
    [InlineData("""{"x": 5}""")]
    public void Numbers_that_are_none_are_refused(string centre) =>
        Assert.Throws<DocumentRefused>(() =>
            ActivityDocument.Read(
                $$$"""{"fenster": 1, "title": "T", "panes": [{"id": "p", "targets": [{"kind": "dropZone", "id": "z", "region": {"kind": "circle", "centre": {{{centre}}}, "radius": 3}}]}]}"""
            )
        );

    [Theory]
    [InlineData("points", "-1", "not worth more than zero")]
    [InlineData("capacity", "0", "takes no label")]
    [InlineData("accepts", """[{"label": "moon"}]""", "accepts the label 'moon'")]
    [InlineData("accepts", """[{"label": "a", "credit": 2}]""", "credit")]
    [InlineData("id", "\"z\"", "there twice")]
    [InlineData("tolerance", """{"slack": -1}""", "slack that is not a distance")]
    public void Degenerate_targets_are_refused_and_named(string field, string value, string words)
    {
        var zone = JsonNode
            .Parse("""{"kind": "hiddenZone", "id": "zz", "region": {"kind": "circle", "centre": {"x": 1, "y": 1}, "radius": 3}}""")!
            .AsObject();
        zone[field] = JsonNode.Parse(value);
        var refused = Assert.Throws<DocumentRefused>(() =>
            ActivityDocument.Read(
                $$$"""{"fenster": 1, "title": "T", "panes": [{"id": "p", "labels": [{"id": "a", "text": "A"}], "targets": [{"kind": "openNote", "id": "z", "region": {"kind": "circle", "centre": {"x": 1, "y": 1}, "radius": 3}}, {{{zone}}}]}]}"""
            )
        );
        Assert.Contains(words, refused.Message);
        Assert.Contains(field == "id" ? "panes[0].targets" : "panes[0].targets[1]", refused.Where);
    }

    [Fact]
    public void A_logarithmic_axis_through_zero_and_a_tolerance_below_zero_are_refused()
    {
        string Scale(string axis, string within) =>
            $$$$"""{"fenster": 1, "title": "T", "panes": [{"id": "p", "targets": [{"kind": "scalePoint", "id": "s", "x": 1, "within": {{{{within}}}}, "scale": {"x": {"from": {"x": 0, "y": 0}, "to": {"x": 9, "y": 0}, {{{{axis}}}}}}}]}]}""";
        Assert.Contains(
            "through zero",
            Assert
                .Throws<DocumentRefused>(() =>
                    ActivityDocument.Read(Scale("\"fromValue\": 0, \"toValue\": 10, \"kind\": \"logarithmic\"", """{"slack": 1}"""))
                )
                .Message
        );
        Assert.Contains(
            "slack",
            Assert
                .Throws<DocumentRefused>(() => ActivityDocument.Read(Scale("\"fromValue\": 1, \"toValue\": 10", """{"slack": -1}""")))
                .Message
        );
    }

    [Fact]
    public void A_million_labels_and_a_code_of_ten_thousand_characters_get_a_sentence()
    {
        var labels = string.Join(',', Enumerable.Repeat("""{"id":"a","text":"A"}""", 1_000_000));
        Assert.Contains(
            "up to 2000 labels",
            Assert
                .Throws<DocumentRefused>(() =>
                    ActivityDocument.Read($$$"""{"fenster":1,"title":"T","panes":[{"id":"p","labels":[{{{labels}}}]}]}""")
                )
                .Message
        );
        var code = new string('7', 10_000);
        Assert.Contains(
            "more than 1000 characters",
            Assert
                .Throws<DocumentRefused>(() =>
                    ActivityDocument.Read(
                        $$$"""{"fenster":1,"title":"T","panes":[{"id":"p","targets":[{"kind":"lock","id":"l","at":{"x":1,"y":1},"code":{"spellings":[{"text":"{{{code}}}"}]}}]}]}"""
                    )
                )
                .Message
        );
    }

    private static readonly string WithUnknown = """
        {"fenster": 1, "title": "T", "season": "autumn", "rules": {"score": {"wrongCost": 1, "mercy": {"level": 3}}},
         "panes": [
           {"id": "p", "mood": "calm", "labels": [{"id": "a", "text": "A", "tint": "#123456"}, {"id": "b", "text": "B", "tint": "red"}],
            "targets": [{"kind": "dropZone", "id": "z", "glow": true, "region": {"kind": "circle", "centre": {"x": 1, "y": 1, "z": 5}, "radius": 3}, "accepts": [{"label": "a", "why": "so"}]}]},
           {"id": "q", "mood": "wild"}]}
        """;

    [Fact]
    public void Fields_that_are_not_known_are_kept()
    {
        var kept = JsonNode.Parse(ActivityDocument.Write(ActivityDocument.Read(WithUnknown), WithUnknown))!;
        Assert.Equal("autumn", (string?)kept["season"]);
        Assert.Equal(3, (int?)kept["rules"]!["score"]!["mercy"]!["level"]);
        Assert.Equal("red", (string?)kept["panes"]![0]!["labels"]![1]!["tint"]);
        Assert.True((bool?)kept["panes"]![0]!["targets"]![0]!["glow"]);
        Assert.Equal(5, (int?)kept["panes"]![0]!["targets"]![0]!["region"]!["centre"]!["z"]);
        Assert.Equal("so", (string?)kept["panes"]![0]!["targets"]![0]!["accepts"]![0]!["why"]);
        // Keeping them once more changes nothing, and what was known is as it was without them.
        Assert.Equal(
            kept.ToJsonString(),
            JsonNode.Parse(ActivityDocument.Write(ActivityDocument.Read(kept.ToJsonString()), kept.ToJsonString()))!.ToJsonString()
        );
    }

    [Fact]
    public void Fields_that_are_not_known_go_with_the_thing_that_they_stood_on()
    {
        var activity = ActivityDocument.Read(WithUnknown);
        var changed = activity with
        {
            Panes = [activity.Panes[1], activity.Panes[0] with { Labels = [activity.Panes[0].Labels[1], new() { Id = "c", Text = "C" }] }],
        };
        var kept = JsonNode.Parse(ActivityDocument.Write(changed, WithUnknown))!;
        Assert.Equal(["wild", "calm"], kept["panes"]!.AsArray().Select(pane => (string?)pane!["mood"]));
        Assert.Equal(["red", null], kept["panes"]![1]!["labels"]!.AsArray().Select(label => (string?)label!["tint"]));
    }

    [Theory]
    [InlineData("""{ "kind": "text", "spellings": [{ "text": "a" }], "rules": null }""")]
    [InlineData("""{ "kind": "number", "value": 1, "units": [null] }""")]
    [InlineData("""{ "kind": "text", "spellings": [null] }""")]
    public void Nothing_where_something_has_to_be_is_refused_with_its_place(string answer)
    {
        var document = $$"""
            { "fenster": 1, "title": "T", "panes": [{ "id": "p", "targets": [
              { "kind": "answerBox", "id": "b", "region": { "kind": "circle", "centre": { "x": 1, "y": 1 }, "radius": 1 }, "answer": {{answer}} }] }] }
            """;
        Assert.Contains("targets[0].answer", Assert.Throws<DocumentRefused>(() => ActivityDocument.Read(document)).Message);
    }

    [Fact]
    public void Spoilt_documents_never_do_worse_than_a_sentence()
    {
        Spoiling.EachGetsASentence(ActivityDocument.Write(FullSample.Activity), text => ActivityDocument.Read(text));
    }
}
