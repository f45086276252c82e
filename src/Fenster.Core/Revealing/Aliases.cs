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

    private readonly long seed;

    private Aliases(IEnumerable<Label> labels, IEnumerable<DropZone> zones, IEnumerable<Target> others, long seed)
    {
        this.seed = seed;
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
            BankOrder.Alphabetical => shuffled
                // What is kept back is not told by its place either.
                .OrderBy(label => label.KeepsBack)
                .ThenBy(label => label.KeepsBack ? "" : label.Text, StringComparer.OrdinalIgnoreCase),
            _ => throw new ArgumentOutOfRangeException(nameof(pane), pane.BankOrder, "This order of the bank is not known."),
        };
        var zones = Shuffle
            .Of(pane.Targets.OfType<DropZone>(), seed)
            .OrderBy(zone => Math.Round(zone.Region.Bounds.Centre.Y))
            .ThenBy(zone => zone.Region.Bounds.Centre.X);
        return new(labels, zones, Shuffle.Of(pane.Targets.Where(target => target is not Zone), ~seed), seed);
    }

    public string OfLabel(string id) => aliasOfLabel[id];

    public string OfZone(string id) => aliasOfZone[id];

    /// <summary>Null for what students don't see as a place.</summary>
    public string? OfTarget(string id) =>
        aliasOfZone.TryGetValue(id, out var zone) ? zone : Others.FirstOrDefault(other => other.Target.Id == id).Alias;

    /// <summary>The move with the pane's own ids in place of the aliases; null with the reason when an alias is not known.</summary>
    public Move? Resolve(Move move, out Refusal? refusal)
    {
        var (resolved, why) = move switch
        {
            PutDown put => LabelId(put.Label) is not { } label ? No(Refused.NoSuchLabel)
            : ZoneId(put.Zone) is not { } zone ? No(Refused.NoSuchPlace)
            : Yes(put with { Label = label, Zone = zone }),
            PinDown pin => LabelId(pin.Label) is { } label ? Yes(pin with { Label = label }) : No(Refused.NoSuchLabel),
            TakeBack back => LabelId(back.Label) is { } label ? Yes(back with { Label = label }) : No(Refused.NoSuchLabel),
            MarkPoints mark => Other(mark.Target) is { } target ? Yes(mark with { Target = target.Id }) : No(Refused.NoSuchPlace),
            TypeText typed => Other(typed.Target) is { } target ? Yes(typed with { Target = target.Id }) : No(Refused.NoSuchPlace),
            TryCode attempt => Other(attempt.Target) is { } target ? Yes(attempt with { Target = target.Id }) : No(Refused.NoSuchPlace),
            OpenSpot open => Other(open.Target) is { } target ? Yes(open with { Target = target.Id }) : No(Refused.NoSuchPlace),
            BringPicture bring => Other(bring.Target) is { } target ? Yes(bring with { Target = target.Id }) : No(Refused.NoSuchPlace),
            PutSpot put => Other(put.Target) is { } target ? Yes(put with { Target = target.Id }) : No(Refused.NoSuchPlace),
            TakeSpot take => Other(take.Target) is { } target ? Yes(take with { Target = target.Id }) : No(Refused.NoSuchPlace),
            LookAt or PressCheck => Yes(move),
            Typing => No(Refused.Unreadable),
            PickOptions pick => Options(pick),
            DrawLinks draw => Links(draw),
            _ => throw new ArgumentOutOfRangeException(nameof(move), move, "This kind of move is not known."),
        };
        refusal = why;
        return resolved;
    }

    private static (Move? Move, Refusal? Why) Yes(Move move) => (move, null);

    private static (Move? Move, Refusal? Why) No(Refused why) => (null, new(why));

    /// <summary>The name of an option is its place in the question.</summary>
    public static IEnumerable<(string Alias, Option Option)> OfOptions(ChoiceQuestion choice) =>
        choice.Options.Select((option, i) => ($"o{i + 1}", option));

    private (Move?, Refusal?) Options(PickOptions pick)
    {
        if (Other(pick.Target) is not QuestionPoint { Question: ChoiceQuestion choice } point || pick.Options.IsDefault)
            return No(Refused.NothingToChoose);
        var ids = OfOptions(choice).ToDictionary(option => option.Alias, option => option.Option.Id);
        return pick.Options.All(alias => ids.ContainsKey(alias ?? ""))
            ? Yes(new PickOptions(point.Id, [.. pick.Options.Select(alias => ids[alias])]))
            : No(Refused.NoSuchOption);
    }

    /// <summary>
    /// The things to match on the left and on the right, each side in an order of its own that follows nothing but the seed. The
    /// name of a thing is its place in this order.
    /// </summary>
    public (IReadOnlyList<(string Alias, MatchItem Item)> Left, IReadOnlyList<(string Alias, MatchItem Item)> Right) Items(
        Matching matching
    ) => (Named(matching.Left, seed ^ LeftSalt), Named(matching.Right, seed ^ RightSalt));

    private static List<(string, MatchItem)> Named(ImmutableArray<MatchItem> items, long seed) =>
        [.. Shuffle.Of(items.OrderBy(item => item.Id, StringComparer.Ordinal), seed).Select((item, i) => ($"m{i + 1}", item))];

    private const long LeftSalt = 0x4C454654,
        RightSalt = 0x5249474854;

    /// <summary>Links between the names that a student's browser knows.</summary>
    public ImmutableArray<Link> OfLinks(Matching matching, ImmutableArray<Link> links)
    {
        var items = Items(matching);
        var (left, right) = (
            items.Left.ToDictionary(item => item.Item.Id, item => item.Alias),
            items.Right.ToDictionary(item => item.Item.Id, item => item.Alias)
        );
        return [.. links.Select(link => new Link(left[link.Left], right[link.Right]))];
    }

    /// <summary>The move with aliases in place of the pane's own ids: the inverse of <see cref="Resolve"/>.</summary>
    public Move Name(Move move) =>
        move switch
        {
            PutDown put => put with { Label = OfLabel(put.Label), Zone = OfZone(put.Zone) },
            PinDown pin => pin with { Label = OfLabel(pin.Label) },
            TakeBack back => back with { Label = OfLabel(back.Label) },
            MarkPoints mark => mark with { Target = OfOther(mark.Target).Alias },
            TypeText typed => typed with { Target = OfOther(typed.Target).Alias },
            TryCode attempt => attempt with { Target = OfOther(attempt.Target).Alias },
            OpenSpot open => open with { Target = OfOther(open.Target).Alias },
            PickOptions pick when OfOther(pick.Target) is (var alias, QuestionPoint { Question: ChoiceQuestion choice }) => new PickOptions(
                alias,
                [.. OfOptions(choice).Where(option => pick.Options.Contains(option.Option.Id)).Select(option => option.Alias)]
            ),
            DrawLinks draw when OfOther(draw.Target) is (var alias, Matching matching) => new DrawLinks(
                alias,
                OfLinks(matching, draw.Links)
            ),
            BringPicture bring => bring with { Target = OfOther(bring.Target).Alias },
            PutSpot put => put with { Target = OfOther(put.Target).Alias },
            TakeSpot take => take with { Target = OfOther(take.Target).Alias },
            LookAt or PressCheck or Typing => move,
            _ => throw new ArgumentOutOfRangeException(nameof(move), move, "This move fits no target of the pane."),
        };

    private (string Alias, Target Target) OfOther(string id) => Others.First(other => other.Target.Id == id);

    private (Move?, Refusal?) Links(DrawLinks draw)
    {
        if (Other(draw.Target) is not Matching matching || draw.Links.IsDefault)
            return No(Refused.NothingToMatch);
        var items = Items(matching);
        var (left, right) = (
            items.Left.ToDictionary(item => item.Alias, item => item.Item.Id),
            items.Right.ToDictionary(item => item.Alias, item => item.Item.Id)
        );
        return draw.Links.All(link => link is not null && left.ContainsKey(link.Left) && right.ContainsKey(link.Right))
            ? Yes(new DrawLinks(matching.Id, [.. draw.Links.Select(link => new Link(left[link.Left], right[link.Right]))]))
            : No(Refused.NoSuchLink);
    }

    private Target? Other(string alias) => otherOfAlias.GetValueOrDefault(alias ?? "");

    private string? LabelId(string alias) => labelOfAlias.GetValueOrDefault(alias ?? "");

    private string? ZoneId(string alias) => zoneOfAlias.GetValueOrDefault(alias ?? "");
}
