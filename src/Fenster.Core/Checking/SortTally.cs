using Fenster.Core.Model;

namespace Fenster.Core.Checking;

/// <summary>
/// What labels in regions to sort into add up to: a row of sums, from which can be read what all the regions earn and how many
/// actions are wrong.
/// </summary>
internal sealed class SortTally
{
    private readonly PaneKey key;
    private readonly Weighing weighing;
    private readonly Laid[] rows;

    /// <summary>The regions that earn something here, in the order of the pane.</summary>
    private readonly SortRegion[] regions;

    /// <summary>By row: which of the regions it lies in.</summary>
    private readonly List<int>[] around;

    /// <summary>By row: whether what is wrong about it costs nothing.</summary>
    private readonly bool[] isFree;

    // Where in the row of sums something stands.
    private const int Wrong = 0;
    private readonly int[] main;
    private readonly Dictionary<(int Region, string Label), int> several = [];
    private readonly Dictionary<string, (int At, int[] Totals)> strangers = [];
    private readonly int length;
    private readonly decimal[]?[] known;

    /// <summary>
    /// Labels that lie in no region though a count asks for them, which are wrong unless it comes out without them and nothing else
    /// wants them still: how many places take each, and where it stands in the sums how many of these are taken.
    /// </summary>
    private readonly List<(string Label, int Places, int At)> beside = [];

    /// <param name="isWanted">Whether a shown zone still wants a label.</param>
    public SortTally(PaneKey key, Laid[] rows, Weighing weighing, bool[] isFree, Func<string, bool> isWanted)
    {
        (this.key, this.rows, this.weighing, this.isFree) = (key, rows, weighing, isFree);
        regions = weighing.Aside is null ? [.. key.SortRegions] : [.. key.SortRegions.Where(region => !weighing.IsAside(region))];
        around = new List<int>[rows.Length];
        known = new decimal[]?[rows.Length];
        for (var row = 0; row < rows.Length; row++)
        {
            around[row] = [];
            if (rows[row].At is { } at)
                for (var i = 0; i < regions.Length; i++)
                    if (regions[i].Region.Contains(at))
                        around[row].Add(i);
        }
        // A set has what is right less what is wrong. A count has its labels, a total its sum; then both have the labels that can be
        // wrong together, and a count strangers, a total all that lies there.
        (main, length) = (new int[regions.Length], 1);
        for (var i = 0; i < regions.Length; i++)
            (main[i], length) = (length, length + (regions[i].Want is WantSet ? 1 : 3));
        foreach (
            var of in Enumerable
                .Range(0, rows.Length)
                .SelectMany(row => around[row].Select(i => (i, rows[row].Label)))
                .GroupBy(each => each)
        )
            if (of.Count() > 1 && regions[of.Key.i].Want is WantSet set && set.Labels.Contains(of.Key.Label))
                several[of.Key] = length++;
        for (var row = 0; row < rows.Length; row++)
        {
            if (IsOnlyForTotals(row, out var totals))
            {
                var name = string.Join(' ', totals);
                if (!strangers.ContainsKey(name))
                    strangers[name] = (length++, totals);
            }
            if (around[row].Count == 0 && !isFree[row] && IsBeside(rows[row]) && !isWanted(rows[row].Label))
                beside.Add((rows[row].Label, key.PinPlaces.Count(place => Takes(place, rows[row].Label)), length++));
        }
    }

    public bool IsInRegion(int row) => around[row].Count > 0;

    /// <summary>The sums of no label at all.</summary>
    public decimal[] Nothing => new decimal[length];

    /// <summary>What a label adds that earns at no zone or scale point.</summary>
    public decimal[] Of(int row)
    {
        if (known[row] is { } made)
            return made;
        var sums = known[row] = Nothing;
        var (put, isWrong) = (rows[row], false);
        foreach (var i in around[row])
        {
            var asks = key.Asks(regions[i], put.Label);
            switch (regions[i].Want)
            {
                case WantSet:
                    if (!asks)
                        sums[main[i]]--;
                    else if (several.TryGetValue((i, put.Label), out var at))
                        sums[at]++;
                    else
                        sums[main[i]]++;
                    isWrong |= !asks;
                    break;
                case WantCount:
                    sums[main[i]] += asks ? 1 : 0;
                    sums[main[i] + 1] += asks && !isFree[row] ? 1 : 0;
                    sums[main[i] + 2] += asks ? 0 : 1;
                    isWrong |= !asks;
                    break;
                case WantTotal:
                    sums[main[i]] += key.Labels[put.Label].Value ?? 0;
                    sums[main[i] + 1] += asks && !isFree[row] ? 1 : 0;
                    sums[main[i] + 2]++;
                    break;
                default:
                    throw SortCheck.NotKnown(regions[i]);
            }
        }
        if (isFree[row])
            return sums;
        if (isWrong)
            sums[Wrong]++;
        else if (IsOnlyForTotals(row, out var totals))
            sums[strangers[string.Join(' ', totals)].At]++;
        return sums;
    }

    /// <summary>Adds to some sums that a place is taken.</summary>
    public void AddTaken(decimal[] sums, int column)
    {
        foreach (var (label, _, at) in beside)
            if (Takes(key.PinPlaces[column], label))
                sums[at]++;
    }

    private bool Takes(PinPlace place, string label) => place.Accepts(label) > 0 && !weighing.IsAside(place.Target);

    /// <summary>What the regions earn by some sums, in points; how many actions are wrong; and whether every region is earned in full.</summary>
    public (decimal Points, int Wrong, bool IsAll) Read(decimal[] sums)
    {
        var (points, wrong, isAll) = (0m, (int)sums[Wrong], true);
        var comesOut = new bool[regions.Length];
        for (var i = 0; i < regions.Length; i++)
        {
            var at = main[i];
            var credit = regions[i].Want switch
            {
                WantSet set => SortCheck.CreditOf(
                    set,
                    (int)sums[at] + several.Where(each => each.Key.Region == i).Sum(each => sums[each.Value] > 0 ? 1 : 0)
                ),
                WantCount count => sums[at + 2] == 0 && SortCheck.Holds(count, (int)sums[at]) ? 1 : 0,
                WantTotal total => sums[at + 2] > 0 && sums[at] >= total.From && sums[at] <= total.To ? 1 : 0,
                _ => throw SortCheck.NotKnown(regions[i]),
            };
            points += regions[i].Points * credit;
            isAll &= credit == 1;
            comesOut[i] = credit == 1;
            // The labels that a count or a total asks for are one wrong action together.
            if (credit == 0 && regions[i].Want is not WantSet && sums[at + 1] > 0)
                wrong++;
        }
        foreach (var (at, totals) in strangers.Values)
            if (totals.Any(i => !comesOut[i]))
                wrong += (int)sums[at];
        foreach (var (label, places, at) in beside)
            if (
                sums[at] < places
                || Enumerable.Range(0, regions.Length).Any(i => !comesOut[i] && regions[i].Want is WantCount && key.Asks(regions[i], label))
            )
                wrong++;
        return (points, wrong, isAll);
    }

    /// <summary>Whether all that doesn't ask for it where it lies are totals, which bear it as long as they come out.</summary>
    private bool IsOnlyForTotals(int row, out int[] totals)
    {
        totals = [.. around[row].Where(i => !key.Asks(regions[i], rows[row].Label))];
        return totals.Length > 0 && totals.All(i => regions[i].Want is WantTotal);
    }

    private bool IsBeside(Laid put) =>
        put.Zone is null
        && !key.PinPlaces.Any(place => Takes(place, put.Label) && place.CreditOf(put, 1) > 0)
        && regions.Any(region => region.Want is WantCount && key.Asks(region, put.Label))
        && !regions.Any(region => region.Want is WantSet && key.Asks(region, put.Label));
}
