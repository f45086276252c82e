using System.Globalization;
using System.Net;
using System.Text;
using System.Text.Json;
using Dapper;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Fenster.Formats.Documents;
using Fenster.Store;
using Fenster.Testing;

namespace Fenster.Web.Tests;

/// <summary>Text that is no sound text comes in nowhere, and what one student's work holds stops nobody else's.</summary>
public sealed class UnsoundTextTests
{
    private const string Unsound = "a\ufffeb";

    /// <summary>A box and a lock; marks show at once.</summary>
    private static string Document(string spelling = "ab") =>
        ActivityDocument.Write(
            new Activity
            {
                Title = "Typing",
                Panes =
                [
                    new Pane
                    {
                        Id = "pane",
                        Picture = new(new string('0', 64), 1000, 700, "Something"),
                        Targets =
                        [
                            new AnswerBox
                            {
                                Id = "box",
                                Region = new Rectangle(10, 10, 100, 40),
                                Answer = new TypedText([new(spelling)]),
                            },
                            new Core.Model.Lock
                            {
                                Id = "lock",
                                At = new(500, 300),
                                Code = new([new(spelling)]),
                            },
                        ],
                    },
                ],
            }
        );

    private static string IdOf(JsonElement view, string kind) =>
        view.GetProperty("panes")[0]
            .GetProperty("targets")
            .EnumerateArray()
            .Single(target => target.GetProperty("kind").GetString() == kind)
            .GetProperty("id")
            .GetString()!;

    private static object Typed(string key, string target, string text) =>
        new
        {
            key,
            pane = "p1",
            move = new
            {
                kind = "typeText",
                target,
                text,
            },
        };

    [Fact]
    public async Task What_a_student_types_is_made_sound_and_earns_what_it_reads_and_nothing_stops()
    {
        using var fenster = new FensterWithClock();
        using var teacher = await new Visitor(fenster.Address).SignIn();
        var (id, code) = await teacher.Publish(Document());
        using var student = new Visitor(fenster.Address);
        await student.Join(code, "Ann");
        var view = await student.View(code);
        var (box, locked) = (IdOf(view, "typing"), IdOf(view, "locked"));
        Assert.Equal(HttpStatusCode.OK, (await student.SendMoves(code, [Typed("k.1", box, Unsound)])).StatusCode);
        var code2 = new
        {
            key = "k.2",
            pane = "p1",
            move = new
            {
                kind = "tryCode",
                target = locked,
                code = Unsound,
            },
        };
        Assert.Equal(HttpStatusCode.OK, (await student.SendMoves(code, [code2])).StatusCode);
        // The half of a pair, as the escape that a script would write, and a key that is none.
        var half = """{"moves":[{"key":"k.3","pane":"p1","move":{"kind":"typeText","target":"BOX","text":"a\ud83db"}}]}""".Replace(
            "BOX",
            box
        );
        Assert.Equal(
            HttpStatusCode.OK,
            (await student.SendBody(code, new StringContent(half, Encoding.UTF8, "application/json"))).StatusCode
        );
        var oddKey = """{"moves":[{"key":"\ud83d","pane":"\ud83d","move":{"kind":"typeText","target":"\udc00","text":""}}]}""";
        Assert.InRange(
            (int)(await student.SendBody(code, new StringContent(oddKey, Encoding.UTF8, "application/json"))).StatusCode,
            200,
            499
        );
        var of = await teacher.AssignmentOf(id);
        Assert.Equal(HttpStatusCode.OK, (await teacher.Get($"/activities/{id}/board?handler=Answers&of={of}")).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await teacher.Get($"/activities/{id}/results")).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await student.HandIn(code)).StatusCode);
        var attempt = fenster.Get<Attempts>().Page(of).Single();
        Assert.Equal((2m, 2m), (attempt.Handed!.Score, attempt.Handed.Possible));
        Assert.Equal("ab", fenster.Get<Attempts>().Anywhere(attempt.Id)!.Responses["pane"].Texts["box"]);
        foreach (
            var page in (string[])["results", $"results/{attempt.Id}", "insight", $"results/target?of={of}&target=0.0", $"wall?of={of}"]
        )
            Assert.Equal(HttpStatusCode.OK, (await teacher.Get($"/activities/{id}/{page}")).StatusCode);
    }

    [Fact]
    public async Task Names_lists_titles_searches_and_spellings_come_in_without_it()
    {
        using var fenster = new FensterWithClock();
        using var teacher = await new Visitor(fenster.Address).SignIn();
        var id = await teacher.Begin($"Title {Unsound}");
        Assert.Equal("Title ab", fenster.Get<Drafts>().TitleOf(1, id));
        Assert.Equal(HttpStatusCode.OK, (await teacher.Save(id, 1, Document(spelling: Unsound))).StatusCode);
        Assert.Contains("\"ab\"", await teacher.Text($"/activities/{id}?handler=Draft"));
        var half = $"{{\"version\":2,\"document\":{Document().Replace("Typing", "Half \\ud83d of a pair")}}}";
        var saved = await teacher.PostAsScript(
            $"/activities/{id}?handler=Save",
            new StringContent(half, Encoding.UTF8, "application/json")
        );
        Assert.Equal(HttpStatusCode.OK, saved.StatusCode);
        Assert.Contains("Half  of a pair", await teacher.Text($"/activities/{id}?handler=Draft"));
        foreach (
            var path in (string[])["/activities?words=", "/shelf?words=", "/activities/1/picture?handler=Search&words=", "/join?code="]
        )
            Assert.InRange((int)(await teacher.Get($"{path}{Uri.EscapeDataString(Unsound)}")).StatusCode, 200, 404);

        await teacher.Get("/classes");
        var made = await teacher.Post("/classes", ("name", $"8b {Unsound}"), ("language", "en"));
        var group = long.Parse(made.RequestMessage!.RequestUri!.Segments[^1], CultureInfo.InvariantCulture);
        await teacher.Post($"/classes/{group}?handler=Take", ("names", $"Ann {Unsound}\nBen\ufdd0 Low\nBel\u0001l"));
        var classes = fenster.Get<Classes>();
        Assert.Equal("8b ab", classes.One(1, group)!.Name);
        Assert.Equal(["Ann ab", "Ben Low"], classes.Members(classes.One(1, group)!).Select(member => member.Name));
        // A file in UTF-16, with the half of a pair.
        using var file = new MultipartFormDataContent
        {
            { new ByteArrayContent([0xFF, 0xFE, .. Encoding.Unicode.GetBytes($"Cleo {Unsound}\nDan "), 0x3D, 0xD8]), "file", "names.txt" },
        };
        await teacher.Get($"/classes/{group}");
        var read = await teacher.PostAsScript($"/classes/{group}?handler=Read", file);
        Assert.Equal(HttpStatusCode.OK, read.StatusCode);
        Assert.Contains("Cleo ab", await read.Content.ReadAsStringAsync());

        var (_, code) = await teacher.Publish(Document());
        using var student = new Visitor(fenster.Address);
        Assert.Equal(HttpStatusCode.OK, (await student.Join(code, $"Eve {Unsound}")).StatusCode);
        Assert.Contains("Eve ab", await teacher.Text($"/activities/{id + 1}/results"));
    }

    [Fact]
    public async Task When_one_attempt_can_not_be_handed_in_the_time_of_all_others_runs_out_and_it_is_tried_again_later()
    {
        using var fenster = new FensterWithClock();
        using var teacher = await new Visitor(fenster.Address).SignIn();
        var (id, code) = await teacher.Publish(Document());
        await teacher.Set(id, "limit", "20");
        using var spoilt = new Visitor(fenster.Address);
        using var other = new Visitor(fenster.Address);
        await spoilt.Join(code, "Ann");
        await spoilt.SendMoves(code, [Typed("k.1", IdOf(await spoilt.View(code), "typing"), "ab")]);
        fenster.Move(TimeSpan.FromSeconds(10));
        await other.Join(code, "Ben");
        var (attempts, of) = (fenster.Get<Attempts>(), await teacher.AssignmentOf(id));
        var database = fenster.Get<Database>();
        var (annId, benId) = (IdOfName("Ann"), IdOfName("Ben"));
        // Nobody knows yet by what an attempt will be spoilt next.
        var whole = database.Write(connection =>
        {
            var move = connection.ExecuteScalar<string>("select move from move where attempt_id = @annId", new { annId });
            connection.Execute(
                "update move set move = '{\"kind\":\"nothing\"}' where attempt_id = @annId; update attempt set edition = edition + 1 where id = @annId",
                new { annId }
            );
            return move;
        });
        fenster.Move(TimeSpan.FromMinutes(21));
        await Until(() => attempts.Anywhere(benId)!.Handed is not null);
        Assert.Contains(annId, attempts.Due(10));
        database.Write(connection => connection.Execute("update move set move = @whole where attempt_id = @annId", new { whole, annId }));
        fenster.Move(TimeSpan.FromMinutes(2));
        await Until(() => attempts.Due(10).Count == 0);
        Assert.Equal(1m, attempts.Anywhere(annId)!.Handed!.Score);

        long IdOfName(string name) => attempts.Page(of).Single(line => line.Name == name).Id;
        static async Task Until(Func<bool> condition)
        {
            for (var tries = 0; tries < 600 && !condition(); tries++)
                await Task.Delay(50);
            Assert.True(condition());
        }
    }
}
