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

    /// <summary>
    /// What else students see, in an order that follows nothing but the seed. Hidden zones are not among them, and of
    /// hotspots nothing but that there are some.
    /// </summary>
    public ImmutableArray<(string Alias, Target Target)> Others { get; }

    private readonly Dictionary<string, string> aliasOfLabel;
    private readonly Dictionary<string, string> aliasOfZone;
    private readonly Dictionary<string, string> labelOfAlias;
    private readonly Dictionary<string, string> zoneOfAlias;
    private readonly Dictionary<string, Target> otherOfAlias;

    private Aliases(IEnumerable<Label> labels, IEnumerable<DropZone> zones, IEnumerable<Target> others)
    {
        Others = [.. others.Select((target, i) => ($"t{i + 1}", target))];
        otherOfAlias = Others.ToDictionary(t => t.Alias, t => t.Target);
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
        return new(labels, zones, Shuffle.Of(pane.Targets.Where(target => target is not Zone), ~seed));
    }

    public string OfLabel(string id) => aliasOfLabel[id];

    public string OfZone(string id) => aliasOfZone[id];

    /// <summary>The move with the pane's own ids in place of the aliases.</summary>
    /// <exception cref="MoveRefused">An alias is not known.</exception>
    public Move Resolve(Move move) => move switch
    {
        PutDown put => put with { Label = LabelId(put.Label), Zone = ZoneId(put.Zone) },
        PinDown pin => pin with { Label = LabelId(pin.Label) },
        TakeBack back => back with { Label = LabelId(back.Label) },
        MarkPoints mark => mark with { Target = Other(mark.Target).Id },
        TypeText typed => typed with { Target = Other(typed.Target).Id },
        TryCode attempt => attempt with { Target = Other(attempt.Target).Id },
        OpenSpot open => open with { Target = Other(open.Target).Id },
        LookAt or PressCheck => move,
        PickOptions pick => Options(pick),
        DrawLinks draw => Links(draw),
        _ => throw new ArgumentOutOfRangeException(nameof(move), move, "This kind of move is not known."),
    };

    /// <summary>The name of an option is its place in the question.</summary>
    public static IEnumerable<(string Alias, Option Option)> OfOptions(ChoiceQuestion choice) =>
        choice.Options.Select((option, i) => ($"o{i + 1}", option));

    private PickOptions Options(PickOptions pick)
    {
        if (Other(pick.Target) is not QuestionPoint { Question: ChoiceQuestion choice } point || pick.Options.IsDefault)
            throw new MoveRefused("There is nothing to choose there.");
        var ids = OfOptions(choice).ToDictionary(option => option.Alias, option => option.Option.Id);
        return new(point.Id, [.. pick.Options.Select(alias => ids.TryGetValue(alias ?? "", out var id) ? id : throw new MoveRefused("That option is not part of the question."))]);
    }

    /// <summary>The name of a thing to match is its place in an order that follows nothing but its text.</summary>
    public static IEnumerable<(string Alias, MatchItem Item)> OfItems(ImmutableArray<MatchItem> items) =>
        items.OrderBy(item => item.Text, StringComparer.Ordinal).ThenBy(item => item.Id, StringComparer.Ordinal).Select((item, i) => ($"m{i + 1}", item));

    /// <summary>Links between the names that a student's browser knows.</summary>
    public static ImmutableArray<Link> OfLinks(Matching matching, ImmutableArray<Link> links)
    {
        var left = OfItems(matching.Left).ToDictionary(item => item.Item.Id, item => item.Alias);
        var right = OfItems(matching.Right).ToDictionary(item => item.Item.Id, item => item.Alias);
        return [.. links.Select(link => new Link(left[link.Left], right[link.Right]))];
    }

    /// <summary>The move with aliases in place of the pane's own ids: the inverse of <see cref="Resolve"/>.</summary>
    public Move Name(Move move) => move switch
    {
        PutDown put => put with { Label = OfLabel(put.Label), Zone = OfZone(put.Zone) },
        PinDown pin => pin with { Label = OfLabel(pin.Label) },
        TakeBack back => back with { Label = OfLabel(back.Label) },
        MarkPoints mark => mark with { Target = OfOther(mark.Target).Alias },
        TypeText typed => typed with { Target = OfOther(typed.Target).Alias },
        TryCode attempt => attempt with { Target = OfOther(attempt.Target).Alias },
        OpenSpot open => open with { Target = OfOther(open.Target).Alias },
        PickOptions pick when OfOther(pick.Target) is (var alias, QuestionPoint { Question: ChoiceQuestion choice }) =>
            new PickOptions(alias, [.. OfOptions(choice).Where(option => pick.Options.Contains(option.Option.Id)).Select(option => option.Alias)]),
        DrawLinks draw when OfOther(draw.Target) is (var alias, Matching matching) => new DrawLinks(alias, OfLinks(matching, draw.Links)),
        LookAt or PressCheck => move,
        _ => throw new ArgumentOutOfRangeException(nameof(move), move, "This move fits no target of the pane."),
    };

    private (string Alias, Target Target) OfOther(string id) => Others.First(other => other.Target.Id == id);

    private DrawLinks Links(DrawLinks draw)
    {
        if (Other(draw.Target) is not Matching matching || draw.Links.IsDefault) throw new MoveRefused("There is nothing to match there.");
        var left = OfItems(matching.Left).ToDictionary(item => item.Alias, item => item.Item.Id);
        var right = OfItems(matching.Right).ToDictionary(item => item.Alias, item => item.Item.Id);
        return new(matching.Id, [.. draw.Links.Select(link => link is not null && left.TryGetValue(link.Left, out var l) && right.TryGetValue(link.Right, out var r)
            ? new Link(l, r) : throw new MoveRefused("That link is between things that are not there."))]);
    }

    private Target Other(string alias) => otherOfAlias.TryGetValue(alias, out var target)
        ? target : throw new MoveRefused("That place is not part of this picture.");

    private string LabelId(string alias) => labelOfAlias.TryGetValue(alias, out var id)
        ? id : throw new MoveRefused("That label is not part of this picture.");

    private string ZoneId(string alias) => zoneOfAlias.TryGetValue(alias, out var id)
        ? id : throw new MoveRefused("That place is not part of this picture.");
}
