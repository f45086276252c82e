using System.Collections.Immutable;
using System.Security.Cryptography;
using System.Text.Json;
using System.Text.Json.Nodes;
using Fenster.Core.Giving;
using Fenster.Core.Model;
using Fenster.Core.Proofing;
using Fenster.Core.Revealing;
using Fenster.Formats.Documents;
using Fenster.Formats.Pictures;
using Fenster.Formats.Sounds;
using Fenster.Store;
using Fenster.Web.Hosting;
using Fenster.Web.Pages;
using NodaTime;

namespace Fenster.Web.Demo;

/// <summary>Fills an empty data folder with a made-up sailing school: its teacher, activities, pictures and a class.</summary>
internal static class SailingSchool
{
    public const string Email = "teacher@tideford.example";
    public const string Password = "high-water";
    private const string ColleagueEmail = "noor@tideford.example";
    private const string TeacherName = "Robin Teasel";

    /// <param name="folder">Holds <c>activities/</c>, <c>pictures/</c>, <c>sounds/</c>, <c>videos/</c>, <c>class.json</c>, <c>course.json</c> and <c>river.json</c>.</param>
    public static void Load(IServiceProvider services, string folder)
    {
        var teachers = services.GetRequiredService<Teachers>();
        if (teachers.AddFirst(Email, TeacherName, SignInModel.Hasher.HashPassword(null!, Password)) is not { } teacher)
            return;

        var (revisions, assignments) = (services.GetRequiredService<Revisions>(), services.GetRequiredService<Assignments>());
        var names = JsonSerializer.Deserialize<string[]>(File.ReadAllText(Path.Combine(folder, "class.json")))!;
        var all = new List<(long Id, Activity Activity, long Revision)>();
        foreach (var file in Directory.EnumerateFiles(Path.Combine(folder, "activities"), "*.json").Order(StringComparer.Ordinal))
        {
            var activity = ReadActivity(file, folder, services.GetRequiredService<Media>(), teacher.Id);
            var document = ActivityDocument.Write(activity);
            var id = services.GetRequiredService<Drafts>().Add(teacher.Id, activity, document);
            all.Add((id, activity, revisions.Publish(id, document)));
        }
        var (classes, half) = (services.GetRequiredService<Classes>(), names.Length / 2);
        var morning = Filled(classes, teacher.Id, "Harbour crew, mornings", names[..half]);
        var evening = Filled(classes, teacher.Id, "Harbour crew, evenings", names[half..]);
        new Course(services, teacher.Id, folder).Run();
        new River(services, teacher.Id, folder).Run(evening, all);
        foreach (var (id, activity, revision) in all.Where(known => IsForClass(known.Activity)))
            Work(
                services.GetRequiredService<Students>(),
                services.GetRequiredService<Attempts>(),
                assignments.Give(id, revision, group: null, new()),
                activity,
                names
            );
        GiveToClasses(services, teacher.Id, morning, evening);
        // Somebody was invited to the first activity; where a real mail server was named, nobody is written to.
        var first = assignments.Of(1)[0];
        var link = $"https://fenster.tideford.example/do/{first.Code}";
        if (services.GetRequiredService<IPost>() is Outbox outbox)
            outbox
                .Send(
                    TeacherName,
                    [Letter.Inviting("petra.vance@tideford.example", TeacherName, revisions.Activity(first.RevisionId), first.Code, link)],
                    CancellationToken.None
                )
                .GetAwaiter()
                .GetResult();
        // A colleague has laid something out on the school's shelf.
        var colleague = teachers.Add(ColleagueEmail, "Noor Vale", SignInModel.Hasher.HashPassword(null!, Guid.NewGuid().ToString()))!;
        var drafts = services.GetRequiredService<Drafts>();
        var lights = ActivityDocument.Read(drafts.Find(teacher.Id, 14)!.Document) with { Title = "Lights at night, for beginners" };
        drafts.Shelve(colleague.Id, drafts.Add(colleague.Id, lights, ActivityDocument.Write(lights)), isOut: true);
    }

    /// <summary>Two classes; of the second activity one assignment is planned, one open and one closed with its results released.</summary>
    private static void GiveToClasses(IServiceProvider services, long teacher, SchoolClass morning, SchoolClass evening)
    {
        var (classes, assignments) = (services.GetRequiredService<Classes>(), services.GetRequiredService<Assignments>());
        classes.Set(classes.Members(morning)[0], tags: "", extraTime: 25);
        var (activity, now) = (2L, TimeProvider.System.GetUtcNow().ToInstant());
        var revision = services.GetRequiredService<Revisions>().Latest(activity)!.Id;
        var terms = new Terms { Joining = Joining.MembersByWord };
        var closed = assignments.Give(activity, revision, evening.Id, terms);
        WorkOfClass(services, closed, evening);
        assignments.Close(closed.Id);
        services.GetRequiredService<Releases>().Give(closed.Id, attempts: null, teacher);
        var open = assignments.Give(
            activity,
            revision,
            morning.Id,
            terms with
            {
                Attempts = 2,
                TimeLimit = Duration.FromMinutes(30),
                Closes = now + Duration.FromDays(7),
            }
        );
        WorkOfClass(services, open, morning, most: 4);
        assignments.Give(
            3,
            services.GetRequiredService<Revisions>().Latest(3)!.Id,
            morning.Id,
            terms with
            {
                Opens = now + Duration.FromDays(2),
            }
        );
    }

    /// <summary>Whether there is something for a class to answer: no game, and no pictures of students' own.</summary>
    private static bool IsForClass(Activity activity) =>
        activity.Panes.Any(pane => pane.Targets.Any(target => target.Takes is not (Doing.Making or Doing.Opening)));

    private static SchoolClass Filled(Classes classes, long teacher, string name, string[] names)
    {
        var made = classes.One(teacher, classes.Make(teacher, name, "en"))!;
        classes.Enrol(made, [.. names.Select(each => (each, ""))]);
        return made;
    }

    private static void WorkOfClass(IServiceProvider services, Assignment assignment, SchoolClass group, int most = int.MaxValue)
    {
        var (students, attempts) = (services.GetRequiredService<Students>(), services.GetRequiredService<Attempts>());
        var activity = services.GetRequiredService<Revisions>().Activity(assignment.RevisionId);
        foreach (var (member, i) in services.GetRequiredService<Classes>().Members(group).Select((member, i) => (member, i)).Take(most))
            WorkOf(attempts, assignment, students.Let(assignment, member, knowsWord: true).In!, activity, i, isDone: i % 4 != 3);
    }

    /// <summary>An activity whose pictures and sounds are named by their files.</summary>
    private static Activity ReadActivity(string file, string folder, Media media, long teacher)
    {
        var document = JsonNode.Parse(File.ReadAllText(file))!;
        StoreFiles(document, folder, media, teacher);
        return ActivityDocument.Read(document.ToJsonString());
    }

    private static void StoreFiles(JsonNode? node, string folder, Media media, long teacher)
    {
        if (node is JsonArray items)
            foreach (var item in items)
                StoreFiles(item, folder, media, teacher);
        if (node is not JsonObject fields)
            return;
        foreach (var (name, value) in fields.ToList())
            if (name is "media" or "captions")
            {
                var hash = Store(media, folder, (string)value!);
                media.Give(hash, teacher);
                fields[name] = hash;
            }
            else
                StoreFiles(value, folder, media, teacher);
    }

    /// <returns>The hash under which the file is stored.</returns>
    private static string Store(Media media, string folder, string name)
    {
        PreparedSound? played = Path.GetExtension(name) switch
        {
            ".wav" => SoundReader.Read(File.ReadAllBytes(Path.Combine(folder, "sounds", name))),
            ".webm" => SoundReader.ReadVideo(File.ReadAllBytes(Path.Combine(folder, "videos", name))),
            ".vtt" => CaptionsReader.Read(File.ReadAllBytes(Path.Combine(folder, "videos", name))),
            _ => null,
        };
        if (played is not null)
        {
            media.Save(played);
            return played.Hash;
        }
        var bytes = File.ReadAllBytes(Path.Combine(folder, "pictures", name));
        var picture = PictureReader.Read(bytes);
        media.Save(picture, bytes);
        return picture.Hash;
    }

    /// <summary>
    /// The class works: some know everything, some do a few things blindly, and the last two of the list are not done yet.
    /// Who does what is drawn from a fixed seed.
    /// </summary>
    private static void Work(Students students, Attempts attempts, Assignment assignment, Activity activity, string[] names)
    {
        for (var i = 0; i < names.Length; i++)
            WorkOf(attempts, assignment, students.Guest(assignment, names[i], word: null).In!, activity, i, isDone: i < names.Length - 2);
    }

    private static void WorkOf(Attempts attempts, Assignment assignment, CameIn came, Activity activity, int seed, bool isDone)
    {
        var number = attempts.Begin(assignment, came.Student)!.Number;
        var device = attempts.DeviceOf(assignment.Id, came.Secret, number)!;
        foreach (var pane in activity.Panes)
        {
            var moves = Moves(pane, mistakes: seed * 7 % 5, seed);
            IReadOnlyList<KeyedMove> keyed =
            [
                .. (isDone ? moves : moves.Take(moves.Length / 2)).Select((move, n) => new KeyedMove($"{pane.Id}-{n}", pane.Id, move)),
            ];
            attempts.Append(device, keyed, TimeProvider.System.GetUtcNow()).GetAwaiter().GetResult();
        }
        if (isDone && activity.Purpose == Purpose.Marked)
            attempts.HandIn(device, TimeProvider.System.GetUtcNow()).GetAwaiter().GetResult();
    }

    /// <summary>The key, with a few things done blindly instead.</summary>
    internal static ImmutableArray<Move> Moves(Pane pane, int mistakes, long seed)
    {
        var zones = pane.Targets.OfType<DropZone>().ToList();
        if (zones.Count == pane.Targets.Length && zones.All(zone => zone.Capacity == 1))
        {
            var answers = Mixed([.. zones.Select(zone => zone.Accepts[0].Label)], pane, mistakes, seed);
            return [.. zones.Zip(answers).Select(put => new PutDown(put.Second, 0, put.First.Id))];
        }
        var key = MovesOf.Response(pane, Keys.Of(pane));
        var blind = MovesOf.Response(pane, Guessing.Play(pane, new Random((int)seed)));
        var notes = pane.Targets.OfType<OpenNote>().Select(note => new TypeText(note.Id, "Good holding, and shelter from the west."));
        // What is typed can't be done blindly: it is left out instead.
        return
        [
            .. key.Where((move, n) => mistakes == 0 || (n + seed) % 4 != 0 || move is TryCode),
            .. blind.Where((move, n) => mistakes > 0 && (n + seed) % 4 == 0 && move is not PutDown),
            .. notes,
        ];
    }

    private static ImmutableArray<string> Mixed(ImmutableArray<string> answers, Pane pane, int mistakes, long seed)
    {
        var places = Shuffle.Of(Enumerable.Range(0, answers.Length), seed);
        var spare = pane.Labels.Select(label => label.Id).Except(answers).ToList();
        for (var i = 0; i + 1 < mistakes; i += 2)
            (answers, spare) =
                spare.Count > 0 && i > 0
                    ? (answers.SetItem(places[i], spare[0]), spare[1..])
                    : (answers.SetItem(places[i], answers[places[i + 1]]).SetItem(places[i + 1], answers[places[i]]), spare);
        return answers;
    }
}
