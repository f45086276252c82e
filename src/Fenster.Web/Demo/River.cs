using System.Collections.Immutable;
using System.Text.Json;
using Dapper;
using Fenster.Core.Giving;
using Fenster.Core.Model;
using Fenster.Formats.Documents;
using Fenster.Formats.Pictures;
using Fenster.Store;
using NodaTime;

namespace Fenster.Web.Demo;

/// <summary>Six of a class have made pictures of their own, and the teacher shows them in a gallery; a chart waits for answers by spots.</summary>
internal sealed class River(IServiceProvider services, long teacher, string folder)
{
    /// <summary>A picture as the demo's files tell of it.</summary>
    /// <param name="File">In <c>pictures/river</c>.</param>
    private sealed record Made(string File, string AltText, ImmutableArray<OwnSpot> Spots);

    private const string Own = "My stretch of the river",
        Chart = "Where would you anchor?";

    public void Run(SchoolClass group, IReadOnlyList<(long Id, Activity Activity, long Revision)> all)
    {
        var (assignments, members) = (Get<Assignments>(), Get<Classes>().Members(group));
        var made = JsonSerializer.Deserialize<Made[]>(File.ReadAllText(Path.Combine(folder, "river.json")), DocumentJson.Options)!;
        var (id, activity, revision) = all.Single(known => known.Activity.Title == Own);
        var given = assignments.Give(id, revision, group.Id, new() { Joining = Joining.MembersByWord });
        var handed = made.Select((one, i) => Work(given, activity, members[i], one)).ToList();
        Award(handed);
        Get<Galleries>()
            .Open(
                given.Id,
                TimeProvider.System.GetUtcNow().AddDays(21),
                showsNames: false,
                [
                    .. handed.Select(attempt =>
                        (
                            attempt.Id,
                            activity.Panes[0].Id,
                            (IReadOnlyList<string>)[.. attempt.Responses[activity.Panes[0].Id].Own.Values.SelectMany(own => own.Files())]
                        )
                    ),
                ]
            );
        var (chart, _, chartRevision) = all.Single(known => known.Activity.Title == Chart);
        assignments.Give(chart, chartRevision, group: null, new());
    }

    private T Get<T>()
        where T : notnull => services.GetRequiredService<T>();

    private Attempt Work(Store.Assignment given, Activity activity, Member member, Made made)
    {
        var (attempts, pane) = (Get<Attempts>(), activity.Panes[0]);
        var came = Get<Students>().Let(given, member, knowsWord: true).In!;
        var device = attempts.DeviceOf(given.Id, came.Secret, attempts.Begin(given, came.Student)!.Number)!;
        var picture = PictureReader.Read(File.ReadAllBytes(Path.Combine(folder, "pictures", "river", made.File)));
        var kept = Get<OwnFiles>().Keep(device.AttemptId, picture);
        var target = pane.Targets[0].Id;
        Move[] moves =
        [
            new BringPicture(target, new(kept.Name, kept.Width, kept.Height, made.AltText)),
            .. made.Spots.Select(spot => new PutSpot(target, spot)),
        ];
        var now = TimeProvider.System.GetUtcNow();
        attempts
            .Append(device, [.. moves.Select((move, n) => new KeyedMove($"{pane.Id}-{n}", pane.Id, move))], now)
            .GetAwaiter()
            .GetResult();
        return attempts.HandIn(device, now).GetAwaiter().GetResult().Attempt!;
    }

    /// <summary>The first ones are marked, the others wait.</summary>
    private void Award(IReadOnlyList<Attempt> handed)
    {
        foreach (var (attempt, i) in handed.Take(3).Select((attempt, i) => (attempt, i)))
        {
            ImmutableArray<decimal> points = [4 - i % 2, 4 - i, 2];
            var (pane, target) = attempt.Responses.Select(response => (response.Key, response.Value.Own.Keys.Single())).Single();
            Get<Attempts>()
                .Mark(
                    attempt.Id,
                    attempt.Marked,
                    new(
                        [new(pane, target, new(target, points.Sum() / 10, "Robin Teasel", TimeProvider.System.GetUtcNow()), points)],
                        [new NewRemark(pane, target, null, "The way you say what to do there helps most.")],
                        []
                    ),
                    teacher
                );
        }
    }
}
