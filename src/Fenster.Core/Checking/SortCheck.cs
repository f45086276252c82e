using Fenster.Core.Geometry;
using Fenster.Core.Model;

namespace Fenster.Core.Checking;

/// <summary>Labels sorted or collected into regions, which may overlap.</summary>
internal sealed class SortCheck(PaneKey key, Response response)
{
    private List<Pin> Inside(SortRegion region) => [.. response.Pins.Where(pin => region.Region.Contains(pin.At))];

    public TargetMark Mark(SortRegion region)
    {
        var inside = Inside(region);
        return Checker.Mark(region, inside.Count > 0, region.Want switch
        {
            WantSet set => SetCredit(set, inside),
            WantCount count => CountCredit(count, inside),
            WantTotal total => inside.Count > 0 && inside.Sum(pin => key.Labels[pin.Label].Value ?? 0) is var sum && sum >= total.From && sum <= total.To ? 1 : 0,
            var other => throw new ArgumentOutOfRangeException(nameof(region), other, "This kind of want is not known."),
        });
    }

    /// <summary>Each label that belongs counts, each other one takes that back. A region that wants nothing is earned by staying empty.</summary>
    private static decimal SetCredit(WantSet set, List<Pin> inside)
    {
        var here = inside.Select(pin => pin.Label).Distinct().ToList();
        var right = here.Count(label => set.Labels.Contains(label));
        var wrong = here.Count - right;
        if (set.Labels.IsEmpty) return wrong == 0 ? 1 : 0;
        return right - wrong == set.Labels.Length ? 1 : Math.Max(0, right - wrong) / (decimal)set.Labels.Length;
    }

    /// <summary>The number must hold, and nothing else may lie there.</summary>
    private static decimal CountCredit(WantCount want, List<Pin> inside)
    {
        var matching = inside.Count(pin => want.Labels.Contains(pin.Label));
        var holds = want.Is switch
        {
            CountIs.Exactly => matching == want.Number,
            CountIs.AtLeast => matching >= want.Number,
            CountIs.AtMost => matching <= want.Number && matching > 0,
            _ => throw new ArgumentOutOfRangeException(nameof(want), want.Is, "This kind of count is not known."),
        };
        return holds && matching == inside.Count ? 1 : 0;
    }

    /// <summary>
    /// The verdict of a pin that no hidden zone or scale asks for: right when it lies in all the regions whose sets want
    /// its label and in none of the others. Labels that only count or add up have no verdict of their own.
    /// </summary>
    public Verdict? VerdictOf(Pin pin)
    {
        var around = key.SortRegions.Where(region => region.Region.Contains(pin.At)).ToList();
        var wanted = key.Sets.Where(region => ((WantSet)region.Want).Labels.Contains(pin.Label)).ToList();
        // Left aside, a label that belongs nowhere is neither right nor wrong.
        if (wanted.Count == 0 && around.Count == 0) return key.Sets.Length > 0 ? Verdict.Unscored : null;
        var inSets = around.Where(key.Sets.Contains).ToList();
        if (wanted.Count == 0 && inSets.Count == 0)
            return around.Any(region => region.Want is WantCount count && !count.Labels.Contains(pin.Label)) ? Verdict.Wrong : Verdict.Unscored;
        return inSets.ToHashSet().SetEquals(wanted) ? Verdict.Right : Verdict.Wrong;
    }
}
