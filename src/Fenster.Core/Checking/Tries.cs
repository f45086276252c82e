using System.Collections.Immutable;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Lock = Fenster.Core.Model.Lock;

namespace Fenster.Core.Checking;

/// <summary>
/// At which try a target reached its final state. A try is an answer that stood when the work was checked or handed in;
/// a target that stood empty was not tried, and an answer that stood unchanged was not tried again.
/// </summary>
public static class Tries
{
    /// <summary>From 1. A target that was never answered, and a lock, on which trying costs nothing, took one try.</summary>
    public static int For(Pane pane, Target target, Response response)
    {
        if (response.Earlier.IsEmpty) return 1;
        var tries = 0;
        HashSet<object>? last = null;
        foreach (var moment in response.Earlier.Append(response))
        {
            var answer = target.Match(new Answer(moment)).ToHashSet();
            if (answer.Count == 0 || (last is not null && answer.SetEquals(last))) continue;
            tries++;
            last = answer;
        }
        return Math.Max(1, tries);
    }

    /// <summary>Whether the same answer stands at a target in both responses.</summary>
    internal static bool IsSameAnswer(Target target, Response one, Response other) =>
        target.Match(new Answer(one)).ToHashSet().SetEquals(target.Match(new Answer(other)));

    /// <summary>What stands at a target, as things that can be compared; nothing when it is empty.</summary>
    private sealed class Answer(Response response) : ITargetCases<IEnumerable<object>>
    {
        public IEnumerable<object> Of(DropZone zone) => response.Placements.Where(placement => placement.Zone == zone.Id).Select(placement => placement.Label);

        // The pins of the labels that belong here, wherever they are: a pin beside the zone was a try at it.
        public IEnumerable<object> Of(HiddenZone zone) => response.Pins
            .Where(pin => zone.Accepts.Any(accepted => accepted.Label == pin.Label) || zone.Tolerance.CreditFor(zone.Region, pin.At) > 0)
            .Select(pin => (object)(pin.Label, pin.At));

        public IEnumerable<object> Of(Hotspots hotspots) => Points(hotspots);

        public IEnumerable<object> Of(AnswerBox box) => Text(box);

        public IEnumerable<object> Of(QuestionPoint point) => Text(point).Concat(response.Picks.GetValueOrDefault(point.Id, []));

        public IEnumerable<object> Of(Lock @lock) => [];

        public IEnumerable<object> Of(OpenNote note) => Text(note);

        public IEnumerable<object> Of(ScalePoint point) => ScaleCheck.PointOf(point, response) is { } at ? [at] : [];

        public IEnumerable<object> Of(Matching matching) => response.Links.GetValueOrDefault(matching.Id, []);

        public IEnumerable<object> Of(SortRegion region) => response.Pins.Where(pin => region.Region.Contains(pin.At)).Select(pin => (object)(pin.Label, pin.Copy));

        public IEnumerable<object> Of(InfoSpot spot) => [];

        private IEnumerable<object> Points(Target target) => response.Marks.GetValueOrDefault(target.Id, []).Select(point => (object)point);

        private IEnumerable<object> Text(Target target) => response.Texts.TryGetValue(target.Id, out var text) && !string.IsNullOrWhiteSpace(text) ? [text] : [];
    }
}
