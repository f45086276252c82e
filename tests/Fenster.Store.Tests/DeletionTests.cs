using System.Text;
using Dapper;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Fenster.Formats.Documents;
using Microsoft.Data.Sqlite;

namespace Fenster.Store.Tests;

/// <summary>Deleting, bringing back, being gone for good, and copies of a folder.</summary>
public sealed class DeletionTests : IDisposable
{
    private const string Planted = "Wilhelmina Plantedname";

    private readonly string root = Directory.CreateTempSubdirectory("fenster-").FullName;
    private readonly MovedClock clock = new();
    private readonly Database database;
    private readonly Drafts drafts;
    private readonly Revisions revisions;
    private readonly Assignments assignments;
    private readonly Students students;
    private readonly Attempts attempts;
    private readonly Deletions deletions;
    private readonly Media media;
    private readonly long teacher;

    private sealed class MovedClock : TimeProvider
    {
        public TimeSpan Ahead { get; set; }

        public override DateTimeOffset GetUtcNow() => base.GetUtcNow() + Ahead;
    }

    public DeletionTests()
    {
        database = new(Folder);
        drafts = new(database, clock);
        revisions = new(database, clock);
        assignments = new(database, clock);
        students = new(database, clock);
        attempts = new(database, revisions, clock);
        deletions = new(database, clock);
        media = new(database, clock);
        teacher = new Teachers(database, clock).Add("t@school.example", "T", "hash")!.Id;
    }

    private string Folder => Path.Combine(root, "data");

    public void Dispose()
    {
        database.Dispose();
        SqliteConnection.ClearAllPools();
        Directory.Delete(root, recursive: true);
    }

    private static readonly string Hash = new('b', 64);

    private async Task<(long Activity, Assignment Given, Attempt Attempt)> Worked(string student = Planted)
    {
        media.Save(new(Hash, 9, 9, [new(9, "webp", [1, 2, 3])]), [7]);
        media.Give(Hash, teacher);
        var activity = new Activity
        {
            Title = "Plantedtitle",
            Panes =
            [
                new Pane
                {
                    Id = "p",
                    Picture = new(Hash, 9, 9),
                    Targets = [new OpenNote { Id = "n", Region = new Circle(new(5, 5), 5) }],
                },
            ],
        };
        var document = ActivityDocument.Write(activity);
        var id = drafts.Add(teacher, activity, document);
        drafts.Save(teacher, id, 1, activity, document);
        var given = assignments.Give(id, revisions.Publish(id, document), group: null, new());
        var device = Begun(given, student);
        await attempts.Append(device, [new("k", "p", new TypeText("n", $"{Planted} wrote this"))], clock.GetUtcNow());
        await attempts.HandIn(device, clock.GetUtcNow());
        return (id, given, attempts.Of(device)!);
    }

    private Device Begun(Assignment given, string name)
    {
        var (student, secret) = students.Guest(given, name, word: null).In!;
        return attempts.DeviceOf(given.Id, secret, attempts.Begin(given, student)!.Number)!;
    }

    private int FilesWith(string words) =>
        Directory
            .EnumerateFiles(Folder, "*", SearchOption.AllDirectories)
            .Count(file =>
            {
                using var stream = new FileStream(file, FileMode.Open, FileAccess.Read, FileShare.ReadWrite);
                using var bytes = new MemoryStream();
                stream.CopyTo(bytes);
                return bytes.ToArray().AsSpan().IndexOf(Encoding.UTF8.GetBytes(words)) >= 0;
            });

    [Fact]
    public async Task A_deleted_activity_is_out_of_sight_and_can_be_brought_back()
    {
        var (id, given, attempt) = await Worked();
        Assert.False(deletions.DeleteActivity(teacher + 1, id));
        Assert.True(deletions.DeleteActivity(teacher, id));
        Assert.Empty(drafts.Page(teacher, Wanted.Everything, 0, 9));
        Assert.Null(drafts.Find(teacher, id));
        Assert.Null(assignments.ByCode(given.Code));
        Assert.Equal(("activity", "Plantedtitle"), (deletions.Of(teacher)[0].Kind, deletions.Of(teacher)[0].Name));
        Assert.Empty(deletions.Of(teacher + 1));

        clock.Ahead = Deletions.Grace - TimeSpan.FromHours(1);
        Assert.Equal(0, deletions.Sweep());
        Assert.False(deletions.BringBackActivity(teacher + 1, id));
        Assert.True(deletions.BringBackActivity(teacher, id));
        Assert.NotNull(assignments.ByCode(given.Code));
        Assert.NotNull(attempts.One(given.Id, attempt.Id)!.Handed);
        Assert.NotNull(media.Largest(Hash));
    }

    [Fact]
    public async Task After_thirty_days_nothing_of_it_is_left_in_any_file_of_the_folder()
    {
        var (id, given, attempt) = await Worked();
        Assert.NotEqual(0, FilesWith(Planted));
        deletions.DeleteActivity(teacher, id);
        clock.Ahead = Deletions.Grace + TimeSpan.FromDays(2);
        Assert.Equal(1, deletions.Sweep());
        Assert.Equal(0, FilesWith(Planted));
        Assert.Equal(0, FilesWith("Plantedtitle"));
        Assert.Equal(0, FilesWith(given.Code));
        Assert.Null(attempts.One(given.Id, attempt.Id));
        Assert.Null(media.Largest(Hash));
        Assert.Empty(Directory.GetFiles(Path.Combine(Folder, "media"), "*", SearchOption.AllDirectories));
        Assert.False(deletions.BringBackActivity(teacher, id));
        Assert.Equal(0, deletions.Sweep());
    }

    [Fact]
    public async Task A_students_work_is_deleted_alone_and_its_name_is_free_meanwhile()
    {
        var (id, given, attempt) = await Worked();
        var device = Begun(given, "Ben");
        Assert.True(deletions.DeleteWork(teacher, given.Id, attempt.Id));
        Assert.Equal(["Ben"], attempts.Page(given.Id).Select(line => line.Name));
        Assert.Null(attempts.One(given.Id, attempt.Id));
        Assert.NotNull(attempts.Of(device));
        var again = attempts.Of(Begun(given, Planted))!;
        Assert.NotEqual(attempt.Id, again.Id);
        // Brought back, both are told apart.
        Assert.True(deletions.BringBackWork(teacher, attempt.StudentId, name => $"{name} (brought back)"));
        Assert.Equal(["Ben", Planted, $"{Planted} (brought back)"], attempts.Page(given.Id).Select(line => line.Name));

        deletions.DeleteWork(teacher, given.Id, attempt.Id);
        deletions.DeleteWork(teacher, given.Id, again.Id);
        clock.Ahead = Deletions.Grace + TimeSpan.FromDays(2);
        Assert.Equal(2, deletions.Sweep());
        Assert.Equal(0, FilesWith(Planted));
        Assert.NotNull(drafts.Find(teacher, id));
    }

    [Fact]
    public async Task A_work_that_is_deleted_while_it_is_worked_on_takes_nothing_more()
    {
        var (id, given, _) = await Worked();
        var device = Begun(given, "Ben");
        await attempts.Append(device, [new("1", "p", new TypeText("n", "one"))], clock.GetUtcNow());
        deletions.DeleteWork(teacher, given.Id, device.AttemptId);
        Assert.Equal(Shut.GivenAway, (await attempts.Append(device, [new("2", "p", new TypeText("n", "two"))], clock.GetUtcNow())).Shut);
        Assert.Equal(Shut.GivenAway, (await attempts.HandIn(device, clock.GetUtcNow())).Shut);
    }

    [Fact]
    public async Task A_copy_of_a_running_folder_opens_and_what_was_deleted_since_is_deleted_again()
    {
        var (id, given, attempt) = await Worked();
        var copy = Path.Combine(root, "copy");
        Assert.Equal(2, Backup.Make(Folder, copy));
        Assert.Contains("already", Assert.Throws<BackupRefused>(() => Backup.Make(Folder, copy)).Message);
        Assert.Contains("no Fenster data", Assert.Throws<BackupRefused>(() => Backup.Make(root, Path.Combine(root, "x"))).Message);

        deletions.DeleteWork(teacher, given.Id, attempt.Id);
        clock.Ahead = Deletions.Grace + TimeSpan.FromDays(2);
        deletions.Sweep();
        var anew = Path.Combine(root, "anew");
        Directory.CreateDirectory(anew);
        File.Copy(Path.Combine(Folder, "deletions.log"), Path.Combine(anew, "deletions.log"));
        Backup.Restore(copy, anew, clock);
        using var restored = new Database(anew);
        Assert.NotNull(new Drafts(restored, clock).Find(teacher, id));
        Assert.Empty(new Attempts(restored, new Revisions(restored, clock), clock).Page(given.Id));
        Assert.NotNull(new Media(restored, clock).Largest(Hash));
        Assert.Contains("already", Assert.Throws<BackupRefused>(() => Backup.Restore(copy, anew, clock)).Message);
        Assert.Contains("no backup", Assert.Throws<BackupRefused>(() => Backup.Restore(root, Path.Combine(root, "y"), clock)).Message);
    }

    [Fact]
    public void A_copy_that_lacks_a_file_is_no_backup()
    {
        media.Save(new(Hash, 9, 9, [new(9, "webp", [1, 2, 3])]), [7]);
        File.Delete(media.Largest(Hash)!.Path);
        Assert.Contains("lacks the file", Assert.Throws<BackupRefused>(() => Backup.Make(Folder, Path.Combine(root, "copy"))).Message);
    }

    [Fact]
    public async Task The_work_of_a_teacher_who_leaves_goes_to_a_colleague_or_goes()
    {
        var teachers = new Teachers(database, clock);
        var (id, _, _) = await Worked();
        // Somebody has to administer.
        Assert.False(teachers.Remove(teacher, heir: null));
        var admin = teachers.Add("a@school.example", "A", "hash", Teacher.Administrator)!.Id;
        Assert.True(teachers.Remove(teacher, heir: admin));
        Assert.Null(teachers.ByEmail("t@school.example"));
        Assert.NotNull(drafts.Find(admin, id));
        Assert.True(media.IsOf(Hash, admin));
        Assert.False(teachers.GiveRole(admin, Teacher.Plain));
        Assert.False(teachers.Remove(admin, heir: null));
        var other = teachers.Add("b@school.example", "B", "hash", Teacher.Administrator)!.Id;
        Assert.True(teachers.Remove(admin, heir: null));
        Assert.Null(drafts.Find(admin, id));
        Assert.True(teachers.GiveRole(other, Teacher.Administrator));
        // Somebody who left may be let in again.
        Assert.NotNull(teachers.Add("t@school.example", "T", "hash"));
        Assert.Null(teachers.Add("t@school.example", "T", "hash"));
    }

    [Fact]
    public async Task What_others_own_too_stays_with_them_when_a_colleague_leaves_with_the_work()
    {
        var teachers = new Teachers(database, clock);
        var other = teachers.Add("b@school.example", "B", "hash", Teacher.Administrator)!.Id;
        var (shared, given, attempt) = await Worked("Mia");
        var (own, _, _) = await Worked("Ben");
        Assert.True(drafts.Share(teacher, shared, other));
        var classes = new Classes(database, clock);
        var (taught, alone) = (classes.Make(teacher, "8b", "en"), classes.Make(teacher, "8c", "en"));
        classes.Enrol(classes.One(teacher, taught)!, [("Ana", "")]);
        var toClass = assignments.Give(shared, given.RevisionId, taught, new());

        Assert.True(teachers.Remove(teacher, heir: null));

        Assert.NotNull(drafts.Find(other, shared));
        Assert.Null(drafts.Find(other, own));
        Assert.Equal("Mia", attempts.One(given.Id, attempt.Id)!.Name);
        Assert.True(media.IsOf(Hash, other));
        // The class whose work they see is theirs too; the one that nobody else has anything of is gone.
        Assert.Equal("8b", classes.One(other, taught)!.Name);
        Assert.NotNull(assignments.One(toClass.Id));
        Assert.Null(classes.One(other, alone));
        clock.Ahead = Deletions.Grace + TimeSpan.FromDays(2);
        deletions.Sweep();
        Assert.NotNull(drafts.Find(other, shared));
        Assert.Equal("Mia", attempts.One(given.Id, attempt.Id)!.Name);
        Assert.True(drafts.Shelve(other, shared, isOut: true));
    }

    [Fact]
    public async Task Numbers_that_are_given_out_again_let_no_copy_delete_what_lives_and_no_memory_show_what_is_gone()
    {
        var (id, given, attempt) = await Worked("Gone");
        Assert.Equal("Plantedtitle", revisions.Activity(given.RevisionId).Title);
        var before = attempts.Anywhere(attempt.Id)!;
        drafts.Find(teacher, id);
        deletions.DeleteActivity(teacher, id);
        clock.Ahead = Deletions.Grace + TimeSpan.FromDays(1);
        deletions.Sweep();

        var next = new Activity
        {
            Title = "Another",
            Panes =
            [
                new Pane
                {
                    Id = "p",
                    Picture = new(Hash, 9, 9),
                    Targets = [new OpenNote { Id = "n", Region = new Circle(new(5, 5), 5) }],
                },
            ],
        };
        var document = ActivityDocument.Write(next);
        var second = drafts.Add(teacher, next, document);
        var again = assignments.Give(second, revisions.Publish(second, document), group: null, new());
        var device = Begun(again, "Lives");
        await attempts.Append(device, [new("k", "p", new TypeText("n", "alive"))], clock.GetUtcNow());
        // All numbers are those of what is gone.
        Assert.Equal((id, given.Id, given.RevisionId, attempt.Id), (second, again.Id, again.RevisionId, device.AttemptId));
        Assert.NotEqual(before.Identity, attempts.Anywhere(device.AttemptId)!.Identity);
        Assert.Equal("Another", revisions.Activity(again.RevisionId).Title);
        Assert.Equal(
            ("Lives", "alive"),
            (attempts.Anywhere(device.AttemptId)!.Name, attempts.Anywhere(device.AttemptId)!.Responses["p"].Texts["n"])
        );

        var copy = Path.Combine(root, "copy");
        Backup.Make(Folder, copy);
        var anew = Path.Combine(root, "anew");
        Directory.CreateDirectory(anew);
        File.Copy(Path.Combine(Folder, "deletions.log"), Path.Combine(anew, "deletions.log"));
        // As a list of before has it, which knows numbers alone.
        File.AppendAllLines(
            Path.Combine(anew, "deletions.log"),
            [$$"""{"Kind":"activity","Id":{{id}},"At":"{{clock.GetUtcNow() - TimeSpan.FromHours(1):O}}"}"""]
        );
        Backup.Restore(copy, anew, clock);
        using var restored = new Database(anew);
        Assert.Equal("Another", new Drafts(restored, clock).TitleOf(teacher, second));
        Assert.Equal("Lives", Assert.Single(new Attempts(restored, new Revisions(restored, clock), clock).Page(again.Id)).Name);
    }

    [Fact]
    public void A_list_of_before_deletes_from_a_copy_what_it_means()
    {
        var id = drafts.Add(teacher, new Activity { Title = "Old", Panes = [] }, "{}");
        var copy = Path.Combine(root, "copy");
        Backup.Make(Folder, copy);
        var anew = Path.Combine(root, "anew");
        Directory.CreateDirectory(anew);
        File.WriteAllLines(
            Path.Combine(anew, "deletions.log"),
            [$$"""{"Kind":"activity","Id":{{id}},"At":"{{clock.GetUtcNow() + TimeSpan.FromDays(31):O}}"}"""]
        );
        Backup.Restore(copy, anew, clock);
        using var restored = new Database(anew);
        Assert.Null(new Drafts(restored, clock).TitleOf(teacher, id));
    }

    [Fact]
    [System.Runtime.Versioning.SupportedOSPlatform("linux")]
    public void A_copy_is_its_owners_alone()
    {
        media.Save(new(Hash, 9, 9, [new(9, "webp", [1, 2, 3])]), [7]);
        var copy = Path.Combine(root, "copy");
        Backup.Make(Folder, copy);
        const UnixFileMode Others =
            UnixFileMode.GroupRead
            | UnixFileMode.GroupWrite
            | UnixFileMode.GroupExecute
            | UnixFileMode.OtherRead
            | UnixFileMode.OtherWrite
            | UnixFileMode.OtherExecute;
        foreach (var entry in Directory.EnumerateFileSystemEntries(copy, "*", SearchOption.AllDirectories).Append(copy))
            Assert.Equal(UnixFileMode.None, File.GetUnixFileMode(entry) & Others);
    }

    [Fact]
    public void A_name_that_was_taken_off_a_list_goes_with_its_tags_once_there_is_no_work_of_it()
    {
        var classes = new Classes(database, clock);
        var group = classes.One(teacher, classes.Make(teacher, "8b", "en"))!;
        classes.Enrol(group, [(Planted, "Plantedtag"), ("Stays", "")]);
        var activity = new Activity { Title = "A", Panes = [new Pane { Id = "p", Targets = [] }] };
        var document = ActivityDocument.Write(activity);
        var id = drafts.Add(teacher, activity, document);
        var given = assignments.Give(id, revisions.Publish(id, document), group.Id, new());
        foreach (var member in classes.Members(group))
        {
            attempts.Begin(given, students.Let(given, member, knowsWord: true).In!.Student);
            classes.Remove(member);
        }
        var (gone, stays) = (
            attempts.Page(given.Id).Single(line => line.Name == Planted),
            attempts.Page(given.Id).Single(line => line.Name == "Stays")
        );
        deletions.DeleteWork(teacher, given.Id, gone.Id);
        clock.Ahead = Deletions.Grace + TimeSpan.FromDays(2);
        deletions.Sweep();
        Assert.Equal(0, FilesWith(Planted));
        Assert.Equal(0, FilesWith("Plantedtag"));
        // Whose work is there keeps the name.
        Assert.Equal("Stays", attempts.One(given.Id, stays.Id)!.Name);
    }

    [Fact]
    public void A_session_ends_on_the_server_and_a_link_works_once_for_two_days()
    {
        var (teachers, sessions) = (new Teachers(database, clock), new Sessions(database, clock));
        var (one, two) = (sessions.Begin(teacher), sessions.Begin(teacher));
        Assert.Equal(teacher, sessions.TeacherOf(one)!.Id);
        sessions.End(one);
        Assert.Null(sessions.TeacherOf(one));
        var three = sessions.Begin(teacher);
        sessions.EndAll(teacher, but: three);
        Assert.Null(sessions.TeacherOf(two));
        Assert.NotNull(sessions.TeacherOf(three));
        // What no browser keeps any more is kept by nobody.
        Assert.Equal(0, sessions.Sweep());
        clock.Ahead = TimeSpan.FromDays(91);
        Assert.Equal(1, sessions.Sweep());
        Assert.Null(sessions.TeacherOf(three));
        clock.Ahead = TimeSpan.Zero;

        var link = teachers.MakeLink(teacher);
        Assert.Equal(teacher, teachers.ByLink(link)!.Id);
        Assert.Null(teachers.ByLink("another"));
        teachers.ChangePassword(teacher, "new");
        Assert.Null(teachers.ByLink(link));
        var late = teachers.MakeLink(teacher);
        clock.Ahead = Teachers.LinkWorks + TimeSpan.FromMinutes(1);
        Assert.Null(teachers.ByLink(late));
    }

    [Fact]
    public void What_lies_under_cover_patches_is_shown_by_nobody_else()
    {
        var teachers = new Teachers(database, clock);
        var other = teachers.Add("b@school.example", "B", "hash")!.Id;
        var source = new string('c', 64);
        foreach (var hash in (string[])[Hash, source])
        {
            media.Save(new(hash, 9, 9, [new(9, "webp", [1])]), [7]);
            media.Give(hash, teacher);
        }
        Activity Of(string shown) =>
            new()
            {
                Title = "T",
                Panes =
                [
                    new Pane
                    {
                        Id = "p",
                        Picture = new(shown, 9, 9) { Preparation = new(source, 9, 9) },
                    },
                ],
            };
        drafts.Add(teacher, Of(Hash), ActivityDocument.Write(Of(Hash)));
        Assert.True(media.IsShown(Hash));
        Assert.False(media.IsShown(source));
        Assert.True(media.IsOf(source, teacher));
        Assert.False(media.IsOf(source, other));
        // Who has only heard of it can't show it.
        drafts.Add(other, Of(source), ActivityDocument.Write(Of(source)));
        Assert.False(media.IsShown(source));
        drafts.Add(teacher, Of(source), ActivityDocument.Write(Of(source)));
        Assert.True(media.IsShown(source));
    }
}
