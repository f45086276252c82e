using System.Collections.Immutable;
using System.Text.Json;
using Fenster.Core.Checking;
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
    Drafts drafts,
    Assignments assignments,
    Revisions revisions,
    Students students,
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
    public sealed record Row(
        string Name,
        string Key,
        string Put,
        string State,
        string Points,
        string Given,
        string By,
        IReadOnlyList<CriterionRow> Criteria,
        IReadOnlyList<Remark> Remarks
    );

    /// <param name="Given">What a person gave; empty for nothing.</param>
    public sealed record CriterionRow(string Name, string Text, string Most, string Given);

    /// <summary>Whether the name stays hidden while it is marked.</summary>
    [BindProperty(SupportsGet = true)]
    public bool Blind { get; set; }

    /// <summary>Who it is, or a number where the name is hidden.</summary>
    public string Shown => Blind ? words["results.workNumber", ("number", Attempt.Id)] : Attempt.Name;
    private string BlindQuery => Blind ? "?blind=true" : "";

    /// <summary>The page of another work, with names hidden as on this one.</summary>
    public string PathOf(long attempt) => $"/activities/{Id}/results/{attempt}{BlindQuery}";

    /// <summary>Whether people may mark it by now.</summary>
    public bool IsMarked => Attempt.Handed is not null;

    /// <summary>Whether something of it shows only by the teacher's word.</summary>
    public bool MayWait { get; private set; }

    /// <summary>Remarks that belong to no target: on spots, panes, and the whole.</summary>
    public IEnumerable<Remark> OtherRemarks => Attempt.Marking.Remarks.Where(remark => remark.Target is null);

    public IActionResult OnGet(long id, long attempt) => Find(id, attempt) is { } found ? Show(found) : NotFound();

    private PageResult Show(Attempt found)
    {
        (Before, After) = attempts.Neighbours(found);
        Student = students.One(found.AssignmentId, found.StudentId)!;

        var activity = revisions.Activity(found.RevisionId, found.Rules);
        var responses = found.Responses;
        MayWait = activity.WaitsFor(Moment.Released);
        var everything = activity with
        {
            Rules = activity.Rules with
            {
                Reveal = new() { Key = Moment.HandedIn, Explanation = Moment.HandedIn },
            },
            PaneOrder = PaneOrder.AsListed,
            Panes = [.. activity.Panes.Select(pane => pane with { Rules = null })],
        };
        ViewJson = JsonSerializer.Serialize(
            StudentView.At(Moment.HandedIn, new Seat(everything, found.Seed), responses, found.Marking),
            DocumentJson.Options
        );
        var score = Scorer.Score(activity, responses, found.Marking.Awards);
        var parts = attempts.Parts(found.Id);
        Moves =
        [
            .. attempts
                .Moments(found.Id)
                .Select(move => words[move.IsCheck ? "results.checkedAt" : "results.movedAt", ("time", words.Seconds(move.At))]),
        ];
        Waiting = attempts.WaitingBeside(found);
        State = found.Handed is { At: var at }
            ? words[
                "results.handedInWith",
                ("score", Number(score.Score)),
                ("possible", Number(score.Possible)),
                ("time", words.DayAndTime(at))
            ]
            : words["results.stillWorking", ("score", Number(score.Score)), ("possible", Number(score.Possible))];
        Rows =
        [
            .. activity.Panes.SelectMany(
                (pane, i) => RowsOf(i, pane, responses.GetValueOrDefault(pane.Id, Core.Model.Response.Empty), score.Panes[i], parts)
            ),
        ];
        return Page();
    }

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

    /// <summary>When each move was made, as a time of day; checks are named.</summary>
    public IReadOnlyList<string> Moves { get; private set; } = [];

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
        var (changes, problem) = form.Read(
            activity,
            found,
            attempts.Parts(attempt),
            teachers.One(User.TeacherId())!.Name,
            clock.GetUtcNow(),
            words.Language
        );
        if (changes is { IsEmpty: false } && form.Seen != found.Marked)
            problem = words["results.markedMeanwhile"];
        else if (changes is { IsEmpty: false } && !attempts.Mark(attempt, form.Seen, changes, User.TeacherId()))
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

    /// <summary>Releases what waits for the teacher's word to this student alone, or takes it back.</summary>
    public IActionResult OnPostRelease(long id, long attempt, bool on)
    {
        if (Find(id, attempt) is not { Handed: not null } found)
            return NotFound();
        attempts.Release(found, on, User.TeacherId());
        return RedirectToPage();
    }

    private Attempt? Find(long id, long attempt)
    {
        if (drafts.TitleOf(User.TeacherId(), id) is not { } title || attempts.Anywhere(attempt) is not { } found)
            return null;
        if (assignments.One(found.AssignmentId) is not { } assignment || assignment.ActivityId != id)
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
        Core.Model.Response response,
        PaneScore score,
        IReadOnlyDictionary<(string Pane, string Target), ImmutableArray<decimal>> parts
    )
    {
        var states = Award
            .Apply(Checker.Check(pane, response), Attempt.Marking.AwardsAt(pane.Id))
            .Targets.ToDictionary(mark => mark.Target, mark => mark.State);
        foreach (var points in score.Targets)
        {
            var target = pane.Targets.First(target => target.Id == points.Target);
            var told = TargetWords.Of(words.Language, pane, target, response);
            var name = MarkingForm.NameOf(number, pane.Targets.IndexOf(target));
            var given = parts.GetValueOrDefault((pane.Id, target.Id), []);
            var award = points.Award;
            yield return new(
                name,
                told.Name == told.Key || told.Key == "" ? told.Name : words["list.named", ("name", told.Name), ("text", told.Key)],
                told.Given == "" ? words["results.nothing"] : told.Given,
                states[target.Id].ToString().ToLowerInvariant(),
                words["results.outOf", ("part", Number(points.Points)), ("whole", Number(points.Possible))],
                Form.Points.GetValueOrDefault(name) ?? (award is null ? "" : Typed(award.Credit * target.Points)),
                award is null ? "" : words.Language.Listed([award.By, words.DayAndTime(award.At)]),
                target is OpenNote note
                    ?
                    [
                        .. note.Criteria.Select(
                            (criterion, i) =>
                                new CriterionRow(
                                    $"{name}.{i}",
                                    criterion.Text,
                                    Typed(criterion.Points),
                                    Form.Parts.GetValueOrDefault($"{name}.{i}") ?? (i < given.Length ? Typed(given[i]) : "")
                                )
                        ),
                    ]
                    : [],
                [.. Attempt.Marking.Remarks.Where(remark => remark.Pane == pane.Id && remark.Target == target.Id)]
            );
        }
    }

    /// <summary>A number as a field holds it.</summary>
    private string Typed(decimal number) => Math.Round(number, 4).ToString("0.####", words.Language.Culture);

    private string Number(decimal number) => words.Language.Number(Math.Round(number, 2));
}
