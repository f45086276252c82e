using System.Collections.Immutable;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Fenster.Core.Proofing;
using Lock = Fenster.Core.Model.Lock;

namespace Fenster.Core.Revealing;

/// <summary>
/// An activity on a board for a whole class: the panes as students see them, and what each numbered spot shows once it is revealed. It is
/// for the teacher's own browser, which has to have the key at hand.
/// </summary>
public sealed record BoardView(ImmutableArray<BoardPane> Panes)
{
    /// <summary>The same at each look, so that what was talked about lies where it lay.</summary>
    public const long Seed = 0;

    public static BoardView Of(Activity activity)
    {
        var seat = new Seat(activity, Seed);
        var work = WorkView.At(Moment.Placed, seat, ImmutableDictionary<string, Response>.Empty);
        return new([
            .. seat.Panes.Select(
                (pane, i) =>
                    new BoardPane(
                        PaneView.Of(pane.Pane, pane.Aliases, Seat.AliasOf(i)),
                        work.Panes[i]! with
                        {
                            Open = true,
                            Key = null,
                            Marks = null,
                        },
                        BoardSpot.Of(pane.Pane, pane.Aliases),
                        [
                            .. pane
                                .Aliases.Labels.Where(label => label.Label.KeepsBack)
                                .Select(label => new DescribedView(label.Alias, label.Label.Text)),
                        ]
                    )
            ),
        ]);
    }
}

/// <param name="Work">Before anything is done.</param>
/// <param name="Spots">In the order of their numbers: zones first, then what else lies on the picture from its top, then what lies nowhere.</param>
/// <param name="Described">What labels show or sound like whose description is kept back until they are revealed.</param>
public sealed record BoardPane(PaneView Frame, PaneWorkView Work, ImmutableArray<BoardSpot> Spots, ImmutableArray<DescribedView> Described);

/// <summary>What a class is asked, one after the other.</summary>
/// <param name="Id">The target's own id, the same for all spots of one target.</param>
/// <param name="Name">What browsers call the target; null for a hidden zone.</param>
/// <param name="Asks">What is asked there; empty when the picture says it.</param>
/// <param name="At">Where its number stands, in pu; null for a thing that lies nowhere on the picture.</param>
/// <param name="IsSeen">Whether the number may stand there before it is revealed: its place does not tell the answer.</param>
/// <param name="Points">What it is worth.</param>
public sealed record BoardSpot(string Id, string? Name, string Asks, Point? At, bool IsSeen, decimal Points)
{
    /// <summary>Labels that come to lie in a zone.</summary>
    public ImmutableArray<Placement> Placed { get; init; } = [];

    public ImmutableArray<Pin> Pins { get; init; } = [];

    /// <summary>What is matched with one thing on the left; its name is <see cref="Item"/>.</summary>
    public ImmutableArray<Link> Links { get; init; } = [];

    public string? Item { get; init; }

    /// <summary>A lock that opens, or a spot that was opened; null for anything else.</summary>
    public DoneView? Done { get; init; }

    /// <summary>Targets that are known from then on.</summary>
    public ImmutableArray<TargetView> Found { get; init; } = [];

    public HiddenKeyView? Hidden { get; init; }

    public OtherKeyView? Key { get; init; }

    /// <summary>Why it is right; empty for nothing.</summary>
    public string Explanation { get; init; } = "";

    internal static ImmutableArray<BoardSpot> Of(Pane pane, Aliases aliases)
    {
        var cases = new Cases(pane, aliases, Keys.Of(pane));
        var others = pane
            .Targets.Where(target => target is not DropZone)
            .SelectMany(target => target.Match(cases).Select(spot => cases.Finished(spot, target)))
            .OrderBy(spot => spot.At is null)
            .ThenBy(spot => Math.Round((spot.At?.Y ?? 0) / RowHeight))
            .ThenBy(spot => spot.At?.X ?? 0);
        return [.. aliases.Zones.SelectMany(zone => zone.Zone.Match(cases).Select(spot => cases.Finished(spot, zone.Zone))), .. others];
    }

    /// <summary>Spots less than this apart in height, in pu, are numbered from left to right.</summary>
    private const double RowHeight = 40;

    private sealed class Cases(Pane pane, Aliases aliases, Response key) : ITargetCases<IEnumerable<BoardSpot>>
    {
        private readonly Dictionary<string, string> others = aliases.Others.ToDictionary(other => other.Target.Id, other => other.Alias);

        /// <summary>With what all kinds have.</summary>
        public BoardSpot Finished(BoardSpot spot, Target target)
        {
            var isHidden = Hiding.IsHidden(pane, Response.Empty, target);
            return spot with
            {
                IsSeen = spot.IsSeen && !isHidden,
                Explanation = target.Explanation,
                Found = isHidden && target is not Zone ? [Seen(target), .. spot.Found] : spot.Found,
                Key = others.TryGetValue(target.Id, out var alias) ? target.Match(new OtherKeyView.Cases(alias, aliases)) : null,
            };
        }

        private TargetView Seen(Target target) => TargetView.Of(others[target.Id], target, aliases);

        private BoardSpot Spot(Target target, Point? at, bool isSeen = true, string? asks = null) =>
            new(
                target.Id,
                target is DropZone ? aliases.OfZone(target.Id) : others.GetValueOrDefault(target.Id),
                asks ?? target.Prompt,
                at,
                isSeen,
                target.Points
            );

        private static Point Corner(Region region) => new(region.Bounds.Left, region.Bounds.Top);

        private ImmutableArray<Pin> Named(IEnumerable<Pin> pins) =>
            [.. pins.Select(pin => pin with { Label = aliases.OfLabel(pin.Label) })];

        public IEnumerable<BoardSpot> Of(DropZone zone) =>
            [
                Spot(zone, Corner(zone.Region)) with
                {
                    Placed =
                    [
                        .. key
                            .Placements.Where(placement => placement.Zone == zone.Id)
                            .Select(placement => new Placement(aliases.OfLabel(placement.Label), placement.Copy, aliases.OfZone(zone.Id))),
                    ],
                },
            ];

        // Where it lies is what is asked; what lies there is known.
        public IEnumerable<BoardSpot> Of(HiddenZone zone) =>
            [
                Spot(
                    zone,
                    Corner(zone.Region),
                    isSeen: false,
                    string.Join(", ", zone.NamedLabels.Select(id => pane.Labels.First(label => label.Id == id)).Select(label => label.Text))
                ) with
                {
                    Pins = Named(
                        key.Pins.Where(pin => zone.NamedLabels.Contains(pin.Label) && zone.Region.DistanceTo(pin.At) < Rounding.At(pin.At))
                    ),
                    Hidden = new(zone.Region, [.. zone.NamedLabels.Select(aliases.OfLabel)]),
                },
            ];

        public IEnumerable<BoardSpot> Of(Hotspots hotspots) => [Spot(hotspots, null)];

        public IEnumerable<BoardSpot> Of(AnswerBox box) => [Spot(box, Corner(box.Region))];

        public IEnumerable<BoardSpot> Of(QuestionPoint point) => [Spot(point, point.At, asks: Asked(point.Prompt, point.Question.Text))];

        private static string Asked(string prompt, string question) => question.Length > 0 ? question : prompt;

        public IEnumerable<BoardSpot> Of(Lock @lock) =>
            [
                Spot(@lock, @lock.At) with
                {
                    Done = DoneView.Of(others[@lock.Id], @lock, key, aliases),
                    Found =
                    [
                        .. pane
                            .Targets.Where(target => target is not Zone && target.FoundAt is null && @lock.Opens.Contains(target.Id))
                            .Select(Seen),
                    ],
                },
            ];

        public IEnumerable<BoardSpot> Of(OpenNote note) => [Spot(note, Corner(note.Region))];

        // It is each student's own.
        public IEnumerable<BoardSpot> Of(OwnPicture own) => [];

        public IEnumerable<BoardSpot> Of(ScalePoint point) =>
            [
                Spot(point, null) with
                {
                    Pins = Named(
                        key.Pins.Where(pin =>
                            pin.Label == point.Label && pin.At.DistanceTo(point.Scale.PointAt(point.X, point.Y)) < Rounding.At(pin.At)
                        )
                    ),
                },
            ];

        public IEnumerable<BoardSpot> Of(Matching matching)
        {
            var links = aliases.OfLinks(matching, matching.Pairs);
            return aliases
                .Items(matching)
                .Left.Select(item =>
                    Spot(matching, null) with
                    {
                        Item = item.Alias,
                        Links = [.. links.Where(link => link.Left == item.Alias)],
                    }
                );
        }

        public IEnumerable<BoardSpot> Of(SortRegion region) =>
            [Spot(region, Corner(region.Region)) with { Pins = Named(key.Pins.Where(pin => region.Region.Contains(pin.At))) }];

        public IEnumerable<BoardSpot> Of(InfoSpot spot) =>
            [Spot(spot, spot.At) with { Done = new(others[spot.Id], [], "", [], true, "", [], null, []) }];
    }
}
