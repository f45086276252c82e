using Fenster.Core.Model;
using Fenster.Store;

namespace Fenster.Web.Demo;

/// <summary>
/// Thirty made-up students who work at the second activity while somebody watches: each goes on every few seconds, some make mistakes, some
/// stop half-way, the others hand in.
/// </summary>
internal sealed class LivelyClass(Assignments assignments, Revisions revisions, Students students, Attempts attempts) : BackgroundService
{
    private const long OfActivity = 2;

    private static readonly string[] Names =
    [
        .. (
            "Mia Noah Lea Ben Ida Omar Zoe Kai Ella Finn Yara Jonas Amal Luis Nora Emil Sara Ravi Tess Hugo "
            + "Lina Max Aya Theo Juna Paul Rosa Milan Vera Anton"
        ).Split(' '),
    ];

    private static readonly TimeSpan Between = TimeSpan.FromMilliseconds(300);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        if (assignments.Of(OfActivity) is not [.., var assignment])
            return;
        var activity = revisions.Activity(assignment.RevisionId);
        var random = new Random(11);
        var working = new List<(Device Device, Queue<KeyedMove> Moves)>();
        foreach (var (name, i) in Names.Select((name, i) => (name, i)))
            if (students.Guest(assignment, name, word: null).In is { } came && attempts.Begin(assignment, came.Student) is { } attempt)
            {
                var moves = activity
                    .Panes.SelectMany(pane => SailingSchool.Moves(pane, mistakes: i % 5, seed: i).Select(move => (pane, move)))
                    .Select((each, n) => new KeyedMove($"lively.{n}", each.pane.Id, each.move))
                    .ToList();
                // Each seventh stops half-way.
                working.Add(
                    (attempts.DeviceOf(assignment.Id, came.Secret, attempt.Number)!, new(i % 7 == 3 ? moves.Take(moves.Count / 2) : moves))
                );
            }
        while (working.Count > 0)
        {
            await Task.Delay(Between, stoppingToken);
            var next = random.Next(working.Count);
            var (device, moves) = working[next];
            if (moves.TryDequeue(out var move))
                await attempts.Append(device, [move], TimeProvider.System.GetUtcNow());
            else
            {
                working.RemoveAt(next);
                if (LeftOpen.Count(activity, attempts.Of(device)!.Responses) == 0)
                    await attempts.HandIn(device, TimeProvider.System.GetUtcNow());
            }
        }
    }
}
