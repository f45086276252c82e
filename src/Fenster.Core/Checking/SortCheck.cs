using Fenster.Core.Geometry;
using Fenster.Core.Model;

namespace Fenster.Core.Checking;

/// <summary>Labels sorted or collected into regions, which may overlap.</summary>
/// <param name="pins">Those that earn nothing at a hidden zone or a scale, in an order of their own.</param>
/// <param name="isOpen">Whether a hidden zone or a scale point that takes a label has room for it still.</param>
internal sealed class SortCheck(PaneKey key, IReadOnlyList<Pin> pins, Weighing weighing, Func<string, bool> isOpen)
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

    private decimal Earned(SortRegion region)
    {
        var here = inside[region.Id];
        return region.Want switch
        {
            WantSet set => CreditOf(
                set,
                here.Select(pin => pin.Label).Where(set.Labels.Contains).Distinct().Count()
                    - here.Count(pin => !set.Labels.Contains(pin.Label))
            ),
            WantCount count => Holds(count, here.Count(pin => count.Labels.Contains(pin.Label)))
            && here.All(pin => count.Labels.Contains(pin.Label))
                ? 1
                : 0,
            WantTotal total => here.Count > 0
            && here.Sum(pin => key.Labels[pin.Label].Value ?? 0) is var sum
            && sum >= total.From
            && sum <= total.To
                ? 1
                : 0,
            _ => throw NotKnown(region),
        };
    }

    /// <summary>
    /// What a set earns: each label that belongs counts, each pin of another one takes that back. One that wants nothing is earned by
    /// staying empty.
    /// </summary>
    /// <param name="right">Different labels that belong, less pins that don't.</param>
    internal static decimal CreditOf(WantSet set, int right) =>
        right == set.Labels.Length ? 1
        : set.Labels.IsEmpty ? 0
        : Math.Max(0, right) / (decimal)set.Labels.Length;

    /// <summary>Whether so many labels are what a count asks for; none never are.</summary>
    internal static bool Holds(WantCount count, int labels) =>
        labels > 0
        && count.Is switch
        {
            CountIs.Exactly => labels == count.Number,
            CountIs.AtLeast => labels >= count.Number,
            CountIs.AtMost => labels <= count.Number,
            _ => throw new ArgumentOutOfRangeException(nameof(count), count.Is, "This kind of count is not known."),
        };

    internal static ArgumentOutOfRangeException NotKnown(SortRegion region) =>
        new ArgumentOutOfRangeException(nameof(region), region.Want, "This kind of want is not known.");

    /// <summary>
    /// The mark of a pin that earns at no hidden zone or scale. It is wrong in a region that doesn't ask for its label, whatever it
    /// earns elsewhere; right when it lies in all the sets it could lie in at once, part when in some of them. Where a count or a total
    /// comes out, its labels are right; otherwise they are wrong together.
    /// </summary>
    /// <param name="belongs">Whether it would be right at a hidden zone or a scale, were the place not earned.</param>
    public PinMark MarkOf(Pin pin, bool belongs)
    {
        if (key.SortRegions.IsEmpty)
            return new(pin, belongs ? Verdict.Surplus : LeftAside(pin), 0);
        var around = key.SortRegions.Where(region => region.Region.Contains(pin.At)).ToList();
        var sets = around.Where(region => region.Want is WantSet && key.Asks(region, pin.Label)).ToList();
        var sorted = sets.Where(region => First(region, pin.Label) == pin).ToList();
        var wanting = key.Sets.Where(region => key.Asks(region, pin.Label)).ToList();
        var mark = new PinMark(pin, Verdict.Right, sorted.Count == 0 ? 0 : sorted.Count / (decimal)wanting.Count)
        {
            Sorted = [.. sorted.Select(region => region.Id)],
            // A total bears what has no value as long as it comes out.
            Spoils =
            [
                .. around
                    .Where(region => !key.Asks(region, pin.Label) && (region.Want is not WantTotal || Credit(region) == 0))
                    .Select(region => region.Id),
            ],
            Together =
            [
                .. around
                    .Where(region => region.Want is not WantSet && key.Asks(region, pin.Label) && Credit(region) == 0)
                    .Select(region => region.Id),
            ],
        };
        if (!mark.Spoils.IsEmpty)
            return mark with { Verdict = Verdict.Wrong };
        if (sets.Count > 0)
        {
            // A copy more of what counts already.
            if (sorted.Count == 0)
                return mark with { Verdict = Verdict.Surplus };
            return wanting.Except(sets).Any(missing => CouldLieInAll(missing, sets))
                ? mark with
                {
                    Verdict = Verdict.Part,
                }
                : mark with
                {
                    Credit = 1,
                };
        }
        if (!mark.Together.IsEmpty)
            return mark with { Verdict = Verdict.Wrong };
        if (around.Count > 0)
            return mark with { Credit = 1 };
        return mark with { Verdict = belongs ? Verdict.Surplus : LeftAside(pin) };
    }

    /// <summary>Whether there is a spot in a region and in all of some others.</summary>
    private bool CouldLieInAll(SortRegion region, List<SortRegion> others) => others.TrueForAll(other => key.Overlap(region, other));

    private readonly Dictionary<(string Region, string Label), Pin> firsts = [];

    /// <summary>The pin of a label that counts in a region: of several the one that lies in most of the sets that want it.</summary>
    private Pin First(SortRegion region, string label)
    {
        if (!firsts.TryGetValue((region.Id, label), out var first))
            firsts[(region.Id, label)] = first = inside[region.Id]
                .Where(pin => pin.Label == label)
                .MaxBy(pin => key.Sets.Count(set => key.Asks(set, label) && set.Region.Contains(pin.At)))!;
        return first;
    }

    /// <summary>
    /// A pin in no region: a label that some target takes would be right elsewhere, unless all that count it come out without
    /// it and nothing else wants it still; one that belongs nowhere is wrong only where places are hidden, or in a zone that takes
    /// labels. A total takes no label in particular.
    /// </summary>
    private Verdict LeftAside(Pin pin)
    {
        var asking = key
            .SortRegions.Where(region => region.Want is not WantTotal && key.Asks(region, pin.Label) && !weighing.IsAside(region))
            .ToList();
        if (
            asking.Exists(region => region.Want is WantCount)
            && asking.TrueForAll(region =>
                region.Want is WantCount ? Credit(region) == 1 : inside[region.Id].Exists(other => other.Label == pin.Label)
            )
            && !isOpen(pin.Label)
        )
            return Verdict.Surplus;
        if (
            key.LabelsOfPlaces.Contains(pin.Label)
            || key.LabelsOfZones.Contains(pin.Label)
            || key.SortRegions.Any(region => region.Want is not WantTotal && key.Asks(region, pin.Label))
        )
            return Verdict.Wrong;
        return key.HidesPlaces || key.ShownZones.Any(zone => zone.Region.Contains(pin.At)) ? Verdict.Wrong : Verdict.Unscored;
    }
}
