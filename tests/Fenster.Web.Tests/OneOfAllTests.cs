using System.Globalization;
using System.Net;
using System.Text.Json;
using Fenster.Core.Model;
using Fenster.Store;
using Fenster.Testing;
using static Fenster.Web.Tests.Classroom;

namespace Fenster.Web.Tests;

/// <summary>What holds for one student alone, what is released to some, and what is said of who has tried several times.</summary>
public sealed class OneOfAllTests
{
    private static readonly string[] Pages = ["results", "results?handler=Csv", "insight", "results/out", "share"];

    private static async Task EverythingAnswers(Classroom room)
    {
        foreach (var page in Pages)
            Assert.Equal(
                HttpStatusCode.OK,
                (await room.Teacher.Get($"/activities/{room.Id}/{page}{(page.Contains('?') ? "&" : "?")}of={room.Given.Id}")).StatusCode
            );
        Assert.Equal(HttpStatusCode.OK, (await room.Teacher.Get($"/activities/{room.Id}/share/{room.Given.Id}/students")).StatusCode);
        foreach (var member in room.Members.Values)
            Assert.Equal(HttpStatusCode.OK, (await room.Teacher.Get($"/classes/{room.Group}/members/{member.Id}")).StatusCode);
    }

    [Fact]
    public async Task It_closes_later_or_is_ended_for_one_who_has_begun_and_for_one_who_has_not_and_is_taken_back()
    {
        using var room = await Open(Samples.Document(3), "Ana", "Ben");
        using var ana = await room.Begins("Ana");
        var who = $"/activities/{room.Id}/share/{room.Given.Id}/students";
        foreach (var name in (string[])["Ana", "Ben"])
        {
            (string, string)[] of = [("member", $"{room.Members[name].Id}"), ("student", "0")];
            await room.Teacher.Get(who);
            Assert.Equal(
                HttpStatusCode.OK,
                (await room.Teacher.Post($"{who}?handler=Later", [.. of, ("at", "2199-01-01T10:00")])).StatusCode
            );
            Assert.Equal(HttpStatusCode.OK, (await room.Teacher.Post($"{who}?handler=End", [.. of, ("back", "false")])).StatusCode);
            await EverythingAnswers(room);
        }
        Assert.Contains("Ended for them", await room.Teacher.Text(who));
        room.Fenster.Move(TimeSpan.FromSeconds(30));
        using var ben = new Visitor(room.Fenster.Address);
        Assert.Equal(HttpStatusCode.OK, (await ben.Ask(room.Code, "Join", ("word", room.Members["Ben"].Word), ("yes", "true"))).StatusCode);
        Assert.DoesNotContain("data-view", await Said(ben.Ask(room.Code, "Begin")));
        foreach (var name in (string[])["Ana", "Ben"])
        {
            (string, string)[] of = [("member", $"{room.Members[name].Id}"), ("student", "0")];
            await room.Teacher.Get(who);
            Assert.Equal(HttpStatusCode.OK, (await room.Teacher.Post($"{who}?handler=End", [.. of, ("back", "true")])).StatusCode);
            Assert.Equal(HttpStatusCode.OK, (await room.Teacher.Post($"{who}?handler=Later", [.. of, ("at", "")])).StatusCode);
        }
        Assert.Contains("data-view", await Said(ben.Ask(room.Code, "Begin")));
        await EverythingAnswers(room);
    }

    private static readonly Rules ByWord = new()
    {
        Reveal = new()
        {
            Marks = Moment.Released,
            Score = Moment.Released,
            Key = Moment.Never,
            Explanation = Moment.Never,
            Feedback = Moment.Never,
        },
    };

    [Fact]
    public async Task Attempts_of_another_assignment_are_released_by_nobody_and_no_name_of_theirs_is_read()
    {
        using var room = await Open(Samples.Document(2, rules: ByWord), "Ana");
        using var ana = await room.Begins("Ana");
        await room.Does(ana, 1, 1);
        using var other = await room.Colleague("noor");
        var theirs = await room.Give(other, Samples.Document(2, rules: ByWord), 0);
        var secret = room.Get<Assignments>().Of(theirs)[0];
        using var guest = new Visitor(room.Fenster.Address);
        await guest.Join(secret.Code, "Secret Name");
        await guest.HandIn(secret.Code);
        var (attempts, records) = (room.Get<Attempts>(), room.Get<Records>());
        var (own, strange) = (attempts.Page(room.Given.Id).Single().Id, attempts.Page(secret.Id).Single().Id);
        var results = $"/activities/{room.Id}/results?of={room.Given.Id}";
        foreach (var act in (string[])["releaseChosen", "takeBackChosen"])
        {
            await room.Teacher.Get(results);
            var answer = await room.Teacher.Post(
                $"/activities/{room.Id}/results?handler=Release&of={room.Given.Id}",
                ("act", act),
                ("chosen", $"{own}"),
                ("chosen", $"{strange}"),
                ("word", "sorry")
            );
            Assert.Equal(HttpStatusCode.NotFound, answer.StatusCode);
        }
        Assert.Empty(records.Of(room.Given.Id));
        Assert.Null(attempts.Anywhere(own)!.ReleasedAt);
        Assert.DoesNotContain("Secret Name", await room.Teacher.Text($"/activities/{room.Id}/results/record?of={room.Given.Id}"));
        // Their own are.
        await room.Teacher.Get(results);
        await room.Teacher.Post(
            $"/activities/{room.Id}/results?handler=Release&of={room.Given.Id}",
            ("act", "releaseChosen"),
            ("chosen", $"{own}")
        );
        Assert.Equal(own, Assert.Single(records.Of(room.Given.Id)).AttemptId);
        Assert.NotNull(attempts.Anywhere(own)!.ReleasedAt);
    }

    private static Rules Graded =>
        Samples.Test with
        {
            Score = new() { MaximumGrade = 10, PassMark = 5 },
        };

    [Fact]
    public async Task Who_is_there_is_paged_and_found_and_a_guest_is_made_one_with_whom_is_typed()
    {
        using var room = await Open(null);
        room.Id = await room.Give(room.Teacher, Samples.Document(3), 0);
        var (students, given) = (room.Get<Students>(), room.Given);
        for (var i = 0; i < 800; i++)
            Assert.NotNull(students.Guest(given, $"Guest {i:000}", word: null).In);
        var who = $"/activities/{room.Id}/share/{given.Id}/students";
        var first = await room.Teacher.Text(who);
        Assert.True(first.Length < 300_000, $"{first.Length} letters for a page of fifty");
        Assert.Contains("Guest 000", first);
        Assert.DoesNotContain("Guest 050", first);
        Assert.Contains("Page 1 of 16", first);
        Assert.Contains("Guest 799", await room.Teacher.Text($"{who}?show=99"));
        var found = await room.Teacher.Text($"{who}?find=GUEST%2079");
        Assert.Contains("Guest 795", found);
        Assert.DoesNotContain("Guest 001", found);
        Assert.Contains("Nobody here has “zzz” in their name", WebUtility.HtmlDecode(await room.Teacher.Text($"{who}?find=zzz")));

        var id = students.Roster(given, "en").Single(line => line.Name == "Guest 795").StudentId;
        Assert.Contains(
            "Nobody else here is called “Nobody”",
            await Said(room.Teacher.Post($"{who}?handler=Merge&show=2", ("student", $"{id}"), ("name", "Nobody")))
        );
        // Who made the guest one with another is on the same page again.
        var after = await room.Teacher.Post($"{who}?handler=Merge&show=2", ("student", $"{id}"), ("name", "guest 001"));
        Assert.Equal($"{who}?show=2", after.RequestMessage!.RequestUri!.PathAndQuery);
        Assert.DoesNotContain(students.Roster(given, "en"), line => line.Name == "Guest 795");
    }

    [Fact]
    public async Task A_guest_who_has_no_attempt_left_may_look_at_each_of_them_too()
    {
        using var room = await Open(null);
        room.Id = await room.Give(room.Teacher, Samples.Document(7, rules: Graded), 0);
        await room.Set("attempts", "2", "1");
        await room.Set("practice", "true", "false");
        using var guest = new Visitor(room.Fenster.Address);
        await guest.Join(room.Code, "Nia");
        await room.Does(guest, 1, 5);
        await room.Does(guest, 2, 2);
        var page = await Said(guest.Ask(room.Code, ""));
        Assert.Contains("Attempt 1 counts.", page);
        Assert.Contains("Attempt 2: 2 of 7", page);
    }

    [Fact]
    public async Task Of_several_attempts_what_counts_is_said_to_the_student_and_to_the_teacher_everywhere()
    {
        using var room = await Open(Samples.Document(7, rules: Graded), "Ana", "Ben", "Cem");
        await room.Set("attempts", "2", "1");
        await room.Set("practice", "true", "false");
        using var ana = await room.Begins("Ana");
        await room.Does(ana, 1, 7);
        await room.Does(ana, 2, 1);
        using var ben = await room.Begins("Ben");
        await room.Does(ben, 1, 1);
        await room.Does(ben, 2, 3);

        // The student reads the best, which attempt it is, and may look at the other.
        var view = await ana.View(room.Code);
        Assert.Equal(7, view.GetProperty("work").GetProperty("score").GetProperty("score").GetDecimal());
        Assert.True(view.GetProperty("work").GetProperty("score").GetProperty("passed").GetBoolean());
        var page = await Said(ana.Ask(room.Code, ""));
        Assert.Contains("Attempt 1 counts.", page);
        Assert.Contains("Attempt 2: 1 of 7", page);
        using var request = new HttpRequestMessage(HttpMethod.Get, $"/do/{room.Code}/now?attempt=2");
        request.Headers.Add("Fenster-Device", ana.SecretFor(room.Code));
        var second = await Said(ana.Send(request));
        Assert.Contains("\"score\":1,", second);
        Assert.DoesNotContain("\"passed\":false", second);

        // On the member's page score and grade are of one attempt.
        var member = await Said(room.Teacher.Get($"/classes/{room.Group}/members/{room.Members["Ana"].Id}"));
        Assert.Contains("7 of 7", member);
        Assert.Contains("10.00", member);
        Assert.DoesNotContain("1 of 7", member);
        // Two of three have handed in; the mean is of 7 and 3; who has not begun is named.
        var results = await Said(room.Teacher.Get($"/activities/{room.Id}/results?of={room.Given.Id}"));
        Assert.Contains("<b>2</b> of <b>3</b> handed in, on average 5 of 7 points", results);
        Assert.Contains("1 has not begun", results);
        Assert.Contains("Cem", results);
        Assert.Contains("2 of 3", await Said(room.Teacher.Get("/activities")));
        // Of a group the people are counted.
        var target = await Said(room.Teacher.Get($"/activities/{room.Id}/results/target?of={room.Given.Id}&target=0.0"));
        Assert.Contains("2 students", target);
        Assert.DoesNotContain("4 students", target);
        // Putting something right counts people too: one of two passes before and after.
        await room.Teacher.Get($"/activities/{room.Id}/put-right?of={room.Given.Id}");
        var comes = JsonSerializer.Deserialize<JsonElement>(
            await (
                await room.Teacher.PostJson(
                    $"/activities/{room.Id}/put-right?handler=WhatIf&of={room.Given.Id}&target=0.0",
                    new
                    {
                        repair = new
                        {
                            targets = new[]
                            {
                                new
                                {
                                    pane = 0,
                                    target = 6,
                                    takenOut = "everybody",
                                },
                            },
                        },
                    }
                )
            ).Content.ReadAsStringAsync()
        );
        Assert.Equal(2, comes.GetProperty("all").GetInt32());
        // 3 of 7 become 4 of 7, which is 5.71 of 10 and passes.
        Assert.Equal([1, 2], comes.GetProperty("passing").EnumerateArray().Select(count => count.GetInt32()));
        Assert.Equal(1, comes.GetProperty("nowPass").GetInt32());

        // The terms say another: then that counts, at once and everywhere.
        await room.Set("counts", "latest", "best");
        Assert.Contains("on average 2 of 7 points", await Said(room.Teacher.Get($"/activities/{room.Id}/results?of={room.Given.Id}")));
        Assert.Contains("Attempt 2 counts.", await Said(ana.Ask(room.Code, "")));
        await room.Set("counts", "mean", "latest");
        var mean = (await ana.View(room.Code)).GetProperty("work").GetProperty("score");
        Assert.Equal(
            (4m, 5.71m, true),
            (mean.GetProperty("score").GetDecimal(), mean.GetProperty("grade").GetDecimal(), mean.GetProperty("passed").GetBoolean())
        );
        Assert.Contains("mean of your attempts counts", await Said(ana.Ask(room.Code, "")));
    }

    private static readonly string Noted = $$"""
        { "fenster": 1, "title": "Anchoring", "rules": { "score": { "maximumGrade": 10, "passMark": 5 } },
          "panes": [{ "id": "pane-1", "picture": { "media": "{{new string('a', 64)}}", "width": 1000, "height": 600, "altText": "A chart" },
            "labels": [{ "id": "l", "text": "Part 1" }], "targets": [
            { "kind": "dropZone", "id": "z", "accepts": [{ "label": "l" }], "region": { "kind": "rectangle", "x": 400, "y": 200, "width": 90, "height": 40 } },
            { "kind": "openNote", "id": "why", "prompt": "Why there?", "points": 5, "region": { "kind": "rectangle", "x": 10, "y": 10, "width": 200, "height": 80 } }] }] }
        """;

    [Fact]
    public async Task While_something_waits_for_a_person_every_score_says_so_far_and_no_grade_goes_out()
    {
        using var room = await Open(Noted, "Ana", "Ben");
        using var ana = await room.Begins("Ana");
        var view = await ana.View(room.Code);
        await ana.Move(room.Code, "k.1", LabelOf(view, "Part 1"), "z1");
        var note = view.GetProperty("panes")[0].GetProperty("targets")[0].GetProperty("id").GetString();
        await ana.SendMoves(
            room.Code,
            [
                new
                {
                    key = "k.2",
                    pane = "p1",
                    move = new
                    {
                        kind = "typeText",
                        target = note,
                        text = "Good holding",
                    },
                },
            ]
        );
        await ana.HandIn(room.Code);
        var of = room.Given.Id;
        var attempt = room.Get<Attempts>().Page(of).Single().Id;
        Assert.Contains("1 of 6 so far", await Said(room.Teacher.Get($"/activities/{room.Id}/results?of={of}")));
        Assert.Contains("on average 1 of 6 points so far", await Said(room.Teacher.Get($"/activities/{room.Id}/results?of={of}")));
        Assert.Contains("1 of 6 points so far", await Said(room.Teacher.Get($"/activities/{room.Id}/results/{attempt}")));
        var member = await Said(room.Teacher.Get($"/classes/{room.Group}/members/{room.Members["Ana"].Id}"));
        Assert.Contains("1 of 6 so far", member);
        Assert.DoesNotContain("1.67", member);
        var csv = await room.Teacher.Text($"/activities/{room.Id}/results?handler=Csv&of={of}");
        var line = csv.Split("\r\n").Single(each => each.StartsWith("Ana", StringComparison.Ordinal)).Split(',');
        Assert.Contains("score so far", csv);
        Assert.DoesNotContain("1.67", csv);
        foreach (var columns in (string[])["Targets", "Panes", "Attempts"])
        {
            var marks = await room.Teacher.Text($"/activities/{room.Id}/results/out?handler=Csv&of={of}&columns={columns}");
            Assert.Contains("score so far", marks);
            Assert.DoesNotContain("1.67", marks);
        }
        // Insight has no figure for what nobody has marked, and none that it spoils.
        var insight = await Said(room.Teacher.Get($"/activities/{room.Id}/insight?of={of}"));
        Assert.Contains("1 work waits to be marked here", insight);
        Assert.DoesNotContain(">0 %<", insight.Replace("\u00a0", " "));
        var figures = Fenster.Core.Insight.ActivityInsight.Of(
            room.Get<Revisions>().Activity(room.Given.RevisionId),
            [.. room.Get<Works>().Of(of, room.Get<Revisions>().Activity(room.Given.RevisionId)).Select(work => work.Work)]
        );
        Assert.Equal((1, double.NaN), (figures.Panes[0].Targets[1].Waiting, figures.Panes[0].Targets[1].Facility));
        Assert.Equal((1.0, 1.0), (figures.Mean, figures.Possible));

        // Once it is marked, all of it is final.
        await room.Teacher.Get($"/activities/{room.Id}/results/{attempt}");
        await room.Teacher.Post($"/activities/{room.Id}/results/{attempt}?handler=Mark", ("Seen", "0"), ("Points[0.1]", "2.5"));
        csv = await room.Teacher.Text($"/activities/{room.Id}/results?handler=Csv&of={of}");
        Assert.DoesNotContain("so far", csv);
        Assert.Contains("5.83", csv);
    }

    [Fact]
    public async Task Closed_to_a_class_that_types_names_a_new_name_with_any_words_comes_in_no_more()
    {
        using var room = await Open(Samples.Document(2), "Ana");
        await room.Set("joining", "freeNames", "membersByWord");
        using var early = new Visitor(room.Fenster.Address);
        await early.Join(room.Code, "Early");
        await room.Teacher.Do(room.Id, "close");
        room.Fenster.Move(TimeSpan.FromSeconds(15));
        using var late = new Visitor(room.Fenster.Address);
        Assert.Contains("is closed", await Said(late.Ask(room.Code, "Join", ("name", "New"), ("word", "any words at all"))));
        Assert.DoesNotContain(room.Get<Students>().Roster(room.Given, "en"), line => line.Name == "New");
        var word = room.Get<Students>().Roster(room.Given, "en").Single(line => line.Name == "Early").Word!;
        Assert.Contains("data-view", await Said(late.Ask(room.Code, "Join", ("name", "Early"), ("word", word))));
    }

    [Fact]
    public async Task Personal_words_are_shown_to_who_teaches_the_class_alone()
    {
        using var room = await Open(Samples.Document(2), "Ana");
        using var ana = await room.Begins("Ana");
        await room.Does(ana, 1, 1);
        using var owner = await room.Colleague("owner");
        using var substitute = await room.Colleague("sub");
        await room.Teacher.Get($"/activities/{room.Id}/share");
        await room.Teacher.Post($"/activities/{room.Id}/share?handler=Together", ("email", "owner@school.example"));
        await room.Teacher.Post(
            $"/activities/{room.Id}/share?handler=StandIn",
            ("assignment", $"{room.Given.Id}"),
            ("email", "sub@school.example"),
            ("until", "2199-01-01T10:00")
        );
        var (word, attempt) = (room.Members["Ana"].Word, room.Get<Attempts>().Page(room.Given.Id).Single().Id);
        var who = $"/activities/{room.Id}/share/{room.Given.Id}/students";
        var one = $"/activities/{room.Id}/results/{attempt}";
        Assert.Contains(word, await room.Teacher.Text(who));
        Assert.Contains(word, await room.Teacher.Text(one));
        foreach (
            var (visitor, pages) in ((Visitor, string[])[])
                [(owner, [who, one, $"/activities/{room.Id}/share/{room.Given.Id}/slips", $"{one}?handler=Record"]), (substitute, [who])]
        )
        foreach (var page in pages)
        {
            var response = await visitor.Get(page);
            Assert.Equal(HttpStatusCode.OK, response.StatusCode);
            Assert.DoesNotContain(word, await response.Content.ReadAsStringAsync());
        }
    }

    [Fact]
    public async Task Names_are_sorted_as_the_class_sorts_them_in_results_and_from_one_to_the_next()
    {
        using var room = await Open(Samples.Document(2), "Zoë", "Åsa", "Bo", "Ärla");
        foreach (var name in room.Members.Keys)
        {
            using var student = await room.Begins(name);
            await room.Does(student, 1, 1);
        }
        var attempts = room.Get<Attempts>();
        string[] sorted = [.. room.Get<Classes>().Members(room.Get<Classes>().One(1, room.Group)!).Select(member => member.Name)];
        Assert.Equal(["Ärla", "Åsa", "Bo", "Zoë"], sorted);
        Assert.Equal(sorted, attempts.Page(room.Given.Id).Select(line => line.Name));
        Assert.Equal("Zoë", attempts.Neighbours(attempts.Anywhere(attempts.Page(room.Given.Id)[2].Id)!).After!.Name);
        // As Swedish does, once the class is said to be of it.
        room.Get<Classes>().Rename(room.Group, "8b", "sv");
        Assert.Equal(["Bo", "Zoë", "Åsa", "Ärla"], attempts.Page(room.Given.Id).Select(line => line.Name));
        Assert.Equal("Åsa", attempts.Neighbours(attempts.Anywhere(attempts.Page(room.Given.Id)[1].Id)!).After!.Name);
    }

    [Fact]
    public async Task Half_minutes_of_extra_time_are_told_and_not_rounded_up()
    {
        using var room = await Open(Samples.Document(2), "Ana");
        room.Get<Classes>().Set(room.Members["Ana"], "", 25);
        await room.Set("limit", "10");
        using var ana = new Visitor(room.Fenster.Address);
        Assert.Contains(
            "You have 12.5 minutes",
            await Said(ana.Ask(room.Code, "Join", ("word", room.Members["Ana"].Word), ("yes", "true")))
        );
    }

    [Fact]
    public async Task The_work_of_a_member_comes_back_at_all_activities_by_one_click_under_a_name_in_the_teachers_language()
    {
        using var room = await Open(Samples.Document(2), "Ana");
        var second = await room.Give(room.Teacher, Samples.Document(3), room.Group);
        var member = $"/classes/{room.Group}/members/{room.Members["Ana"].Id}";
        foreach (var code in (string[])[room.Code, room.Get<Assignments>().Of(second)[0].Code])
        {
            using var student = new Visitor(room.Fenster.Address);
            await student.Ask(code, "Join", ("word", room.Members["Ana"].Word), ("yes", "true"));
            await student.Ask(code, "Begin");
        }
        await room.Teacher.Get(member);
        await room.Teacher.Post($"{member}?handler=Delete");
        var gone = Assert.Single(room.Get<Deletions>().Of(1));
        Assert.Equal(("work", "Ana, 8b"), (gone.Kind, gone.Name));
        // Meanwhile she begins anew at one of them.
        using var again = await room.Begins("Ana");
        room.Teacher.Reads("de");
        await room.Teacher.Get("/deleted");
        var back = await room.Teacher.Post("/deleted", ("kind", "work"), ("id", gone.Id.ToString(CultureInfo.InvariantCulture)));
        Assert.True(back.IsSuccessStatusCode, await back.Content.ReadAsStringAsync());
        Assert.Empty(room.Get<Deletions>().Of(1));
        Assert.Equal(["Ana", "Ana (zurückgeholt)"], room.Get<Attempts>().Page(room.Given.Id).Select(line => line.Name).Order());
        Assert.Equal("Ana", room.Get<Attempts>().Page(room.Get<Assignments>().Of(second)[0].Id).Single().Name);
    }

    [Fact]
    public async Task A_guests_file_holds_no_words_that_let_anybody_in()
    {
        using var room = await Open(null, "Ana");
        var id = await room.Give(room.Teacher, Samples.Document(2), 0);
        var given = room.Get<Assignments>().Of(id)[0];
        using var guest = new Visitor(room.Fenster.Address);
        await guest.Join(given.Code, "Guest");
        var attempt = room.Get<Attempts>().Page(given.Id).Single().Id;
        var word = room.Get<Students>().Roster(given, "en").Single().Word!;
        var file = await room.Teacher.Get($"/activities/{id}/results/{attempt}?handler=Record");
        Assert.Equal("no-store", file.Headers.CacheControl?.ToString());
        var record = await file.Content.ReadAsStringAsync();
        Assert.Contains("Guest", record);
        Assert.DoesNotContain(word, record);
        foreach (var path in (string[])["results?handler=Csv", "results/out?handler=Csv", "results/out?handler=Spreadsheet"])
            Assert.Equal("no-store", (await room.Teacher.Get($"/activities/{id}/{path}&of={given.Id}")).Headers.CacheControl?.ToString());
    }

    [Fact]
    public async Task What_an_activity_was_given_as_is_paged_and_each_can_be_changed_where_it_is()
    {
        using var fenster = new FensterWithClock();
        using var teacher = await new Visitor(fenster.Address).SignIn();
        var (id, _) = await teacher.Publish(Samples.Document(2));
        var assignments = fenster.Get<Assignments>();
        var revision = fenster.Get<Revisions>().Latest(id)!.Id;
        for (var number = 0; number < 999; number++)
            assignments.Give(id, revision, group: null, new Fenster.Core.Giving.Terms());
        var all = assignments.Of(id);
        var first = await teacher.Text($"/activities/{id}/share");
        Assert.Contains(all[0].Code, first);
        Assert.DoesNotContain($"/do/{all[20].Code}", first);
        Assert.InRange(first.Length, 1, 600_000);
        // One that is not on the first page is changed there, and the page that it is on is shown.
        var (path, last) = ($"/activities/{id}/share", all[^1]);
        Assert.Contains($"/do/{last.Code}", await teacher.Text($"{path}?show=50"));
        using var done = await teacher.Post($"{path}?handler=Do", ("assignment", $"{last.Id}"), ("act", "pause"));
        Assert.Equal($"{path}?show=50", done.RequestMessage!.RequestUri!.PathAndQuery);
        Assert.True(assignments.One(last.Id)!.Course.IsPaused);
        using var wrong = await teacher.Post($"{path}?handler=StandIn", ("assignment", $"{last.Id}"), ("email", "nobody@school.example"));
        Assert.Contains($"/do/{last.Code}", await wrong.Content.ReadAsStringAsync());
    }
}
