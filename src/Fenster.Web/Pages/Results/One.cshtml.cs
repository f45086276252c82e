using System.Globalization;
using System.Text.Json;
using Fenster.Core.Checking;
using Fenster.Core.Model;
using Fenster.Core.Revealing;
using Fenster.Core.Scoring;
using Fenster.Formats.Documents;
using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>One student's picture with all marks, for the teacher.</summary>
public sealed class OneStudentModel(Drafts drafts, Publications publications, Attempts attempts) : PageModel
{
    public long Id { get; private set; }
    public string Title { get; private set; } = "";
    public Attempt Attempt { get; private set; } = null!;
    public Attempt? Before { get; private set; }
    public Attempt? After { get; private set; }
    public IReadOnlyList<Row> Rows { get; private set; } = [];
    public string ViewJson { get; private set; } = "";
    public string State { get; private set; } = "";
    public bool IsFree => Attempt.IsFree;

    /// <param name="State">Names the look in the style sheet.</param>
    public sealed record Row(string Key, string Put, string State, string Points);

    public IActionResult OnGet(long id, long attempt)
    {
        if (drafts.Find(User.TeacherId(), id) is not { } draft || publications.OfActivity(id) is not { } publication) return NotFound();
        var all = attempts.All(publication.Id);
        if (all.FirstOrDefault(a => a.Id == attempt) is not { } found) return NotFound();
        (Id, Title, Attempt) = (id, draft.Title, found);
        var index = all.ToList().IndexOf(found);
        Before = index > 0 ? all[index - 1] : null;
        After = index < all.Count - 1 ? all[index + 1] : null;

        var activity = publications.Activity(found.RevisionId);
        var responses = found.Responses;
        var everything = activity with { Rules = activity.Rules with { Reveal = new() } };
        ViewJson = JsonSerializer.Serialize(StudentView.At(Moment.HandedIn, new Seat(everything, found.Seed), responses), DocumentJson.Options);
        var score = Scorer.Score(activity, responses);
        State = found.Handed is { At: var at }
            ? $"{Number(score.Score)} of {Number(score.Possible)} points, handed in {at.ToString("d MMMM, HH:mm", CultureInfo.InvariantCulture)} UTC."
            : $"Still working. As it stands, {Number(score.Score)} of {Number(score.Possible)} points.";
        Rows = [.. activity.Panes.SelectMany((pane, i) => RowsOf(pane, responses.GetValueOrDefault(pane.Id, Core.Model.Response.Empty), score.Panes[i]))];
        return Page();
    }

    public IActionResult OnPostSetFree(long id, long attempt)
    {
        if (drafts.Find(User.TeacherId(), id) is null || publications.OfActivity(id) is not { } publication) return NotFound();
        attempts.SetFree(publication.Id, attempt);
        return RedirectToPage();
    }

    private static IEnumerable<Row> RowsOf(Pane pane, Core.Model.Response response, PaneScore score)
    {
        var texts = pane.Labels.ToDictionary(label => label.Id, label => label.Text);
        var states = Checker.Check(pane, response).Targets.ToDictionary(mark => mark.Target, mark => mark.State);
        var points = score.Targets.ToDictionary(target => target.Target);
        return pane.Targets.OfType<DropZone>().Select(zone => new Row(
            string.Join(" or ", zone.Accepts.Select(accepted => texts[accepted.Label])),
            string.Join(", ", response.Placements.Where(p => p.Zone == zone.Id).Select(p => texts[p.Label])) is { Length: > 0 } put ? put : "nothing",
            states[zone.Id].ToString().ToLowerInvariant(),
            $"{Number(points[zone.Id].Points)} of {Number(points[zone.Id].Possible)}"));
    }

    private static string Number(decimal number) => number.ToString("0.##", CultureInfo.InvariantCulture);
}
