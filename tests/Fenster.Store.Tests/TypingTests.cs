using Dapper;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Fenster.Formats.Documents;
using Microsoft.Data.Sqlite;

namespace Fenster.Store.Tests;

/// <summary>A text costs what it is long, and not what it was typed.</summary>
public sealed class TypingTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("fenster-").FullName;
    private readonly Database database;
    private readonly Attempts attempts;
    private Device device = null!;

    public TypingTests()
    {
        database = new(folder);
        attempts = new(database, new Revisions(database, TimeProvider.System), TimeProvider.System);
    }

    public void Dispose()
    {
        database.Dispose();
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    private void Begin(Rules? rules = null)
    {
        var clock = TimeProvider.System;
        var (revisions, assignments, students) = (
            new Revisions(database, clock),
            new Assignments(database, clock),
            new Students(database, clock)
        );
        var teacher = new Teachers(database, clock).AddFirst("t@school.example", "T", "hash")!.Id;
        var activity = new Activity
        {
            Title = "Essay",
            Rules = rules ?? new(),
            Panes =
            [
                new Pane
                {
                    Id = "p",
                    Picture = new(new string('0', 64), 1000, 700, "Something"),
                    Labels = [new Label { Id = "a", Text = "a" }],
                    Targets =
                    [
                        new OpenNote { Id = "n", Region = new Rectangle(0, 0, 100, 50) },
                        new AnswerBox
                        {
                            Id = "b",
                            Region = new Rectangle(0, 100, 100, 50),
                            Answer = new TypedText([new("word")]),
                        },
                        new DropZone
                        {
                            Id = "z",
                            Region = new Rectangle(200, 0, 100, 50),
                            Accepts = [new("a")],
                        },
                    ],
                },
                new Pane { Id = "own", Targets = [new OwnPicture { Id = "o", Prompt = "Yours" }] },
            ],
        };
        var document = ActivityDocument.Write(activity);
        var id = new Drafts(database, clock).Add(teacher, activity, document);
        var given = assignments.Give(id, revisions.Publish(id, document), group: null, new());
        var come = students.Guest(given, "Mia", null).In!;
        attempts.Begin(given, come.Student);
        device = attempts.DeviceOf(given.Id, come.Secret, 1)!;
    }

    private int keys;

    private async Task<Taken> Make(Move move, string pane = "p", string? key = null) =>
        await attempts.Append(device, [new(key ?? $"d.{++keys}", pane, move)], DateTimeOffset.UtcNow);

    private long Stored() =>
        database.Read(connection =>
            connection.ExecuteScalar<long>("select sum(length(move)) from move where attempt_id = @AttemptId", device)
        );

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public async Task A_note_of_three_thousand_letters_that_is_stored_with_each_rest_locks_nobody_out(bool immediate)
    {
        Begin(immediate ? new() { Reveal = new() { Marks = Moment.Placed } } : null);
        var note = string.Concat(Enumerable.Repeat("كتاب ", 600));
        for (var rest = 1; rest <= 1200; rest++)
            Assert.Empty((await Make(new TypeText("n", note[..(note.Length * rest / 1200)]))).Refused);
        Assert.Empty((await Make(new PutDown("a", 0, "z"))).Refused);
        Assert.Equal(note, attempts.Of(device)!.Responses["p"].Texts["n"]);
        Assert.InRange(Stored(), note.Length, note.Length + 1300 * 40);
        // Who reads it for the first time reads the same.
        using var beside = new Database(folder);
        var fresh = new Attempts(beside, new Revisions(beside, TimeProvider.System), TimeProvider.System);
        Assert.Equal(
            ResponseDocument.Write(attempts.Of(device)!.Responses),
            ResponseDocument.Write(fresh.Anywhere(device.AttemptId)!.Responses)
        );
        // What is stepped through is what is still there.
        Assert.InRange(attempts.Moments(device.AttemptId).Count, 2, 5);
        Assert.NotNull((await attempts.HandIn(device, DateTimeOffset.UtcNow)).Attempt!.Handed);
    }

    [Fact]
    public async Task What_was_typed_before_a_check_stays_and_a_move_that_comes_again_changes_nothing()
    {
        Begin(
            new()
            {
                Check = new(null, WrongLabels.Stay, RightLabels.MayMove),
                Reveal = new() { Marks = Moment.Checked },
            }
        );
        await Make(new TypeText("b", "w"), key: "d.first");
        await Make(new TypeText("b", "wo"));
        await Make(new PressCheck());
        await Make(new TypeText("b", "wor"));
        await Make(new TypeText("b", "word"));
        await Make(new PressCheck());
        await Make(new TypeText("b", "w"), key: "d.first");
        var response = attempts.Of(device)!.Responses["p"];
        Assert.Equal(("word", "wo", "word"), (response.Texts["b"], response.Earlier[0].Texts["b"], response.Earlier[1].Texts["b"]));
        Assert.Equal([2, 3, 5, 6], attempts.Moments(device.AttemptId).Select(moment => (int)moment.Number));
        Assert.Equal("wo", attempts.ResponsesAfter(device.AttemptId, 2)["p"].Texts["b"]);
    }

    [Fact]
    public async Task Many_texts_of_one_request_and_of_a_spot_on_an_own_picture_are_kept_as_they_stand()
    {
        Begin();
        var taken = await attempts.Append(
            device,
            [.. Enumerable.Range(1, 100).Select(i => new KeyedMove($"d.all{i}", "p", new TypeText("n", new string('x', i * 90))))],
            DateTimeOffset.UtcNow
        );
        Assert.Empty(taken.Refused);
        var picture = new OwnImage(new string('c', 64), 100, 100, "");
        await Make(new BringPicture("o", picture), "own");
        foreach (var (id, at) in ((string, double)[])[("s1", 10), ("s2", 20)])
            await Make(new PutSpot("o", new OwnSpot(id, new(at, at))), "own");
        for (var i = 1; i <= 100; i++)
            await Make(new PutSpot("o", new OwnSpot("s1", new(10, 10)) { Title = "Title", Text = new string('ä', i * 29) }), "own");
        var own = attempts.Of(device)!.Responses["own"].Own["o"];
        Assert.Equal(["s1", "s2"], own.Spots.Select(spot => spot.Id));
        Assert.Equal(2900, own.Spots[0].Text.Length);
        Assert.InRange(Stored(), 9000 + 2900, 30_000);
        using var beside = new Database(folder);
        var fresh = new Attempts(beside, new Revisions(beside, TimeProvider.System), TimeProvider.System);
        Assert.Equal(
            ResponseDocument.Write(attempts.Of(device)!.Responses),
            ResponseDocument.Write(fresh.Anywhere(device.AttemptId)!.Responses)
        );
    }
}
