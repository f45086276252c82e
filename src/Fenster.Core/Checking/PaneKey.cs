using System.Collections.Frozen;
using System.Collections.Immutable;
using System.Runtime.CompilerServices;
using Fenster.Core.Geometry;
using Fenster.Core.Model;

namespace Fenster.Core.Checking;

/// <summary>What checking needs to know of a pane, worked out once for all responses to it.</summary>
internal sealed class PaneKey
{
    private static readonly ConditionalWeakTable<Pane, PaneKey> Known = [];

    public static PaneKey Of(Pane pane) => Known.GetValue(pane, made => new PaneKey(made));

    private PaneKey(Pane pane)
    {
        Families = Family.Of(pane);
        Zones = Families.SelectMany(family => family.Zones.Select(zone => (zone, family))).Select((pair, i) => new KeyZone(pair.zone, pair.family, i)).ToFrozenDictionary(zone => zone.Zone.Id);
        HiddenZones = [.. pane.Targets.OfType<HiddenZone>()];
        HiddenPlaces = [.. HiddenZones.Select(zone => Zones[zone.Id].Family).Distinct().SelectMany(family => family.Places.OfType<HiddenZone>().Select(zone => new HiddenPlace(zone, family)))];
        Hotspots = [.. pane.Targets.OfType<Hotspots>()];
        ScalePoints = [.. pane.Targets.OfType<ScalePoint>()];
        Matchings = [.. pane.Targets.OfType<Matching>()];
        SortRegions = [.. pane.Targets.OfType<SortRegion>()];
        Sets = [.. SortRegions.Where(region => region.Want is WantSet)];
        Labels = pane.Labels.ToDictionary(label => label.Id);
    }

    public ImmutableArray<Family> Families { get; }

    /// <summary>By id.</summary>
    public FrozenDictionary<string, KeyZone> Zones { get; }
    public ImmutableArray<HiddenZone> HiddenZones { get; }

    /// <summary>Each hidden zone once for each answer that it needs, families together.</summary>
    public ImmutableArray<HiddenPlace> HiddenPlaces { get; }
    public ImmutableArray<Hotspots> Hotspots { get; }
    public ImmutableArray<ScalePoint> ScalePoints { get; }
    public ImmutableArray<Matching> Matchings { get; }
    public ImmutableArray<SortRegion> SortRegions { get; }

    /// <summary>The regions that ask for a set.</summary>
    public ImmutableArray<SortRegion> Sets { get; }
    public Dictionary<string, Label> Labels { get; }
}

/// <param name="Index">From 0, among the zones of the pane.</param>
internal sealed record KeyZone(Zone Zone, Family Family, int Index);

/// <summary>Room for one answer in a hidden zone.</summary>
internal sealed class HiddenPlace(HiddenZone zone, Family family)
{
    public HiddenZone Zone => zone;
    public Family Family => family;

    /// <summary>Beyond these bounds no point earns anything.</summary>
    public Bounds Reach { get; } = zone.Region.Bounds.Grown(zone.Tolerance.Reach);

    /// <summary>What full credit here is worth to the student, when choosing between pairings.</summary>
    public double Worth { get; } = (double)zone.Points / Math.Max(1, family.Needs(zone));
}
