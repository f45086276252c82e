using System.Collections.Immutable;
using Fenster.Core.Checking;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Lock = Fenster.Core.Model.Lock;

namespace Fenster.Core.Revealing;

/// <summary>What a student sees of a target that is no drop zone: never its answer.</summary>
public abstract record TargetView
{
    private TargetView() { }

    public required string Id { get; init; }

    /// <summary>What is asked for; empty when the picture or the instructions say it.</summary>
    public string Prompt { get; init; } = "";

    /// <summary>Whether it must not be left open.</summary>
    public bool Compulsory { get; init; }

    internal static TargetView Of(string alias, Target target, Aliases aliases) =>
        target.Match(new Cases(alias, aliases)) with
        {
            Prompt = target.Prompt,
            Compulsory = target.Compulsory,
        };

    /// <param name="Needed">How many spots are to be marked.</param>
    [KindName("marking")]
    public sealed record Marking(int Needed) : TargetView;

    /// <param name="Units">Units that may stand behind a number; empty for words.</param>
    [KindName("typing")]
    public sealed record Typing(Region Region, bool IsNumber, ImmutableArray<string> Units) : TargetView;

    [KindName("choosing")]
    public sealed record Choosing(Point At, string Text, bool Multiple, ImmutableArray<OptionView> Options) : TargetView;

    [KindName("answering")]
    public sealed record Answering(Point At, string Text, bool IsNumber, ImmutableArray<string> Units) : TargetView;

    [KindName("locked")]
    public sealed record Locked(Point At) : TargetView;

    /// <param name="Pins">How many spots may be marked along with it.</param>
    [KindName("noting")]
    public sealed record Noting(Region Region, int Pins) : TargetView;

    /// <param name="Questions">What is to be answered by spots; empty for a free choice.</param>
    /// <param name="Fewest">How many spots it needs.</param>
    /// <param name="Criteria">What it will be marked by.</param>
    /// <param name="Lacks">What is lacking before anything is done.</param>
    [KindName("making")]
    public sealed record Making(
        PictureFrom Whose,
        ImmutableArray<string> Questions,
        int Fewest,
        bool NeedsSources,
        ImmutableArray<Criterion> Criteria,
        ImmutableArray<SaidView> Lacks
    ) : TargetView;

    /// <summary>The scale itself is drawn in the picture; the answer is not in here.</summary>
    /// <param name="ByMark">Whether a marked point shows the value, not a label.</param>
    /// <param name="ShowsValue">Whether the value at the pointer is read out, and may be typed.</param>
    [KindName("showing")]
    public sealed record Showing(Scale Scale, bool ByMark, bool ShowsValue) : TargetView;

    [KindName("linking")]
    public sealed record Linking(ImmutableArray<OptionView> Left, ImmutableArray<OptionView> Right) : TargetView;

    /// <param name="Tally">What is counted for students; null where they are to count themselves.</param>
    [KindName("sorting")]
    public sealed record Sorting(Region Region, TallyView? Tally) : TargetView;

    [KindName("telling")]
    public sealed record Telling(Point At, string Text, Face? Face, string Link, Model.Showing Shows) : TargetView;

    /// <summary>What has not been found or opened yet: nothing is known of it.</summary>
    [KindName("concealed")]
    public sealed record Concealed : TargetView;

    private sealed class Cases(string alias, Aliases aliases) : ITargetCases<TargetView>
    {
        public TargetView Of(DropZone zone) => throw new InvalidOperationException("A drop zone is seen as a zone.");

        public TargetView Of(HiddenZone zone) => throw new InvalidOperationException("A hidden zone is not seen.");

        public TargetView Of(Hotspots hotspots) => new Marking(hotspots.Needed) { Id = alias };

        public TargetView Of(AnswerBox box) => new Typing(box.Region, box.Answer is TypedNumber, UnitsOf(box.Answer)) { Id = alias };

        public TargetView Of(QuestionPoint point) =>
            point.Question switch
            {
                ChoiceQuestion choice => new Choosing(
                    point.At,
                    choice.Text,
                    choice.Multiple,
                    [.. Aliases.OfOptions(choice).Select(option => new OptionView(option.Alias, option.Option.Text))]
                )
                {
                    Id = alias,
                },
                TypedQuestion typed => new Answering(point.At, typed.Text, typed.Answer is TypedNumber, UnitsOf(typed.Answer))
                {
                    Id = alias,
                },
                var other => throw new ArgumentOutOfRangeException(nameof(point), other, "This kind of question is not known."),
            };

        public TargetView Of(Lock @lock) => new Locked(@lock.At) { Id = alias };

        public TargetView Of(OpenNote note) => new Noting(note.Region, note.Pins) { Id = alias };

        public TargetView Of(OwnPicture own) =>
            new Making(
                own.Whose,
                own.Questions,
                own.Fewest,
                own.NeedsSources,
                own.Criteria,
                SaidView.Of(OwnReadiness.Lacks(own, OwnWork.Empty))
            )
            {
                Id = alias,
            };

        public TargetView Of(ScalePoint point) => new Showing(point.Scale, point.Label is null, point.ShowsValue) { Id = alias };

        public TargetView Of(Matching matching)
        {
            var (left, right) = aliases.Items(matching);
            return new Linking(ViewsOf(matching, left), ViewsOf(matching, right)) { Id = alias };
        }

        public TargetView Of(SortRegion region) =>
            new Sorting(
                region.Region,
                !region.ShowsTally ? null
                    : region.Want is not WantTotal ? new([])
                    : new([
                        .. aliases
                            .Labels.Where(label => label.Label.Value is not null)
                            .Select(label => new ValueView(label.Alias, label.Label.Value!.Value)),
                    ])
            )
            {
                Id = alias,
            };

        public TargetView Of(InfoSpot spot) => new Telling(spot.At, spot.Text, spot.Face, spot.Link, spot.Shows) { Id = alias };

        private static ImmutableArray<OptionView> ViewsOf(Matching matching, IEnumerable<(string Alias, MatchItem Item)> items) =>
            [
                .. items.Select(
                    (item, i) =>
                        matching.KeepsBack(item.Item)
                            ? new OptionView(item.Alias, "", item.Item.Face, i + 1)
                            : new OptionView(item.Alias, item.Item.Text, item.Item.Face)
                ),
            ];

        private static ImmutableArray<string> UnitsOf(TypedAnswer answer) =>
            answer is TypedNumber number ? [.. number.Units.Select(unit => unit.Name)] : [];
    }
}

/// <summary>What lies in a region is counted, or added up.</summary>
/// <param name="Values">Of labels that add to a total; empty for a count.</param>
public sealed record TallyView(ImmutableArray<ValueView> Values);

public sealed record ValueView(string Label, decimal Value);

/// <param name="Face">Null for words.</param>
/// <param name="Number">Names a picture or a sound whose description is kept back, in the order that this attempt sees; null for its
/// text.</param>
public sealed record OptionView(string Id, string Text, Face? Face = null, int? Number = null);

/// <summary>What a student has done for a target that is no zone.</summary>
/// <param name="Points">Marked spots.</param>
/// <param name="Picks">Names of picked options.</param>
/// <param name="Opened">Whether a lock is open, or an info spot was opened.</param>
/// <param name="Inside">What is read behind a lock that is open.</param>
/// <param name="Links">Between names of things to match.</param>
/// <param name="Own">The student's own picture; null for none.</param>
/// <param name="Lacks">What it still lacks.</param>
public sealed record DoneView(
    string Target,
    ImmutableArray<Point> Points,
    string Text,
    ImmutableArray<string> Picks,
    bool Opened,
    string Inside,
    ImmutableArray<Link> Links,
    OwnWork? Own,
    ImmutableArray<SaidView> Lacks
)
{
    internal static DoneView? Of(string alias, Target target, Response response, Aliases aliases)
    {
        var points = response.Marks.GetValueOrDefault(target.Id, []);
        var text = response.Texts.GetValueOrDefault(target.Id, "");
        var picks = target is QuestionPoint { Question: ChoiceQuestion choice }
            ? Aliases
                .OfOptions(choice)
                .Where(option => response.Picks.GetValueOrDefault(target.Id, []).Contains(option.Option.Id))
                .Select(option => option.Alias)
                .ToImmutableArray()
            : [];
        var opened = target is Lock @lock ? Hiding.IsOpen(@lock, response) : response.Opened.Contains(target.Id);
        var inside = opened && target is Lock open ? open.Inside : "";
        var links = target is Matching matching ? aliases.OfLinks(matching, response.Links.GetValueOrDefault(target.Id, [])) : [];
        var own = response.Own.GetValueOrDefault(target.Id);
        return points.IsEmpty && text.Length == 0 && picks.IsEmpty && !opened && links.IsEmpty && own is null
            ? null
            : new(
                alias,
                points,
                text,
                picks,
                opened,
                inside,
                links,
                own,
                target is OwnPicture made && own is not null ? SaidView.Of(OwnReadiness.Lacks(made, own)) : []
            );
    }
}
