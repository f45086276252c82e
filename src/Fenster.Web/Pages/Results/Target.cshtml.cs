using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using Fenster.Core.Checking;
using Fenster.Core.Geometry;
using Fenster.Core.Giving;
using Fenster.Core.Model;
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
/// One target, and what everybody who handed in answered there: equal answers together, the largest group first. A whole group is given
/// points in one step, which is shown first as what would come of it.
/// </summary>
public sealed class TargetModel(
    OwnAssignments own,
    Revisions revisions,
    Attempts attempts,
    Teachers teachers,
    Jobs jobs,
    TimeProvider clock,
    PageLanguage words
) : PageModel
{
    public long Id { get; private set; }
    public string Title { get; private set; } = "";
    public Assignment Assignment { get; private set; } = null!;

    /// <summary>All targets that earn points, by pane and number as <see cref="MarkingForm"/> names them.</summary>
    public IReadOnlyList<(string Name, string Words)> All { get; private set; } = [];
    public string Name { get; private set; } = "";
    public string Key { get; private set; } = "";
    public decimal Possible { get; private set; }
    public IReadOnlyList<Group> Groups { get; private set; } = [];

    /// <summary>The picture, and where everybody's points lie with what they earned, for the script; null where nothing is pointed at.</summary>
    public string? PointsJson { get; private set; }

    /// <summary>What would come of giving a group points; null where that is not asked.</summary>
    public Preview? WhatIf { get; private set; }
    public string? Problem { get; private set; }

    /// <summary>What became of what was just done.</summary>
    [TempData]
    public string? Done { get; set; }

    /// <param name="Words">What they answered.</param>
    /// <param name="Who">Each work in which it is, with the student's name.</param>
    /// <param name="People">How many students they are.</param>
    /// <param name="Points">What the machine and people gave so far; one number where it is the same for all.</param>
    public sealed record Group(
        int Number,
        string Words,
        IReadOnlyList<(long Attempt, string Name)> Who,
        int People,
        string Points,
        bool Waits
    );

    /// <param name="Moved">How many scores change.</param>
    public sealed record Preview(int Group, decimal Points, int Count, int Moved, decimal Before, decimal After, string Fingerprint);

    /// <param name="Mark">What it has at the target, with awards.</param>
    private sealed record Work(Attempt Attempt, Activity Activity, Pane Pane, Response Response, TargetMark Mark);

    private IReadOnlyList<Work> works = [];
    private ImmutableArray<AnswerGroup<Work>> groups = [];
    private Target target = null!;

    /// <param name="target">As <see cref="MarkingForm"/> names it; the first where there is none of the name.</param>
    /// <param name="group">Which group points are thought of for, from 0.</param>
    public IActionResult OnGet(long id, long of, string? target, int? group, string? points)
    {
        if (!Load(id, of, target))
            return NotFound();
        if (group is { } number && number >= 0 && number < groups.Length && points is not null)
            Think(number, points);
        return Page();
    }

    private bool Load(long id, long of, string? named)
    {
        if (own.Find(User.TeacherId(), id, of) is not var (title, assignment))
            return false;
        (Id, Title, Assignment) = (id, title, assignment);
        var activity = revisions.Activity(assignment.RevisionId, assignment.Rules);
        All =
        [
            .. activity.Panes.SelectMany(
                (pane, p) =>
                    pane
                        .Targets.Select((target, t) => (target, name: MarkingForm.NameOf(p, t)))
                        .Where(each => each.target.IsScored)
                        .Select(each => (each.name, TargetWords.Of(words.Language, pane, each.target, Core.Model.Response.Empty).Name))
            ),
        ];
        if (All.Count == 0)
            return false;
        Name = All.Any(each => each.Name == named) ? named! : All[0].Name;
        var at = Name.Split('.').Select(part => int.Parse(part, CultureInfo.InvariantCulture)).ToArray();
        var pane = activity.Panes[at[0]];
        target = pane.Targets[at[1]];
        (Key, Possible) = (TargetWords.Of(words.Language, pane, target, Core.Model.Response.Empty).Key, target.Points);
        // Work of another revision is there where the target still is.
        works =
        [
            .. attempts
                .Several([.. attempts.Page(of).Where(line => line is { Handed: not null, Away: null }).Select(line => line.Id)])
                .OrderBy(attempt => attempt.Handed!.At)
                .Select(attempt => (attempt, activity: revisions.Activity(attempt.RevisionId, attempt.Rules)))
                .Where(work => work.activity.Panes.Any(own => own.Id == pane.Id && own.Targets.Any(other => other.Id == target.Id)))
                .Select(work => WorkOf(work.attempt, work.activity, pane.Id)),
        ];
        groups = AnswerGroups.Of(target, works, work => work.Response);
        Groups = [.. groups.Select((group, i) => GroupOf(group, i))];
        PointsJson = AllPoints(pane);
        return true;
    }

    private Work WorkOf(Attempt attempt, Activity activity, string id)
    {
        var (pane, response) = (activity.Pane(id), attempt.Responses.GetValueOrDefault(id, Core.Model.Response.Empty));
        var marks = Award.Marks(pane, response, activity.RulesOf(pane).Score, attempt.Marking.AwardsAt(id));
        return new(attempt, activity, pane, response, marks.Targets.First(mark => mark.Target == target.Id));
    }

    private Group GroupOf(AnswerGroup<Work> group, int number)
    {
        var marks = group.Who.Select(work => work.Mark).ToList();
        var given = group.Who[0] is var first ? TargetWords.Of(words.Language, first.Pane, target, first.Response).Given : "";
        var (least, most) = (marks.Min(mark => mark.Credit) * target.Points, marks.Max(mark => mark.Credit) * target.Points);
        return new(
            number,
            group.Name == "" ? words["results.nothing"]
                : given == "" ? "–"
                : given,
            [.. group.Who.Select(work => (work.Attempt.Id, work.Attempt.Name))],
            People(group.Who),
            least == most ? Plain(most) : words["results.fromTo", ("from", Plain(least)), ("to", Plain(most))],
            marks.Any(mark => mark.State == TargetState.Waiting)
        );
    }

    /// <summary>Everybody's points on the picture; null where nothing of the target is a point.</summary>
    private string? AllPoints(Pane pane)
    {
        if (pane.Picture is not { } picture || target.Takes is not (Doing.Pinning or Doing.Marking) && target is not OpenNote { Pins: > 0 })
            return null;
        IEnumerable<Point> PointsOf(Work work) =>
            target.Takes == Doing.Pinning
                ? work.Response.Pins.Where(pin => IsMeant(pin.Label)).Select(pin => pin.At)
                : work.Response.Marks.GetValueOrDefault(target.Id, []);
        return JsonSerializer.Serialize(
            new Pointing(
                Core.Revealing.PictureView.Of(picture),
                [.. works.SelectMany(work => PointsOf(work).Select(at => new Pointed(at, work.Mark.Credit)))]
            ),
            DocumentJson.Options
        );
    }

    private bool IsMeant(string label) =>
        target switch
        {
            HiddenZone zone => zone.Accepts.Any(accepted => accepted.Label == label),
            ScalePoint point => point.Label == label,
            _ => true,
        };

    public sealed record Pointing(Core.Revealing.PictureView Picture, ImmutableArray<Pointed> Points);

    public sealed record Pointed(Point At, decimal Credit);

    /// <summary>Works out what would come of giving a group points.</summary>
    private void Think(int number, string typed)
    {
        (var points, Problem) = MarkingForm.PointsIn(typed, target.Points, words.Language);
        if (Problem is not null)
            return;
        var group = groups[number].Who.Select(work => work.Attempt.Id).ToHashSet();
        // Of each student what counts, which may be another attempt then.
        var people = works
            .Select(work =>
                (work.Attempt.StudentId, before: Scored(work, null), after: Scored(work, group.Contains(work.Attempt.Id) ? points : null))
            )
            .GroupBy(work => work.StudentId)
            .Select(own =>
                (
                    before: Counting.Worth([.. own.Select(work => work.before)], Assignment.Terms.Counts)!.Score,
                    after: Counting.Worth([.. own.Select(work => work.after)], Assignment.Terms.Counts)!.Score
                )
            )
            .ToList();
        WhatIf = new(
            number,
            points,
            People(groups[number].Who),
            people.Count(person => person.before != person.after),
            Math.Round(people.Average(person => person.before), 2),
            Math.Round(people.Average(person => person.after), 2),
            Fingerprint(groups[number])
        );
    }

    private static int People(IEnumerable<Work> works) => works.Select(work => work.Attempt.StudentId).Distinct().Count();

    /// <param name="points">In the place of what is there; null for that.</param>
    private StudentScore Scored(Work work, decimal? points) =>
        StudentScore.Of(
            Scorer.Score(
                work.Activity,
                work.Attempt.Responses,
                (points is { } given ? work.Attempt.Marking.With(work.Pane.Id, target.Id, Made(given)) : work.Attempt.Marking).Awards
            )
        );

    private Award Made(decimal points) => new(target.Id, points / target.Points, Marker, clock.GetUtcNow());

    /// <summary>Whose name awards have.</summary>
    private string Marker => field ??= teachers.One(User.TeacherId())!.Name;

    /// <summary>Who is in a group, and how often each was marked: what is done is done to what was shown.</summary>
    private static string Fingerprint(AnswerGroup<Work> group) =>
        string.Join(' ', group.Who.Select(work => $"{work.Attempt.Id}.{work.Attempt.Marked}").Order(StringComparer.Ordinal));

    /// <summary>Gives a group points, as it was shown.</summary>
    public async Task<IActionResult> OnPostAwardAsync(long id, long of, string target, int group, string points, string fingerprint)
    {
        if (!Load(id, of, target))
            return NotFound();
        if (group < 0 || group >= groups.Length || Fingerprint(groups[group]) != fingerprint)
        {
            Problem = words["results.groupChanged"];
            return Page();
        }
        Think(group, points);
        if (WhatIf is not { } whatIf)
            return Page();
        var (teacher, made, who) = (User.TeacherId(), Made(whatIf.Points), groups[group].Who);
        var stored = 0;
        var end = await jobs.Run(
            teacher,
            words["results.groupWorking", ("points", whatIf.Points)],
            $"/activities/{id}/results/target?of={of}&target={Name}",
            who.Length,
            isWhole: false,
            job =>
            {
                foreach (var work in who)
                {
                    job.Step(1);
                    if (
                        attempts.Mark(
                            work.Attempt.Id,
                            work.Attempt.Marked,
                            new([new(work.Pane.Id, this.target.Id, made, [])], [], []),
                            teacher
                        )
                    )
                        stored++;
                }
                return new JobEnd.Leads(job.Back);
            }
        );
        if (end is RedirectResult { Url: var url } && url.StartsWith("/activities/", StringComparison.Ordinal))
            Done = words["results.groupAwarded", ("count", stored), ("points", whatIf.Points)];
        return end;
    }

    private string Plain(decimal number) => words.Language.Number(Math.Round(number, 2));
}
