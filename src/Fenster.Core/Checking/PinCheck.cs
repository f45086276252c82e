using System.Collections.Immutable;
using Fenster.Core.Model;

namespace Fenster.Core.Checking;

/// <summary>
/// Pins against hidden zones, scale points and regions to sort into, all in one assignment: a pin earns at one of them, except
/// that it earns in each of several overlapping regions that want its label.
/// </summary>
internal sealed class PinCheck
{
    /// <summary>Past this many ways to settle which pin of a label earns, or this much work, the best of those tried counts.</summary>
    private const int MostWays = 2000;
    private const long MostWork = 20_000_000;

    private readonly PaneKey key;
    private readonly SortCheck sorting;

    /// <summary>For each scale point the credit that a pin earned there.</summary>
    private readonly Dictionary<string, decimal> shown = [];

    /// <summary>In the order of the response.</summary>
    public ImmutableArray<PinMark> Marks { get; }

    public PinCheck(PaneKey key, ImmutableArray<Pin> pins, Sums sums)
    {
        this.key = key;
        if (pins.IsEmpty)
        {
            (Marks, sorting) = ([], new(key, []));
            return;
        }
        // In an order of their own, so that equal pairings don't depend on the order of the response.
        var (rows, order) = (pins.ToArray(), Enumerable.Range(0, pins.Length).ToArray());
        Array.Sort(rows, order, InOrder);
        var belongs = new bool[rows.Length];
        var chances = Chances(rows, belongs);
        var columns = AllTogether(rows, chances) ?? BestPairing(rows, chances);

        var earned = new (PinPlace Place, decimal Credit)?[rows.Length];
        foreach (var chance in chances)
            if (columns[chance.Row] == chance.Column && key.PinPlaces[chance.Column] is not SortedPlace and var place)
                earned[chance.Row] = (place, chance.Credit);
        sorting = new(key, key.SortRegions.IsEmpty ? [] : [.. rows.Where((_, row) => earned[row] is null)]);
        var marks = new PinMark[pins.Length];
        for (var row = 0; row < rows.Length; row++)
            marks[order[row]] = earned[row] is var (place, credit)
                ? Earn(rows[row], place, credit, sums)
                : sorting.MarkOf(rows[row], belongs[row], IsLabelOfPlaces(rows[row].Label));
        // A wrong pin makes the zone it lies in wrong, not missed.
        foreach (var mark in marks)
        {
            if (mark.Verdict != Verdict.Wrong)
                continue;
            foreach (var (place, zone) in key.HiddenPlaces)
                if (place.Reach.Holds(mark.Pin.At) && place.CreditOf(mark.Pin, 1) > 0)
                    sums.Add(zone, 0);
        }
        Marks = [.. marks];
    }

    private PinMark Earn(Pin pin, PinPlace place, decimal credit, Sums sums)
    {
        if (place is HiddenPlace { Zone: var zone })
            sums.Add(key.Zones[zone.Id], credit);
        else if (place is ScalePlace { Point: var point })
            shown[point.Id] = credit;
        return new(pin, Checker.VerdictOf(credit), credit) { Place = place };
    }

    public TargetMark Mark(SortRegion region) => sorting.Mark(region);

    /// <summary>The mark of a scale point whose value a label shows: wrong where the label lies anywhere else.</summary>
    public TargetMark Mark(ScalePoint point) =>
        shown.TryGetValue(point.Id, out var credit)
            ? Checker.Mark(point, true, credit)
            : Checker.Mark(point, Marks.Any(mark => mark.Pin.Label == point.Label && mark.Place is null), 0);

    private bool IsLabelOfPlaces(string label) => key.LabelsOfPlaces.Contains(label);

    private static readonly Comparer<Pin> InOrder = Comparer<Pin>.Create(
        (a, b) =>
            string.CompareOrdinal(a.Label, b.Label) is var byLabel and not 0
                ? byLabel
                : (a.At.X, a.At.Y, a.Copy).CompareTo((b.At.X, b.At.Y, b.Copy))
    );

    /// <summary>What a pin would earn in a place.</summary>
    private readonly record struct Chance(int Row, int Column, decimal Credit);

    /// <summary>
    /// The pins of each label that may earn something in a place, of which no more are looked at than the label can earn with.
    /// Nothing is allocated for the others.
    /// </summary>
    /// <param name="rows">In the order of their labels.</param>
    /// <param name="belongs">Is set for each that would be right somewhere, were it not for others.</param>
    private List<Chance> Chances(Pin[] rows, bool[] belongs)
    {
        var chances = new List<Chance>();
        for (var column = 0; column < key.PinPlaces.Length; column++)
        {
            var place = key.PinPlaces[column];
            var (label, accepted, first) = ("", 0m, chances.Count);
            for (var row = 0; row < rows.Length; row++)
            {
                var pin = rows[row];
                if (!ReferenceEquals(pin.Label, label) && pin.Label != label)
                {
                    KeepBest(chances, first, label);
                    (label, accepted, first) = (pin.Label, place.Accepts(pin.Label), chances.Count);
                }
                if (accepted == 0 || !place.Reach.Holds(pin.At))
                    continue;
                var credit = place.CreditOf(pin, accepted);
                if (credit == 0)
                    continue;
                chances.Add(new(row, column, credit));
                belongs[row] |= place is not SortedPlace;
            }
            KeepBest(chances, first, label);
        }
        return chances;
    }

    /// <summary>
    /// Of one label's chances in one place leaves the best, as many as there are places for the label: of these one is always
    /// free, however the others are used.
    /// </summary>
    private void KeepBest(List<Chance> chances, int first, string label)
    {
        var many = chances.Count - first;
        if (many < 2 || many <= key.PlacesOf(label))
            return;
        var best = chances
            .GetRange(first, many)
            .OrderByDescending(chance => chance.Credit)
            .ThenBy(chance => chance.Row)
            .Take(key.PlacesOf(label))
            .ToList();
        chances.RemoveRange(first, many);
        chances.AddRange(best);
    }

    /// <summary>The pairing by all chances, as nearly all work has it: no two are of one label or in one place. Null when two are.</summary>
    private static int[]? AllTogether(Pin[] rows, List<Chance> chances)
    {
        if (chances.Count > MostTogether)
            return null;
        for (var i = 0; i < chances.Count; i++)
        for (var j = 0; j < i; j++)
            if (chances[i].Column == chances[j].Column || rows[chances[i].Row].Label == rows[chances[j].Row].Label)
                return null;
        var columns = new int[rows.Length];
        Array.Fill(columns, Assignment.None);
        foreach (var chance in chances)
            columns[chance.Row] = chance.Column;
        return columns;
    }

    private const int MostTogether = 16;

    /// <summary>
    /// The pairing that earns most, in which no label earns twice in a family. Where the plain assignment breaks that,
    /// each way to settle on one of the label's pins is tried.
    /// </summary>
    private int[] BestPairing(Pin[] rows, List<Chance> chances)
    {
        var used = chances.Select(chance => chance.Row).Distinct().Order().ToArray();
        var (ways, work) = (0, 0L);
        (int[] Columns, double Sum)? best = null;
        Try([
            .. chances.Select(chance => new Assignment.Pair(
                chance.Row,
                chance.Column,
                (double)chance.Credit * key.PinPlaces[chance.Column].Worth
            )),
        ]);
        return best!.Value.Columns;

        void Try(List<Assignment.Pair> allowed)
        {
            work += (long)allowed.Count * used.Length;
            if (best is not null && (++ways > MostWays || work > MostWork))
                return;
            var columns = Assignment.Solve(rows.Length, key.PinPlaces.Length, allowed);
            var sum = allowed.Sum(pair => columns[pair.Row] == pair.Column ? pair.Weight : 0);
            // Forbidding more never earns more.
            if (best is { } found && sum <= found.Sum)
                return;
            if (EarnsTwice(rows, columns) is not var (label, family))
            {
                best = (columns, sum);
                return;
            }
            var alike = used.Where(row => rows[row].Label == label);
            foreach (
                var kept in alike.OrderBy(row =>
                    columns[row] == Assignment.None || !ReferenceEquals(key.PinPlaces[columns[row]].Family, family)
                )
            )
                Try([
                    .. allowed.Where(pair =>
                        pair.Row == kept || rows[pair.Row].Label != label || !ReferenceEquals(key.PinPlaces[pair.Column].Family, family)
                    ),
                ]);
        }
    }

    /// <summary>A label that is paired twice in a family; null when none is. The rows are in the order of their labels.</summary>
    private (string Label, Family Family)? EarnsTwice(Pin[] rows, int[] columns)
    {
        for (var row = 0; row < rows.Length; row++)
        {
            if (columns[row] == Assignment.None || key.PinPlaces[columns[row]].Family is not { } family)
                continue;
            // A zone that takes one label and stands alone is no place for two.
            if (family.Zones.Length == 1 && family.Needs(family.Zones[0]) == 1)
                continue;
            for (var next = row + 1; next < rows.Length && rows[next].Label == rows[row].Label; next++)
                if (columns[next] != Assignment.None && ReferenceEquals(key.PinPlaces[columns[next]].Family, family))
                    return (rows[row].Label, family);
        }
        return null;
    }
}
