using Fenster.Core.Model;
using Lock = Fenster.Core.Model.Lock;

namespace Fenster.Core.Checking;

/// <summary>Whether the very same answer stands at a target in two responses, so that marks of one are true of the other.</summary>
internal static class SameAnswer
{
    public static bool At(Target target, Response one, Response other) =>
        target.Match(new Answer(one)).ToHashSet().SetEquals(target.Match(new Answer(other)));

    /// <summary>What stands at a target, as things that can be compared; nothing when it is empty.</summary>
    private sealed class Answer(Response response) : ITargetCases<IEnumerable<object>>
    {
        public IEnumerable<object> Of(DropZone zone) =>
            response.Placements.Where(placement => placement.Zone == zone.Id).Select(placement => placement.Label);

        // The pins of the labels that belong here, wherever they are: a pin beside the zone was a try at it.
        public IEnumerable<object> Of(HiddenZone zone) =>
            response
                .Pins.Where(pin =>
                    zone.Accepts.Any(accepted => accepted.Label == pin.Label) || zone.Tolerance.CreditFor(zone.Region, pin.At) > 0
                )
                .Select(pin => (object)(pin.Label, pin.At));

        public IEnumerable<object> Of(Hotspots hotspots) => Points(hotspots);

        public IEnumerable<object> Of(AnswerBox box) => Text(box);

        public IEnumerable<object> Of(QuestionPoint point) => Text(point).Concat(response.Picks.GetValueOrDefault(point.Id, []));

        public IEnumerable<object> Of(Lock @lock) => [];

        public IEnumerable<object> Of(OpenNote note) => Text(note).Concat(Points(note));

        public IEnumerable<object> Of(OwnPicture own) =>
            response.Own.TryGetValue(own.Id, out var work) ? [work.Picture ?? (object)"", .. work.Spots] : [];

        public IEnumerable<object> Of(ScalePoint point) => ScaleCheck.PointOf(point, response) is { } at ? [at] : [];

        public IEnumerable<object> Of(Matching matching) => response.Links.GetValueOrDefault(matching.Id, []);

        public IEnumerable<object> Of(SortRegion region) =>
            response.Pins.Where(pin => region.Region.Contains(pin.At)).Select(pin => (object)(pin.Label, pin.Copy));

        public IEnumerable<object> Of(InfoSpot spot) => [];

        private IEnumerable<object> Points(Target target) => response.Marks.GetValueOrDefault(target.Id, []).Select(point => (object)point);

        private IEnumerable<object> Text(Target target) =>
            response.Texts.TryGetValue(target.Id, out var text) && !string.IsNullOrWhiteSpace(text) ? [text] : [];
    }
}
