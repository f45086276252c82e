using System.Globalization;
using System.Net;
using System.Text.Json;
using System.Text.RegularExpressions;
using Fenster.Store;
using Fenster.Testing;

namespace Fenster.Web.Tests;

/// <summary>People mark what the machine can't, say something to it, and release it; students see it at its moment.</summary>
public sealed class MarkingTests
{
    private static readonly string Document = $$"""
        { "fenster": 1, "title": "Anchoring", "rules": { "reveal": { "marks": "released", "score": "released", "feedback": "released" } },
          "panes": [{ "id": "pane-1", "picture": { "media": "{{new string(
            'a',
            64
        )}}", "width": 1000, "height": 600, "altText": "A chart" }, "labels": [{ "id": "l", "text": "Mast" }], "targets": [
            { "kind": "openNote", "id": "why", "prompt": "Why there?", "points": 3, "region": { "kind": "rectangle", "x": 10, "y": 10, "width": 200, "height": 80 },
              "criteria": [{ "text": "Shelter", "points": 1 }, { "text": "Depth", "points": 2 }] },
            { "kind": "openNote", "id": "else", "prompt": "What else?", "points": 2, "region": { "kind": "rectangle", "x": 10, "y": 200, "width": 200, "height": 80 } },
            { "kind": "dropZone", "id": "z", "accepts": [{ "label": "l" }], "region": { "kind": "rectangle", "x": 400, "y": 200, "width": 90, "height": 40 } }] }] }
        """;

    private static async Task<string> Said(Task<HttpResponseMessage> response) =>
        WebUtility.HtmlDecode(await (await response).Content.ReadAsStringAsync());

    private sealed record Desk(FensterWithClock Fenster, Visitor Teacher, long Id, string Code, Attempts Attempts) : IDisposable
    {
        public static async Task<Desk> Open()
        {
            var fenster = new FensterWithClock();
            var teacher = await new Visitor(fenster.Address).SignIn();
            var (id, code) = await teacher.Publish(Document);
            return new(fenster, teacher, id, code, fenster.Get<Attempts>());
        }

        public string PathOf(string name) =>
            $"/activities/{Id}/results/{Attempts.Page(Fenster.Get<Assignments>().Of(Id)[0].Id).Single(line => line.Name == name).Id}";

        public Attempt Of(string name) => Attempts.Anywhere(long.Parse(PathOf(name).Split('/')[^1], CultureInfo.InvariantCulture))!;

        public void Dispose()
        {
            Teacher.Dispose();
            Fenster.Dispose();
        }
    }

    /// <summary>Writes both notes, by the names that this attempt knows, and hands in.</summary>
    private static async Task<Visitor> Writes(Desk desk, string name)
    {
        var student = new Visitor(desk.Fenster.Address);
        await student.Join(desk.Code, name);
        var notes = (await student.View(desk.Code)).GetProperty("panes")[0].GetProperty("targets").EnumerateArray();
        await student.SendMoves(
            desk.Code,
            [
                .. notes.Select(note =>
                    (object)
                        new
                        {
                            key = $"{name}.{note.GetProperty("id").GetString()}",
                            pane = "p1",
                            move = new
                            {
                                kind = "typeText",
                                target = note.GetProperty("id").GetString(),
                                text = $"{name} says so",
                            },
                        }
                ),
            ]
        );
        Assert.Equal(HttpStatusCode.OK, (await student.HandIn(desk.Code)).StatusCode);
        return student;
    }

    private static Task<HttpResponseMessage> Mark(Desk desk, string name, params (string Name, string Value)[] fields) =>
        desk.Teacher.Post($"{desk.PathOf(name)}?handler=Mark", fields);

    [Fact]
    public async Task Notes_are_marked_by_criteria_and_as_a_whole_and_shown_when_they_are_released()
    {
        using var desk = await Desk.Open();
        using var ann = await Writes(desk, "Ann");
        using var ben = await Writes(desk, "Ben");
        Assert.Contains("2 works wait to be marked", await Said(desk.Teacher.Get($"/activities/{desk.Id}/results")));
        var page = await Said(desk.Teacher.Get(desk.PathOf("Ann")));
        Assert.Contains("Shelter", page);
        Assert.Contains("Ann says so", page);
        // The next that waits comes by itself.
        var next = await Mark(
            desk,
            "Ann",
            ("Seen", "0"),
            ("Parts[0.0.0]", "1"),
            ("Parts[0.0.1]", "0,5"),
            ("Points[0.1]", "2"),
            ("Comments[0.0]", "Well reasoned. <b>Depth?</b>"),
            ("Comments[0@120.5,60]", "Look here"),
            ("Whole", "A good plan."),
            ("Next", "true")
        );
        Assert.Equal(desk.PathOf("Ben"), next.RequestMessage!.RequestUri!.AbsolutePath);
        // (1 + 0.5) of 3 criterion points are half of 3 points; with the other note's 2 that is 3.5 of 6.
        Assert.Equal((3.5m, 6m), (desk.Of("Ann").Handed!.Score, desk.Of("Ann").Handed!.Possible));
        Assert.Contains("1 work waits to be marked", await Said(desk.Teacher.Get($"/activities/{desk.Id}/results")));
        var waits = await ann.View(desk.Code);
        Assert.Equal(JsonValueKind.Null, waits.GetProperty("work").GetProperty("score").ValueKind);
        Assert.DoesNotContain("Well reasoned", waits.ToString());
        await desk.Teacher.Post($"{desk.PathOf("Ann")}?handler=Release", ("on", "true"));
        var shown = (await ann.View(desk.Code)).GetProperty("work");
        Assert.Equal(3.5, shown.GetProperty("score").GetProperty("score").GetDouble());
        Assert.False(shown.GetProperty("score").GetProperty("isSoFar").GetBoolean());
        Assert.Equal("A good plan.", shown.GetProperty("remarks")[0].GetString());
        var said = shown.GetProperty("panes")[0].GetProperty("feedback").GetProperty("remarks");
        Assert.Equal(
            ["Well reasoned. <b>Depth?</b>", "Look here"],
            said.EnumerateArray().Select(remark => remark.GetProperty("text").GetString())
        );
        Assert.Equal(120.5, said[1].GetProperty("at").GetProperty("x").GetDouble());
        // To Ann alone.
        Assert.Equal(JsonValueKind.Null, (await ben.View(desk.Code)).GetProperty("work").GetProperty("score").ValueKind);
        // What was seen is taken back with a word only.
        Assert.Contains(
            "with a word to those who saw them only",
            await Said(desk.Teacher.Post($"{desk.PathOf("Ann")}?handler=Release", ("on", "false")))
        );
        Assert.Equal(JsonValueKind.Object, (await ann.View(desk.Code)).GetProperty("work").GetProperty("score").ValueKind);
        await desk.Teacher.Post($"{desk.PathOf("Ann")}?handler=Release", ("on", "false"), ("word", "I marked too fast"));
        Assert.Equal(JsonValueKind.Null, (await ann.View(desk.Code)).GetProperty("work").GetProperty("score").ValueKind);
        Assert.Equal(
            ["awarded", "awarded", "released", "releaseWithdrawn", "remarked", "remarked", "remarked"],
            desk.Fenster.Get<Records>().Of(desk.Of("Ann").AssignmentId).Select(line => line.Kind).Order()
        );
    }

    [Fact]
    public async Task Of_two_who_mark_at_once_the_second_is_told_and_loses_nothing_and_nonsense_changes_nothing()
    {
        using var desk = await Desk.Open();
        using var ann = await Writes(desk, "Ann");
        await Mark(desk, "Ann", ("Seen", "0"), ("Points[0.1]", "1"));
        var late = await Said(Mark(desk, "Ann", ("Seen", "0"), ("Points[0.1]", "2"), ("Comments[0.1]", "Mine")));
        Assert.Contains("Somebody else has marked this work meanwhile", late);
        Assert.Matches("name=\"Points\\[0.1\\]\" value=\"2\"", late);
        Assert.Contains(">Mine</textarea>", late);
        Assert.Equal(1, desk.Of("Ann").Handed!.Score);
        foreach (var points in (string[])["-1", "2.1", "two", "1e0", "NaN"])
            Assert.Contains(
                $"“{points}” is not a number from 0 to 2",
                await Said(Mark(desk, "Ann", ("Seen", "1"), ("Points[0.1]", points)))
            );
        Assert.Contains(
            "A comment has at most 4000 characters",
            await Said(Mark(desk, "Ann", ("Seen", "1"), ("Points[0.1]", "1"), ("Whole", new string('x', 20_000))))
        );
        Assert.Equal((1m, 1L), (desk.Of("Ann").Handed!.Score, desk.Of("Ann").Marked));
        // The machine's zone can be overruled, and counts again when the field is emptied.
        await Mark(desk, "Ann", ("Seen", "1"), ("Points[0.1]", "1"), ("Points[0.2]", "1"));
        Assert.Equal(2, desk.Of("Ann").Handed!.Score);
        await Mark(desk, "Ann", ("Seen", "2"), ("Points[0.1]", "1"), ("Points[0.2]", ""));
        Assert.Equal(1, desk.Of("Ann").Handed!.Score);
        // Whoever has no part in the activity marks nothing.
        using var stranger = new Visitor(desk.Fenster.Address);
        Assert.DoesNotContain(
            "Ann says so",
            await Said(stranger.Post($"{desk.PathOf("Ann")}?handler=Mark", ("Seen", "3"), ("Points[0.1]", "2")))
        );
        Assert.Equal(1, desk.Of("Ann").Handed!.Score);
    }

    [Fact]
    public async Task A_comment_that_is_taken_back_shows_no_more_and_stays_in_the_record()
    {
        using var desk = await Desk.Open();
        using var ann = await Writes(desk, "Ann");
        await Mark(desk, "Ann", ("Seen", "0"), ("Whole", "شكرًا"));
        var page = await Said(desk.Teacher.Get(desk.PathOf("Ann")));
        Assert.Contains("<span dir=\"auto\">شكرًا</span>", page);
        var id = Regex.Match(page, "name=\"Withdraw\" value=\"(\\d+)\"").Groups[1].Value;
        await Mark(desk, "Ann", ("Seen", "1"), ("Withdraw", id));
        Assert.DoesNotContain("شكرًا", await Said(desk.Teacher.Get(desk.PathOf("Ann"))));
        Assert.Contains(desk.Fenster.Get<Records>().Of(desk.Of("Ann").AssignmentId), line =>
            line is { Kind: "remarkWithdrawn", Before: "شكرًا" }
        );
    }

    [Fact]
    public async Task Equal_answers_are_one_group_that_gets_points_as_it_was_shown()
    {
        using var desk = await Desk.Open();
        foreach (var name in (string[])["Ann", "Ben", "Cem"])
            (await Writes(desk, name)).Dispose();
        var of = desk.Of("Ann").AssignmentId;
        var path = $"/activities/{desk.Id}/results/target?of={of}&target=0.2";
        // Nobody placed the label.
        Assert.Contains("3 students", await Said(desk.Teacher.Get(path)));
        var shown = await Said(desk.Teacher.Get($"{path}&group=0&points=0,5"));
        Assert.Contains("3 students would get 0.5 here. 3 scores change; the mean of all goes from 0 to 0.5.", shown);
        Assert.Contains("is not a number from 0 to 1", await Said(desk.Teacher.Get($"{path}&group=0&points=1.5")));
        Assert.Equal(0, desk.Of("Ben").Handed!.Score);
        var fingerprint = Regex.Match(shown, "name=\"fingerprint\" value=\"([^\"]*)\"").Groups[1].Value;
        Task<HttpResponseMessage> Award() =>
            desk.Teacher.Post(
                $"/activities/{desk.Id}/results/target?handler=Award&of={of}&target=0.2",
                ("group", "0"),
                ("points", "0.5"),
                ("fingerprint", fingerprint)
            );
        Assert.Contains("3 students have 0.5 here now", await Said(Award()));
        Assert.Equal([0.5m, 0.5m, 0.5m], new[] { "Ann", "Ben", "Cem" }.Select(name => desk.Of(name).Handed!.Score));
        // The same once more is of what is no longer so.
        Assert.Contains("This group is not as it was shown any more", await Said(Award()));
        Assert.Equal(3, desk.Fenster.Get<Records>().Of(of).Count(line => line.Kind == "awarded"));
    }

    [Fact]
    public async Task The_file_of_record_has_all_that_is_kept_and_no_secret_and_each_step_can_be_seen_again()
    {
        using var desk = await Desk.Open();
        using var ann = await Writes(desk, "Ann");
        await Mark(desk, "Ann", ("Seen", "0"), ("Points[0.1]", "1"), ("Whole", "Well done"));
        var text = await Said(desk.Teacher.Get($"{desk.PathOf("Ann")}?handler=Record"));
        var record = JsonSerializer.Deserialize<JsonElement>(text);
        var attempt = record.GetProperty("attempts")[0];
        Assert.Equal("Anchoring", attempt.GetProperty("activity").GetProperty("title").GetString());
        Assert.Equal(2, attempt.GetProperty("moves").GetArrayLength());
        Assert.Equal("typeText", attempt.GetProperty("moves")[0].GetProperty("move").GetProperty("kind").GetString());
        Assert.Equal("0.5", attempt.GetProperty("awards")[0].GetProperty("credit").GetString());
        Assert.Equal("Well done", attempt.GetProperty("remarks")[0].GetProperty("text").GetString());
        Assert.Equal(
            ["awarded", "remarked"],
            attempt.GetProperty("record").EnumerateArray().Select(line => line.GetProperty("kind").GetString())
        );
        Assert.DoesNotContain("secret", text);
        // After one of two moves there was one text.
        var then = JsonSerializer.Deserialize<JsonElement>(await Said(desk.Teacher.Get($"{desk.PathOf("Ann")}?handler=After&moves=1")));
        Assert.Single(then.GetProperty("panes")[0].GetProperty("done").EnumerateArray());
        Assert.Equal(JsonValueKind.Null, then.GetProperty("panes")[0].GetProperty("marks").ValueKind);
    }

    [Fact]
    public async Task Lists_are_filtered_and_sorted_on_the_server_and_names_can_stay_hidden()
    {
        using var desk = await Desk.Open();
        foreach (var name in (string[])["Ann", "Ben", "Cem"])
            (await Writes(desk, name)).Dispose();
        using var dora = new Visitor(desk.Fenster.Address);
        await dora.Join(desk.Code, "Dora");
        await Mark(desk, "Ben", ("Seen", "0"), ("Points[0.1]", "2"), ("Parts[0.0.1]", "2"));
        await Mark(desk, "Cem", ("Seen", "0"), ("Points[0.1]", "1"));
        async Task<string> Names(string query) =>
            string.Join(
                ' ',
                Regex
                    .Matches(await Said(desk.Teacher.Get($"/activities/{desk.Id}/results?{query}")), "results/\\d+\">(\\w+)</a></th>")
                    .Select(match => match.Groups[1].Value)
            );
        Assert.Equal("Ann Ben Cem Dora", await Names(""));
        Assert.Equal("Ben Cem Ann Dora", await Names("sort=score"));
        Assert.Equal("Dora", await Names("show=working"));
        Assert.Equal("Ann Cem", await Names("show=waits"));
        Assert.Equal("Ann Ben Cem Dora", await Names("sort=nonsense&show=nonsense&page=99"));
        var blind = await Said(desk.Teacher.Get($"{desk.PathOf("Ann")}?blind=true"));
        Assert.DoesNotContain("Ben", blind);
        Assert.DoesNotContain("Ann</", blind);
        Assert.Contains($"Work {desk.Of("Ann").Id}", blind);
        var next = await Mark(desk, "Ann", ("Seen", "0"), ("Blind", "true"), ("Points[0.1]", "1"), ("Next", "true"));
        Assert.Equal("?blind=true", next.RequestMessage!.RequestUri!.Query);
    }

    [Fact]
    public async Task Results_are_released_to_some_or_all_and_taken_back_with_a_word_to_those_who_saw_them()
    {
        using var desk = await Desk.Open();
        var students = new Dictionary<string, Visitor>();
        foreach (var name in (string[])["Ann", "Ben", "Cem"])
            students[name] = await Writes(desk, name);
        var of = desk.Of("Ann").AssignmentId;
        Task<HttpResponseMessage> Act(string act, string word, params string[] names) =>
            desk.Teacher.Post(
                $"/activities/{desk.Id}/results?handler=Release&of={of}",
                [("act", act), ("word", word), .. names.Select(name => ("chosen", $"{desk.Of(name).Id}"))]
            );
        async Task<string> Seeing()
        {
            var seeing = new List<string>();
            foreach (var (name, student) in students)
                if ((await student.View(desk.Code)).GetProperty("work").GetProperty("score").ValueKind == JsonValueKind.Object)
                    seeing.Add(name);
            return string.Join(' ', seeing);
        }
        async Task<string> PageOf(string name) => await Said(students[name].Ask(desk.Code, ""));

        await desk.Teacher.Get($"/activities/{desk.Id}/results?of={of}");
        Assert.Contains("Nobody is chosen", await Said(Act("releaseChosen", "")));
        await Act("releaseChosen", "", "Ann", "Ben");
        Assert.Equal("Ann Ben", await Seeing());
        Assert.Contains(
            "Released to 2 students so far. 2 students have seen them.",
            await Said(desk.Teacher.Get($"/activities/{desk.Id}/results"))
        );
        Assert.Contains("with a word to those who saw them only", await Said(Act("takeBackChosen", "", "Ben")));
        await Act("takeBackChosen", "One <b>mistake</b> in the key", "Ben");
        Assert.Equal("Ann", await Seeing());
        Assert.Contains(
            "One &lt;b&gt;mistake&lt;/b&gt; in the key",
            await (await students["Ben"].Ask(desk.Code, "")).Content.ReadAsStringAsync()
        );
        Assert.DoesNotContain("mistake", await PageOf("Ann"));
        await Act("releaseAll", "");
        Assert.Equal("Ann Ben Cem", await Seeing());
        Assert.DoesNotContain("mistake", await PageOf("Ben"));
        // From one of all: the others keep theirs.
        await Act("takeBackChosen", "A word", "Cem");
        Assert.Equal("Ann Ben", await Seeing());
        Assert.Contains("has at most 500 characters", await Said(Act("takeBackAll", new string('x', 501))));
        await Act("takeBackAll", "All again");
        Assert.Equal("", await Seeing());
        Assert.Contains("All again", await PageOf("Ann"));
        // Work of another assignment is not touched by a forged number.
        Assert.Contains(
            "Took the results back, saying: All again",
            await Said(desk.Teacher.Get($"/activities/{desk.Id}/results/record?of={of}"))
        );
        foreach (var student in students.Values)
            student.Dispose();
    }

    [Fact]
    public async Task A_second_marker_is_blind_to_the_first_both_are_kept_and_what_they_agree_on_counts()
    {
        using var desk = await Desk.Open();
        (await Writes(desk, "Ann")).Dispose();
        var teachers = desk.Fenster.Get<Teachers>();
        var colleague = teachers.Add("lou@school.example", "Lou", Pages.SignInModel.Hasher.HashPassword(null!, "a long enough word"))!;
        desk.Fenster.Get<Drafts>().Share(1, desk.Id, colleague.Id);
        using var lou = new Visitor(desk.Fenster.Address);
        await lou.Get("/sign-in");
        await lou.Post("/sign-in", ("Email", "lou@school.example"), ("Password", "a long enough word"));
        await Mark(desk, "Ann", ("Seen", "0"), ("Points[0.1]", "2"), ("Comments[0.1]", "Quite so"));
        var second = await Said(lou.Get($"{desk.PathOf("Ann")}?blind=true&second=true"));
        Assert.DoesNotContain("Quite so", second);
        Assert.DoesNotContain("Robin", second);
        Assert.DoesNotMatch("name=\"Points\\[0.1\\]\" value=\"2\"", second);
        Assert.Contains("0 of 6 points", second);
        await lou.Post(
            $"{desk.PathOf("Ann")}?handler=Mark",
            ("Second", "true"),
            ("Seen", "1"),
            ("Points[0.1]", "0,5"),
            ("Parts[0.0.0]", "1")
        );
        // Nothing of it counts yet; the first is told how far they are apart.
        Assert.Equal(2, desk.Of("Ann").Handed!.Score);
        var first = await Said(desk.Teacher.Get(desk.PathOf("Ann")));
        Assert.Contains("Lou is apart from you at 2 questions, by 2.5 points in all", first);
        Assert.Contains("Lou as the second: 0.5", first);
        Assert.Contains("two marks apart 1", await Said(desk.Teacher.Get($"/activities/{desk.Id}/results")));
        Assert.Contains(
            "The second mark has to come from somebody else",
            await Said(Mark(desk, "Ann", ("Second", "true"), ("Seen", "2"), ("Points[0.1]", "1")))
        );
        await Mark(desk, "Ann", ("Seen", "2"), ("Points[0.1]", "1"), ("Agreed", "0.1"), ("Parts[0.0.0]", "1"), ("Agreed", "0.0"));
        Assert.Equal(2, desk.Of("Ann").Handed!.Score);
        Assert.Contains("or you have agreed", await Said(desk.Teacher.Get(desk.PathOf("Ann"))));
        Assert.DoesNotContain("two marks apart", await Said(desk.Teacher.Get($"/activities/{desk.Id}/results")));
        Assert.Equal(
            ["agreed", "agreed", "secondMarked", "secondMarked", "remarked", "awarded"],
            desk.Fenster.Get<Records>().Of(desk.Of("Ann").AssignmentId).Select(line => line.Kind)
        );
        Assert.Contains(
            "What else?: 50% of its points",
            (await Said(desk.Teacher.Get($"/activities/{desk.Id}/results/record?of={desk.Of("Ann").AssignmentId}")))
                .Replace("\u2068", "")
                .Replace("\u2069", "")
        );
        using var stranger = new Visitor(desk.Fenster.Address);
        Assert.DoesNotContain("Lou", await Said(stranger.Get($"/activities/{desk.Id}/results/record?of={desk.Of("Ann").AssignmentId}")));
    }
}
