using System.Collections.Immutable;
using System.Runtime.InteropServices;
using Fenster.Core.Model;

namespace Fenster.Core.Checking;

/// <summary>
/// Labels in drop zones and pins on hidden zones. Each different label earns once in a family, and a zone earns as many
/// labels as it needs; which of several pairings counts is decided in the student's favour.
/// </summary>
internal sealed class ZoneCheck
{
    /// <summary>Past this many ways to settle which pin of a label earns, the best of those tried counts.</summary>
    private const int MostWays = 2000;

    public ImmutableArray<PlacementMark> Placements { get; }
    public ImmutableArray<PinMark> Pins { get; }

    private readonly PaneKey key;

    /// <summary>For each zone what was put there, and what it earned in all.</summary>
    private readonly (int Count, decimal Credit)[] sums;

    public ZoneCheck(PaneKey key, Response response)
    {
        this.key = key;
        sums = new (int, decimal)[key.Zones.Count];
        Placements = response.Placements.IsEmpty ? [] : CheckPlacements(response.Placements);
        Pins = response.Pins.IsEmpty ? [] : CheckPins(response.Pins);
    }

    public TargetMark Mark(Zone zone)
    {
        var known = key.Zones[zone.Id];
        var (count, sum) = sums[known.Index];
        var needs = known.Family.Needs(zone);
        // A full set of full credits is 1 exactly, also where a third of 1 is not a decimal number.
        return Checker.Mark(zone, count > 0, needs == 0 ? 0 : sum == needs ? 1 : sum / needs);
    }

    private void Add(KeyZone zone, decimal credit)
    {
        var (count, sum) = sums[zone.Index];
        sums[zone.Index] = (count + 1, sum + credit);
    }

    private ImmutableArray<PlacementMark> CheckPlacements(ImmutableArray<Placement> placements)
    {
        var (zones, earned) = (new KeyZone[placements.Length], new bool[placements.Length]);
        Dictionary<Family, List<int>>? weighed = null;
        for (var i = 0; i < placements.Length; i++)
        {
            zones[i] = key.Zones[placements[i].Zone];
            var family = zones[i].Family;
            if (family.IsPlain)
            {
                earned[i] = true;
                continue;
            }
            weighed ??= new(ReferenceEqualityComparer.Instance);
            if (!weighed.TryGetValue(family, out var there)) weighed[family] = there = [];
            there.Add(i);
        }
        foreach (var (family, there) in weighed ?? [])
            foreach (var i in Earning(family, placements, there)) earned[i] = true;

        var marks = new PlacementMark[placements.Length];
        for (var i = 0; i < placements.Length; i++)
        {
            var (placement, zone) = (placements[i], zones[i]);
            var isAccepted = zone.Family.Credits.TryGetValue(placement.Label, out var worth);
            var credit = earned[i] ? worth : 0;
            Add(zone, credit);
            marks[i] = new(placement, credit > 0 ? Checker.VerdictOf(credit) : isAccepted ? Verdict.Surplus : Verdict.Wrong, credit);
        }
        return ImmutableCollectionsMarshal.AsImmutableArray(marks);
    }

    /// <summary>The placements in one family that earn something. A placement names its zone, so one row a label is exact.</summary>
    /// <param name="there">Which of the placements lie in the family.</param>
    private static IEnumerable<int> Earning(Family family, ImmutableArray<Placement> placements, List<int> there)
    {
        var answers = there
            .Where(i => family.Credits.ContainsKey(placements[i].Label))
            .OrderBy(i => placements[i].Label, StringComparer.Ordinal).ThenBy(i => placements[i].Copy)
            .GroupBy(i => placements[i].Label)
            .ToList();
        var places = family.Places.ToList();
        var pairs = new List<Assignment.Pair>();
        for (var row = 0; row < answers.Count; row++)
            for (var column = 0; column < places.Count; column++)
                if (answers[row].Any(i => placements[i].Zone == places[column].Id))
                    pairs.Add(new(row, column, (double)(family.Credits[answers[row].Key] * places[column].Points / family.Needs(places[column]))));

        var columns = Assignment.Solve(answers.Count, places.Count, pairs);
        return Enumerable.Range(0, answers.Count).Where(row => columns[row] != Assignment.None)
            .Select(row => answers[row].First(i => placements[i].Zone == places[columns[row]].Id));
    }

    private static readonly Comparer<Pin> InOrder = Comparer<Pin>.Create((a, b) =>
        string.CompareOrdinal(a.Label, b.Label) is var byLabel and not 0 ? byLabel : (a.At.X, a.At.Y, a.Copy).CompareTo((b.At.X, b.At.Y, b.Copy)));

    /// <summary>What a pin would earn in a place.</summary>
    private readonly record struct Chance(int Row, int Column, decimal Credit);

    private ImmutableArray<PinMark> CheckPins(ImmutableArray<Pin> pins)
    {
        // In an order of their own, so that equal pairings don't depend on the order of the response.
        var (rows, places) = (pins.ToArray(), Enumerable.Range(0, pins.Length).ToArray());
        Array.Sort(rows, places, InOrder);
        var chances = Chances(rows);
        var columns = chances.Count == 0 ? [.. Enumerable.Repeat(Assignment.None, rows.Length)] : BestPairing(rows, [.. chances.Select(chance => new Assignment.Pair(chance.Row, chance.Column, (double)chance.Credit * key.HiddenPlaces[chance.Column].Worth))]);

        var (credits, belongs) = (new decimal[rows.Length], new bool[rows.Length]);
        foreach (var chance in chances)
        {
            belongs[chance.Row] = true;
            if (columns[chance.Row] == chance.Column) credits[chance.Row] = chance.Credit;
        }
        var marks = new PinMark[rows.Length];
        for (var row = 0; row < rows.Length; row++)
        {
            var credit = credits[row];
            if (credit > 0) Add(key.Zones[key.HiddenPlaces[columns[row]].Zone.Id], credit);
            else
                // A wrong pin makes the zone it lies in wrong, not missed.
                foreach (var zone in key.HiddenZones)
                    if (zone.Tolerance.CreditFor(zone.Region, rows[row].At) > 0) Add(key.Zones[zone.Id], 0);
            marks[places[row]] = new(rows[row], credit > 0 ? Checker.VerdictOf(credit) : belongs[row] ? Verdict.Surplus : Verdict.Wrong, credit);
        }
        return ImmutableCollectionsMarshal.AsImmutableArray(marks);
    }

    /// <summary>Each pin in each place where it would earn something. Nothing is allocated for the others.</summary>
    /// <param name="rows">In the order of their labels.</param>
    private List<Chance> Chances(Pin[] rows)
    {
        var chances = new List<Chance>();
        for (var column = 0; column < key.HiddenPlaces.Length; column++)
        {
            var place = key.HiddenPlaces[column];
            var (label, accepted) = ("", 0m);
            for (var row = 0; row < rows.Length; row++)
            {
                var pin = rows[row];
                if (!ReferenceEquals(pin.Label, label))
                {
                    label = pin.Label;
                    accepted = place.Family.Credits.GetValueOrDefault(label);
                }
                if (accepted == 0 || !place.Reach.Holds(pin.At)) continue;
                var credit = accepted * place.Zone.Tolerance.CreditAt(place.Zone.Region.DistanceTo(pin.At));
                if (credit > 0) chances.Add(new(row, column, credit));
            }
        }
        return chances;
    }

    /// <summary>
    /// The pairing that earns most, in which no label earns twice in a family. Where the plain assignment breaks that,
    /// each way to settle on one of the label's pins is tried.
    /// </summary>
    private int[] BestPairing(Pin[] rows, List<Assignment.Pair> pairs)
    {
        var ways = 0;
        (int[] Columns, double Sum)? best = null;
        Try(pairs);
        return best!.Value.Columns;

        void Try(List<Assignment.Pair> allowed)
        {
            if (++ways > MostWays && best is not null) return;
            var columns = Assignment.Solve(rows.Length, key.HiddenPlaces.Length, allowed);
            var sum = allowed.Sum(pair => columns[pair.Row] == pair.Column ? pair.Weight : 0);
            // Forbidding more never earns more.
            if (best is { } found && sum <= found.Sum) return;
            if (EarnsTwice(rows, columns) is not var (label, family))
            {
                best = (columns, sum);
                return;
            }
            var alike = Enumerable.Range(0, rows.Length).Where(row => rows[row].Label == label);
            foreach (var kept in alike.OrderBy(row => columns[row] == Assignment.None || !ReferenceEquals(key.HiddenPlaces[columns[row]].Family, family)))
                Try([.. allowed.Where(pair => pair.Row == kept || rows[pair.Row].Label != label || !ReferenceEquals(key.HiddenPlaces[pair.Column].Family, family))]);
        }
    }

    /// <summary>A label that is paired twice in a family; null when none is. The rows are in the order of their labels.</summary>
    private (string Label, Family Family)? EarnsTwice(Pin[] rows, int[] columns)
    {
        for (var row = 0; row < rows.Length; row++)
        {
            if (columns[row] == Assignment.None) continue;
            var family = key.HiddenPlaces[columns[row]].Family;
            // A zone that takes one label and stands alone is no place for two.
            if (family.Zones.Length == 1 && family.Needs(family.Zones[0]) == 1) continue;
            for (var next = row + 1; next < rows.Length && rows[next].Label == rows[row].Label; next++)
                if (columns[next] != Assignment.None && ReferenceEquals(key.HiddenPlaces[columns[next]].Family, family)) return (rows[row].Label, family);
        }
        return null;
    }
}
