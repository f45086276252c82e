using System.Collections.Immutable;
using Dapper;
using Fenster.Core.Geometry;
using Fenster.Core.Giving;
using Fenster.Core.Model;
using Fenster.Core.Scoring;
using Fenster.Formats.Documents;
using Microsoft.Data.Sqlite;

namespace Fenster.Store.Tests;

/// <summary>
/// Everything that changes what an attempt is worth, each before and after each other, at once, and by a process that has read it before
/// another has changed it: what is stored is always what the work is worth as it stands.
/// </summary>
public sealed class EditionTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("fenster-").FullName;
    private readonly List<Process> processes = [];

    public void Dispose()
    {
        processes.ForEach(process => process.Database.Dispose());
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    private static readonly Activity Activity = new()
    {
        Title = "Parts",
        Rules = new()
        {
            Check = new(null, WrongLabels.Stay, RightLabels.MayMove),
            Reveal = new() { Marks = Moment.Checked, Score = Moment.Released },
            Score = new() { WrongCost = 0.25m, MaximumGrade = 10 },
        },
        Panes =
        [
            new Pane
            {
                Id = "p",
                Picture = new(new string('0', 64), 1000, 700, "Something"),
                Labels = [.. "abcd".Select(letter => new Label { Id = $"{letter}", Text = $"{letter}" })],
                Targets =
                [
                    .. "abc".Select(
                        (letter, i) =>
                            (Target)
                                new DropZone
                                {
                                    Id = $"z{letter}",
                                    Region = new Rectangle(i * 200, 0, 100, 50),
                                    Accepts = [new($"{letter}")],
                                }
                    ),
                    new OpenNote
                    {
                        Id = "why",
                        Prompt = "?",
                        Points = 4,
                        Region = new Rectangle(0, 300, 200, 80),
                    },
                ],
            },
        ],
    };

    /// <summary>The key with d at c's place too, and c's zone worth more.</summary>
    private static string Repaired { get; } =
        ActivityDocument.Write(
            Activity with
            {
                Panes =
                [
                    Activity.Panes[0] with
                    {
                        Targets =
                        [
                            .. Activity
                                .Panes[0]
                                .Targets.Select(target =>
                                    target is DropZone { Id: "zc" } zone ? zone with { Points = 2, Accepts = [new("c"), new("d")] } : target
                                ),
                        ],
                    },
                ],
            }
        );

    /// <summary>One running server on the folder: what it has read it keeps in memory.</summary>
    private sealed class Process
    {
        public Database Database { get; }
        public Drafts Drafts { get; }
        public Revisions Revisions { get; }
        public Assignments Assignments { get; }
        public Students Students { get; }
        public Attempts Attempts { get; }
        public Regrades Regrades { get; }
        public Releases Releases { get; }
        public long Teacher { get; }

        public Process(string folder)
        {
            var clock = TimeProvider.System;
            Database = new(folder);
            (Drafts, Revisions, Assignments, Students) = (
                new(Database, clock),
                new(Database, clock),
                new(Database, clock),
                new(Database, clock)
            );
            Attempts = new(Database, Revisions, clock);
            Regrades = new(Database, Revisions, Assignments, Attempts, Drafts, clock);
            Releases = new(Database, Assignments, clock);
            Teacher = new Teachers(Database, clock).AddFirst("t@school.example", "T", "hash")?.Id
                ?? new Teachers(Database, clock).ByEmail("t@school.example")!.Id;
        }
    }

    private Process Start()
    {
        var process = new Process(folder);
        processes.Add(process);
        return process;
    }

    /// <summary>Two students at one assignment: one who works, one who has handed in and has moves that came late.</summary>
    private sealed record Room(Assignment Given, CameIn Works, CameIn Done, long Working, long Handed);

    private static async Task<Room> Open(Process process)
    {
        var document = ActivityDocument.Write(Activity);
        var id = process.Drafts.Add(process.Teacher, Activity, document);
        var given = process.Assignments.Give(id, process.Revisions.Publish(id, document), group: null, new() { Attempts = 3 });
        var (works, done) = (process.Students.Guest(given, "Works", null).In!, process.Students.Guest(given, "Done", null).In!);
        var working = process.Attempts.Begin(given, works.Student)!.Id;
        var handed = process.Attempts.Begin(given, done.Student)!.Id;
        await Moves(process, given, works, new PutDown("a", 0, "za"));
        await Moves(process, given, done, new PutDown("a", 0, "za"), new PutDown("d", 0, "zc"), new TypeText("why", "words"));
        await process.Attempts.HandIn(process.Attempts.DeviceOf(given.Id, done.Secret, 1)!, DateTimeOffset.UtcNow);
        // As when its time had run out while its device was away.
        process.Database.Write(connection =>
            connection.Execute(
                """
                update attempt set handed_in_by = 'time', late = 1, edition = edition + 1 where id = @handed;
                insert into late_move (attempt_id, key, pane, move, received_at)
                values (@handed, 'late.1', 'p', '{"kind":"putDown","label":"b","copy":0,"zone":"zb"}', 0)
                """,
                new { handed }
            )
        );
        return new(given, works, done, working, handed);
    }

    private static Task<Taken> Moves(Process process, Assignment given, CameIn who, params Move[] moves) =>
        process.Attempts.Append(
            process.Attempts.DeviceOf(given.Id, who.Secret, 1)!,
            [.. moves.Select(move => new KeyedMove($"{Guid.NewGuid():n}", "p", move))],
            DateTimeOffset.UtcNow
        );

    private static Changes Award(string target, decimal credit) =>
        new([new("p", target, new Award(target, credit, "T", DateTimeOffset.UtcNow), [])], [], []);

    private static readonly Dictionary<string, Func<Process, Room, Task>> Doings = new()
    {
        ["move"] = (process, room) => Moves(process, room.Given, room.Works, new PutDown("b", 0, "zb")),
        ["check"] = (process, room) => Moves(process, room.Given, room.Works, new PressCheck()),
        ["hand-in"] = (process, room) =>
            process.Attempts.HandIn(process.Attempts.DeviceOf(room.Given.Id, room.Works.Secret, 1)!, DateTimeOffset.UtcNow),
        ["late work counted"] = (process, room) => Done(process.Attempts.CountLate(room.Given.Id, room.Handed, process.Teacher)),
        ["award"] = (process, room) => Marked(process, room, Award("why", 0.5m), Marker.First),
        ["remark"] = (process, room) => Marked(process, room, new([], [new("p", null, null, "Well done")], []), Marker.First),
        ["second mark"] = (process, room) => Marked(process, room, Award("why", 0.75m), Marker.Second),
        ["regrade"] = (process, room) =>
            Done(
                process.Regrades.Apply(
                    process.Assignments.One(room.Given.Id)!,
                    Repaired,
                    RegradeManner.ForAll,
                    "d is right too",
                    process.Teacher,
                    tell: "Marked anew"
                )
            ),
        ["undo"] = (process, room) =>
        {
            var given = process.Assignments.One(room.Given.Id)!;
            return process.Regrades.Of(given.Id).FirstOrDefault() is { Undoes: null } last
                ? Done(process.Regrades.Undo(given, last, "no", process.Teacher))
                : Task.CompletedTask;
        },
        ["release"] = (process, room) => Done(process.Releases.Give(room.Given.Id, [room.Handed], process.Teacher)),
        ["take back"] = (process, room) => Done(process.Releases.TakeBack(room.Given.Id, null, "too soon", process.Teacher)),
        ["give back"] = (process, room) =>
            Done(
                process.Attempts.GiveBack(
                    room.Given,
                    process.Students.One(room.Given.Id, room.Done.Student.Id) ?? room.Done.Student,
                    room.Handed,
                    process.Teacher
                )
            ),
        ["join"] = (process, room) =>
            Done(process.Students.Merge(room.Given, room.Works.Student.Id, room.Done.Student.Id, process.Teacher)),
    };

    private static Task Done<T>(T _) => Task.CompletedTask;

    private static Task Marked(Process process, Room room, Changes changes, Marker marker) =>
        Done(process.Attempts.Mark(room.Handed, process.Attempts.Anywhere(room.Handed)?.Marked ?? 0, changes, process.Teacher, marker));

    public static TheoryData<string> Names => [.. Doings.Keys];

    /// <summary>What is stored of every attempt is what its log and its awards come to under the revision that it is marked by.</summary>
    private void AllIsWorthWhatItIs(Assignment given, params Process[] running)
    {
        // Who has read nothing before.
        var fresh = Start();
        var sum = 0m;
        foreach (var line in fresh.Attempts.Page(given.Id))
        {
            var attempt = fresh.Attempts.Anywhere(line.Id)!;
            foreach (var process in running)
            {
                var seen = process.Attempts.Anywhere(line.Id)!;
                Assert.Equal((attempt.Edition, attempt.RevisionId, attempt.Handed), (seen.Edition, seen.RevisionId, seen.Handed));
                Assert.Equal(ResponseDocument.Write(attempt.Responses), ResponseDocument.Write(seen.Responses));
            }
            if (attempt.Handed is not { } handed)
                continue;
            var worth = Scorer.Score(
                fresh.Revisions.Activity(attempt.RevisionId, attempt.Rules),
                attempt.Responses,
                attempt.Marking.Awards
            );
            Assert.Equal((worth.Score, worth.Possible, worth.Grade), (handed.Score, handed.Possible, handed.Grade));
            Assert.Equal(worth.IsSoFar, line.Waits);
            sum += worth.Score;
        }
        var stored = fresh.Database.Read(connection =>
            connection.ExecuteScalar<double>(
                "select coalesce(sum(cast(score as real)), 0) from attempt where assignment_id = @Id and deleted_at is null",
                given
            )
        );
        Assert.Equal((double)sum, stored, 1e-9);
        // Of each student with work that is handed in, one attempt counts: the best.
        var counted = fresh.Database.Read(connection =>
            connection
                .Query<(long Student, double Counted, double Best)>(
                    """
                    select student_id, sum(case when counts then cast(exact_grade as real) else 0 end), max(cast(exact_grade as real))
                    from attempt
                    where assignment_id = @Id and deleted_at is null and handed_in_at is not null and placed > 0
                    group by student_id
                    """,
                    given
                )
                .AsList()
        );
        Assert.All(counted, student => Assert.Equal(student.Best, student.Counted, 1e-9));
    }

    [Theory, MemberData(nameof(Names))]
    public async Task In_one_process_each_comes_after_each_and_at_once_with_it(string first)
    {
        var process = Start();
        foreach (var second in Doings.Keys)
        {
            var room = await Open(process);
            await Doings[first](process, room);
            await Doings[second](process, room);
            AllIsWorthWhatItIs(room.Given, process);
            var another = await Open(process);
            await Task.WhenAll(Task.Run(() => Doings[first](process, another)), Task.Run(() => Doings[second](process, another)));
            AllIsWorthWhatItIs(another.Given, process);
        }
    }

    [Theory, MemberData(nameof(Names))]
    public async Task In_two_processes_each_comes_after_each_that_another_has_read_before_and_at_once_with_it(string first)
    {
        var (one, two) = (Start(), Start());
        foreach (var second in Doings.Keys)
        {
            var room = await Open(one);
            foreach (var id in (long[])[room.Working, room.Handed])
                _ = two.Attempts.Anywhere(id);
            _ = two.Attempts.DeviceOf(room.Given.Id, room.Works.Secret, 1);
            await Doings[first](one, room);
            await Doings[second](two, room);
            AllIsWorthWhatItIs(room.Given, one, two);
            var another = await Open(one);
            await Task.WhenAll(Task.Run(() => Doings[first](one, another)), Task.Run(() => Doings[second](two, another)));
            AllIsWorthWhatItIs(another.Given, one, two);
        }
    }

    [Fact]
    public void Every_statement_that_changes_attempts_gives_them_a_new_edition_or_has_claimed_it()
    {
        // By hand: within a transaction that has claimed the edition by Editions.Claim, AttemptLog.Claim, or beside a bulk change.
        string[] claimed =
        [
            "update attempt set revision_id = @current",
            "update attempt set version = version + @moves, placed = @placed, late = 0",
            "update attempt set marked = marked + 1, differs = @differs",
            "update attempt set differs = @differs where id = @Id",
            "update attempt set counts = @counts",
            "update attempt set handed_in_at = @at, handed_in_by = @by, score = @score",
        ];
        var root = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(root, "Fenster.slnx")))
            root = Path.GetDirectoryName(root)!;
        var found =
            from file in Directory.EnumerateFiles(Path.Combine(root, "src"), "*.cs", SearchOption.AllDirectories)
            let text = System.Text.RegularExpressions.Regex.Replace(File.ReadAllText(file), @"\s+", " ")
            from System.Text.RegularExpressions.Match match in System.Text.RegularExpressions.Regex.Matches(
                text,
                "update attempt set .{0,160}"
            )
            where
                !match.Value.Contains("edition = edition + 1", StringComparison.Ordinal)
                && !match.Value.Contains("{Editions.Raised}", StringComparison.Ordinal)
                && !match.Value.Contains("{Raised}", StringComparison.Ordinal)
                && !match.Value.Contains("NotHandedIn", StringComparison.Ordinal)
                && !claimed.Any(each => match.Value.StartsWith(each, StringComparison.Ordinal))
            select $"{Path.GetFileName(file)}: {match.Value}";
        Assert.Equal([], found);
    }
}
