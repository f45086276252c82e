using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using Fenster.Core.Checking;
using Fenster.Core.Geometry;
using Fenster.Core.Giving;
using Fenster.Core.Insight;
using Fenster.Core.Model;
using Fenster.Core.Revealing;
using Fenster.Core.Scoring;
using Fenster.Formats.Documents;
using Fenster.Store;
using Fenster.Web.Hosting;
using Fenster.Words;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Assignment = Fenster.Store.Assignment;

namespace Fenster.Web.Pages;

/// <summary>
/// Puts a key right after the fact: what is changed is held against all work that was handed in, as it is changed, and applied with a
/// reason.
/// </summary>
public sealed class PutRightModel(
    OwnAssignments own,
    Drafts drafts,
    Revisions revisions,
    Regrades regrades,
    WorksLately works,
    LongWork longWork,
    Jobs jobs,
    PageLanguage words
) : PageModel
{
    public long Id { get; private set; }
    public string Title { get; private set; } = "";
    public Assignment Assignment { get; private set; } = null!;
    public Activity Activity { get; private set; } = null!;

    /// <summary>All targets that earn points, as <see cref="MarkingForm"/> names them.</summary>
    public IReadOnlyList<(string Name, string Words)> All { get; private set; } = [];
    public string Name { get; private set; } = "";
    public Pane Pane { get; private set; } = null!;
    public Target Target { get; private set; } = null!;

    /// <summary>What the script draws and changes.</summary>
    public string BenchJson { get; private set; } = "";

    /// <summary>Whether the activity in the workbench is another than the one that was given, so that it can be taken instead.</summary>
    public bool HasDraft { get; private set; }

    /// <summary>Why that can't be; null when it can.</summary>
    public string? DraftProblem { get; private set; }
    public string? Problem { get; private set; }
    public string Reason { get; private set; } = "";

    /// <summary>Labels of the pane that do not belong to the zone yet, those that most put there first, with how many did.</summary>
    public IReadOnlyList<(string Id, string Text, int Count)> Labels { get; private set; } = [];

    /// <summary>Typed answers that are not right yet, the commonest first.</summary>
    public IReadOnlyList<(string Text, int Count)> Typed { get; private set; } = [];

    private const int MostOffered = 12;
    private const int MostPoints = 2000;

    /// <param name="target">As <see cref="MarkingForm"/> names it; the first where there is none of the name.</param>
    /// <param name="late">Whether a colleague was faster than what was applied.</param>
    public IActionResult OnGet(long id, long of, string? target, bool late)
    {
        if (!Load(id, of))
            return NotFound();
        Choose(target);
        Problem = late ? words["putRight.meanwhile"] : null;
        return Page();
    }

    private bool Load(long id, long of)
    {
        if (own.Find(User.TeacherId(), id, of) is not var (title, assignment))
            return false;
        (Id, Title, Assignment) = (id, title, assignment);
        Activity = revisions.Activity(assignment.RevisionId, assignment.Rules);
        All =
        [
            .. Activity.Panes.SelectMany(
                (pane, p) =>
                    pane
                        .Targets.Select((target, t) => (target, name: MarkingForm.NameOf(p, t)))
                        .Where(each => each.target.IsScored)
                        .Select(each => (each.name, TargetWords.Of(words.Language, pane, each.target, Core.Model.Response.Empty).Name))
            ),
        ];
        return All.Count > 0;
    }

    private void Choose(string? target)
    {
        Name = All.Any(each => each.Name == target) ? target! : All[0].Name;
        var at = Name.Split('.').Select(part => int.Parse(part, CultureInfo.InvariantCulture)).ToArray();
        Pane = Activity.Panes[at[0]];
        Target = Pane.Targets[at[1]];
        var responses = works
            .Of(Assignment)
            .Works.Select(work => work.Work.Responses.GetValueOrDefault(Pane.Id, Core.Model.Response.Empty))
            .ToList();
        var given = AnswersAt.Of(Target, responses) as Tally;
        if (Target is Zone zone)
        {
            var counts = given?.Answers.ToDictionary(answer => answer.Answer, answer => answer.Count) ?? [];
            Labels =
            [
                .. Pane
                    .Labels.Where(label => zone.Accepts.All(accepted => accepted.Label != label.Id))
                    .Select(label => (label.Id, label.Text, counts.GetValueOrDefault(label.Id)))
                    .OrderByDescending(label => label.Item3)
                    .Take(MostOffered),
            ];
        }
        if (Target is AnswerBox { Answer: TypedText } or QuestionPoint { Question: TypedQuestion { Answer: TypedText } })
            Typed =
            [
                .. (given?.Answers ?? [])
                    .Where(answer => answer.Credit < 1)
                    .Take(MostOffered)
                    .Select(answer => (answer.Answer, answer.Count)),
            ];
        BenchJson = JsonSerializer.Serialize(
            new Bench(
                at[0],
                at[1],
                Pane.Picture is { } picture ? PictureView.Of(picture) : null,
                [.. Fenster.Formats.Pictures.InsightDrawing.RegionsOf(Target)],
                RegionOf(Target),
                SlackOf(Target),
                [.. PointsOf(Target, responses).Take(MostPoints)]
            ),
            DocumentJson.Options
        );
        (HasDraft, DraftProblem) = Draft() is var (draft, problem) ? (draft is not null || problem is not null, problem) : default;
    }

    /// <param name="Regions">Where the target is; none where it is a spot.</param>
    /// <param name="Region">Null where nothing can be redrawn.</param>
    /// <param name="Slack">In pu; null where there is none on the picture.</param>
    public sealed record Bench(
        int Pane,
        int Target,
        PictureView? Picture,
        ImmutableArray<Region> Regions,
        Region? Region,
        double? Slack,
        ImmutableArray<Point> Points
    );

    /// <summary>The region that students did not see, and so can be drawn anew.</summary>
    private static Region? RegionOf(Target target) =>
        target switch
        {
            HiddenZone zone => zone.Region,
            Hotspots { Spots: [var only] } => only.Region,
            _ => null,
        };

    /// <summary>In pu, or in the units of a scale; null where there is none.</summary>
    public static double? SlackOf(Target target) =>
        target switch
        {
            HiddenZone zone => zone.Tolerance.Slack,
            Hotspots hotspots => hotspots.Spots.Max(spot => spot.Tolerance.Slack),
            ScalePoint point => point.Within.Slack,
            _ => null,
        };

    /// <summary>Where everybody's points lie that meant a target.</summary>
    private static IEnumerable<Point> PointsOf(Target target, IEnumerable<Core.Model.Response> responses) =>
        target.Takes switch
        {
            Doing.Pinning => responses.SelectMany(response =>
                response
                    .Pins.Where(pin =>
                        target switch
                        {
                            HiddenZone zone => zone.Accepts.Any(accepted => accepted.Label == pin.Label),
                            ScalePoint point => point.Label == pin.Label,
                            _ => true,
                        }
                    )
                    .Select(pin => pin.At)
            ),
            Doing.Marking => responses.SelectMany(response => response.Marks.GetValueOrDefault(target.Id, [])),
            _ => [],
        };

    /// <summary>What is changed, as the script sends it.</summary>
    /// <param name="IsDraft">Whether the activity in the workbench is taken, whatever else is said.</param>
    public sealed record Wish(Repair? Repair = null, RegradeManner Manner = RegradeManner.NobodyLoses, bool IsDraft = false);

    /// <summary>What comes of it, for the script.</summary>
    /// <param name="Problem">Why it can't be; null when it can.</param>
    /// <param name="Before">How many have so much of the possible points, in twenty steps.</param>
    /// <param name="Passing">How many pass before and after; null where there is no pass mark.</param>
    /// <param name="Moved">Whose score changes, those who change most first; the first of them.</param>
    /// <param name="Earned">Of the points that are drawn, whether each earns something.</param>
    public sealed record Outcome(
        string? Problem,
        int All,
        int Changed,
        double MeanBefore,
        double MeanAfter,
        ImmutableArray<int> Before,
        ImmutableArray<int> After,
        ImmutableArray<int>? Passing,
        int NowPass,
        int NowFail,
        ImmutableArray<MovedScore> Moved,
        ImmutableArray<bool> Earned
    );

    public sealed record MovedScore(string Name, string Before, string After, bool IsUp);

    private const int Steps = 20;
    private const int MostMoved = 200;

    /// <summary>Works out what a change would come to; nothing is changed.</summary>
    public async Task<IActionResult> OnPostWhatIfAsync(long id, long of, string? target)
    {
        if (!Load(id, of))
            return NotFound();
        Wish? wish;
        try
        {
            wish = await JsonSerializer.DeserializeAsync<Wish>(Request.Body, DocumentJson.Options, HttpContext.RequestAborted);
        }
        catch (JsonException)
        {
            return BadRequest();
        }
        Response.Headers.CacheControl = "no-store";
        var outcome = await longWork.Run(User.TeacherId(), _ => Comes(wish ?? new(), target ?? ""), HttpContext.RequestAborted);
        return Content(JsonSerializer.Serialize(outcome, DocumentJson.Options), "application/json");
    }

    private Outcome Comes(Wish wish, string target)
    {
        var (changed, problem) = Changed(wish);
        if (changed is null)
            return new(problem, 0, 0, 0, 0, [], [], null, 0, 0, [], []);
        var lately = works.Of(Assignment);
        // Each under the words of the assignment's own that it was begun under, as it is marked.
        var under = lately
            .Works.Select(work => work.Rules)
            .Distinct()
            .ToDictionary(rules => rules, rules => changed.Under(RuleWordsDocument.Read(rules)));
        var after = lately
            .Works.AsParallel()
            .AsOrdered()
            .Select(work => Scorer.Score(under[work.Rules], work.Work.Responses, work.Work.Marking.Awards))
            .ToImmutableArray();
        var people = PeopleOf(lately, after, wish.Manner);
        var (passedBefore, passedAfter) = (Activity.Rules.Score.PassMark, changed.Under(Assignment.Terms.Rules).Rules.Score.PassMark);
        bool? Before(Person person) => person.Before.Passes(passedBefore);
        bool? After(Person person) => person.After.Passes(passedAfter);
        return new(
            null,
            people.Count,
            people.Count(person => person.IsChanged),
            Mean(people.Select(person => person.Before.Score)),
            Mean(people.Select(person => person.After.Score)),
            Histogram(people.Select(person => person.Before)),
            Histogram(people.Select(person => person.After)),
            passedAfter is null ? null : [people.Count(person => Before(person) == true), people.Count(person => After(person) == true)],
            people.Count(person => Before(person) == false && After(person) == true),
            people.Count(person => Before(person) == true && After(person) == false),
            [
                .. people
                    .Where(person => person.IsChanged)
                    .OrderByDescending(person => Math.Abs(person.After.Score - person.Before.Score))
                    .Take(MostMoved)
                    .Select(person => new MovedScore(
                        person.Name,
                        Told(person.Before),
                        Told(person.After),
                        person.After.Grade >= person.Before.Grade
                    )),
            ],
            Earned(changed, lately, target)
        );
    }

    /// <summary>One student, by what counts now and by what would count then, which may be another attempt.</summary>
    private sealed record Person(string Name, StudentScore Before, StudentScore After)
    {
        public bool IsChanged => Before.Score != After.Score || Before.Possible != After.Possible || Before.Grade != After.Grade;
    }

    /// <param name="after">What each work would have, in the order of the works.</param>
    private List<Person> PeopleOf(LatelyRead lately, ImmutableArray<ActivityScore> after, RegradeManner manner) =>
        [
            .. lately
                .Works.Select((work, i) => (work, before: StudentScore.Of(lately.Scores[i]), after: StudentScore.Of(after[i])))
                .GroupBy(each => each.work.Student)
                .Select(own => new Person(
                    own.First().work.Name,
                    Counting.Worth([.. own.Select(each => each.before)], Assignment.Terms.Counts)!,
                    Counting.Worth(
                        [
                            .. own.Select(each =>
                                // Who would lose stays where they were, where nobody is to lose.
                                manner == RegradeManner.NobodyLoses
                                && each.after.IsLessThan(each.before)
                                    ? each.before
                                    : each.after
                            ),
                        ],
                        Assignment.Terms.Counts
                    )!
                )),
        ];

    private static double Mean(IEnumerable<decimal> scores) => scores.Select(score => (double)score).DefaultIfEmpty(0).Average();

    private string Told(StudentScore score) =>
        words[
            score.IsSoFar ? "results.outOfSoFar" : "results.outOf",
            ("part", Math.Round(score.Score, 2)),
            ("whole", Math.Round(score.Possible, 2))
        ];

    private static ImmutableArray<int> Histogram(IEnumerable<StudentScore> scores)
    {
        var steps = new int[Steps];
        foreach (var score in scores)
            steps[score.Possible == 0 ? 0 : Math.Clamp((int)(score.Score / score.Possible * Steps), 0, Steps - 1)]++;
        return [.. steps];
    }

    private static ImmutableArray<bool> Earned(Activity changed, LatelyRead lately, string name)
    {
        if (name.Split('.') is not [var p, var t] || !int.TryParse(p, out var number) || !int.TryParse(t, out var which))
            return [];
        if (changed.Panes.ElementAtOrDefault(number)?.Targets.ElementAtOrDefault(which) is null)
            return [];
        var pane = changed.Panes[number];
        var target = pane.Targets[which];
        if (target.Takes is not (Doing.Pinning or Doing.Marking))
            return [];
        bool IsMeant(string label) =>
            target switch
            {
                HiddenZone zone => zone.Accepts.Any(accepted => accepted.Label == label),
                ScalePoint point => point.Label == label,
                _ => true,
            };
        return
        [
            .. lately
                .Works.SelectMany(work =>
                {
                    var marks = Checker.Check(
                        pane,
                        work.Work.Responses.GetValueOrDefault(pane.Id, Core.Model.Response.Empty),
                        changed.RulesOf(pane).Score,
                        work.Work.Marking.AwardsAt(pane.Id)
                    );
                    return target.Takes == Doing.Pinning
                        ? marks.Pins.Where(pin => IsMeant(pin.Pin.Label)).Select(pin => pin.Credit > 0)
                        : marks.Points.Where(point => point.Target == target.Id).Select(point => point.Credit > 0);
                })
                .Take(MostPoints),
        ];
    }

    /// <summary>The activity as it would be, without the assignment's own rules; or why it can't be.</summary>
    private (Activity? Activity, string? Problem) Changed(Wish wish)
    {
        if (wish.IsDraft)
            return Draft();
        var (given, repair) = (revisions.Activity(Assignment.RevisionId), wish.Repair ?? new([]));
        if (!repair.Fits(given))
            return (null, words["putRight.doesNotFit"]);
        var changed = repair.In(given);
        return Soundness.Faults(changed) is [var fault, ..] ? (null, words["putRight.unsound", ("fault", $"{fault}")]) : (changed, null);
    }

    /// <summary>The activity in the workbench, where it is another and has all that students used; or why it can't be taken.</summary>
    private (Activity? Activity, string? Problem) Draft()
    {
        if (drafts.Find(User.TeacherId(), Id) is not { } draft)
            return (null, null);
        var given = revisions.Activity(Assignment.RevisionId);
        var (activity, document) = ActivityDocument.ReadAndWrite(draft.Document);
        if (document == revisions.Document(Assignment.RevisionId))
            return (null, null);
        bool Has(Pane pane) =>
            activity.Panes.FirstOrDefault(other => other.Id == pane.Id) is { } there
            && pane.Labels.All(label => there.Labels.Any(other => other.Id == label.Id))
            && pane.Targets.All(target => there.Targets.Any(other => other.Id == target.Id && other.GetType() == target.GetType()));
        return given.Panes.Length != activity.Panes.Length || !given.Panes.All(Has) ? (null, words["putRight.otherThings"])
            : Soundness.Faults(activity) is [var fault, ..] ? (null, words["putRight.unsound", ("fault", $"{fault}")])
            : (activity, null);
    }

    /// <summary>Applies what was shown.</summary>
    /// <param name="wish">As JSON.</param>
    /// <param name="seen">The revision that it was shown of.</param>
    public async Task<IActionResult> OnPostApplyAsync(long id, long of, string? target, string? wish, long seen, string? reason, bool tell)
    {
        if (!Load(id, of))
            return NotFound();
        Choose(target);
        Wish? wanted;
        try
        {
            wanted = JsonSerializer.Deserialize<Wish>(wish ?? "", DocumentJson.Options);
        }
        catch (JsonException)
        {
            return BadRequest();
        }
        Reason = (reason ?? "").Trim();
        if (Reason is { Length: 0 or > Regrades.LongestReason })
        {
            Problem = words["putRight.needsReason", ("most", Regrades.LongestReason)];
            return Page();
        }
        if (seen != Assignment.RevisionId)
        {
            Problem = words["putRight.meanwhile"];
            return Page();
        }
        (var changed, Problem) = Changed(wanted ?? new());
        if (changed is null)
            return Page();
        var document = ActivityDocument.Write(changed);
        if (document == revisions.Document(Assignment.RevisionId))
        {
            Problem = words["putRight.nothing"];
            return Page();
        }
        var language = Language.In(changed.Language);
        var (assignment, manner, teacher, because) = (Assignment, wanted!.Manner, User.TeacherId(), Reason);
        var isLate = false;
        var end = await jobs.Run(
            teacher,
            words["putRight.working"],
            $"/activities/{id}/put-right?of={of}&target={Name}",
            works.Of(Assignment).Works.Count,
            isWhole: true,
            job =>
            {
                isLate =
                    regrades.Apply(
                        assignment,
                        document,
                        manner,
                        because,
                        teacher,
                        tell ? language.Say("mine.markedAnew", ("reason", because)) : null,
                        job.Step
                    )
                        is null;
                return new JobEnd.Leads(isLate ? $"{job.Back}&late=true" : $"/activities/{id}/regrades?of={of}");
            }
        );
        if (!isLate)
            return end;
        Problem = words["putRight.meanwhile"];
        return Page();
    }
}
