using System.Collections.Immutable;
using Fenster.Core.Model;
using Fenster.Core.Scoring;
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
    /// <param name="response">It names labels and targets of the pane, as <see cref="MoveRules"/> sees to, and repeats nothing.</param>
    /// <param name="rules">By which the pairing is chosen that is the best for the student.</param>
    /// <param name="awards">What people have decided takes no pins; the marks are the machine's all the same.</param>
    public static PaneMarks Check(Pane pane, Response response, ScoreRules rules, ImmutableArray<Award> awards = default) =>
        Check(pane, response, Weighing.Of(PaneKey.Of(pane), rules, awards));

    internal static PaneMarks Check(Pane pane, Response response, Weighing weighing)
    {
        var key = PaneKey.Of(pane);
        var sums = new Sums(key);
        var pins = new PinCheck(key, response, weighing, sums);
        var placements = PlacementCheck.Of(key, response.Placements, pins, sums);
        var points = key.Hotspots.IsEmpty
            ? NoPoints
            : key.Hotspots.ToDictionary(
                hotspots => hotspots.Id,
                hotspots => HotspotCheck.Of(hotspots, response.Marks.GetValueOrDefault(hotspots.Id, []))
            );
        var marking = new Marking(response, sums, pins, points);

        var targets = ImmutableArray.CreateBuilder<TargetMark>(pane.Targets.Length);
        var wrongAnswers = ImmutableArray.CreateBuilder<string>();
        foreach (var target in pane.Targets)
        {
            var mark = target.Match(marking);
            targets.Add(mark);
            if (mark.State == TargetState.Wrong && target.Takes is Doing.Typing or Doing.Picking)
                wrongAnswers.Add(target.Id);
        }

        return new(
            placements,
            pins.Marks,
            response.Marks.IsEmpty
                ? []
                :
                [
                    .. key.Hotspots.SelectMany(hotspots => points[hotspots.Id]),
                    .. key.ScalePoints.SelectMany(point => Shown(point, response)),
                ],
            response.Links.IsEmpty
                ? []
                :
                [
                    .. key.Matchings.SelectMany(matching =>
                        response
                            .Links.GetValueOrDefault(matching.Id, [])
                            .Select(link => new LinkMark(matching.Id, link, matching.Pairs.Contains(link) ? Verdict.Right : Verdict.Wrong))
                    ),
                ],
            targets.MoveToImmutable()
        )
        {
            WrongAnswers = wrongAnswers.ToImmutable(),
            Weighing = weighing,
        };
    }

    private static readonly Dictionary<string, ImmutableArray<PointMark>> NoPoints = [];

    private static IEnumerable<PointMark> Shown(ScalePoint point, Response response) =>
        point.Label is null && ScaleCheck.PointOf(point, response) is { } at
            ? [new(point.Id, at, VerdictOf(ScaleCheck.Credit(point, at)), ScaleCheck.Credit(point, at))]
            : [];

    internal static Verdict VerdictOf(decimal credit) =>
        credit switch
        {
            1 => Verdict.Right,
            > 0 => Verdict.Part,
            _ => Verdict.Wrong,
        };

    /// <summary>The mark of each kind of target.</summary>
    private sealed class Marking(Response response, Sums sums, PinCheck pins, Dictionary<string, ImmutableArray<PointMark>> points)
        : ITargetCases<TargetMark>
    {
        public TargetMark Of(DropZone zone) => sums.Mark(zone);

        public TargetMark Of(HiddenZone zone) => sums.Mark(zone);

        public TargetMark Of(Hotspots hotspots) =>
            Mark(hotspots, points[hotspots.Id].Length > 0, HotspotCheck.Credit(hotspots, points[hotspots.Id]));

        public TargetMark Of(AnswerBox box) => Typed(box, box.Answer);

        public TargetMark Of(QuestionPoint point) =>
            point.Question switch
            {
                ChoiceQuestion choice => Chosen(point, choice, response.Picks.GetValueOrDefault(point.Id, [])),
                TypedQuestion typed => Typed(point, typed.Answer),
                var other => throw new ArgumentOutOfRangeException(nameof(point), other, "This kind of question is not known."),
            };

        private static TargetMark Chosen(Target target, ChoiceQuestion choice, ImmutableArray<string> picked) =>
            Mark(target, picked.Length > 0, Choices.Credit(picked, choice));

        // Codes that don't open a lock are tries, not mistakes: the lock stays missed.
        public TargetMark Of(Lock @lock)
        {
            var credit = response
                .Codes.GetValueOrDefault(@lock.Id, [])
                .Select(code => Spellings.Credit(code, @lock.Code))
                .DefaultIfEmpty(0)
                .Max();
            return Mark(@lock, credit > 0, credit);
        }

        public TargetMark Of(OpenNote note) =>
            new(
                note.Id,
                0,
                IsWritten(note) || !response.Marks.GetValueOrDefault(note.Id, []).IsEmpty ? TargetState.Waiting : TargetState.Missed
            );

        public TargetMark Of(OwnPicture own) =>
            new(
                own.Id,
                0,
                response.Own.TryGetValue(own.Id, out var work) && (work.Picture is not null || work.Spots.Length > 0)
                    ? TargetState.Waiting
                    : TargetState.Missed
            );

        public TargetMark Of(ScalePoint point) =>
            point.Label is not null ? pins.Mark(point)
            : ScaleCheck.PointOf(point, response) is { } at ? Mark(point, true, ScaleCheck.Credit(point, at))
            : Mark(point, false, 0);

        public TargetMark Of(Matching matching)
        {
            var links = response.Links.GetValueOrDefault(matching.Id, []);
            var right = links.Where(matching.Pairs.Contains).Distinct().Count();
            return Mark(matching, links.Length > 0, right == matching.Pairs.Length ? 1 : right / (decimal)matching.Pairs.Length);
        }

        public TargetMark Of(SortRegion region) => pins.Mark(region);

        public TargetMark Of(InfoSpot spot) => new(spot.Id, 0, TargetState.Unscored);

        private TargetMark Typed(Target target, TypedAnswer answer)
        {
            var credit = answer.CreditOf(response.Texts.GetValueOrDefault(target.Id, ""));
            return Mark(target, IsWritten(target), credit);
        }

        private bool IsWritten(Target target) => !string.IsNullOrWhiteSpace(response.Texts.GetValueOrDefault(target.Id, ""));
    }

    internal static TargetMark Mark(Target target, bool isAnswered, decimal credit) => Mark(target.Id, isAnswered, credit);

    internal static TargetMark Mark(string target, bool isAnswered, decimal credit) =>
        new(
            target,
            credit,
            credit switch
            {
                1 => TargetState.Earned,
                > 0 => TargetState.PartEarned,
                _ => isAnswered ? TargetState.Wrong : TargetState.Missed,
            }
        );
}
