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

    private readonly Dictionary<string, Family> familyOf;

    /// <summary>For each zone what was put there, and what it earned in all.</summary>
    private readonly Dictionary<string, (int Count, decimal Credit)> sums = [];

    public static ZoneCheck Of(Pane pane, Response response) => new(pane, response);

    private ZoneCheck(Pane pane, Response response)
    {
        familyOf = Family.Of(pane).SelectMany(family => family.Zones.Select(zone => (zone.Id, family))).ToDictionary(pair => pair.Id, pair => pair.family);
        Placements = CheckPlacements(response.Placements);
        Pins = CheckPins([.. pane.Targets.OfType<HiddenZone>()], response.Pins);
    }

    public TargetMark Mark(Zone zone)
    {
        var (count, sum) = sums.GetValueOrDefault(zone.Id);
        var needs = familyOf[zone.Id].Needs(zone);
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
        var earned = familyOf.Values.Distinct().SelectMany(family => Earn(family, placements)).ToDictionary();
        foreach (var placement in placements) Add(placement.Zone, earned.GetValueOrDefault(placement));
        return [.. placements.Select(placement => earned.TryGetValue(placement, out var credit)
            ? new PlacementMark(placement, Checker.VerdictOf(credit), credit)
            : new PlacementMark(placement, familyOf[placement.Zone].Credits.ContainsKey(placement.Label) ? Verdict.Surplus : Verdict.Wrong, 0))];
    }

    /// <summary>The placements in one family that earn something. A placement names its zone, so one row a label is exact.</summary>
    private static IEnumerable<KeyValuePair<Placement, decimal>> Earn(Family family, ImmutableArray<Placement> placements)
    {
        var zones = family.Zones.Select(zone => zone.Id).ToHashSet();
        var answers = placements
            .Where(placement => zones.Contains(placement.Zone) && family.Credits.ContainsKey(placement.Label))
            .OrderBy(placement => placement.Label, StringComparer.Ordinal).ThenBy(placement => placement.Copy)
            .GroupBy(placement => placement.Label)
            .ToList();
        if (answers.Count == 0) yield break;
        var places = family.Places.ToList();

        var weights = new double[answers.Count, places.Count];
        for (var row = 0; row < answers.Count; row++)
            for (var column = 0; column < places.Count; column++)
                if (answers[row].Any(placement => placement.Zone == places[column].Id))
                    weights[row, column] = Weight(family, places[column], family.Credits[answers[row].Key]);

        var columns = Assignment.Solve(weights);
        for (var row = 0; row < answers.Count; row++)
            if (columns[row] != Assignment.None)
                yield return new(answers[row].First(placement => placement.Zone == places[columns[row]].Id), family.Credits[answers[row].Key]);
    }

    private static double Weight(Family family, Zone zone, decimal credit) => (double)(credit * zone.Points / family.Needs(zone));

    private ImmutableArray<PinMark> CheckPins(IReadOnlyList<HiddenZone> zones, ImmutableArray<Pin> pins)
    {
        if (pins.IsEmpty) return [];
        // In an order of their own, so that equal pairings don't depend on the order of the response.
        var rows = pins.OrderBy(pin => pin.Label, StringComparer.Ordinal).ThenBy(pin => pin.At.X).ThenBy(pin => pin.At.Y).ThenBy(pin => pin.Copy).ToList();
        var places = zones.Select(zone => familyOf[zone.Id]).Distinct().SelectMany(family => family.Places.OfType<HiddenZone>()).ToList();
        var credits = new decimal[rows.Count, places.Count];
        var weights = new double[rows.Count, places.Count];
        for (var column = 0; column < places.Count; column++)
        {
            var (zone, family) = (places[column], familyOf[places[column].Id]);
            for (var row = 0; row < rows.Count; row++)
            {
                if (!family.Credits.TryGetValue(rows[row].Label, out var accepted)) continue;
                credits[row, column] = accepted * zone.Tolerance.CreditFor(zone.Region, rows[row].At);
                if (credits[row, column] > 0) weights[row, column] = Weight(family, zone, credits[row, column]);
            }
        }

        var columns = BestPairing(rows, places, weights);
        var marks = new Dictionary<Pin, PinMark>();
        for (var row = 0; row < rows.Count; row++)
        {
            var (pin, column) = (rows[row], columns[row]);
            var credit = column == Assignment.None ? 0 : credits[row, column];
            if (column != Assignment.None) Add(places[column].Id, credit);
            var belongs = Enumerable.Range(0, places.Count).Any(c => credits[row, c] > 0);
            marks[pin] = new(pin, column != Assignment.None ? Checker.VerdictOf(credit) : belongs ? Verdict.Surplus : Verdict.Wrong, credit);
        }
        // A wrong pin makes the zone it lies in wrong, not missed.
        foreach (var pin in rows.Where(pin => marks[pin].Credit == 0))
            foreach (var zone in zones.Where(zone => zone.Tolerance.CreditFor(zone.Region, pin.At) > 0))
                Add(zone.Id, 0);
        return [.. pins.Select(pin => marks[pin])];
    }

    /// <summary>
    /// The pairing that earns most, in which no label earns twice in a family. Where the plain assignment breaks that,
    /// each way to settle on one of the label's pins is tried.
    /// </summary>
    private int[] BestPairing(List<Pin> rows, List<HiddenZone> places, double[,] weights)
    {
        var ways = 0;
        (int[] Columns, double Sum)? best = null;
        Try(weights);
        return best!.Value.Columns;

        void Try(double[,] allowed)
        {
            if (++ways > MostWays && best is not null) return;
            var columns = Assignment.Solve(allowed);
            var sum = columns.Select((column, row) => column == Assignment.None ? 0 : allowed[row, column]).Sum();
            // Forbidding more never earns more.
            if (best is { } found && sum <= found.Sum) return;
            var twice = Enumerable.Range(0, rows.Count)
                .Where(row => columns[row] != Assignment.None)
                .GroupBy(row => (rows[row].Label, Family: familyOf[places[columns[row]].Id]))
                .FirstOrDefault(group => group.Count() > 1);
            if (twice is null)
            {
                best = (columns, sum);
                return;
            }
            foreach (var kept in Enumerable.Range(0, rows.Count).Where(row => rows[row].Label == twice.Key.Label).OrderBy(row => !twice.Contains(row)))
            {
                var narrowed = (double[,])allowed.Clone();
                for (var row = 0; row < rows.Count; row++)
                    for (var column = 0; column < places.Count; column++)
                        if (row != kept && rows[row].Label == twice.Key.Label && ReferenceEquals(familyOf[places[column].Id], twice.Key.Family))
                            narrowed[row, column] = 0;
                Try(narrowed);
            }
        }
    }
}
