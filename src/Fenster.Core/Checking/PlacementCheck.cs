using System.Collections.Immutable;
using System.Runtime.InteropServices;
using Fenster.Core.Model;

namespace Fenster.Core.Checking;

/// <summary>
/// Labels in drop zones. Each different label earns once in a family, and a zone earns as many labels as it needs; which of
/// several pairings counts is decided in the student's favour.
/// </summary>
internal static class PlacementCheck
{
    /// <param name="pins">Where labels are weighed against pins.</param>
    public static ImmutableArray<PlacementMark> Of(PaneKey key, ImmutableArray<Placement> placements, PinCheck pins, Sums sums)
    {
        if (placements.IsEmpty)
            return [];
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
            if (family.IsMixed)
            {
                earned[i] = pins.CreditOf(i) > 0;
                continue;
            }
            weighed ??= new(ReferenceEqualityComparer.Instance);
            if (!weighed.TryGetValue(family, out var there))
                weighed[family] = there = [];
            there.Add(i);
        }
        foreach (var (family, there) in weighed ?? [])
        {
            foreach (var i in Earning(family, placements, there))
                earned[i] = true;
        }

        var marks = new PlacementMark[placements.Length];
        for (var i = 0; i < placements.Length; i++)
        {
            var (placement, zone) = (placements[i], zones[i]);
            var isAccepted = zone.Family.Credits.TryGetValue(placement.Label, out var worth);
            var credit = earned[i] ? worth : 0;
            sums.Add(zone, credit);
            marks[i] = new(
                placement,
                credit > 0 ? Checker.VerdictOf(credit)
                    : isAccepted ? Verdict.Surplus
                    : Verdict.Wrong,
                credit
            );
        }
        return ImmutableCollectionsMarshal.AsImmutableArray(marks);
    }

    /// <summary>The placements in one family that earn something. A placement names its zone, so one row a label is exact.</summary>
    /// <param name="there">Which of the placements lie in the family.</param>
    private static IEnumerable<int> Earning(Family family, ImmutableArray<Placement> placements, List<int> there)
    {
        var answers = there
            .Where(i => family.Credits.ContainsKey(placements[i].Label))
            .OrderBy(i => placements[i].Label, StringComparer.Ordinal)
            .ThenBy(i => placements[i].Copy)
            .GroupBy(i => placements[i].Label)
            .ToList();
        var places = family.Places.ToList();
        var pairs = new List<Assignment.Pair>();
        for (var row = 0; row < answers.Count; row++)
        {
            var zones = answers[row].Select(i => placements[i].Zone).ToHashSet();
            for (var column = 0; column < places.Count; column++)
                if (zones.Contains(places[column].Id))
                    pairs.Add(
                        new(row, column, (double)(family.Credits[answers[row].Key] * places[column].Points / family.Needs(places[column])))
                    );
        }
        var columns = Assignment.Solve(answers.Count, places.Count, pairs);
        return Enumerable
            .Range(0, answers.Count)
            .Where(row => columns[row] != Assignment.None)
            .Select(row => answers[row].First(i => placements[i].Zone == places[columns[row]].Id));
    }
}
