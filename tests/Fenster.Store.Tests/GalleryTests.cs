using Fenster.Core.Model;
using Fenster.Formats.Documents;
using Fenster.Formats.Pictures;
using Microsoft.Data.Sqlite;

namespace Fenster.Store.Tests;

/// <summary>Files of students, and whom a gallery shows them to.</summary>
public sealed class GalleryTests : IDisposable
{
    private sealed class MovedClock : TimeProvider
    {
        public TimeSpan Ahead { get; set; }

        public override DateTimeOffset GetUtcNow() => base.GetUtcNow() + Ahead;
    }

    private readonly string root = Directory.CreateTempSubdirectory("fenster-").FullName;
    private readonly MovedClock clock = new();
    private readonly Database database;
    private readonly Assignments assignments;
    private readonly Students students;
    private readonly Attempts attempts;
    private readonly OwnFiles files;
    private readonly Galleries galleries;
    private readonly Deletions deletions;
    private readonly Assignment given;
    private readonly long teacher;
    private readonly IReadOnlyList<Member> members;

    public GalleryTests()
    {
        database = new(Path.Combine(root, "data"));
        var (drafts, revisions, classes) = (new Drafts(database, clock), new Revisions(database, clock), new Classes(database, clock));
        assignments = new(database, clock);
        students = new(database, clock);
        attempts = new(database, revisions, clock);
        (files, galleries, deletions) = (new(database, clock), new(database, clock), new(database, clock));
        teacher = new Teachers(database, clock).Add("t@school.example", "T", "hash")!.Id;
        var activity = new Activity { Title = "The river", Panes = [new() { Id = "p", Targets = [new OwnPicture { Id = "own" }] }] };
        var document = ActivityDocument.Write(activity);
        var id = drafts.Add(teacher, activity, document);
        var group = classes.One(teacher, classes.Make(teacher, "Class", "en"))!;
        classes.Enrol(group, [("Ann", ""), ("Ben", ""), ("Cem", ""), ("Dee", "")]);
        members = classes.Members(group);
        given = assignments.Give(id, revisions.Publish(id, document), group.Id, new());
    }

    public void Dispose()
    {
        database.Dispose();
        SqliteConnection.ClearAllPools();
        Directory.Delete(root, recursive: true);
    }

    private static PreparedPicture Picture(byte content) =>
        new(new('d', 64), 800, 600, [new(480, "webp", [content, 1]), new(800, "webp", [content, 2, 3])]);

    private sealed record Maker(Student Student, Attempt Attempt, string File);

    /// <summary>Brings a picture, puts a spot on it, and hands in.</summary>
    private async Task<Maker> Makes(int member, bool handsIn = true)
    {
        var came = students.Let(given, members[member], knowsWord: true).In!;
        var device = attempts.DeviceOf(given.Id, came.Secret, attempts.Begin(given, came.Student)!.Number)!;
        var file = files.Keep(device.AttemptId, Picture((byte)member));
        var taken = await attempts.Append(
            device,
            [
                new("k.1", "p", new BringPicture("own", new(file.Name, 800, 600))),
                new("k.2", "p", new PutSpot("own", new("s", new(1, 1)) { Title = $"spot of {member}" })),
            ],
            clock.GetUtcNow()
        );
        if (handsIn)
            taken = await attempts.HandIn(device, clock.GetUtcNow());
        return new(came.Student, taken.Attempt!, file.Name);
    }

    private void Open(params Maker[] makers) =>
        galleries.Open(
            given.Id,
            clock.GetUtcNow().AddDays(7),
            showsNames: false,
            [.. makers.Select(maker => (maker.Attempt.Id, "p", (IReadOnlyList<string>)[maker.File]))]
        );

    [Fact]
    public async Task A_file_is_found_by_its_name_alone_in_the_size_that_is_asked_for()
    {
        var ann = await Makes(0);
        Assert.Equal([0, 1], File.ReadAllBytes(files.Find(ann.File, 300)!.Path));
        Assert.Equal([0, 2, 3], File.ReadAllBytes(files.Find(ann.File, 9000)!.Path));
        Assert.Null(files.Find(new('0', 64), 300));
        Assert.Empty(files.Strangers(ann.Attempt.Id, [ann.File]));
        Assert.Equal([ann.File], files.Strangers(ann.Attempt.Id + 1, [ann.File]));
        Assert.Equal((1, 5), (files.RoomOf(ann.Attempt.Id).Files, files.RoomOf(ann.Attempt.Id).Bytes));
    }

    [Fact]
    public async Task A_gallery_is_for_members_while_it_is_open_and_a_piece_goes_at_once()
    {
        var (ann, ben) = (await Makes(0), await Makes(1));
        Assert.Null(galleries.ShownTo(ann.Student));
        Open(ann, ben);
        var shown = galleries.ShownTo(ann.Student)!;
        Assert.Equal([ann.Attempt.Id, ben.Attempt.Id], shown.Select(piece => piece.AttemptId).Order());
        Assert.Equal(ann.Attempt.Id, Assert.Single(shown, piece => piece.IsOwn).AttemptId);
        Assert.All(shown, piece => Assert.Null(piece.Name));
        Assert.Null(galleries.ShownTo(students.Guest(given, "Guest", word: null).In!.Student));
        // The class gets its own names for the files.
        var piece = shown.Single(piece => piece.AttemptId == ben.Attempt.Id);
        var work = Galleries.UnderNamesOf(piece, ben.Attempt.Responses["p"].Own["own"]);
        Assert.NotEqual(ben.File, work.Picture!.Media);
        Assert.NotNull(files.Find(work.Picture.Media, 480));
        Assert.True(galleries.Withdraw(given.Id, ben.Attempt.Id, "p"));
        Assert.False(galleries.Withdraw(given.Id, ben.Attempt.Id, "p"));
        Assert.Null(files.Find(work.Picture.Media, 480));
        Assert.Equal([ann.Attempt.Id], galleries.ShownTo(ann.Student)!.Select(piece => piece.AttemptId));
        // Opened anew without it, it stays away; the old name leads nowhere.
        Open(ann);
        Assert.Null(files.Find(work.Picture.Media, 480));
        var left = galleries.ShownTo(ben.Student)!.Single().Files.Values.Single();
        clock.Ahead = TimeSpan.FromDays(8);
        Assert.Null(galleries.ShownTo(ann.Student));
        Assert.Null(files.Find(left, 480));
        // Each keeps their own.
        Assert.NotNull(files.Find(ann.File, 480));
    }

    /// <summary>Whatever is done in whatever order, a member sees what is open, named and not withdrawn, and no file of another by its own name.</summary>
    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    [InlineData(4)]
    [InlineData(5)]
    public async Task Nothing_of_another_is_seen_but_what_a_gallery_shows(int seed)
    {
        var random = new Random(seed);
        Maker[] makers = [await Makes(0), await Makes(1), await Makes(2)];
        var (shown, isOpen) = (new HashSet<long>(), false);
        var everyName = new HashSet<string>();
        for (var step = 0; step < 60; step++)
        {
            var one = makers[random.Next(makers.Length)];
            switch (random.Next(4))
            {
                case 0:
                    Maker[] named = [.. makers.Where(_ => random.Next(2) == 0)];
                    Open(named);
                    (shown, isOpen) = ([.. named.Select(maker => maker.Attempt.Id)], true);
                    break;
                case 1:
                    galleries.Close(given.Id);
                    isOpen = false;
                    break;
                default:
                    galleries.Withdraw(given.Id, one.Attempt.Id, "p");
                    shown.Remove(one.Attempt.Id);
                    break;
            }
            var seen = galleries.ShownTo(one.Student);
            Assert.Equal(isOpen, seen is not null);
            Assert.Equal(isOpen ? shown.Order() : [], (seen ?? []).Select(piece => piece.AttemptId).Order());
            var names = (seen ?? []).SelectMany(piece => piece.Files.Values).ToHashSet();
            Assert.DoesNotContain(makers, maker => names.Contains(maker.File));
            Assert.All(names, name => Assert.NotNull(files.Find(name, 480)));
            Assert.All(everyName.Except(names), name => Assert.Null(files.Find(name, 480)));
            everyName.UnionWith(names);
        }
    }

    [Fact]
    public async Task What_is_deleted_or_given_back_is_shown_no_more_and_goes_with_its_files()
    {
        var (ann, ben) = (await Makes(0), await Makes(1));
        Open(ann, ben);
        attempts.GiveBack(given, ben.Student, ben.Attempt.Id, teacher);
        Assert.Equal([ann.Attempt.Id], galleries.ShownTo(ann.Student)!.Select(piece => piece.AttemptId));
        deletions.DeleteWork(teacher, given.Id, ann.Attempt.Id);
        Assert.Null(files.Find(ann.File, 480));
        Assert.Empty(galleries.ShownTo(ben.Student)!);
        clock.Ahead = Deletions.Grace + TimeSpan.FromDays(1);
        deletions.Sweep();
        Assert.False(Directory.Exists(Path.Combine(root, "data", "own", ann.File[..2], ann.File)));
        Assert.NotNull(files.Find(ben.File, 480));
        // With the assignment all goes.
        deletions.DeleteAssignment(teacher, given.Id);
        clock.Ahead += Deletions.Grace + TimeSpan.FromDays(1);
        deletions.Sweep();
        Assert.Empty(Directory.GetFiles(Path.Combine(root, "data", "own"), "*", SearchOption.AllDirectories));
    }

    [Fact]
    public async Task A_file_that_was_taken_away_again_is_not_kept()
    {
        var ann = await Makes(0, handsIn: false);
        var spare = files.Keep(ann.Attempt.Id, Picture(9));
        clock.Ahead = TimeSpan.FromDays(6);
        deletions.Sweep();
        Assert.NotNull(files.Find(spare.Name, 480));
        clock.Ahead = TimeSpan.FromDays(8);
        deletions.Sweep();
        Assert.Null(files.Find(spare.Name, 480));
        Assert.NotNull(files.Find(ann.File, 480));
    }

    [Fact]
    public async Task A_backup_has_the_files_and_is_refused_without_one()
    {
        var ann = await Makes(0);
        var (data, copy) = (Path.Combine(root, "data"), Path.Combine(root, "copy"));
        Backup.Make(data, copy);
        var folder = Path.Combine("own", ann.File[..2], ann.File);
        Assert.Equal(2, Directory.GetFiles(Path.Combine(copy, folder)).Length);
        File.Delete(Path.Combine(copy, folder, "800.webp"));
        Assert.Throws<BackupRefused>(() => Backup.Restore(copy, Path.Combine(root, "again"), clock));
    }
}
