using System.Globalization;
using Fenster.Formats.Tables;
using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

public sealed class ResultsModel(Drafts drafts, Publications publications, Attempts attempts) : PageModel
{
    public long Id { get; private set; }
    public string Title { get; private set; } = "";
    public string? Code { get; private set; }
    public IReadOnlyList<Line> Lines { get; private set; } = [];
    public int HandedIn { get; private set; }
    public decimal? Mean { get; private set; }
    public decimal Possible { get; private set; }

    public sealed record Line(long Id, string Name, string State, string Score, decimal? Share, string Grade);

    public IActionResult OnGet(long id)
    {
        if (Load(id) is not { } all) return NotFound();
        Lines = [.. all.Select(LineOf)];
        var done = all.Where(attempt => attempt.Handed is not null).Select(attempt => attempt.Handed!).ToList();
        HandedIn = done.Count;
        Mean = done.Count > 0 ? done.Average(handed => handed.Score) : null;
        Possible = done.Count > 0 ? done.Max(handed => handed.Possible) : 0;
        return Page();
    }

    public IActionResult OnGetCsv(long id)
    {
        if (Load(id) is not { } all) return NotFound();
        var csv = ResultsTable.Write(all.Select(a => new ResultLine(a.Name, a.StartedAt, a.Handed?.At, a.Handed?.Score, a.Handed?.Possible, a.Handed?.Grade, a.Handed?.MaximumGrade)));
        return File(csv, "text/csv; charset=utf-8", $"results-{id}.csv");
    }

    private IReadOnlyList<Attempt>? Load(long id)
    {
        if (drafts.Find(User.TeacherId(), id) is not { } draft) return null;
        (Id, Title) = (id, draft.Title);
        if (publications.OfActivity(id) is not { } publication) return [];
        Code = publication.Code;
        return attempts.All(publication.Id);
    }

    private Line LineOf(Attempt attempt) => attempt.Handed is { } handed
        ? new(
            attempt.Id,
            attempt.Name,
            $"Handed in {handed.At.ToString("d MMM, HH:mm", CultureInfo.InvariantCulture)} UTC",
            $"{Number(handed.Score)} of {Number(handed.Possible)}",
            handed.Possible > 0 ? handed.Score / handed.Possible : null,
            $"{handed.Grade.ToString("0.00", CultureInfo.InvariantCulture)} of {Number(handed.MaximumGrade)}")
        : new(attempt.Id, attempt.Name, Working(attempt), "", null, "");

    private string Working(Attempt attempt)
    {
        var placed = attempt.Responses.Values.Sum(response => response.Placements.Length);
        var zones = publications.Activity(attempt.RevisionId).Panes.Sum(pane => pane.Targets.Length);
        return $"Working, {placed} of {zones} placed";
    }

    private static string Number(decimal number) => number.ToString("0.##", CultureInfo.InvariantCulture);
}
