using System.Collections.Immutable;
using Fenster.Core.Model;

namespace Fenster.Core.Insight;

/// <summary>How many put a label that belongs to one place to another.</summary>
/// <param name="Label">Id of the label.</param>
/// <param name="From">Id of the target where it belongs; of several the first.</param>
/// <param name="To">Id of the target where it was put.</param>
public sealed record Flow(string Label, string From, string To, int Count)
{
    /// <summary>The largest first. A label that belongs nowhere makes none.</summary>
    internal static ImmutableArray<Flow> Of(Pane pane, IEnumerable<Stray> strays)
    {
        var homes = pane
            .Targets.SelectMany(target => target.NamedLabels.Select(label => (label, target.Id)))
            .GroupBy(home => home.label)
            .ToDictionary(home => home.Key, home => home.First().Id);
        return
        [
            .. strays
                .Where(stray => homes.TryGetValue(stray.Label, out var home) && home != stray.To)
                .Select(stray => new Flow(stray.Label, homes[stray.Label], stray.To, stray.Count))
                .OrderByDescending(flow => flow.Count)
                .ThenBy(flow => flow.From, StringComparer.Ordinal)
                .ThenBy(flow => flow.To, StringComparer.Ordinal),
        ];
    }
}

/// <summary>How many put a label to a wrong place, whether it belongs anywhere or not.</summary>
/// <param name="Label">Id of the label.</param>
/// <param name="To">Id of the target where it was put.</param>
public sealed record Stray(string Label, string To, int Count)
{
    /// <summary>A label that lies where nothing is makes none.</summary>
    /// <param name="marks">What the responses came to, in their order.</param>
    internal static ImmutableArray<Stray> Of(Pane pane, PaneMarks[] marks)
    {
        var regions = pane
            .Targets.Select(target =>
                target switch
                {
                    HiddenZone zone => (target.Id, zone.Region),
                    SortRegion sort => (target.Id, sort.Region),
                    _ => (target.Id, Region: (Geometry.Region?)null),
                }
            )
            .Where(place => place.Region is not null)
            .ToList();
        IEnumerable<(string Label, string To)> Put(PaneMarks mark) =>
            mark
                .Placements.Where(placed => placed.Verdict == Verdict.Wrong)
                .Select(placed => (placed.Placement.Label, placed.Placement.Zone))
                .Concat(
                    mark.Pins.Where(pin => pin.Verdict == Verdict.Wrong)
                        .SelectMany(pin =>
                            // In regions that overlap it is those that don't ask for it.
                            pin.Spoils.IsEmpty
                                ? regions
                                    .Where(place => place.Region!.Contains(pin.Pin.At))
                                    .Take(1)
                                    .Select(place => (pin.Pin.Label, place.Id))
                                : pin.Spoils.Select(region => (pin.Pin.Label, region))
                        )
                );
        return
        [
            .. marks
                .SelectMany(mark => Put(mark).Distinct())
                .GroupBy(put => put)
                .Select(put => new Stray(put.Key.Label, put.Key.To, put.Count())),
        ];
    }
}
