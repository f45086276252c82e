using System.Collections.Immutable;
using Fenster.Core.Checking;
using Fenster.Core.Geometry;
using Fenster.Core.Model;
using Fenster.Core.Scoring;
using Lock = Fenster.Core.Model.Lock;

namespace Fenster.Core.Revealing;

/// <summary>
/// One attempt's place at an activity: the names and order under which it sees things, which depend on its seed.
/// Made once for each attempt.
/// </summary>
public sealed class Seat(Activity activity, long seed)
{
    private readonly ImmutableArray<Aliases> aliases = [.. activity.Panes.Select(pane => Aliases.For(pane, seed))];

    public Activity Activity => activity;

    internal IEnumerable<(Pane Pane, Aliases Aliases)> Panes => activity.Panes.Zip(aliases);

    internal static string AliasOf(int pane) => $"p{pane + 1}";

    /// <summary>The id of the pane and the move in the pane's own ids, from what a student's browser calls them.</summary>
    /// <exception cref="MoveRefused">A name is not known.</exception>
    public (string Pane, Move Move) Resolve(string pane, Move move)
    {
        for (var i = 0; i < aliases.Length; i++)
            if (AliasOf(i) == pane) return (activity.Panes[i].Id, aliases[i].Resolve(move));
        throw new MoveRefused("That picture is not part of this activity.");
    }
}

/// <summary>
/// The only thing a student's browser is ever given: what stays the same during an attempt, and <see cref="Work"/>,
/// which each placement changes.
/// </summary>
public sealed record StudentView
{
    public required string Title { get; init; }
    public required string Instructions { get; init; }
    public required string Language { get; init; }
    public required WritingDirection Direction { get; init; }
    public required ImmutableArray<PaneView> Panes { get; init; }
    public required WorkView Work { get; init; }

    /// <summary>What an attempt may see at a moment.</summary>
    /// <param name="responses">By pane id; a pane without one is taken as untouched.</param>
    public static StudentView At(Moment moment, Seat seat, IReadOnlyDictionary<string, Response> responses) => new()
    {
        Title = seat.Activity.Title,
        Instructions = seat.Activity.Instructions,
        Language = seat.Activity.Language,
        Direction = seat.Activity.Direction,
        Panes = [.. seat.Panes.Select((pane, i) => PaneView.Of(pane.Pane, pane.Aliases, Seat.AliasOf(i)))],
        Work = WorkView.At(moment, seat, responses),
    };
}

/// <summary>
/// The work as it stands. What is not visible yet is not in it: marks, score and key are parts of their own, which
/// can only be made from a moment that has reached theirs.
/// </summary>
public sealed record WorkView
{
    /// <summary>Whether the student may still change something.</summary>
    public required bool Open { get; init; }
    public required ScoreView? Score { get; init; }

    /// <summary>In the order of <see cref="StudentView.Panes"/>.</summary>
    public required ImmutableArray<PaneWorkView> Panes { get; init; }

    /// <inheritdoc cref="StudentView.At"/>
    public static WorkView At(Moment moment, Seat seat, IReadOnlyDictionary<string, Response> responses)
    {
        var reached = new Reached(moment, seat.Activity.Rules.Reveal);
        return new()
        {
            Open = moment < Moment.HandedIn,
            Score = ScoreView.At(reached, seat.Activity, responses),
            Panes = [.. seat.Panes.Select(pane =>
                PaneWorkView.At(reached, pane.Pane, responses.GetValueOrDefault(pane.Pane.Id, Response.Empty), pane.Aliases))],
        };
    }
}

/// <summary>The moment an attempt has reached, held against the rules of revealing.</summary>
internal readonly record struct Reached(Moment Moment, RevealRules Rules)
{
    private bool Has(Moment moment) => moment != Moment.Never && Moment >= moment;
    public bool Marks => Has(Rules.Marks);
    public bool Score => Has(Rules.Score);
    public bool Key => Has(Rules.Key);
}

public sealed record PaneView
{
    public required string Id { get; init; }
    public required Picture? Picture { get; init; }
    public required ImmutableArray<ZoneView> Zones { get; init; }
    public required ImmutableArray<LabelView> Labels { get; init; }
    public required ImmutableArray<TargetView> Targets { get; init; }

    internal static PaneView Of(Pane pane, Aliases aliases, string alias) => new()
    {
        Id = alias,
        Picture = pane.Picture,
        Zones = [.. aliases.Zones.Select(z => new ZoneView(z.Alias, z.Zone.Region, z.Zone.Capacity))],
        Labels = [.. aliases.Labels.Select(l => new LabelView(l.Alias, l.Label.Text, l.Label.Copies))],
        Targets = [.. aliases.Others.Select(t => t.Target.Match(new TargetView.Cases(t.Alias)))],
    };
}

/// <summary>What a student sees of a target that is no drop zone: never its answer.</summary>
public abstract record TargetView
{
    private TargetView() { }

    public required string Id { get; init; }

    /// <param name="Needed">How many spots are to be marked.</param>
    public sealed record Marking(int Needed) : TargetView;

    /// <param name="Units">Units that may stand behind a number; empty for words.</param>
    public sealed record Typing(Region Region, bool IsNumber, ImmutableArray<string> Units) : TargetView;

    public sealed record Choosing(Point At, string Text, bool Multiple, ImmutableArray<OptionView> Options) : TargetView;

    public sealed record Answering(Point At, string Text, bool IsNumber, ImmutableArray<string> Units) : TargetView;

    public sealed record Locked(Point At) : TargetView;

    public sealed record Noting(Region Region) : TargetView;

    /// <summary>The scale itself is drawn in the picture; the answer is not in here.</summary>
    public sealed record Showing(Scale Scale) : TargetView;

    public sealed record Linking(ImmutableArray<OptionView> Left, ImmutableArray<OptionView> Right) : TargetView;

    public sealed record Sorting(Region Region) : TargetView;

    public sealed record Telling(Point At, string Text) : TargetView;

    /// <summary>A spot that has not been found: nothing is known of it.</summary>
    public sealed record Concealed : TargetView;

    internal sealed class Cases(string alias) : ITargetCases<TargetView>
    {
        public TargetView Of(DropZone zone) => throw new InvalidOperationException("A drop zone is seen as a zone.");

        public TargetView Of(HiddenZone zone) => throw new InvalidOperationException("A hidden zone is not seen.");

        public TargetView Of(Hotspots hotspots) => new Marking(hotspots.Needed) { Id = alias };

        public TargetView Of(AnswerBox box) => new Typing(box.Region, box.Answer is TypedNumber, UnitsOf(box.Answer)) { Id = alias };

        public TargetView Of(QuestionPoint point) => point.Question switch
        {
            ChoiceQuestion choice => new Choosing(point.At, choice.Text, choice.Multiple,
                [.. choice.Options.Select((option, i) => new OptionView(Aliases.OfOption(i), option.Text))]) { Id = alias },
            TypedQuestion typed => new Answering(point.At, typed.Text, typed.Answer is TypedNumber, UnitsOf(typed.Answer)) { Id = alias },
            var other => throw new ArgumentOutOfRangeException(nameof(point), other, "This kind of question is not known."),
        };

        public TargetView Of(Lock @lock) => new Locked(@lock.At) { Id = alias };

        public TargetView Of(OpenNote note) => new Noting(note.Region) { Id = alias };

        public TargetView Of(ScalePoint point) => new Showing(point.Scale) { Id = alias };

        public TargetView Of(Matching matching) => new Linking(ViewsOf(matching.Left), ViewsOf(matching.Right)) { Id = alias };

        public TargetView Of(SortRegion region) => new Sorting(region.Region) { Id = alias };

        public TargetView Of(InfoSpot spot) => spot.Concealed ? new Concealed { Id = alias } : new Telling(spot.At, spot.Text) { Id = alias };

        private static ImmutableArray<OptionView> ViewsOf(ImmutableArray<MatchItem> items) =>
            [.. Aliases.OfItems(items).Select(item => new OptionView(item.Alias, item.Item.Text))];

        private static ImmutableArray<string> UnitsOf(TypedAnswer answer) =>
            answer is TypedNumber number ? [.. number.Units.Select(unit => unit.Name)] : [];
    }
}

public sealed record OptionView(string Id, string Text);

public sealed record PaneWorkView
{
    public required ImmutableArray<Placement> Placed { get; init; }
    public required ImmutableArray<Pin> Pins { get; init; }
    public required ImmutableArray<DoneView> Done { get; init; }
    public required MarksView? Marks { get; init; }
    public required KeyView? Key { get; init; }

    internal static PaneWorkView At(Reached reached, Pane pane, Response response, Aliases aliases) => new()
    {
        Placed = [.. response.Placements.Select(p => new Placement(aliases.OfLabel(p.Label), p.Copy, aliases.OfZone(p.Zone)))],
        Pins = [.. response.Pins.Select(p => p with { Label = aliases.OfLabel(p.Label) })],
        Done = [.. aliases.Others.Select(t => DoneView.Of(t.Alias, t.Target, response)).OfType<DoneView>()],
        Marks = MarksView.At(reached, pane, response, aliases),
        Key = KeyView.At(reached, pane, aliases),
    };
}

/// <summary>What a student has done for a target that is no zone.</summary>
/// <param name="Points">Marked spots.</param>
/// <param name="Picks">Names of picked options.</param>
/// <param name="Opened">Whether a lock is open.</param>
/// <param name="Links">Between names of things to match.</param>
public sealed record DoneView(string Target, ImmutableArray<Point> Points, string Text, ImmutableArray<string> Picks, bool Opened, ImmutableArray<Link> Links)
{
    internal static DoneView? Of(string alias, Target target, Response response)
    {
        var points = response.Marks.GetValueOrDefault(target.Id, []);
        var text = response.Texts.GetValueOrDefault(target.Id, "");
        var picks = target is QuestionPoint { Question: ChoiceQuestion choice }
            ? choice.Options.Select((option, i) => (Alias: Aliases.OfOption(i), option.Id))
                .Where(option => response.Picks.GetValueOrDefault(target.Id, []).Contains(option.Id))
                .Select(option => option.Alias).ToImmutableArray()
            : [];
        var opened = target is Lock @lock && response.Codes.GetValueOrDefault(target.Id, []).Any(code => Spellings.Credit(code, @lock.Code) > 0);
        var links = target is Matching matching ? LinksOf(matching, response.Links.GetValueOrDefault(target.Id, [])) : [];
        return points.IsEmpty && text.Length == 0 && picks.IsEmpty && !opened && links.IsEmpty ? null : new(alias, points, text, picks, opened, links);
    }

    private static ImmutableArray<Link> LinksOf(Matching matching, ImmutableArray<Link> links)
    {
        var left = Aliases.OfItems(matching.Left).ToDictionary(item => item.Item.Id, item => item.Alias);
        var right = Aliases.OfItems(matching.Right).ToDictionary(item => item.Item.Id, item => item.Alias);
        return [.. links.Select(link => new Link(left[link.Left], right[link.Right]))];
    }
}

/// <param name="Capacity">How many labels it takes.</param>
public sealed record ZoneView(string Id, Region Region, int Capacity);

/// <param name="Copies">How often it may be placed; null for without limit.</param>
public sealed record LabelView(string Id, string Text, int? Copies);

/// <summary>Which placements are right or wrong.</summary>
public sealed record MarksView
{
    private MarksView() { }

    /// <summary>In the order of <see cref="PaneWorkView.Placed"/>.</summary>
    public required ImmutableArray<Verdict> Placed { get; init; }
    public required ImmutableArray<ZoneMarkView> Zones { get; init; }

    /// <summary>In the order of <see cref="PaneWorkView.Pins"/>.</summary>
    public required ImmutableArray<Verdict> Pins { get; init; }

    /// <summary>Of the other targets.</summary>
    public required ImmutableArray<OtherMarkView> Others { get; init; }

    internal static MarksView? At(Reached reached, Pane pane, Response response, Aliases aliases)
    {
        if (!reached.Marks) return null;
        var marks = Checker.Check(pane, response);
        var states = marks.Targets.ToDictionary(mark => mark.Target, mark => mark.State);
        return new()
        {
            Placed = [.. marks.Placements.Select(mark => mark.Verdict)],
            Zones = [.. aliases.Zones.Select(z => new ZoneMarkView(z.Alias, states[z.Zone.Id]))],
            Pins = [.. marks.Pins.Select(mark => mark.Verdict)],
            Others = [.. aliases.Others.Select(t => new OtherMarkView(
                t.Alias, states[t.Target.Id], [.. marks.Points.Where(mark => mark.Target == t.Target.Id).Select(mark => mark.Verdict)]))],
        };
    }
}

public sealed record ZoneMarkView(string Zone, TargetState State);

/// <param name="Points">Of the marked spots, in their order.</param>
public sealed record OtherMarkView(string Target, TargetState State, ImmutableArray<Verdict> Points);

/// <summary>Where things belong.</summary>
public sealed record KeyView
{
    private KeyView() { }

    public required ImmutableArray<ZoneKeyView> Zones { get; init; }

    /// <summary>Zones that were hidden, with the names of the labels that belong there.</summary>
    public required ImmutableArray<HiddenKeyView> Hidden { get; init; }

    /// <summary>Answers to the other targets.</summary>
    public required ImmutableArray<OtherKeyView> Others { get; init; }

    internal static KeyView? At(Reached reached, Pane pane, Aliases aliases) => !reached.Key ? null : new()
    {
        Hidden = [.. pane.Targets.OfType<HiddenZone>().Select(zone => new HiddenKeyView(zone.Region, [.. zone.Accepts.Select(a => aliases.OfLabel(a.Label))]))],
        Others = [.. aliases.Others.Select(t => t.Target.Match(new OtherKeyView.Cases(t.Alias)))],
        Zones = [.. aliases.Zones.Select(z => new ZoneKeyView(z.Alias, [.. z.Zone.Accepts.Select(a => aliases.OfLabel(a.Label))]))],
    };
}

/// <param name="Labels">Aliases of the labels that belong here.</param>
public sealed record ZoneKeyView(string Zone, ImmutableArray<string> Labels);

public sealed record HiddenKeyView(Region Region, ImmutableArray<string> Labels);

/// <summary>The answer to a target that is no zone.</summary>
/// <param name="Spots">Where hotspots lie.</param>
/// <param name="Text">The first accepted answer, or the number.</param>
/// <param name="Picks">Names of the right options.</param>
public sealed record OtherKeyView(string Target, ImmutableArray<Region> Spots, string Text, ImmutableArray<string> Picks)
{
    internal sealed class Cases(string alias) : ITargetCases<OtherKeyView>
    {
        public OtherKeyView Of(DropZone zone) => throw new InvalidOperationException("A drop zone's key is a zone's.");

        public OtherKeyView Of(HiddenZone zone) => throw new InvalidOperationException("A hidden zone's key is a zone's.");

        public OtherKeyView Of(Hotspots hotspots) => new(alias, [.. hotspots.Spots.Select(spot => spot.Region)], "", []);

        public OtherKeyView Of(AnswerBox box) => new(alias, [], TextOf(box.Answer), []);

        public OtherKeyView Of(QuestionPoint point) => point.Question switch
        {
            ChoiceQuestion choice => new(alias, [], "", [.. choice.Options.Select((option, i) => (option.IsRight, Alias: Aliases.OfOption(i))).Where(o => o.IsRight).Select(o => o.Alias)]),
            TypedQuestion typed => new(alias, [], TextOf(typed.Answer), []),
            var other => throw new ArgumentOutOfRangeException(nameof(point), other, "This kind of question is not known."),
        };

        public OtherKeyView Of(Lock @lock) => new(alias, [], TextOf(@lock.Code), []);

        public OtherKeyView Of(OpenNote note) => new(alias, [], "", []);

        public OtherKeyView Of(ScalePoint point) => new(alias, [], point.Scale.Y is null ? $"{Number(point.X)}" : $"{Number(point.X)}, {Number(point.Y)}", []);

        public OtherKeyView Of(Matching matching) => new(alias, [], string.Join("; ", matching.Pairs.Select(pair =>
            $"{matching.Left.First(item => item.Id == pair.Left).Text} – {matching.Right.First(item => item.Id == pair.Right).Text}")), []);

        public OtherKeyView Of(SortRegion region) => new(alias, [], region.Want switch
        {
            WantTotal total => total.From == total.To ? $"a total of {Number((double)total.From)}" : $"a total from {Number((double)total.From)} to {Number((double)total.To)}",
            WantCount count => $"{count.Number}",
            _ => "",
        }, []);

        public OtherKeyView Of(InfoSpot spot) => new(alias, [], "", []);

        private static string Number(double number) => number.ToString("0.######", System.Globalization.CultureInfo.InvariantCulture);

        private static string TextOf(TypedAnswer answer) => answer switch
        {
            TypedText text => text.Spellings.MaxBy(spelling => spelling.Credit)!.Text,
            TypedNumber number => number.Units.IsEmpty ? $"{number.Value}" : $"{number.Value} {number.Units[0].Name}",
            _ => throw new ArgumentOutOfRangeException(nameof(answer), answer, "This kind of answer is not known."),
        };
    }
}

public sealed record ScoreView
{
    private ScoreView() { }

    public required decimal Score { get; init; }
    public required decimal Possible { get; init; }
    public required decimal Grade { get; init; }
    public required decimal MaximumGrade { get; init; }
    public required bool? Passed { get; init; }

    internal static ScoreView? At(Reached reached, Activity activity, IReadOnlyDictionary<string, Response> responses)
    {
        if (!reached.Score) return null;
        var score = Scorer.Score(activity, responses);
        return new()
        {
            Score = score.Score,
            Possible = score.Possible,
            Grade = score.Grade,
            MaximumGrade = score.MaximumGrade,
            Passed = score.Passed,
        };
    }
}
