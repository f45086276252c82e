using System.Collections.Immutable;
using Fenster.Core.Geometry;

namespace Fenster.Core.Model;

/// <summary>Something on a pane that a student's action can earn.</summary>
public abstract record Target
{
    private protected Target() { }

    /// <summary>Unique within the pane.</summary>
    public required string Id { get; init; }

    /// <summary>What the target is worth, greater than 0.</summary>
    public decimal Points { get; init; } = 1;

    /// <summary>
    /// What a student is asked to do there; empty when the picture or the instructions say it. Of a hidden zone students never see it.
    /// </summary>
    public string Prompt { get; init; } = "";

    public Feedback Feedback { get; init; } = Feedback.None;

    /// <summary>Why the answer is right, when explanations may be seen; empty for nothing.</summary>
    public string Explanation { get; init; } = "";

    /// <summary>Whether the teacher says that it must not be left open.</summary>
    public bool Compulsory { get; init; }

    /// <summary>Who gets it after it was taken out; null while it counts as anything else.</summary>
    public TakenOut? TakenOut { get; init; }

    /// <summary>Whether it counts for the score.</summary>
    public virtual bool IsScored => true;

    /// <summary>What a person marks it by, in an order; empty for what nobody marks by criteria.</summary>
    public virtual ImmutableArray<Criterion> MarkedBy() => [];

    /// <summary>Whether only a person can mark it.</summary>
    public virtual bool IsOpenWork => false;

    /// <summary>Whether there has to be a picture on its pane.</summary>
    public virtual bool NeedsPicture => true;

    /// <summary>What a student does there.</summary>
    public abstract Doing Takes { get; }

    /// <summary>Where a student has to look to find it, and from how far off in pu that finds it; null where it shows by itself.</summary>
    internal virtual (Point At, double Reach)? FoundAt => null;

    /// <summary>What is degenerate about the target itself, each as the end of a sentence; empty when it is sound.</summary>
    internal abstract IEnumerable<string> Faults { get; }

    /// <summary>The labels of the pane that the target names.</summary>
    internal virtual IEnumerable<string> NamedLabels => [];

    /// <summary>What a function does for this kind of target.</summary>
    public abstract T Match<T>(ITargetCases<T> cases);
}

/// <summary>How a question that was taken out counts.</summary>
public enum TakenOut
{
    /// <summary>Its points are neither to be had nor missed.</summary>
    Nobody,

    /// <summary>Everybody has its points.</summary>
    Everybody,
}

/// <summary>What students do at a target.</summary>
public enum Doing
{
    Placing,
    Pinning,
    Marking,
    Typing,
    Picking,
    Linking,
    TryingCodes,
    Opening,

    /// <summary>Bringing a picture and putting spots on it.</summary>
    Making,
}

/// <summary>
/// A function of targets: one case for each kind. A new kind adds a case here, and the compiler names every function that has to deal
/// with it.
/// </summary>
public interface ITargetCases<out T>
{
    T Of(DropZone zone);
    T Of(HiddenZone zone);
    T Of(Hotspots hotspots);
    T Of(AnswerBox box);
    T Of(QuestionPoint point);
    T Of(Lock @lock);
    T Of(OpenNote note);
    T Of(ScalePoint point);
    T Of(Matching matching);
    T Of(SortRegion region);
    T Of(InfoSpot spot);
    T Of(OwnPicture own);
}

/// <summary>A region that takes labels.</summary>
public abstract record Zone : Target
{
    private protected Zone() { }

    public required Region Region { get; init; }

    /// <summary>The labels that belong here, each with the credit it earns.</summary>
    public ImmutableArray<Accepted> Accepts { get; init; } = [];

    /// <summary>How many labels it takes, at least 1.</summary>
    public int Capacity { get; init; } = 1;

    /// <summary>Zones of one group are interchangeable; null for a zone that stands alone.</summary>
    public string? Group { get; init; }

    internal override IEnumerable<string> NamedLabels => Accepts.Select(accepted => accepted.Label);

    internal override IEnumerable<string> Faults
    {
        get
        {
            if (Region.Fault is { } fault)
                yield return fault;
            if (Capacity < 1)
                yield return "takes no label";
            if (Capacity > Limits.MostCapacity)
                yield return $"takes more than {Limits.MostCapacity} labels";
            if (Accepts.Select(accepted => Limits.Fault(accepted.Credit)).FirstOrDefault(fault => fault is not null) is { } credit)
                yield return $"gives a credit that {credit}";
            if (Accepts.DistinctBy(accepted => accepted.Label).Count() < Accepts.Length)
                yield return "accepts a label twice";
            if (Accepts.Any(accepted => accepted.Credit is <= 0 or > 1))
                yield return "gives a credit that is not above 0 and at most 1";
        }
    }
}

/// <summary>A region with corners that students see: a placement names it.</summary>
[KindName("dropZone")]
public sealed record DropZone : Zone
{
    /// <summary>The spot in the picture that a line joins it to, in pu; null for no line.</summary>
    public Point? Leader { get; init; }

    internal override IEnumerable<string> Faults =>
        Leader is { IsFinite: false } ? base.Faults.Append("has a line to a place that is not finite") : base.Faults;

    public override Doing Takes => Doing.Placing;

    public override T Match<T>(ITargetCases<T> cases) => cases.Of(this);
}

/// <summary>A region that students don't see: a pin finds it by its tip.</summary>
[KindName("hiddenZone")]
public sealed record HiddenZone : Zone
{
    public Tolerance Tolerance { get; init; } = Tolerance.None;

    public override Doing Takes => Doing.Pinning;

    public override T Match<T>(ITargetCases<T> cases) => cases.Of(this);

    internal override IEnumerable<string> Faults => base.Faults.Concat(Tolerance.Faults);
}

/// <summary>Regions that students find by marking them: one, all, or any number of them.</summary>
[KindName("hotspots")]
public sealed record Hotspots : Target
{
    public required ImmutableArray<Spot> Spots { get; init; }

    /// <summary>How many of the spots earn the target, from 1 to all of them.</summary>
    public required int Needed { get; init; }

    public override Doing Takes => Doing.Marking;

    public override T Match<T>(ITargetCases<T> cases) => cases.Of(this);

    internal override IEnumerable<string> Faults
    {
        get
        {
            if (Needed < 1 || Needed > Spots.Length)
                yield return $"asks for {Needed} of {Spots.Length} spots";
            foreach (var fault in Spots.SelectMany(spot => spot.Tolerance.Faults.Append(spot.Region.Fault).OfType<string>()))
                yield return fault;
        }
    }
}

/// <summary>One of the regions of <see cref="Hotspots"/>.</summary>
public sealed record Spot(Region Region)
{
    public Tolerance Tolerance { get; init; } = Tolerance.None;
}

/// <summary>A region that a student types words into.</summary>
[KindName("answerBox")]
public sealed record AnswerBox : Target
{
    public required Region Region { get; init; }
    public required TypedAnswer Answer { get; init; }

    public override Doing Takes => Doing.Typing;

    public override T Match<T>(ITargetCases<T> cases) => cases.Of(this);

    internal override IEnumerable<string> Faults => Answer.Faults.Append(Region.Fault).OfType<string>();
}

/// <summary>A spot that opens a question.</summary>
[KindName("questionPoint")]
public sealed record QuestionPoint : Target
{
    public required Point At { get; init; }
    public required Question Question { get; init; }

    public override Doing Takes => Question is ChoiceQuestion ? Doing.Picking : Doing.Typing;

    public override T Match<T>(ITargetCases<T> cases) => cases.Of(this);

    internal override IEnumerable<string> Faults =>
        At.IsFinite ? Question.Faults : Question.Faults.Append("has a number that is not finite");
}

/// <summary>A spot that opens only with the right code. Opening it may be scored; trying never is.</summary>
[KindName("lock")]
public sealed record Lock : Target
{
    public required Point At { get; init; }
    public required TypedText Code { get; init; }

    /// <summary>Whether opening it earns its points.</summary>
    public bool Scored { get; init; } = true;

    public override bool IsScored => Scored;

    /// <summary>What is read behind it once it is open; empty for nothing.</summary>
    public string Inside { get; init; } = "";

    /// <summary>Ids of the targets that nobody knows of before it is open; zones, which are always there, are not among them.</summary>
    public ImmutableArray<string> Opens { get; init; } = [];

    public override Doing Takes => Doing.TryingCodes;

    public override T Match<T>(ITargetCases<T> cases) => cases.Of(this);

    internal override IEnumerable<string> Faults
    {
        get
        {
            if (!At.IsFinite)
                yield return "has a number that is not finite";
            foreach (var fault in Code.Faults)
                yield return fault;
            if (Opens.Contains(Id))
                yield return "opens itself";
            if (Opens.Distinct().Count() < Opens.Length)
                yield return "opens a target twice";
        }
    }
}

/// <summary>A place for a student's own words or pins, which a person marks.</summary>
[KindName("openNote")]
public sealed record OpenNote : Target
{
    public required Region Region { get; init; }

    /// <summary>How many spots of the picture may be marked along with it, from 0 to <see cref="Limits.MostMarks"/>.</summary>
    public int Pins { get; init; }

    /// <summary>What it is marked by, in an order; empty where it is marked as a whole.</summary>
    public ImmutableArray<Criterion> Criteria { get; init; } = [];

    public override bool IsOpenWork => true;

    public override ImmutableArray<Criterion> MarkedBy() => Criteria;

    public override Doing Takes => Doing.Typing;

    public override T Match<T>(ITargetCases<T> cases) => cases.Of(this);

    internal override IEnumerable<string> Faults
    {
        get
        {
            if (Region.Fault is { } fault)
                yield return fault;
            if (Pins is < 0 or > Limits.MostMarks)
                yield return $"asks for {Pins} pins; it may be 0 to {Limits.MostMarks}";
            foreach (var inCriteria in Criterion.FaultsOf(Criteria))
                yield return inCriteria;
        }
    }
}

/// <summary>One of the things that a person looks for in open work.</summary>
/// <param name="Text">As students and markers read it.</param>
/// <param name="Points">The share of the target's points that it earns is its share of all criteria's; greater than 0.</param>
public sealed record Criterion(string Text, decimal Points)
{
    internal static IEnumerable<string> FaultsOf(ImmutableArray<Criterion> criteria)
    {
        if (criteria.Length > Limits.MostCriteria)
            yield return $"has more than {Limits.MostCriteria} criteria";
        if (criteria.Any(criterion => string.IsNullOrWhiteSpace(criterion.Text) || criterion.Text.Length > Soundness.LongestPrompt))
            yield return $"has a criterion without words, or with more than {Soundness.LongestPrompt} characters";
        if (criteria.Any(criterion => criterion.Points <= 0 || Limits.Fault(criterion.Points) is not null))
            yield return "has a criterion that is worth nothing, or not a number that can be counted";
    }
}

/// <summary>A value that a student shows by a point on a scale.</summary>
[KindName("scalePoint")]
public sealed record ScalePoint : Target
{
    public required Scale Scale { get; init; }

    /// <summary>In the scale's own units.</summary>
    public required double X { get; init; }

    /// <summary>On a scale of one axis it is not looked at.</summary>
    public double Y { get; init; }

    /// <summary>How far off each value may be, in the scale's own units; its bands too.</summary>
    public Tolerance Within { get; init; } = Tolerance.None;

    /// <summary>Id of the label whose pin shows the value; null when a marked point does.</summary>
    public string? Label { get; init; }

    /// <summary>Whether students read the value at the pointer, and may type it.</summary>
    public bool ShowsValue { get; init; }

    public override Doing Takes => Label is null ? Doing.Marking : Doing.Pinning;

    public override T Match<T>(ITargetCases<T> cases) => cases.Of(this);

    internal override IEnumerable<string> NamedLabels => Label is null ? [] : [Label];

    internal override IEnumerable<string> Faults
    {
        get
        {
            if (Scale.Fault is { } fault)
                yield return fault;
            if (!double.IsFinite(X) || !double.IsFinite(Y))
                yield return "has a number that is not finite";
            foreach (var inTolerance in Within.Faults)
                yield return inTolerance;
        }
    }
}

/// <summary>Things on the left to be linked with things on the right. A thing that is in no pair is a distractor.</summary>
[KindName("matching")]
public sealed record Matching : Target
{
    public required ImmutableArray<MatchItem> Left { get; init; }
    public required ImmutableArray<MatchItem> Right { get; init; }
    public required ImmutableArray<Link> Pairs { get; init; }

    /// <summary>Who reads what a picture or a sound is described as; null for the usual.</summary>
    public DescriptionFor? Descriptions { get; init; }

    /// <summary>A sound's description tends to be its answer, a picture's is what somebody who can't see it needs.</summary>
    public DescriptionFor UsualDescriptions =>
        Left.Concat(Right).Any(item => item.Face is PlayedFace) ? DescriptionFor.Teachers : DescriptionFor.Students;

    public bool HasFaces => Left.Concat(Right).Any(item => item.Face is not null);

    /// <summary>Whether students know the thing by a number until the key shows.</summary>
    internal bool KeepsBack(MatchItem item) => item.Face is not null && (Descriptions ?? UsualDescriptions) == DescriptionFor.Teachers;

    public override bool NeedsPicture => false;

    public override Doing Takes => Doing.Linking;

    /// <summary>Links by the texts of what they join.</summary>
    internal string InWords(ImmutableArray<Link> links) =>
        string.Join(
            "; ",
            links.Select(link => $"{Left.First(item => item.Id == link.Left).Text} – {Right.First(item => item.Id == link.Right).Text}")
        );

    public override T Match<T>(ITargetCases<T> cases) => cases.Of(this);

    internal override IEnumerable<string> Faults
    {
        get
        {
            if (Pairs.IsEmpty)
                yield return "has no pair";
            if (Left.Length > Limits.MostMatched || Right.Length > Limits.MostMatched)
                yield return $"has more than {Limits.MostMatched} things on one side";
            if (Left.Concat(Right).DistinctBy(item => item.Id).Count() < Left.Length + Right.Length)
                yield return "has two things of the same id";
            foreach (var fault in Left.Concat(Right).Select(item => item.Face?.Fault).OfType<string>())
                yield return fault;
            if (Pairs.Distinct().Count() < Pairs.Length)
                yield return "has a pair twice";
            if (Pairs.Any(pair => Left.All(item => item.Id != pair.Left) || Right.All(item => item.Id != pair.Right)))
                yield return "has a pair of things that are not there";
        }
    }
}

/// <summary>Who reads what a picture or a sound is described as, before the key shows.</summary>
public enum DescriptionFor
{
    Teachers,
    Students,
}

/// <param name="Text">What it reads; of a picture or a sound, its description.</param>
/// <param name="Face">Null for words.</param>
public sealed record MatchItem(string Id, string Text, Face? Face = null);

/// <param name="Left">Id of a thing on the left.</param>
/// <param name="Right">Id of a thing on the right.</param>
public sealed record Link(string Left, string Right);

/// <summary>A region, seen by students, that labels are sorted or collected into; it may overlap others.</summary>
[KindName("sortRegion")]
public sealed record SortRegion : Target
{
    public required Region Region { get; init; }
    public required Want Want { get; init; }

    /// <summary>Whether students see how many labels, or what total, lies in it so far.</summary>
    public bool ShowsTally { get; init; }

    public override Doing Takes => Doing.Pinning;

    public override T Match<T>(ITargetCases<T> cases) => cases.Of(this);

    internal override IEnumerable<string> NamedLabels =>
        Want switch
        {
            WantSet set => set.Labels,
            WantCount count => count.Labels,
            _ => [],
        };

    internal override IEnumerable<string> Faults
    {
        get
        {
            if (Region.Fault is { } fault)
                yield return fault;
            if (Want is WantSet { Labels: var labels } && labels.Distinct().Count() < labels.Length)
                yield return "wants a label twice";
            if (Want is WantCount { Number: < 1 })
                yield return "asks for no label; a count asks for at least one";
            if (Want is WantCount { Number: > Limits.MostCapacity })
                yield return $"asks for more than {Limits.MostCapacity} labels";
            if (Want is WantCount { Labels: var counted } && counted.Distinct().Count() < counted.Length)
                yield return "counts a label twice";
            if (Want is WantTotal bounds && (Limits.Fault(bounds.From) ?? Limits.Fault(bounds.To)) is { } total)
                yield return $"wants a total that {total}";
            if (Want is WantTotal { From: var from, To: var to } && from > to)
                yield return "wants a total from more to less";
        }
    }
}

/// <summary>What a region to sort into asks for.</summary>
public abstract record Want
{
    private protected Want() { }

    /// <summary>The number or total that is wanted; null for a set.</summary>
    internal virtual Said? Amount => null;
}

/// <summary>Every one of these labels, and no other. A label may be wanted by several overlapping regions.</summary>
[KindName("set")]
public sealed record WantSet(ImmutableArray<string> Labels) : Want;

/// <summary>So many of these labels.</summary>
[KindName("count")]
public sealed record WantCount(ImmutableArray<string> Labels, CountIs Is, int Number) : Want
{
    internal override Said Amount =>
        new(
            Is switch
            {
                CountIs.AtLeast => "result.atLeast",
                CountIs.AtMost => "result.atMost",
                _ => "result.exactly",
            },
            ("number", Number)
        );
}

public enum CountIs
{
    Exactly,
    AtLeast,
    AtMost,
}

/// <summary>Labels whose values add up to a total between two bounds, both included.</summary>
[KindName("total")]
public sealed record WantTotal(decimal From, decimal To) : Want
{
    internal override Said Amount => From == To ? new("result.total", ("total", From)) : new("result.totals", ("from", From), ("to", To));
}

/// <summary>A spot that tells or shows something. It is never scored.</summary>
[KindName("infoSpot")]
public sealed record InfoSpot : Target
{
    public required Point At { get; init; }
    public required string Text { get; init; }

    /// <summary>A picture, sound or video on its card; null for none.</summary>
    public Face? Face { get; init; }

    /// <summary>Where the card leads on to, an http or https address; empty for nowhere.</summary>
    public string Link { get; init; } = "";

    public Showing Shows { get; init; } = Showing.OnClick;

    /// <summary>Whether it is hidden until a student looks at its place.</summary>
    public bool Concealed { get; init; }

    /// <summary>How far from its place a look still finds it, in pu, greater than 0.</summary>
    public double Reach { get; init; } = 40;

    public override bool IsScored => false;

    public override Doing Takes => Doing.Opening;

    internal override (Point At, double Reach)? FoundAt => Concealed ? (At, Reach) : null;

    public override T Match<T>(ITargetCases<T> cases) => cases.Of(this);

    internal override IEnumerable<string> Faults
    {
        get
        {
            if (!At.IsFinite)
                yield return "has a number that is not finite";
            if (!(Reach > 0 && Reach <= 1_000_000))
                yield return "has a reach that is not a distance";
            if (Face?.Fault is { } fault)
                yield return fault;
            if (
                Link != ""
                && !(
                    Uri.TryCreate(Link, UriKind.Absolute, out var link)
                    && (link.Scheme == Uri.UriSchemeHttps || link.Scheme == Uri.UriSchemeHttp)
                )
            )
                yield return "leads to something that is no web address; it begins with https://";
        }
    }
}

/// <summary>
/// When an info spot's card is seen: after a click, while a pointer rests on the spot too, or over the whole picture after a click.
/// </summary>
public enum Showing
{
    OnClick,
    OnHover,
    Covering,
}

/// <param name="Label">Id of a label of the same pane.</param>
/// <param name="Credit">More than 0, at most 1.</param>
public sealed record Accepted(string Label, decimal Credit = 1);

/// <summary>How far outside a region still counts, and for how much.</summary>
/// <param name="Slack">Up to this distance in pu everything counts, 0 or more.</param>
public sealed record Tolerance(double Slack)
{
    public static readonly Tolerance None = new(0);

    /// <summary>Further distances that earn part of the credit, in any order.</summary>
    public ImmutableArray<Band> Bands { get; init; } = [];

    /// <summary>The distance beyond which nothing counts, in pu.</summary>
    internal double Reach
    {
        get
        {
            var reach = Slack;
            foreach (var band in Bands)
                reach = Math.Max(reach, band.Slack);
            return reach;
        }
    }

    /// <summary>
    /// From 0 to 1: the best band that holds something at this distance, from which an allowance for rounding is taken already.
    /// </summary>
    public decimal CreditAt(double distance)
    {
        if (distance <= Slack)
            return 1;
        var best = 0m;
        foreach (var band in Bands)
            if (distance <= band.Slack && band.Credit > best)
                best = band.Credit;
        return best;
    }

    /// <summary>The credit of a point for a region. Points beyond every band are told from the region's bounds alone.</summary>
    public decimal CreditFor(Region region, Point point) =>
        Rounding.At(point) is var allowance && region.Bounds.DistanceTo(point) > Reach + allowance
            ? 0
            : CreditAt(region.DistanceTo(point) - allowance);

    internal IEnumerable<string> Faults
    {
        get
        {
            if (!(Slack >= 0 && Slack <= 1_000_000))
                yield return "has a slack that is not a distance";
            if (Bands.Any(band => !(band.Slack > Slack && band.Slack <= 1_000_000)))
                yield return "has a credit band that is not wider than its slack";
            if (Bands.Any(band => band.Credit is <= 0 or >= 1))
                yield return "has a credit band that is not worth more than nothing and less than everything";
        }
    }
}

/// <param name="Slack">Distance in pu.</param>
/// <param name="Credit">Above 0 and below 1.</param>
public sealed record Band(double Slack, decimal Credit);
