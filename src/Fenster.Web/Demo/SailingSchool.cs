using System.Collections.Immutable;
using System.Security.Cryptography;
using System.Text.Json;
using System.Text.Json.Nodes;
using Fenster.Core.Model;
using Fenster.Core.Revealing;
using Fenster.Formats.Documents;
using Fenster.Formats.Pictures;
using Fenster.Store;
using Fenster.Web.Pages;

namespace Fenster.Web.Demo;

/// <summary>Fills an empty data folder with a made-up sailing school: its teacher, activities, pictures and a class.</summary>
internal static class SailingSchool
{
    public const string Email = "teacher@tideford.example";
    public const string Password = "high-water";
    private const string TeacherName = "Robin Teasel";

    /// <param name="folder">Holds <c>activities/</c>, <c>pictures/</c> and <c>class.json</c>.</param>
    public static void Load(IServiceProvider services, string folder)
    {
        var teachers = services.GetRequiredService<Teachers>();
        if (teachers.AddFirst(Email, TeacherName, SignInModel.Hasher.HashPassword(null!, Password)) is not { } teacher) return;

        var publications = services.GetRequiredService<Publications>();
        var names = JsonSerializer.Deserialize<string[]>(File.ReadAllText(Path.Combine(folder, "class.json")))!;
        foreach (var file in Directory.EnumerateFiles(Path.Combine(folder, "activities"), "*.json").Order(StringComparer.Ordinal))
        {
            var activity = ReadActivity(file, Path.Combine(folder, "pictures"), services.GetRequiredService<Media>());
            var document = ActivityDocument.Write(activity);
            var id = services.GetRequiredService<Drafts>().Add(teacher.Id, activity.Title, document);
            publications.Publish(id, document);
            Work(services.GetRequiredService<Attempts>(), publications.OfActivity(id)!, activity, names);
        }
    }

    /// <summary>An activity whose pictures are named by their files.</summary>
    private static Activity ReadActivity(string file, string pictures, Media media)
    {
        var document = JsonNode.Parse(File.ReadAllText(file))!;
        foreach (var pane in document["panes"]!.AsArray())
        {
            var picture = pane!["picture"]!;
            picture["media"] = Store(media, Path.Combine(pictures, (string)picture["media"]!));
        }
        return ActivityDocument.Read(document.ToJsonString());
    }

    private static string Store(Media media, string file)
    {
        var bytes = File.ReadAllBytes(file);
        var picture = PictureReader.Read(bytes);
        media.Save(picture, bytes);
        return picture.Hash;
    }

    /// <summary>
    /// The class works: some know everything, some mix a few labels up, and the last two of the list are not done yet.
    /// Which labels get mixed up is drawn from a fixed seed.
    /// </summary>
    private static void Work(Attempts attempts, Publication publication, Activity activity, string[] names)
    {
        var pane = activity.Panes[0];
        for (var i = 0; i < names.Length; i++)
        {
            var device = attempts.DeviceOf(publication.Id, attempts.Join(publication, names[i])!.Secret)!;
            var zones = pane.Targets.OfType<DropZone>().ToList();
            var answers = Mixed([.. zones.Select(zone => zone.Accepts[0].Label)], pane, mistakes: i * 7 % 5, seed: i);
            var done = i < names.Length - 2;
            IReadOnlyList<KeyedMove> moves = [.. zones.Zip(answers)
                .Take(done ? zones.Count : zones.Count / 2)
                .Select(put => new KeyedMove(put.First.Id, pane.Id, new PutDown(put.Second, 0, put.First.Id)))];
            attempts.Append(device, moves).GetAwaiter().GetResult();
            if (done) attempts.HandIn(device).GetAwaiter().GetResult();
        }
    }

    private static ImmutableArray<string> Mixed(ImmutableArray<string> answers, Pane pane, int mistakes, long seed)
    {
        var places = Shuffle.Of(Enumerable.Range(0, answers.Length), seed);
        var spare = pane.Labels.Select(label => label.Id).Except(answers).ToList();
        for (var i = 0; i + 1 < mistakes; i += 2)
            (answers, spare) = spare.Count > 0 && i > 0
                ? (answers.SetItem(places[i], spare[0]), spare[1..])
                : (answers.SetItem(places[i], answers[places[i + 1]]).SetItem(places[i + 1], answers[places[i]]), spare);
        return answers;
    }
}
