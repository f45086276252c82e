namespace Fenster.Core.Model;

/// <summary>What a student left open, as far as a student can tell: nothing of it says what is right.</summary>
public static class LeftOpen
{
    /// <summary>
    /// How many things of an activity are still open that must not be: the compulsory ones, or, where none is, all that count. Locks
    /// may stay shut then, and what is not found is not asked for.
    /// </summary>
    /// <param name="responses">By pane id.</param>
    public static int Count(Activity activity, IReadOnlyDictionary<string, Response> responses)
    {
        var isNamed = activity.Panes.Any(pane => pane.Targets.Any(target => target.Compulsory));
        return activity.Panes.Sum(pane =>
            responses.GetValueOrDefault(pane.Id, Response.Empty) is var response && isNamed ? Named(pane, response) : All(pane, response)
        );
    }

    /// <summary>Whether a target is open, as far as a student can tell.</summary>
    public static bool IsOpen(Target target, Response response) => target.Match(new Cases(response));

    private static int Named(Pane pane, Response response)
    {
        var cases = new Cases(response);
        return pane.Targets.Count(target => target.Compulsory && !Hiding.IsHidden(pane, response, target) && target.Match(cases));
    }

    private static int All(Pane pane, Response response)
    {
        var cases = new Cases(response);
        var empty = pane.Targets.OfType<DropZone>().Count(cases.Of);
        // No more zones can be filled than there are labels left.
        var free = pane.Labels.Sum(label =>
            label.Copies is { } copies
                ? Math.Max(0, copies - response.Placements.Count(placement => placement.Label == label.Id))
                : int.MaxValue / 2 / pane.Labels.Length
        );
        var unpinned = pane.Targets.Any(target => target.Takes == Doing.Pinning) && response.Pins.IsEmpty ? 1 : 0;
        return Math.Min(empty, free)
            + unpinned
            + pane.Targets.Count(target =>
                target.Takes is not (Doing.Placing or Doing.Pinning or Doing.TryingCodes or Doing.Opening)
                && !Hiding.IsHidden(pane, response, target)
                && target.Match(cases)
            );
    }

    /// <summary>Whether a target is open, as far as a student can tell.</summary>
    private sealed class Cases(Response response) : ITargetCases<bool>
    {
        private bool IsBlank(string target) => string.IsNullOrWhiteSpace(response.Texts.GetValueOrDefault(target));

        private int MarksOf(string target) => response.Marks.TryGetValue(target, out var marks) ? marks.Length : 0;

        public bool Of(DropZone zone) => response.Placements.All(placement => placement.Zone != zone.Id);

        // Which pin is meant for it, nobody tells before a check.
        public bool Of(HiddenZone zone) => response.Pins.IsEmpty;

        public bool Of(Hotspots hotspots) => MarksOf(hotspots.Id) < hotspots.Needed;

        public bool Of(AnswerBox box) => IsBlank(box.Id);

        public bool Of(QuestionPoint point) =>
            point.Question is ChoiceQuestion ? !response.Picks.TryGetValue(point.Id, out var picks) || picks.IsEmpty : IsBlank(point.Id);

        public bool Of(Lock @lock) => !Hiding.IsOpen(@lock, response);

        public bool Of(OwnPicture own) => OwnReadiness.Lacks(own, response.Own.GetValueOrDefault(own.Id, OwnWork.Empty)).Any();

        public bool Of(OpenNote note) => IsBlank(note.Id) && MarksOf(note.Id) == 0;

        public bool Of(ScalePoint point) =>
            point.Label is { } label ? response.Pins.All(pin => pin.Label != label) : MarksOf(point.Id) == 0;

        public bool Of(Matching matching) => !response.Links.TryGetValue(matching.Id, out var links) || links.IsEmpty;

        public bool Of(SortRegion region) => !response.Pins.Any(pin => region.Region.Contains(pin.At));

        public bool Of(InfoSpot spot) => !response.Opened.Contains(spot.Id);
    }
}
