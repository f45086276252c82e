using System.Collections.Immutable;
using System.Globalization;
using Fenster.Core.Checking;
using Fenster.Core.Model;
using Lock = Fenster.Core.Model.Lock;

namespace Fenster.Core.Insight;

/// <summary>What a class gave at a target, in the shape in which its kind is drawn.</summary>
public abstract record AnswersAt
{
    private protected AnswersAt() { }

    /// <param name="responses">To the target's pane.</param>
    public static AnswersAt Of(Target target, IReadOnlyList<Response> responses) => target.Match(new Cases(responses));

    private sealed class Cases(IReadOnlyList<Response> responses) : ITargetCases<AnswersAt>
    {
        public AnswersAt Of(DropZone zone) =>
            Counted(
                responses.SelectMany(response =>
                    response.Placements.Where(placement => placement.Zone == zone.Id).Select(placement => placement.Label)
                ),
                label => CreditOf(zone, label)
            );

        // A pin means the zones that it lies in.
        public AnswersAt Of(HiddenZone zone) =>
            Counted(
                responses.SelectMany(response =>
                    response.Pins.Where(pin => zone.Tolerance.CreditFor(zone.Region, pin.At) > 0).Select(pin => pin.Label)
                ),
                label => CreditOf(zone, label)
            );

        private static decimal CreditOf(Zone zone, string label) =>
            zone.Accepts.FirstOrDefault(accepted => accepted.Label == label)?.Credit ?? 0;

        public AnswersAt Of(Hotspots hotspots) =>
            new Tally([
                .. hotspots.Spots.Select(
                    (spot, i) =>
                        new Tallied(
                            (i + 1).ToString(CultureInfo.InvariantCulture),
                            responses.Count(response =>
                                response.Marks.GetValueOrDefault(hotspots.Id, []).Any(at => spot.Tolerance.CreditFor(spot.Region, at) > 0)
                            ),
                            1
                        )
                ),
            ]);

        public AnswersAt Of(AnswerBox box) => Typed(box, box.Answer);

        public AnswersAt Of(QuestionPoint point) =>
            point.Question is ChoiceQuestion choice
                ? new Tally([
                    .. choice.Options.Select(option => new Tallied(
                        option.Id,
                        responses.Count(response => response.Picks.GetValueOrDefault(point.Id, []).Contains(option.Id)),
                        option.IsRight ? 1 : 0
                    )),
                ])
                : Typed(point, ((TypedQuestion)point.Question).Answer);

        private Tally Typed(Target target, TypedAnswer answer)
        {
            var typed = responses
                .Select(response => response.Texts.GetValueOrDefault(target.Id, ""))
                .Where(text => !string.IsNullOrWhiteSpace(text))
                .ToList();
            // Each group is called as most of it typed it.
            return Counted(typed, text => answer.Alike(text), answer.CreditOf);
        }

        public AnswersAt Of(Lock @lock) =>
            Counted(
                responses.SelectMany(response => response.Codes.GetValueOrDefault(@lock.Id, [])),
                code => Spellings.Fold(code, @lock.Code.Rules),
                code => Spellings.Credit(code, @lock.Code)
            );

        public AnswersAt Of(OpenNote note) =>
            new Written(
                responses.Count(response => !string.IsNullOrWhiteSpace(response.Texts.GetValueOrDefault(note.Id, ""))),
                OrNothing(
                    Statistics.Median([
                        .. responses
                            .Select(response => response.Texts.GetValueOrDefault(note.Id, ""))
                            .Where(text => !string.IsNullOrWhiteSpace(text))
                            .Select(text => (double)text.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries).Length),
                    ])
                )
            );

        public AnswersAt Of(OwnPicture own)
        {
            var made = responses.Select(response => response.Own.GetValueOrDefault(own.Id)).OfType<OwnWork>().ToList();
            return new Made(made.Count, OrNothing(Statistics.Median([.. made.Select(work => (double)work.Spots.Length)])));
        }

        public AnswersAt Of(ScalePoint point) =>
            new Strip([
                .. responses
                    .Select(response => ScaleCheck.PointOf(point, response))
                    .OfType<Geometry.Point>()
                    .Select(at =>
                    {
                        var (x, y) = point.Scale.ValueAt(at);
                        return new ReadValue(x, y, ScaleCheck.Credit(point, at));
                    })
                    .OrderBy(value => value.X),
            ]);

        public AnswersAt Of(Matching matching) =>
            new Linked([
                .. responses
                    .SelectMany(response => response.Links.GetValueOrDefault(matching.Id, []).Distinct())
                    .GroupBy(link => link)
                    .Select(link => new LinkCount(link.Key, link.Count(), matching.Pairs.Contains(link.Key)))
                    .OrderByDescending(link => link.Count)
                    .ThenBy(link => link.Link.Left, StringComparer.Ordinal)
                    .ThenBy(link => link.Link.Right, StringComparer.Ordinal),
            ]);

        public AnswersAt Of(SortRegion region) =>
            Counted(
                responses.SelectMany(response => response.Pins.Where(pin => region.Region.Contains(pin.At)).Select(pin => pin.Label)),
                label => region.NamedLabels.Contains(label) || region.Want is WantTotal ? 1 : 0
            );

        public AnswersAt Of(InfoSpot spot)
        {
            var places = responses.Select(response => (double)response.Opened.IndexOf(spot.Id) + 1).Where(place => place > 0).ToList();
            return new Found(places.Count, OrNothing(Statistics.Median(places)));
        }

        private static double OrNothing(double median) => double.IsNaN(median) ? 0 : median;

        private static Tally Counted(IEnumerable<string> answers, Func<string, decimal> credit) =>
            Counted(answers, answer => answer, credit);

        /// <param name="alike">What is the same for answers that come to the same.</param>
        private static Tally Counted(IEnumerable<string> answers, Func<string, string> alike, Func<string, decimal> credit) =>
            new([
                .. answers
                    .GroupBy(alike)
                    .Select(group => (group.GroupBy(answer => answer).MaxBy(same => same.Count())!.Key, Count: group.Count()))
                    .OrderByDescending(group => group.Count)
                    .ThenBy(group => group.Key, StringComparer.Ordinal)
                    .Select(group => new Tallied(group.Key, group.Count, credit(group.Key))),
            ]);
    }
}

/// <summary>Answers that can be counted, the commonest first; those of a choice and spots to be found in their own order.</summary>
public sealed record Tally(ImmutableArray<Tallied> Answers) : AnswersAt;

/// <param name="Answer">Id of a label or an option, the number of a spot, or typed words as most who gave them typed them.</param>
/// <param name="Credit">What it earns by itself, from 0 to 1.</param>
public sealed record Tallied(string Answer, int Count, decimal Credit);

/// <summary>Values read on a scale, in its own units, the smallest first.</summary>
public sealed record Strip(ImmutableArray<ReadValue> Values) : AnswersAt;

public sealed record ReadValue(double X, double Y, decimal Credit);

/// <summary>What was matched, the commonest first.</summary>
public sealed record Linked(ImmutableArray<LinkCount> Links) : AnswersAt;

public sealed record LinkCount(Link Link, int Count, bool IsRight);

/// <summary>What a person marks.</summary>
/// <param name="Words">The median of how many words those wrote who did; 0 where nobody did.</param>
public sealed record Written(int Count, double Words) : AnswersAt;

/// <summary>Pictures of students' own.</summary>
/// <param name="Spots">The median of how many spots they put; 0 where nobody made one.</param>
public sealed record Made(int Count, double Spots) : AnswersAt;

/// <summary>What is there to be found or read.</summary>
/// <param name="Place">The median of its place among what was opened, from 1; 0 where nobody opened it.</param>
public sealed record Found(int Count, double Place) : AnswersAt;
