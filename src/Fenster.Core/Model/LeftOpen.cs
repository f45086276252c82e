namespace Fenster.Core.Model;

/// <summary>What a student left open, as far as a student can tell: nothing of it says what is right.</summary>
public static class LeftOpen
{
    /// <summary>How many things of an activity are still open. Locks may stay shut, and what is not found is not asked for.</summary>
    /// <param name="responses">By pane id.</param>
    public static int Count(Activity activity, IReadOnlyDictionary<string, Response> responses) =>
        activity.Panes.Sum(pane => Count(pane, responses.GetValueOrDefault(pane.Id, Response.Empty)));

    private static int Count(Pane pane, Response response)
    {
        var empty = pane.Targets.OfType<DropZone>().Count(zone => response.Placements.All(placement => placement.Zone != zone.Id));
        // No more zones can be filled than there are labels left.
        var free = pane.Labels.Sum(label =>
            label.Copies is { } copies
                ? Math.Max(0, copies - response.Placements.Count(placement => placement.Label == label.Id))
                : int.MaxValue / 2 / pane.Labels.Length
        );
        var unpinned = pane.Targets.Any(target => target.Takes == Doing.Pinning) && response.Pins.IsEmpty ? 1 : 0;
        var cases = new Cases(response);
        return Math.Min(empty, free)
            + unpinned
            + pane.Targets.Count(target => !Hiding.IsHidden(pane, response, target) && target.Match(cases));
    }

    private sealed class Cases(Response response) : ITargetCases<bool>
    {
        private bool IsBlank(string target) => string.IsNullOrWhiteSpace(response.Texts.GetValueOrDefault(target));

        private int MarksOf(string target) => response.Marks.TryGetValue(target, out var marks) ? marks.Length : 0;

        public bool Of(DropZone zone) => false;

        public bool Of(HiddenZone zone) => false;

        public bool Of(Hotspots hotspots) => MarksOf(hotspots.Id) < hotspots.Needed;

        public bool Of(AnswerBox box) => IsBlank(box.Id);

        public bool Of(QuestionPoint point) =>
            point.Question is ChoiceQuestion ? !response.Picks.TryGetValue(point.Id, out var picks) || picks.IsEmpty : IsBlank(point.Id);

        public bool Of(Lock @lock) => false;

        public bool Of(OpenNote note) => IsBlank(note.Id);

        public bool Of(ScalePoint point) => point.Takes == Doing.Marking && MarksOf(point.Id) == 0;

        public bool Of(Matching matching) => !response.Links.TryGetValue(matching.Id, out var links) || links.IsEmpty;

        public bool Of(SortRegion region) => false;

        public bool Of(InfoSpot spot) => false;
    }
}
