using System.Globalization;
using System.Net;
using System.Text.Json;
using System.Text.RegularExpressions;
using Fenster.Store;
using Fenster.Testing;

namespace Fenster.Web.Tests;

/// <summary>What a class shows, and what is put right by it.</summary>
public sealed class InsightTests
{
    private static readonly string Document = $$"""
        { "fenster": 1, "title": "On the water", "rules": { "score": { "maximumGrade": 10, "passMark": 5 } },
          "panes": [{ "id": "pane-1", "picture": { "media": "{{new string(
            'b',
            64
        )}}", "width": 1000, "height": 600, "altText": "A boat" }, "labels": [{ "id": "m", "text": "Mast" }, { "id": "b", "text": "Boom" }],
            "targets": [
            { "kind": "hiddenZone", "id": "hm", "accepts": [{ "label": "m" }], "region": { "kind": "circle", "centre": { "x": 300, "y": 300 }, "radius": 40 } },
            { "kind": "hiddenZone", "id": "hb", "accepts": [{ "label": "b" }], "region": { "kind": "circle", "centre": { "x": 700, "y": 300 }, "radius": 40 } },
            { "kind": "answerBox", "id": "box", "region": { "kind": "rectangle", "x": 20, "y": 20, "width": 100, "height": 40 },
              "answer": { "kind": "text", "spellings": [{ "text": "north" }] } }] }] }
        """;

    private sealed class Desk : IDisposable
    {
        public required FensterWithClock Fenster { get; init; }
        public required Visitor Teacher { get; init; }
        public required long Id { get; init; }
        public required string Code { get; init; }

        public static async Task<Desk> Open()
        {
            var fenster = new FensterWithClock();
            var teacher = await new Visitor(fenster.Address).SignIn();
            var (id, code) = await teacher.Publish(Document);
            await teacher.Get($"/activities/{id}/insight");
            return new()
            {
                Fenster = fenster,
                Teacher = teacher,
                Id = id,
                Code = code,
            };
        }

        public Assignment Given => Fenster.Get<Assignments>().Of(Id)[0];

        public Dictionary<string, decimal> Scores =>
            Fenster
                .Get<Attempts>()
                .Page(Given.Id)
                .Where(line => line.Handed is not null)
                .ToDictionary(line => line.Name, line => line.Handed!.Score);

        /// <summary>Puts the mast at a place, the boom right, types a word, and hands in if wanted.</summary>
        public async Task<Visitor> Work(string name, double x, string typed, bool handsIn = true)
        {
            var student = new Visitor(Fenster.Address);
            await student.Join(Code, name);
            var pane = (await student.View(Code)).GetProperty("panes")[0];
            string Label(string text) =>
                pane.GetProperty("labels")
                    .EnumerateArray()
                    .First(label => label.GetProperty("text").GetString() == text)
                    .GetProperty("id")
                    .GetString()!;
            var box = pane.GetProperty("targets").EnumerateArray().First(target => target.GetProperty("kind").GetString() == "typing");
            await student.SendMoves(
                Code,
                [
                    (object)
                        new
                        {
                            key = $"{name}.1",
                            pane = "p1",
                            move = new
                            {
                                kind = "pinDown",
                                label = Label("Mast"),
                                copy = 0,
                                at = new { x, y = 300 },
                            },
                        },
                    (object)
                        new
                        {
                            key = $"{name}.2",
                            pane = "p1",
                            move = new
                            {
                                kind = "pinDown",
                                label = Label("Boom"),
                                copy = 0,
                                at = new { x = 700, y = 300 },
                            },
                        },
                    (object)
                        new
                        {
                            key = $"{name}.3",
                            pane = "p1",
                            move = new
                            {
                                kind = "typeText",
                                target = box.GetProperty("id").GetString(),
                                text = typed,
                            },
                        },
                ]
            );
            if (handsIn)
                Assert.Equal(HttpStatusCode.OK, (await student.HandIn(Code)).StatusCode);
            return student;
        }

        public async Task<string> Page(string path) =>
            WebUtility.HtmlDecode(await (await Teacher.Get($"/activities/{Id}/{path}")).Content.ReadAsStringAsync());

        public async Task<JsonElement> WhatIf(object wish, string target = "0.0") =>
            JsonSerializer.Deserialize<JsonElement>(
                await (
                    await Teacher.PostJson($"/activities/{Id}/put-right?handler=WhatIf&of={Given.Id}&target={target}", wish)
                ).Content.ReadAsStringAsync()
            );

        public async Task<string> Apply(object wish, string reason, long? seen = null, bool tell = false) =>
            WebUtility.HtmlDecode(
                await (
                    await Teacher.Post(
                        $"/activities/{Id}/put-right?handler=Apply&of={Given.Id}&target=0.0",
                        ("wish", JsonSerializer.Serialize(wish)),
                        ("seen", $"{seen ?? Given.RevisionId}"),
                        ("reason", reason),
                        ("tell", tell ? "true" : "false")
                    )
                ).Content.ReadAsStringAsync()
            );

        public void Dispose()
        {
            Teacher.Dispose();
            Fenster.Dispose();
        }
    }

    private static object Slack(double slack, string manner = "nobodyLoses") =>
        new
        {
            repair = new
            {
                targets = new[]
                {
                    new
                    {
                        pane = 0,
                        target = 0,
                        slack,
                    },
                },
            },
            manner,
            isDraft = false,
        };

    [Fact]
    public async Task A_repair_raises_exactly_the_scores_that_were_announced_and_undo_gives_untouched_work_its_score_back()
    {
        using var desk = await Desk.Open();
        using var near = await desk.Work("Near", 355, "north");
        using var far = await desk.Work("Far", 500, "north");
        using var marked = await desk.Work("Marked", 360, "north");
        using var busy = await desk.Work("Busy", 350, "north", handsIn: false);
        var before = desk.Scores;
        Assert.Equal(2, before["Near"]);
        var comes = await desk.WhatIf(Slack(25));
        Assert.Equal(JsonValueKind.Null, comes.GetProperty("problem").ValueKind);
        Assert.Equal((3, 2), (comes.GetProperty("all").GetInt32(), comes.GetProperty("changed").GetInt32()));
        Assert.Equal(before, desk.Scores);
        var announced = comes
            .GetProperty("moved")
            .EnumerateArray()
            .ToDictionary(line => line.GetProperty("name").GetString()!, line => line.GetProperty("after").GetString());
        Assert.Contains("A reason is needed", await desk.Apply(Slack(25), " "));
        Assert.Contains("Somebody has put something right meanwhile", await desk.Apply(Slack(25), "Too small", seen: 77));
        Assert.Equal(before, desk.Scores);
        Assert.Contains("2 scores changed", await desk.Apply(Slack(25), "The circle was too small", tell: true));
        var after = desk.Scores;
        Assert.Equal(["Marked", "Near"], announced.Keys.Order());
        Assert.All(announced, line => Assert.Equal(line.Value, $"{after[line.Key]:0.##} of 3"));
        Assert.Equal(before["Far"], after["Far"]);
        Assert.Contains("Marked anew: The circle was too small", await (await near.Ask(desk.Code, "")).Content.ReadAsStringAsync());
        Assert.DoesNotContain("Marked anew", await (await far.Ask(desk.Code, "")).Content.ReadAsStringAsync());
        // The workbench has what counts now.
        Assert.Contains(
            "\"slack\":25",
            (await desk.Teacher.Get($"/activities/{desk.Id}/draft")).StatusCode == HttpStatusCode.OK
                ? await (await desk.Teacher.Get($"/activities/{desk.Id}/draft")).Content.ReadAsStringAsync()
                : desk.Fenster.Get<Drafts>().Find(1, desk.Id)!.Document
        );
        // Who hands in now is marked by it, whatever the key was when they began.
        Assert.Equal(HttpStatusCode.OK, (await busy.HandIn(desk.Code)).StatusCode);
        Assert.Equal(3, desk.Scores["Busy"]);
        // Somebody marks one of them: that stays.
        var attempt = desk.Fenster.Get<Attempts>().Page(desk.Given.Id).Single(line => line.Name == "Marked").Id;
        await desk.Teacher.Post(
            $"/activities/{desk.Id}/results/{attempt}?handler=Mark",
            ("Seen", $"{desk.Fenster.Get<Attempts>().Anywhere(attempt)!.Marked}"),
            ("Points[0.2]", "0")
        );
        Assert.Equal(2, desk.Scores["Marked"]);
        var list = await desk.Page($"regrades?of={desk.Given.Id}");
        Assert.Contains("The circle was too small", list);
        var regrade = Regex.Match(list, "name=\"regrade\" value=\"(\\d+)\"").Groups[1].Value;
        await desk.Teacher.Post(
            $"/activities/{desk.Id}/regrades?handler=Undo&of={desk.Given.Id}",
            ("regrade", regrade),
            ("reason", "It was right")
        );
        Assert.Equal(before["Near"], desk.Scores["Near"]);
        Assert.Equal(before["Far"], desk.Scores["Far"]);
        Assert.Equal(1, desk.Scores["Marked"]);
        Assert.Equal(2, desk.Scores["Busy"]);
        list = await desk.Page($"regrades?of={desk.Given.Id}");
        Assert.Contains("Taken back since.", list);
        Assert.DoesNotContain("name=\"regrade\"", list);
        // Nobody else's: a stranger sees and changes nothing.
        using var stranger = new Visitor(desk.Fenster.Address);
        Assert.DoesNotContain(
            "too small",
            await (await stranger.Get($"/activities/{desk.Id}/regrades?of={desk.Given.Id}")).Content.ReadAsStringAsync()
        );
    }

    [Fact]
    public async Task Nobody_loses_or_the_new_counts_for_all_and_undo_brings_back_what_each_had()
    {
        using var desk = await Desk.Open();
        (await desk.Work("Inside", 338, "north")).Dispose();
        (await desk.Work("Outside", 300, "south")).Dispose();
        object Smaller(string manner) =>
            new
            {
                repair = new
                {
                    targets = new object[]
                    {
                        new
                        {
                            pane = 0,
                            target = 0,
                            region = new
                            {
                                kind = "circle",
                                centre = new { x = 300, y = 300 },
                                radius = 20,
                            },
                        },
                        new
                        {
                            pane = 0,
                            target = 2,
                            spellings = new[] { "south" },
                        },
                    },
                },
                manner,
            };
        var before = desk.Scores;
        Assert.Equal((3m, 2m), (before["Inside"], before["Outside"]));
        await desk.Apply(Smaller("nobodyLoses"), "For all the better");
        Assert.Equal((3m, 3m), (desk.Scores["Inside"], desk.Scores["Outside"]));
        // Then the wrong manner, on top of it: what was kept before is not kept now.
        await desk.Apply(Slack(1, "forAll"), "The new for all");
        Assert.Equal((2m, 3m), (desk.Scores["Inside"], desk.Scores["Outside"]));
        var regrade = desk.Fenster.Get<Regrades>().Of(desk.Given.Id)[0];
        Assert.NotNull(desk.Fenster.Get<Regrades>().Undo(desk.Given, regrade, "Back", 1));
        Assert.Equal((3m, 3m), (desk.Scores["Inside"], desk.Scores["Outside"]));
    }

    [Fact]
    public async Task A_question_is_taken_out_for_all_and_what_cannot_be_is_refused_with_nothing_changed()
    {
        using var desk = await Desk.Open();
        (await desk.Work("Ann", 500, "south")).Dispose();
        object Out(string forWhom) =>
            new
            {
                repair = new
                {
                    targets = new[]
                    {
                        new
                        {
                            pane = 0,
                            target = 2,
                            takenOut = forWhom,
                        },
                    },
                },
                manner = "forAll",
            };
        Assert.Contains("1 of 2", (await desk.WhatIf(Out("nobody"), "0.2")).ToString());
        Assert.Contains("2 of 3", (await desk.WhatIf(Out("everybody"), "0.2")).ToString());
        var unsound = await desk.WhatIf(Slack(-3));
        Assert.Contains("That can’t be", unsound.GetProperty("problem").GetString());
        Assert.Contains("That can’t be", await desk.Apply(Slack(-3), "Nonsense"));
        Assert.Contains("Nothing is different", await desk.Apply(Slack(0), "Nothing"));
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (
                await desk.Teacher.PostJson(
                    $"/activities/{desk.Id}/put-right?handler=WhatIf&of={desk.Given.Id}&target=0.0",
                    new { manner = 17.5 }
                )
            ).StatusCode
        );
        Assert.Empty(desk.Fenster.Get<Regrades>().Of(desk.Given.Id));
        await desk.Apply(Out("everybody"), "Nobody was taught this");
        Assert.Equal(2, desk.Scores["Ann"]);
    }

    [Fact]
    public async Task The_class_is_shown_in_figures_words_and_a_drawing_and_answers_that_are_scripts_harm_nobody()
    {
        using var desk = await Desk.Open();
        Assert.Contains("Nobody has handed in yet", await desk.Page("insight"));
        (await desk.Work("One", 300, "north")).Dispose();
        Assert.Contains("Fewer than ten have handed in", await desk.Page("insight"));
        for (var i = 0; i < 12; i++)
            (await desk.Work($"Near {i}", 350 + i % 4, i % 2 == 0 ? "<script>alert(1)</script>" : "=1+1")).Dispose();
        var raw = await (await desk.Teacher.Get($"/activities/{desk.Id}/insight")).Content.ReadAsStringAsync();
        Assert.DoesNotContain("<script>alert", raw);
        var page = WebUtility.HtmlDecode(raw);
        Assert.Contains("“Mast”: 12 of 12 wrong points lie within 2 % of its edge. Is the region too small?", page);
        Assert.Contains("<script>alert(1)</script>", page);
        var drawing = await desk.Teacher.Get($"/activities/{desk.Id}/insight?handler=Drawing&of={desk.Given.Id}&pane=0");
        Assert.Equal("image/svg+xml", drawing.Content.Headers.ContentType!.MediaType);
        var svg = System.Xml.Linq.XDocument.Parse(await drawing.Content.ReadAsStringAsync());
        Assert.Equal(
            ["density", "near", "flows", "facility"],
            svg.Root!.Elements().Where(element => element.Name.LocalName == "g").Select(layer => layer.Attribute("data-layer")!.Value)
        );
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await desk.Teacher.Get($"/activities/{desk.Id}/insight?handler=Drawing&of={desk.Given.Id}&pane=9")).StatusCode
        );
        // Days that nobody handed in on.
        Assert.Contains("Nobody has handed in yet", await desk.Page("insight?until=2001-01-01"));
        Assert.Contains("Few can do this yet", await desk.Page("insight?from=nonsense&tag=none"));
    }

    [Fact]
    public async Task Marks_go_out_as_a_spreadsheet_and_as_values_with_a_column_for_each_question_picture_or_attempt()
    {
        using var desk = await Desk.Open();
        (await desk.Work("=Ann", 300, "north")).Dispose();
        (await desk.Work("Ben", 500, "south")).Dispose();
        using var cem = await desk.Work("Cem", 500, "south", handsIn: false);
        var attempt = desk.Fenster.Get<Attempts>().Page(desk.Given.Id).Single(line => line.Name == "Ben").Id;
        await desk.Teacher.Post(
            $"/activities/{desk.Id}/results/{attempt}?handler=Mark",
            ("Seen", "0"),
            ("Points[0.2]", "0.5"),
            ("Whole", "Nearly; \"well\" said")
        );
        var path = $"/activities/{desk.Id}/results/out?of={desk.Given.Id}";
        var csv = (await desk.Teacher.Text($"{path}&handler=Csv&comments=true")).Split("\r\n");
        Assert.Equal(
            "Name,State,Score,Possible points,Grade,Mast,Boom,Answer box,Points given by hand,Comments",
            csv[0].TrimStart('\uFEFF')
        );
        Assert.Contains("\"'=Ann\",Handed in,3,3,10,1,1,1,,", csv);
        Assert.Contains("Ben,Handed in,1.5,3,5,0,1,0.5,Answer box,\"Nearly; \"\"well\"\" said\"", csv);
        Assert.Contains("Cem,Working,,,,,,,,", csv);
        Assert.StartsWith(
            "Name,State,Score,Possible points,Grade,Picture 1",
            (await desk.Teacher.Text($"{path}&handler=Csv&columns=Panes")).TrimStart('\uFEFF')
        );
        Assert.StartsWith(
            "Name,State,Score,Possible points,Grade,Attempt 1",
            (await desk.Teacher.Text($"{path}&handler=Csv&columns=Attempts")).TrimStart('\uFEFF')
        );
        var sheet = await desk.Teacher.Get($"{path}&handler=Spreadsheet");
        Assert.Equal("PK"u8.ToArray(), (await sheet.Content.ReadAsByteArrayAsync())[..2]);
        Assert.Contains("<th scope=\"row\"><bdi>=Ann</bdi></th>", await desk.Page($"results/out?of={desk.Given.Id}"));
        using var stranger = new Visitor(desk.Fenster.Address);
        Assert.DoesNotContain("Ann", await (await stranger.Get($"{path}&handler=Csv")).Content.ReadAsStringAsync());
    }

    [Fact]
    public async Task A_revision_with_other_things_that_is_given_after_a_regrade_is_no_part_of_it()
    {
        using var desk = await Desk.Open();
        (await desk.Work("Ann", 355, "north")).Dispose();
        using var busy = await desk.Work("Busy", 355, "north", handsIn: false);
        await desk.Apply(Slack(25), "Too small");
        Assert.Equal(3, desk.Scores["Ann"]);
        // Then an activity with only the typed word is given to all who begin from now on.
        var (assignments, revisions) = (desk.Fenster.Get<Assignments>(), desk.Fenster.Get<Revisions>());
        var activity = revisions.Activity(desk.Given.RevisionId);
        var less = activity with { Panes = [activity.Panes[0] with { Targets = [activity.Panes[0].Targets[2]], Labels = [] }] };
        assignments.Publish(desk.Id, Formats.Documents.ActivityDocument.Write(less), [desk.Given.Id]);
        Assert.Contains("Nobody has handed in yet", await desk.Page("insight"));
        Assert.Contains("1 work of another revision is not among these", await desk.Page("insight"));
        // Who began before is marked by what was put right for them.
        Assert.Equal(HttpStatusCode.OK, (await busy.HandIn(desk.Code)).StatusCode);
        Assert.Equal(3, desk.Scores["Busy"]);
        object Right(string manner) =>
            new
            {
                repair = new
                {
                    targets = new[]
                    {
                        new
                        {
                            pane = 0,
                            target = 0,
                            spellings = new[] { "south" },
                        },
                    },
                },
                manner,
            };
        await desk.Apply(Right("forAll"), "South too");
        Assert.Equal((3m, 3m), (desk.Scores["Ann"], desk.Scores["Busy"]));
        Assert.Equal(2, desk.Fenster.Get<Regrades>().Of(desk.Given.Id).Count);
    }
}
