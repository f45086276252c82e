using Fenster.Core.Geometry;
using Fenster.Core.Model;

namespace Fenster.Core.Checking;

/// <summary>Room for one pin that earns something.</summary>
/// <param name="reach">Beyond it no pin earns anything here.</param>
internal abstract class PinPlace(Bounds reach)
{
    public readonly Bounds Reach = reach;

    /// <summary>In which a label earns once; null where each place is for itself.</summary>
    public abstract Family? Family { get; }

    /// <summary>The most that a pin of the label can earn here, as a credit; 0 when the label does not belong here.</summary>
    public abstract decimal Accepts(string label);

    /// <summary>What a pin of a label that belongs here earns at its spot, which lies within reach, as a credit.</summary>
    public abstract decimal CreditOf(Pin pin, decimal accepted);

    /// <summary>What full credit here is worth to the student, when choosing between pairings.</summary>
    public abstract double Worth { get; }
}

/// <summary>Room for one answer in a hidden zone.</summary>
internal sealed class HiddenPlace(HiddenZone zone, Family family) : PinPlace(ReachOf(zone))
{
    private static Bounds ReachOf(HiddenZone zone) =>
        zone.Region.Bounds.Grown(
            zone.Tolerance.Reach
                + 2 * Rounding.At(zone.Region.Bounds.Centre)
                + Rounding.At(new(zone.Region.Bounds.Width, zone.Region.Bounds.Height))
        );

    public HiddenZone Zone => zone;
    public override Family Family => family;
    public override double Worth { get; } = (double)zone.Points / Math.Max(1, family.Needs(zone));

    public override decimal Accepts(string label) => family.Credits.GetValueOrDefault(label);

    public override decimal CreditOf(Pin pin, decimal accepted) =>
        accepted * zone.Tolerance.CreditAt(zone.Region.DistanceTo(pin.At) - Rounding.At(pin.At));
}

/// <summary>Room for the pin that shows a value.</summary>
internal sealed class ScalePlace(ScalePoint point) : PinPlace(Bounds.Everywhere)
{
    public ScalePoint Point => point;
    public override Family? Family => null;
    public override double Worth { get; } = (double)point.Points;

    public override decimal Accepts(string label) => point.Label == label ? 1 : 0;

    public override decimal CreditOf(Pin pin, decimal accepted) => ScaleCheck.Credit(point, pin.At);
}

/// <summary>Room for a pin in the regions whose sets want its label, where hidden zones or scales want it too.</summary>
internal sealed class SortedPlace(string label, IReadOnlyList<SortRegion> wanting) : PinPlace(Bounds.Everywhere)
{
    public override Family? Family => null;
    public override double Worth => 1;

    public override decimal Accepts(string other) => other == label ? 1 : 0;

    public override decimal CreditOf(Pin pin, decimal accepted) =>
        wanting.Where(region => region.Region.Contains(pin.At)).Sum(region => region.Points / ((WantSet)region.Want).Labels.Length);
}
