using Fenster.Core.Geometry;
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
    private readonly Publications publications;
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
                    new DropZone { Id = "z1", Region = new Circle(new(10, 10), 5), Accepts = [new("a")] },
                    new DropZone { Id = "z2", Region = new Circle(new(50, 10), 5), Accepts = [new("b")] },
                ],
            },
        ],
    };

    public StoreTests()
    {
        database = new(folder);
        drafts = new(database, TimeProvider.System);
        publications = new(database, TimeProvider.System);
        attempts = new(database, publications, TimeProvider.System);
        teacher = new Teachers(database, TimeProvider.System).Add("t@school.example", "T", "hash").Id;
    }

    public void Dispose()
    {
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    private Publication Published(Activity? other = null)
    {
        var document = ActivityDocument.Write(other ?? Activity);
        var id = drafts.Add(teacher, Activity.Title, document);
        publications.Publish(id, document);
        return publications.OfActivity(id)!;
    }

    private (Publication Publication, Device Device) Joined(string name = "Ada", Activity? activity = null)
    {
        var publication = Published(activity);
        return (publication, attempts.DeviceOf(publication.Id, attempts.Join(publication, name)!.Secret)!);
    }

    private Attempts Reopened()
    {
        var again = new Database(folder);
        return new(again, new Publications(again, TimeProvider.System), TimeProvider.System);
    }

    private static KeyedMove Put(string key, string label, string zone) => new(key, "p", new PutDown(label, 0, zone));

    [Fact]
    public void There_is_only_one_first_teacher() =>
        Assert.Null(new Teachers(database, TimeProvider.System).AddFirst("u@school.example", "U", "hash"));

    [Fact]
    public void A_save_from_an_older_version_writes_nothing()
    {
        var id = drafts.Add(teacher, "One", "{}");
        Assert.Equal(new SaveOutcome(2, true), drafts.Save(teacher, id, 1, "Two", "{2}"));
        Assert.Equal(new SaveOutcome(2, false), drafts.Save(teacher, id, 1, "Three", "{3}"));
        Assert.Equal("{2}", drafts.Find(teacher, id)!.Document);
    }

    [Fact]
    public void A_draft_is_its_teachers_alone()
    {
        var id = drafts.Add(teacher, "One", "{}");
        var other = new Teachers(database, TimeProvider.System).Add("u@school.example", "U", "hash").Id;
        Assert.Null(drafts.Find(other, id));
        Assert.Null(drafts.Save(other, id, 1, "Mine", "{}"));
        Assert.Empty(drafts.Of(other));
    }

    [Fact]
    public void What_is_published_stays_as_it_was_and_keeps_its_code()
    {
        var first = Published();
        publications.Publish(first.ActivityId, "{new}");
        var second = publications.OfActivity(first.ActivityId)!;
        Assert.Equal(first.Code, second.Code);
        Assert.Equal(2, second.RevisionNumber);
        Assert.Equal(ActivityDocument.Write(Activity), publications.Document(first.RevisionId));
    }

    [Fact]
    public void A_closed_activity_can_be_opened_again()
    {
        var publication = Published();
        publications.Close(publication.ActivityId);
        Assert.NotNull(publications.ByCode(publication.Code)!.ClosedAt);
        publications.Reopen(publication.ActivityId);
        Assert.Null(publications.ByCode(publication.Code)!.ClosedAt);
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
        await attempts.Append(device, [Put("k1", "a", "z1"), Put("k2", "a", "z2")]);
        var again = await attempts.Append(device, [Put("k1", "a", "z1")]);
        Assert.Equal(new Placement("a", 0, "z2"), Assert.Single(again!.Responses["p"].Placements));
    }

    [Fact]
    public async Task Of_several_moves_all_are_stored_or_none()
    {
        var (publication, device) = Joined();
        await Assert.ThrowsAsync<MoveRefused>(() => attempts.Append(device, [Put("k1", "a", "z1"), Put("k2", "a", "nowhere")]));
        Assert.Empty(Assert.Single(attempts.All(publication.Id)).Responses);
    }

    [Fact]
    public async Task Of_many_students_who_place_at_once_each_gets_what_is_right_for_them()
    {
        var publication = Published();
        var devices = Enumerable.Range(0, 40).Select(i => attempts.DeviceOf(publication.Id, attempts.Join(publication, $"Student {i:00}")!.Secret)!).ToList();
        var answers = await Task.WhenAll(devices.Select(async (device, i) =>
        {
            try
            {
                return (await attempts.Append(device, [Put("k", "a", i % 4 == 0 ? "nowhere" : "z2")]))!.Responses["p"].Placements.Length;
            }
            catch (MoveRefused)
            {
                return -1;
            }
        }));
        Assert.Equal(Enumerable.Range(0, 40).Select(i => i % 4 == 0 ? -1 : 1), answers);
        Assert.Equal(30, attempts.All(publication.Id).Count(attempt => attempt.Responses.Count == 1));
    }

    [Fact]
    public async Task Handing_in_twice_changes_nothing_and_moves_afterwards_are_left_out()
    {
        var (_, device) = Joined();
        await attempts.Append(device, [Put("k1", "a", "z1")]);
        var first = (await attempts.HandIn(device))!.Handed!;
        Assert.Equal((1m, 2m), (first.Score, first.Possible));
        await attempts.Append(device, [Put("k2", "b", "z2")]);
        var second = (await attempts.HandIn(device))!;
        Assert.Equal(first, second.Handed);
        Assert.Single(second.Responses["p"].Placements);
        Assert.Equal(first, Assert.Single(Reopened().All(device.PublicationId)).Handed);
    }

    [Fact]
    public async Task A_name_belongs_to_one_device_until_it_is_set_free()
    {
        var publication = Published();
        var first = attempts.Join(publication, "Ada Quill")!;
        Assert.Null(attempts.Join(publication, " ada  QUILL "));
        var device = attempts.DeviceOf(publication.Id, first.Secret)!;
        attempts.SetFree(publication.Id, first.Attempt.Id);
        var second = attempts.Join(publication, "Ada Quill")!;
        Assert.Equal(first.Attempt.Id, second.Attempt.Id);
        Assert.Null(attempts.DeviceOf(publication.Id, first.Secret));
        Assert.Null(await attempts.Append(device, [Put("k1", "a", "z1")]));
        Assert.NotNull(await attempts.Of(attempts.DeviceOf(publication.Id, second.Secret)!));
        Assert.Null(attempts.Join(publication, "Ada Quill"));
    }

    [Fact]
    public async Task What_was_stored_is_there_when_the_folder_is_opened_anew()
    {
        var publication = Published();
        var joined = attempts.Join(publication, "Ada")!;
        await attempts.Append(attempts.DeviceOf(publication.Id, joined.Secret)!, [Put("k1", "a", "z1")]);
        var reopened = Reopened();
        var device = reopened.DeviceOf(publication.Id, joined.Secret)!;
        Assert.Single((await reopened.Of(device))!.Responses["p"].Placements);
        // And the same move is still known.
        Assert.Single((await reopened.Append(device, [Put("k1", "a", "z2")]))!.Responses["p"].Placements, new Placement("a", 0, "z1"));
    }

    [Fact]
    public async Task What_a_check_did_is_stored_as_moves_and_stays_whatever_becomes_of_the_key()
    {
        var practice = Activity with { Rules = new() { Check = new(3, WrongLabels.GoBack, RightLabels.HeldFast), Reveal = new() { Marks = Moment.Checked } } };
        var (_, device) = Joined(activity: practice);
        await attempts.Append(device, [Put("1", "a", "z1"), Put("2", "b", "z1")]);
        await attempts.Append(device, [new("3", "p", new PressCheck())]);
        var now = await attempts.Append(device, [Put("4", "a", "z1"), new("5", "p", new PressCheck()), new("5", "p", new PressCheck())]);
        var response = now!.Responses["p"];
        Assert.Equal([new Placement("a", 0, "z1")], response.Placements.AsEnumerable());
        Assert.Equal([new Placement("b", 0, "z1")], response.Earlier[0].Placements.AsEnumerable());
        Assert.Equal(2, response.Earlier.Length);

        Assert.True((await Reopened().Of(device))!.Responses["p"] is var kept && kept.IsSameWork(response) && kept.Earlier.Length == 2);
        await Assert.ThrowsAsync<MoveRefused>(() => attempts.Append(device, [new("6", "p", new TakeBack("a", 0))]));
        await attempts.HandIn(device);
        Assert.Equal(2, (await Reopened().Of(device))!.Responses["p"].Earlier.Length);
    }

    [Fact]
    public void A_copy_of_the_running_database_opens()
    {
        Published();
        var copies = Directory.CreateDirectory(Path.Combine(folder, "copy")).FullName;
        database.CopyTo(Path.Combine(copies, "fenster.db"));
        Assert.Single(new Drafts(new Database(copies), TimeProvider.System).Of(teacher));
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

    /// <summary>A clock that stands until it is set.</summary>
    private sealed class StandingClock(DateTimeOffset now) : TimeProvider
    {
        public DateTimeOffset Now { get; set; } = now;
        public override DateTimeOffset GetUtcNow() => Now;
    }

    [Fact]
    public void What_a_draft_was_is_kept_for_every_ten_minutes()
    {
        var clock = new StandingClock(new(2026, 5, 4, 9, 0, 0, TimeSpan.Zero));
        var own = new Drafts(database, clock);
        var id = own.Add(teacher, "T", "one");
        foreach (var (minute, document) in new[] { (1, "two"), (9, "three"), (11, "four"), (60 * 24, "five") })
        {
            clock.Now = new DateTimeOffset(2026, 5, 4, 9, 0, 0, TimeSpan.Zero).AddMinutes(minute);
            Assert.True(own.Save(teacher, id, own.Find(teacher, id)!.Version, "T", document)!.Saved);
        }
        // The last of each ten minutes, the newest first, each with its time.
        Assert.Equal(["five", "four", "three"], own.Versions(teacher, id).Select(version => version.Document));
        Assert.Equal(new DateTimeOffset(2026, 5, 4, 9, 9, 0, TimeSpan.Zero), own.Versions(teacher, id)[2].SavedAt);
        Assert.Equal("four", own.Version(teacher, id, own.Versions(teacher, id)[1].Slot)!.Document);
        Assert.Empty(own.Versions(teacher + 1, id));
        // A refused save leaves nothing.
        Assert.False(own.Save(teacher, id, 1, "T", "six")!.Saved);
        Assert.DoesNotContain("six", own.Versions(teacher, id).Select(version => version.Document));
        // Three weeks on, the last of each day is left.
        clock.Now = clock.Now.AddDays(21);
        Assert.True(own.Save(teacher, id, own.Find(teacher, id)!.Version, "T", "seven")!.Saved);
        Assert.Equal(["seven", "five", "four"], own.Versions(teacher, id).Select(version => version.Document));
    }
}
