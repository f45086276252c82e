using Fenster.Core.Model;

namespace Fenster.Core.Checking;

/// <summary>
/// Which labels earn at zones and scale points, where some lie in regions to sort into as well: of all ways to divide them the one
/// that is the best for the student, in points, less what wrong actions cost. Of ways that come to the same, the one with fewest
/// wrong actions counts, then the one with most at zones and scale points.
/// </summary>
/// <remarks>
/// What a region comes to depends on sums over the labels in it (<see cref="SortTally"/>). So the labels that share places are
/// divided in each possible way, and of ways that lead to the same sums only the one that earns most is kept.
/// </remarks>
internal sealed class RegionPairing
{
    /// <summary>Up to so many labels that have a choice between a place and a region, the pairing is the best there is.</summary>
    public const int MostChoices = 20;

    /// <summary>Past so many looks at how labels of places that hang together can be divided, the best of those tried counts.</summary>
    private const int MostLooks = 50_000;

    private readonly PaneKey key;
    private readonly Laid[] rows;
    private readonly List<Chance> chances;
    private readonly SortTally tally;
    private readonly Weighing weighing;

    /// <summary>By row: whether it has to be decided if it earns at a place or counts in its regions.</summary>
    private readonly bool[] isOpen;

    /// <summary>By row: whether it earns at a place in any case, since there are more labels with a choice than are looked at.</summary>
    private readonly bool[] isFixed;

    /// <summary>One way to divide the labels of some places.</summary>
    /// <param name="Sorted">What the labels that count in regions add to the sums.</param>
    private sealed record Way(decimal Points, decimal[] Sorted, List<Chance> Earned);

    /// <summary>How some sums are reached with most points at places.</summary>
    private sealed record Reached(decimal Points, Reached? Before, Way? Way);

    private RegionPairing(PaneKey key, Laid[] rows, List<Chance> chances, SortTally tally, Weighing weighing)
    {
        (this.key, this.rows, this.tally, this.weighing) = (key, rows, tally, weighing);
        (isOpen, isFixed) = (new bool[rows.Length], new bool[rows.Length]);
        foreach (var chance in chances)
            isOpen[chance.Row] = tally.IsInRegion(chance.Row);
        this.chances = isOpen.Count(open => open) > MostChoices ? WithoutTooMany(chances) : chances;
    }

    /// <summary>
    /// Whether more pins than can be looked at may have a choice between a place and a region: copies of labels that belong in a hidden
    /// zone or a scale point which some region reaches.
    /// </summary>
    public static bool HasTooManyChoices(Pane pane)
    {
        var key = PaneKey.Of(pane);
        if (key.SortRegions.IsEmpty)
            return false;
        var reached = key
            .PinPlaces.Where(place =>
                place switch
                {
                    HiddenPlace hidden => key.SortRegions.Any(region => hidden.Reach.Meets(region.Region.Bounds)),
                    ScalePlace => true,
                    _ => false,
                }
            )
            .ToList();
        return pane.Labels.Where(label => reached.Exists(place => place.Accepts(label.Id) > 0))
                .Sum(label => Math.Min(label.Copies ?? Limits.MostOfOneLabel, Limits.MostOfOneLabel)) > MostChoices;
    }

    /// <summary>For each row the column that it is paired with, or <see cref="Assignment.None"/>.</summary>
    public static int[] Best(PaneKey key, Laid[] rows, List<Chance> chances, SortTally tally, Weighing weighing) =>
        chances.Exists(chance => tally.IsInRegion(chance.Row))
            ? new RegionPairing(key, rows, chances, tally, weighing).Best()
            : Chances.Best(key, rows, chances);

    /// <summary>Those past the most that are looked at stay as they are paired without regard to the regions.</summary>
    private List<Chance> WithoutTooMany(List<Chance> all)
    {
        var plain = Chances.Best(key, rows, all);
        var more = Enumerable.Range(0, rows.Length).Where(row => isOpen[row]).Skip(MostChoices).ToHashSet();
        foreach (var row in more)
            (isOpen[row], isFixed[row]) = (false, plain[row] != Assignment.None);
        var taken = more.Where(row => isFixed[row]).Select(row => plain[row]).ToHashSet();
        return [.. all.Where(chance => more.Contains(chance.Row) ? plain[chance.Row] == chance.Column : !taken.Contains(chance.Column))];
    }

    private int[] Best()
    {
        var start = tally.Nothing;
        for (var row = 0; row < rows.Length; row++)
            if (!isOpen[row] && !isFixed[row])
                Add(start, tally.Of(row));
        var reached = new Dictionary<decimal[], Reached>(SameSums.Instance) { [start] = new(0, null, null) };
        foreach (var block in Blocks())
        {
            var ways = WaysOf(block);
            var next = new Dictionary<decimal[], Reached>(SameSums.Instance);
            foreach (var (sums, before) in reached)
            foreach (var way in ways)
            {
                var after = (decimal[])sums.Clone();
                Add(after, way.Sorted);
                var points = before.Points + way.Points;
                if (!next.TryGetValue(after, out var known) || points > known.Points)
                    next[after] = new(points, before, way);
            }
            reached = next;
        }

        var most = key.PinPlaces.Where(place => !weighing.IsAside(place.Target)).Sum(place => place.Worth);
        (bool IsPerfect, decimal Value, int Wrong, decimal Points, Reached Reached)? best = null;
        foreach (var (sums, at) in reached)
        {
            var (points, wrong, isAll) = tally.Read(sums);
            var isPerfect = weighing.IsAllOrNothing && isAll && wrong == 0 && at.Points >= most - Allowance;
            var value = at.Points + points - weighing.WrongCost * wrong;
            if (
                best is not { } known
                || IsBetter((isPerfect, value, -wrong, at.Points), (known.IsPerfect, known.Value, -known.Wrong, known.Points))
            )
                best = (isPerfect, value, wrong, at.Points, at);
        }
        var columns = new int[rows.Length];
        Array.Fill(columns, Assignment.None);
        for (var at = best!.Value.Reached; at is not null; at = at.Before)
            foreach (var chance in at.Way?.Earned ?? [])
                columns[chance.Row] = chance.Column;
        return columns;
    }

    /// <summary>Thirds are no decimal numbers.</summary>
    private const decimal Allowance = 1e-15m;

    private static bool IsBetter((bool, decimal Value, int, decimal) one, (bool, decimal Value, int, decimal) other) =>
        one.Item1 != other.Item1 ? one.Item1
        : Math.Abs(one.Value - other.Value) > Allowance ? one.Value > other.Value
        : one.Item3 != other.Item3 ? one.Item3 > other.Item3
        : one.Item4 > other.Item4 + Allowance;

    private static void Add(decimal[] sums, decimal[] more)
    {
        for (var i = 0; i < sums.Length; i++)
            sums[i] += more[i];
    }

    /// <summary>The chances that hang together by a label put down, a place, or a label that earns once in a family.</summary>
    private IEnumerable<List<Chance>> Blocks()
    {
        var families = new Dictionary<(string, Family), int>();
        foreach (var chance in chances)
            if (key.PinPlaces[chance.Column].Family is { } family)
                families.TryAdd((rows[chance.Row].Label, family), rows.Length + key.PinPlaces.Length + families.Count);
        var sets = new DisjointSets(rows.Length + key.PinPlaces.Length + families.Count);
        foreach (var chance in chances)
        {
            sets.Join(chance.Row, rows.Length + chance.Column);
            if (key.PinPlaces[chance.Column].Family is { } family)
                sets.Join(chance.Row, families[(rows[chance.Row].Label, family)]);
        }
        return chances.GroupBy(chance => sets.Root(chance.Row)).Select(block => block.ToList());
    }

    /// <summary>The ways to divide the labels of a block that are worth looking at.</summary>
    private List<Way> WaysOf(List<Chance> block)
    {
        var own = block.ToLookup(chance => chance.Row, chance => (chance.Column, chance.Credit));
        var open = own.Select(each => each.Key).Where(row => isOpen[row]).Order().ToArray();
        var best = new Dictionary<decimal[], Way>(SameSums.Instance);
        var looks = 0;
        Divide(0, []);
        return [.. best.Values];

        void Divide(int next, HashSet<int> earning)
        {
            if (++looks > MostLooks && best.Count > 0)
                return;
            var allowed = block.Where(chance => !isOpen[chance.Row] || earning.Contains(chance.Row)).ToList();
            var columns = Chances.Best(key, rows, allowed, each => isFixed[each] || earning.Contains(each));
            // Who can't all be paired can't be so with more of them either.
            if (earning.Any(each => columns[each] == Assignment.None))
                return;
            if (next == open.Length)
            {
                var sorted = tally.Nothing;
                foreach (var other in open.Where(other => !earning.Contains(other)))
                    Add(sorted, tally.Of(other));
                var earned = allowed.Where(chance => columns[chance.Row] == chance.Column).ToList();
                foreach (var chance in earned)
                    tally.AddTaken(sorted, chance.Column);
                var points = earned.Sum(chance => chance.Credit * key.PinPlaces[chance.Column].Worth);
                if (!best.TryGetValue(sorted, out var known) || points > known.Points)
                    best[sorted] = new(points, sorted, earned);
                return;
            }
            var row = open[next];
            // Of copies that are alike in everything, the first earn.
            if (next == 0 || earning.Contains(open[next - 1]) || !AreAlike(open[next - 1], row))
                Divide(next + 1, [.. earning, row]);
            Divide(next + 1, earning);
        }

        bool AreAlike(int one, int other) =>
            rows[one].Label == rows[other].Label && tally.Of(one).SequenceEqual(tally.Of(other)) && own[one].SequenceEqual(own[other]);
    }

    private sealed class SameSums : IEqualityComparer<decimal[]>
    {
        public static SameSums Instance { get; } = new();

        public bool Equals(decimal[]? one, decimal[]? other) => one.AsSpan().SequenceEqual(other);

        public int GetHashCode(decimal[] sums)
        {
            var hash = new HashCode();
            foreach (var sum in sums)
                hash.Add(sum);
            return hash.ToHashCode();
        }
    }
}
