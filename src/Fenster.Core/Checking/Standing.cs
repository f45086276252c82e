using System.Collections.Immutable;
using System.Globalization;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Lock = Fenster.Core.Model.Lock;

namespace Fenster.Core.Checking;

/// <summary>
/// Where tries are counted: a zone, or its group; what is marked, typed or picked at a target; a thing on the left of a
/// matching; a label whose place is found by its pin; a region to sort into.
/// </summary>
internal readonly record struct TryPlace(string Kind, string Id, string Of = "");

/// <summary>Something that can be earned at a place by itself: a link, a found spot, a label in a zone, a whole answer.</summary>
internal readonly record struct Part(TryPlace Place, string Name);

/// <summary>A part that is earned at a target.</summary>
/// <param name="Share">What it contributes to the target's credit.</param>
/// <param name="Credit">Its own credit, from 0 to 1.</param>
internal readonly record struct EarnedPart(string Target, Part Part, decimal Share, decimal Credit);

/// <summary>What stands on a pane at a check: what is earned, and the answers that earn less than everything.</summary>
/// <param name="Bad">By the place at which they stand, named so that answers which come to the same have one name.</param>
internal sealed record Standing(ImmutableArray<EarnedPart> Earned, IReadOnlySet<(TryPlace Place, string Answer)> Bad)
{
    public static Standing Of(Pane pane, Response response, PaneMarks marks)
    {
        var reading = new Reader(PaneKey.Of(pane), response, marks);
        foreach (var target in pane.Targets)
            target.Match(reading);
        reading.ReadPins();
        return new([.. reading.Earned], reading.Bad);
    }

    private sealed class Reader(PaneKey key, Response response, PaneMarks marks) : ITargetCases<bool>
    {
        private readonly ILookup<string, PlacementMark> placements = marks.Placements.ToLookup(mark => mark.Placement.Zone);
        private readonly ILookup<string, PointMark> points = marks.Points.ToLookup(mark => mark.Target);
        private readonly ILookup<string, LinkMark> links = marks.Links.ToLookup(mark => mark.Target);
        private readonly Dictionary<string, TargetMark> states = marks.Targets.ToDictionary(mark => mark.Target);

        public List<EarnedPart> Earned { get; } = [];
        public HashSet<(TryPlace, string)> Bad { get; } = [];

        public bool Of(DropZone zone)
        {
            var family = key.Zones[zone.Id].Family;
            var place = OfFamily(family);
            foreach (var (placement, verdict, credit) in placements[zone.Id])
            {
                if (credit > 0)
                    Earn(zone, new(place, placement.Label), credit / family.Needs(zone), credit);
                if (verdict is Verdict.Wrong or Verdict.Part)
                    Bad.Add((place, placement.Label));
            }
            return true;
        }

        public bool Of(HiddenZone zone) => true;

        public bool Of(Hotspots hotspots)
        {
            var place = new TryPlace("answer", hotspots.Id);
            foreach (var mark in points[hotspots.Id])
            {
                if (mark.Credit > 0)
                    Earn(hotspots, new(place, Name(mark.Spot)), mark.Credit / hotspots.Needed, mark.Credit);
                if (mark.Verdict == Verdict.Part)
                    Bad.Add((place, $"{Name(mark.Spot)} {Name(mark.Credit)}"));
                else if (mark.Verdict == Verdict.Wrong)
                    Bad.Add((place, Name(mark.At)));
            }
            return true;
        }

        public bool Of(AnswerBox box) => Typed(box, box.Answer);

        public bool Of(QuestionPoint point) =>
            point.Question is TypedQuestion typed
                ? Typed(point, typed.Answer)
                : Whole(point, string.Join(' ', response.Picks.GetValueOrDefault(point.Id, []).Order(StringComparer.Ordinal)));

        private bool Typed(Target target, TypedAnswer answer) =>
            Whole(target, answer.Alike(response.Texts.GetValueOrDefault(target.Id, "")));

        /// <summary>An answer that is earned, or not, as one.</summary>
        private bool Whole(Target target, string answer)
        {
            var (place, state) = (new TryPlace("answer", target.Id), states[target.Id]);
            if (state.Credit > 0)
                Earn(target, new(place, ""), state.Credit, state.Credit);
            if (state.State is TargetState.Wrong or TargetState.PartEarned)
                Bad.Add((place, answer));
            return true;
        }

        // Trying codes costs nothing, and a person's mark has no tries.
        public bool Of(Lock @lock)
        {
            if (states[@lock.Id].Credit is > 0 and var credit)
                Earn(@lock, new(new("answer", @lock.Id), ""), credit, credit);
            return true;
        }

        public bool Of(OpenNote note) => true;

        public bool Of(OwnPicture own) => true;

        public bool Of(ScalePoint point) =>
            point.Label is not null
            || Whole(
                point,
                points[point.Id].FirstOrDefault() is { } mark
                    ? mark.Credit > 0
                        ? Name(mark.Credit)
                        : Name(mark.At)
                    : ""
            );

        public bool Of(Matching matching)
        {
            foreach (var (_, link, verdict) in links[matching.Id])
            {
                var place = new TryPlace("left", matching.Id, link.Left);
                if (verdict == Verdict.Right)
                    Earn(matching, new(place, link.Right), 1m / matching.Pairs.Length, 1);
                else
                    Bad.Add((place, link.Right));
            }
            return true;
        }

        public bool Of(SortRegion region)
        {
            var place = OfRegion(region);
            // A wrong pin is a bad check of its label where some hidden place takes that, otherwise of the region.
            foreach (var mark in marks.Pins.Where(mark => !mark.IsFree && mark.Spoils.Contains(region.Id) && !IsOfPlaces(mark)))
                Bad.Add((place, mark.Pin.Label));
            if (region.Want is WantSet)
            {
                // Earned by lying where it belongs, whatever others do to the region's credit.
                var right = marks.Pins.Where(mark => mark.Sorted.Contains(region.Id)).ToList();
                foreach (var mark in right)
                    Earn(region, new(place, mark.Pin.Label), states[region.Id].Credit / right.Count, 1);
                return true;
            }
            if (states[region.Id].Credit is > 0 and var credit)
                Earn(region, new(place, ""), credit, credit);
            var together = marks.Pins.Where(mark => !mark.IsFree && mark.Together.Contains(region.Id) && !IsOfPlaces(mark)).ToList();
            if (together.Count > 0)
                Bad.Add((place, string.Join(' ', together.Select(mark => mark.Pin.Label).Order(StringComparer.Ordinal))));
            return true;
        }

        public bool Of(InfoSpot spot) => true;

        /// <summary>Pins that look for a place are tries of their label, wherever they stand.</summary>
        public void ReadPins()
        {
            foreach (var mark in marks.Pins)
            {
                var place = new TryPlace("label", mark.Pin.Label);
                if (mark.Place is HiddenPlace { Zone: var zone, Family: var family })
                    Earn(zone, new(place, OfFamily(family).Id), mark.Credit / family.Needs(zone), mark.Credit);
                else if (mark.Place is ScalePlace { Point: var point })
                    Earn(point, new(place, point.Id), mark.Credit, mark.Credit);
                if (mark.Verdict == Verdict.Part && mark.Place is not null && !mark.IsFree)
                    Bad.Add((place, $"{WhereOf(mark.Place)} {Name(mark.Credit)}"));
                else if (
                    mark is { Verdict: Verdict.Wrong, IsFree: false }
                    && (IsOfPlaces(mark) || (mark.Spoils.IsEmpty && mark.Together.IsEmpty))
                )
                    Bad.Add((place, Name(mark.Pin.At)));
            }
        }

        private bool IsOfPlaces(PinMark mark) => key.LabelsOfPlaces.Contains(mark.Pin.Label);

        private static string WhereOf(PinPlace place) =>
            place switch
            {
                HiddenPlace { Family: var family } => OfFamily(family).Id,
                ScalePlace { Point: var point } => point.Id,
                _ => "",
            };

        private void Earn(Target target, Part part, decimal share, decimal credit) => Earned.Add(new(target.Id, part, share, credit));
    }

    /// <summary>Where tries at a zone are counted: at its group, or at the zone.</summary>
    public static TryPlace OfFamily(Family family) =>
        family.Zones[0].Group is { } group ? new("group", group) : new("zone", family.Zones[0].Id);

    /// <summary>Where tries at a region to sort into are counted.</summary>
    public static TryPlace OfRegion(SortRegion region) => new(region.Want is WantSet ? "region" : "answer", region.Id);

    private static string Name(Point point) => string.Create(CultureInfo.InvariantCulture, $"{point.X:R},{point.Y:R}");

    private static string Name(decimal credit) => (credit / 1.000000000000000000000000000m).ToString(CultureInfo.InvariantCulture);

    private static string Name(int number) => number.ToString(CultureInfo.InvariantCulture);
}
