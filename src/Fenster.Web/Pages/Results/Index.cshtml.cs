using Fenster.Formats.Tables;
using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

public sealed class ResultsModel(Drafts drafts, Assignments assignments, Revisions revisions, Attempts attempts, PageLanguage words)
    : PageModel
{
    /// <summary>Lines of a page of the list.</summary>
    public const int PageSize = 50;

    public long Id { get; private set; }
    public string Title { get; private set; } = "";

    /// <summary>What the activity was given as, the newest first.</summary>
    public IReadOnlyList<Assignment> All { get; private set; } = [];

    /// <summary>The one that is looked at; null when it was not given yet.</summary>
    public Assignment? Assignment { get; private set; }
    public IReadOnlyList<Line> Lines { get; private set; } = [];
    public AttemptSums Sums { get; private set; } = new();

    /// <summary>What those who handed in earned, as the end of a sentence; empty when nobody did.</summary>
    public string OnAverage =>
        Sums.Mean is { } mean ? words["results.average", ("mean", Math.Round(mean, 1)), ("possible", Math.Round(Sums.Possible, 2))] : "";

    /// <summary>From 1.</summary>
    public int Number { get; private set; } = 1;
    public int Pages => (int)Math.Max(1, (Sums.All + PageSize - 1) / PageSize);

    public sealed record Line(long Id, string Name, string State, string Score, decimal? Share, string Grade);

    /// <param name="of">An assignment; null for the newest.</param>
    /// <param name="page">From 1; one that is not there stands for the nearest.</param>
    public IActionResult OnGet(long id, long? of, [FromQuery(Name = "page")] int page = 1)
    {
        if (!Load(id, of))
            return NotFound();
        if (Assignment is not { } assignment)
            return Page();
        Sums = attempts.Sums(assignment.Id);
        Number = Math.Clamp(page, 1, Pages);
        Lines = [.. attempts.Page(assignment.Id, (Number - 1) * PageSize, PageSize).Select(LineOf)];
        return Page();
    }

    private bool Load(long id, long? of)
    {
        if (drafts.TitleOf(User.TeacherId(), id) is not { } title)
            return false;
        (Id, Title, All) = (id, title, assignments.Of(id));
        Assignment = of is null ? (All.Count > 0 ? All[0] : null) : All.FirstOrDefault(assignment => assignment.Id == of);
        return of is null || Assignment is not null;
    }

    public IActionResult OnGetCsv(long id, long? of)
    {
        if (!Load(id, of))
            return NotFound();
        var all = Assignment is { } assignment ? attempts.Page(assignment.Id) : [];
        var csv = ResultsTable.Write(
            all.Select(a => new ResultLine(
                a.Name,
                a.StartedAt,
                a.Handed?.At,
                a.Handed?.Score,
                a.Handed?.Possible,
                a.Handed?.Grade,
                a.Handed?.MaximumGrade
            ))
        );
        return File(csv, "text/csv; charset=utf-8", $"results-{id}.csv");
    }

    private Line LineOf(AttemptLine attempt) =>
        attempt.Handed is { } handed
            ? new(
                attempt.Id,
                NameOf(attempt),
                words[
                    attempt.Late > 0 ? "results.handedInAtAndLate" : "results.handedInAt",
                    ("time", words.DayAndTime(handed.At)),
                    ("count", attempt.Late)
                ],
                words["results.outOf", ("part", Plain(handed.Score)), ("whole", Plain(handed.Possible))],
                handed.Possible > 0 ? handed.Score / handed.Possible : null,
                words[
                    "results.outOf",
                    ("part", handed.Grade.ToString("0.00", words.Language.Culture)),
                    ("whole", Plain(handed.MaximumGrade))
                ]
            )
            : new(attempt.Id, NameOf(attempt), Working(attempt), "", null, "");

    private string NameOf(AttemptLine attempt) =>
        Assignment?.Terms.Attempts == 1 ? attempt.Name : words["results.attempt", ("name", attempt.Name), ("number", attempt.Number)];

    private string Working(AttemptLine attempt) =>
        words[
            "results.working",
            ("placed", attempt.Placed),
            ("all", revisions.Activity(attempt.RevisionId).Panes.Sum(pane => pane.Targets.Length))
        ];

    private string Plain(decimal number) => words.Language.Number(Math.Round(number, 2));
}
