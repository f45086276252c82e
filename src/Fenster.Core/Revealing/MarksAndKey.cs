using System.Collections.Immutable;
using System.Globalization;
using Fenster.Core.Checking;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Lock = Fenster.Core.Model.Lock;

namespace Fenster.Core.Revealing;

/// <summary>Which placements are right or wrong.</summary>
public sealed record MarksView
{
    private MarksView() { }

    /// <summary>In the order of <see cref="PaneWorkView.Placed"/>; null for what was put down after the last check.</summary>
    public required ImmutableArray<Verdict?> Placed { get; init; }

    /// <summary>Of the zones that stand as they were checked.</summary>
    public required ImmutableArray<ZoneMarkView> Zones { get; init; }

    /// <summary>In the order of <see cref="PaneWorkView.Pins"/>; null for what was put down after the last check.</summary>
    public required ImmutableArray<Verdict?> Pins { get; init; }

    /// <summary>Of the other targets that stand as they were checked.</summary>
    public required ImmutableArray<OtherMarkView> Others { get; init; }

    internal static MarksView? At(Sight sight, Aliases aliases)
    {
        if (!sight.Reached.Marks)
            return null;
        var (seen, now) = (sight.Seen, sight.Now);
        var marks = sight.Marks;
        var states = marks.Targets.ToDictionary(mark => mark.Target, mark => mark.State);
        var placed = marks.Placements.ToDictionary(mark => mark.Placement, mark => (Verdict?)mark.Verdict);
        var pinned = marks.Pins.ToDictionary(mark => mark.Pin, mark => (Verdict?)mark.Verdict);
        bool Stands(Target target) => SameAnswer.At(target, seen, now);
        return new()
        {
            Placed = [.. now.Placements.Select(placement => placed.GetValueOrDefault(placement))],
            Zones = [.. aliases.Zones.Where(z => Stands(z.Zone)).Select(z => new ZoneMarkView(z.Alias, states[z.Zone.Id]))],
            Pins = [.. now.Pins.Select(pin => pinned.GetValueOrDefault(pin))],
            Others =
            [
                .. aliases
                    .Others.Where(t => Stands(t.Target))
                    .Select(t => new OtherMarkView(
                        t.Alias,
                        states[t.Target.Id],
                        [.. marks.Points.Where(mark => mark.Target == t.Target.Id).Select(mark => mark.Verdict)],
                        [.. marks.Links.Where(mark => mark.Target == t.Target.Id).Select(mark => mark.Verdict)]
                    )),
            ],
        };
    }
}

public sealed record ZoneMarkView(string Zone, TargetState State);

/// <param name="Points">Of the marked spots, in their order.</param>
/// <param name="Links">Of the drawn links, in their order.</param>
public sealed record OtherMarkView(string Target, TargetState State, ImmutableArray<Verdict> Points, ImmutableArray<Verdict> Links);

/// <summary>Where things belong.</summary>
public sealed record KeyView
{
    private KeyView() { }

    public required ImmutableArray<ZoneKeyView> Zones { get; init; }

    /// <summary>Zones that were hidden, with the names of the labels that belong there.</summary>
    public required ImmutableArray<HiddenKeyView> Hidden { get; init; }

    /// <summary>Answers to the other targets.</summary>
    public required ImmutableArray<OtherKeyView> Others { get; init; }

    /// <summary>What labels show or sound like whose description was kept back.</summary>
    public required ImmutableArray<DescribedView> Described { get; init; }

    internal static KeyView? At(Reached reached, Pane pane, Aliases aliases) =>
        !reached.Key
            ? null
            : new()
            {
                Hidden =
                [
                    .. pane
                        .Targets.OfType<HiddenZone>()
                        .Select(zone => new HiddenKeyView(zone.Region, [.. zone.Accepts.Select(a => aliases.OfLabel(a.Label))])),
                ],
                Described = [.. aliases.Labels.Where(l => l.Label.KeepsBack).Select(l => new DescribedView(l.Alias, l.Label.Text))],
                Others = [.. aliases.Others.Select(t => t.Target.Match(new OtherKeyView.Cases(t.Alias, aliases)))],
                Zones = [.. aliases.Zones.Select(z => new ZoneKeyView(z.Alias, [.. z.Zone.Accepts.Select(a => aliases.OfLabel(a.Label))]))],
            };
}

public sealed record DescribedView(string Label, string Text);

/// <param name="Labels">Aliases of the labels that belong here.</param>
public sealed record ZoneKeyView(string Zone, ImmutableArray<string> Labels);

public sealed record HiddenKeyView(Region Region, ImmutableArray<string> Labels);

/// <summary>A sentence that the browser says.</summary>
/// <param name="Slots">Numbers.</param>
public sealed record SaidView(string Name, ImmutableDictionary<string, decimal> Slots)
{
    internal static ImmutableArray<SaidView> Of(IEnumerable<Said> said) => [.. said.Select(Of)];

    internal static SaidView Of(Said said) =>
        new(
            said.Name,
            said.Slots.ToImmutableDictionary(slot => slot.Slot, slot => Convert.ToDecimal(slot.Value, CultureInfo.InvariantCulture))
        );
}

/// <summary>The answer to a target that is no zone.</summary>
/// <param name="Spots">Where hotspots lie, or a value on its scale.</param>
/// <param name="Text">The first accepted answer, or the number.</param>
/// <param name="Amount">How many labels belong into a region, or with which total; null for all of them and for anything else.</param>
/// <param name="Picks">Names of the right options.</param>
/// <param name="Links">Between names of things that belong together.</param>
/// <param name="Labels">Aliases of the labels that belong into a region.</param>
public sealed record OtherKeyView(
    string Target,
    ImmutableArray<Region> Spots,
    string Text,
    ImmutableArray<string> Picks,
    ImmutableArray<Link> Links,
    ImmutableArray<string> Labels,
    SaidView? Amount = null
)
{
    /// <summary>How large a value on a scale is drawn, in pu.</summary>
    private const double ValueRadius = 10;

    private OtherKeyView(string target, ImmutableArray<Region> spots, string text, ImmutableArray<string> picks)
        : this(target, spots, text, picks, [], []) { }

    internal sealed class Cases(string alias, Aliases aliases) : ITargetCases<OtherKeyView>
    {
        public OtherKeyView Of(DropZone zone) => throw new InvalidOperationException("A drop zone's key is a zone's.");

        public OtherKeyView Of(HiddenZone zone) => throw new InvalidOperationException("A hidden zone's key is a zone's.");

        public OtherKeyView Of(Hotspots hotspots) => new(alias, [.. hotspots.Spots.Select(spot => spot.Region)], "", []);

        public OtherKeyView Of(AnswerBox box) => new(alias, [], TextOf(box.Answer), []);

        public OtherKeyView Of(QuestionPoint point) =>
            point.Question switch
            {
                ChoiceQuestion choice => new(
                    alias,
                    [],
                    "",
                    [.. Aliases.OfOptions(choice).Where(option => option.Option.IsRight).Select(option => option.Alias)]
                ),
                TypedQuestion typed => new(alias, [], TextOf(typed.Answer), []),
                var other => throw new ArgumentOutOfRangeException(nameof(point), other, "This kind of question is not known."),
            };

        public OtherKeyView Of(Lock @lock) => new(alias, [], TextOf(@lock.Code), []);

        public OtherKeyView Of(OpenNote note) => new(alias, [], "", []);

        public OtherKeyView Of(OwnPicture own) => new(alias, [], "", []);

        public OtherKeyView Of(ScalePoint point) =>
            new(
                alias,
                [new Circle(point.Scale.PointAt(point.X, point.Y), ValueRadius)],
                point.Scale.Y is null ? $"{Number(point.X)}" : $"{Number(point.X)}, {Number(point.Y)}",
                []
            );

        public OtherKeyView Of(Matching matching) =>
            new(alias, [], matching.InWords(matching.Pairs), [], aliases.OfLinks(matching, matching.Pairs), []);

        public OtherKeyView Of(SortRegion region) =>
            new(
                alias,
                [],
                "",
                [],
                [],
                [.. region.NamedLabels.Select(aliases.OfLabel)],
                region.Want.Amount is { } amount ? SaidView.Of(amount) : null
            );

        public OtherKeyView Of(InfoSpot spot) => new(alias, [], "", []);

        private static string Number(double number) => number.ToString("0.######", CultureInfo.InvariantCulture);

        private static string TextOf(TypedAnswer answer) =>
            answer switch
            {
                TypedText text => text.Best,
                TypedNumber number => number.Units.IsEmpty ? $"{number.Value}" : $"{number.Value} {number.Units[0].Name}",
                _ => throw new ArgumentOutOfRangeException(nameof(answer), answer, "This kind of answer is not known."),
            };
    }
}
