using System.Collections.Immutable;
using System.Text.Json;
using Dapper;
using Fenster.Core.Geometry;
using Fenster.Core.Insight;
using Fenster.Core.Model;
using Fenster.Core.Proofing;
using Fenster.Formats.Documents;
using Fenster.Store;

namespace Fenster.Web.Demo;

/// <summary>
/// A course of forty whose answers tell a story: each has an ability, each thing a difficulty, and some have a thing wrong in the same way
/// as others. All of it is drawn from one seed. One key is put right afterwards.
/// </summary>
internal sealed class Course(IServiceProvider services, long teacher, string folder)
{
    private const int Seed = 20_27;

    /// <summary>How long ago they worked.</summary>
    private static readonly TimeSpan Ago = TimeSpan.FromDays(3);

    /// <summary>Who takes one label for another: of the activity with this number, with how many in a hundred.</summary>
    private static readonly (int Activity, string Label, string Instead, int Percent)[] MixUps =
    [
        (2, "label-10", "label-4", 48), // the kicking strap and the mainsheet: both are ropes at the boom
        (1, "label-1", "label-2", 12),
    ];

    /// <summary>What many type who do not know better.</summary>
    private static readonly Dictionary<string, string> Typed = new()
    {
        ["b45"] = "nor'east",
        ["b225"] = "south-east",
        ["degrees"] = "40",
        ["range"] = "5.2",
    };

    /// <summary>What takes longer than all else, in seconds.</summary>
    private static readonly Dictionary<string, int> Slow = new() { ["range"] = 95 };

    private readonly Random random = new(Seed);

    public void Run()
    {
        var (classes, assignments, revisions) = (Get<Classes>(), Get<Assignments>(), Get<Revisions>());
        var names = JsonSerializer.Deserialize<string[]>(File.ReadAllText(Path.Combine(folder, "course.json")))!;
        var group = classes.One(teacher, classes.Make(teacher, "Day skippers, autumn course", "en"))!;
        classes.Enrol(group, [.. names.Select((name, i) => (name, i % 13 == 4 ? "second language" : ""))]);
        var abilities = names.Select(_ => Normal()).ToList();
        var members = classes.Members(group);
        foreach (var activity in (int[])[1, 2, 3, 4, 6, 8])
        {
            var given = assignments.Give(
                activity,
                revisions.Latest(activity)!.Id,
                group.Id,
                new() { Joining = Core.Giving.Joining.MembersByWord }
            );
            for (var i = 0; i < members.Count; i++)
                Work(given, activity, revisions.Activity(given.RevisionId), members[i], abilities[i]);
            assignments.Close(given.Id);
            Age(given.Id);
            if (activity == 6)
                PutRight(assignments.One(given.Id)!);
        }
    }

    private T Get<T>()
        where T : notnull => services.GetRequiredService<T>();

    /// <summary>Box and Muller's normal numbers.</summary>
    private double Normal() => Math.Sqrt(-2 * Math.Log(1 - random.NextDouble())) * Math.Cos(2 * Math.PI * random.NextDouble());

    /// <summary>By the model of Rasch: the abler, and the easier the thing, the likelier.</summary>
    private bool Knows(double ability, int number) =>
        random.NextDouble() < 1 / (1 + Math.Exp(-1.4 * (ability + 1.1 - number * 5 % 7 * 0.3)));

    private void Work(Store.Assignment given, int number, Activity activity, Member member, double ability)
    {
        var attempts = Get<Attempts>();
        var came = Get<Students>().Let(given, member, knowsWord: true).In!;
        var device = attempts.DeviceOf(given.Id, came.Secret, attempts.Begin(given, came.Student)!.Number)!;
        var (moves, took) = (new List<KeyedMove>(), new List<double>());
        foreach (var pane in activity.Panes)
        foreach (var (move, n) in Moves(number, pane, ability).Select((move, n) => (move, n)))
        {
            var slow = move is TypeText { Target: var target } && Slow.TryGetValue(target, out var seconds) ? seconds : 9;
            moves.Add(new($"{pane.Id}-{n}", pane.Id, move));
            took.Add(slow * (0.5 + random.NextDouble()));
        }
        var now = DateTimeOffset.UtcNow;
        attempts.Append(device, moves, now).GetAwaiter().GetResult();
        attempts.HandIn(device, now).GetAwaiter().GetResult();
        Time(device.AttemptId, now - Ago, took);
    }

    /// <summary>They worked some days ago, and took their time: nobody waits for it while the demo is made.</summary>
    /// <param name="took">Of each move, in seconds.</param>
    private void Time(long attempt, DateTimeOffset begun, List<double> took) =>
        Get<Database>()
            .Write(connection =>
            {
                var at = begun;
                for (var i = 0; i < took.Count; i++)
                {
                    at += TimeSpan.FromSeconds(took[i]);
                    connection.Execute(
                        "update move set made_at = @at where attempt_id = @attempt and number = @number",
                        new
                        {
                            at,
                            attempt,
                            number = i + 1,
                        }
                    );
                }
                return connection.Execute(
                    "update attempt set edition = edition + 1, started_at = @begun, handed_in_at = @at where id = @attempt",
                    new
                    {
                        begun,
                        at,
                        attempt,
                    }
                );
            });

    /// <summary>It was closed when they had worked.</summary>
    private void Age(long assignment) =>
        Get<Database>()
            .Write(connection =>
                connection.Execute(
                    "update assignment set ended_at = ended_at - @ago where id = @assignment",
                    new { assignment, ago = (long)(Ago - TimeSpan.FromHours(1)).TotalMilliseconds }
                )
            );

    private IEnumerable<Move> Moves(int activity, Pane pane, double ability)
    {
        var placed = Placed(activity, pane, ability);
        foreach (var (target, number) in pane.Targets.Select((target, number) => (target, number)))
        {
            var knows = Knows(ability, number);
            foreach (var move in At(pane, target, knows, number))
                yield return move;
        }
        foreach (var move in placed)
            yield return move;
    }

    /// <summary>Labels in zones: what is known at its place, what is mixed up at the other's, the rest where there is room.</summary>
    private List<Move> Placed(int activity, Pane pane, double ability)
    {
        var zones = pane.Targets.OfType<DropZone>().ToList();
        if (zones.Count == 0)
            return [];
        var homes = zones.ToDictionary(zone => zone.Accepts[0].Label, zone => zone.Id);
        var put = new Dictionary<string, string>();
        foreach (var (mixed, label, instead, percent) in MixUps.Where(mixUp => mixUp.Activity == activity))
            if (random.Next(100) < percent && homes.TryGetValue(label, out var home) && homes.TryGetValue(instead, out var other))
                (put[label], put[instead]) = (other, home);
        foreach (var ((label, home), number) in homes.Select((home, number) => (home, number)))
            if (!put.ContainsKey(label) && !put.ContainsValue(home) && Knows(ability, number))
                put[label] = home;
        var free = zones.Select(zone => zone.Id).Except(put.Values).ToArray();
        random.Shuffle(free);
        foreach (var (label, zone) in homes.Keys.Except(put.Keys).ToList().Zip(free))
            if (random.Next(12) > 0)
                put[label] = zone;
        return [.. put.Select(each => new PutDown(each.Key, 0, each.Value))];
    }

    private IEnumerable<Move> At(Pane pane, Target target, bool knows, int number)
    {
        switch (target)
        {
            case HiddenZone zone:
                // A batten that somebody does not know of is left out.
                if (!knows && zone.Id.StartsWith("z-batten", StringComparison.Ordinal))
                    yield break;
                // Battens are pointed at by their ends, which the key's circles leave out.
                var end = zone.Id.StartsWith("z-batten", StringComparison.Ordinal) && random.Next(100) < 35;
                var centre = new Point(
                    (zone.Region.Bounds.Left + zone.Region.Bounds.Right) / 2,
                    (zone.Region.Bounds.Top + zone.Region.Bounds.Bottom) / 2
                );
                var at =
                    !knows ? new Point(random.Next(60, 940), random.Next(60, 620))
                    : end ? new(zone.Region.Bounds.Right + 10 + random.Next(9), centre.Y + random.Next(-4, 5))
                    : new(centre.X + random.Next(-5, 6), centre.Y + random.Next(-5, 6));
                var copy = pane
                    .Targets.OfType<HiddenZone>()
                    .TakeWhile(other => other.Id != zone.Id)
                    .Count(other => other.Accepts[0].Label == zone.Accepts[0].Label);
                yield return new PinDown(zone.Accepts[0].Label, copy, at);
                break;
            case AnswerBox box when box.Answer is TypedText or TypedNumber:
                if (knows && !(box.Id == "b45" && random.Next(100) < 30))
                    yield return new TypeText(
                        box.Id,
                        box.Answer is TypedText text ? text.Spellings[0].Text : $"{((TypedNumber)box.Answer).Value}"
                    );
                else if (Typed.TryGetValue(box.Id, out var instead) && random.Next(100) < 80)
                    yield return new TypeText(box.Id, instead);
                else if (random.Next(3) > 0)
                    yield return new TypeText(box.Id, ((string[])["north", "west", "don't know", "east"])[random.Next(4)]);
                break;
            case ScalePoint point:
                // Who does not know how to read it takes the middle of the scale, or reads the wrong turn of the curve.
                var right = point.Scale.PointAt(point.X, point.Y);
                var off =
                    knows ? random.Next(-3, 4)
                    : random.Next(2) == 0 ? random.Next(-160, 160)
                    : 28;
                var shown = new Point(Math.Clamp(right.X + off, 5, 995), right.Y + (knows ? 0 : random.Next(-20, 20)));
                yield return point.Label is { } label ? new PinDown(label, 0, shown) : new MarkPoints(point.Id, [shown]);
                break;
            case Matching matching:
                var links = new List<Link>();
                foreach (var (pair, i) in matching.Pairs.Select((pair, i) => (pair, i)))
                    links.Add(
                        Knows(knows ? 1.2 : -0.8, number + i)
                            ? pair
                            : pair with
                            {
                                Right = matching
                                    .Right[
                                        (matching.Right.IndexOf(matching.Right.First(item => item.Id == pair.Right)) + 1)
                                            % matching.Right.Length
                                    ]
                                    .Id,
                            }
                    );
                yield return new DrawLinks(matching.Id, [.. links.Distinct()]);
                break;
        }
    }

    /// <summary>Sailors do say nor'east: that is put right for all.</summary>
    private void PutRight(Store.Assignment given)
    {
        var activity = Get<Revisions>().Activity(given.RevisionId);
        var repaired = new Repair([
            new(
                0,
                activity.Panes[0].Targets.IndexOf(activity.Panes[0].Targets.First(target => target.Id == "b45")),
                Spellings: ["nor'east"]
            ),
        ]).In(activity);
        Get<Regrades>()
            .Apply(given, ActivityDocument.Write(repaired), RegradeManner.NobodyLoses, "Sailors do say nor'east.", teacher, tell: null);
    }
}
