using System.Collections.Immutable;
using System.Globalization;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Lock = Fenster.Core.Model.Lock;

namespace Fenster.Words;

/// <summary>
/// What counts as right at one target and what it is worth, in plain words, made from the target itself so that they are always true.
/// </summary>
public static class TargetSentences
{
    /// <summary>The sentences, with the words that can be changed; empty for what is neither checked nor scored.</summary>
    /// <param name="pane">The pane that the target is on.</param>
    public static ImmutableArray<Wording> Of(Language language, Pane pane, Target target)
    {
        if (target is InfoSpot)
            return [];
        var sentences = target.Match(new Checking(language, pane));
        sentences.Add(
            "target.compulsory",
            ("compulsory", YesNo(language, "compulsory", target.Compulsory, ("target.compulsory.yes", "target.compulsory.no"), false))
        );
        if (target.TakenOut is { } forWhom)
            sentences.Add(
                "target.takenOut",
                (
                    "takenOut",
                    Wording.Choose(
                        "takenOut",
                        Wording.Value(forWhom),
                        [
                            new(Wording.Value(TakenOut.Nobody), language.Say("target.takenOut.nobody")),
                            new(Wording.Value(TakenOut.Everybody), language.Say("target.takenOut.everybody")),
                            new("", language.Say("target.takenOut.not")),
                        ],
                        usual: ""
                    )
                )
            );
        if (target.IsScored)
            sentences.Add("target.worth", ("count", target.Points), ("points", Number("points", target.Points, 1)));
        return sentences.Made();
    }

    private static Wording Number(string path, decimal value, decimal? usual) =>
        Wording.Type(path, Wording.Value(value), usual is null ? null : Wording.Value(usual));

    private static string Plain(double? number) => number?.ToString("0.##########", CultureInfo.InvariantCulture) ?? "";

    private static Wording YesNo(Language language, string path, bool value, (string Yes, string No) names, bool? usual)
    {
        static string Word(bool value) => value ? "true" : "false";
        return Wording.Choose(
            path,
            Word(value),
            [new(Word(true), language.Say(names.Yes)), new(Word(false), language.Say(names.No))],
            usual is { } known ? Word(known) : null
        );
    }

    private sealed class Checking(Language language, Pane pane) : ITargetCases<WordingBuilder>
    {
        private readonly WordingBuilder sentences = new(language);

        private string LabelText(string label) => pane.Labels.First(l => l.Id == label).Text;

        private WordOption Option(string value, string name) => new(value, language.Say(name));

        private Wording Distance(string path, double? value, string? usual) =>
            Wording.Type(path, Plain(value), value is null ? language.Say("target.nowhere") : Plain(value), usual);

        private Wording YesNo(string path, bool value, string yes, string no, bool? usual) =>
            TargetSentences.YesNo(language, path, value, (yes, no), usual);

        public WordingBuilder Of(DropZone zone)
        {
            sentences.Add("target.zone");
            return Takes(zone, "target.zoneTakes");
        }

        public WordingBuilder Of(HiddenZone zone)
        {
            Tolerated(zone.Tolerance, "0", new("target.pin", "target.partAtPlace", "target.furtherAtPlace"));
            return Takes(zone, "target.placeTakes");
        }

        /// <summary>What it accepts, and how many.</summary>
        private WordingBuilder Takes(Zone zone, string capacity)
        {
            if (zone.Accepts.IsEmpty)
                sentences.Add("target.noLabel");
            foreach (var (accepted, i) in zone.Accepts.Select((accepted, i) => (accepted, i)))
                sentences.Add(
                    "target.earns",
                    ("label", LabelText(accepted.Label)),
                    ("credit", Number(i == 0 ? "credit" : $"credit.{accepted.Label}", accepted.Credit * 100, 100))
                );
            if (zone.Group is { } group)
                sentences.Add("target.group", ("group", group));
            return Said(capacity, ("count", zone.Capacity), ("capacity", Number("capacity", zone.Capacity, 1)));
        }

        private WordingBuilder Said(string name, params ReadOnlySpan<(string Slot, object Value)> slots)
        {
            sentences.Add(name, slots);
            return sentences;
        }

        /// <summary>The sentences about a distance, which differ by what is off.</summary>
        private sealed record OfDistance(string Whole, string Part, string Further);

        /// <param name="usual">The usual slack; null when there is none.</param>
        private WordingBuilder Tolerated(Tolerance tolerance, string? usual, OfDistance names)
        {
            sentences.Add(names.Whole, ("slack", Distance("slack", tolerance.Slack, usual)));
            var band = tolerance.Bands.FirstOrDefault();
            var slack = Distance("band.slack", band?.Slack, "");
            if (band is null)
                return Said("target.noPart", ("slack", slack));
            sentences.Add(names.Part, ("slack", slack), ("credit", Number("band.credit", band.Credit * 100, null)));
            foreach (var further in tolerance.Bands.Skip(1))
                sentences.Add(names.Further, ("slack", (decimal)further.Slack), ("credit", further.Credit * 100));
            return sentences;
        }

        public WordingBuilder Of(Hotspots hotspots)
        {
            var all = hotspots.Spots.Length;
            var options = Enumerable
                .Range(1, all)
                .Select(some => new WordOption(
                    $"{some}",
                    language.Say(some < all ? "target.needed.some" : "target.needed.all", ("some", some), ("count", all))
                ));
            sentences.Add("target.needed", ("needed", Wording.Choose("needed", $"{hotspots.Needed}", [.. options], null)));
            return Tolerated(hotspots.Spots[0].Tolerance, "0", new("target.mark", "target.partAtSpot", "target.furtherAtSpot"));
        }

        public WordingBuilder Of(ScalePoint point)
        {
            Tolerated(
                point.Within,
                null,
                point.Scale.X.Kind == AxisKind.Date
                    ? new("target.date", "target.partDays", "target.furtherDays")
                    : new("target.value", "target.partOff", "target.furtherOff")
            );
            return Said(
                "target.readOut",
                ("shown", YesNo("showsValue", point.ShowsValue, "target.readOut.shown", "target.readOut.hidden", false))
            );
        }

        public WordingBuilder Of(AnswerBox box) => Typed(box.Answer);

        public WordingBuilder Of(QuestionPoint point) =>
            point.Question switch
            {
                TypedQuestion typed => Typed(typed.Answer),
                ChoiceQuestion { Multiple: true } => Said("target.manyOptions"),
                _ => Said("target.oneOption"),
            };

        private WordingBuilder Typed(TypedAnswer answer)
        {
            switch (answer)
            {
                case TypedText text:
                    sentences.Add("target.typed");
                    // What each of several accepted answers earns.
                    foreach (
                        var (spelling, i) in text.Spellings.Select((spelling, i) => (spelling, i)).Where(_ => text.Spellings.Length > 1)
                    )
                        sentences.Add(
                            "target.earns",
                            ("label", spelling.Text),
                            ("credit", Number($"spelling.{i}", spelling.Credit * 100, 100))
                        );
                    return Spelled(text.Rules);
                case TypedNumber number:
                    return Said(
                        "target.number",
                        ("within", Exact("answer.within", number.Within, 1)),
                        ("share", Exact("answer.withinShare", number.WithinShare, 100))
                    );
                default:
                    throw new ArgumentOutOfRangeException(nameof(answer), answer, "This kind of answer is not known.");
            }
        }

        private static Wording Exact(string path, ExactNumber number, int times) => Wording.Type(path, (number * times).ToString(), "0");

        private WordingBuilder Spelled(SpellingRules rules)
        {
            Wording Ignored(string path, bool value, bool usual) =>
                YesNo(path, value, "target.spelled.ignored", "target.spelled.heeded", usual);
            sentences.Add(
                "target.spelled",
                ("capitals", Ignored("rules.ignoreCapitals", rules.IgnoreCapitals, true)),
                ("accents", Ignored("rules.ignoreAccents", rules.IgnoreAccents, false)),
                ("dots", Ignored("rules.ignorePunctuation", rules.IgnorePunctuation, false))
            );
            return Said(
                "target.slips",
                ("slips", YesNo("rules.forgiveSlips", rules.ForgiveSlips, "target.slips.forgiven", "target.slips.wrong", false))
            );
        }

        public WordingBuilder Of(Lock @lock)
        {
            sentences.Add("target.lock");
            Spelled(@lock.Code.Rules);
            return Said("target.opening", ("scored", YesNo("scored", @lock.Scored, "target.opening.scored", "target.opening.free", null)));
        }

        public WordingBuilder Of(OpenNote note)
        {
            sentences.Add("target.note");
            return Said("target.notePins", ("pins", Number("pins", note.Pins, 0)));
        }

        public WordingBuilder Of(OwnPicture own)
        {
            sentences.Add(
                "target.own",
                (
                    "from",
                    Wording.Choose(
                        "whose",
                        Wording.Value(own.Whose),
                        [
                            Option(Wording.Value(PictureFrom.Student), "target.own.student"),
                            Option(Wording.Value(PictureFrom.Teacher), "target.own.teacher"),
                        ],
                        Wording.Value(PictureFrom.Student)
                    )
                )
            );
            sentences.Add("target.ownFewest", ("fewest", Number("fewest", own.Fewest, 3)));
            return Said(
                "target.ownSources",
                ("sources", YesNo("needsSources", own.NeedsSources, "target.ownSources.named", "target.ownSources.free", false))
            );
        }

        public WordingBuilder Of(Matching matching)
        {
            sentences.Add("target.matching");
            return !matching.HasFaces
                ? sentences
                : Said(
                    "target.described",
                    (
                        "whom",
                        Wording.Choose(
                            "descriptions",
                            Wording.Value(matching.Descriptions ?? matching.UsualDescriptions),
                            [
                                Option(Wording.Value(DescriptionFor.Teachers), "target.described.teachers"),
                                Option(Wording.Value(DescriptionFor.Students), "target.described.students"),
                            ],
                            Wording.Value(matching.UsualDescriptions)
                        )
                    )
                );
        }

        public WordingBuilder Of(SortRegion region)
        {
            Wording Want(string value) =>
                Wording.Choose(
                    "want",
                    value,
                    [Option("set", "target.want.set"), Option("count", "target.want.count"), Option("total", "target.want.total")],
                    null
                );
            _ = region.Want switch
            {
                WantCount count => Said(
                    "target.wantCount",
                    ("want", Want("count")),
                    (
                        "is",
                        Wording.Choose(
                            "is",
                            Wording.Value(count.Is),
                            [
                                Option(Wording.Value(CountIs.Exactly), "target.is.exactly"),
                                Option(Wording.Value(CountIs.AtLeast), "target.is.atLeast"),
                                Option(Wording.Value(CountIs.AtMost), "target.is.atMost"),
                            ],
                            null
                        )
                    ),
                    ("number", Number("number", count.Number, null))
                ),
                WantTotal total => Said(
                    "target.wantTotal",
                    ("want", Want("total")),
                    ("from", Number("from", total.From, null)),
                    ("to", Number("to", total.To, null))
                ),
                _ => Said("target.wantSet", ("want", Want("set"))),
            };
            return Said(
                "target.tally",
                ("shown", YesNo("showsTally", region.ShowsTally, "target.tally.shown", "target.tally.hidden", false))
            );
        }

        public WordingBuilder Of(InfoSpot spot) => sentences;
    }
}
