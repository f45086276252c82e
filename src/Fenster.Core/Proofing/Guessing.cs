using System.Collections.Immutable;
using Fenster.Core.Checking;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Fenster.Core.Scoring;
using Lock = Fenster.Core.Model.Lock;

namespace Fenster.Core.Proofing;

/// <summary>What acting blindly earns on average.</summary>
/// <param name="Points">Of the pane's possible points.</param>
/// <param name="Share">Of all points, from 0 to 1.</param>
/// <param name="ShareError">Standard error of the share; 0 when it is exact.</param>
public sealed record GuessScore(double Points, double Share, double ShareError);

/// <summary>
/// What a student earns who deals the labels out at random, marks and pins at random, draws links and picks options at
/// random. Typed words, codes and notes count as not to be guessed.
/// </summary>
public static class Guessing
{
    /// <summary>
    /// Exact where a target's mean credit does not depend on the others, such as (accepted copies) ÷ (copies in the bank)
    /// or an area over the picture's area; the others are played out many times from a fixed seed.
    /// </summary>
    public static GuessScore Of(Pane pane, ScoreRules rules)
    {
        var blind = new Blind(pane);
        // With fewer plays of more work, the time stays even.
        var (labels, targets) = (1L + blind.Labels, 1L + pane.Targets.Length);
        var work = labels * targets + pane.Targets.OfType<Hotspots>().Sum(WorkOf);
        return Of(
            pane,
            rules,
            blind,
            (int)Math.Clamp(Math.Min(4000 / (labels + targets), 5_000_000 / work), work > 100_000 ? 5 : 20, 2000)
        );
    }

    /// <summary>What it costs to hold the marks of a play against the spots, in corners.</summary>
    private static long WorkOf(Hotspots hotspots) => (long)hotspots.Needed * hotspots.Spots.Sum(spot => 4 + spot.Region.Corners);

    /// <summary>The same, with as many plays as wanted.</summary>
    /// <param name="plays">How often what is not exact is played out.</param>
    public static GuessScore Of(Pane pane, ScoreRules rules, int plays) => Of(pane, rules, new Blind(pane), plays);

    /// <summary>What one blind student does.</summary>
    public static Response Play(Pane pane, Random random) => new Blind(pane).Play(random);

    private static GuessScore Of(Pane pane, ScoreRules rules, Blind blind, int plays)
    {
        var possible = (double)pane.PossiblePoints;
        if (possible == 0)
            return new(0, 0, 0);
        var scored = pane.Targets.Where(target => target is { IsScored: true, TakenOut: null }).ToList();
        var isEachAlone = rules is { Manner: ScoreManner.EachOnItsOwn, WrongCost: 0 };
        var exact = new Exact(blind);
        var known = isEachAlone ? scored.Select(target => (Target: target, Mean: target.Match(exact))).ToList() : [];
        var points = known.Sum(pair => (pair.Mean ?? 0) * (double)pair.Target.Points);
        var played = (
            isEachAlone ? known.Where(pair => pair.Mean is null).Select(pair => pair.Target.Id) : scored.Select(target => target.Id)
        ).ToHashSet();
        if (played.Count == 0)
            return new(points, points / possible, 0);

        var random = new Random(1);
        var scores = Enumerable
            .Range(0, plays)
            .Select(_ =>
            {
                var response = blind.Play(random);
                var marks = Checker.Check(pane, response, rules);
                return isEachAlone
                    ? pane
                        .Targets.Zip(marks.Targets)
                        .Where(pair => played.Contains(pair.First.Id))
                        .Sum(pair => (double)(pair.First.Points * pair.Second.Credit))
                    : (double)Scorer.Score(pane with { Weight = 1 }, response, marks, rules).Score;
            })
            .ToList();
        var mean = scores.Average();
        var error = Math.Sqrt(scores.Sum(score => (score - mean) * (score - mean)) / Math.Max(1, plays - 1) / plays);
        return new(points + mean, (points + mean) / possible, error / possible);
    }

    /// <summary>A student who does not look: what is dealt, pinned, marked and picked, and how.</summary>
    private sealed class Blind
    {
        private readonly Pane pane;
        private readonly ImmutableArray<string> places;
        private readonly ImmutableArray<(string Label, int Copy)> dealt;
        private readonly ImmutableArray<(string Label, int Copy, bool IsSorted)> pinned;
        private readonly ImmutableArray<Point?> cells;

        /// <summary>Labels that are dealt, at most: more make no better guess.</summary>
        private const int MostDealt = 20_000;

        public Blind(Pane pane)
        {
            this.pane = pane;
            var copies = pane.Labels.Sum(label => (long)(label.Copies ?? Limits.MostCopies));
            places =
            [
                .. pane
                    .Targets.OfType<DropZone>()
                    .SelectMany(zone => Enumerable.Repeat(zone.Id, (int)Math.Min(zone.Capacity, copies)))
                    .Take(MostDealt),
            ];
            var regions = pane.Targets.OfType<SortRegion>().ToList();
            cells = [null, .. Cells(regions)];
            // Asked for only where there is something to sort.
            var elsewhere = new Lazy<HashSet<string>>(() =>
                [.. pane.Targets.Where(target => target is not SortRegion).SelectMany(target => target.NamedLabels)]
            );
            var sorted = regions.SelectMany(region => region.NamedLabels).ToHashSet();
            var wantedPins = pane
                .Targets.Where(target => target is HiddenZone or ScalePoint)
                .SelectMany(target => target.NamedLabels.Distinct())
                .CountBy(label => label)
                .ToDictionary();
            // Where there is something to sort, labels that belong nowhere are laid there as well as any other.
            bool IsSorted(Label label) => regions.Count > 0 && (sorted.Contains(label.Id) || !elsewhere.Value.Contains(label.Id));
            int Pins(Label label) =>
                Math.Min(
                    label.Copies ?? Limits.MostCopies,
                    wantedPins.GetValueOrDefault(label.Id, IsSorted(label) ? Math.Min(label.Copies ?? 1, MostCopiesSorted) : 0)
                );
            pinned =
            [
                .. pane.Labels.SelectMany(label => Enumerable.Range(0, Pins(label)).Select(copy => (label.Id, copy, IsSorted(label)))),
            ];
            dealt = places.IsEmpty
                ? []
                :
                [
                    .. pane
                        .Labels.Where(label => Pins(label) == 0)
                        .SelectMany(label =>
                            Enumerable
                                .Range(
                                    0,
                                    Math.Min(
                                        label.Copies ?? Limits.MostCopies,
                                        Math.Min(places.Length, Math.Max(1, MostDealt / pane.Labels.Length))
                                    )
                                )
                                .Select(copy => (label.Id, copy))
                        ),
                ];
            CopiesDealt = dealt.ToLookup(copy => copy.Label, copy => copy.Copy);
            CopiesPinned = pinned.ToLookup(copy => copy.Label, copy => copy.Copy);
        }

        public int Labels => dealt.Length + pinned.Length;

        /// <summary>How many labels lie in the bank that is dealt from.</summary>
        public int Dealt => dealt.Length;
        public int Places => places.Length;

        /// <summary>By label id; a label that is not named is not dealt.</summary>
        public ILookup<string, int> CopiesDealt { get; }

        /// <summary>By label id; a label that is not named is not pinned.</summary>
        public ILookup<string, int> CopiesPinned { get; }

        public double Height => pane.Picture?.HeightInUnits ?? 1000;

        public Response Play(Random random)
        {
            var bank = dealt.ToArray();
            random.Shuffle(bank);
            var order = places.ToArray();
            random.Shuffle(order);
            // No student may put down more.
            var held = pinned.Length <= Limits.MostPins ? pinned : [.. random.GetItems(pinned.AsSpan(), Limits.MostPins).Distinct()];
            var dealtOut = new Response
            {
                Placements = [.. bank.Zip(order, (label, zone) => new Placement(label.Label, label.Copy, zone))],
                Pins =
                [
                    .. held.Select(pin => (pin.Label, pin.Copy, At: pin.IsSorted ? cells[random.Next(cells.Length)] : Anywhere(random)))
                        .Where(pin => pin.At is not null)
                        .Select(pin => new Pin(pin.Label, pin.Copy, pin.At!.Value)),
                ],
            };
            return pane.Targets.Aggregate(dealtOut, (response, target) => Act(target, response, random));
        }

        private Response Act(Target target, Response response, Random random) =>
            target.Takes switch
            {
                Doing.Marking => response with
                {
                    Marks = response.Marks.SetItem(
                        target.Id,
                        [.. Enumerable.Range(0, target is Hotspots hotspots ? hotspots.Needed : 1).Select(_ => Anywhere(random))]
                    ),
                },
                Doing.Picking when target is QuestionPoint { Question: ChoiceQuestion choice } => response with
                {
                    Picks = response.Picks.SetItem(target.Id, Picks(choice, random)),
                },
                Doing.Linking when target is Matching matching => response with
                {
                    Links = response.Links.SetItem(target.Id, Links(matching, random)),
                },
                _ => response,
            };

        private Point Anywhere(Random random) => new(random.NextDouble() * 1000, random.NextDouble() * Height);

        private const int MostCopiesSorted = 20;

        /// <summary>Corners that are asked where regions lie over each other, at most, as long as the grid isn't too coarse.</summary>
        private const double MostAsked = 500_000;

        /// <summary>A point for each region alone and each overlap of regions that there is, found on a grid over them.</summary>
        private static IEnumerable<Point?> Cells(List<SortRegion> regions)
        {
            if (regions.Count == 0)
                return [];
            // A grid that is coarser where there is more to ask at each of its points.
            var steps = (int)Math.Clamp(Math.Sqrt(MostAsked / regions.Sum(region => region.Region.Corners)), 8, 60);
            var (left, top) = (regions.Min(region => region.Region.Bounds.Left), regions.Min(region => region.Region.Bounds.Top));
            var (right, bottom) = (regions.Max(region => region.Region.Bounds.Right), regions.Max(region => region.Region.Bounds.Bottom));
            return Enumerable
                .Range(0, steps * steps)
                .Select(i => new Point(left + (i % steps + 0.5) / steps * (right - left), top + (i / steps + 0.5) / steps * (bottom - top)))
                .Concat(regions.Select(region => region.Region.Bounds.Centre))
                .Select(point =>
                    (
                        Point: point,
                        Cell: string.Join(' ', regions.Where(region => region.Region.Contains(point)).Select(region => region.Id))
                    )
                )
                .Where(found => found.Cell != "")
                .DistinctBy(found => found.Cell)
                .Select(found => (Point?)found.Point);
        }

        private static ImmutableArray<string> Picks(ChoiceQuestion choice, Random random) =>
            choice.Multiple
                ? [.. choice.Options.Where(_ => random.Next(2) == 0).Select(option => option.Id)]
                : [choice.Options[random.Next(choice.Options.Length)].Id];

        private static ImmutableArray<Link> Links(Matching matching, Random random)
        {
            var (left, right) = (matching.Left.ToArray(), matching.Right.ToArray());
            random.Shuffle(left);
            random.Shuffle(right);
            return [.. left.Zip(right, (l, r) => new Link(l.Id, r.Id))];
        }
    }

    /// <summary>The mean credit of a target where it can be worked out; null where it has to be played out.</summary>
    private sealed class Exact(Blind blind) : ITargetCases<double?>
    {
        private readonly Rectangle picture = new(0, 0, 1000, blind.Height);

        // With fewer labels than places, a place is only sometimes filled.
        public double? Of(DropZone zone) =>
            zone.Group is not null || zone.Capacity > 1 ? null
            : blind.Dealt == 0 ? 0
            : zone.Accepts.Sum(accepted => (double)accepted.Credit * blind.CopiesDealt[accepted.Label].Count())
                / blind.Dealt
                * Math.Min(1, (double)blind.Dealt / blind.Places);

        public double? Of(HiddenZone zone) =>
            zone.Group is not null
                ? null
                : zone.Accepts.Sum(accepted => blind.CopiesPinned[accepted.Label].Count()) switch
                {
                    0 => 0,
                    1 => AreaOf(zone.Region, zone.Tolerance) * (double)zone.Accepts[0].Credit,
                    _ => null,
                };

        // As many marks as are needed, each anywhere: a spot is found unless all of them miss it.
        public double? Of(Hotspots hotspots)
        {
            var areas = hotspots.Spots.Select(spot => AreaOf(spot.Region, spot.Tolerance)).ToList();
            var isApart = hotspots.Spots.All(spot =>
                spot.Tolerance.Bands.IsEmpty
                && hotspots.Spots.All(other =>
                    ReferenceEquals(spot, other)
                    || spot.Region.Bounds.Grown(spot.Tolerance.Slack + other.Tolerance.Slack) is var bounds
                        && !bounds.Meets(other.Region.Bounds)
                )
            );
            return !isApart || areas.Any(area => area is null)
                ? null
                : areas.Sum(area => 1 - Math.Pow(1 - area!.Value, hotspots.Needed)) / hotspots.Needed;
        }

        public double? Of(AnswerBox box) => 0;

        public double? Of(QuestionPoint point) =>
            point.Question switch
            {
                ChoiceQuestion { Multiple: true } => null,
                ChoiceQuestion choice => 1.0 / choice.Options.Length,
                _ => 0,
            };

        public double? Of(Lock @lock) => 0;

        public double? Of(OpenNote note) => 0;

        public double? Of(OwnPicture own) => 0;

        public double? Of(ScalePoint point) => null;

        // A random pairing draws each possible link with the same probability.
        public double? Of(Matching matching) => 1.0 / Math.Max(matching.Left.Length, matching.Right.Length);

        public double? Of(SortRegion region) => null;

        public double? Of(InfoSpot spot) => 0;

        /// <summary>
        /// Credit that a random point earns: the areas with slack and bands within the picture over the picture's. Null where a corner
        /// makes them hard to tell.
        /// </summary>
        private double? AreaOf(Region region, Tolerance tolerance)
        {
            var (sum, inner) = (0.0, 0.0);
            foreach (var slack in tolerance.Bands.Select(band => band.Slack).Append(tolerance.Slack).Order())
            {
                if (region.Grown(slack) is not { } grown)
                    return null;
                var area =
                    picture.Bounds.Holds(new(grown.Bounds.Left, grown.Bounds.Top))
                    && picture.Bounds.Holds(new(grown.Bounds.Right, grown.Bounds.Bottom))
                        ? grown.Area
                        : picture.OverlapWith(grown);
                sum += (double)tolerance.CreditAt(slack) * (area - inner);
                inner = area;
            }
            return sum / picture.Area;
        }
    }
}
