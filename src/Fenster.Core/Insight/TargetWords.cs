using System.Globalization;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Lock = Fenster.Core.Model.Lock;

namespace Fenster.Core.Insight;

/// <summary>A target in words, for a teacher: what it is called, what is right there, and what a student did.</summary>
/// <param name="Key">Empty when nothing is right or wrong there.</param>
/// <param name="Given">Empty when the student did nothing there.</param>
public sealed record TargetWords(string Name, string Key, string Given)
{
    public static TargetWords Of(Pane pane, Target target, Response response)
    {
        var words = target.Match(new Words(pane, response));
        return target.Prompt == "" ? words : words with { Name = target.Prompt };
    }

    private sealed class Words(Pane pane, Response response) : ITargetCases<TargetWords>
    {
        private readonly Dictionary<string, string> texts = pane.Labels.ToDictionary(label => label.Id, label => label.Text);

        public TargetWords Of(DropZone zone) =>
            OfZone(zone, response.Placements.Where(placement => placement.Zone == zone.Id).Select(placement => placement.Label));

        // A pin means the zones that it lies in.
        public TargetWords Of(HiddenZone zone) =>
            OfZone(zone, response.Pins.Where(pin => zone.Tolerance.CreditFor(zone.Region, pin.At) > 0).Select(pin => pin.Label));

        private TargetWords OfZone(Zone zone, IEnumerable<string> given)
        {
            var key = string.Join(" or ", zone.Accepts.Select(accepted => texts[accepted.Label]));
            return new(key, key, Labels(given));
        }

        public TargetWords Of(Hotspots hotspots) =>
            new(
                "Hotspots",
                hotspots.Needed == hotspots.Spots.Length ? $"all {hotspots.Needed}" : $"{hotspots.Needed} of {hotspots.Spots.Length}",
                Marks(response.Marks.GetValueOrDefault(hotspots.Id, []).Length)
            );

        public TargetWords Of(AnswerBox box) => new("Answer box", Answer(box.Answer), Text(box));

        public TargetWords Of(QuestionPoint point) =>
            point.Question is ChoiceQuestion choice
                ? new(
                    choice.Text,
                    Options(choice, choice.Options.Where(option => option.IsRight).Select(option => option.Id)),
                    Options(choice, response.Picks.GetValueOrDefault(point.Id, []))
                )
                : new(point.Question.Text, Answer(((TypedQuestion)point.Question).Answer), Text(point));

        public TargetWords Of(Lock @lock) =>
            new("Lock", @lock.Code.Best, string.Join(", ", response.Codes.GetValueOrDefault(@lock.Id, [])));

        public TargetWords Of(OpenNote note) => new("Open note", "", Text(note));

        public TargetWords Of(ScalePoint point)
        {
            var at = Checking.ScaleCheck.PointOf(point, response);
            var read = at is { } found ? point.Scale.ValueAt(found) : default;
            return new(
                point.Label is { } label ? texts[label] : "Scale",
                Value(point.Scale, point.X, point.Y),
                at is null ? "" : Value(point.Scale, read.X, read.Y)
            );
        }

        public TargetWords Of(Matching matching) =>
            new("Matching", matching.InWords(matching.Pairs), matching.InWords(response.Links.GetValueOrDefault(matching.Id, [])));

        public TargetWords Of(SortRegion region) =>
            new(
                "Region",
                string.Join(" of ", new[] { region.Want.Amount, Labels(region.NamedLabels) }.Where(words => words != "")),
                Labels(response.Pins.Where(pin => region.Region.Contains(pin.At)).Select(pin => pin.Label))
            );

        public TargetWords Of(InfoSpot spot) => new("Info spot", "", response.Opened.Contains(spot.Id) ? "opened" : "");

        private string Labels(IEnumerable<string> ids) => string.Join(", ", ids.Select(id => texts.GetValueOrDefault(id, id)));

        private string Text(Target target) => response.Texts.GetValueOrDefault(target.Id, "");

        private static string Options(ChoiceQuestion choice, IEnumerable<string> ids) =>
            string.Join(", ", choice.Options.Where(option => ids.Contains(option.Id)).Select(option => option.Text));

        private static string Marks(int count) =>
            count switch
            {
                0 => "",
                1 => "1 mark",
                _ => $"{count} marks",
            };

        private static string Answer(TypedAnswer answer) =>
            answer switch
            {
                TypedText text => string.Join(" or ", text.Spellings.Select(spelling => spelling.Text)),
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
