using Dapper;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Fenster.Formats.Documents;
using Microsoft.Data.Sqlite;

namespace Fenster.Store.Tests;

/// <summary>What one person does is done or not done: where its last step fails, nothing of the steps before it is left.</summary>
public sealed class OneTransactionTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("fenster-").FullName;
    private readonly Database database;
    private readonly Drafts drafts;
    private readonly Revisions revisions;
    private readonly Assignments assignments;
    private readonly Students students;
    private readonly Attempts attempts;
    private readonly Releases releases;
    private readonly Regrades regrades;
    private readonly long teacher;

    public OneTransactionTests()
    {
        var clock = TimeProvider.System;
        database = new(folder);
        (drafts, revisions, assignments, students) = (
            new(database, clock),
            new(database, clock),
            new(database, clock),
            new(database, clock)
        );
        attempts = new(database, revisions, clock);
        releases = new(database, assignments, clock);
        regrades = new(database, revisions, assignments, attempts, drafts, clock);
        teacher = new Teachers(database, clock).AddFirst("t@school.example", "T", "hash")!.Id;
    }

    public void Dispose()
    {
        database.Dispose();
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    private static Activity Of(string word) =>
        new()
        {
            Title = "Typing",
            Panes =
            [
                new Pane
                {
                    Id = "p",
                    Picture = new(new string('0', 64), 1000, 700, "Something"),
                    Targets =
                    [
                        new AnswerBox
                        {
                            Id = "box",
                            Region = new Rectangle(0, 0, 100, 50),
                            Answer = new TypedText([new(word)]),
                        },
                    ],
                },
            ],
        };

    private async Task<(Assignment Given, long Attempt)> HandedIn()
    {
        var document = ActivityDocument.Write(Of("one"));
        var id = drafts.Add(teacher, Of("one"), document);
        var given = assignments.Give(id, revisions.Publish(id, document), group: null, new());
        var come = students.Guest(given, "Mia", null).In!;
        var attempt = attempts.Begin(given, come.Student)!.Id;
        var device = attempts.DeviceOf(given.Id, come.Secret, 1)!;
        await attempts.Append(device, [new("1", "p", new TypeText("box", "two"))], DateTimeOffset.UtcNow);
        await attempts.HandIn(device, DateTimeOffset.UtcNow);
        return (given, attempt);
    }

    /// <summary>Lets every statement of a kind fail, as a crash at it would.</summary>
    private void Fails(string when) =>
        database.Write(connection => connection.Execute($"create trigger fails before {when} begin select raise(abort, 'It fails.'); end"));

    /// <summary>All that is stored of what people do, as one text.</summary>
    private string All() =>
        database.Read(connection =>
            string.Join(
                '\n',
                (
                    (string[])["assignment", "attempt", "revision", "record", "regrade", "regrade_change", "remark", "award", "activity"]
                ).SelectMany(table =>
                    connection
                        .Query(
                            $"select * from {table} order by id".Replace(
                                "regrade_change order by id",
                                "regrade_change",
                                StringComparison.Ordinal
                            )
                        )
                        .Select(row =>
                            $"{table} {string.Join(' ', ((IDictionary<string, object?>)row).Select(cell => $"{cell.Key}={cell.Value}"))}"
                        )
                )
            )
        );

    [Fact]
    public async Task Releasing_and_taking_back()
    {
        var (given, attempt) = await HandedIn();
        Fails("insert on record");
        var before = All();
        Assert.ThrowsAny<SqliteException>(() => releases.Give(given.Id, null, teacher));
        Assert.ThrowsAny<SqliteException>(() => releases.Give(given.Id, [attempt], teacher));
        Assert.Equal(before, All());
        database.Write(connection => connection.Execute("drop trigger fails"));
        releases.Give(given.Id, null, teacher);
        Fails("update of released_at on assignment");
        before = All();
        Assert.ThrowsAny<SqliteException>(() => releases.TakeBack(given.Id, null, "too soon", teacher));
        Assert.Equal(before, All());
    }

    [Fact]
    public async Task Giving_to_several_classes_and_publishing()
    {
        var (given, _) = await HandedIn();
        var changed = ActivityDocument.Write(Of("three"));
        Fails("update of opens_at on assignment");
        var before = All();
        Assert.ThrowsAny<SqliteException>(() => assignments.Give(given.ActivityId, changed, [(null, new()), (null, new())]));
        Assert.Equal(before, All());
        database.Write(connection => connection.Execute("drop trigger fails"));
        Fails("update of revision_id on assignment");
        Assert.ThrowsAny<SqliteException>(() => assignments.Publish(given.ActivityId, changed, [given.Id]));
        Assert.Equal(before, All());
    }

    [Fact]
    public async Task Putting_right_and_taking_it_back()
    {
        var (given, _) = await HandedIn();
        var changed = ActivityDocument.Write(Of("two"));
        // The last step: the draft follows.
        Fails("update of draft on activity");
        var before = All();
        Assert.ThrowsAny<SqliteException>(() => regrades.Apply(given, changed, RegradeManner.ForAll, "two", teacher, "told"));
        Assert.Equal(before, All());
        database.Write(connection => connection.Execute("drop trigger fails"));
        Assert.NotNull(regrades.Apply(given, changed, RegradeManner.ForAll, "two", teacher, "told"));
        Assert.Equal(1m, attempts.Page(given.Id).Single().Handed!.Score);
        Assert.Equal(changed, drafts.Find(teacher, given.ActivityId)!.Document);
        Fails("update of draft on activity");
        before = All();
        Assert.ThrowsAny<SqliteException>(() => regrades.Undo(assignments.One(given.Id)!, regrades.Of(given.Id)[0], "no", teacher));
        Assert.Equal(before, All());
        database.Write(connection => connection.Execute("drop trigger fails"));
        Assert.NotNull(regrades.Undo(assignments.One(given.Id)!, regrades.Of(given.Id)[0], "no", teacher));
        Assert.Equal(0m, attempts.Page(given.Id).Single().Handed!.Score);
    }

    [Fact]
    public async Task A_score_that_changed_only_in_how_it_is_written_is_no_change()
    {
        var (given, attempt) = await HandedIn();
        // As an earlier version stored it.
        database.Write(connection =>
            connection.Execute(
                "update attempt set edition = edition + 1, score = '0.0', possible = '1.00' where id = @attempt",
                new { attempt }
            )
        );
        var same = Of("one") with
        {
            Panes = [Of("one").Panes[0] with { Targets = [((AnswerBox)Of("one").Panes[0].Targets[0]) with { Explanation = "So." }] }],
        };
        Assert.NotNull(regrades.Apply(given, ActivityDocument.Write(same), RegradeManner.ForAll, "why", teacher, null));
        var regrade = regrades.Of(given.Id).Single();
        Assert.Equal(0, regrade.Changed);
        Assert.Equal(regrade.Changed, regrades.Changes(regrade.Id).Count(change => change.Before != change.After));
    }
}
