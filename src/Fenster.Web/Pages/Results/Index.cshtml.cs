using System.Globalization;
using Fenster.Formats.Tables;
using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

public sealed class ResultsModel(Drafts drafts, Publications publications, PublishedActivities published, Attempts attempts) : PageModel
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
        var done = all.Where(attempt => attempt.HandedInAt is not null).ToList();
        HandedIn = done.Count;
        Mean = done.Count > 0 ? done.Average(attempt => attempt.Score) : null;
        Possible = done.Max(attempt => attempt.Possible) ?? 0;
        return Page();
    }

    public IActionResult OnGetCsv(long id)
    {
        if (Load(id) is not { } all) return NotFound();
        var csv = ResultsTable.Write(all.Select(a => new ResultLine(a.Name, a.StartedAt, a.HandedInAt, a.Score, a.Possible, a.Grade, a.MaximumGrade)));
        return File(csv, "text/csv; charset=utf-8", $"results-{id}.csv");
    }

    private IReadOnlyList<Attempt>? Load(long id)
    {
        if (drafts.Find(User.TeacherId(), id) is not { } draft) return null;
        (Id, Title) = (id, draft.Title);
        if (publications.OfActivity(id) is not { } publication) return [];
        Code = publication.Code;
        return attempts.Of(publication.Id);
    }

    private Line LineOf(Attempt attempt) => new(
        attempt.Id,
        attempt.Name,
        attempt.HandedInAt is { } at ? $"Handed in {at.ToString("d MMM, HH:mm", CultureInfo.InvariantCulture)} UTC" : Working(attempt),
        attempt.Score is { } score ? $"{Number(score)} of {Number(attempt.Possible)}" : "",
        attempt.Possible > 0 ? attempt.Score / attempt.Possible : null,
        attempt.Grade is { } grade ? $"{grade.ToString("0.00", CultureInfo.InvariantCulture)} of {Number(attempt.MaximumGrade)}" : "");

    private string Working(Attempt attempt)
    {
        var placed = attempt.ReadResponses().Values.Sum(response => response.Placements.Length);
        var zones = published.Of(attempt.RevisionId).Panes.Sum(pane => pane.Targets.Length);
        return $"Working, {placed} of {zones} placed";
    }

    private static string Number(decimal? number) => number?.ToString("0.##", CultureInfo.InvariantCulture) ?? "";
}
