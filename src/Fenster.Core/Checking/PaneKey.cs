using System.Collections.Concurrent;
using System.Collections.Frozen;
using System.Collections.Immutable;
using System.Runtime.CompilerServices;
using Fenster.Core.Model;

namespace Fenster.Core.Checking;

/// <summary>What checking needs to know of a pane, worked out once for all responses to it.</summary>
internal sealed class PaneKey
{
    private static readonly ConditionalWeakTable<Pane, PaneKey> Known = [];

    public static PaneKey Of(Pane pane) => Known.GetValue(pane, made => new PaneKey(made));

    private readonly FrozenDictionary<string, int> placesOf;
    private readonly FrozenDictionary<string, FrozenSet<string>> asked;
    private readonly ConcurrentDictionary<(string, string), bool> overlaps = new();

    private PaneKey(Pane pane)
    {
        Families = Family.Of(pane);
        Zones = Families
            .SelectMany(family => family.Zones.Select(zone => (zone, family)))
            .Select((pair, i) => new KeyZone(pair.zone, pair.family, i))
            .ToFrozenDictionary(zone => zone.Zone.Id);
        HiddenZones = [.. pane.Targets.OfType<HiddenZone>()];
        HiddenPlaces = [.. HiddenZones.Select(zone => (new HiddenPlace(zone, Zones[zone.Id].Family), Zones[zone.Id]))];
        ShownZones = [.. pane.Targets.OfType<DropZone>()];
        Hotspots = [.. pane.Targets.OfType<Hotspots>()];
        ScalePoints = [.. pane.Targets.OfType<ScalePoint>()];
        Matchings = [.. pane.Targets.OfType<Matching>()];
        SortRegions = [.. pane.Targets.OfType<SortRegion>()];
        Sets = [.. SortRegions.Where(region => region.Want is WantSet)];
        Labels = pane.Labels.ToDictionary(label => label.Id);
        LabelsOfPlaces = HiddenZones
            .SelectMany(zone => Zones[zone.Id].Family.Credits.Keys)
            .Concat(ScalePoints.SelectMany(point => point.NamedLabels))
            .ToFrozenSet();
        LabelsOfZones = ShownZones.SelectMany(zone => zone.NamedLabels).ToFrozenSet();
        PinPlaces =
        [
            .. HiddenZones
                .Select(zone => Zones[zone.Id].Family)
                .Distinct()
                .SelectMany(family =>
                    family.Places.Select(zone =>
                        zone is HiddenZone hidden ? (PinPlace)new HiddenPlace(hidden, family) : new ShownPlace((DropZone)zone, family)
                    )
                ),
            .. ScalePoints.Where(point => point.Label is not null).Select(point => new ScalePlace(point)),
        ];
        asked = SortRegions.ToFrozenDictionary(
            region => region.Id,
            region =>
                region.Want is WantTotal
                    ? pane.Labels.Where(label => label.Value is not null).Select(label => label.Id).ToFrozenSet()
                    : region.NamedLabels.ToFrozenSet()
        );
        if (pane.Targets.Any(target => target.TakenOut is not null))
            TakenOut = pane.Targets.Where(target => target.TakenOut is not null).Select(target => target.Id).ToFrozenSet();
        HasMixedFamilies = Families.Any(family => family.IsMixed);
        placesOf = LabelsOfPlaces.ToFrozenDictionary(label => label, label => PinPlaces.Count(place => place.Accepts(label) > 0));
    }

    public ImmutableArray<Family> Families { get; }

    /// <summary>By id.</summary>
    public FrozenDictionary<string, KeyZone> Zones { get; }
    public ImmutableArray<HiddenZone> HiddenZones { get; }

    /// <summary>Each hidden zone once.</summary>
    public ImmutableArray<(HiddenPlace Place, KeyZone Zone)> HiddenPlaces { get; }
    public ImmutableArray<DropZone> ShownZones { get; }

    /// <summary>
    /// Each hidden zone once for each answer that it needs, and each shown one of its group; families together; then each value that a
    /// label shows.
    /// </summary>
    public ImmutableArray<PinPlace> PinPlaces { get; }
    public ImmutableArray<Hotspots> Hotspots { get; }
    public ImmutableArray<ScalePoint> ScalePoints { get; }
    public ImmutableArray<Matching> Matchings { get; }
    public ImmutableArray<SortRegion> SortRegions { get; }

    /// <summary>The regions that ask for a set.</summary>
    public ImmutableArray<SortRegion> Sets { get; }
    public Dictionary<string, Label> Labels { get; }

    /// <summary>The labels that hidden zones and scale points take.</summary>
    public FrozenSet<string> LabelsOfPlaces { get; }

    /// <summary>The labels that shown zones take.</summary>
    public FrozenSet<string> LabelsOfZones { get; }

    /// <summary>Whether there are places for pins that students don't see.</summary>
    public bool HidesPlaces => !HiddenZones.IsEmpty || ScalePoints.Any(point => point.Label is not null);

    /// <summary>The targets that were taken out; null for none.</summary>
    public IReadOnlySet<string>? TakenOut { get; }

    /// <summary>Whether some group has both shown and hidden zones.</summary>
    public bool HasMixedFamilies { get; }

    /// <summary>Whether a region asks for a label. A total asks for what has a value.</summary>
    public bool Asks(SortRegion region, string label) => asked[region.Id].Contains(label);

    /// <summary>Whether a shown zone, in a family of such, takes a label that it doesn't have, and has room for it.</summary>
    public bool IsWantedByShown(string label, ImmutableArray<Placement> placements, Weighing weighing) =>
        LabelsOfZones.Contains(label)
        && Families
            .Where(family => family.Zones[0] is DropZone && !family.IsMixed && family.Credits.ContainsKey(label))
            .Any(family =>
            {
                var zones = family.Zones.Where(zone => !weighing.IsAside(zone)).ToList();
                var there = placements
                    .Where(placement => zones.Exists(zone => zone.Id == placement.Zone) && family.Credits.ContainsKey(placement.Label))
                    .Select(placement => placement.Label)
                    .ToHashSet();
                return !there.Contains(label) && there.Count < zones.Sum(family.Needs);
            });

    /// <summary>Whether two regions share some of the picture.</summary>
    public bool Overlap(SortRegion one, SortRegion other) =>
        ReferenceEquals(one, other) || overlaps.GetOrAdd((one.Id, other.Id), _ => one.Region.OverlapWith(other.Region) > 0);

    /// <summary>In how many places pins of a label can earn.</summary>
    public int PlacesOf(string label) => placesOf.GetValueOrDefault(label);
}

/// <param name="Index">From 0, among the zones of the pane.</param>
internal sealed record KeyZone(Zone Zone, Family Family, int Index);
