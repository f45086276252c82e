using System.Collections.Immutable;
using Fenster.Core.Checking;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Fenster.Core.Scoring;
using static Fenster.Core.Tests.Build;

namespace Fenster.Core.Tests;

/// <summary>
/// That no other way to divide labels among zones, scale points and regions is better for a student, by trying them all; what a way
/// comes to is reckoned here from the rules once more.
/// </summary>
public sealed class PairingTests
{
    private static readonly Label[] Known =
    [
        .. "ABCDE".Select(
            (letter, i) =>
                new Label
                {
                    Id = $"{letter}",
                    Text = $"{letter}",
                    Copies = null,
                    Value = i < 3 ? i + 1 : null,
                }
        ),
    ];

    [Theory]
    [InlineData(0)]
    [InlineData(0.5)]
    [InlineData(1)]
    public void No_way_to_divide_the_labels_is_better(double wrongCost)
    {
        var random = new Random(2026 + (int)(10 * wrongCost));
        for (var i = 0; i < 700; i++)
        {
            var pane = Pane(random);
            var response = Work(random, pane);
            if (LeavesOver(pane, response))
                continue;
            var taken = random.Next(4) == 0 ? pane.Targets[random.Next(pane.Targets.Length)].Id : null;
            ImmutableArray<Award> awards = taken is null ? [] : [new(taken, 0, "ms-low", DateTimeOffset.UnixEpoch)];
            var rules = new ScoreRules { WrongCost = (decimal)wrongCost };
            var got = Scorer.Score(pane, response, Checker.Check(pane, response, rules, awards), rules, awards);
            var (best, isPerfect) = Best(pane, response, rules, taken);
            Assert.True(
                Math.Abs(Math.Clamp(best, 0, pane.PossiblePoints) - got.Score) < 1e-12m,
                $"{got.Score} where {best} can be had, case {i}, without {taken}: {Told(pane, response)}"
            );

            var strict = rules with { Manner = ScoreManner.AllOrNothing };
            var all = Scorer.Score(pane, response, Checker.Check(pane, response, strict, awards), strict, awards).Score;
            if (taken is null)
                Assert.Equal(isPerfect ? pane.PossiblePoints : 0, all);
        }
    }

    /// <summary>
    /// Whether a label lies beside a count that asks for it while a place takes it too: which of two places that earn the same is left
    /// over then, and so still wants it, is not weighed.
    /// </summary>
    private static bool LeavesOver(Pane pane, Response response) =>
        response.Pins.Any(pin =>
            pane.Targets.OfType<SortRegion>().All(region => !region.Region.Contains(pin.At))
            && pane.Targets.Any(target => target is SortRegion { Want: WantCount } && target.NamedLabels.Contains(pin.Label))
            && pane.Targets.Any(target => target is not SortRegion && target.NamedLabels.Contains(pin.Label))
        );

    [Fact]
    public void The_order_of_the_response_makes_no_difference()
    {
        var random = new Random(7);
        for (var i = 0; i < 300; i++)
        {
            var pane = Pane(random);
            var response = Work(random, pane);
            var turned = response with
            {
                Pins = [.. response.Pins.Reverse()],
                Placements = [.. response.Placements.OrderBy(_ => random.Next())],
            };
            var rules = new ScoreRules { WrongCost = 0.25m };
            Assert.Equal(
                Checker.Check(pane, response, rules).Targets.Select(mark => (mark.Target, mark.Credit)),
                Checker.Check(pane, turned, rules).Targets.Select(mark => (mark.Target, mark.Credit))
            );
        }
    }

    private static string Told(Pane pane, Response response) =>
        string.Join(
            "; ",
            pane.Targets.Select(target =>
                target switch
                {
                    HiddenZone zone =>
                        $"{zone.Id}@{zone.Group} {zone.Region.Bounds.Centre.X} {string.Concat(zone.NamedLabels)} for {zone.Capacity} worth {zone.Points} bands {zone.Tolerance.Bands.Length}",
                    DropZone zone => $"{zone.Id}@{zone.Group} {string.Concat(zone.NamedLabels)} worth {zone.Points}",
                    ScalePoint point => $"{point.Id} {point.Label} at {point.X} worth {point.Points}",
                    SortRegion region =>
                        $"{region.Id} {region.Region.Bounds.Centre.X} {region.Want} {string.Concat(region.NamedLabels)} worth {region.Points}",
                    _ => target.Id,
                }
            )
        )
        + " | "
        + string.Join(' ', response.Pins.Select(pin => $"{pin.Label}{pin.At.X}"))
        + string.Concat(response.Placements.Select(placement => $" {placement.Label} in {placement.Zone}"));

    /// <summary>Circles on a line that overlap at random.</summary>
    private static Pane Pane(Random random)
    {
        string[] Some(int most) => [.. Known.Select(label => label.Id).OrderBy(_ => random.Next()).Take(random.Next(1, most + 1))];
        Region Circle(int radius) => new Circle(new(200 + random.Next(400), 300), radius);
        var targets = new List<Target>();
        var group = random.Next(2) == 0 ? "g" : null;
        for (var n = random.Next(1, 4); n > 0; n--)
            targets.Add(
                new HiddenZone
                {
                    Id = $"h{n}",
                    Region = Circle(70),
                    Tolerance = random.Next(3) == 0 ? new(10) { Bands = [new(60, 0.5m)] } : Tolerance.None,
                    Accepts = [.. Some(2).Select(label => new Accepted(label))],
                    Group = group,
                    Capacity = random.Next(3) == 0 ? 2 : 1,
                    Points = random.Next(1, 4),
                }
            );
        if (random.Next(2) == 0)
            targets.Add(
                new DropZone
                {
                    Id = "d",
                    Region = new Circle(new(900, 600), 40),
                    Accepts = [.. Some(2).Select(label => new Accepted(label))],
                    Group = group,
                }
            );
        if (random.Next(2) == 0)
            targets.Add(
                new ScalePoint
                {
                    Id = "s",
                    Scale = new(new Axis(new(0, 300), new(1000, 300), 0, 100)),
                    X = 20 + random.Next(40),
                    Within = new(5),
                    Label = Some(1)[0],
                    Points = random.Next(1, 3),
                }
            );
        for (var n = random.Next(1, 4); n > 0; n--)
            targets.Add(
                new SortRegion
                {
                    Id = $"r{n}",
                    Region = Circle(110),
                    Points = random.Next(1, 4),
                    Want = random.Next(3) switch
                    {
                        0 => new WantSet([.. random.Next(6) == 0 ? [] : Some(3)]),
                        1 => new WantCount([.. Some(3)], (CountIs)random.Next(3), random.Next(1, 3)),
                        _ => new WantTotal(random.Next(1, 4), random.Next(4, 6)),
                    },
                }
            );
        return Build.Pane(Known) with { Targets = [.. targets] };
    }

    private static Response Work(Random random, Pane pane)
    {
        var copies = new Dictionary<string, int>();
        int Copy(string label) => copies[label] = copies.GetValueOrDefault(label, -1) + 1;
        string Label() => Known[random.Next(Known.Length)].Id;
        return new()
        {
            Pins =
            [
                .. Enumerable
                    .Range(0, random.Next(1, 7))
                    .Select(_ => Label())
                    .Select(label => new Pin(label, Copy(label), new(120 + random.Next(560), 300))),
            ],
            Placements = pane.Targets.OfType<DropZone>().Any()
                ? [.. Enumerable.Range(0, random.Next(2)).Select(_ => Label()).Select(label => new Placement(label, Copy(label), "d"))]
                : [],
        };
    }

    private sealed record Room(Target Target, string Family, int Needs, Func<string, decimal> Accepts);

    /// <summary>The most that any way to divide the labels earns, and whether some way earns everything.</summary>
    private static (decimal Points, bool IsPerfect) Best(Pane pane, Response response, ScoreRules rules, string? aside)
    {
        var rooms = new List<Room>();
        foreach (var family in pane.Targets.OfType<Zone>().GroupBy(zone => zone.Group ?? zone.Id))
        {
            var accepted = family.SelectMany(zone => zone.Accepts).Select(accepts => accepts.Label).ToHashSet();
            foreach (var zone in family)
                for (var n = 0; n < Math.Min(zone.Capacity, accepted.Count); n++)
                    rooms.Add(new(zone, family.Key, Math.Min(zone.Capacity, accepted.Count), label => accepted.Contains(label) ? 1 : 0));
        }
        foreach (var point in pane.Targets.OfType<ScalePoint>())
            rooms.Add(new(point, "", 1, label => point.Label == label ? 1 : 0));
        rooms.RemoveAll(room => room.Target.Id == aside);

        var put = response
            .Pins.Select(pin => (pin.Label, At: (Point?)pin.At, Zone: ""))
            .Concat(response.Placements.Select(placement => (placement.Label, At: (Point?)null, placement.Zone)))
            .ToList();
        decimal CreditIn(Room room, int i) =>
            room.Accepts(put[i].Label)
            * (
                room.Target switch
                {
                    HiddenZone zone when put[i].At is { } at => zone.Tolerance.CreditFor(zone.Region, at),
                    DropZone zone => zone.Id == put[i].Zone ? 1 : 0,
                    ScalePoint point when put[i].At is { } at => Math.Abs(point.Scale.ValueAt(at).X - point.X) <= point.Within.Slack + 1e-7
                        ? 1
                        : 0,
                    _ => 0,
                }
            );

        var (best, isPerfect) = (decimal.MinValue, false);
        Try(0, new Room?[put.Count], 0);
        return (best, isPerfect);

        void Try(int i, Room?[] rooming, decimal earned)
        {
            if (i == put.Count)
            {
                var (points, wrong, isAll) = Rest(rooming);
                best = Math.Max(best, earned + points - rules.WrongCost * wrong);
                var full = rooms.GroupBy(room => room.Target.Id).Sum(of => of.First().Target.Points);
                isPerfect |= isAll && wrong == 0 && Math.Abs(earned - full) < 1e-15m;
                return;
            }
            Try(i + 1, rooming, earned);
            foreach (var room in rooms.Where(room => !rooming.Contains(room, ReferenceEqualityComparer.Instance)))
            {
                var credit = CreditIn(room, i);
                var isTwice =
                    room.Family != "" && Enumerable.Range(0, i).Any(j => rooming[j]?.Family == room.Family && put[j].Label == put[i].Label);
                if (credit == 0 || isTwice)
                    continue;
                rooming[i] = room;
                Try(i + 1, rooming, earned + credit * room.Target.Points / room.Needs);
                rooming[i] = null;
            }
        }

        (decimal Points, int Wrong, bool IsAll) Rest(Room?[] rooming)
        {
            var left = Enumerable.Range(0, put.Count).Where(i => rooming[i] is null && put[i].At is not null).ToList();
            var regions = pane.Targets.OfType<SortRegion>().Where(region => region.Id != aside).ToList();
            bool Asks(SortRegion region, string label) =>
                region.Want switch
                {
                    WantSet set => set.Labels.Contains(label),
                    WantCount count => count.Labels.Contains(label),
                    _ => Known.First(known => known.Id == label).Value is not null,
                };
            var credits = regions.ToDictionary(
                region => region,
                region =>
                {
                    var here = left.Where(i => region.Region.Contains(put[i].At!.Value)).Select(i => put[i].Label).ToList();
                    var (asked, strangers) = (here.Where(label => Asks(region, label)).ToList(), here.Count(label => !Asks(region, label)));
                    return region.Want switch
                    {
                        WantSet { Labels.IsEmpty: true } => strangers == 0 ? 1m : 0,
                        WantSet set => Math.Max(0, asked.Distinct().Count() - strangers) / (decimal)set.Labels.Length,
                        WantCount count => strangers == 0
                        && asked.Count > 0
                        && count.Is switch
                        {
                            CountIs.Exactly => asked.Count == count.Number,
                            CountIs.AtLeast => asked.Count >= count.Number,
                            _ => asked.Count <= count.Number,
                        }
                            ? 1
                            : 0,
                        WantTotal total => here.Count > 0
                        && asked.Sum(label => Known.First(known => known.Id == label).Value) is var sum
                        && sum >= total.From
                        && sum <= total.To
                            ? 1
                            : 0,
                        _ => throw new InvalidOperationException(),
                    };
                }
            );
            var wrong = 0;
            var together = new HashSet<SortRegion>();
            // Wrong placements are wrong however the pins are divided.
            foreach (var i in Enumerable.Range(0, put.Count).Where(i => put[i].At is null && rooming[i] is null))
                if (put[i].Zone != aside && rooms.Where(room => room.Target.Id == put[i].Zone).All(room => room.Accepts(put[i].Label) == 0))
                    wrong++;
            foreach (var i in left)
            {
                var (label, at) = (put[i].Label, put[i].At!.Value);
                if (IsFree(label, at))
                    continue;
                var around = regions.Where(region => region.Region.Contains(at)).ToList();
                if (around.Any(region => !Asks(region, label) && (region.Want is not WantTotal || credits[region] == 0)))
                    wrong++;
                together.UnionWith(around.Where(region => region.Want is not WantSet && Asks(region, label) && credits[region] == 0));
                if (around.Count > 0 || pane.Targets.OfType<SortRegion>().Any(region => region.Region.Contains(at)))
                    continue;
                var belongs = pane.Targets.Any(target => ReachesFor(target, label, at));
                var counting = regions.Where(region => region.Want is WantCount && Asks(region, label)).ToList();
                var isSurplus =
                    counting.Count > 0
                    && counting.All(region => credits[region] == 1)
                    && regions
                        .Where(region => region.Want is WantSet && Asks(region, label))
                        .All(region => left.Any(other => put[other].Label == label && region.Region.Contains(put[other].At!.Value)))
                    && rooms.Where(room => room.Accepts(label) > 0).All(room => rooming.Contains(room, ReferenceEqualityComparer.Instance));
                // What nothing takes is wrong too: there are hidden zones.
                if (!belongs && !isSurplus)
                    wrong++;
            }
            return (
                regions.Sum(region => region.Points * credits[region]),
                wrong + together.Count,
                credits.Values.All(credit => credit == 1)
            );
        }

        bool ReachesFor(Target target, string label, Point at) =>
            target switch
            {
                HiddenZone zone => pane.Targets.OfType<Zone>()
                    .Where(other => other.Id == zone.Id || (zone.Group is not null && other.Group == zone.Group))
                    .Any(other => other.Accepts.Any(accepts => accepts.Label == label))
                    && zone.Tolerance.CreditFor(zone.Region, at) > 0,
                ScalePoint point => point.Label == label && Math.Abs(point.Scale.ValueAt(at).X - point.X) <= point.Within.Slack + 1e-7,
                _ => false,
            };

        bool IsFree(string label, Point at) =>
            aside is not null
            && pane.Targets.First(target => target.Id == aside) switch
            {
                HiddenZone zone => zone.Tolerance.CreditFor(zone.Region, at) > 0,
                SortRegion region => region.Region.Contains(at),
                var other => ReachesFor(other, label, at),
            };
    }
}
