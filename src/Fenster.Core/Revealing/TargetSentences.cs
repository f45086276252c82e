using System.Collections.Immutable;
using System.Globalization;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Lock = Fenster.Core.Model.Lock;

namespace Fenster.Core.Revealing;

/// <summary>
/// What counts as right at one target and what it is worth, in plain words, made from the target itself so that they are always true.
/// </summary>
public static class TargetSentences
{
    /// <summary>The sentences, with the words that can be changed; empty for what is neither checked nor scored.</summary>
    /// <param name="pane">The pane that the target is on.</param>
    public static ImmutableArray<Wording> Of(Pane pane, Target target) =>
        target is InfoSpot ? [] : [.. target.Match(new Checking(pane)), .. Worth(target)];

    private static IEnumerable<Wording> Worth(Target target)
    {
        if (!target.IsScored)
            yield break;
        yield return new(" It is worth ");
        yield return Number("points", target.Points, 1);
        yield return new(target.Points == 1 ? " point." : " points.");
    }

    private static Wording Number(string path, decimal value, decimal? usual) =>
        Wording.Type(path, Wording.Value(value), usual is null ? null : Wording.Value(usual));

    private static Wording Distance(string path, double? value, string? usual) =>
        Wording.Type(path, Plain(value), value is null ? "nowhere" : Plain(value), usual);

    private static string Plain(double? number) => number?.ToString("0.##########", CultureInfo.InvariantCulture) ?? "";

    private static Wording YesNo(string path, bool value, string yes, string no, bool? usual) =>
        Wording.Choose(
            path,
            value ? "true" : "false",
            [new("true", yes), new("false", no)],
            usual is null ? null
                : usual == true ? "true"
                : "false"
        );

    private sealed class Checking(Pane pane) : ITargetCases<IEnumerable<Wording>>
    {
        private string Words(string label) => pane.Labels.First(l => l.Id == label).Text;

        public IEnumerable<Wording> Of(DropZone zone) =>
            [new("A label counts when it lies in this zone. "), .. Accepted(zone), new("The zone takes "), .. Capacity(zone)];

        public IEnumerable<Wording> Of(HiddenZone zone) =>
            [
                new("A pin counts when its tip is at most "),
                .. Tolerated(zone.Tolerance, "pu outside this place", "0"),
                .. Accepted(zone),
                new("The place takes "),
                .. Capacity(zone),
            ];

        private IEnumerable<Wording> Accepted(Zone zone)
        {
            if (zone.Accepts.IsEmpty)
                yield return new("No label belongs here. ");
            foreach (var (accepted, i) in zone.Accepts.Select((accepted, i) => (accepted, i)))
            {
                yield return new($"“{Words(accepted.Label)}” earns ");
                yield return Number(i == 0 ? "credit" : $"credit.{accepted.Label}", accepted.Credit * 100, 100);
                yield return new(" %. ");
            }
            if (zone.Group is { } group)
                yield return new($"It is interchangeable with the others of {group}: each takes the labels of all. ");
        }

        private static IEnumerable<Wording> Capacity(Zone zone) =>
            [Number("capacity", zone.Capacity, 1), new(zone.Capacity == 1 ? " label." : " labels.")];

        /// <param name="unit">What follows the distance.</param>
        /// <param name="usual">The usual slack; null when there is none.</param>
        private static IEnumerable<Wording> Tolerated(Tolerance tolerance, string unit, string? usual)
        {
            yield return Distance("slack", tolerance.Slack, usual);
            yield return new($" {unit}. Part credit reaches ");
            var band = tolerance.Bands.FirstOrDefault();
            yield return Distance("band.slack", band?.Slack, "");
            if (band is null)
            {
                yield return new(". ");
                yield break;
            }
            yield return new($" {unit}: ");
            yield return Number("band.credit", band.Credit * 100, null);
            yield return new(" %. ");
            foreach (var further in tolerance.Bands.Skip(1))
                yield return new($"Up to {Plain(further.Slack)} {unit} it is {Wording.Value(further.Credit * 100)} %. ");
        }

        public IEnumerable<Wording> Of(Hotspots hotspots)
        {
            var all = hotspots.Spots.Length;
            var options = Enumerable
                .Range(1, all)
                .Select(n => new WordOption(
                    $"{n}",
                    n < all ? $"any {n} of the {all} places"
                        : n == 1 ? "the one place"
                        : $"all {n} places"
                ));
            return
            [
                new("Students mark "),
                Wording.Choose("needed", $"{hotspots.Needed}", [.. options], null),
                new(". A mark counts when it is at most "),
                .. Tolerated(hotspots.Spots[0].Tolerance, "pu outside a place", "0"),
            ];
        }

        public IEnumerable<Wording> Of(ScalePoint point)
        {
            var unit = point.Scale.X.Kind == AxisKind.Date ? "days off" : "off";
            return [new("The value counts when it is at most "), .. Tolerated(point.Within, unit, null)];
        }

        public IEnumerable<Wording> Of(AnswerBox box) => Typed(box.Answer);

        public IEnumerable<Wording> Of(QuestionPoint point) =>
            point.Question switch
            {
                TypedQuestion typed => Typed(typed.Answer),
                ChoiceQuestion { Multiple: true } =>
                [
                    new(
                        "It counts when all right options are picked and no other; each right one "
                            + "earns its share, and each wrong one takes a share back."
                    ),
                ],
                _ => [new("It counts when the right option is picked.")],
            };

        private static IEnumerable<Wording> Typed(TypedAnswer answer) =>
            answer switch
            {
                TypedText text =>
                [
                    new("What is typed counts when it is one of the accepted answers. "),
                    .. Credits(text.Spellings),
                    .. Spelled(text.Rules),
                ],
                TypedNumber number =>
                [
                    new("The number counts when it is at most "),
                    Exact("answer.within", number.Within, 1),
                    new(" off, or at most "),
                    Exact("answer.withinShare", number.WithinShare, 100),
                    new(" % of the answer."),
                ],
                _ => throw new ArgumentOutOfRangeException(nameof(answer), answer, "This kind of answer is not known."),
            };

        /// <summary>What each of several accepted answers earns.</summary>
        private static IEnumerable<Wording> Credits(ImmutableArray<Spelling> spellings) =>
            spellings.Length == 1
                ? []
                : spellings.SelectMany(
                    (spelling, i) =>
                        (Wording[])[new($"“{spelling.Text}” earns "), Number($"spelling.{i}", spelling.Credit * 100, 100), new(" %. ")]
                );

        private static Wording Exact(string path, ExactNumber number, int times) => Wording.Type(path, (number * times).ToString(), "0");

        private static IEnumerable<Wording> Spelled(SpellingRules rules) =>
            [
                new("Capitals "),
                YesNo("rules.ignoreCapitals", rules.IgnoreCapitals, "make no difference", "must be right", true),
                new(", accents "),
                YesNo("rules.ignoreAccents", rules.IgnoreAccents, "make no difference", "must be right", false),
                new(", hyphens and dots "),
                YesNo("rules.ignorePunctuation", rules.IgnorePunctuation, "make no difference", "must be right", false),
                new(". Small slips "),
                YesNo("rules.forgiveSlips", rules.ForgiveSlips, "are forgiven", "are wrong", false),
                new("."),
            ];

        public IEnumerable<Wording> Of(Lock @lock) =>
            [
                new("It opens with one of the codes. "),
                .. Spelled(@lock.Code.Rules),
                new(" Opening it "),
                YesNo("scored", @lock.Scored, "earns points", "earns nothing", null),
                new("."),
            ];

        public IEnumerable<Wording> Of(OpenNote note) => [new("You read it and mark it yourself.")];

        public IEnumerable<Wording> Of(Matching matching) =>
            [new("A link counts when the two belong together, and each pair earns its share."), .. Descriptions(matching)];

        private static IEnumerable<Wording> Descriptions(Matching matching) =>
            !matching.HasFaces
                ? []
                :
                [
                    new(" What a picture or sound is described as is "),
                    Wording.Choose(
                        "descriptions",
                        Named(matching.Descriptions ?? matching.UsualDescriptions),
                        [
                            new(Named(DescriptionFor.Teachers), "for you alone until the key shows"),
                            new(Named(DescriptionFor.Students), "for students too"),
                        ],
                        Named(matching.UsualDescriptions)
                    ),
                    new("."),
                ];

        private static string Named(DescriptionFor whom) => whom == DescriptionFor.Teachers ? "teachers" : "students";

        public IEnumerable<Wording> Of(SortRegion region) =>
            [
                new("It counts when "),
                Wording.Choose(
                    "want",
                    region.Want switch
                    {
                        WantCount => "count",
                        WantTotal => "total",
                        _ => "set",
                    },
                    [
                        new("set", "all of its labels and no others"),
                        new("count", "a number of its labels"),
                        new("total", "values that add up"),
                    ],
                    null
                ),
                .. Amount(region.Want),
            ];

        private static IEnumerable<Wording> Amount(Want want) =>
            want switch
            {
                WantCount count =>
                [
                    new(" lie in it: "),
                    Wording.Choose(
                        "is",
                        Wording.Value(count.Is),
                        [new("exactly", "exactly"), new("atLeast", "at least"), new("atMost", "at most")],
                        null
                    ),
                    new(" "),
                    Number("number", count.Number, null),
                    new("."),
                ],
                WantTotal total =>
                [
                    new(" lie in it: from "),
                    Number("from", total.From, null),
                    new(" to "),
                    Number("to", total.To, null),
                    new("."),
                ],
                _ => [new(" lie in it; each earns its share, and each other one takes a share back.")],
            };

        public IEnumerable<Wording> Of(InfoSpot spot) => [];
    }
}
