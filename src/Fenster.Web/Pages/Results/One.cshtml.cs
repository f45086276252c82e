using System.Collections.Immutable;
using System.Text.Json;
using Fenster.Core.Checking;
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

/// <summary>One student's picture with all marks, for the teacher.</summary>
public sealed class OneStudentModel(
    OwnAssignments own,
    Releases releases,
    Revisions revisions,
    Students students,
    Classes classes,
    Attempts attempts,
    Deletions deletions,
    Teachers teachers,
    RecordFile records,
    TimeProvider clock,
    PageLanguage words,
    ILogger<OneStudentModel> log
) : PageModel
{
    public long Id { get; private set; }
    public string Title { get; private set; } = "";
    public Attempt Attempt { get; private set; } = null!;
    public Assignment Assignment { get; private set; } = null!;
    public Student Student { get; private set; } = null!;
    public AttemptLine? Before { get; private set; }
    public AttemptLine? After { get; private set; }
    public IReadOnlyList<Row> Rows { get; private set; } = [];
    public string ViewJson { get; private set; } = "";
    public string State { get; private set; } = "";

    /// <summary>How many other works at the assignment wait to be marked, and the next one after this; null for none.</summary>
    public (long Count, AttemptLine? Next) Waiting { get; private set; }

    /// <summary>What was typed and could not be stored, with what is wrong.</summary>
    public MarkingForm Form { get; private set; } = new();
    public string? Problem { get; private set; }

    /// <param name="Name">As <see cref="MarkingForm"/> knows the target.</param>
    /// <param name="State">Names the look in the style sheet.</param>
    /// <param name="Points">What it earned, with awards.</param>
    /// <param name="Given">What a person gave; empty for nothing.</param>
    /// <param name="By">Who gave it, and when; empty for nobody.</param>
    /// <param name="Effort">After how many tries and how long; empty where neither is known.</param>
    /// <param name="Second">What a second marker gave; null for nothing, and where it is marked as the second.</param>
    public sealed record Row(
        string Name,
        string Key,
        string Put,
        string State,
        string Points,
        string Given,
        string By,
        string Effort,
        SecondRow? Second,
        IReadOnlyList<CriterionRow> Criteria,
        IReadOnlyList<Remark> Remarks
    );

    /// <param name="IsApart">Whether it is not what counts, and nobody agreed yet.</param>
    public sealed record SecondRow(string Words, bool IsApart);

    /// <param name="Given">What a person gave; empty for nothing.</param>
    public sealed record CriterionRow(string Name, string Text, string Most, string Given);

    /// <summary>Whether the name stays hidden while it is marked.</summary>
    [BindProperty(SupportsGet = true)]
    public bool Blind { get; set; }

    /// <summary>Who it is, or a number where the name is hidden.</summary>
    public string Shown => Blind ? words["results.workNumber", ("number", Attempt.Id)] : Attempt.Name;

    /// <summary>Whether it is marked once more, by somebody who has not seen the points of who marked it first.</summary>
    [BindProperty(SupportsGet = true)]
    public bool Second { get; set; }
    private Marker As => Second ? Marker.Second : Marker.First;

    /// <summary>How far two markers are apart; empty where nobody marked it a second time.</summary>
    public string SecondSays { get; private set; } = "";

    /// <summary>The address of this work with the name shown or hidden, marked first or second.</summary>
    public string With(bool blind, bool second) => $"/activities/{Id}/results/{Attempt.Id}{QueryOf(blind, second)}";

    private static string QueryOf(bool blind, bool second) =>
        (blind ? "?blind=true" : "") + (second ? (blind ? "&" : "?") + "second=true" : "");

    /// <summary>The page of another work, with names hidden as on this one.</summary>
    public string PathOf(long attempt) => $"/activities/{Id}/results/{attempt}{QueryOf(Blind, Second)}";

    /// <summary>Where the page hears of what the student does; null where nothing more comes.</summary>
    public string? LiveUrl => Attempt.Handed is null ? $"/activities/{Id}/wall?handler=Feed&of={Assignment.Id}&only={Attempt.Id}" : null;

    /// <summary>The words by which the student comes back; a member's are for who teaches the class, since they open all of it.</summary>
    public string? ShownWord =>
        Student.MemberId is null || (Assignment.ClassId is { } group && classes.One(User.TeacherId(), group) is not null)
            ? Student.Word
            : null;

    /// <summary>Whether people may mark it by now.</summary>
    public bool IsMarked => Attempt.Handed is not null;

    /// <summary>Whether something of it shows only by the teacher's word.</summary>
    public bool MayWait { get; private set; }

    /// <summary>Remarks that belong to no target: on spots, panes, and the whole.</summary>
    public IEnumerable<Remark> OtherRemarks => Marked.Remarks.Where(remark => remark.Target is null);

    /// <summary>What the page shows of what people decided and said.</summary>
    private Marking Marked { get; set; } = Marking.None;

    public IActionResult OnGet(long id, long attempt) => Find(id, attempt) is { } found ? Show(found) : NotFound();

    private PageResult Show(Attempt found)
    {
        (Before, After) = attempts.Neighbours(found);
        Student = students.One(found.AssignmentId, found.StudentId)!;

        var activity = revisions.Activity(found.RevisionId, found.Rules);
        var responses = found.Responses;
        var second = attempts.Second(found.Id);
        Marked = MarkingOf(found, second);
        if (Second && attempts.HasMarked(found.Id, User.TeacherId(), Marker.First))
            Problem ??= words["results.youMarkedFirst"];
        MayWait = activity.WaitsFor(Moment.Released);
        var everything = activity with
        {
            Rules = activity.Rules with
            {
                Reveal = new() { Key = Moment.HandedIn, Explanation = Moment.HandedIn },
            },
            PaneOrder = PaneOrder.AsListed,
            Panes =
            [
                .. activity.Panes.Select(pane =>
                    pane with
                    {
                        Rules = pane.Rules is { } own
                            ? own with
                            {
                                Marks = default,
                                ScoreShows = default,
                                Feedback = default,
                                Key = default,
                                Explanation = default,
                            }
                            : null,
                    }
                ),
            ],
        };
        ViewJson = JsonSerializer.Serialize(
            StudentView.At(Moment.HandedIn, new Seat(everything, found.Seed), responses, Marked),
            DocumentJson.Options
        );
        // Who marks second sees the machine's points beside their own, and not the first one's.
        var score = Scorer.Score(activity, responses, (Second ? Marking.None : found.Marking).Awards);
        var parts = PartsOf(found.Id, second);
        var apart = Attempts.Apart(activity, responses, found.Marking, second);
        SecondSays =
            Second || second.Count == 0 ? ""
            : apart.Count == 0 ? words["results.secondAgrees", ("name", second[0].Award.By)]
            : words[
                "results.secondApart",
                ("name", second[0].Award.By),
                ("count", apart.Count),
                ("points", Number(apart.Values.Sum(Math.Abs)))
            ];
        var times = Pace.Of(activity, attempts.Log(found.Id));
        Moves =
        [
            .. attempts
                .Moments(found.Id)
                .Select(move => new Step(
                    move.Number,
                    words[move.IsCheck ? "results.checkedAt" : "results.movedAt", ("time", words.Seconds(move.At))]
                )),
        ];
        Waiting = attempts.WaitingBeside(found);
        State = found.Handed is { At: var at }
            ? words[
                score.IsSoFar ? "results.handedInWithSoFar" : "results.handedInWith",
                ("score", Number(score.Score)),
                ("possible", Number(score.Possible)),
                ("time", words.DayAndTime(at))
            ]
            : words["results.stillWorking", ("score", Number(score.Score)), ("possible", Number(score.Possible))];
        Rows =
        [
            .. activity.Panes.SelectMany(
                (pane, i) =>
                    RowsOf(
                        i,
                        pane,
                        activity.RulesOf(pane).Score,
                        responses.GetValueOrDefault(pane.Id, Core.Model.Response.Empty),
                        score.Panes[i],
                        parts,
                        times.GetValueOrDefault(pane.Id),
                        Second ? [] : [.. second.Where(mark => mark.Pane == pane.Id)],
                        apart
                    )
            ),
        ];
        return Page();
    }

    /// <summary>What counts, or where it is marked as the second what the second has given.</summary>
    private Marking MarkingOf(Attempt found, IReadOnlyList<SecondMark> second) =>
        !Second
            ? found.Marking
            : new(
                second
                    .GroupBy(mark => mark.Pane)
                    .ToImmutableDictionary(pane => pane.Key, pane => pane.Select(mark => mark.Award).ToImmutableArray()),
                []
            );

    private IReadOnlyDictionary<(string Pane, string Target), ImmutableArray<decimal>> PartsOf(long id, IReadOnlyList<SecondMark> second) =>
        Second ? second.ToDictionary(mark => (mark.Pane, mark.Award.Target), mark => mark.Parts) : attempts.Parts(id);

    /// <summary>The work after so many moves, as the student saw it then, for the script.</summary>
    public IActionResult OnGetAfter(long id, long attempt, long moves)
    {
        if (Find(id, attempt) is not { } found)
            return NotFound();
        var activity = revisions.Activity(found.RevisionId, found.Rules) with { PaneOrder = PaneOrder.AsListed };
        Response.Headers.CacheControl = "no-store";
        return Content(
            JsonSerializer.Serialize(
                WorkView.At(Moment.Placed, new Seat(activity, found.Seed), attempts.ResponsesAfter(attempt, moves)),
                DocumentJson.Options
            ),
            "application/json"
        );
    }

    /// <param name="Number">Of the move in the log.</param>
    /// <param name="Words">When it was made, as a time of day; checks are named.</param>
    public sealed record Step(long Number, string Words);

    public IReadOnlyList<Step> Moves { get; private set; } = [];

    /// <summary>All that is kept of the student at the assignment, as a file.</summary>
    public IActionResult OnGetRecord(long id, long attempt) =>
        Find(id, attempt) is { } found && records.Of(found.StudentId) is { } record
            ? File(System.Text.Encoding.UTF8.GetBytes(record), "application/json", $"record-{found.StudentId}.json")
            : NotFound();

    /// <summary>Stores what the teacher decides and says.</summary>
    public IActionResult OnPostMark(long id, long attempt, MarkingForm form)
    {
        if (Find(id, attempt) is not { Handed: not null } found)
            return NotFound();
        var activity = revisions.Activity(found.RevisionId, found.Rules);
        var second = attempts.Second(attempt);
        var (changes, problem) = form.Read(
            activity,
            found with
            {
                Marking = MarkingOf(found, second),
            },
            PartsOf(attempt, second),
            teachers.One(User.TeacherId())!.Name,
            clock.GetUtcNow(),
            words.Language
        );
        if (Second && attempts.HasMarked(attempt, User.TeacherId(), Marker.First))
            problem = words["results.youMarkedFirst"];
        else if (changes is { IsEmpty: false } && form.Seen != found.Marked)
            problem = words["results.markedMeanwhile"];
        else if (changes is { IsEmpty: false } && !attempts.Mark(attempt, form.Seen, changes, User.TeacherId(), As))
            problem = words["results.markedMeanwhile"];
        if (problem is not null)
        {
            (Form, Problem) = (form, problem);
            return Show(attempts.Anywhere(attempt)!);
        }
        if (form.Next && attempts.WaitingBeside(found).Next is { } next)
            return Redirect(PathOf(next.Id));
        return Redirect(PathOf(attempt));
    }

    /// <summary>Whether what waits for the teacher's word shows to this student.</summary>
    public bool IsReleased => Attempt.ReleasedAt is not null || Assignment.IsReleasedAt(clock.GetUtcNow());

    /// <summary>Releases what waits for the teacher's word to this student alone, or takes it back.</summary>
    public IActionResult OnPostRelease(long id, long attempt, bool on, string? word)
    {
        if (Find(id, attempt) is not { Handed: not null } found)
            return NotFound();
        if (on)
            releases.Give(found.AssignmentId, [attempt], User.TeacherId());
        else if ((word ?? "").Trim() is { Length: <= Releases.LongestWord } said)
            Told =
                releases.TakeBack(found.AssignmentId, [attempt], said, User.TeacherId()) == TakenBack.Yes
                    ? null
                    : words["results.needsWord"];
        else
            Told = words["results.longWord", ("most", Releases.LongestWord)];
        return RedirectToPage();
    }

    private Attempt? Find(long id, long attempt)
    {
        if (
            attempts.Anywhere(attempt) is not { } found
            || own.Find(User.TeacherId(), id, found.AssignmentId) is not var (title, assignment)
        )
            return null;
        (Id, Title, Attempt, Assignment) = (id, title, found, assignment);
        return found;
    }

    /// <summary>Makes the word by which a guest comes back on another device.</summary>
    public IActionResult OnPostLetIn(long id, long attempt)
    {
        if (Find(id, attempt) is not { } found)
            return NotFound();
        students.NewWord(found.AssignmentId, found.StudentId);
        return RedirectToPage();
    }

    /// <summary>Gives work back that was handed in too soon.</summary>
    public IActionResult OnPostGiveBack(long id, long attempt)
    {
        if (Find(id, attempt) is not { } found || students.One(found.AssignmentId, found.StudentId) is not { } student)
            return NotFound();
        if (!attempts.GiveBack(Assignment, student, attempt, User.TeacherId()))
            Told = words["results.timeIsOver", ("name", found.Name)];
        return RedirectToPage();
    }

    /// <summary>Counts what came too late.</summary>
    public IActionResult OnPostCountLate(long id, long attempt)
    {
        if (Find(id, attempt) is not { } found)
            return NotFound();
        attempts.CountLate(found.AssignmentId, attempt, User.TeacherId());
        return RedirectToPage();
    }

    /// <summary>What a step came to that could not be done; null for nothing.</summary>
    [TempData]
    public string? Told { get; set; }

    /// <summary>Deletes the work, which can be brought back for a while.</summary>
    public IActionResult OnPostDelete(long id, long attempt)
    {
        if (Find(id, attempt) is not { } found || !deletions.DeleteWork(User.TeacherId(), found.AssignmentId, attempt))
            return NotFound();
        Happenings.WasDeleted(log, User.TeacherId(), "work", found.StudentId);
        return Redirect($"/activities/{id}/results?of={found.AssignmentId}");
    }

    private IEnumerable<Row> RowsOf(
        int number,
        Pane pane,
        ScoreRules rules,
        Core.Model.Response response,
        PaneScore score,
        IReadOnlyDictionary<(string Pane, string Target), ImmutableArray<decimal>> parts,
        ImmutableDictionary<string, TimeSpan>? times,
        IReadOnlyList<SecondMark> second,
        IReadOnlyDictionary<(string Pane, string Target), decimal> apart
    )
    {
        var marks = Award.Marks(pane, response, rules, Marked.AwardsAt(pane.Id));
        var states = marks.Targets.ToDictionary(mark => mark.Target, mark => mark.State);
        foreach (var points in score.Targets)
        {
            var target = pane.Targets.First(target => target.Id == points.Target);
            var told = TargetWords.Of(words.Language, pane, target, response);
            var name = MarkingForm.NameOf(number, pane.Targets.IndexOf(target));
            var given = parts.GetValueOrDefault((pane.Id, target.Id), []);
            var award = Marked.AwardAt(pane.Id, target.Id);
            var tries = Tries.For(pane, target, response, marks);
            var other = second.FirstOrDefault(mark => mark.Award.Target == target.Id);
            yield return new(
                name,
                told.Name == told.Key || told.Key == "" ? told.Name : words["list.named", ("name", told.Name), ("text", told.Key)],
                told.Given == "" ? words["results.nothing"] : told.Given,
                states[target.Id].ToString().ToLowerInvariant(),
                words["results.outOf", ("part", Number(points.Points)), ("whole", Number(points.Possible))],
                Form.Points.GetValueOrDefault(name) ?? (award is null ? "" : Typed(award.Credit * target.Points)),
                award is null ? "" : words.Language.Listed([award.By, words.DayAndTime(award.At)]),
                words.Language.Listed(
                    new[]
                    {
                        tries > 1 ? words["results.tries", ("count", tries)] : "",
                        times?.TryGetValue(target.Id, out var took) == true && took >= TimeSpan.FromSeconds(1) ? words.Took(took) : "",
                    }.Where(part => part != "")
                ),
                other is null
                    ? null
                    : new(
                        words["results.second", ("name", other.Award.By), ("points", Number(other.Award.Credit * target.Points))],
                        apart.ContainsKey((pane.Id, target.Id))
                    ),
                [
                    .. target
                        .MarkedBy()
                        .Select(
                            (criterion, i) =>
                                new CriterionRow(
                                    $"{name}.{i}",
                                    criterion.Text,
                                    Typed(criterion.Points),
                                    Form.Parts.GetValueOrDefault($"{name}.{i}") ?? (i < given.Length ? Typed(given[i]) : "")
                                )
                        ),
                ],
                [.. Marked.Remarks.Where(remark => remark.Pane == pane.Id && remark.Target == target.Id)]
            );
        }
    }

    /// <summary>A number as a field holds it.</summary>
    private string Typed(decimal number) => Math.Round(number, 4).ToString("0.####", words.Language.Culture);

    private string Number(decimal number) => words.Language.Number(Math.Round(number, 2));
}
