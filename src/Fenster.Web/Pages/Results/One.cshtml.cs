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

namespace Fenster.Web.Pages;

/// <summary>One student's picture with all marks, for the teacher.</summary>
public sealed class OneStudentModel(
    Drafts drafts,
    Publications publications,
    Attempts attempts,
    Deletions deletions,
    PageLanguage words,
    ILogger<OneStudentModel> log
) : PageModel
{
    public long Id { get; private set; }
    public string Title { get; private set; } = "";
    public Attempt Attempt { get; private set; } = null!;
    public AttemptLine? Before { get; private set; }
    public AttemptLine? After { get; private set; }
    public IReadOnlyList<Row> Rows { get; private set; } = [];
    public string ViewJson { get; private set; } = "";
    public string State { get; private set; } = "";

    /// <param name="State">Names the look in the style sheet.</param>
    public sealed record Row(string Key, string Put, string State, string Points);

    public IActionResult OnGet(long id, long attempt)
    {
        if (drafts.TitleOf(User.TeacherId(), id) is not { } title || publications.OfActivity(id) is not { } publication)
            return NotFound();
        if (attempts.One(publication.Id, attempt) is not { } found)
            return NotFound();
        (Id, Title, Attempt) = (id, title, found);
        (Before, After) = attempts.Neighbours(publication.Id, found);

        var activity = publications.Activity(found.RevisionId);
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

    public IActionResult OnPostLetIn(long id, long attempt)
    {
        if (drafts.TitleOf(User.TeacherId(), id) is null || publications.OfActivity(id) is not { } publication)
            return NotFound();
        attempts.LetIn(publication.Id, attempt);
        return RedirectToPage();
    }

    /// <summary>Deletes the work, which can be brought back for a while.</summary>
    public IActionResult OnPostDelete(long id, long attempt)
    {
        if (!deletions.DeleteAttempt(User.TeacherId(), id, attempt))
            return NotFound();
        Happenings.WasDeleted(log, User.TeacherId(), "attempt", attempt);
        return Redirect($"/activities/{id}/results");
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
