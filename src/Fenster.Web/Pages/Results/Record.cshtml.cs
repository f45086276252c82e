using System.Globalization;
using Fenster.Core.Model;
using Fenster.Store;
using Fenster.Web.Hosting;
using Fenster.Words;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Assignment = Fenster.Store.Assignment;

namespace Fenster.Web.Pages;

/// <summary>What changed work or marks of an assignment beside the students' own moves, the newest first.</summary>
public sealed class RecordModel(OwnAssignments own, Records records, Revisions revisions, Attempts attempts, PageLanguage words) : PageModel
{
    private const int PageSize = 100;

    public long Id { get; private set; }
    public string Title { get; private set; } = "";
    public Assignment Assignment { get; private set; } = null!;
    public IReadOnlyList<Line> Lines { get; private set; } = [];

    /// <summary>From 1.</summary>
    public int Number { get; private set; } = 1;
    public int Pages { get; private set; } = 1;

    /// <param name="Whose">The name of a student; null for everybody.</param>
    public sealed record Line(string When, string Who, string What, string? Whose, long? Attempt);

    public IActionResult OnGet(long id, long of, [FromQuery(Name = "page")] int page = 1)
    {
        if (own.Find(User.TeacherId(), id, of) is not var (title, assignment))
            return NotFound();
        (Id, Title, Assignment) = (id, title, assignment);
        var all = records.Of(of);
        Pages = Math.Max(1, (all.Count + PageSize - 1) / PageSize);
        Number = Math.Clamp(page, 1, Pages);
        Lines = [.. all.Skip((Number - 1) * PageSize).Take(PageSize).Select(LineOf)];
        return Page();
    }

    private Line LineOf(RecordLine line)
    {
        var attempt = line.AttemptId is { } id ? attempts.Anywhere(id) : null;
        var kind = line is { Kind: "releaseWithdrawn", After: not null } ? "releaseWithdrawnWith" : line.Kind;
        return new(
            words.DateAndTime(line.At),
            line.Teacher,
            words[$"results.record.{kind}", ("before", Said(line.Before)), ("after", Said(line.After))],
            line.AttemptId is null ? null : attempt?.Name ?? words["results.removedWork"],
            attempt?.Id
        );
    }

    /// <summary>What stood there, in words where it is points of a target ("pane/target: credit").</summary>
    private string Said(string? text)
    {
        if (text is null)
            return "–";
        foreach (var (start, name) in Names)
            if (text.StartsWith(start, StringComparison.Ordinal))
                return words[
                    "results.record.points",
                    ("target", name),
                    (
                        "percent",
                        decimal.TryParse(text[start.Length..], CultureInfo.InvariantCulture, out var credit)
                            ? credit.ToString("P0", words.Language.Culture)
                            : words["results.record.byMachine"]
                    )
                ];
        return text;
    }

    private IReadOnlyList<(string Start, string Name)> Names =>
        field ??= [
            .. revisions
                .Activity(Assignment.RevisionId)
                .Panes.SelectMany(pane => pane.Targets.Select(target => (pane, target)))
                .Select(each =>
                    (
                        $"{each.pane.Id}/{each.target.Id}: ",
                        TargetWords.Of(words.Language, each.pane, each.target, Core.Model.Response.Empty).Name
                    )
                ),
        ];
}
