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

    /// <param name="State">Names the look in the style sheet.</param>
    public sealed record Row(string Key, string Put, string State, string Points);

    public IActionResult OnGet(long id, long attempt)
    {
        if (Find(id, attempt) is not { } found)
            return NotFound();
        (Before, After) = attempts.Neighbours(found);
        Student = students.One(found.AssignmentId, found.StudentId)!;

        var activity = revisions.Activity(found.RevisionId, found.Rules);
        var responses = found.Responses;
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
            StudentView.At(Moment.HandedIn, new Seat(everything, found.Seed), responses),
            DocumentJson.Options
        );
        var score = Scorer.Score(activity, responses);
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
                (pane, i) => RowsOf(pane, responses.GetValueOrDefault(pane.Id, Core.Model.Response.Empty), score.Panes[i])
            ),
        ];
        return Page();
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

    private IEnumerable<Row> RowsOf(Pane pane, Core.Model.Response response, PaneScore score)
    {
        var states = Checker.Check(pane, response).Targets.ToDictionary(mark => mark.Target, mark => mark.State);
        return score.Targets.Select(points =>
        {
            var told = TargetWords.Of(words.Language, pane, pane.Targets.First(target => target.Id == points.Target), response);
            return new Row(
                told.Name == told.Key || told.Key == "" ? told.Name : words["list.named", ("name", told.Name), ("text", told.Key)],
                told.Given == "" ? words["results.nothing"] : told.Given,
                states[points.Target].ToString().ToLowerInvariant(),
                words["results.outOf", ("part", Number(points.Points)), ("whole", Number(points.Possible))]
            );
        });
    }

    private string Number(decimal number) => words.Language.Number(Math.Round(number, 2));
}
