using System.Collections.Immutable;
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
    private readonly Dictionary<string, (int Count, decimal Credit)> sums = [];

    public ZoneCheck(PaneKey key, Response response)
    {
        this.key = key;
        Placements = response.Placements.IsEmpty ? [] : CheckPlacements(response.Placements);
        Pins = response.Pins.IsEmpty ? [] : CheckPins(response.Pins);
    }

    public TargetMark Mark(Zone zone)
    {
        var (count, sum) = sums.GetValueOrDefault(zone.Id);
        var needs = key.FamilyOf[zone.Id].Needs(zone);
        // A full set of full credits is 1 exactly, also where a third of 1 is not a decimal number.
        return Checker.Mark(zone, count > 0, needs == 0 ? 0 : sum == needs ? 1 : sum / needs);
    }

    private void Add(string zone, decimal credit)
    {
        var (count, sum) = sums.GetValueOrDefault(zone);
        sums[zone] = (count + 1, sum + credit);
    }

    private ImmutableArray<PlacementMark> CheckPlacements(ImmutableArray<Placement> placements)
    {
        var byFamily = new Dictionary<Family, List<Placement>>(ReferenceEqualityComparer.Instance);
        foreach (var placement in placements)
        {
            var family = key.FamilyOf[placement.Zone];
            if (!byFamily.TryGetValue(family, out var there)) byFamily[family] = there = [];
            there.Add(placement);
        }
        var earned = new HashSet<Placement>();
        foreach (var (family, there) in byFamily) Earn(family, there, earned);

        var marks = ImmutableArray.CreateBuilder<PlacementMark>(placements.Length);
        foreach (var placement in placements)
        {
            var accepted = key.FamilyOf[placement.Zone].Credits.TryGetValue(placement.Label, out var worth);
            var credit = earned.Contains(placement) ? worth : 0;
            Add(placement.Zone, credit);
            marks.Add(new(placement, credit > 0 ? Checker.VerdictOf(credit) : accepted ? Verdict.Surplus : Verdict.Wrong, credit));
        }
        return marks.MoveToImmutable();
    }

    /// <summary>The placements in one family that earn something. A placement names its zone, so one row a label is exact.</summary>
    private static void Earn(Family family, List<Placement> placements, HashSet<Placement> earned)
    {
        if (placements is [var only])
        {
            if (family.Credits.ContainsKey(only.Label)) earned.Add(only);
            return;
        }
        var answers = placements
            .Where(placement => family.Credits.ContainsKey(placement.Label))
            .OrderBy(placement => placement.Label, StringComparer.Ordinal).ThenBy(placement => placement.Copy)
            .GroupBy(placement => placement.Label)
            .ToList();
        if (answers.Count == 0) return;
        var places = family.Places.ToList();

        var pairs = new List<Assignment.Pair>();
        for (var row = 0; row < answers.Count; row++)
            for (var column = 0; column < places.Count; column++)
                if (answers[row].Any(placement => placement.Zone == places[column].Id))
                    pairs.Add(new(row, column, (double)(family.Credits[answers[row].Key] * places[column].Points / family.Needs(places[column]))));

        var columns = Assignment.Solve(answers.Count, places.Count, pairs);
        for (var row = 0; row < answers.Count; row++)
            if (columns[row] != Assignment.None)
                earned.Add(answers[row].First(placement => placement.Zone == places[columns[row]].Id));
    }

    /// <summary>What a pin would earn in a place.</summary>
    private readonly record struct Chance(int Row, int Column, decimal Credit);

    private ImmutableArray<PinMark> CheckPins(ImmutableArray<Pin> pins)
    {
        // In an order of their own, so that equal pairings don't depend on the order of the response.
        var rows = pins.OrderBy(pin => pin.Label, StringComparer.Ordinal).ThenBy(pin => pin.At.X).ThenBy(pin => pin.At.Y).ThenBy(pin => pin.Copy).ToArray();
        var chances = Chances(rows);
        var columns = BestPairing(rows, [.. chances.Select(chance => new Assignment.Pair(chance.Row, chance.Column, (double)chance.Credit * key.HiddenPlaces[chance.Column].Worth))]);

        var (credits, belongs) = (new decimal[rows.Length], new bool[rows.Length]);
        foreach (var chance in chances)
        {
            belongs[chance.Row] = true;
            if (columns[chance.Row] == chance.Column) credits[chance.Row] = chance.Credit;
        }
        var marks = new Dictionary<Pin, PinMark>(rows.Length);
        for (var row = 0; row < rows.Length; row++)
        {
            var credit = credits[row];
            if (credit > 0) Add(key.HiddenPlaces[columns[row]].Zone.Id, credit);
            else
                // A wrong pin makes the zone it lies in wrong, not missed.
                foreach (var zone in key.HiddenZones)
                    if (zone.Tolerance.CreditFor(zone.Region, rows[row].At) > 0) Add(zone.Id, 0);
            marks[rows[row]] = new(rows[row], credit > 0 ? Checker.VerdictOf(credit) : belongs[row] ? Verdict.Surplus : Verdict.Wrong, credit);
        }
        return [.. pins.Select(pin => marks[pin])];
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
