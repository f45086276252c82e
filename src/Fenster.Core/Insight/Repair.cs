using System.Collections.Immutable;
using Fenster.Core.Geometry;
using Fenster.Core.Model;

namespace Fenster.Core.Insight;

/// <summary>What is put right in the key and the rules of an activity that was given already. What is null stays as it is.</summary>
/// <param name="WrongCost">Points that a wrong action costs.</param>
/// <param name="TryCost">Share that a further try costs, from 0 to 1.</param>
/// <param name="PassMark">Of the grade.</param>
public sealed record Repair(
    ImmutableArray<TargetRepair> Targets,
    decimal? WrongCost = null,
    decimal? TryCost = null,
    decimal? PassMark = null
)
{
    /// <summary>Whether all that is to be put right is there in an activity, and is of a kind at which that can be.</summary>
    public bool Fits(Activity activity) =>
        !Targets.IsDefault
        && Targets.All(repair =>
            repair is not null
            && activity.Panes.ElementAtOrDefault(repair.Pane)?.Targets.ElementAtOrDefault(repair.Target) is { } target
            && repair.Fits(target)
        );

    /// <summary>The activity with the repair; whether it is sound then, <see cref="Soundness"/> says. A target that is not there is left out.</summary>
    public Activity In(Activity activity) =>
        activity with
        {
            Rules = activity.Rules with
            {
                Score = activity.Rules.Score with
                {
                    WrongCost = WrongCost ?? activity.Rules.Score.WrongCost,
                    TryCost = TryCost ?? activity.Rules.Score.TryCost,
                    PassMark = PassMark ?? activity.Rules.Score.PassMark,
                },
            },
            Panes =
            [
                .. activity.Panes.Select(
                    (pane, p) =>
                        Targets.Any(target => target.Pane == p)
                            ? pane with
                            {
                                Targets =
                                [
                                    .. pane.Targets.Select(
                                        (target, t) =>
                                            Targets.FirstOrDefault(repair => repair.Pane == p && repair.Target == t)?.In(pane, target)
                                            ?? target
                                    ),
                                ],
                            }
                            : pane
                ),
            ],
        };
}

/// <summary>What is put right at one target.</summary>
/// <param name="Pane">Its number, from 0.</param>
/// <param name="Target">Its number on the pane, from 0.</param>
/// <param name="Slack">In pu, or in the units of a scale.</param>
/// <param name="Spot">Of hotspots, whose region it is, from 0.</param>
/// <param name="Accepts">Ids of labels that belong there too.</param>
/// <param name="Spellings">Words that are right too.</param>
/// <param name="Right">Ids of the options that are right, in the place of those that were.</param>
/// <param name="Points">More than 0.</param>
/// <param name="TakenOut">For whom it is taken out.</param>
public sealed record TargetRepair(
    int Pane,
    int Target,
    double? Slack = null,
    Region? Region = null,
    int Spot = 0,
    ImmutableArray<string> Accepts = default,
    ImmutableArray<string> Spellings = default,
    ImmutableArray<string> Right = default,
    decimal? Points = null,
    TakenOut? TakenOut = null
)
{
    /// <summary>Whether all that it names can be put right at a target of this kind.</summary>
    internal bool Fits(Target target) =>
        (Slack is null || target is HiddenZone or Hotspots or ScalePoint)
        && (Region is null || target is HiddenZone or SortRegion || (target is Hotspots spots && Spot >= 0 && Spot < spots.Spots.Length))
        && (Accepts.IsDefaultOrEmpty || target is Zone)
        && (
            Spellings.IsDefaultOrEmpty
            || target is AnswerBox { Answer: TypedText } or QuestionPoint { Question: TypedQuestion { Answer: TypedText } }
        )
        && (Right.IsDefault || target is QuestionPoint { Question: ChoiceQuestion });

    internal Target In(Pane pane, Target target) =>
        Kind(pane, target) with
        {
            Points = Points ?? target.Points,
            TakenOut = TakenOut ?? target.TakenOut,
        };

    private Target Kind(Pane pane, Target target) =>
        target switch
        {
            HiddenZone zone => zone with
            {
                Region = Region ?? zone.Region,
                Tolerance = Wider(zone.Tolerance),
                Accepts = Accepting(pane, zone),
            },
            DropZone zone => zone with
            {
                // Nobody reads where a zone was that students saw: only what belongs there changes.
                Accepts = Accepting(pane, zone),
            },
            Hotspots hotspots => hotspots with
            {
                Spots =
                [
                    .. hotspots.Spots.Select(
                        (spot, i) =>
                            spot with
                            {
                                Region = i == Spot ? Region ?? spot.Region : spot.Region,
                                Tolerance = Wider(spot.Tolerance),
                            }
                    ),
                ],
            },
            ScalePoint point => point with { Within = Wider(point.Within) },
            SortRegion sort => sort with { Region = Region ?? sort.Region },
            AnswerBox box => box with { Answer = With(box.Answer) },
            QuestionPoint { Question: TypedQuestion typed } point => point with { Question = typed with { Answer = With(typed.Answer) } },
            QuestionPoint { Question: ChoiceQuestion choice } point => Right.IsDefault
                ? point
                : point with
                {
                    Question = choice with
                    {
                        Options = [.. choice.Options.Select(option => option with { IsRight = Right.Contains(option.Id) })],
                    },
                },
            // Of these, points and who gets them are all that can be put right.
            Matching or Model.Lock or InfoSpot or OpenNote or OwnPicture => target,
            _ => throw new ArgumentOutOfRangeException(nameof(target), target, "This kind of target is not known."),
        };

    /// <summary>Bands that the slack has reached say nothing more.</summary>
    private Tolerance Wider(Tolerance tolerance) =>
        Slack is { } slack ? tolerance with { Slack = slack, Bands = [.. tolerance.Bands.Where(band => band.Slack > slack)] } : tolerance;

    private ImmutableArray<Accepted> Accepting(Pane pane, Zone zone) =>
        Accepts.IsDefaultOrEmpty
            ? zone.Accepts
            :
            [
                .. zone.Accepts,
                .. Accepts
                    .Distinct()
                    .Where(label => pane.Labels.Any(own => own.Id == label) && zone.Accepts.All(accepted => accepted.Label != label))
                    .Select(label => new Accepted(label)),
            ];

    private TypedAnswer With(TypedAnswer answer) =>
        answer is TypedText text && !Spellings.IsDefaultOrEmpty
            ? text with
            {
                Spellings =
                [
                    .. text.Spellings,
                    .. Spellings
                        .Where(spelling => !string.IsNullOrWhiteSpace(spelling) && text.CreditOf(spelling) < 1)
                        .Select(spelling => new Spelling(spelling)),
                ],
            }
            : answer;
}
