using Dapper;
using Fenster.Core.Geometry;
using Fenster.Core.Giving;
using Fenster.Core.Model;
using Fenster.Formats.Documents;
using Fenster.Formats.Pictures;
using Microsoft.Data.Sqlite;

namespace Fenster.Store.Tests;

/// <summary>Queries against a real SQLite file in a folder of its own.</summary>
public sealed class StoreTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("fenster-").FullName;
    private readonly Database database;
    private readonly Drafts drafts;
    private readonly Revisions revisions;
    private readonly Assignments assignments;
    private readonly Students students;
    private readonly Attempts attempts;
    private readonly long teacher;

    private static readonly Activity Activity = new()
    {
        Title = "Two",
        Panes =
        [
            new Pane
            {
                Id = "p",
                Labels = [new() { Id = "a", Text = "A" }, new() { Id = "b", Text = "B" }],
                Targets =
                [
                    new DropZone
                    {
                        Id = "z1",
                        Region = new Circle(new(10, 10), 5),
                        Accepts = [new("a")],
                    },
                    new DropZone
                    {
                        Id = "z2",
                        Region = new Circle(new(50, 10), 5),
                        Accepts = [new("b")],
                    },
                ],
            },
        ],
    };

    public StoreTests()
    {
        database = new(folder);
        drafts = new(database, TimeProvider.System);
        revisions = new(database, TimeProvider.System);
        assignments = new(database, TimeProvider.System);
        students = new(database, TimeProvider.System);
        attempts = new(database, revisions, TimeProvider.System);
        teacher = new Teachers(database, TimeProvider.System).Add("t@school.example", "T", "hash")!.Id;
    }

    public void Dispose()
    {
        foreach (var opened in again)
            opened.Dispose();
        database.Dispose();
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    private Assignment Given(Activity? other = null)
    {
        var document = ActivityDocument.Write(other ?? Activity);
        var id = drafts.Add(teacher, Activity, document);
        return assignments.Give(id, revisions.Publish(id, document), group: null, new());
    }

    /// <summary>A guest comes in and begins.</summary>
    private string Begun(Assignment assignment, string name, Attempts? process = null)
    {
        var (student, secret) = students.Guest(assignment, name, word: null).In!;
        Assert.NotNull((process ?? attempts).Begin(assignment, student));
        return secret;
    }

    private (Assignment Assignment, Device Device) Joined(string name = "Ada", Activity? activity = null)
    {
        var assignment = Given(activity);
        return (assignment, attempts.DeviceOf(assignment.Id, Begun(assignment, name), 1)!);
    }

    private readonly List<Database> again = [];

    /// <summary>The folder as another process has it.</summary>
    private Attempts Reopened()
    {
        again.Add(new(folder));
        return new(again[^1], new Revisions(again[^1], TimeProvider.System), TimeProvider.System);
    }

    private static Activity Named(string title) => new() { Title = title };

    private IReadOnlyList<ActivityCard> Cards(long of) => drafts.Page(of, Wanted.Everything, 0, 100);

    private Task<Taken> Append(Device device, params KeyedMove[] moves) => attempts.Append(device, moves, Now);

    private Task<Taken> HandIn(Device device) => attempts.HandIn(device, Now);

    private static DateTimeOffset Now => TimeProvider.System.GetUtcNow();

    private Response Stored(Device device) => attempts.Of(device)!.Responses.GetValueOrDefault("p", Response.Empty);

    private static KeyedMove Put(string key, string label, string zone) => new(key, "p", new PutDown(label, 0, zone));

    [Fact]
    public void There_is_only_one_first_teacher() =>
        Assert.Null(new Teachers(database, TimeProvider.System).AddFirst("u@school.example", "U", "hash"));

    [Fact]
    public void A_save_from_an_older_version_writes_nothing()
    {
        var id = drafts.Add(teacher, Named("One"), "{}");
        Assert.Equal(new SaveOutcome(2, true), drafts.Save(teacher, id, 1, Named("Two"), "{2}"));
        Assert.Equal(new SaveOutcome(2, false), drafts.Save(teacher, id, 1, Named("Three"), "{3}"));
        Assert.Equal("{2}", drafts.Find(teacher, id)!.Document);
    }

    [Fact]
    public void A_draft_is_its_teachers_alone()
    {
        var id = drafts.Add(teacher, Named("One"), "{}");
        var other = new Teachers(database, TimeProvider.System).Add("u@school.example", "U", "hash")!.Id;
        Assert.Null(drafts.Find(other, id));
        Assert.Null(drafts.Save(other, id, 1, Named("Mine"), "{}"));
        Assert.Empty(Cards(other));
    }

    [Fact]
    public void What_is_published_stays_as_it_was_and_what_was_given_keeps_it()
    {
        var given = Given();
        var second = revisions.Publish(given.ActivityId, "{new}");
        Assert.Equal(second, revisions.Publish(given.ActivityId, "{new}"));
        Assert.Equal(2, revisions.Latest(given.ActivityId)!.Number);
        Assert.Equal(given.RevisionId, assignments.ByCode(given.Code)!.RevisionId);
        Assert.Equal(ActivityDocument.Write(Activity), revisions.Document(given.RevisionId));
        Assert.Equal(second, assignments.Publish(given.ActivityId, "{new}", [given.Id]));
        Assert.Equal((second, given.Code), (assignments.One(given.Id)!.RevisionId, assignments.One(given.Id)!.Code));
    }

    [Fact]
    public void What_is_closed_can_be_opened_again()
    {
        var given = Given();
        assignments.Close(given.Id);
        Assert.Equal(AssignmentState.Closing, assignments.ByCode(given.Code)!.StateAt(Now));
        Assert.Equal(AssignmentState.Closed, assignments.ByCode(given.Code)!.StateAt(Now.AddSeconds(11)));
        assignments.Reopen(given.Id);
        Assert.Equal(AssignmentState.Open, assignments.ByCode(given.Code)!.StateAt(Now));
    }

    [Fact]
    public void Join_codes_have_nothing_that_looks_alike()
    {
        var codes = Enumerable.Range(0, 500).Select(_ => JoinCode.New()).ToList();
        Assert.All(codes, code => Assert.Matches($"^[{JoinCode.Alphabet}]{{6}}$", code));
        Assert.Empty(JoinCode.Alphabet.Intersect("0OQ1IL2Z5S6BUV8"));
        Assert.Equal("3F7KXR", JoinCode.Tidy(" 3f7-kxr "));
    }

    [Fact]
    public async Task The_same_move_sent_twice_is_made_once()
    {
        var (_, device) = Joined();
        await Append(device, Put("k1", "a", "z1"), Put("k2", "a", "z2"));
        var again = await Append(device, Put("k1", "a", "z1"));
        Assert.Equal(new Placement("a", 0, "z2"), Assert.Single(again.Attempt!.Responses["p"].Placements));
    }

    [Fact]
    public async Task A_refused_move_takes_no_other_with_it()
    {
        var (_, device) = Joined();
        var taken = await Append(device, Put("k1", "a", "z1"), Put("k2", "a", "nowhere"), Put("k3", "b", "z2"));
        Assert.Equal(new RefusedMove("k2", new(Refused.NoSuchPlace)), Assert.Single(taken.Refused));
        Assert.Equal(2, Stored(device).Placements.Length);
        // Sent again, it is refused again, and the others are known.
        Assert.Single((await Append(device, Put("k1", "a", "z2"), Put("k2", "a", "nowhere"))).Refused);
        Assert.Equal(2, Stored(device).Placements.Length);
    }

    [Fact]
    public async Task Of_many_students_who_place_at_once_each_gets_what_is_right_for_them()
    {
        var given = Given();
        var devices = Enumerable.Range(0, 40).Select(i => attempts.DeviceOf(given.Id, Begun(given, $"Student {i:00}"), 1)!).ToList();
        var answers = await Task.WhenAll(
            devices.Select(
                async (device, i) =>
                    await Append(device, Put("k", "a", i % 4 == 0 ? "nowhere" : "z2")) is { Refused.Length: 0 } taken
                        ? taken.Attempt!.Responses["p"].Placements.Length
                        : -1
            )
        );
        Assert.Equal(Enumerable.Range(0, 40).Select(i => i % 4 == 0 ? -1 : 1), answers);
        Assert.Equal(30, attempts.Page(given.Id).Count(attempt => attempt.Placed == 1));
    }

    [Fact]
    public async Task Handing_in_twice_changes_nothing_and_moves_afterwards_are_left_out()
    {
        var (_, device) = Joined();
        await Append(device, Put("k1", "a", "z1"));
        var first = (await HandIn(device)).Attempt!.Handed!;
        Assert.Equal((1m, 2m), (first.Score, first.Possible));
        await Append(device, Put("k2", "b", "z2"));
        var second = (await HandIn(device)).Attempt!;
        Assert.Equal(first, second.Handed);
        Assert.Single(second.Responses["p"].Placements);
        Assert.Equal(first, Assert.Single(Reopened().Page(device.AssignmentId)).Handed);
    }

    [Fact]
    public async Task A_name_belongs_to_one_device_until_another_knows_the_two_words()
    {
        var given = Given();
        var (ada, secret) = students.Guest(given, "Ada Quill", word: null).In!;
        var attempt = attempts.Begin(given, ada)!;
        Assert.Equal(NoEntry.NameTaken, students.Guest(given, " ada  QUILL ", word: null).Why);
        var device = attempts.DeviceOf(given.Id, secret, 1)!;
        // Who does not know them stays out, and the first device goes on.
        Assert.Equal(NoEntry.WrongWord, students.Guest(given, "Ada Quill", "wrong words").Why);
        Assert.NotNull((await Append(device, Put("k0", "b", "z2"))).Attempt);
        var (again, other) = students.Guest(given, "Ada Quill", $" {ada.Word!.ToUpperInvariant().Replace(' ', '-')} ").In!;
        Assert.Equal(attempt.Id, attempts.Begin(given, again)!.Id);
        Assert.Equal(Shut.GivenAway, (await Append(device, Put("k1", "a", "z1"))).Shut);
        Assert.Null(attempts.Of(device));
        Assert.NotNull(attempts.Of(attempts.DeviceOf(given.Id, other, 1)!));
        // Made anew, those of before let nobody in.
        var words = students.NewWord(given.Id, ada.Id)!;
        Assert.Equal(NoEntry.WrongWord, students.Guest(given, "Ada Quill", ada.Word).Why);
        Assert.NotNull(students.Guest(given, "Ada Quill", words).In);
    }

    [Fact]
    public async Task What_was_stored_is_there_when_the_folder_is_opened_anew()
    {
        var given = Given();
        var secret = Begun(given, "Ada");
        await Append(attempts.DeviceOf(given.Id, secret, 1)!, Put("k1", "a", "z1"));
        var reopened = Reopened();
        var device = reopened.DeviceOf(given.Id, secret, 1)!;
        Assert.Single(reopened.Of(device)!.Responses["p"].Placements);
        // And the same move is still known.
        Assert.Single(
            (await reopened.Append(device, [Put("k1", "a", "z2")], Now)).Attempt!.Responses["p"].Placements,
            new Placement("a", 0, "z1")
        );
    }

    [Fact]
    public async Task What_a_check_did_is_stored_as_moves_and_stays_whatever_becomes_of_the_key()
    {
        var practice = Activity with
        {
            Rules = new()
            {
                Check = new(3, WrongLabels.GoBack, RightLabels.HeldFast),
                Reveal = new() { Marks = Moment.Checked },
            },
        };
        var (_, device) = Joined(activity: practice);
        await Append(device, Put("1", "a", "z1"), Put("2", "b", "z1"));
        await Append(device, new KeyedMove("3", "p", new PressCheck()));
        var now = await Append(device, Put("4", "a", "z1"), new("5", "p", new PressCheck()), new("5", "p", new PressCheck()));
        var response = now.Attempt!.Responses["p"];
        Assert.Equal([new Placement("a", 0, "z1")], response.Placements.AsEnumerable());
        Assert.Equal([new Placement("b", 0, "z1")], response.Earlier[0].Placements.AsEnumerable());
        Assert.Equal(2, response.Earlier.Length);

        Assert.True(Reopened().Of(device)!.Responses["p"] is var kept && kept.IsSameWork(response) && kept.Earlier.Length == 2);
        Assert.Equal(
            Refused.HeldFast,
            Assert.Single((await Append(device, new KeyedMove("6", "p", new TakeBack("a", 0)))).Refused).Refusal.Why
        );
        await HandIn(device);
        Assert.Equal(2, Reopened().Of(device)!.Responses["p"].Earlier.Length);
    }

    private long Bytes(string table, string column) =>
        database.Read(connection => connection.ExecuteScalar<long>($"select coalesce(sum(length({column})), 0) from {table}"));

    [Fact]
    public async Task A_hundred_placements_with_marks_at_once_store_no_snapshots()
    {
        var atOnce = Activity with { Rules = new() { Reveal = new() { Marks = Moment.Placed } } };
        var (_, device) = Joined(activity: atOnce);
        for (var i = 0; i < 100; i++)
            await Append(device, Put($"{i}", "a", i % 2 == 0 ? "z1" : "z2"));
        await HandIn(device);
        Assert.Equal(100, attempts.Of(device)!.Responses["p"].Earlier.Length);
        // A placement and its check a hundred times, each a few words.
        Assert.InRange(Bytes("move", "move"), 1, 100 * 100);
        Assert.InRange(Bytes("response", "responses"), 1, 1000);
    }

    [Fact]
    public async Task Two_processes_on_one_folder_give_the_same_answers_as_one()
    {
        var given = Given();
        var other = Reopened();
        var secrets = Enumerable.Range(0, 12).Select(i => Begun(given, $"Student {i:00}")).ToList();
        // Each student's moves go now to one process and now to the other, several at once.
        await Task.WhenAll(
            secrets.SelectMany(
                (secret, who) =>
                    Enumerable
                        .Range(0, 10)
                        .Select(async n =>
                        {
                            var process = (who + n) % 2 == 0 ? attempts : other;
                            var taken = await process.Append(
                                process.DeviceOf(given.Id, secret, 1)!,
                                [Put($"k{n}", n % 2 == 0 ? "a" : "b", n % 3 == 0 ? "z1" : "z2"), Put("same", "a", "z1")],
                                Now
                            );
                            Assert.Empty(taken.Refused);
                        })
            )
        );
        foreach (var secret in secrets)
        {
            var (one, two) = (attempts.Of(attempts.DeviceOf(given.Id, secret, 1)!)!, other.Of(other.DeviceOf(given.Id, secret, 1)!)!);
            Assert.Equal(one.Responses["p"].Placements.AsEnumerable(), two.Responses["p"].Placements);
        }
        Assert.Equal(
            12 * 11,
            database.Read(connection => connection.ExecuteScalar<long>("select count(*) from move where key is not null"))
        );
        Assert.Equal(
            0,
            database.Read(connection =>
                connection.ExecuteScalar<long>(
                    "select count(*) from attempt where version <> (select count(*) from move where attempt_id = attempt.id)"
                )
            )
        );

        // What one closes or hands in, the other knows at once.
        var device = other.DeviceOf(given.Id, secrets[0], 1)!;
        await HandIn(attempts.DeviceOf(given.Id, secrets[0], 1)!);
        Assert.NotNull((await other.Append(device, [Put("late", "b", "z2")], Now)).Attempt!.Handed);
        assignments.Close(given.Id);
        Assert.Equal(
            Shut.Late,
            (await other.Append(other.DeviceOf(given.Id, secrets[1], 1)!, [Put("late", "b", "z2")], Now.AddSeconds(11))).Shut
        );
    }

    [Fact]
    public async Task What_arrives_up_to_ten_seconds_after_the_end_still_counts()
    {
        var (given, device) = Joined();
        assignments.Close(given.Id);
        Assert.NotNull((await attempts.Append(device, [Put("1", "a", "z1")], Now.AddSeconds(9))).Attempt);
        Assert.Equal(Shut.Late, (await attempts.Append(device, [Put("2", "b", "z2")], Now.AddSeconds(11))).Shut);
        Assert.Single(Stored(device).Placements);
    }

    [Fact]
    public async Task Memory_forgets_the_longest_unused_and_nothing_is_lost()
    {
        var given = Given();
        var few = new Attempts(database, revisions, TimeProvider.System, remembered: 3);
        var devices = Enumerable.Range(0, 10).Select(i => few.DeviceOf(given.Id, Begun(given, $"Student {i}", few), 1)!).ToList();
        for (var round = 0; round < 3; round++)
            foreach (var device in devices)
                await few.Append(device, [Put($"{round}", round % 2 == 0 ? "a" : "b", "z1")], Now);
        Assert.Equal(3, few.Remembered);
        Assert.All(devices, device =>
            Assert.Equal([new Placement("a", 0, "z1")], few.Of(device)!.Responses["p"].Placements.AsEnumerable())
        );
        // Moves of before are known though they were forgotten.
        Assert.Equal(
            [new Placement("a", 0, "z1")],
            (await few.Append(devices[0], [Put("1", "b", "z2")], Now)).Attempt!.Responses["p"].Placements.AsEnumerable()
        );
    }

    [Fact]
    public async Task Codes_are_tried_at_a_persons_pace()
    {
        var locked = Activity with
        {
            Panes =
            [
                new Pane
                {
                    Id = "p",
                    Targets =
                    [
                        new Core.Model.Lock
                        {
                            Id = "l",
                            At = new(1, 1),
                            Code = new([new("777")]),
                        },
                    ],
                },
            ],
        };
        var (_, device) = Joined(activity: locked);
        KeyedMove Code(int code) => new($"c{code}", "p", new TryCode("l", $"{code:000}"));
        var taken = await attempts.Append(device, [.. Enumerable.Range(0, 200).Select(Code)], Now);
        Assert.Equal(200 - Limits.MostCodesWithin, taken.Refused.Length);
        Assert.All(taken.Refused, refused => Assert.Equal(Refused.CodesTooFast, refused.Refusal.Why));
        // Nor by another process, which knows the times from the log; a minute later one may go on.
        Assert.Single((await Reopened().Append(device, [Code(500)], Now)).Refused);
        Assert.Empty((await attempts.Append(device, [Code(501)], Now.AddSeconds(61))).Refused);
    }

    [Fact]
    public async Task An_attempt_has_a_bounded_number_of_moves()
    {
        var (_, device) = Joined();
        for (var batch = 0; batch < Limits.MostMoves / 500; batch++)
            await attempts.Append(
                device,
                [.. Enumerable.Range(0, 500).Select(i => Put($"{batch}-{i}", "a", i % 2 == 0 ? "z1" : "z2"))],
                Now
            );
        Assert.Equal(Refused.TooManyMoves, Assert.Single((await Append(device, Put("more", "b", "z2"))).Refused).Refusal.Why);
        Assert.NotNull((await HandIn(device)).Attempt!.Handed);
    }

    [Fact]
    public async Task A_key_that_looks_like_one_of_what_followed_is_as_good_as_any()
    {
        var practice = Activity with { Rules = new() { Reveal = new() { Marks = Moment.Placed } } };
        var (_, device) = Joined(activity: practice);
        Assert.Empty((await Append(device, Put("a/1", "a", "z1"))).Refused);
        Assert.Empty((await Append(device, Put("a", "b", "z2"))).Refused);
        Assert.Equal(2, Stored(device).Placements.Length);
    }

    [Fact]
    public void Going_back_keeps_what_the_draft_was_also_within_ten_minutes_of_a_save()
    {
        var clock = new StandingClock(new(2026, 5, 4, 9, 0, 0, TimeSpan.Zero));
        var own = new Drafts(database, clock);
        string Document(string title) => ActivityDocument.Write(Activity with { Title = title });
        var id = own.Add(teacher, Named("One"), Document("One"));
        own.Save(teacher, id, 1, Named("One"), Document("One"));
        clock.Now = clock.Now.AddMinutes(20);
        own.Save(teacher, id, 2, Named("Two"), Document("Two"));
        clock.Now = clock.Now.AddMinutes(1);
        var first = own.Versions(teacher, id)[^1];
        Assert.Equal(new SaveOutcome(4, true), own.GoBack(teacher, id, 3, Named("One"), own.Version(teacher, id, first.Slot)!.Document));
        Assert.Equal(["One", "Two", "One"], own.Versions(teacher, id).Select(version => version.Title));
        // What was changed meanwhile is not gone back over.
        Assert.Equal(new SaveOutcome(4, false), own.GoBack(teacher, id, 3, Named("Two"), Document("Two")));
        Assert.Equal(Document("One"), own.Find(teacher, id)!.Document);
    }

    [Fact]
    public void Activities_are_found_by_words_subjects_and_pages_without_a_look_at_documents()
    {
        for (var i = 0; i < 5; i++)
        {
            var activity = Activity with
            {
                Title = $"Activity {i}",
                Keywords = i % 2 == 0 ? ["Sailing", "50 %"] : ["Knots"],
                IsStarter = i == 3,
            };
            drafts.Add(teacher, activity, "no document");
        }
        Assert.Equal(
            ["Activity 4", "Activity 3"],
            drafts.Page(teacher, new([], null, WhichActivities.All), 0, 2).Select(card => card.Title)
        );
        Assert.Equal(
            ["Activity 2", "Activity 1"],
            drafts.Page(teacher, new([], null, WhichActivities.All), 2, 2).Select(card => card.Title)
        );
        Assert.Equal(["Activity 3"], drafts.Page(teacher, new(["KNOTS", "3"], null, WhichActivities.All), 0, 9).Select(card => card.Title));
        Assert.Equal(3, drafts.Page(teacher, new(["50 %"], null, WhichActivities.All), 0, 9).Count);
        Assert.Empty(drafts.Page(teacher, new(["5%"], null, WhichActivities.All), 0, 9));
        Assert.Equal(2, drafts.Page(teacher, new([], "knots", WhichActivities.All), 0, 9).Count);
        Assert.Equal(["Activity 3"], drafts.Page(teacher, new([], null, WhichActivities.Starters), 0, 9).Select(card => card.Title));
        Assert.Equal(["50 %", "Knots", "Sailing"], drafts.Subjects(teacher, 10));
        Assert.Equal((1, 2), (Cards(teacher)[0].Panes, Cards(teacher)[0].Targets));
    }

    [Fact]
    public async Task Of_activities_are_shown_those_that_are_asked_for()
    {
        IEnumerable<string> Titles(WhichActivities which, long? group = null, bool byTitle = false, long? of = null) =>
            drafts.Page(of ?? teacher, new([], null, which, group, byTitle), 0, 9).Select(card => card.Title);
        long Add(string title) =>
            drafts.Add(teacher, Activity with { Title = title }, ActivityDocument.Write(Activity with { Title = title }));
        var (classes, now) = (new Classes(database, TimeProvider.System), Now.ToInstant());
        var group = classes.Make(teacher, "8b", "en");
        var (open, planned, closed, away) = (Add("open"), Add("Planned"), Add("closed"), Add("away"));
        Add("Draft");
        long Revision(long id) => revisions.Publish(id, drafts.Find(teacher, id)!.Document);
        assignments.Give(open, Revision(open), null, new() { Closes = now + NodaTime.Duration.FromHours(1) });
        assignments.Give(planned, Revision(planned), group, new() { Opens = now + NodaTime.Duration.FromHours(1) });
        var ended = assignments.Give(closed, Revision(closed), null, new());
        var device = attempts.DeviceOf(ended.Id, Begun(ended, "Ada"), 1)!;
        assignments.Close(ended.Id);
        Assert.True(drafts.Archive(teacher, away, isAway: true));
        Assert.False(drafts.Archive(teacher + 1, open, isAway: true));

        Assert.Equal(["Draft", "closed", "Planned", "open"], Titles(WhichActivities.All));
        Assert.Equal(["closed", "Draft", "open", "Planned"], Titles(WhichActivities.All, byTitle: true));
        Assert.Equal(["open"], Titles(WhichActivities.Open));
        Assert.Equal(["Draft"], Titles(WhichActivities.Drafts));
        Assert.Equal(["away"], Titles(WhichActivities.Archived));
        Assert.Equal(["Planned"], Titles(WhichActivities.All, group));
        Assert.Empty(Titles(WhichActivities.NeedsMe));
        await attempts.Append(device, [Put("late", "a", "z1")], Now.AddSeconds(11));
        Assert.Equal(["closed"], Titles(WhichActivities.NeedsMe));
        Assert.Equal(new CardSums(1, 1, 1, 0), attempts.SumsOf([ended.Id])[ended.Id]);

        // Owned together, it is in both lists, and both may change it; a save of an older version is told.
        var other = new Teachers(database, TimeProvider.System).Add("u@school.example", "U", "hash")!.Id;
        Assert.False(drafts.Share(other, open, other));
        Assert.True(drafts.Share(teacher, open, other));
        Assert.Equal(["open"], Titles(WhichActivities.All, of: other));
        Assert.Equal(new SaveOutcome(2, true), drafts.Save(other, open, 1, Named("Ours"), "{2}"));
        Assert.Equal(new SaveOutcome(2, false), drafts.Save(teacher, open, 1, Named("Mine"), "{3}"));
        Assert.Equal(["Ours", "Draft", "closed", "Planned"], Titles(WhichActivities.All));
        Assert.Equal(["T", "U"], drafts.OwnersOf(open));
    }

    [Fact]
    public void What_lies_on_the_schools_shelf_is_found_by_colleagues_and_taken_as_a_copy_that_says_whose_it_was()
    {
        var other = new Teachers(database, TimeProvider.System).Add("u@school.example", "U", "hash")!.Id;
        var activity = Activity with { Title = "Parts of a cell", Keywords = ["Biology"], Language = "de" };
        var id = drafts.Add(teacher, activity, ActivityDocument.Write(activity));
        IEnumerable<string> Found(string? word = null, string? subject = null, string? language = null, string? kind = null) =>
            drafts.Shelved(word is null ? [] : [word], subject, language, kind, 0, 9).Select(card => $"{card.Title} of {card.Owner}");
        Assert.Empty(Found());
        Assert.Null(drafts.FindShelved(id));
        Assert.False(drafts.Shelve(other, id, isOut: true));
        Assert.True(drafts.Shelve(teacher, id, isOut: true));
        Assert.Equal(["Parts of a cell of T"], Found());
        Assert.Single(Found("CELL", "biology", "de", "dropZone"));
        foreach (var none in (IEnumerable<string>[])[Found("knots"), Found(subject: "Art"), Found(language: "en"), Found(kind: "matching")])
            Assert.Empty(none);
        drafts.Add(other, activity, drafts.FindShelved(id)!.Document, from: "T");
        Assert.Equal(("T", false), (Cards(other)[0].CameFrom, Cards(other)[0].IsShared));
        Assert.Null(drafts.Find(other, id));
        drafts.Shelve(teacher, id, isOut: false);
        Assert.Empty(Found());
    }

    [Fact]
    public void A_copy_of_the_running_database_opens()
    {
        Given();
        var copies = Directory.CreateDirectory(Path.Combine(folder, "copy")).FullName;
        database.CopyTo(Path.Combine(copies, "fenster.db"));
        using var copy = new Database(copies);
        Assert.Single(new Drafts(copy, TimeProvider.System).Page(teacher, Wanted.Everything, 0, 10));
    }

    [Fact]
    public void A_picture_is_found_in_the_size_asked_for_or_the_next_larger_one()
    {
        var media = new Media(database, TimeProvider.System);
        var hash = new string('b', 64);
        media.Save(new(hash, 1000, 500, [new(480, "jpg", [1]), new(1000, "jpg", [2, 2])]), [9, 9]);
        media.Save(new(hash, 1000, 500, [new(480, "jpg", [1]), new(1000, "jpg", [2, 2])]), [9, 9]);
        Assert.Equal([1], File.ReadAllBytes(media.Find(hash, 300)!.Path));
        Assert.Equal([2, 2], File.ReadAllBytes(media.Find(hash, 481)!.Path));
        Assert.Equal([2, 2], File.ReadAllBytes(media.Find(hash, 4096)!.Path));
        Assert.Null(media.Find(new string('c', 64), 480));
    }

    [Fact]
    public void What_a_draft_was_is_kept_for_every_ten_minutes()
    {
        var clock = new StandingClock(new(2026, 5, 4, 9, 0, 0, TimeSpan.Zero));
        var own = new Drafts(database, clock);
        var id = own.Add(teacher, Named("T"), "one");
        IEnumerable<string> Documents() => own.Versions(teacher, id).Select(version => own.Version(teacher, id, version.Slot)!.Document);
        foreach (var (minute, document) in new[] { (1, "two"), (9, "three"), (11, "four"), (60 * 24, "five") })
        {
            clock.Now = new DateTimeOffset(2026, 5, 4, 9, 0, 0, TimeSpan.Zero).AddMinutes(minute);
            Assert.True(own.Save(teacher, id, own.Find(teacher, id)!.Version, Named("T"), document)!.Saved);
        }
        // The last of each ten minutes, the newest first, each with its time.
        Assert.Equal(["five", "four", "three"], Documents());
        Assert.Equal(new DateTimeOffset(2026, 5, 4, 9, 9, 0, TimeSpan.Zero), own.Versions(teacher, id)[2].SavedAt);
        Assert.Equal("four", own.Version(teacher, id, own.Versions(teacher, id)[1].Slot)!.Document);
        Assert.Empty(own.Versions(teacher + 1, id));
        // A refused save leaves nothing.
        Assert.False(own.Save(teacher, id, 1, Named("T"), "six")!.Saved);
        Assert.DoesNotContain("six", Documents());
        // Three weeks on, the last of each day is left.
        clock.Now = clock.Now.AddDays(21);
        Assert.True(own.Save(teacher, id, own.Find(teacher, id)!.Version, Named("T"), "seven")!.Saved);
        Assert.Equal(["seven", "five", "four"], Documents());
    }

    /// <summary>What the shell of SQLite asks by <c>.lint fkey-indexes</c>: a row that is referred to is deleted without a scan.</summary>
    [Fact]
    public void What_a_row_refers_to_is_found_by_an_index()
    {
        var without = database.Read(connection =>
            connection
                .Query<(string Table, string Column)>(
                    """
                    select child.name, reference."from"
                    from sqlite_master as child, pragma_foreign_key_list(child.name) as reference
                    where child.type = 'table'
                    """
                )
                .Where(reference =>
                    !connection
                        .Query($"explain query plan select 1 from {reference.Table} where {reference.Column} = 1")
                        .All(step =>
                            ((string)step.detail).Contains(" INDEX ", StringComparison.Ordinal)
                            || ((string)step.detail).Contains("INTEGER PRIMARY KEY", StringComparison.Ordinal)
                        )
                )
                .ToList()
        );
        Assert.Equal([], without);
    }

    [Fact]
    public async Task Room_is_given_back_in_steps_between_which_others_write()
    {
        database.Write(connection => connection.Execute("create table much (filling blob)"));
        for (var i = 0; i < 40; i++)
            database.Write(connection => connection.Execute("insert into much (filling) values (zeroblob(1000000))"));
        database.Settle();
        var file = new FileInfo(Path.Combine(database.Folder, "fenster.db"));
        var full = file.Length;
        database.Write(connection => connection.Execute("delete from much"));
        var writes = 0;
        var shrinking = Task.Run(() => database.Shrink());
        while (!shrinking.IsCompleted)
        {
            await database.WriteAsync(connection =>
                connection.Execute("update written set at = @now", new { now = DateTimeOffset.UtcNow })
            );
            writes++;
        }
        await shrinking;
        // Where one of the writers was at work at the last step, the file is cut the next time that nobody is.
        database.Settle();
        Assert.True(writes > 5, $"{writes} writes came between");
        file.Refresh();
        Assert.True(file.Length < full - 35_000_000, $"{full} bytes are {file.Length}");
        Assert.Equal(0, database.Read(connection => connection.ExecuteScalar<long>("pragma freelist_count")));
    }
}
