using System.Text.Json.Nodes;
using Dapper;
using Fenster.Core.Model;
using Fenster.Formats.Documents;
using Microsoft.Data.Sqlite;

namespace Fenster.Store.Tests;

/// <summary>Drafts of which only the panes that changed are sent and stored.</summary>
public sealed class DraftPanesTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("fenster-").FullName;
    private readonly Database database;
    private readonly Drafts drafts;
    private readonly StandingClock clock = new(new(2026, 5, 4, 9, 0, 0, TimeSpan.Zero));
    private readonly long teacher;
    private readonly long id;

    public DraftPanesTests()
    {
        database = new(folder);
        drafts = new(database, clock);
        teacher = new Teachers(database, TimeProvider.System).Add("t@school.example", "T", "hash")!.Id;
        id = drafts.Add(teacher, Three, ActivityDocument.Write(Three));
    }

    public void Dispose()
    {
        database.Dispose();
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    private static Activity Three => new() { Title = "Three", Panes = [PaneOf("a", "one"), PaneOf("b", "one"), PaneOf("c", "one")] };

    private static Pane PaneOf(string id, string word) => new() { Id = id, Labels = [new Label { Id = "l", Text = word }] };

    /// <summary>As the workbench sends it: strings stand for panes that are as they are saved.</summary>
    private static string Sent(params object[] panes)
    {
        var document = JsonNode.Parse(ActivityDocument.Write(Three with { Panes = [] }))!;
        document["panes"] = new JsonArray([
            .. panes.Select(pane =>
                pane is Pane whole
                    ? JsonNode.Parse(ActivityDocument.Write(Three with { Panes = [whole] }))!["panes"]![0]!.DeepClone()
                    : JsonValue.Create((string)pane)
            ),
        ]);
        return document.ToJsonString(DocumentJson.Options);
    }

    private SaveOutcome Save(long version, params object[] panes) => drafts.SaveParts(teacher, id, version, Sent(panes))!.Outcome;

    private static string Words(string document) =>
        string.Join(' ', ActivityDocument.Read(document).Panes.Select(pane => pane.Id + pane.Labels[0].Text));

    private string Now => Words(drafts.Find(teacher, id)!.Document);

    private long Rows => database.Read(connection => connection.ExecuteScalar<long>("select count(*) from draft_pane"));

    [Fact]
    public void A_pane_that_is_named_stays_as_it_was_and_only_what_changed_is_stored_anew()
    {
        Assert.Equal(new SaveOutcome(2, true), Save(1, PaneOf("a", "two"), "b", "c"));
        Assert.Equal("atwo bone cone", Now);
        var before = database.Read(connection => connection.Query<long>("select id from draft_pane where until is null").ToHashSet());
        Assert.Equal(new SaveOutcome(3, true), Save(2, "a", PaneOf("b", "two"), "c"));
        Assert.Equal("atwo btwo cone", Now);
        var after = database.Read(connection => connection.Query<long>("select id from draft_pane where until is null").ToList());
        Assert.Equal(2, after.Count(before.Contains));
    }

    [Fact]
    public void What_is_stored_is_the_document_as_it_would_be_stored_whole()
    {
        Save(1, "a", "b", PaneOf("c", "two"));
        var whole = Three with { Panes = [PaneOf("a", "one"), PaneOf("b", "one"), PaneOf("c", "two")] };
        Assert.Equal(ActivityDocument.Write(whole), drafts.Find(teacher, id)!.Document);
        Assert.Equal(["a", "b", "c"], drafts.Activity(teacher, id)!.Panes.Select(pane => pane.Id));
    }

    [Fact]
    public void Panes_are_moved_added_and_taken_away_by_their_names()
    {
        Save(1, "c", PaneOf("d", "new"), "a");
        Assert.Equal("cone dnew aone", Now);
        Save(2, "d");
        Assert.Equal("dnew", Now);
        Save(3);
        Assert.Empty(ActivityDocument.Read(drafts.Find(teacher, id)!.Document).Panes);
    }

    [Fact]
    public void A_save_that_comes_twice_counts_once_and_another_windows_is_not_written_over()
    {
        Assert.Equal(new SaveOutcome(2, true), Save(1, PaneOf("a", "two"), "b", "c"));
        Assert.Equal(new SaveOutcome(2, true), Save(1, PaneOf("a", "two"), "b", "c"));
        Assert.Equal(new SaveOutcome(2, false), Save(1, PaneOf("a", "three"), "b", "c"));
        Assert.Equal(new SaveOutcome(3, true), Save(2, PaneOf("a", "two"), "b"));
        // What it names is gone by now.
        Assert.Equal(new SaveOutcome(3, false), Save(2, PaneOf("a", "two"), "b", "c"));
        Assert.Equal("atwo bone", Now);
        Assert.Null(drafts.SaveParts(teacher + 1, id, 3, Sent("a")));
    }

    [Fact]
    public void What_the_draft_never_had_cannot_be_named_and_nothing_is_lost()
    {
        Assert.Throws<DocumentRefused>(() => Save(1, "a", "x"));
        Assert.Throws<DocumentRefused>(() => Save(1, "a", "a"));
        Assert.Throws<DocumentRefused>(() => drafts.SaveParts(teacher, id, 1, "{\"fenster\":1,\"title\":\"T\",\"panes\":[1]}"));
        Assert.Throws<DocumentRefused>(() => drafts.SaveParts(teacher, id, 1, "{\"fenster\":1,\"title\":\"T\",\"panes\":[null]}"));
        Assert.Throws<DocumentRefused>(() => drafts.SaveParts(teacher, id, 1, "{\"fenster\":1,\"title\":\"T\",\"panes\":{}}"));
        Assert.Throws<DocumentRefused>(() => drafts.SaveParts(teacher, id, 1, "[]"));
        Assert.Throws<DocumentRefused>(() => drafts.SaveParts(teacher, id, 1, "{"));
        Assert.Equal("aone bone cone", Now);
    }

    [Fact]
    public void Fields_that_are_not_known_stay_on_panes_that_are_sent_and_on_those_that_are_named()
    {
        var document = JsonNode.Parse(Sent(PaneOf("a", "two"), "b", "c"))!;
        document["later"] = "head";
        document["panes"]![0]!["later"] = "pane";
        drafts.SaveParts(teacher, id, 1, document.ToJsonString());
        var again = JsonNode.Parse(Sent("a", PaneOf("b", "two"), "c"))!;
        again["later"] = "head";
        drafts.SaveParts(teacher, id, 2, again.ToJsonString());
        var stored = JsonNode.Parse(drafts.Find(teacher, id)!.Document)!;
        Assert.Equal(("head", "pane"), ((string)stored["later"]!, (string)stored["panes"]![0]!["later"]!));
    }

    [Fact]
    public void Earlier_states_stay_whole_whatever_is_saved_later_and_panes_that_none_has_go()
    {
        Save(1, PaneOf("a", "1"), "b", "c");
        for (var version = 2; version < 30; version++)
            Save(version, PaneOf("a", $"{version}"), "b", "c");
        // Of one ten minutes the last state is left, and so of the first pane one row.
        Assert.Equal(3, Rows);
        clock.Now = clock.Now.AddMinutes(20);
        Save(30, PaneOf("a", "later"), PaneOf("b", "later"), "c");
        Assert.Equal(5, Rows);
        Assert.Equal(
            ["alater blater cone", "a29 bone cone"],
            drafts.Versions(teacher, id).Select(line => Words(drafts.Version(teacher, id, line.Slot)!.Document))
        );
        var first = drafts.Version(teacher, id, drafts.Versions(teacher, id)[1].Slot)!.Document;
        Assert.True(drafts.GoBack(teacher, id, 31, ActivityDocument.Read(first), first)!.Saved);
        Assert.Equal("a29 bone cone", Now);
        Assert.Equal(new SaveOutcome(33, true), Save(32, "a", PaneOf("b", "again"), "c"));
        Assert.Equal(
            ["a29 bagain cone", "alater blater cone", "a29 bone cone"],
            drafts.Versions(teacher, id).Select(line => Words(drafts.Version(teacher, id, line.Slot)!.Document))
        );
    }

    [Fact]
    public void Another_process_sees_and_goes_on_with_what_this_one_saved()
    {
        Save(1, PaneOf("a", "two"), "b", "c");
        using var second = new Database(folder);
        var other = new Drafts(second, clock);
        Assert.True(other.SaveParts(teacher, id, 2, Sent("a", PaneOf("b", "theirs"), "c"))!.Outcome.Saved);
        Assert.Equal(new SaveOutcome(3, false), Save(2, "a", "b", PaneOf("c", "ours")));
        Assert.Equal(new SaveOutcome(4, true), Save(3, "a", "b", PaneOf("c", "ours")));
        Assert.Equal("atwo btheirs cours", Words(other.Find(teacher, id)!.Document));
    }

    [Fact]
    public void All_goes_with_the_activity()
    {
        Save(1, PaneOf("a", "two"), "b", "c");
        var deletions = new Deletions(database, clock);
        deletions.DeleteActivity(teacher, id);
        clock.Now = clock.Now.AddDays(31);
        deletions.Sweep();
        Assert.Equal(0, Rows);
    }
}
