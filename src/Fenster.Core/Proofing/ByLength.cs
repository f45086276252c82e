using System.Globalization;
using Fenster.Core.Model;

namespace Fenster.Core.Proofing;

/// <summary>What is earned by who knows nothing and puts the longest word into the widest zone, the next one into the next.</summary>
public static class ByLength
{
    /// <summary>Zones whose widths are no further apart look alike, in pu.</summary>
    private const double Alike = 4;

    /// <summary>Fewer zones tell too little.</summary>
    private const int FewestZones = 4;

    /// <summary>
    /// The share of the points of zones that students see, from 0 to 1; among what is as wide, or as long, the order is anybody's. 0 where
    /// there are fewer than four zones for one label each.
    /// </summary>
    public static double ShareOf(Pane pane)
    {
        var zones = pane.Targets.OfType<DropZone>().Where(zone => zone is { Capacity: 1, Accepts.IsEmpty: false }).ToList();
        var labels = pane.Labels.Where(label => label is { Face: null, Text: not "" }).ToList();
        if (zones.Count < FewestZones || labels.Count < FewestZones)
            return 0;
        var (widths, lengths) = (
            Ranks([.. zones.Select(zone => zone.Region.Bounds.Width)], Alike),
            Ranks([.. labels.Select(label => (double)new StringInfo(label.Text).LengthInTextElements)], 0)
        );
        var length = labels.Zip(lengths).ToDictionary(label => label.First.Id, label => label.Second);
        var earned = zones
            .Zip(widths)
            .Sum(zone =>
                (double)zone.First.Points
                * zone.First.Accepts.Where(accepted => length.ContainsKey(accepted.Label))
                    .Sum(accepted => (double)accepted.Credit * Chance(zone.Second, length[accepted.Label]))
            );
        var points = (double)zones.Sum(zone => zone.Points);
        return points == 0 ? 0 : Math.Min(1, earned / points);
    }

    /// <summary>Where something may stand in an order from 0 to 1, together with so many others.</summary>
    private readonly record struct Rank(double From, double To, int Count);

    /// <summary>How likely a label comes to lie in a zone.</summary>
    private static double Chance(Rank zone, Rank label) =>
        Math.Max(0, Math.Min(zone.To, label.To) - Math.Max(zone.From, label.From)) / (zone.To - zone.From) / label.Count;

    /// <summary>The ranks of sizes in their own order; those that are alike share theirs.</summary>
    private static Rank[] Ranks(double[] sizes, double alike)
    {
        var order = Enumerable.Range(0, sizes.Length).OrderBy(i => sizes[i]).ToArray();
        var ranks = new Rank[sizes.Length];
        for (int from = 0, to; from < order.Length; from = to)
        {
            to = from + 1;
            while (to < order.Length && sizes[order[to]] - sizes[order[to - 1]] <= alike)
                to++;
            for (var i = from; i < to; i++)
                ranks[order[i]] = new((double)from / order.Length, (double)to / order.Length, to - from);
        }
        return ranks;
    }
}
