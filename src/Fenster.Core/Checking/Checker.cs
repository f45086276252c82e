using System.Collections.Immutable;
using Fenster.Core.Model;
using Lock = Fenster.Core.Model.Lock;

namespace Fenster.Core.Checking;

/// <summary>Holds a response against the key of its pane.</summary>
public static class Checker
{
    /// <summary>
    /// The verdict of each action and the credit and state of each target. Where several pairings of actions and places
    /// are possible, the one that earns the student most counts, so the order of the response does not matter.
    /// </summary>
    /// <param name="pane">A sound pane (see <see cref="Soundness"/>).</param>
    /// <param name="response">It names labels and targets of the pane, as <see cref="Moves"/> sees to.</param>
    public static PaneMarks Check(Pane pane, Response response)
    {
        var key = PaneKey.Of(pane);
        var zones = new ZoneCheck(key, response);
        var sorting = new SortCheck(key, response);
        var points = key.Hotspots.IsEmpty ? NoPoints
            : key.Hotspots.ToDictionary(hotspots => hotspots.Id, hotspots => HotspotCheck.Of(hotspots, response.Marks.GetValueOrDefault(hotspots.Id, [])));
        var marking = new Marking(response, zones, sorting, points);

        var targets = ImmutableArray.CreateBuilder<TargetMark>(pane.Targets.Length);
        var wrongAnswers = ImmutableArray.CreateBuilder<string>();
        foreach (var target in pane.Targets)
        {
            var mark = target.Match(marking);
            targets.Add(mark);
            if (target is AnswerBox or QuestionPoint && mark.State == TargetState.Wrong) wrongAnswers.Add(target.Id);
        }

        return new(
            zones.Placements,
            zones.Pins.Any(mark => mark.Verdict == Verdict.Wrong) ? [.. zones.Pins.Select(mark => mark.Verdict == Verdict.Wrong ? OtherVerdict(key, response, sorting, mark) : mark)] : zones.Pins,
            response.Marks.IsEmpty ? [] : [.. key.Hotspots.SelectMany(hotspots => points[hotspots.Id]), .. key.ScalePoints.SelectMany(point => Shown(point, response))],
            response.Links.IsEmpty ? [] : [.. key.Matchings.SelectMany(matching => response.Links.GetValueOrDefault(matching.Id, [])
                .Select(link => new LinkMark(matching.Id, link, matching.Pairs.Contains(link) ? Verdict.Right : Verdict.Wrong)))],
            targets.MoveToImmutable()) { WrongAnswers = wrongAnswers.ToImmutable() };
    }

    private static readonly Dictionary<string, ImmutableArray<PointMark>> NoPoints = [];

    /// <summary>What a pin that found no hidden zone came to on a scale or in regions to sort into.</summary>
    private static PinMark OtherVerdict(PaneKey key, Response response, SortCheck sorting, PinMark mark)
    {
        foreach (var point in key.ScalePoints.Where(point => point.Label == mark.Pin.Label))
            if (ScaleCheck.PointOf(point, response) == mark.Pin.At && ScaleCheck.Credit(point, mark.Pin.At) is var credit and > 0)
                return mark with { Verdict = VerdictOf(credit), Credit = credit };
        return sorting.VerdictOf(mark.Pin) is { } verdict ? mark with { Verdict = verdict } : mark;
    }

    private static IEnumerable<PointMark> Shown(ScalePoint point, Response response) =>
        point.Label is null && ScaleCheck.PointOf(point, response) is { } at
            ? [new(point.Id, at, VerdictOf(ScaleCheck.Credit(point, at)), ScaleCheck.Credit(point, at))]
            : [];

    internal static Verdict VerdictOf(decimal credit) => credit switch { 1 => Verdict.Right, > 0 => Verdict.Part, _ => Verdict.Wrong };

    /// <summary>The mark of each kind of target.</summary>
    private sealed class Marking(Response response, ZoneCheck zones, SortCheck sorting, Dictionary<string, ImmutableArray<PointMark>> points) : ITargetCases<TargetMark>
    {
        public TargetMark Of(DropZone zone) => zones.Mark(zone);

        public TargetMark Of(HiddenZone zone) => zones.Mark(zone);

        public TargetMark Of(Hotspots hotspots) => Checker.Mark(hotspots, points[hotspots.Id].Length > 0, HotspotCheck.Credit(hotspots, points[hotspots.Id]));

        public TargetMark Of(AnswerBox box) => Typed(box, box.Answer);

        public TargetMark Of(QuestionPoint point) => point.Question switch
        {
            ChoiceQuestion choice => Chosen(point, choice, response.Picks.GetValueOrDefault(point.Id, [])),
            TypedQuestion typed => Typed(point, typed.Answer),
            var other => throw new ArgumentOutOfRangeException(nameof(point), other, "This kind of question is not known."),
        };

        private static TargetMark Chosen(Target target, ChoiceQuestion choice, ImmutableArray<string> picked) =>
            Checker.Mark(target, picked.Length > 0, Choices.Credit(picked, choice));

        // Codes that don't open a lock are tries, not mistakes: the lock stays missed.
        public TargetMark Of(Lock @lock)
        {
            var credit = response.Codes.GetValueOrDefault(@lock.Id, []).Select(code => Spellings.Credit(code, @lock.Code)).DefaultIfEmpty(0).Max();
            return Checker.Mark(@lock, credit > 0, credit);
        }

        public TargetMark Of(OpenNote note) => new(note.Id, 0, response.Texts.ContainsKey(note.Id) ? TargetState.Waiting : TargetState.Missed);

        public TargetMark Of(ScalePoint point) => ScaleCheck.PointOf(point, response) is { } at
            ? Checker.Mark(point, true, ScaleCheck.Credit(point, at))
            : Checker.Mark(point, false, 0);

        public TargetMark Of(Matching matching)
        {
            var links = response.Links.GetValueOrDefault(matching.Id, []);
            var right = links.Count(matching.Pairs.Contains);
            return Checker.Mark(matching, links.Length > 0, right == matching.Pairs.Length ? 1 : right / (decimal)matching.Pairs.Length);
        }

        public TargetMark Of(SortRegion region) => sorting.Mark(region);

        public TargetMark Of(InfoSpot spot) => new(spot.Id, 0, TargetState.Unscored);

        private TargetMark Typed(Target target, TypedAnswer answer)
        {
            var typed = response.Texts.GetValueOrDefault(target.Id, "");
            var credit = answer switch
            {
                TypedText text => Spellings.Credit(typed, text),
                TypedNumber number => Numbers.IsRight(typed, number) ? 1 : 0,
                _ => throw new ArgumentOutOfRangeException(nameof(answer), answer, "This kind of answer is not known."),
            };
            return Checker.Mark(target, !string.IsNullOrWhiteSpace(typed), credit);
        }
    }

    internal static TargetMark Mark(Target target, bool isAnswered, decimal credit) => Mark(target.Id, isAnswered, credit);

    internal static TargetMark Mark(string target, bool isAnswered, decimal credit) => new(target, credit, credit switch
    {
        1 => TargetState.Earned,
        > 0 => TargetState.PartEarned,
        _ => isAnswered ? TargetState.Wrong : TargetState.Missed,
    });
}
