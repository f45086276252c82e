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
        var (drafts, publications) = (new Drafts(database, TimeProvider.System), new Publications(database, TimeProvider.System));
        var attempts = new Attempts(database, publications, TimeProvider.System);

        var cards = drafts.Page(1, ["older"], null, startersOnly: false, 0, 10);
        Assert.Equal("Older work, again", Assert.Single(cards).Title);
        Assert.Equal((1, 3, 1, 1), (cards[0].Panes, cards[0].Targets, cards[0].HandedIn, cards[0].Working));
        Assert.Equal(["Sailing"], drafts.Subjects(1, 10));
        Assert.Equal("Older work, again", Assert.Single(drafts.Versions(1, 1)).Title);
        Assert.NotEmpty(new Shelf(database, TimeProvider.System).Uses(1)[cards[0].Media!]);

        var practice = publications.OfActivity(1)!;
        var lines = attempts.Page(practice.Id);
        Assert.Equal(["Ada", "Bea"], lines.Select(line => line.Name));
        var ada = attempts.One(practice.Id, lines[0].Id)!;
        Assert.Equal((1.75m, 2m), (ada.Handed!.Score, ada.Handed.Possible));
        Assert.Equal(1.75m, Core.Scoring.Scorer.Score(publications.Activity(ada.RevisionId), ada.Responses).Score);
        var bea = attempts.One(practice.Id, lines[1].Id)!.Responses["one"];
        Assert.Equal(new Placement("a", 0, "z"), Assert.Single(bea.Placements));
        Assert.Equal(2, bea.Earlier.Length);
        // What a look found is a move of its own now.
        Assert.Equal(["spot"], bea.Opened.AsEnumerable());

        // Each label that a full zone sent back is back in the bank.
        var full = publications.OfActivity(2)!;
        var cem = attempts.One(full.Id, attempts.Page(full.Id)[0].Id)!.Responses["one"];
        Assert.Equal(new Placement("a", 0, "z"), Assert.Single(cem.Placements));

        // And the work goes on.
        var dee = attempts.DeviceOf(full.Id, attempts.Join(full, "Dee")!.Secret)!;
        Assert.Single((await attempts.Append(dee, [new("k", "one", new PutDown("a", 0, "z"))], DateTimeOffset.UtcNow)).Attempt!.Responses);
    }

    [Fact]
    public void Opened_a_second_time_it_is_as_it_was()
    {
        using (Upgraded("three-schemas")) { }
        using var again = new Database(folder);
        Assert.Single(Directory.GetFiles(folder, "before-upgrade-*.db"));
        Assert.Equal("Older work, again", ActivityDocument.Read(new Drafts(again, TimeProvider.System).Find(1, 1)!.Document).Title);
    }
}
