using Fenster.Core.Model;

namespace Fenster.Core.Checking;

/// <summary>Labels sorted or collected into regions, which may overlap.</summary>
/// <param name="pins">Those that earn nothing at a hidden zone or a scale, in an order of their own.</param>
internal sealed class SortCheck(PaneKey key, IReadOnlyList<Pin> pins)
{
    private readonly Dictionary<string, List<Pin>> inside = key.SortRegions.ToDictionary(
        region => region.Id,
        region => pins.Where(pin => region.Region.Contains(pin.At)).ToList()
    );

    public TargetMark Mark(SortRegion region) => Checker.Mark(region, inside[region.Id].Count > 0, Credit(region));

    private readonly Dictionary<string, decimal> credits = [];

    private decimal Credit(SortRegion region)
    {
        if (!credits.TryGetValue(region.Id, out var credit))
            credits[region.Id] = credit = Earned(region);
        return credit;
    }

    private decimal Earned(SortRegion region) =>
        region.Want switch
        {
            WantSet set => SetCredit(set, inside[region.Id]),
            WantCount count => CountCredit(count, inside[region.Id]),
            WantTotal total => inside[region.Id] is { Count: > 0 } here
            && here.Sum(pin => key.Labels[pin.Label].Value ?? 0) is var sum
            && sum >= total.From
            && sum <= total.To
                ? 1
                : 0,
            var other => throw new ArgumentOutOfRangeException(nameof(region), other, "This kind of want is not known."),
        };

    /// <summary>
    /// Each label that belongs counts, each pin of another one takes that back. A region that wants nothing is earned by staying empty.
    /// </summary>
    private static decimal SetCredit(WantSet set, List<Pin> inside)
    {
        var right = inside.Select(pin => pin.Label).Where(set.Labels.Contains).Distinct().Count();
        var wrong = inside.Count(pin => !set.Labels.Contains(pin.Label));
        if (set.Labels.IsEmpty)
            return wrong == 0 ? 1 : 0;
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
    /// The mark of a pin that earns at no hidden zone or scale. It is right when it lies in all the regions whose sets want its
    /// label and in none of the others, part when in some of them, wrong when in a set that does not want it. Where a count or
    /// a total comes out, its labels are right; otherwise they are wrong together.
    /// </summary>
    /// <param name="belongs">Whether it would be right at a hidden zone or a scale, were the place not earned.</param>
    /// <param name="isOfPlaces">Whether a hidden zone or a scale takes its label.</param>
    public PinMark MarkOf(Pin pin, bool belongs, bool isOfPlaces)
    {
        if (key.SortRegions.IsEmpty)
            return new(pin, belongs ? Verdict.Surplus : LeftAside(pin, isWanted: false, isOfPlaces), 0);
        var around = key.SortRegions.Where(region => region.Region.Contains(pin.At)).ToList();
        var sets = around.Where(region => region.Want is WantSet).ToList();
        var wanting = key.Sets.Where(region => ((WantSet)region.Want).Labels.Contains(pin.Label)).ToList();
        var spoilt = sets.Except(wanting).ToList();
        if (spoilt.Count > 0)
            return new(pin, Verdict.Wrong, 0) { Spoils = [.. spoilt.Select(region => region.Id)] };

        var amounts = around.Where(region => region.Want is not WantSet).ToList();
        var failed = amounts.Where(region => Credit(region) == 0).ToList();
        if (failed.Count > 0)
            return new(pin, Verdict.Wrong, 0) { Together = [.. failed.Select(region => region.Id)] };

        if (sets.Count > 0)
        {
            // A copy more of what counts already.
            if (sets.All(region => First(region, pin.Label) != pin))
                return new(pin, Verdict.Surplus, 0);
            var verdict = sets.Count == wanting.Count ? Verdict.Right : Verdict.Part;
            return new(pin, verdict, sets.Count / (decimal)wanting.Count) { Sorted = [.. sets.Select(region => region.Id)] };
        }
        if (amounts.Count > 0)
            return new(pin, Verdict.Right, 1);
        if (belongs)
            return new(pin, Verdict.Surplus, 0);
        return new(pin, LeftAside(pin, wanting.Count > 0, isOfPlaces), 0);
    }

    private readonly Dictionary<(string Region, string Label), Pin> firsts = [];

    /// <summary>The pin of a label that counts in a region.</summary>
    private Pin First(SortRegion region, string label)
    {
        if (!firsts.TryGetValue((region.Id, label), out var first))
            firsts[(region.Id, label)] = first = inside[region.Id].First(pin => pin.Label == label);
        return first;
    }

    /// <summary>
    /// A pin in no region: a label that some target takes would be right elsewhere, unless all that count it come out without
    /// it; one that belongs nowhere is wrong only where places are hidden, or in a zone that takes labels.
    /// </summary>
    private Verdict LeftAside(Pin pin, bool isWanted, bool isOfPlaces)
    {
        if (isWanted || isOfPlaces)
            return Verdict.Wrong;
        var counting = key.SortRegions.Where(region => region.Want is WantCount count && count.Labels.Contains(pin.Label)).ToList();
        if (counting.Count > 0)
            return counting.All(region => Credit(region) == 1) ? Verdict.Surplus : Verdict.Wrong;
        if (key.LabelsOfZones.Contains(pin.Label))
            return Verdict.Wrong;
        return key.HidesPlaces || key.ShownZones.Any(zone => zone.Region.Contains(pin.At)) ? Verdict.Wrong : Verdict.Unscored;
    }
}
