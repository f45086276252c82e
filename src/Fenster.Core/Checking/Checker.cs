using System.Collections.Immutable;
using Fenster.Core.Model;

namespace Fenster.Core.Checking;

/// <summary>Holds a response against the key of its pane.</summary>
public static class Checker
{
    /// <summary>
    /// The verdict of each placement and the credit and state of each target. Where several pairings of placements
    /// and zones are possible, the one that earns the student most counts, so the order of the response does not matter.
    /// </summary>
    /// <param name="pane">A sound pane (see <see cref="Soundness"/>).</param>
    /// <param name="response">Its placements name labels and zones of the pane.</param>
    public static PaneMarks Check(Pane pane, Response response)
    {
        var families = Families(pane);
        var earned = families.SelectMany(family => Earn(family, response)).ToDictionary();

        var placements = response.Placements
            .Select(placement => Mark(placement, families.First(family => family.Has(placement.Zone)), earned))
            .ToImmutableArray();
        var targets = pane.Targets
            .OfType<DropZone>()
            .Select(zone => Mark(zone, families.First(family => family.Has(zone.Id)), placements))
            .ToImmutableArray();
        return new(placements, targets);
    }

    /// <summary>Zones that are checked together: those of one group, or one zone that stands alone.</summary>
    private sealed record Family(ImmutableArray<DropZone> Zones, ImmutableDictionary<string, decimal> Credits)
    {
        public bool Has(string zone) => Zones.Any(z => z.Id == zone);

        /// <summary>How many different answers a zone of the family needs for full credit.</summary>
        public int Needs(DropZone zone) => Math.Min(zone.Capacity, Credits.Count);
    }

    private static ImmutableArray<Family> Families(Pane pane) =>
        [.. pane.Targets.OfType<DropZone>()
            .GroupBy(zone => zone.Group is { } group ? (group, "") : ("", zone.Id))
            .Select(zones => new Family(
                [.. zones],
                zones.SelectMany(zone => zone.Accepts)
                    .GroupBy(accepted => accepted.Label)
                    .ToImmutableDictionary(alike => alike.Key, alike => alike.Max(accepted => accepted.Credit))))];

    /// <summary>
    /// The placements that earn something, with their credit. Each different label earns once in a family, and a zone
    /// earns as many labels as it needs.
    /// </summary>
    private static IEnumerable<KeyValuePair<Placement, decimal>> Earn(Family family, Response response)
    {
        var answers = response.Placements
            .Where(placement => family.Has(placement.Zone) && family.Credits.ContainsKey(placement.Label))
            .OrderBy(placement => placement.Label, StringComparer.Ordinal).ThenBy(placement => placement.Copy)
            .GroupBy(placement => placement.Label)
            .ToList();
        var places = family.Zones.SelectMany(zone => Enumerable.Repeat(zone, family.Needs(zone))).ToList();
        if (answers.Count == 0) yield break;

        var weights = new double[answers.Count, places.Count];
        for (var row = 0; row < answers.Count; row++)
            for (var column = 0; column < places.Count; column++)
                if (answers[row].Any(placement => placement.Zone == places[column].Id))
                    weights[row, column] = (double)(family.Credits[answers[row].Key] * places[column].Points / family.Needs(places[column]));

        var columns = Assignment.Solve(weights);
        for (var row = 0; row < answers.Count; row++)
            if (columns[row] != Assignment.None)
                yield return new(
                    answers[row].First(placement => placement.Zone == places[columns[row]].Id),
                    family.Credits[answers[row].Key]);
    }

    private static PlacementMark Mark(Placement placement, Family family, Dictionary<Placement, decimal> earned)
    {
        if (earned.TryGetValue(placement, out var credit))
            return new(placement, credit == 1 ? Verdict.Right : Verdict.Part, credit);
        return new(placement, family.Credits.ContainsKey(placement.Label) ? Verdict.Surplus : Verdict.Wrong, 0);
    }

    private static TargetMark Mark(DropZone zone, Family family, ImmutableArray<PlacementMark> placements)
    {
        var here = placements.Where(mark => mark.Placement.Zone == zone.Id).ToList();
        var needs = family.Needs(zone);
        var sum = here.Sum(mark => mark.Credit);
        // A full set of full credits is 1 exactly, also where a third of 1 is not a decimal number.
        var credit = needs == 0 ? 0 : sum == needs ? 1 : sum / needs;
        return new(zone.Id, credit, credit switch
        {
            1 => TargetState.Earned,
            > 0 => TargetState.PartEarned,
            _ => here.Count == 0 ? TargetState.Missed : TargetState.Wrong,
        });
    }
}
