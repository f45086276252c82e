using System.Globalization;
using Fenster.Core.Checking;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Lock = Fenster.Core.Model.Lock;

namespace Fenster.Words;

/// <summary>A target in words, for a teacher: what it is called, what is right there, and what a student did.</summary>
/// <param name="Key">Empty when nothing is right or wrong there.</param>
/// <param name="Given">Empty when the student did nothing there.</param>
public sealed record TargetWords(string Name, string Key, string Given)
{
    /// <param name="language">Of whoever reads them.</param>
    public static TargetWords Of(Language language, Pane pane, Target target, Response response)
    {
        var words = target.Match(new Cases(language, pane, response));
        return target.Prompt == "" ? words : words with { Name = target.Prompt };
    }

    private sealed class Cases(Language language, Pane pane, Response response) : ITargetCases<TargetWords>
    {
        private readonly Dictionary<string, string> texts = pane.Labels.ToDictionary(label => label.Id, label => label.Text);

        public TargetWords Of(DropZone zone) =>
            OfZone(zone, response.Placements.Where(placement => placement.Zone == zone.Id).Select(placement => placement.Label));

        // A pin means the zones that it lies in.
        public TargetWords Of(HiddenZone zone) =>
            OfZone(zone, response.Pins.Where(pin => zone.Tolerance.CreditFor(zone.Region, pin.At) > 0).Select(pin => pin.Label));

        private TargetWords OfZone(Zone zone, IEnumerable<string> given)
        {
            var key = Or(zone.Accepts.Select(accepted => texts[accepted.Label]));
            return new(key, key, Labels(given));
        }

        public TargetWords Of(Hotspots hotspots) =>
            new(
                language.Say("kind.hotspots"),
                hotspots.Needed == hotspots.Spots.Length
                    ? language.Say("kind.all", ("number", hotspots.Needed))
                    : language.Say("results.outOf", ("part", hotspots.Needed), ("whole", hotspots.Spots.Length)),
                Marks(response.Marks.GetValueOrDefault(hotspots.Id, []).Length)
            );

        public TargetWords Of(AnswerBox box) => new(language.Say("kind.answerBox"), Answer(box.Answer), Text(box));

        public TargetWords Of(QuestionPoint point) =>
            point.Question is ChoiceQuestion choice
                ? new(
                    choice.Text,
                    Options(choice, choice.Options.Where(option => option.IsRight).Select(option => option.Id)),
                    Options(choice, response.Picks.GetValueOrDefault(point.Id, []))
                )
                : new(point.Question.Text, Answer(((TypedQuestion)point.Question).Answer), Text(point));

        public TargetWords Of(Lock @lock) =>
            new(language.Say("kind.lock"), @lock.Code.Best, language.Listed(response.Codes.GetValueOrDefault(@lock.Id, [])));

        public TargetWords Of(OpenNote note) => new(language.Say("kind.openNote"), "", Text(note));

        public TargetWords Of(OwnPicture own) =>
            new(
                language.Say("kind.ownPicture"),
                "",
                response.Own.TryGetValue(own.Id, out var work) ? language.Say("kind.ownSpots", ("count", work.Spots.Length)) : ""
            );

        public TargetWords Of(ScalePoint point)
        {
            var at = ScaleCheck.PointOf(point, response);
            var read = at is { } found ? point.Scale.ValueAt(found) : default;
            return new(
                point.Label is { } label ? texts[label] : language.Say("kind.scale"),
                Value(point.Scale, point.X, point.Y),
                at is null ? "" : Value(point.Scale, read.X, read.Y)
            );
        }

        public TargetWords Of(Matching matching) =>
            new(
                language.Say("kind.matching"),
                matching.InWords(matching.Pairs),
                matching.InWords(response.Links.GetValueOrDefault(matching.Id, []))
            );

        public TargetWords Of(SortRegion region) =>
            new(
                language.Say("kind.sortRegion"),
                Amount(region.Want.Amount, Labels(region.NamedLabels)),
                Labels(response.Pins.Where(pin => region.Region.Contains(pin.At)).Select(pin => pin.Label))
            );

        public TargetWords Of(InfoSpot spot) =>
            new(language.Say("kind.infoSpot"), "", response.Opened.Contains(spot.Id) ? language.Say("kind.opened") : "");

        private string Labels(IEnumerable<string> ids) => language.Listed(ids.Select(id => texts.GetValueOrDefault(id, id)));

        private string Amount(Said? amount, string labels) =>
            amount is null ? labels
            : labels == "" ? language.Say(amount)
            : language.Say("kind.amountOf", ("amount", amount), ("labels", labels));

        private string Text(Target target) => response.Texts.GetValueOrDefault(target.Id, "");

        private string Options(ChoiceQuestion choice, IEnumerable<string> ids) =>
            language.Listed(choice.Options.Where(option => ids.Contains(option.Id)).Select(option => option.Text));

        private string Marks(int count) => count == 0 ? "" : language.Say("kind.marks", ("count", count));

        private string Or(IEnumerable<string> texts) => language.ListedWithOr([.. texts]);

        private string Answer(TypedAnswer answer) =>
            answer switch
            {
                TypedText text => Or(text.Spellings.Select(spelling => spelling.Text)),
                TypedNumber number => number.Units.IsEmpty ? $"{number.Value}" : $"{number.Value} {number.Units[0].Name}",
                _ => throw new ArgumentOutOfRangeException(nameof(answer), answer, "This kind of answer is not known."),
            };

        private static string Value(Scale scale, double x, double y) =>
            scale.Y is { } other ? $"{Read(scale.X, x)}, {Read(other, y)}" : Read(scale.X, x);

        private static string Read(Axis axis, double value) =>
            axis.Kind == AxisKind.Date && value is > -700_000 and < 2_900_000
                ? DateTime.UnixEpoch.AddDays(value).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)
                : value.ToString("0.###", CultureInfo.InvariantCulture);
    }
}
