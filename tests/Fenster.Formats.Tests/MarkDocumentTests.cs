using System.Text.Json;
using Fenster.Core.Model;
using Fenster.Formats.Documents;

namespace Fenster.Formats.Tests;

/// <summary>A file of responses, marked; every number was worked out by hand.</summary>
public sealed class MarkDocumentTests
{
    private const string Activity = """
        {
          "fenster": 1, "title": "Of every kind",
          "rules": {"score": {"wrongCost": 0.25, "maximumGrade": 10, "passMark": 5}},
          "panes": [{
            "id": "p",
            "labels": [{"id": "a", "text": "Mast", "copies": 3}, {"id": "b", "text": "Boom"}, {"id": "v", "text": "25 kg", "value": 25}, {"id": "w", "text": "10 kg", "value": 10}],
            "targets": [
              {"kind": "dropZone", "id": "zone", "points": 2, "region": {"kind": "rectangle", "x": 10, "y": 10, "width": 100, "height": 40}, "accepts": [{"label": "a"}, {"label": "b", "credit": 0.5}]},
              {"kind": "hiddenZone", "id": "hidden", "region": {"kind": "circle", "centre": {"x": 300, "y": 300}, "radius": 50}, "accepts": [{"label": "a"}], "tolerance": {"slack": 0, "bands": [{"slack": 20, "credit": 0.5}]}},
              {"kind": "hotspots", "id": "spots", "needed": 2, "spots": [{"region": {"kind": "circle", "centre": {"x": 500, "y": 500}, "radius": 20}}, {"region": {"kind": "circle", "centre": {"x": 600, "y": 500}, "radius": 20}}]},
              {"kind": "answerBox", "id": "word", "region": {"kind": "circle", "centre": {"x": 1, "y": 1}, "radius": 9}, "answer": {"kind": "text", "spellings": [{"text": "Kicking strap"}]}},
              {"kind": "answerBox", "id": "number", "region": {"kind": "circle", "centre": {"x": 1, "y": 1}, "radius": 9}, "answer": {"kind": "number", "value": 35, "within": 0.5, "units": [{"name": "kg", "factor": 1}, {"name": "g", "factor": 0.001}]}},
              {"kind": "questionPoint", "id": "choice", "at": {"x": 5, "y": 5}, "question": {"kind": "choice", "text": "Which?", "multiple": true, "options": [{"id": "x", "text": "X", "isRight": true}, {"id": "y", "text": "Y", "isRight": true}, {"id": "n", "text": "N"}]}},
              {"kind": "scalePoint", "id": "tide", "scale": {"x": {"from": {"x": 100, "y": 0}, "to": {"x": 900, "y": 0}, "fromValue": 0, "toValue": 12}}, "x": 6, "within": {"slack": 0.25}},
              {"kind": "matching", "id": "match", "left": [{"id": "1", "text": "One blast"}, {"id": "2", "text": "Two blasts"}], "right": [{"id": "s", "text": "Starboard"}, {"id": "p", "text": "Port"}], "pairs": [{"left": "1", "right": "s"}, {"left": "2", "right": "p"}]},
              {"kind": "sortRegion", "id": "load", "region": {"kind": "rectangle", "x": 800, "y": 600, "width": 100, "height": 100}, "want": {"kind": "total", "from": 35, "to": 35}},
              {"kind": "lock", "id": "drawer", "at": {"x": 7, "y": 7}, "code": {"spellings": [{"text": "1815"}]}},
              {"kind": "openNote", "id": "note", "region": {"kind": "circle", "centre": {"x": 1, "y": 1}, "radius": 9}},
              {"kind": "infoSpot", "id": "info", "at": {"x": 8, "y": 8}, "text": "Look"}
            ]
          }]
        }
        """;

    private const string Responses = """
        {
          "fenster": 1,
          "responses": [
            {"id": "ada", "panes": {"p": {
              "placements": [{"label": "b", "copy": 0, "zone": "zone"}],
              "pins": [{"label": "a", "copy": 0, "at": {"x": 360, "y": 300}}, {"label": "v", "copy": 0, "at": {"x": 850, "y": 650}}, {"label": "w", "copy": 0, "at": {"x": 860, "y": 660}}],
              "marks": {"spots": [{"x": 600, "y": 500}, {"x": 10, "y": 700}], "tide": [{"x": 505, "y": 80}]},
              "texts": {"word": "kicking  STRAP", "number": "35400 g", "note": "I would look at the sails first."},
              "picks": {"choice": ["x", "n"]},
              "links": {"match": [{"left": "1", "right": "s"}, {"left": "2", "right": "s"}]},
              "codes": {"drawer": ["1805", "1815"]}
            }}},
            {"id": "nobody", "panes": {}}
          ]
        }
        """;

    private static JsonElement Marked(string responses = Responses) =>
        JsonDocument
            .Parse(MarkDocument.Write(ActivityDocument.Read(Activity), ResponsesDocument.Read(responses)).Json)
            .RootElement.GetProperty("results");

    [Theory]
    [InlineData("zone", "partEarned", 0.5, 1)]
    [InlineData("hidden", "partEarned", 0.5, 0.5)]
    [InlineData("spots", "partEarned", 0.5, 0.5)]
    [InlineData("word", "earned", 1, 1)]
    [InlineData("number", "earned", 1, 1)]
    [InlineData("choice", "wrong", 0, 0)]
    [InlineData("tide", "earned", 1, 1)]
    [InlineData("match", "partEarned", 0.5, 0.5)]
    [InlineData("load", "earned", 1, 1)]
    [InlineData("drawer", "earned", 1, 1)]
    [InlineData("note", "waiting", 0, 0)]
    [InlineData("info", "unscored", 0, 0)]
    public void Each_kind_of_target_is_marked(string target, string state, double credit, double points)
    {
        var mark = Marked()[0]
            .GetProperty("panes")[0]
            .GetProperty("targets")
            .EnumerateArray()
            .Single(t => t.GetProperty("target").GetString() == target);
        Assert.Equal(
            (state, (decimal)credit, (decimal)points),
            (mark.GetProperty("state").GetString(), mark.GetProperty("credit").GetDecimal(), mark.GetProperty("points").GetDecimal())
        );
    }

    [Fact]
    public void Points_add_up_and_wrong_actions_cost()
    {
        // 7.5 points earned; a mark outside, a wrong link and a choice that earned nothing cost a quarter each; 12 are possible.
        var ada = Marked()[0];
        Assert.Equal(3, ada.GetProperty("panes")[0].GetProperty("wrongActions").GetInt32());
        Assert.Equal(6.75m, ada.GetProperty("score").GetDecimal());
        Assert.Equal(12m, ada.GetProperty("possible").GetDecimal());
        Assert.Equal(5.63m, ada.GetProperty("grade").GetDecimal());
        // Her note still waits for a person, so that nothing is final.
        Assert.True(ada.GetProperty("isSoFar").GetBoolean());
        Assert.Equal(JsonValueKind.Null, ada.GetProperty("passed").ValueKind);
        Assert.Equal(0m, Marked()[1].GetProperty("score").GetDecimal());
        Assert.False(Marked()[1].GetProperty("passed").GetBoolean());
    }

    [Fact]
    public void The_marks_are_a_document_with_a_version_and_say_what_was_repeated()
    {
        var (json, notes) = MarkDocument.Write(
            ActivityDocument.Read(Activity),
            ResponsesDocument.Read(
                """{"fenster": 1, "responses": [{"id": "x", "panes": {"p": {"links": {"match": [{"left": "1", "right": "s"}, {"left": "1", "right": "s"}]}}}}]}"""
            )
        );
        Assert.Equal(1, JsonDocument.Parse(json).RootElement.GetProperty("fenster").GetInt32());
        Assert.Contains("'x'", Assert.Single(notes));
        Assert.Contains("repeats 1 action", notes[0]);
    }

    [Fact]
    public void What_is_there_to_learn_from_is_checked_and_not_scored()
    {
        var activity = ActivityDocument.Read(Activity) with { Purpose = Purpose.LearningOnly };
        var result = JsonDocument
            .Parse(MarkDocument.Write(activity, ResponsesDocument.Read(Responses)).Json)
            .RootElement.GetProperty("results")[0];
        foreach (var name in (string[])["score", "possible", "grade", "maximumGrade", "passed"])
            Assert.Equal(JsonValueKind.Null, result.GetProperty(name).ValueKind);
        Assert.Equal("partEarned", result.GetProperty("panes")[0].GetProperty("targets")[0].GetProperty("state").GetString());
    }

    [Fact]
    public void A_panes_own_rules_hold_for_its_marks_as_they_do_on_the_server()
    {
        var activity = ActivityDocument.Read(Activity);
        var strict = activity with { Panes = [activity.Panes[0] with { Rules = new RuleWords { WrongCost = 1 } }] };
        var responses = ResponsesDocument.Read(Responses);
        var marked = JsonDocument
            .Parse(MarkDocument.Write(strict, responses).Json)
            .RootElement.GetProperty("results")[0]
            .GetProperty("score")
            .GetDecimal();
        Assert.Equal(Core.Scoring.Scorer.Score(strict, responses[0].Panes, responses[0].Awards).Score, marked);
        Assert.NotEqual(Marked()[0].GetProperty("score").GetDecimal(), marked);
    }

    [Fact]
    public void An_award_stands_in_the_place_of_the_machines_credit()
    {
        var results = Marked(
            """
            {"fenster": 1, "responses": [{"id": "x", "panes": {"p": {"texts": {"note": "The sails."}}},
              "awards": {"p": [{"target": "note", "credit": 0.75, "by": "ms-low", "at": "2026-03-02T10:00:00Z", "comment": "Which sail?"}]}}]}
            """
        );
        var note = results[0]
            .GetProperty("panes")[0]
            .GetProperty("targets")
            .EnumerateArray()
            .Single(t => t.GetProperty("target").GetString() == "note");
        Assert.Equal(("partEarned", 0.75m), (note.GetProperty("state").GetString(), note.GetProperty("points").GetDecimal()));
        Assert.Equal("ms-low", note.GetProperty("award").GetProperty("by").GetString());
        Assert.Equal(0.75m, results[0].GetProperty("score").GetDecimal());
    }

    [Theory]
    [InlineData("{}", "version")]
    [InlineData("nonsense", "file of responses")]
    [InlineData("""{"fenster": 1, "responses": [null]}""", "responses[0]")]
    [InlineData("""{"fenster": 1, "responses": [{"id": "x", "panes": {"q": {}}}]}""", "pane 'q'")]
    [InlineData(
        """{"fenster": 1, "responses": [{"id": "x", "panes": {"p": {"placements": [{"label": "zz", "copy": 0, "zone": "zone"}]}}}]}""",
        "label 'zz'"
    )]
    [InlineData(
        """{"fenster": 1, "responses": [{"id": "x", "panes": {"p": {"placements": [{"label": "b", "copy": 3, "zone": "zone"}]}}}]}""",
        "copy 3"
    )]
    [InlineData(
        """{"fenster": 1, "responses": [{"id": "x", "panes": {"p": {"placements": [{"label": "a", "copy": 0, "zone": "zone"}, {"label": "a", "copy": 1, "zone": "zone"}]}}}]}""",
        "takes 1"
    )]
    [InlineData("""{"fenster": 1, "responses": [{"id": "x", "panes": {"p": {"marks": {"zone": []}}}}]}""", "Nothing can be marked there")]
    [InlineData(
        """{"fenster": 1, "responses": [{"id": "x", "panes": {"p": {"earlier": [{"earlier": [{}]}]}}}]}""",
        "earlier within something earlier"
    )]
    [InlineData("""{"fenster": 1, "responses": [{"id": "x", "panes": {"p": {"opened": ["drawer"]}}}]}""", "info spot 'drawer'")]
    [InlineData(
        """{"fenster": 1, "responses": [{"id": "x", "panes": {}, "awards": {"p": [{"target": "info", "credit": 1, "by": "ms-low", "at": "2026-03-02T10:00:00Z"}]}}]}""",
        "'info'"
    )]
    [InlineData(
        """{"fenster": 1, "responses": [{"id": "x", "panes": {}, "awards": {"p": [{"target": "note", "credit": 2, "by": "ms-low", "at": "2026-03-02T10:00:00Z"}]}}]}""",
        "from 0 to 1"
    )]
    [InlineData(
        """{"fenster": 1, "responses": [{"id": "x", "panes": {}, "awards": {"p": [{"target": "note", "credit": 1, "by": " ", "at": "2026-03-02T10:00:00Z"}]}}]}""",
        "who made it"
    )]
    [InlineData("""{"fenster": 1, "responses": [{"id": "x", "panes": {}, "awards": {"q": []}}]}""", "pane 'q'")]
    [InlineData("""{"fenster": 1, "responses": [{"id": "x", "panes": {"p": {"picks": {"choice": null}}}}]}""", "near")]
    public void What_does_not_fit_gets_a_sentence(string responses, string words) =>
        Assert.Contains(words, Assert.Throws<DocumentRefused>(() => Marked(responses)).Message);
}
