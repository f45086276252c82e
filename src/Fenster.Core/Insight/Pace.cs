using System.Collections.Immutable;
using Fenster.Core.Model;

namespace Fenster.Core.Insight;

/// <summary>How long a student's work on each target took.</summary>
public static class Pace
{
    /// <summary>
    /// The time from one move to the next belongs to the targets that the next one concerns; the first move's time runs
    /// from the start. A target that no move concerns is not named.
    /// </summary>
    /// <param name="moves">On this pane, in their order.</param>
    public static ImmutableDictionary<string, TimeSpan> Of(
        Pane pane,
        DateTimeOffset start,
        IEnumerable<(DateTimeOffset At, Move Move)> moves
    )
    {
        var times = ImmutableDictionary.CreateBuilder<string, TimeSpan>();
        var last = start;
        foreach (var (at, move) in moves)
        {
            foreach (var target in Concerned(pane, move))
                times[target] = times.GetValueOrDefault(target) + (at - last);
            last = at;
        }
        return times.ToImmutable();
    }

    /// <summary>The same for all panes of an activity, by pane id: time runs on from the last move anywhere.</summary>
    /// <param name="log">In its order.</param>
    public static ImmutableDictionary<string, ImmutableDictionary<string, TimeSpan>> Of(
        Activity activity,
        DateTimeOffset start,
        IEnumerable<(DateTimeOffset At, string Pane, Move Move)> log
    )
    {
        var panes = activity.Panes.ToDictionary(pane => pane.Id);
        var times = new Dictionary<(string Pane, string Target), TimeSpan>();
        var last = start;
        foreach (var (at, id, move) in log)
        {
            if (panes.TryGetValue(id, out var pane))
                foreach (var target in Concerned(pane, move))
                    times[(id, target)] = times.GetValueOrDefault((id, target)) + (at - last);
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
            PickOptions pick => [pick.Target],
            DrawLinks draw => [draw.Target],
            TryCode attempt => [attempt.Target],
            OpenSpot open => [open.Target],
            TakeBack or LookAt or PressCheck => [],
            _ => throw new ArgumentOutOfRangeException(nameof(move), move, "This kind of move is not known."),
        };
}
