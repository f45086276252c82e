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
    /// <summary>In the order in which this attempt sees them.</summary>
    private readonly ImmutableArray<(Pane Pane, Aliases Aliases)> panes =
    [
        .. (activity.PaneOrder == PaneOrder.Shuffled ? Shuffle.Of(activity.Panes, seed ^ PaneSalt) : activity.Panes).Select(pane =>
            (pane, Aliases.For(pane, seed))
        ),
    ];

    // The panes' order is drawn apart from that of the labels, which the bare seed draws.
    private const long PaneSalt = 0x50414E45;

    public Activity Activity => activity;

    internal IEnumerable<(Pane Pane, Aliases Aliases)> Panes => panes;

    internal static string AliasOf(int pane) => $"p{pane + 1}";

    /// <summary>
    /// The id of the pane and the move in the pane's own ids, from what a student's browser calls them; null with the reason when a
    /// name is not known.
    /// </summary>
    public (string Pane, Move Move)? Resolve(string pane, Move move, out Refusal? refusal)
    {
        for (var i = 0; i < panes.Length; i++)
            if (AliasOf(i) == pane)
                return panes[i].Aliases.Resolve(move, out refusal) is { } resolved ? (panes[i].Pane.Id, resolved) : null;
        refusal = new(Refused.NoSuchPane);
        return null;
    }

    /// <summary>What this attempt's browser calls a pane; null where there is none of this id.</summary>
    public string? NameOf(string pane) =>
        panes.Select((known, i) => known.Pane.Id == pane ? AliasOf(i) : null).FirstOrDefault(name => name is not null);

    /// <summary>The inverse of <see cref="Resolve"/>: what this attempt's browser calls a pane and the things of a move on it.</summary>
    public (string Pane, Move Move) Name(string pane, Move move)
    {
        for (var i = 0; i < panes.Length; i++)
            if (panes[i].Pane.Id == pane)
                return (AliasOf(i), panes[i].Aliases.Name(move));
        throw new KeyNotFoundException($"There is no pane '{pane}'.");
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
    public required Face? Message { get; init; }
    public required string MessageText { get; init; }
    public required Purpose Purpose { get; init; }
    public required Screen Screen { get; init; }
    public required ImmutableArray<PaneView> Panes { get; init; }
    public required WorkView Work { get; init; }

    /// <summary>What an attempt may see at a moment.</summary>
    /// <param name="responses">By pane id; a pane without one is taken as untouched.</param>
    /// <param name="marking">What people have decided and said; null for nothing.</param>
    public static StudentView At(Reach moment, Seat seat, IReadOnlyDictionary<string, Response> responses, Marking? marking = null) =>
        new()
        {
            Title = seat.Activity.Title,
            Instructions = seat.Activity.Instructions,
            Language = seat.Activity.Language,
            Direction = seat.Activity.Direction,
            Message = seat.Activity.Message,
            MessageText = seat.Activity.MessageText,
            Purpose = seat.Activity.Purpose,
            Screen = seat.Activity.Screen,
            Panes = [.. seat.Panes.Select((pane, i) => PaneView.Of(pane.Pane, pane.Aliases, Seat.AliasOf(i)))],
            Work = WorkView.At(moment, seat, responses, marking: marking),
        };
}

/// <summary>
/// The work as it stands. What is not visible yet is not in it: marks, score, feedback, key and explanations are parts of
/// their own, which can only be made from a moment that has reached theirs.
/// </summary>
public sealed record WorkView
{
    /// <summary>Whether the student may still change something.</summary>
    public required bool Open { get; init; }
    public required ScoreView? Score { get; init; }

    /// <summary>The text of the band that the score lies in; null when there is none to be seen.</summary>
    public required string? BandText { get; init; }

    /// <summary>What the teacher says to the whole work.</summary>
    public ImmutableArray<string> Remarks { get; init; } = [];

    /// <summary>In the order of <see cref="StudentView.Panes"/>; null for one that was not asked for.</summary>
    public required ImmutableArray<PaneWorkView?> Panes { get; init; }

    /// <summary>Work that is open, of which nothing is told that the browser does not show already.</summary>
    public static WorkView AsKnown(Seat seat) =>
        new()
        {
            Open = true,
            Score = null,
            BandText = null,
            Panes = [.. Enumerable.Repeat<PaneWorkView?>(null, seat.Activity.Panes.Length)],
        };

    /// <param name="moment">
    /// What the attempt as a whole has reached; before handing in, what each pane's checks have reached is known from the
    /// responses.
    /// </param>
    /// <param name="only">Ids of the panes that are told; null for all.</param>
    /// <inheritdoc cref="StudentView.At"/>
    public static WorkView At(
        Reach moment,
        Seat seat,
        IReadOnlyDictionary<string, Response> responses,
        IReadOnlySet<string>? only = null,
        Marking? marking = null
    )
    {
        var rules = seat.Activity.Rules;
        // People mark what is handed in.
        var marked = moment.Stage >= Moment.HandedIn && marking is not null ? marking : Marking.None;
        var panes = seat
            .Panes.Select(pane =>
                Sight.Of(
                    moment,
                    seat.Activity.RulesOf(pane.Pane),
                    pane.Pane,
                    responses.GetValueOrDefault(pane.Pane.Id, Response.Empty)
                ) with
                {
                    Marked = marked,
                }
            )
            .ToList();
        // The activity as a whole has reached what all of its panes have.
        var reached = new Reached(
            moment with
            {
                Stage = panes.Select(pane => pane.Reached.Moment.Stage).DefaultIfEmpty(moment.Stage).Min(),
            },
            rules.Reveal
        );
        var score = new Lazy<ActivityScore>(() =>
            Scorer.Score(seat.Activity, panes.ToDictionary(pane => pane.Pane.Id, pane => pane.Seen), marked.Awards)
        );
        return new()
        {
            Open = moment.Stage < Moment.HandedIn,
            Score = seat.Activity.Purpose == Purpose.LearningOnly ? null : ScoreView.At(reached, score),
            BandText = FeedbackView.BandAt(reached, seat.Activity, score),
            Remarks = reached.Feedback ? [.. marked.Remarks.Where(remark => remark.Pane is null).Select(remark => remark.Text)] : [],
            Panes =
            [
                .. seat.Panes.Zip(panes, (pane, sight) =>
                    only?.Contains(pane.Pane.Id) == false ? null : PaneWorkView.At(sight, pane.Aliases, seat.Activity.RulesOf(pane.Pane))
                ),
            ],
        };
    }
}

/// <summary>What has happened of all that rules of revealing wait for.</summary>
/// <param name="Stage">How far the student's own work is: at most <see cref="Moment.HandedIn"/>.</param>
/// <param name="IsClosed">Whether the last sitting is over, extra time included.</param>
/// <param name="IsReleased">Whether the teacher has released what waits for that word. It opens nothing else.</param>
/// <param name="MayBeginAgain">Whether the student may begin another attempt, so that what tells the answer has to wait.</param>
public readonly record struct Reach(Moment Stage, bool IsClosed = false, bool IsReleased = false, bool MayBeginAgain = false)
{
    /// <summary>A moment with all that come before it.</summary>
    public static implicit operator Reach(Moment moment) =>
        new((Moment)Math.Min((int)moment, (int)Moment.HandedIn), moment >= Moment.Closed, moment >= Moment.Released);

    public bool Has(Moment moment) =>
        moment switch
        {
            Moment.Never => false,
            Moment.Released => IsReleased,
            Moment.Closed => IsClosed,
            _ => Stage >= moment,
        };
}

/// <summary>What an attempt has reached, held against the rules of revealing.</summary>
internal readonly record struct Reached(Reach Moment, RevealRules Rules)
{
    /// <summary>
    /// Once it is handed in, what tells the answer waits for the last attempt; while it is worked on, the rules are practice's.
    /// </summary>
    private bool IsLast => !Moment.MayBeginAgain || Moment.Stage < Model.Moment.HandedIn;
    public bool Marks => IsLast && Moment.Has(Rules.Marks);
    public bool Score => Moment.Has(Rules.Score);
    public bool Feedback => IsLast && Moment.Has(Rules.Feedback);
    public bool Key => IsLast && Moment.Has(Rules.Key);
    public bool Explanation => IsLast && Moment.Has(Rules.Explanation);
}

/// <summary>How far a student sees into one pane.</summary>
/// <param name="Now">The response as it stands.</param>
/// <param name="Seen">The state of it that marks, score and feedback are of.</param>
internal sealed record Sight(Reached Reached, Rules Rules, Pane Pane, Response Now, Response Seen)
{
    /// <summary>What people have decided and said of the attempt.</summary>
    public Marking Marked { get; init; } = Marking.None;

    /// <summary>Of what is seen; worked out once, and only when something may be seen of it.</summary>
    public PaneMarks Marks => field ??= Award.Marks(Pane, Seen, Rules.Score, Marked.AwardsAt(Pane.Id));

    public static Sight Of(Reach moment, Rules rules, Pane pane, Response response) =>
        moment.Stage >= Moment.HandedIn
            ? new(new(moment, rules.Reveal), rules, pane, response, response)
            : new(
                new(moment with { Stage = (Moment)Math.Max((int)moment.Stage, (int)Progress.MomentOf(rules, response)) }, rules.Reveal),
                rules,
                pane,
                response,
                Progress.Seen(rules, response)
            );
}

public sealed record PaneView
{
    public required string Id { get; init; }
    public required PictureView? Picture { get; init; }
    public required ImmutableArray<ZoneView> Zones { get; init; }
    public required ImmutableArray<LabelView> Labels { get; init; }
    public required LabelSize LabelSize { get; init; }

    /// <summary>Whether labels may be put on any spot of the picture, not only into zones.</summary>
    public required bool TakesPins { get; init; }
    public required ImmutableArray<TargetView> Targets { get; init; }

    internal static PaneView Of(Pane pane, Aliases aliases, string alias) =>
        new()
        {
            Id = alias,
            Picture = pane.Picture is { } picture ? PictureView.Of(picture) : null,
            Zones =
            [
                .. aliases.Zones.Select(z => new ZoneView(
                    z.Alias,
                    z.Zone.Region,
                    z.Zone.Capacity,
                    z.Zone.Prompt,
                    z.Zone.Leader,
                    z.Zone.Compulsory
                )),
            ],
            Labels =
            [
                .. aliases.Labels.Select(
                    (l, i) =>
                        new LabelView(
                            l.Alias,
                            l.Label.KeepsBack ? "" : l.Label.Text,
                            l.Label.KeepsBack ? i + 1 : null,
                            l.Label.Copies,
                            l.Label.Face,
                            l.Label.Tip,
                            l.Label.Colour,
                            l.Label.Start
                        )
                ),
            ],
            LabelSize = pane.LabelSize,
            TakesPins = pane.Targets.Any(target => target.Takes == Doing.Pinning),
            Targets =
            [
                .. aliases.Others.Select(t =>
                    Hiding.IsHidden(pane, Response.Empty, t.Target)
                        ? new TargetView.Concealed { Id = t.Alias }
                        : TargetView.Of(t.Alias, t.Target, aliases)
                ),
            ],
        };
}

/// <summary>A picture without what it was made from.</summary>
/// <param name="Width">Of the file, in pixels, with its margins.</param>
/// <param name="Height">Of the file, in pixels, with its margins.</param>
/// <param name="Margins">In pu.</param>
/// <param name="Credit">Empty when nobody has to be named.</param>
public sealed record PictureView(string Media, int Width, int Height, string AltText, Margins Margins, string Credit)
{
    public static PictureView Of(Picture picture) =>
        new(picture.Media, picture.Width, picture.Height, picture.AltText, picture.Margins, picture.Credit);
}

public sealed record PaneWorkView
{
    /// <summary>Whether the student may still change something here.</summary>
    public required bool Open { get; init; }

    /// <summary>How often Check may still be pressed here; null for freely.</summary>
    public required int? ChecksLeft { get; init; }
    public required ImmutableArray<Placement> Placed { get; init; }
    public required ImmutableArray<Pin> Pins { get; init; }

    /// <summary>Labels that a check found right and that stay where they are.</summary>
    public required ImmutableArray<HeldView> Held { get; init; }
    public required ImmutableArray<DoneView> Done { get; init; }

    /// <summary>Targets that were concealed at first and are known now.</summary>
    public required ImmutableArray<TargetView> Found { get; init; }
    public required MarksView? Marks { get; init; }
    public required FeedbackView? Feedback { get; init; }
    public required KeyView? Key { get; init; }
    public required ExplanationView? Explanation { get; init; }

    internal static PaneWorkView At(Sight sight, Aliases aliases, Rules rules)
    {
        var (pane, now, isOpen) = (sight.Pane, sight.Now, sight.Reached.Moment.Stage < Moment.HandedIn);
        var held = isOpen ? Progress.Held(rules, pane, now) : ([], []);
        return new()
        {
            Open = isOpen && !Progress.IsSettled(rules, now),
            ChecksLeft = isOpen ? Progress.ChecksLeft(rules, now) : 0,
            Placed = [.. now.Placements.Select(p => new Placement(aliases.OfLabel(p.Label), p.Copy, aliases.OfZone(p.Zone)))],
            Pins = [.. now.Pins.Select(p => p with { Label = aliases.OfLabel(p.Label) })],
            Held =
            [
                .. held.Placements.Select(p => new HeldView(aliases.OfLabel(p.Label), p.Copy)),
                .. held.Pins.Select(p => new HeldView(aliases.OfLabel(p.Label), p.Copy)),
            ],
            Done = [.. aliases.Others.Select(t => DoneView.Of(t.Alias, t.Target, now, aliases)).OfType<DoneView>()],
            Found =
            [
                .. aliases
                    .Others.Where(t =>
                        Hiding.IsHidden(pane, Response.Empty, t.Target) && (sight.Reached.Key || !Hiding.IsHidden(pane, now, t.Target))
                    )
                    .Select(t => TargetView.Of(t.Alias, t.Target, aliases)),
            ],
            Marks = MarksView.At(sight, aliases),
            Feedback = FeedbackView.At(sight, aliases),
            Key = KeyView.At(sight.Reached, pane, aliases),
            Explanation = ExplanationView.At(sight.Reached, pane, aliases),
        };
    }
}

/// <param name="Capacity">How many labels it takes.</param>
/// <param name="Prompt">What is asked for there; empty when the picture says it.</param>
/// <param name="Leader">The spot that a line joins it to; null for no line.</param>
public sealed record ZoneView(string Id, Region Region, int Capacity, string Prompt, Point? Leader, bool Compulsory);

/// <param name="Number"><inheritdoc cref="OptionView" path="/param[@name='Number']"/></param>
/// <param name="Copies">How often it may be placed; null for without limit.</param>
/// <param name="Face">Null for words.</param>
/// <param name="Tip">Null for a ring on a line.</param>
/// <param name="Start">Where on the picture it lies at first, in pu; null for in the bank.</param>
public sealed record LabelView(string Id, string Text, int? Number, int? Copies, Face? Face, PinTip? Tip, LabelColour Colour, Point? Start);

public sealed record HeldView(string Label, int Copy);

public sealed record ScoreView
{
    private ScoreView() { }

    public required decimal Score { get; init; }
    public required decimal Possible { get; init; }
    public required decimal Grade { get; init; }
    public required decimal MaximumGrade { get; init; }
    public required bool? Passed { get; init; }

    /// <summary>Whether something waits for the teacher, so that nothing of it is final.</summary>
    public required bool IsSoFar { get; init; }

    /// <summary>The same place saying what counts for the student, where that may be seen at all.</summary>
    /// <param name="passed">Null where nothing is said of passing, such as of an attempt that does not count.</param>
    public ScoreView Saying(StudentScore score, bool? passed) =>
        this with
        {
            Score = score.Score,
            Possible = score.Possible,
            Grade = score.Grade,
            MaximumGrade = score.MaximumGrade,
            Passed = passed,
            IsSoFar = score.IsSoFar,
        };

    /// <summary>The same without a word on passing.</summary>
    public ScoreView OfOneThatDoesNotCount() => this with { Passed = null };

    internal static ScoreView? At(Reached reached, Lazy<ActivityScore> score) =>
        !reached.Score
            ? null
            : new()
            {
                Score = score.Value.Score,
                Possible = score.Value.Possible,
                Grade = score.Value.Grade,
                MaximumGrade = score.Value.MaximumGrade,
                Passed = score.Value.Passed,
                IsSoFar = score.Value.IsSoFar,
            };
}
