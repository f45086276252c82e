using System.Collections.Immutable;
using Fenster.Core.Model;

namespace Fenster.Core.Checking;

/// <summary>Zones that are checked together: those of one group, or one zone that stands alone.</summary>
/// <param name="Credits">What each label earns that any of the zones accepts.</param>
internal sealed record Family(ImmutableArray<Zone> Zones, Dictionary<string, decimal> Credits)
{
    public static ImmutableArray<Family> Of(Pane pane) =>
        [
            .. pane
                .Targets.OfType<Zone>()
                .GroupBy(zone => zone.Group is { } group ? (group, "") : ("", zone.Id))
                .Select(zones => new Family(
                    [.. zones],
                    zones
                        .SelectMany(zone => zone.Accepts)
                        .GroupBy(accepted => accepted.Label)
                        .ToDictionary(alike => alike.Key, alike => alike.Max(accepted => accepted.Credit))
                )),
        ];

    /// <summary>Whether it is one zone that takes one label, so that nothing has to be weighed against anything.</summary>
    public bool IsPlain { get; } = Zones is [{ Capacity: 1 }];

    /// <summary>Whether some of its zones are shown and others hidden: then labels and pins are weighed against each other.</summary>
    public bool IsMixed { get; } = Zones.Any(zone => zone is HiddenZone) && Zones.Any(zone => zone is not HiddenZone);

    /// <summary>How many different answers a zone of the family needs for full credit.</summary>
    public int Needs(Zone zone) => Math.Min(zone.Capacity, Credits.Count);

    /// <summary>Each zone once for each answer that it needs.</summary>
    public IEnumerable<Zone> Places => Zones.SelectMany(zone => Enumerable.Repeat(zone, Needs(zone)));
}
