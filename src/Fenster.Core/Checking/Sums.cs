using Fenster.Core.Model;

namespace Fenster.Core.Checking;

/// <summary>What was put into each zone of a pane, and what it earned in all.</summary>
internal sealed class Sums(PaneKey key)
{
    private readonly (int Count, decimal Credit)[] sums = new (int, decimal)[key.Zones.Count];

    public void Add(KeyZone zone, decimal credit)
    {
        var (count, sum) = sums[zone.Index];
        sums[zone.Index] = (count + 1, sum + credit);
    }

    public TargetMark Mark(Zone zone)
    {
        var known = key.Zones[zone.Id];
        var (count, sum) = sums[known.Index];
        var needs = known.Family.Needs(zone);
        // A full set of full credits is 1 exactly, also where a third of 1 is not a decimal number.
        return Checker.Mark(
            zone,
            count > 0,
            needs == 0 ? 0
                : sum == needs ? 1
                : sum / needs
        );
    }
}
