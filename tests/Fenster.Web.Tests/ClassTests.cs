using System.Globalization;
using System.Net;
using System.Text.Json;
using System.Text.RegularExpressions;
using Fenster.Core.Giving;
using Fenster.Store;
using Fenster.Testing;

namespace Fenster.Web.Tests;

/// <summary>A class is given an activity, and everything closes by itself at the right second, by a clock that is moved.</summary>
public sealed partial class ClassTests
{
    private static async Task<string> Said(Task<HttpResponseMessage> response) =>
        WebUtility.HtmlDecode(await (await response).Content.ReadAsStringAsync());

    /// <summary>Waits for what the server does by itself, which it looks for every second.</summary>
    private static async Task Until(Func<bool> condition, string what)
    {
        for (var tries = 0; tries < 1200; tries++)
        {
            if (condition())
                return;
            await Task.Delay(50);
        }
        Assert.Fail($"Waited for {what}.");
    }

    private static Task Set(Visitor teacher, long activity, long assignment, string path, string value, string was = "") =>
        teacher.Post(
            $"/activities/{activity}/share?handler=Set",
            ("assignment", $"{assignment}"),
            ("path", path),
            ("value", value),
            ("was", was)
        );

    private static readonly string[] Names =
    [
        .. Enumerable.Range(1, 26).Select(i => $"Student {i:00}"),
        "Łucja Żak",
        "Åse Østergaard",
        "سلمى حداد",
        "王小明",
    ];

    private static async Task<long> MakeClass(Visitor teacher, string name, IEnumerable<string> names)
    {
        await teacher.Get("/classes");
        var made = await teacher.Post("/classes", ("name", name), ("language", "en"));
        var id = long.Parse(made.RequestMessage!.RequestUri!.Segments[^1], CultureInfo.InvariantCulture);
        await teacher.Post($"/classes/{id}?handler=Take", ("names", string.Join('\n', names)));
        return id;
    }

    /// <summary>Makes an activity and gives it to a class, as from the workbench: share, and the class.</summary>
    private static async Task<long> GiveTo(Visitor teacher, long group, string title)
    {
        var id = await teacher.Begin(title);
        (await teacher.Save(id, 1, Samples.Document(3).Replace("Parts of something", title))).EnsureSuccessStatusCode();
        await teacher.Get($"/activities/{id}/share");
        await teacher.Post($"/activities/{id}/share?handler=Give", ("to", $"{group}"));
        return id;
    }

    [Fact]
    public async Task A_class_of_thirty_does_an_activity_with_a_limit_and_two_attempts_and_all_of_it_closes_by_itself()
    {
        using var fenster = new FensterWithClock();
        var (assignments, classes, attempts) = (fenster.Get<Assignments>(), fenster.Get<Classes>(), fenster.Get<Attempts>());
        using var teacher = await new Visitor(fenster.Address).SignIn();
        var group = await MakeClass(teacher, "8b", Names);
        var list = classes.Members(classes.One(1, group)!);
        Assert.Equal(30, list.Select(member => member.Word).Distinct().Count());
        // One has a quarter more time.
        var slow = list.Single(member => member.Name == "Student 03");
        await teacher.Get($"/classes/{group}?needs=true");
        await teacher.Post(
            $"/classes/{group}?handler=Member",
            ("member", $"{slow.Id}"),
            ("name", slow.Name),
            ("tags", "reads aloud"),
            ("extraTime", "25")
        );
        Assert.Equal((25, "reads aloud"), (classes.Member(group, slow.Id)!.ExtraTime, classes.Member(group, slow.Id)!.Tags));

        var id = await GiveTo(teacher, group, "Parts");
        var given = Assert.Single(assignments.Of(id));
        Assert.Equal((group, Joining.MembersByWord), (given.ClassId, given.Terms.Joining));
        await Set(teacher, id, given.Id, "limit", "20");
        await Set(teacher, id, given.Id, "attempts", "2", "1");
        await Set(teacher, id, given.Id, "closes", "at");
        var terms = assignments.One(given.Id)!.Terms;
        Assert.Equal((NodaTime.Duration.FromMinutes(20), 2), (terms.TimeLimit, terms.Attempts));
        var closing = LocalTimes.Typed(fenster.Now.AddMinutes(62).ToInstant(), NodaTime.DateTimeZone.Utc);
        await Set(teacher, id, given.Id, "closes", closing, LocalTimes.Typed(terms.Closes!.Value, NodaTime.DateTimeZone.Utc));
        var closes = assignments.One(given.Id)!.Terms.Closes!.Value.ToDateTimeOffset();
        Assert.InRange(closes - fenster.Now, TimeSpan.FromMinutes(60), TimeSpan.FromMinutes(62));

        // All but two come in by their words, and place two of three.
        var code = given.Code;
        var working = new Dictionary<string, Visitor>();
        foreach (var member in list.Take(28).Append(slow).DistinctBy(member => member.Id))
        {
            var student = new Visitor(fenster.Address);
            if (working.Count == 0)
                Assert.Contains("Nobody has these words", await Said(student.Ask(code, "Join", ("word", "no such"))));
            Assert.Contains($"Are you {member.Name}?", await Said(student.Ask(code, "Join", ("word", member.Word.ToUpperInvariant()))));
            var before = await Said(student.Ask(code, "Join", ("word", member.Word), ("yes", "true")));
            Assert.Contains(member == slow ? "You have 25 minutes" : "You have 20 minutes", before);
            Assert.Contains("You may do it 2 times", before);
            await student.Ask(code, "Begin");
            var view = await student.View(code);
            foreach (var part in (int[])[1, 2])
                (await student.Move(code, $"k{part}", LabelOf(view, $"Part {part}"), $"z{part}")).EnsureSuccessStatusCode();
            working[member.Name] = student;
        }
        var early = working["Student 01"];
        Assert.Equal(JsonValueKind.Object, (await Json(await early.HandIn(code))).GetProperty("work").ValueKind);

        // At nineteen minutes everybody works; at the limit and ten seconds the server hands in, but for who has more time.
        fenster.Move(TimeSpan.FromMinutes(19));
        Assert.Equal(1, attempts.Sums(given.Id).HandedIn);
        fenster.Move(TimeSpan.FromMinutes(1) + TimeSpan.FromSeconds(12));
        await Until(() => attempts.Sums(given.Id).HandedIn == working.Count - 1, "the limit to hand in");
        var line = attempts.Page(given.Id).Single(each => each.Name == "Student 02");
        Assert.Equal((HandedBy.Time, 2m), (line.Handed!.By, line.Handed.Score));
        Assert.Equal(TimeSpan.FromMinutes(20), line.Handed.At - line.StartedAt);
        Assert.Equal(HttpStatusCode.OK, (await working["Student 03"].Move(code, "k3", "l3", "z3")).StatusCode);
        // What comes now from a device that was offline is late, and changes nothing until the teacher says so.
        var late = await Json(
            await working["Student 02"].Move(code, "k3", LabelOf(await working["Student 02"].View(code), "Part 3"), "z3")
        );
        Assert.True(late.GetProperty("isLate").GetBoolean());
        Assert.Contains("Late", await teacher.Text($"/activities/{id}/share/{given.Id}/students"));
        Assert.True(attempts.CountLate(given.Id, line.Id, teacher: 1));
        Assert.Equal(3m, attempts.Page(given.Id).Single(each => each.Id == line.Id).Handed!.Score);
        Assert.Equal("lateCounted", Assert.Single(fenster.Get<Records>().Of(given.Id)).Kind);
        fenster.Move(TimeSpan.FromMinutes(5));
        await Until(() => attempts.Sums(given.Id).HandedIn == working.Count, "the longer limit to hand in");

        // The key waits for the last attempt; a second one begins with nothing, and a third is not to be had.
        Assert.Equal(
            JsonValueKind.Null,
            (await early.View(code)).GetProperty("work").GetProperty("panes")[0].GetProperty("marks").ValueKind
        );
        Assert.Contains("data-view", await Said(early.Ask(code, "Begin")));
        Assert.Equal(0, (await early.View(code)).GetProperty("work").GetProperty("panes")[0].GetProperty("placed").GetArrayLength());
        // A move of the first attempt that comes only now goes into no other.
        await early.Move(code, "stale", "l1", "z1", attempt: 1);
        Assert.Equal(0, (await early.View(code)).GetProperty("work").GetProperty("panes")[0].GetProperty("placed").GetArrayLength());
        await early.HandIn(code, attempt: 2);
        Assert.DoesNotContain("Begin another attempt", await Said(early.Ask(code, "Begin")));
        Assert.Equal(2, attempts.Page(given.Id).Count(each => each.Name == "Student 01"));

        // The closing second ends what is begun shortly before it, and opens the key.
        var last = working["Student 04"];
        fenster.Move(closes - fenster.Now - TimeSpan.FromMinutes(3));
        Assert.Contains("data-view", await Said(last.Ask(code, "Begin")));
        fenster.Move(closes - fenster.Now - TimeSpan.FromSeconds(1));
        Assert.Equal(AssignmentState.Open, assignments.One(given.Id)!.StateAt(fenster.Now));
        Assert.Equal(HttpStatusCode.OK, (await last.Move(code, "a", "l1", "z1", attempt: 2)).StatusCode);
        fenster.Move(TimeSpan.FromSeconds(13));
        Assert.Equal(AssignmentState.Closed, assignments.One(given.Id)!.StateAt(fenster.Now));
        await Until(() => attempts.Sums(given.Id) is var sums && sums.All == sums.HandedIn, "the end to hand in");
        Assert.Equal(
            JsonValueKind.Object,
            (await early.View(code)).GetProperty("work").GetProperty("panes")[0].GetProperty("key").ValueKind
        );
        var absent = new Visitor(fenster.Address);
        Assert.Contains("is closed", await Said(absent.Ask(code, "")));
        foreach (var student in working.Values)
            student.Dispose();
    }

    private static async Task<JsonElement> Json(HttpResponseMessage response) =>
        JsonSerializer.Deserialize<JsonElement>(await response.Content.ReadAsStringAsync());

    private static string LabelOf(JsonElement view, string text) =>
        view.GetProperty("panes")[0]
            .GetProperty("labels")
            .EnumerateArray()
            .Single(label => label.GetProperty("text").GetString() == text)
            .GetProperty("id")
            .GetString()!;

    [Fact]
    public async Task A_fire_alarm_stops_limits_and_a_waiting_room_lets_all_begin_together()
    {
        using var fenster = new FensterWithClock();
        var (assignments, attempts) = (fenster.Get<Assignments>(), fenster.Get<Attempts>());
        using var teacher = await new Visitor(fenster.Address).SignIn();
        var (id, code) = await teacher.Publish(Samples.Document(3));
        var given = Assert.Single(assignments.Of(id));
        await Set(teacher, id, given.Id, "limit", "10");
        await Set(teacher, id, given.Id, "together", "true", "false");
        using var student = new Visitor(fenster.Address);
        Assert.Contains("It begins when your teacher says so", await Said(student.Ask(code, "Join", ("name", "Ada"))));
        Assert.DoesNotContain("data-view", await Said(student.Ask(code, "Begin")));
        Assert.Contains("1 student waits", await teacher.Text($"/activities/{id}/share/{given.Id}/students"));
        await teacher.Do(id, "begin");
        Assert.Contains("data-view", await Said(student.Ask(code, "Begin")));

        fenster.Move(TimeSpan.FromMinutes(4));
        await teacher.Do(id, "pause");
        Assert.Equal(HttpStatusCode.Locked, (await student.Move(code, "k1", "l1", "z1")).StatusCode);
        Assert.Equal(HttpStatusCode.Locked, (await student.HandIn(code)).StatusCode);
        fenster.Move(TimeSpan.FromMinutes(30));
        Assert.Empty(attempts.Due(10));
        await teacher.Do(id, "resume");
        Assert.Equal(HttpStatusCode.OK, (await student.Move(code, "k1", "l1", "z1")).StatusCode);
        fenster.Move(TimeSpan.FromMinutes(5));
        Assert.Equal(HttpStatusCode.OK, (await student.Move(code, "k2", "l2", "z2")).StatusCode);
        fenster.Move(TimeSpan.FromMinutes(1.5));
        await Until(() => attempts.Sums(given.Id).HandedIn == 1, "the limit after the pause");

        // Pressed too soon, it is given back, and what passed meanwhile does not count against the limit.
        using var hasty = new Visitor(fenster.Address);
        await hasty.Join(code, "Ben");
        fenster.Move(TimeSpan.FromMinutes(2));
        await hasty.HandIn(code);
        fenster.Move(TimeSpan.FromMinutes(20));
        var attempt = attempts.Page(given.Id).Single(line => line.Name == "Ben").Id;
        await teacher.Get($"/activities/{id}/results/{attempt}");
        await teacher.Post($"/activities/{id}/results/{attempt}?handler=GiveBack");
        Assert.Equal(HttpStatusCode.OK, (await hasty.Move(code, "k1", "l1", "z1")).StatusCode);
        fenster.Move(TimeSpan.FromMinutes(7));
        Assert.Equal(HttpStatusCode.OK, (await hasty.Move(code, "k2", "l2", "z2")).StatusCode);
        fenster.Move(TimeSpan.FromMinutes(1.5));
        await Until(() => attempts.Sums(given.Id).HandedIn == 2, "the limit of what was given back");
    }

    [Fact]
    public async Task Two_teachers_who_change_one_word_at_once_lose_nothing_and_nonsense_changes_nothing()
    {
        using var fenster = new FensterWithClock();
        var assignments = fenster.Get<Assignments>();
        using var teacher = await new Visitor(fenster.Address).SignIn();
        var (id, code) = await teacher.Publish(Samples.Document(3));
        var given = Assert.Single(assignments.Of(id));
        async Task<string> Change(string path, string value, string was) =>
            await Said(
                teacher.Post(
                    $"/activities/{id}/share?handler=Set",
                    ("assignment", $"{given.Id}"),
                    ("path", path),
                    ("value", value),
                    ("was", was)
                )
            );
        Assert.DoesNotContain("role=\"alert\"", await Change("attempts", "3", "1"));
        // The second page still showed one attempt.
        Assert.Contains("Somebody changed this meanwhile; it reads “3 attempts” now", await Change("attempts", "2", "1"));
        Assert.Equal(3, assignments.One(given.Id)!.Terms.Attempts);
        // Another word is nobody's conflict.
        Assert.DoesNotContain("role=\"alert\"", await Change("limit", "45", ""));
        foreach (
            var (path, value) in ((string, string)[])
                [
                    ("limit", "-1"),
                    ("limit", "0.2"),
                    ("limit", "soon"),
                    ("attempts", "0"),
                    ("attempts", "999"),
                    ("closes", "yesterday"),
                    ("counts", "3"),
                    ("sites", "javascript:alert(1)"),
                    ("sites", "https://a.example; script-src *"),
                    ("check.checks", "many"),
                    ("score.wrongCost", "-5"),
                    ("no.such", "1"),
                    ("nothing", "1"),
                ]
        )
            Assert.Contains("role=\"alert\"", await Change(path, value, null!));
        await Change("opens", "2031-05-05T10:00", "");
        Assert.Contains("would close before it opens", await Change("closes", "2031-05-05T09:00", ""));
        var terms = assignments.One(given.Id)!.Terms;
        Assert.Equal((3, null), (terms.Attempts, terms.Closes));
        Assert.Empty(terms.Sites);

        // A word of the rules is the assignment's own, and can follow the activity again.
        await Change("check.checks", "2", "0");
        Assert.Equal(2, assignments.One(given.Id)!.Terms.Rules.Checks.Value);
        using var student = new Visitor(fenster.Address);
        Assert.Contains("It opens on", await Said(student.Ask(code, "Join", ("name", "Ada"))));
        await teacher.Do(id, "open");
        await student.Ask(code, "Begin");
        Assert.Equal(2, (await student.View(code)).GetProperty("work").GetProperty("panes")[0].GetProperty("checksLeft").GetInt32());
        await Change("-check.checks", "", "2");
        Assert.False(assignments.One(given.Id)!.Terms.Rules.Checks.IsNamed);
        // What was begun keeps the rules that it was begun under.
        Assert.Equal(2, (await student.View(code)).GetProperty("work").GetProperty("panes")[0].GetProperty("checksLeft").GetInt32());
    }

    [Fact]
    public async Task A_guest_becomes_a_member_with_all_work_and_states_are_the_teachers_word()
    {
        using var fenster = new FensterWithClock();
        var (assignments, attempts) = (fenster.Get<Assignments>(), fenster.Get<Attempts>());
        using var teacher = await new Visitor(fenster.Address).SignIn();
        var group = await MakeClass(teacher, "9a", ["Mia Low", "Ben Ash", "Cem Yildiz"]);
        var id = await GiveTo(teacher, group, "Parts");
        var given = Assert.Single(assignments.Of(id));
        await Set(teacher, id, given.Id, "joining", "freeNames", "membersByWord");
        using var mia = new Visitor(fenster.Address);
        await mia.Join(given.Code, "mia l");
        await mia.Move(given.Code, "k1", "l1", "z1");
        await mia.HandIn(given.Code);

        var who = $"/activities/{id}/share/{given.Id}/students";
        var roster = fenster.Get<Students>().Roster(given, "en");
        Assert.Equal(["Ben Ash", "Cem Yildiz", "Mia Low", "mia l"], roster.Select(line => line.Name));
        Assert.Equal(StudentState.HandedIn, roster[3].State);
        await teacher.Get(who);
        await teacher.Post($"{who}?handler=Merge", ("student", $"{roster[3].StudentId}"), ("into", $"{-roster[2].MemberId}"));
        Assert.Equal("Mia Low", Assert.Single(attempts.Page(given.Id)).Name);
        // Her device goes on as hers.
        Assert.Contains("data-view", await Said(mia.Ask(given.Code, "")));

        await teacher.Post($"{who}?handler=Note", ("member", $"{roster[0].MemberId}"), ("state", "Excused"));
        Assert.Equal(
            [StudentState.Excused, StudentState.NotBegun, StudentState.HandedIn],
            fenster.Get<Students>().Roster(given, "en").Select(line => line.State)
        );
        Assert.Equal(HttpStatusCode.NotFound, (await teacher.Post($"{who}?handler=Merge", ("student", "999"), ("into", "1"))).StatusCode);
    }

    [Fact]
    public async Task Two_servers_on_one_folder_hand_in_each_work_once()
    {
        using var fenster = new FensterWithClock();
        using var beside = new FensterWithClock(fenster);
        var (assignments, attempts) = (fenster.Get<Assignments>(), fenster.Get<Attempts>());
        using var teacher = await new Visitor(fenster.Address).SignIn();
        var group = await MakeClass(teacher, "9d", Names);
        var id = await GiveTo(teacher, group, "Parts");
        var given = Assert.Single(assignments.Of(id));
        await Set(teacher, id, given.Id, "joining", "freeNames", "membersByWord");
        await Set(teacher, id, given.Id, "limit", "20");
        foreach (var (name, i) in Names.Select((name, i) => (name, i)))
        {
            // Half of them work through the other server.
            using var student = new Visitor(i % 2 == 0 ? fenster.Address : beside.Address);
            await student.Join(given.Code, name);
            var view = await student.View(given.Code);
            (await student.Move(given.Code, "k1", LabelOf(view, "Part 1"), "z1")).EnsureSuccessStatusCode();
        }
        fenster.Move(TimeSpan.FromMinutes(20) + TimeSpan.FromSeconds(12));
        await Until(() => attempts.Sums(given.Id).HandedIn == Names.Length, "either to hand in");
        using var connection = new Microsoft.Data.Sqlite.SqliteConnection($"Data Source={Path.Combine(fenster.Folder, "fenster.db")}");
        Assert.Equal(Names.Length, Dapper.SqlMapper.ExecuteScalar<int>(connection, "select count(*) from response"));
        foreach (var line in attempts.Page(given.Id))
        {
            Assert.Equal((HandedBy.Time, 1m), (line.Handed!.By, line.Handed.Score));
            Assert.Equal(beside.Get<Attempts>().One(given.Id, line.Id)!.Handed, line.Handed);
        }
    }

    [Fact]
    public async Task Results_say_which_attempt_counts_how_a_resit_counts_and_leave_who_was_away_empty()
    {
        using var fenster = new FensterWithClock();
        var assignments = fenster.Get<Assignments>();
        using var teacher = await new Visitor(fenster.Address).SignIn();
        var group = await MakeClass(teacher, "9c", ["Ana Bell", "Ben Ash", "Cem Yildiz", "Dee Orr"]);
        var id = await teacher.Begin("Parts");
        var rules = Samples.Test with
        {
            Score = new() { MaximumGrade = 10, PassMark = 5 },
        };
        (await teacher.Save(id, 1, Samples.Document(4, rules: rules))).EnsureSuccessStatusCode();
        await teacher.Get($"/activities/{id}/share");
        await teacher.Post($"/activities/{id}/share?handler=Give", ("to", $"{group}"));
        var first = Assert.Single(assignments.Of(id));
        await Set(teacher, id, first.Id, "attempts", "2", "1");
        var members = fenster.Get<Classes>().Members(fenster.Get<Classes>().One(1, group)!).ToDictionary(member => member.Name);

        async Task Try(Assignment given, string name, int attempt, int right)
        {
            using var student = new Visitor(fenster.Address);
            await student.Ask(given.Code, "Join", ("word", members[name].Word), ("yes", "true"));
            await student.Ask(given.Code, "Begin");
            var view = await student.View(given.Code);
            for (var part = 1; part <= right; part++)
                (
                    await student.Move(given.Code, $"k{part}", LabelOf(view, $"Part {part}"), $"z{part}", attempt: attempt)
                ).EnsureSuccessStatusCode();
            await student.HandIn(given.Code, attempt: attempt);
        }
        string Cell(string csv, string name, int attempt, int column) =>
            csv.Split("\r\n").Select(line => line.Split(',')).Single(cells => cells[0] == name && cells[2] == $"{attempt}")[column];

        // Of two attempts the better counts, and one in which nothing was done never does.
        await Try(first, "Ana Bell", 1, 1);
        await Try(first, "Ana Bell", 2, 0);
        await Try(first, "Ben Ash", 1, 1);
        await Try(first, "Ben Ash", 2, 3);
        await Try(first, "Dee Orr", 1, 2);
        var who = $"/activities/{id}/share/{first.Id}/students";
        await teacher.Get(who);
        foreach (var name in (string[])["Cem Yildiz", "Dee Orr"])
            await teacher.Post($"{who}?handler=Note", ("member", $"{members[name].Id}"), ("state", "Excused"));
        var csv = await teacher.Text($"/activities/{id}/results?handler=Csv&of={first.Id}");
        Assert.Equal(
            ("counts", "", "", "counts"),
            (Cell(csv, "Ana Bell", 1, 3), Cell(csv, "Ana Bell", 2, 3), Cell(csv, "Ben Ash", 1, 3), Cell(csv, "Ben Ash", 2, 3))
        );
        // Who is excused has no figures, with an attempt or without, and is in no mean.
        Assert.Contains("Cem Yildiz,Excused,,,,,,,,,", csv);
        Assert.Equal(("Excused", "", ""), (Cell(csv, "Dee Orr", 1, 1), Cell(csv, "Dee Orr", 1, 6), Cell(csv, "Dee Orr", 1, 8)));
        var page = await teacher.Text($"/activities/{id}/results?of={first.Id}");
        Assert.Equal(2, page.Split("counts-mark").Length - 1);
        // People are counted, not attempts: 1 of the one, 3 of the other.
        Assert.Contains("on average 2 of 4 points", page);

        // A re-sit after it: the better of both, then the later, then the pass mark at most.
        await teacher.Post($"/activities/{id}/share?handler=Again", ("assignment", $"{first.Id}"));
        var again = assignments.Of(id).Single(given => given.Follows == first.Id);
        await Try(again, "Ana Bell", 1, 4);
        await Try(again, "Ben Ash", 1, 2);
        await Try(again, "Cem Yildiz", 1, 3);
        foreach (
            var (resit, was, ana, ben) in ((string, string, string, string)[])
                [("best", "", "10", "7.5"), ("latest", "best", "10", "5"), ("capped", "latest", "5", "7.5")]
        )
        {
            if (was != "")
                await Set(teacher, id, again.Id, "resit", resit, was);
            csv = await teacher.Text($"/activities/{id}/results?handler=Csv&of={again.Id}");
            Assert.Equal((ana, ben, "7.5"), (Cell(csv, "Ana Bell", 1, 10), Cell(csv, "Ben Ash", 1, 10), Cell(csv, "Cem Yildiz", 1, 10)));
        }
        Assert.Contains("Together with the first", await teacher.Text($"/activities/{id}/results?of={again.Id}"));
    }

    [Fact]
    public async Task When_it_is_closed_who_has_done_it_comes_back_on_any_device_and_nobody_else_comes_in()
    {
        using var fenster = new FensterWithClock();
        using var teacher = await new Visitor(fenster.Address).SignIn();
        var (id, code) = await teacher.Publish(Samples.Document(3));
        var given = Assert.Single(fenster.Get<Assignments>().Of(id));
        using var ada = new Visitor(fenster.Address);
        await ada.Join(code, "Ada");
        await ada.Move(code, "k1", "l1", "z1");
        await ada.HandIn(code);
        await teacher.Do(id, "close");
        fenster.Move(TimeSpan.FromSeconds(15));
        var word = fenster.Get<Students>().Roster(given, "en")[0].Word!;
        using var other = new Visitor(fenster.Address);
        Assert.Contains("is closed", await Said(other.Ask(code, "")));
        Assert.Contains("is closed", await Said(other.Ask(code, "Join", ("name", "Ben"))));
        Assert.Contains("is closed", await Said(other.Ask(code, "Join", ("name", "Ben"), ("word", word))));
        Assert.Contains("not the words", await Said(other.Ask(code, "Join", ("name", "Ada"), ("word", "no such"))));
        Assert.Contains("data-view", await Said(other.Ask(code, "Join", ("name", "Ada"), ("word", word))));
        Assert.Single(fenster.Get<Students>().Roster(given, "en"));
    }

    [Fact]
    public async Task What_is_deleted_while_students_work_takes_nothing_more_and_troubles_nobody()
    {
        using var fenster = new FensterWithClock();
        var (assignments, attempts) = (fenster.Get<Assignments>(), fenster.Get<Attempts>());
        using var teacher = await new Visitor(fenster.Address).SignIn();
        var (id, code) = await teacher.Publish(Samples.Document(3));
        var given = Assert.Single(assignments.Of(id));
        await Set(teacher, id, given.Id, "limit", "10");
        using var student = new Visitor(fenster.Address);
        await student.Join(code, "Ada");
        await student.Move(code, "k1", "l1", "z1");
        await teacher.Do(id, "delete");
        Assert.Equal(HttpStatusCode.Forbidden, (await student.Move(code, "k2", "l2", "z2")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await student.Ask(code, "")).StatusCode);
        // Its time runs out while it is deleted: nobody hands it in, until it is back.
        fenster.Move(TimeSpan.FromMinutes(11));
        Assert.Empty(attempts.Due(10));
        Assert.Null(await attempts.HandInDue(attempts.Page(given.Id)[0].Id));
        await teacher.Get("/deleted");
        await teacher.Post("/deleted", ("kind", "assignment"), ("id", $"{given.Id}"));
        await Until(() => attempts.Sums(given.Id).HandedIn == 1, "the clock to hand in what is back");
    }

    [Fact]
    public async Task A_member_with_the_word_sees_all_that_the_class_was_given_and_a_name_alone_opens_nothing_else()
    {
        using var fenster = new FensterWithClock();
        var assignments = fenster.Get<Assignments>();
        using var teacher = await new Visitor(fenster.Address).SignIn();
        var group = await MakeClass(teacher, "9a", ["Mia Low", "Ben Ash"]);
        var mia = fenster.Get<Classes>().Members(fenster.Get<Classes>().One(1, group)!)[1];
        await GiveTo(teacher, group, "First");
        await GiveTo(teacher, group, "Second");
        var (second, first) = (assignments.OfClass(group)[0], assignments.OfClass(group)[1]);
        await Set(teacher, first.ActivityId, first.Id, "joining", "members", "membersByWord");
        using var byName = new Visitor(fenster.Address);
        Assert.Contains("not on the list", await Said(byName.Ask(first.Code, "Join", ("name", "Nobody"))));
        Assert.Contains("data-handler=\"Begin\"", await Said(byName.Ask(first.Code, "Join", ("name", "mia low"))));
        Assert.DoesNotContain("data-go", await Said(byName.Mine(first.Code)));
        Assert.False((await byName.Ask(first.Code, "Go", ("to", $"{second.Id}"))).Headers.Contains("Fenster-Device"));
        // The name is in use now: on another device it takes the word.
        using var other = new Visitor(fenster.Address);
        Assert.Contains("is here already", await Said(other.Ask(first.Code, "Join", ("name", "Mia Low"))));

        using var byWord = new Visitor(fenster.Address);
        await byWord.Ask(second.Code, "Join", ("word", mia.Word), ("yes", "true"));
        var mine = await Said(byWord.Mine(second.Code));
        Assert.Contains("First", mine);
        Assert.Contains("Second", mine);
        var gone = await byWord.Ask(second.Code, "Go", ("to", $"{first.Id}"));
        Assert.Equal(first.Code, gone.Headers.GetValues("Fenster-Code").Single());
        // What is no member's, or of no such class, is not opened.
        Assert.False((await byWord.Ask(second.Code, "Go", ("to", "999"))).Headers.Contains("Fenster-Device"));
    }

    [Fact]
    public async Task A_substitute_pauses_extends_and_lets_in_until_a_time_and_does_nothing_else()
    {
        using var fenster = new FensterWithClock();
        var (assignments, hasher) = (fenster.Get<Assignments>(), Pages.SignInModel.Hasher);
        fenster.Get<Teachers>().Add("sub@school.example", "Sub", hasher.HashPassword(null!, RunningFenster.DemoPassword));
        using var teacher = await new Visitor(fenster.Address).SignIn();
        var (id, code) = await teacher.Publish(Samples.Document(3));
        var given = Assert.Single(assignments.Of(id));
        await Set(teacher, id, given.Id, "closes", "at");
        using var student = new Visitor(fenster.Address);
        await student.Join(code, "Ada");
        using var substitute = new Visitor(fenster.Address);
        await substitute.Get("/sign-in");
        await substitute.Post("/sign-in", ("Email", "sub@school.example"), ("Password", RunningFenster.DemoPassword));
        var who = $"/activities/{id}/share/{given.Id}/students";
        Assert.Equal(HttpStatusCode.NotFound, (await substitute.Get(who)).StatusCode);
        var until = LocalTimes.Typed(fenster.Now.AddHours(2).ToInstant(), NodaTime.DateTimeZone.Utc);
        await teacher.Get($"/activities/{id}/share");
        await teacher.Post(
            $"/activities/{id}/share?handler=StandIn",
            ("assignment", $"{given.Id}"),
            ("email", "sub@school.example"),
            ("until", until)
        );
        Assert.Contains("You stand in", await substitute.Text("/activities"));
        Assert.Contains("Ada", await substitute.Text(who));
        var closes = assignments.One(given.Id)!.Terms.Closes!.Value;
        await substitute.Post($"{who}?handler=All", ("act", "pause"));
        await substitute.Post($"{who}?handler=All", ("act", "extend"));
        Assert.Equal(AssignmentState.Paused, assignments.One(given.Id)!.StateAt(fenster.Now));
        Assert.Equal(closes + NodaTime.Duration.FromMinutes(10), assignments.One(given.Id)!.Terms.Closes);
        var ada = fenster.Get<Students>().Roster(given, "en")[0].StudentId;
        foreach (var act in (string[])["End", "Note", "Merge"])
            Assert.Equal(
                HttpStatusCode.NotFound,
                (await substitute.Post($"{who}?handler={act}", ("student", $"{ada}"), ("state", "Absent"))).StatusCode
            );
        foreach (var path in (string[])[$"/activities/{id}", $"/activities/{id}/share", $"/activities/{id}/results"])
            Assert.Equal(HttpStatusCode.NotFound, (await substitute.Get(path)).StatusCode);
        fenster.Move(TimeSpan.FromHours(3));
        Assert.Equal(HttpStatusCode.NotFound, (await substitute.Get(who)).StatusCode);
    }

    [Fact]
    public async Task A_list_of_two_thousand_names_is_taken_and_what_is_no_list_is_said()
    {
        using var fenster = new FensterWithClock();
        var classes = fenster.Get<Classes>();
        using var teacher = await new Visitor(fenster.Address).SignIn();
        var group = await MakeClass(teacher, "All", Enumerable.Range(1, Classes.MostMembers).Select(i => $"Person {i}"));
        Assert.Equal(Classes.MostMembers, classes.One(1, group)!.Members);
        Assert.Equal(Classes.MostMembers, classes.Members(classes.One(1, group)!).Select(member => member.Word).Distinct().Count());
        Assert.Contains("holds up to", await Said(teacher.Post($"/classes/{group}?handler=Take", ("names", "One more"))));
        Assert.Contains("no name in it", await Said(teacher.Post($"/classes/{group}?handler=Read", ("names", " \n \n"))));
        Assert.Contains("is on the list already", await Said(teacher.Post($"/classes/{group}?handler=Read", ("names", "person 7"))));
        // Nobody else sees it.
        fenster.Get<Teachers>().Add("b@school.example", "B", "hash");
        Assert.Null(classes.One(2, group));
        // Deleted with what was given to it, and back with it.
        var id = await teacher.Begin("Parts");
        await teacher.Save(id, 1, Samples.Document(3));
        await teacher.Get($"/activities/{id}/share");
        await teacher.Post($"/activities/{id}/share?handler=Give", ("to", $"{group}"), ("to", "0"));
        await teacher.Get($"/classes/{group}");
        Assert.Contains("Bring it back", await Said(teacher.Post($"/classes/{group}?handler=Delete")));
        Assert.Null(Assert.Single(fenster.Get<Assignments>().Of(id)).ClassId);
        await teacher.Get("/deleted");
        await teacher.Post("/deleted", ("kind", "class"), ("id", $"{group}"));
        Assert.Equal(2, fenster.Get<Assignments>().Of(id).Count);
    }

    [Fact]
    public async Task A_members_page_has_their_work_alone_and_the_years_end_moves_names_up_and_lets_work_go()
    {
        using var fenster = new FensterWithClock();
        var (assignments, classes) = (fenster.Get<Assignments>(), fenster.Get<Classes>());
        using var teacher = await new Visitor(fenster.Address).SignIn();
        var group = await MakeClass(teacher, "9d", ["Ana Bell", "Ben Ash"]);
        var id = await GiveTo(teacher, group, "Parts");
        var given = Assert.Single(assignments.Of(id));
        var members = classes.Members(classes.One(1, group)!).ToDictionary(member => member.Name);
        classes.Set(members["Ana Bell"], "reads slowly", 25);
        foreach (var member in members.Values)
        {
            using var student = new Visitor(fenster.Address);
            await student.Ask(given.Code, "Join", ("word", member.Word), ("yes", "true"));
            await student.Ask(given.Code, "Begin");
            Assert.Equal(HttpStatusCode.OK, (await student.HandIn(given.Code)).StatusCode);
        }
        var page = await Said(teacher.Get($"/classes/{group}/members/{members["Ana Bell"].Id}"));
        Assert.Contains("Parts", page);
        Assert.Contains("0 of 3", page);
        Assert.DoesNotContain("Ben Ash", page);
        var file = await Said(teacher.Get($"/classes/{group}/members/{members["Ana Bell"].Id}?handler=Record"));
        Assert.Contains("reads slowly", file);
        Assert.DoesNotContain("Ben Ash", file);
        Assert.DoesNotContain(members["Ana Bell"].Word, file);
        // By tag.
        var tagged = await Said(teacher.Get($"/activities/{id}/results?of={given.Id}&tag=reads+slowly"));
        Assert.Contains("Ana Bell", tagged);
        Assert.DoesNotContain("Ben Ash", tagged);
        Assert.DoesNotContain("reads slowly</bdi></td>", tagged);
        Assert.Contains(
            "reads slowly</bdi></td>",
            await Said(teacher.Get($"/activities/{id}/results?of={given.Id}&columns=None&columns=Tags"))
        );

        Assert.Contains("from 1 to 120", await Said(teacher.Post($"/classes/{group}?handler=Keep", ("months", "0"))));
        await teacher.Post($"/classes/{group}?handler=Keep", ("months", "2"));
        var next = await teacher.Post($"/classes/{group}?handler=MoveUp", ("name", "10d"));
        var up = classes.One(1, long.Parse(next.RequestMessage!.RequestUri!.Segments[^1], CultureInfo.InvariantCulture))!;
        var names = classes.Members(up);
        Assert.Equal(["Ana Bell", "Ben Ash"], names.Select(member => member.Name));
        Assert.Equal(("reads slowly", 25L), (names[0].Tags, names[0].ExtraTime));
        Assert.NotEqual(members["Ana Bell"].Word, names[0].Word);
        Assert.NotNull(classes.One(1, group)!.ArchivedAt);
        var deletions = fenster.Get<Deletions>();
        fenster.Move(TimeSpan.FromDays(50));
        deletions.Sweep();
        Assert.Equal(2, fenster.Get<Attempts>().Sums(given.Id).All);
        fenster.Move(TimeSpan.FromDays(15));
        deletions.Sweep();
        Assert.Equal(0, fenster.Get<Attempts>().Sums(given.Id).All);
        Assert.Equal(2, deletions.Of(1).Count(thing => thing.Kind == "work"));
        fenster.Move(TimeSpan.FromDays(31));
        deletions.Sweep();
        Assert.Empty(deletions.Of(1));
    }

    [Fact]
    public async Task All_work_of_one_member_is_deleted_and_nobody_elses()
    {
        using var fenster = new FensterWithClock();
        var (assignments, classes) = (fenster.Get<Assignments>(), fenster.Get<Classes>());
        using var teacher = await new Visitor(fenster.Address).SignIn();
        var group = await MakeClass(teacher, "9e", ["Ana Bell", "Ben Ash"]);
        var members = classes.Members(classes.One(1, group)!).ToDictionary(member => member.Name);
        var given = new List<Assignment>();
        foreach (var title in (string[])["Parts", "Knots"])
        {
            given.Add(Assert.Single(assignments.Of(await GiveTo(teacher, group, title))));
            foreach (var member in members.Values)
            {
                using var student = new Visitor(fenster.Address);
                await student.Ask(given[^1].Code, "Join", ("word", member.Word), ("yes", "true"));
                await student.Ask(given[^1].Code, "Begin");
            }
        }
        await teacher.Get($"/classes/{group}/members/{members["Ana Bell"].Id}");
        await teacher.Post($"/classes/{group}/members/{members["Ana Bell"].Id}?handler=Delete");
        foreach (var assignment in given)
            Assert.Equal("Ben Ash", Assert.Single(fenster.Get<Attempts>().Page(assignment.Id)).Name);
        Assert.Equal(HttpStatusCode.NotFound, (await teacher.Get($"/classes/{group}/members/99999")).StatusCode);
    }
}
