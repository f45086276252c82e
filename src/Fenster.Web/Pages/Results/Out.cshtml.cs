using Fenster.Core.Model;
using Fenster.Core.Scoring;
using Fenster.Formats.Tables;
using Fenster.Store;
using Fenster.Web.Hosting;
using Fenster.Words;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Assignment = Fenster.Store.Assignment;

namespace Fenster.Web.Pages;

/// <summary>What a table of marks has a column for.</summary>
public enum MarksColumns
{
    Targets,
    Panes,
    Attempts,
}

/// <summary>Marks for elsewhere: as comma-separated values, as a spreadsheet, or on paper; a line for each student.</summary>
public sealed class MarksOutModel(
    OwnAssignments own,
    Revisions revisions,
    Students students,
    Attempts attempts,
    Standings standings,
    Classes classes,
    Jobs jobs,
    PageLanguage words
) : PageModel
{
    public long Id { get; private set; }
    public string Title { get; private set; } = "";
    public Assignment Assignment { get; private set; } = null!;

    [BindProperty(SupportsGet = true)]
    public MarksColumns Columns { get; set; }

    [BindProperty(SupportsGet = true)]
    public bool Comments { get; set; }

    /// <summary>Whether tags are in it, which tell of needs.</summary>
    [BindProperty(SupportsGet = true)]
    public bool Tags { get; set; }

    /// <summary>As it is shown and printed; the same as the files.</summary>
    public ResultsTable Table { get; private set; } = new([], []);
    public bool HasTags { get; private set; }

    public IActionResult OnGet(long id, long of) => Load(id, of) ? Page() : NotFound();

    public Task<IActionResult> OnGetCsvAsync(long id, long of) =>
        Made(id, of, table => new(table.Csv(words.Language.Culture), "text/csv; charset=utf-8", $"marks-{id}.csv"));

    public Task<IActionResult> OnGetSpreadsheetAsync(long id, long of) =>
        Made(id, of, table =>
            new(table.Spreadsheet(Title), "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", $"marks-{id}.xlsx")
        );

    /// <summary>A file of the whole table, which is made in pieces.</summary>
    private async Task<IActionResult> Made(long id, long of, Func<ResultsTable, JobEnd.Gives> file) =>
        Find(id, of) is { } lines
            ? await jobs.Run(
                User.TeacherId(),
                words["results.marksOf", ("title", Title)],
                Request.Path + With("").Replace("handler=&", "", StringComparison.Ordinal),
                lines.Count,
                isWhole: true,
                job => file(TableOf(lines, job.Step))
            )
            : NotFound();

    /// <summary>So many lines are on the page; the files have all.</summary>
    public const int MostShown = 500;

    /// <summary>How many there are.</summary>
    public int All { get; private set; }

    private bool Load(long id, long of)
    {
        if (Find(id, of) is not { } lines)
            return false;
        All = lines.Count;
        Table = TableOf([.. lines.Take(MostShown)], _ => { });
        return true;
    }

    private IReadOnlyList<string> headings = [];
    private Activity activity = null!;
    private ILookup<long, AttemptLine> made = null!;
    private IReadOnlyDictionary<long, Standing> standing = null!;
    private int most;

    /// <param name="step">Is told how many lines more there are.</param>
    private ResultsTable TableOf(IReadOnlyList<RosterLine> students, Action<int> step) =>
        new(
            headings,
            [
                .. students
                    .Chunk(100)
                    .SelectMany(piece =>
                    {
                        step(piece.Length);
                        return piece.Select(student => LineOf(student, made, standing, activity, most)).ToList();
                    }),
            ]
        );

    /// <summary>All students of an assignment, of whom lines can be made then; null where it is not the teacher's.</summary>
    private IReadOnlyList<RosterLine>? Find(long id, long of)
    {
        if (own.Find(User.TeacherId(), id, of) is not var (title, assignment))
            return null;
        (Id, Title, Assignment) = (id, title, assignment);
        Columns = Enum.IsDefined(Columns) ? Columns : default;
        var group = assignment.ClassId is { } number ? classes.One(User.TeacherId(), number) : null;
        HasTags = group is not null && classes.TagsOf(group).Count > 0;
        activity = revisions.Activity(assignment.RevisionId, assignment.Rules);
        made = attempts.Page(of).ToLookup(attempt => attempt.StudentId);
        most = made.Select(all => all.Count()).DefaultIfEmpty(0).Max();
        standing = standings.Of(assignment, [.. made.Select(all => all.Key)]);
        headings =
        [
            words["common.name"],
            words["results.state"],
            .. Tags && HasTags ? [words["results.tags"]] : (string[])[],
            words["common.score"],
            words["results.possible"],
            words["results.grade"],
            .. Headings(activity, most),
            words["results.awarded"],
            .. Comments ? [words["results.comments"]] : (string[])[],
        ];
        return students.Roster(assignment, words.Language.Tag);
    }

    private IEnumerable<string> Headings(Activity activity, int most) =>
        Columns switch
        {
            MarksColumns.Targets => activity.Panes.SelectMany(pane =>
                pane.Targets.Where(target => target.IsScored).Select(target => NameOf(pane, target))
            ),
            MarksColumns.Panes => activity.Panes.Select((_, i) => words["insight.paceOf", ("number", i + 1)]),
            _ => Enumerable.Range(1, most).Select(number => words["results.attemptOf", ("number", number)]),
        };

    private string NameOf(Pane pane, Target target) => TargetWords.Of(words.Language, pane, target, Core.Model.Response.Empty).Name;

    private IReadOnlyList<object?> LineOf(
        RosterLine student,
        ILookup<long, AttemptLine> made,
        IReadOnlyDictionary<long, Standing> standing,
        Activity activity,
        int most
    )
    {
        var own = student.StudentId is { } id ? made[id].ToList() : [];
        // Who was absent or is excused has no figures at all.
        var handed = own.Where(attempt => attempt is { Handed: not null, Away: null }).ToList();
        var counted = student.StudentId is { } who && standing.TryGetValue(who, out var stands) ? stands : null;
        // Of work in which nothing was done nothing counts; it is still there to be seen.
        var line = handed.LastOrDefault(attempt => attempt.Counts) ?? (handed.Count > 0 ? handed[^1] : null);
        var state = words[$"who.state.{Wording.Value(student.State)}"];
        var attempt = line is null ? null : attempts.Anywhere(line.Id);
        var score = attempt is null
            ? null
            : Scorer.Score(revisions.Activity(attempt.RevisionId, attempt.Rules), attempt.Responses, attempt.Marking.Awards);
        return
        [
            student.Name,
            IsSoFar(counted) ? words["results.stateSoFar", ("state", state)] : state,
            .. Tags && HasTags ? [words.Language.Listed(own.SelectMany(attempt => attempt.Tags).Distinct())] : (object?[])[],
            counted?.Score?.Score ?? score?.Score,
            counted?.Score?.Possible ?? score?.Possible,
            handed.Count == 0 || IsSoFar(counted) ? null : counted?.Together ?? counted?.FinalGrade ?? line?.Handed?.Grade,
            .. Columns switch
            {
                MarksColumns.Targets => activity.Panes.SelectMany(pane =>
                    pane.Targets.Where(target => target.IsScored)
                        .Select(target =>
                            (object?)
                                score
                                    ?.Panes.FirstOrDefault(each => each.Pane == pane.Id)
                                    ?.Targets.FirstOrDefault(each => each.Target == target.Id)
                                    ?.Points
                        )
                ),
                MarksColumns.Panes => activity.Panes.Select(pane =>
                    (object?)score?.Panes.FirstOrDefault(each => each.Pane == pane.Id)?.Score
                ),
                _ => Enumerable
                    .Range(1, most)
                    .Select(number => (object?)handed.FirstOrDefault(each => each.Number == number)?.Handed?.Score),
            },
            // By whom points were given in the machine's place, and where.
            attempt is null
                ? null
                : Awarded(activity, attempt),
            .. Comments ? [attempt is null ? null : Said(attempt)] : (object?[])[],
        ];
    }

    /// <summary>Whether something waits for a person, so that there is no grade to give out.</summary>
    private static bool IsSoFar(Standing? standing) => standing?.Score is { IsSoFar: true };

    private string? Awarded(Activity activity, Attempt attempt)
    {
        var all = activity
            .Panes.SelectMany(pane => pane.Targets.Select(target => (pane, target)))
            .Where(each => attempt.Marking.AwardAt(each.pane.Id, each.target.Id) is not null)
            .Select(each => NameOf(each.pane, each.target))
            .ToList();
        return all.Count == 0 ? null : words.Language.Listed(all);
    }

    private static string? Said(Attempt attempt) =>
        attempt.Marking.Remarks.IsEmpty ? null : string.Join("\n", attempt.Marking.Remarks.Select(remark => remark.Text));

    /// <summary>A cell as it is read.</summary>
    public string Cell(object? cell) =>
        cell switch
        {
            decimal number => words.Language.Number(Math.Round(number, 4)),
            null => "",
            _ => $"{cell}",
        };

    /// <summary>The address with all that is chosen.</summary>
    public string With(string handler) =>
        $"?handler={handler}&of={Assignment.Id}&columns={Columns}&comments={(Comments ? "true" : "false")}&tags={(Tags ? "true" : "false")}";
}
