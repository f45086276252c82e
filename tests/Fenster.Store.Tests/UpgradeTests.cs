using Dapper;
using Fenster.Core.Giving;
using Fenster.Core.Model;
using Fenster.Formats.Documents;
using Microsoft.Data.Sqlite;

namespace Fenster.Store.Tests;

/// <summary>
/// Data folders as earlier versions left them, made by those versions: a practice with marks at once (Ada handed it in, Bea is
/// in the middle of it), and an activity whose only zone was filled three times over by Cem.
/// </summary>
public sealed class UpgradeTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("fenster-").FullName;

    public void Dispose()
    {
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    private Database Upgraded(string name)
    {
        File.Copy(Path.Combine(AppContext.BaseDirectory, "OldFolders", name, "fenster.db"), Path.Combine(folder, "fenster.db"));
        return new(folder);
    }

    [Fact]
    public async Task A_folder_of_three_schemas_is_brought_up_to_date_with_a_copy_beside_it()
    {
        using var database = Upgraded("three-schemas");
        Assert.Single(Directory.GetFiles(folder, "before-upgrade-*.db"));
        // A file of before gave room back only as a whole.
        Assert.Equal(2, database.Read(connection => connection.ExecuteScalar<int>("pragma auto_vacuum")));
        var (drafts, revisions) = (new Drafts(database, TimeProvider.System), new Revisions(database, TimeProvider.System));
        var (assignments, students) = (new Assignments(database, TimeProvider.System), new Students(database, TimeProvider.System));
        var attempts = new Attempts(database, revisions, TimeProvider.System);

        var cards = drafts.Page(1, new(["older"], null, WhichActivities.All), 0, 10);
        Assert.Equal("Older work, again", Assert.Single(cards).Title);
        Assert.Equal((1, 3), (cards[0].Panes, cards[0].Targets));
        Assert.Equal((2, 1), (attempts.Sums(1).All, attempts.Sums(1).HandedIn));
        Assert.Equal(["Sailing"], drafts.Subjects(1, 10));
        Assert.Equal("Older work, again", Assert.Single(drafts.Versions(1, 1)).Title);
        Assert.NotEmpty(new Shelf(database, TimeProvider.System).Uses(1)[cards[0].Media!]);

        var practice = Assert.Single(assignments.Of(1));
        var lines = attempts.Page(practice.Id);
        Assert.Equal(["Ada", "Bea"], lines.Select(line => line.Name));
        var ada = attempts.One(practice.Id, lines[0].Id)!;
        Assert.Equal((1.75m, 2m), (ada.Handed!.Score, ada.Handed.Possible));
        Assert.Equal(1.75m, Core.Scoring.Scorer.Score(revisions.Activity(ada.RevisionId), ada.Responses).Score);
        var bea = attempts.One(practice.Id, lines[1].Id)!.Responses["one"];
        Assert.Equal(new Placement("a", 0, "z"), Assert.Single(bea.Placements));
        Assert.Equal(2, bea.Earlier.Length);
        // What a look found is a move of its own now.
        Assert.Equal(["spot"], bea.Opened.AsEnumerable());

        // Each label that a full zone sent back is back in the bank.
        var full = Assert.Single(assignments.Of(2));
        var cem = attempts.One(full.Id, attempts.Page(full.Id)[0].Id)!.Responses["one"];
        Assert.Equal(new Placement("a", 0, "z"), Assert.Single(cem.Placements));

        // And the work goes on.
        var (student, secret) = students.Guest(full, "Dee", word: null).In!;
        attempts.Begin(full, student);
        var dee = attempts.DeviceOf(full.Id, secret, 1)!;
        Assert.Single((await attempts.Append(dee, [new("k", "one", new PutDown("a", 0, "z"))], DateTimeOffset.UtcNow)).Attempt!.Responses);
    }

    /// <summary>
    /// Made by the last version that published an activity once: Ada handed in, Bea is in the middle, Cem waits for another device with
    /// two words, Dee was deleted; a second activity is closed, with Eva's work and Finn's, who had not handed in; another is deleted.
    /// </summary>
    [Fact]
    public async Task Of_a_folder_of_nine_schemas_what_was_published_is_given_to_anybody()
    {
        using var database = Upgraded("nine-schemas");
        var clock = TimeProvider.System;
        var (drafts, revisions, assignments) = (
            new Drafts(database, clock),
            new Revisions(database, clock),
            new Assignments(database, clock)
        );
        var (students, attempts) = (new Students(database, clock), new Attempts(database, revisions, clock));

        var open = assignments.ByCode("GYC3F9")!;
        Assert.Equal((1, 2, null), (open.ActivityId, open.RevisionNumber, open.ClassId));
        Assert.Equal(AssignmentState.Open, open.StateAt(clock.GetUtcNow()));
        Assert.Equal(new Terms(), open.Terms with { Sites = new Terms().Sites });
        var lines = attempts.Page(open.Id);
        Assert.Equal(["Ada", "Bea", "Cem"], lines.Select(line => line.Name));
        Assert.Equal((HandedBy.Student, 2m), (lines[0].Handed!.By, lines[0].Handed!.Score));
        Assert.Equal(2, attempts.Sums(open.Id).Possible);

        // Bea goes on where she was, on the device that she had.
        var bea = attempts.DeviceOf(open.Id, "1a589e7a4d92deac0aefeeb79f38367d6a0de86cee3f683314be6cd8f0de5f88", 1)!;
        Assert.Single(
            (await attempts.Append(bea, [new("k1", "p", new PutDown("b", 0, "z2"))], clock.GetUtcNow())).Attempt!.Responses["p"].Placements
        );
        Assert.Equal(
            2,
            (await attempts.Append(bea, [new("k2", "p", new PutDown("b", 0, "z2"))], clock.GetUtcNow()))
                .Attempt!
                .Responses["p"]
                .Placements
                .Length
        );
        Assert.Equal(2m, (await attempts.HandIn(bea, clock.GetUtcNow())).Attempt!.Handed!.Score);
        // Cem comes in by the two words that were made for him.
        Assert.NotNull(students.Guest(open, "Cem", "river bucket").In);
        // Dee is deleted still, and can be brought back.
        var dee = Assert.Single(new Deletions(database, clock).Of(1), thing => thing.Kind == "work");
        Assert.True(new Deletions(database, clock).BringBackWork(1, dee.Id, name => name));
        Assert.Equal(["Ada", "Bea", "Cem", "Dee"], attempts.Page(open.Id).Select(line => line.Name));

        // What was closed is closed, and what was not handed in there is handed in by the clock.
        var closed = assignments.ByCode("7FNNTK")!;
        Assert.Equal(AssignmentState.Closed, closed.StateAt(clock.GetUtcNow()));
        Assert.Equal(["Eva", "Finn"], attempts.Page(closed.Id).Select(line => line.Name));
        var due = Assert.Single(attempts.Due(10));
        Assert.Equal(HandedBy.Time, (await attempts.HandInDue(due))!.Handed!.By);
        Assert.Null(assignments.ByCode("7N77NY"));
        Assert.Equal(3, drafts.Page(1, Wanted.Everything, 0, 10).Count);
    }

    [Fact]
    public void Opened_a_second_time_it_is_as_it_was()
    {
        using (Upgraded("three-schemas")) { }
        using var again = new Database(folder);
        Assert.Single(Directory.GetFiles(folder, "before-upgrade-*.db"));
        Assert.Equal("Older work, again", ActivityDocument.Read(new Drafts(again, TimeProvider.System).Find(1, 1)!.Document).Title);
    }

    /// <summary>
    /// A class of four: Mia has handed in twice, first the better; Åsa once; Zoë works on a note that was stored with each rest; of Ben, who
    /// has not come, times were stored as text.
    /// </summary>
    [Fact]
    public async Task A_folder_of_fourteen_schemas_comes_up_with_spoilt_times_mended_and_knows_what_counts()
    {
        using var database = Upgraded("fourteen-schemas");
        var clock = TimeProvider.System;
        var (revisions, assignments, students) = (
            new Revisions(database, clock),
            new Assignments(database, clock),
            new Students(database, clock)
        );
        var attempts = new Attempts(database, revisions, clock);
        var given = Assert.Single(assignments.Of(1));

        var ben = students.Roster(given, "en").Single(line => line.Name == "Ben");
        Assert.Equal(new DateTimeOffset(2199, 1, 1, 9, 30, 15, 250, TimeSpan.Zero), ben.ClosesAt);
        Assert.Equal(new DateTimeOffset(2026, 11, 30, 9, 30, 15, 250, TimeSpan.Zero), ben.EndedAt);
        Assert.True(students.End(given, ben.StudentId!.Value, null));
        Assert.NotNull(attempts.Begin(given, students.One(given.Id, ben.StudentId.Value)!));

        Assert.Equal(["Åsa", "Ben", "Mia", "Mia", "Zoë"], attempts.Page(given.Id).Select(line => line.Name));
        var mia = attempts.Page(given.Id).Where(line => line.Name == "Mia").ToList();
        Assert.Equal([true, false], mia.Select(line => line.Counts));
        var standing = new Standings(database, assignments, revisions).Of(given, [mia[0].StudentId])[mia[0].StudentId];
        Assert.Equal((2m, true), (standing.Score!.Score, standing.Score.IsSoFar));
        Assert.Equal(
            (5, 5),
            (attempts.Page(given.Id).Count, attempts.Page(given.Id).Select(line => attempts.Anywhere(line.Id)!.Identity).Distinct().Count())
        );

        // The words of before still let in, and typing goes on.
        var zoe = students.ByWord(given.ClassId!.Value, students.Roster(given, "en").Single(line => line.Name == "Zoë").Word!)!;
        var come = students.Let(given, zoe, knowsWord: true).In!;
        var device = attempts.DeviceOf(given.Id, come.Secret, 1)!;
        Assert.Empty((await attempts.Append(device, [new("n", "p", new TypeText("n", "last"))], DateTimeOffset.UtcNow)).Refused);
        Assert.Equal("last", attempts.Of(device)!.Responses["p"].Texts["n"]);
    }
}
