using System.Net;
using System.Text;
using System.Text.Json;
using Fenster.Core.Model;
using Fenster.Formats.Documents;
using Fenster.Testing;

namespace Fenster.Web.Tests;

[Collection(nameof(Server))]
public sealed class StudentTests(Server server)
{
    private async Task<(long Id, string Code)> Published(int zones = 3) => await (await server.Teacher()).Publish(Samples.Document(zones));

    private static async Task<JsonElement> Json(HttpResponseMessage response) =>
        JsonSerializer.Deserialize<JsonElement>(await response.Content.ReadAsStringAsync());

    /// <summary>The work that the server tells after moves.</summary>
    private static async Task<JsonElement> Work(HttpResponseMessage response) => (await Json(response)).GetProperty("work");

    /// <summary>Why the one move that was refused was so.</summary>
    private static async Task<string> Refused(HttpResponseMessage response) =>
        Assert.Single((await Json(response)).GetProperty("refused").EnumerateArray()).GetProperty("sentence").GetString()!;

    [Fact]
    public async Task A_move_from_a_device_that_was_away_does_not_undo_what_another_did_meanwhile()
    {
        var (_, code) = await Published();
        var student = server.Visitor();
        await student.Join(code, "Ada");
        await student.View(code);
        // A tablet has seen the first move, and is offline while a phone moves the same label.
        await student.Move(code, "tablet.1", "l1", "z1", knows: 0);
        await student.Move(code, "phone.1", "l1", "z2", knows: 1);
        Assert.Contains("changed on another device", await Refused(await student.Move(code, "tablet.2", "l1", "z3", knows: 1)));
        // Another label of the same tablet is taken, and so is the first one once the tablet has seen where it lies.
        Assert.Empty((await Json(await student.Move(code, "tablet.3", "l2", "z1", knows: 1))).GetProperty("refused").EnumerateArray());
        Assert.Empty((await Json(await student.Move(code, "tablet.4", "l1", "z3", knows: 3))).GetProperty("refused").EnumerateArray());
        // Its own moves never make it late, however little it has seen: an answer may have been lost.
        Assert.Empty((await Json(await student.Move(code, "tablet.5", "l1", "z2", knows: 0))).GetProperty("refused").EnumerateArray());
        var placed = (await student.View(code)).GetProperty("work").GetProperty("panes")[0].GetProperty("placed").EnumerateArray();
        Assert.Equal(["z1", "z2"], placed.Select(each => each.GetProperty("zone").GetString()).Order());
    }

    [Fact]
    public async Task An_answer_tells_only_what_the_browser_can_not_know()
    {
        var (_, code) = await Published();
        var student = server.Visitor();
        await student.Join(code, "Ada");
        await student.View(code);
        static JsonValueKind Told(JsonElement answer) => answer.GetProperty("work").GetProperty("panes")[0].ValueKind;

        var answer = await Json(await student.Move(code, "a", "l1", "z1", knows: 0));
        Assert.Equal(
            (JsonValueKind.Null, 1, 1),
            (Told(answer), answer.GetProperty("version").GetInt32(), answer.GetProperty("answers").GetInt32())
        );
        // Sent once more, by a device that has seen no answer: all is told, and nothing is stored twice.
        answer = await Json(await student.Move(code, "a", "l1", "z1", knows: 0));
        Assert.Equal((JsonValueKind.Object, 1), (Told(answer), answer.GetProperty("version").GetInt32()));
        Assert.Equal(JsonValueKind.Object, Told(await Json(await student.Move(code, "b", "l2", "z2"))));
        Assert.Equal(JsonValueKind.Object, Told(await Json(await student.Move(code, "c", "l9", "z2", knows: 2))));
        Assert.Equal(JsonValueKind.Object, Told(await Json(await student.SendMoves(code, []))));

        // Where something shows at once, it is told at once.
        var rules = Samples.Test with { Reveal = new() { Marks = Moment.Placed } };
        var (_, atOnce) = await (await server.Teacher()).Publish(Samples.Document(3, rules: rules));
        await student.Join(atOnce, "Ada");
        await student.View(atOnce);
        answer = await Json(await student.Move(atOnce, "a", "l1", "z1", knows: 0));
        Assert.Equal(JsonValueKind.Object, answer.GetProperty("work").GetProperty("panes")[0].GetProperty("marks").ValueKind);
    }

    [Fact]
    public async Task Where_nothing_may_be_left_open_handing_in_says_what_is()
    {
        var document = ActivityDocument.Read(Samples.Document(3)) with { Screen = new() { Leaving = Leaving.NotPossible } };
        var (_, code) = await (await server.Teacher()).Publish(ActivityDocument.Write(document));
        var student = server.Visitor();
        await student.Join(code, "Ada");
        var view = await student.View(code);
        Assert.Equal("notPossible", view.GetProperty("screen").GetProperty("leaving").GetString());
        await student.Move(code, "a", "l1", "z1");
        var refused = await student.HandIn(code);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, refused.StatusCode);
        Assert.Contains("2 things are still open", (await Json(refused)).GetProperty("error").GetString());
        await student.Move(code, "b", "l2", "z3");
        await student.Move(code, "c", "l3", "z2");
        Assert.False((await Work(await student.HandIn(code))).GetProperty("open").GetBoolean());
    }

    [Fact]
    public async Task Nothing_of_the_key_reaches_a_student_before_its_moment()
    {
        var (_, code) = await (await server.Teacher()).Publish(
            Samples.Document(
                5,
                rules: new()
                {
                    Reveal = new() { Key = Moment.HandedIn, Explanation = Moment.HandedIn },
                }
            )
        );
        var student = server.Visitor();
        student.Record = new MemoryStream();
        await student.Get("/");
        await student.Join(code, "Ada");
        await student.View(code);
        for (var i = 1; i <= 5; i++)
            Assert.Equal(HttpStatusCode.OK, (await student.Move(code, $"k{i}", $"l{i}", $"z{i}")).StatusCode);
        await student.Move(code, "bad", "l9", "z1");
        await student.Get($"/do/{code}");
        await student.Ask(code, "");

        var seen = Encoding.UTF8.GetString(student.Record.ToArray());
        Assert.Contains("Part 3", seen);
        Assert.DoesNotContain(Samples.PlantedMark, seen);
        Assert.DoesNotContain("accepts", seen);
        Assert.DoesNotContain("\"verdict", seen);
        foreach (var part in (string[])["marks", "key", "score"])
            Assert.Contains($"\"{part}\":null", WebUtility.HtmlDecode(seen).Replace(" ", ""));

        student.Record.SetLength(0);
        var view = await Work(await student.HandIn(code));
        Assert.Equal(5, view.GetProperty("panes")[0].GetProperty("key").GetProperty("zones").GetArrayLength());
        // Feedback and explanations are there now; the names that the key gives to things never are.
        Assert.DoesNotContain($"{Samples.PlantedMark}-", Encoding.UTF8.GetString(student.Record.ToArray()));
    }

    /// <summary>The name under which a view shows the label of this text.</summary>
    private static string LabelOf(JsonElement view, string text) =>
        view.GetProperty("panes")[0]
            .GetProperty("labels")
            .EnumerateArray()
            .Single(label => label.GetProperty("text").GetString() == text)
            .GetProperty("id")
            .GetString()!;

    [Fact]
    public async Task A_check_takes_wrong_labels_back_holds_right_ones_and_tells_why()
    {
        var (_, code) = await (await server.Teacher()).Publish(Samples.Document(3, rules: Samples.Practice));
        var student = server.Visitor();
        await student.Join(code, "Ada");
        var view = await student.View(code);
        await student.Move(code, "k1", LabelOf(view, "Part 1"), "z1");
        var before = await Work(await student.Move(code, "k2", LabelOf(view, "Part 3"), "z2"));
        Assert.Equal(JsonValueKind.Null, before.GetProperty("panes")[0].GetProperty("marks").ValueKind);

        var pane = (await Work(await student.Check(code, "k3"))).GetProperty("panes")[0];
        Assert.Equal(1, pane.GetProperty("placed").GetArrayLength());
        Assert.Equal("right", pane.GetProperty("marks").GetProperty("placed")[0].GetString());
        Assert.Equal(1, pane.GetProperty("held").GetArrayLength());
        Assert.Equal(1, pane.GetProperty("checksLeft").GetInt32());
        Assert.Contains("yes, part 1", pane.GetProperty("feedback").GetRawText());
        Assert.Equal(JsonValueKind.Null, pane.GetProperty("key").ValueKind);

        // The same check sent again changes nothing; a new one without a change, and a held label, are refused with a sentence.
        Assert.Equal(pane.GetRawText(), (await Work(await student.Check(code, "k3"))).GetProperty("panes")[0].GetRawText());
        Assert.Contains("Nothing has changed", await Refused(await student.Check(code, "k4")));
        Assert.Contains("stays where it is", await Refused(await student.Move(code, "k5", LabelOf(view, "Part 1"), "z3")));
        Assert.Equal(1, (await student.View(code)).GetProperty("work").GetProperty("panes")[0].GetProperty("placed").GetArrayLength());
    }

    [Fact]
    public async Task What_is_answered_is_stored()
    {
        var (_, code) = await Published();
        var student = server.Visitor();
        await student.Join(code, "Ada");
        var answer = await Work(await student.Move(code, "k1", "l2", "z3"));
        Assert.Equal(answer.GetRawText(), (await student.View(code)).GetProperty("work").GetRawText());
        Assert.Equal("z3", answer.GetProperty("panes")[0].GetProperty("placed")[0].GetProperty("zone").GetString());
    }

    [Fact]
    public async Task Handing_in_twice_changes_nothing()
    {
        var (_, code) = await Published();
        var student = server.Visitor();
        await student.Join(code, "Ada");
        await student.Move(code, "k1", "l1", "z1");
        var first = await (await student.HandIn(code)).Content.ReadAsStringAsync();
        await student.Move(code, "k2", "l2", "z2");
        Assert.Equal(first, await (await student.HandIn(code)).Content.ReadAsStringAsync());
    }

    [Theory]
    [InlineData("""{"moves":[{"key":"","pane":"p1","move":{"kind":"takeBack","label":"l1","copy":0}}]}""", 422)]
    [InlineData("""{"moves":[null]}""", 422)]
    [InlineData("""{"moves":null}""", 422)]
    [InlineData("{}", 422)]
    [InlineData("nonsense", 422)]
    public async Task Moves_that_can_not_be_told_apart_get_a_sentence(string body, int status)
    {
        var (_, code) = await Published();
        var student = server.Visitor();
        await student.Join(code, "Ada");
        var response = await student.SendBody(code, new StringContent(body, Encoding.UTF8, "application/json"));
        Assert.Equal(status, (int)response.StatusCode);
        Assert.NotEmpty((await Json(response)).GetProperty("error").GetString()!);
    }

    [Theory]
    [InlineData("""{"key":"k","pane":"p1","move":{"kind":"putDown","label":"l1","copy":0,"zone":"z99"}}""")]
    [InlineData("""{"key":"k","pane":"p7","move":{"kind":"takeBack","label":"l1","copy":0}}""")]
    [InlineData("""{"key":"k","pane":"p1","move":{"kind":"steal"}}""")]
    [InlineData("""{"key":"k","pane":"p1","move":null}""")]
    [InlineData("""{"key":"k","pane":"p1","move":7}""")]
    [InlineData("""{"key":"k","move":{"kind":"pressCheck"}}""")]
    [InlineData("""{"key":"k","pane":"p1","move":{"kind":"pinDown","label":"l1","copy":0,"at":{"x":5}}}""")]
    public async Task A_move_that_makes_no_sense_gets_a_sentence_and_takes_no_other_with_it(string move)
    {
        var (_, code) = await Published();
        var student = server.Visitor();
        await student.Join(code, "Ada");
        const string Good = """{"key":"good","pane":"p1","move":{"kind":"putDown","label":"l1","copy":0,"zone":"z1"}}""";
        var response = await student.SendBody(code, new StringContent($"{{\"moves\":[{move},{Good}]}}", Encoding.UTF8, "application/json"));
        Assert.Equal(HttpStatusCode.OK, response.StatusCode);
        Assert.NotEmpty(await Refused(response));
        Assert.Equal(1, (await student.View(code)).GetProperty("work").GetProperty("panes")[0].GetProperty("placed").GetArrayLength());
    }

    [Fact]
    public async Task An_answer_tells_only_the_panes_that_were_worked_on()
    {
        var document = System.Text.Json.Nodes.JsonNode.Parse(Samples.Document(2))!;
        var panes = document["panes"]!.AsArray();
        panes.Add(panes[0]!.DeepClone());
        panes[1]!["id"] = "second";
        var (_, code) = await (await server.Teacher()).Publish(document.ToJsonString());
        var student = server.Visitor();
        await student.Join(code, "Ada");
        var work = await Work(await student.Move(code, "k", "l1", "z1"));
        Assert.Equal([JsonValueKind.Object, JsonValueKind.Null], work.GetProperty("panes").EnumerateArray().Select(pane => pane.ValueKind));
        Assert.All((await Work(await student.HandIn(code))).GetProperty("panes").EnumerateArray(), pane =>
            Assert.Equal(JsonValueKind.Object, pane.ValueKind)
        );
    }

    [Theory]
    [InlineData("cross-site", null, HttpStatusCode.Forbidden)]
    [InlineData("same-site", null, HttpStatusCode.Forbidden)]
    [InlineData("none", null, HttpStatusCode.Forbidden)]
    [InlineData("same-origin", null, HttpStatusCode.OK)]
    [InlineData(null, "own", HttpStatusCode.OK)]
    [InlineData(null, "https://elsewhere.example", HttpStatusCode.Forbidden)]
    [InlineData(null, "null", HttpStatusCode.Forbidden)]
    [InlineData(null, null, HttpStatusCode.Forbidden)]
    public async Task Only_requests_of_the_activitys_own_page_change_anything(string? site, string? origin, HttpStatusCode status)
    {
        var (_, code) = await Published();
        var student = server.Visitor();
        await student.Join(code, "Ada");
        var request = new HttpRequestMessage(HttpMethod.Post, $"/do/{code}/place?attempt=1")
        {
            Content = new StringContent(
                """{"moves":[{"key":"k","pane":"p1","move":{"kind":"putDown","label":"l1","copy":0,"zone":"z1"}}]}""",
                Encoding.UTF8,
                "application/json"
            ),
        };
        request.Headers.Add("Fenster-Device", student.SecretFor(code));
        if (site is not null)
            request.Headers.Add("Sec-Fetch-Site", site);
        if (origin is not null)
            request.Headers.Add("Origin", origin == "own" ? server.Address.ToString().TrimEnd('/') : origin);
        Assert.Equal(status, (await student.Send(request)).StatusCode);
        Assert.Equal(
            status == HttpStatusCode.OK ? 1 : 0,
            (await student.View(code)).GetProperty("work").GetProperty("panes")[0].GetProperty("placed").GetArrayLength()
        );
    }

    [Theory]
    [InlineData("", "Type your name")]
    [InlineData("   ", "Type your name")]
    [InlineData("\u0007bell", "can&#x27;t be shown")]
    public async Task A_name_that_is_no_name_gets_a_sentence(string name, string words)
    {
        var (_, code) = await Published();
        Assert.Contains(words, await (await server.Visitor().Join(code, name)).Content.ReadAsStringAsync());
    }

    [Fact]
    public async Task A_name_of_three_hundred_letters_gets_a_sentence_and_is_not_lost()
    {
        var (_, code) = await Published();
        var page = await (await server.Visitor().Join(code, new string('a', 300))).Content.ReadAsStringAsync();
        Assert.Contains("too long", page);
        Assert.Contains(new string('a', 300), page);
    }

    [Fact]
    public async Task A_name_in_use_on_another_device_is_let_in_by_its_words_that_the_guest_or_the_teacher_knows()
    {
        var (id, code) = await Published();
        var first = server.Visitor();
        await first.Join(code, "Ada");
        await first.Move(code, "k1", "l1", "z1");
        var second = server.Visitor();
        Assert.Contains("is here already", await Said(second.Ask(code, "Join", ("name", " ADA "))));

        var teacher = await server.Teacher();
        var page = await teacher.Text($"/activities/{id}/results");
        var one = System.Text.RegularExpressions.Regex.Match(page, $"/activities/{id}/results/\\d+").Value;
        var words = System.Text.RegularExpressions.Regex.Match(await teacher.Text(one), "id=\"word\">([a-z ]+)<").Groups[1].Value;
        Assert.Contains("not the words", await Said(second.Ask(code, "Join", ("name", "Ada"), ("word", "open sesame"))));
        Assert.Equal(HttpStatusCode.OK, (await first.Move(code, "k1b", "l1", "z1")).StatusCode);
        Assert.Contains("data-view", await Said(second.Ask(code, "Join", ("name", "Ada"), ("word", words))));
        Assert.Equal(1, (await second.View(code)).GetProperty("work").GetProperty("panes")[0].GetProperty("placed").GetArrayLength());
        Assert.Equal(HttpStatusCode.Forbidden, (await first.Move(code, "k2", "l2", "z2")).StatusCode);
    }

    private static async Task<string> Said(Task<HttpResponseMessage> response) =>
        WebUtility.HtmlDecode(await (await response).Content.ReadAsStringAsync());

    [Fact]
    public async Task A_guest_is_shown_the_words_once_and_begins_by_a_button()
    {
        var (_, code) = await Published();
        var student = server.Visitor();
        var before = await Said(student.Ask(code, "Join", ("name", "Ada")));
        Assert.Contains("Write this down", before);
        Assert.Contains("1 picture", before);
        Assert.Contains("data-handler=\"Begin\"", before);
        Assert.DoesNotContain("Write this down", await Said(student.Ask(code, "")));
        Assert.DoesNotContain("data-view", before);
        Assert.Contains("data-view", await Said(student.Ask(code, "Begin")));
    }

    [Fact]
    public async Task The_page_is_a_shell_and_the_same_device_is_asked_who_sits_there()
    {
        var (_, code) = await Published();
        var student = server.Visitor();
        await student.Join(code, "Ada");
        Assert.EndsWith(
            $"/do/{code}",
            (await student.Get($"/join?code={code.ToLowerInvariant()}")).RequestMessage!.RequestUri!.AbsolutePath
        );
        // To whoever brings no cookie, the page itself has nobody's work, and sets none.
        var shell = await server.Visitor().Get($"/do/{code}");
        Assert.DoesNotContain("Ada", await shell.Content.ReadAsStringAsync());
        Assert.DoesNotContain("data-view", await shell.Content.ReadAsStringAsync());
        Assert.False(shell.Headers.Contains("Set-Cookie"));
        Assert.Contains("Go on as Ada", await student.Again(code));
        Assert.Contains("data-view", await Said(student.Ask(code, "")));
        Assert.Contains("Your name", await Said(server.Visitor().Ask(code, "")));
    }

    [Fact]
    public async Task The_page_brings_open_work_along_to_the_device_that_comes_back_and_to_nobody_else()
    {
        var (id, code) = await Published();
        var (_, other) = await Published();
        await (await server.Teacher()).Set(id, "attempts", "2");
        var student = server.Visitor();
        var entered = await student.Ask(code, "Join", ("name", "Ada"));
        var cookie = Assert.Single(entered.Headers.GetValues("Set-Cookie"), set =>
            set.StartsWith("fenster-device=", StringComparison.Ordinal)
        );
        Assert.Contains($"path=/do/{code}; samesite=strict; httponly", cookie);
        Assert.DoesNotContain("expires", cookie);
        async Task<bool> BringsWork(Visitor visitor) => (await visitor.Text($"/do/{code}")).Contains("data-view");

        Assert.False(await BringsWork(student));
        await student.Ask(code, "Begin");
        var page = await student.Text($"/do/{code}");
        Assert.Contains("data-view", page);
        // So much of the secret tells the script whose it is, and no more of it stands there.
        Assert.Contains($"data-device=\"{student.SecretFor(code)![..8]}\"", page);
        Assert.DoesNotContain(student.SecretFor(code)![..9], page);
        Assert.DoesNotContain("data-view", await student.Text($"/do/{other}"));
        // It goes with what the script keeps: a device that is nobody's any more brings nothing, and one that comes back brings it again.
        var secret = student.SecretFor(code)!;
        student.Keep(code, "");
        await student.Ask(code, "");
        Assert.False(await BringsWork(student));
        student.Keep(code, secret);
        await student.Ask(code, "");
        Assert.True(await BringsWork(student));
        // Another device of the same student ends this one's.
        var words = System.Text.RegularExpressions.Regex.Match(await entered.Content.ReadAsStringAsync(), "two-words[^>]*>([^<]+)<");
        var phone = server.Visitor();
        await phone.Ask(code, "Join", ("name", "Ada"), ("word", words.Groups[1].Value));
        Assert.True(await BringsWork(phone));
        Assert.False(await BringsWork(student));
        // What is handed in is asked for: that it was looked at may be noted.
        await phone.HandIn(code);
        Assert.False(await BringsWork(phone));
        await phone.Ask(code, "Begin");
        Assert.True(await BringsWork(phone));
    }

    [Fact]
    public async Task Where_devices_forget_what_they_showed_the_page_brings_nothing_along_after_it()
    {
        var (id, code) = await Published();
        await (await server.Teacher()).Set(id, "forgets", "true");
        var student = server.Visitor();
        await student.Join(code, "Ada");
        Assert.Contains("data-view", await student.Text($"/do/{code}"));
        await student.HandIn(code);
        var forgotten = await student.AfterHandingIn(code);
        Assert.Contains("fenster-device=;", string.Join('\n', forgotten.Headers.GetValues("Set-Cookie")));
        Assert.DoesNotContain("data-view", await student.Text($"/do/{code}"));
    }

    [Fact]
    public async Task A_wrong_code_gets_a_sentence_and_guessing_is_slowed_down()
    {
        using var own = new RunningFenster();
        var visitor = new Visitor(own.Address);
        Assert.Contains("no activity with the code XXXXXX", await visitor.Text("/join/xxxxxx"));
        // However slowly the tries come in, they are soon too many; a right code counts for nothing, before and after.
        var said = "";
        for (var i = 0; i < 60 && !said.Contains("Too many wrong codes", StringComparison.Ordinal); i++)
            said = await visitor.Text($"/join/yyyy{i}");
        Assert.Contains("Too many wrong codes", said);
    }

    [Fact]
    public async Task A_closed_activity_says_so_and_keeps_what_was_placed()
    {
        using var own = new RunningFenster();
        using var teacher = await new Visitor(own.Address).SignIn();
        var (id, code) = await teacher.Publish(Samples.Document(3));
        using var student = new Visitor(own.Address);
        await student.Join(code, "Ada");
        await student.Move(code, "k1", "l1", "z1");
        await teacher.Do(id, "close");

        using var other = new Visitor(own.Address);
        // What is on its way when it closes still counts, and what began then and ends a minute later does not.
        Assert.Equal(HttpStatusCode.OK, (await student.Move(code, "k1b", "l3", "z3")).StatusCode);
        var body = new SlowBody("""{"moves":[{"key":"slow","pane":"p1","move":{"kind":"putDown","label":"l2","copy":0,"zone":"z2"}}]}""");
        var slow = student.SendBody(code, body);
        await body.Begun;
        own.Execute(
            "update assignment set ended_at = ended_at - 60000 where ended_at is not null; "
                + "update attempt set edition = edition + 1, ends_at = ends_at - 60000 where ends_at is not null"
        );
        body.GoOn();
        var late = await Json(await slow);
        Assert.True(late.GetProperty("isLate").GetBoolean());
        Assert.Equal(2, late.GetProperty("work").GetProperty("panes")[0].GetProperty("placed").GetArrayLength());
        Assert.Contains("is closed", await Said(other.Ask(code, "")));
        Assert.Contains("What came late is kept", await Said(student.Ask(code, "")));
        // It counts by the teacher's word.
        var results = await teacher.Text($"/activities/{id}/results");
        Assert.Contains("1 step came too late", results);
        var one = System.Text.RegularExpressions.Regex.Match(results, $"/activities/{id}/results/\\d+").Value;
        Assert.Contains("does not count so far", await teacher.Text(one));
        await teacher.Post($"{one}?handler=CountLate");
        Assert.Equal(3, (await student.View(code)).GetProperty("work").GetProperty("panes")[0].GetProperty("placed").GetArrayLength());
        // Opened again, what the clock handed in goes on.
        await teacher.Do(id, "reopen");
        Assert.Equal(HttpStatusCode.OK, (await student.Move(code, "k3", "l1", "z2")).StatusCode);
        Assert.True((await student.View(code)).GetProperty("work").GetProperty("open").GetBoolean());
    }

    [Fact]
    public async Task What_is_published_does_not_change_under_a_students_hands()
    {
        var teacher = await server.Teacher();
        var (id, code) = await teacher.Publish(Samples.Document(3));
        var early = server.Visitor();
        await early.Join(code, "Early");
        await teacher.Save(id, 2, Samples.Document(4));
        var page = await teacher.Text($"/activities/{id}/share");
        var assignment = System.Text.RegularExpressions.Regex.Match(page, "name=\"take\" value=\"(\\d+)\"").Groups[1].Value;
        await teacher.Post($"/activities/{id}/share?handler=Publish", ("take", assignment));
        var late = server.Visitor();
        await late.Join(code, "Late");
        Assert.Equal(3, (await early.View(code)).GetProperty("panes")[0].GetProperty("zones").GetArrayLength());
        Assert.Equal(4, (await late.View(code)).GetProperty("panes")[0].GetProperty("zones").GetArrayLength());
    }

    [Fact]
    public async Task Trying_it_checks_as_for_a_student_and_keeps_nothing()
    {
        var teacher = await server.Teacher();
        var id = await teacher.Begin("Trial");
        await teacher.Save(id, 1, Samples.Document(2));
        await teacher.Get($"/activities/{id}/try");
        object Moves(string label) =>
            new
            {
                moves = new[]
                {
                    new
                    {
                        key = "k",
                        pane = "p1",
                        move = new
                        {
                            kind = "putDown",
                            label,
                            copy = 0,
                            zone = "z1",
                        },
                    },
                },
            };
        var placed = await Work(await teacher.PostJson($"/activities/{id}/try/screen?handler=Moves&seed=5", Moves("l1")));
        Assert.Equal(JsonValueKind.Null, placed.GetProperty("score").ValueKind);
        var scores = new List<decimal>();
        foreach (var label in (string[])["l1", "l2"])
            scores.Add(
                (await Work(await teacher.PostJson($"/activities/{id}/try/screen?handler=HandIn&seed=5", Moves(label))))
                    .GetProperty("score")
                    .GetProperty("score")
                    .GetDecimal()
            );
        Assert.Equal([0, 1], scores.Order());
        Assert.Contains("Nobody has begun yet", await teacher.Text($"/activities/{id}/results"));
    }

    [Fact]
    public async Task What_was_acknowledged_survives_the_death_of_the_server()
    {
        using var own = new RunningFenster();
        using var teacher = await new Visitor(own.Address).SignIn();
        var (_, code) = await teacher.Publish(Samples.Document(10));
        using var student = new Visitor(own.Address);
        await student.Join(code, "Ada");
        var random = new Random(2);
        var acknowledged = 0;
        for (var round = 0; round < 20; round++)
        {
            // Killed while moves are on their way.
            var after = random.Next(1, 6);
            var moves = Task.Run(async () =>
            {
                for (var i = 0; i < 200; i++)
                {
                    try
                    {
                        var answer = await student.Move(
                            code,
                            $"r{round}-{i}",
                            $"l{(acknowledged + 1) % 10 + 1}",
                            $"z{(acknowledged + 1) % 10 + 1}"
                        );
                        if (answer.StatusCode != HttpStatusCode.OK)
                            return;
                        acknowledged++;
                    }
                    catch (HttpRequestException)
                    {
                        return;
                    }
                }
            });
            var target = acknowledged + after;
            while (acknowledged < target && !moves.IsCompleted)
                await Task.Yield();
            own.Kill();
            await moves;
            own.Restart();
            var placed = (await student.View(code)).GetProperty("work").GetProperty("panes")[0].GetProperty("placed");
            var last = acknowledged % 10 + 1;
            Assert.Contains(placed.EnumerateArray(), p =>
                p.GetProperty("label").GetString() == $"l{last}" && p.GetProperty("zone").GetString() == $"z{last}"
            );
        }
    }
}

/// <summary>A body whose last byte comes only when it is told to.</summary>
internal sealed class SlowBody(string json) : HttpContent
{
    private readonly TaskCompletionSource begun = new(TaskCreationOptions.RunContinuationsAsynchronously);
    private readonly TaskCompletionSource rest = new(TaskCreationOptions.RunContinuationsAsynchronously);
    private readonly byte[] bytes = Encoding.UTF8.GetBytes(json);

    public Task Begun => begun.Task;

    public void GoOn() => rest.SetResult();

    protected override async Task SerializeToStreamAsync(Stream stream, TransportContext? context)
    {
        await stream.WriteAsync(bytes.AsMemory(0, bytes.Length - 1));
        await stream.FlushAsync();
        begun.SetResult();
        await rest.Task;
        await stream.WriteAsync(bytes.AsMemory(bytes.Length - 1));
    }

    protected override bool TryComputeLength(out long length)
    {
        length = bytes.Length;
        return true;
    }
}
