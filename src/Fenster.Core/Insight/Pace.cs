using System.Collections.Immutable;
using Fenster.Core.Model;

namespace Fenster.Core.Insight;

/// <summary>How long a student's work on each target took.</summary>
public static class Pace
{
    /// <summary>
    /// By pane and target: the time from one move to the next, anywhere, belongs to the targets that the next one concerns. What passes
    /// before the first move is reading, and belongs to none. A target that no move concerns is not named.
    /// </summary>
    /// <param name="log">In its order.</param>
    public static ImmutableDictionary<string, ImmutableDictionary<string, TimeSpan>> Of(
        Activity activity,
        IEnumerable<(DateTimeOffset At, string Pane, Move Move)> log
    )
    {
        var panes = activity.Panes.ToDictionary(pane => pane.Id);
        var times = new Dictionary<(string Pane, string Target), TimeSpan>();
        DateTimeOffset? last = null;
        foreach (var (at, id, move) in log)
        {
            if (last is { } before && panes.TryGetValue(id, out var pane))
                foreach (var target in Concerned(pane, move))
                    times[(id, target)] = times.GetValueOrDefault((id, target)) + (at - before);
            last = at;
        }
        return times
            .GroupBy(time => time.Key.Pane)
            .ToImmutableDictionary(pane => pane.Key, pane => pane.ToImmutableDictionary(time => time.Key.Target, time => time.Value));
    }

    private static IEnumerable<string> Concerned(Pane pane, Move move) =>
        move switch
        {
            PutDown put => [put.Zone],
            PinDown pin => pane
                .Targets.Where(target =>
                    target.Takes == Doing.Pinning
                    && (target is SortRegion region ? region.Region.Contains(pin.At) : target.NamedLabels.Contains(pin.Label))
                )
                .Select(target => target.Id),
            MarkPoints mark => [mark.Target],
            TypeText typed => [typed.Target],
            Typing typing => [typing.Target],
            PickOptions pick => [pick.Target],
            DrawLinks draw => [draw.Target],
            TryCode attempt => [attempt.Target],
            OpenSpot open => [open.Target],
            BringPicture bring => [bring.Target],
            PutSpot put => [put.Target],
            TakeSpot take => [take.Target],
            TakeBack or LookAt or PressCheck => [],
            _ => throw new ArgumentOutOfRangeException(nameof(move), move, "This kind of move is not known."),
        };
}
