using Fenster.Core.Geometry;
using Fenster.Core.Model;

namespace Fenster.Core.Checking;

/// <summary>A copy of a label that was put down: pinned to a spot, or laid into a zone whose group has hidden zones too.</summary>
/// <param name="At">Null where it was laid into a zone.</param>
/// <param name="Zone">Id of the zone; null for a pin.</param>
internal readonly record struct Laid(string Label, int Copy, Point? At, string? Zone);

/// <summary>Room for one label that earns something.</summary>
/// <param name="target">Whose room it is.</param>
/// <param name="reach">Beyond it no pin earns anything here.</param>
internal abstract class PinPlace(Target target, Bounds reach)
{
    public Target Target => target;
    public Bounds Reach => reach;

    /// <summary>In which a label earns once; null where each place is for itself.</summary>
    public abstract Family? Family { get; }

    /// <summary>The most that a label can earn here, as a credit; 0 when it does not belong here.</summary>
    public abstract decimal Accepts(string label);

    /// <summary>What a label that belongs here earns where it was put down, as a credit.</summary>
    public abstract decimal CreditOf(Laid put, decimal accepted);

    /// <summary>What full credit here is worth to the student, when choosing between pairings.</summary>
    public abstract decimal Worth { get; }
}

/// <summary>Room for one answer in a hidden zone.</summary>
internal sealed class HiddenPlace(HiddenZone zone, Family family) : PinPlace(zone, ReachOf(zone))
{
    private static Bounds ReachOf(HiddenZone zone) =>
        zone.Region.Bounds.Grown(
            zone.Tolerance.Reach
                + 2 * Rounding.At(zone.Region.Bounds.Centre)
                + Rounding.At(new(zone.Region.Bounds.Width, zone.Region.Bounds.Height))
        );

    public HiddenZone Zone => zone;
    public override Family Family => family;
    public override decimal Worth { get; } = zone.Points / Math.Max(1, family.Needs(zone));

    public override decimal Accepts(string label) => family.Credits.GetValueOrDefault(label);

    public override decimal CreditOf(Laid put, decimal accepted) => put.At is { } at && Reach.Holds(at) ? accepted * ShareAt(at) : 0;

    /// <summary>The share of its credit that a label has at a spot, whatever the label.</summary>
    public decimal ShareAt(Point at) => zone.Tolerance.CreditAt(zone.Region.DistanceTo(at) - Rounding.At(at));
}

/// <summary>Room for one answer in a shown zone whose group has hidden zones too.</summary>
internal sealed class ShownPlace(DropZone zone, Family family) : PinPlace(zone, Bounds.Everywhere)
{
    public override Family Family => family;
    public override decimal Worth { get; } = zone.Points / Math.Max(1, family.Needs(zone));

    public override decimal Accepts(string label) => family.Credits.GetValueOrDefault(label);

    public override decimal CreditOf(Laid put, decimal accepted) => put.Zone == zone.Id ? accepted : 0;
}

/// <summary>Room for the pin that shows a value.</summary>
internal sealed class ScalePlace(ScalePoint point) : PinPlace(point, Bounds.Everywhere)
{
    public ScalePoint Point => point;
    public override Family? Family => null;
    public override decimal Worth => point.Points;

    public override decimal Accepts(string label) => point.Label == label ? 1 : 0;

    public override decimal CreditOf(Laid put, decimal accepted) => put.At is { } at ? ScaleCheck.Credit(point, at) : 0;
}
