using System.Collections.Immutable;
using Fenster.Core.Model;

namespace Fenster.Core.Revealing;

/// <summary>
/// The names and order under which one attempt sees a pane's labels and zones. They follow the bank's order and the
/// place on the picture, never the key's order, so that they give nothing away.
/// </summary>
public sealed class Aliases
{
    /// <summary>In the order of the bank.</summary>
    public ImmutableArray<(string Alias, Label Label)> Labels { get; }

    /// <summary>From top to bottom, then from left to right.</summary>
    public ImmutableArray<(string Alias, DropZone Zone)> Zones { get; }

    private readonly Dictionary<string, string> aliasOfLabel;
    private readonly Dictionary<string, string> aliasOfZone;
    private readonly Dictionary<string, string> labelOfAlias;
    private readonly Dictionary<string, string> zoneOfAlias;

    private Aliases(IEnumerable<Label> labels, IEnumerable<DropZone> zones)
    {
        Labels = [.. labels.Select((label, i) => ($"l{i + 1}", label))];
        Zones = [.. zones.Select((zone, i) => ($"z{i + 1}", zone))];
        aliasOfLabel = Labels.ToDictionary(l => l.Label.Id, l => l.Alias);
        aliasOfZone = Zones.ToDictionary(z => z.Zone.Id, z => z.Alias);
        labelOfAlias = Labels.ToDictionary(l => l.Alias, l => l.Label.Id);
        zoneOfAlias = Zones.ToDictionary(z => z.Alias, z => z.Zone.Id);
    }

    /// <param name="seed">The attempt's seed.</param>
    public static Aliases For(Pane pane, long seed)
    {
        var shuffled = Shuffle.Of(pane.Labels, seed);
        IEnumerable<Label> labels = pane.BankOrder switch
        {
            BankOrder.Shuffled => shuffled,
            BankOrder.AsListed => pane.Labels,
            BankOrder.Alphabetical => shuffled.OrderBy(label => label.Text, StringComparer.OrdinalIgnoreCase),
            _ => throw new ArgumentOutOfRangeException(nameof(pane), pane.BankOrder, "This order of the bank is not known."),
        };
        var zones = Shuffle.Of(pane.Targets.OfType<DropZone>(), seed)
            .OrderBy(zone => Math.Round(zone.Region.Bounds.Centre.Y))
            .ThenBy(zone => zone.Region.Bounds.Centre.X);
        return new(labels, zones);
    }

    public string OfLabel(string id) => aliasOfLabel[id];

    public string OfZone(string id) => aliasOfZone[id];

    /// <summary>The move with the pane's own ids in place of the aliases.</summary>
    /// <exception cref="MoveRefused">An alias is not known.</exception>
    public Move Resolve(Move move) => move switch
    {
        PutDown put => put with { Label = LabelId(put.Label), Zone = ZoneId(put.Zone) },
        TakeBack back => back with { Label = LabelId(back.Label) },
        _ => throw new ArgumentOutOfRangeException(nameof(move), move, "This kind of move is not known."),
    };

    private string LabelId(string alias) => labelOfAlias.TryGetValue(alias, out var id)
        ? id : throw new MoveRefused("That label is not part of this picture.");

    private string ZoneId(string alias) => zoneOfAlias.TryGetValue(alias, out var id)
        ? id : throw new MoveRefused("That place is not part of this picture.");
}
