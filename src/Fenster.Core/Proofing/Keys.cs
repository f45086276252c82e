using System.Collections.Immutable;
using Fenster.Core.Checking;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Lock = Fenster.Core.Model.Lock;

namespace Fenster.Core.Proofing;

/// <summary>The answer key as a response: everything put where it belongs, as far as the labels go.</summary>
public static class Keys
{
    public static Response Of(Pane pane)
    {
        var zones = Assigned(pane);
        var placed = new Response
        {
            Placements = [.. zones.Where(z => z.Zone is DropZone).Select(z => new Placement(z.Label, z.Copy, z.Zone.Id))],
            Pins =
            [
                .. zones.Where(z => z.Zone is HiddenZone).Select(z => new Pin(z.Label, z.Copy, InsideOf(z.Zone.Region))),
                .. ScalePins(pane, zones),
                .. SortPins(pane),
            ],
        };
        return pane.Targets.Aggregate(placed, (response, target) => target.Match(new Answering(response)));
    }

    /// <summary>A response with the right answer to a target that no label answers.</summary>
    private sealed class Answering(Response response) : ITargetCases<Response>
    {
        public Response Of(DropZone zone) => response;

        public Response Of(HiddenZone zone) => response;

        public Response Of(Hotspots hotspots) =>
            Marked(hotspots, [.. hotspots.Spots.Take(hotspots.Needed).Select(spot => InsideOf(spot.Region))]);

        public Response Of(AnswerBox box) => Typed(box, box.Answer);

        public Response Of(QuestionPoint point) =>
            point.Question switch
            {
                ChoiceQuestion choice => response with
                {
                    Picks = response.Picks.SetItem(
                        point.Id,
                        [.. choice.Options.Where(option => option.IsRight).Select(option => option.Id)]
                    ),
                },
                TypedQuestion typed => Typed(point, typed.Answer),
                var other => throw new ArgumentOutOfRangeException(nameof(point), other, "This kind of question is not known."),
            };

        public Response Of(Lock @lock) => response with { Codes = response.Codes.SetItem(@lock.Id, [@lock.Code.Best]) };

        public Response Of(OpenNote note) => response;

        public Response Of(OwnPicture own) => response;

        public Response Of(ScalePoint point) => point.Label is null ? Marked(point, [PointOf(point)]) : response;

        public Response Of(Matching matching) => response with { Links = response.Links.SetItem(matching.Id, matching.Pairs) };

        public Response Of(SortRegion region) => response;

        public Response Of(InfoSpot spot) => response;

        private Response Marked(Target target, ImmutableArray<Point> points) =>
            response with
            {
                Marks = response.Marks.SetItem(target.Id, points),
            };

        private Response Typed(Target target, TypedAnswer answer) =>
            response with
            {
                Texts = response.Texts.SetItem(
                    target.Id,
                    answer switch
                    {
                        TypedText text => text.Best,
                        TypedNumber number => number.Value.ToString(),
                        _ => throw new ArgumentOutOfRangeException(nameof(answer), answer, "This kind of answer is not known."),
                    }
                ),
            };
    }

    /// <summary>Copies of labels for the zones that accept them: a best assignment, so that the key earns all that can be earned.</summary>
    private static List<(string Label, int Copy, Zone Zone)> Assigned(Pane pane)
    {
        var families = PaneKey.Of(pane).Families;
        var places = new List<(Zone Zone, Family Family)>(pane.Targets.Length);
        foreach (var family in families)
        foreach (var zone in family.Zones)
            for (var need = family.Needs(zone); need > 0; need--)
                places.Add((zone, family));
        // A label earns once in a family, so it is of use at most once for each.
        var copies = new List<(string Id, int Copy)>(pane.Labels.Length);
        var rowsOf = new Dictionary<string, (int First, int Count)>(pane.Labels.Length);
        foreach (var label in pane.Labels)
        {
            var count = Math.Min(label.Copies ?? int.MaxValue, Math.Max(1, families.Length));
            rowsOf[label.Id] = (copies.Count, count);
            for (var copy = 0; copy < count; copy++)
                copies.Add((label.Id, copy));
        }
        var pairs = new List<Assignment.Pair>(places.Count);
        for (var column = 0; column < places.Count; column++)
            foreach (var (label, credit) in places[column].Family.Credits)
            {
                var (first, count) = rowsOf[label];
                for (var row = first; row < first + count; row++)
                    pairs.Add(new(row, column, 1 + (double)credit));
            }
        var columns = Assignment.Solve(copies.Count, places.Count, pairs);
        var assigned = new List<(string Label, int Copy, Zone Zone)>(places.Count);
        for (var row = 0; row < copies.Count; row++)
            if (columns[row] != Assignment.None)
                assigned.Add((copies[row].Id, copies[row].Copy, places[columns[row]].Zone));
        return assigned;
    }

    /// <summary>One pin for each value that a label shows, in copies that no zone has taken.</summary>
    private static IEnumerable<Pin> ScalePins(Pane pane, List<(string Label, int Copy, Zone Zone)> taken) =>
        pane
            .Targets.OfType<ScalePoint>()
            .Where(point => point.Label is not null)
            .GroupBy(point => point.Label!)
            .SelectMany(alike =>
                alike.Select((point, i) => new Pin(alike.Key, taken.Count(t => t.Label == alike.Key) + i, PointOf(point)))
            );

    /// <summary>
    /// Labels to sort, each at a point that lies in all regions that want it and in no other set's, where there is one.
    /// Totals take the smallest selection of labels that makes them, where one is found.
    /// </summary>
    private static IEnumerable<Pin> SortPins(Pane pane)
    {
        var regions = pane.Targets.OfType<SortRegion>().ToList();
        var sets = regions.Where(region => region.Want is WantSet).ToList();
        var taken = new List<Point>();
        foreach (var label in sets.SelectMany(region => ((WantSet)region.Want).Labels).Distinct())
        {
            var wanted = sets.Where(region => ((WantSet)region.Want).Labels.Contains(label)).ToList();
            if (
                Apart(
                    PointsOver(wanted[0].Region).Where(point => sets.All(set => set.Region.Contains(point) == wanted.Contains(set))),
                    taken
                ) is
                { } point
            )
                yield return new(label, 0, point);
        }
        foreach (var region in regions)
        {
            var apart = PointsOver(region.Region)
                .Where(point => regions.All(other => other == region || !other.Region.Contains(point)))
                .ToList();
            foreach (var (label, copy) in Wanted(pane, region.Want))
                if (Apart(apart, taken) is { } at)
                    yield return new(label, copy, at);
        }
    }

    /// <summary>Labels that make a count or a total come out.</summary>
    private static IEnumerable<(string Label, int Copy)> Wanted(Pane pane, Want want) =>
        want switch
        {
            WantCount { Is: CountIs.AtMost } count => count.Labels.Take(1).Select(id => (id, 0)),
            WantCount count => Copies(pane, count.Labels).Take(count.Number),
            WantTotal total => Selection(pane, total),
            _ => [],
        };

    /// <summary>
    /// Of some points one that lies far from those taken, so that labels don't lie on each other; null when there is none.
    /// </summary>
    private static Point? Apart(IEnumerable<Point> points, List<Point> taken)
    {
        const int MostLookedAt = 150;
        Point? best = null;
        var furthest = -1.0;
        var all = taken.Count == 0 ? [.. points.Take(1)] : points.ToList();
        for (var i = 0; i < all.Count; i += 1 + all.Count / MostLookedAt)
        {
            // Labels are wider than they are high.
            var nearest = taken.Count == 0 ? 0 : taken.Min(other => Math.Abs(other.X - all[i].X) + 3 * Math.Abs(other.Y - all[i].Y));
            if (nearest > furthest)
                (best, furthest) = (all[i], nearest);
        }
        if (best is { } found)
            taken.Add(found);
        return best;
    }

    private static IEnumerable<(string, int)> Copies(Pane pane, IEnumerable<string> labels) =>
        labels.SelectMany(id => Enumerable.Range(0, pane.Labels.First(label => label.Id == id).Copies ?? 100).Select(copy => (id, copy)));

    /// <summary>Labels whose values make the total, by walking over the sums that can be reached.</summary>
    private static IEnumerable<(string, int)> Selection(Pane pane, WantTotal total)
    {
        const int MostSums = 20_000;
        var reached = new Dictionary<decimal, ImmutableList<(string, int)>> { [0] = [] };
        foreach (var (id, copy) in Copies(pane, pane.Labels.Where(label => label.Value is not null).Select(label => label.Id)))
        {
            var value = pane.Labels.First(label => label.Id == id).Value!.Value;
            foreach (var (sum, taken) in reached.ToList())
                if (reached.Count < MostSums)
                    reached.TryAdd(sum + value, taken.Add((id, copy)));
        }
        return reached
            .Where(sum => sum.Key >= total.From && sum.Key <= total.To && sum.Value.Count > 0)
            .Select(sum => sum.Value)
            .FirstOrDefault()
            ?? [];
    }

    /// <summary>Points of a region, its middle first, then a grid over it.</summary>
    private static IEnumerable<Point> PointsOver(Region region)
    {
        const int Steps = 40;
        if (region.Contains(region.Bounds.Centre))
            yield return region.Bounds.Centre;
        for (var i = 0; i < Steps * Steps; i++)
        {
            var point = new Point(
                region.Bounds.Left + (i % Steps + 0.5) / Steps * region.Bounds.Width,
                region.Bounds.Top + (i / Steps + 0.5) / Steps * region.Bounds.Height
            );
            if (region.Contains(point))
                yield return point;
        }
    }

    private static Point InsideOf(Region region) =>
        region is Polygon polygon ? PointsOver(region).Append(polygon.Vertices[0]).First() : region.Bounds.Centre;

    private static Point PointOf(ScalePoint target) => target.Scale.PointAt(target.X, target.Y);
}
