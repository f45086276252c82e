using Fenster.Formats.Tables;
using Fenster.Store;
using Fenster.Web.Hosting;
using Fenster.Words;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

public sealed class ResultsModel(
    Drafts drafts,
    Assignments assignments,
    Revisions revisions,
    Students students,
    Attempts attempts,
    Standings standings,
    PageLanguage words
) : PageModel
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

    /// <summary>The id of the first work by name in which something waits to be marked; 0 for none.</summary>
    public long FirstWaiting { get; private set; }

    /// <summary>What those who handed in earned, as the end of a sentence; empty when nobody did.</summary>
    public string OnAverage =>
        Sums.Mean is { } mean
            ? words[
                "results.average",
                ("mean", Math.Round(mean, 1, MidpointRounding.AwayFromZero)),
                ("possible", Math.Round(Sums.Possible, 2))
            ]
            : "";

    /// <summary>From 1.</summary>
    public int Number { get; private set; } = 1;
    public int Pages => (int)Math.Max(1, (Listed + PageSize - 1) / PageSize);

    /// <summary>How many lines the list has on all its pages.</summary>
    public long Listed => Sums.Of(Filter);
    public AttemptOrder Order { get; private set; }
    public AttemptFilter Filter { get; private set; }

    /// <summary>The filters that show something, with how many lines each.</summary>
    public IReadOnlyList<(AttemptFilter Filter, long Count)> Filters { get; private set; } = [];

    /// <summary>The address of this list with something else chosen.</summary>
    public string With(AttemptOrder order, AttemptFilter filter, int number = 1) =>
        $"?of={Assignment!.Id}&sort={Wording.Value(order)}&show={Wording.Value(filter)}&page={number}";

    /// <summary>Whether it is told of each attempt if it counts.</summary>
    public bool HasSeveral => Assignment is { Terms.Attempts: not 1 };

    /// <summary>Whether the grade together with the assignment that it follows is told.</summary>
    public bool HasTogether => Assignment is { Terms.Resit: not null, Follows: not null };

    /// <param name="Counts">Whether it is the attempt that counts, or one of them.</param>
    public sealed record Line(
        long Id,
        string Name,
        string State,
        bool Counts,
        bool Waits,
        string Score,
        decimal? Share,
        string Grade,
        string Together
    );

    /// <param name="of">An assignment; null for the newest.</param>
    /// <param name="page">From 1; one that is not there stands for the nearest.</param>
    public IActionResult OnGet(
        long id,
        long? of,
        AttemptOrder sort = AttemptOrder.Name,
        AttemptFilter show = AttemptFilter.All,
        [FromQuery(Name = "page")] int page = 1
    )
    {
        if (!Load(id, of))
            return NotFound();
        if (Assignment is not { } assignment)
            return Page();
        Sums = attempts.Sums(assignment.Id);
        // What is no name of a list stands for the usual one.
        (Order, Filter) = (Enum.IsDefined(sort) ? sort : default, Enum.IsDefined(show) ? show : default);
        Filters =
        [
            .. Enum.GetValues<AttemptFilter>()
                .Select(filter => (filter, Sums.Of(filter)))
                .Where(each => each.Item2 > 0 || each.filter == Filter),
        ];
        if (Sums.Waits > 0)
            FirstWaiting = attempts.Page(assignment.Id, most: 1, filter: AttemptFilter.Waits)[0].Id;
        Number = Math.Clamp(page, 1, Pages);
        var lines = attempts.Page(assignment.Id, (Number - 1) * PageSize, PageSize, Order, Filter);
        var standing = standings.Of(assignment, [.. lines.Select(attempt => attempt.StudentId)]);
        Lines = [.. lines.Select(attempt => LineOf(attempt, standing[attempt.StudentId]))];
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
        var csv = ResultsTable.Write(
            [
                words["common.name"],
                words["results.state"],
                words["results.attemptNumber"],
                words["results.counting"],
                words["results.started"],
                words["results.handedInTime"],
                words["common.score"],
                words["results.possible"],
                words["results.grade"],
                words["results.maximumGrade"],
                words["results.together"],
            ],
            Assignment is { } assignment ? Everybody(assignment) : []
        );
        return File(csv, "text/csv; charset=utf-8", $"results-{id}.csv");
    }

    /// <summary>A line for each attempt, and for everybody who made none.</summary>
    private IEnumerable<ResultLine> Everybody(Assignment assignment)
    {
        var made = attempts.Page(assignment.Id).ToLookup(attempt => attempt.StudentId);
        var standing = standings.Of(assignment, [.. made.Select(attempts => attempts.Key)]);
        foreach (var student in students.Roster(assignment, words.Language.Tag))
        {
            var state = words[$"who.state.{Wording.Value(student.State)}"];
            var own = student.StudentId is { } id ? made[id] : [];
            foreach (var attempt in own)
                yield return new(
                    student.Name,
                    state,
                    attempt.Number,
                    HasSeveral && standing[attempt.StudentId].Counted.Contains(attempt.Id) ? words["results.counts"] : "",
                    attempt.StartedAt,
                    attempt.Handed?.At,
                    Score(attempt)?.Score,
                    Score(attempt)?.Possible,
                    Score(attempt)?.Grade,
                    Score(attempt)?.MaximumGrade,
                    standing[attempt.StudentId].Together
                );
            if (!own.Any())
                yield return new(student.Name, state, null, "", null, null, null, null, null, null, null);
        }
    }

    /// <summary>What an attempt is worth; null while it is worked on, and for who was absent or is excused.</summary>
    private static HandedIn? Score(AttemptLine attempt) => attempt.Away is null ? attempt.Handed : null;

    private Line LineOf(AttemptLine attempt, Standing standing)
    {
        var score = Score(attempt);
        return new(
            attempt.Id,
            NameOf(attempt),
            StateOf(attempt),
            HasSeveral && standing.Counted.Contains(attempt.Id),
            attempt is { Waits: true, Away: null },
            score is null ? "" : words["results.outOf", ("part", Plain(score.Score)), ("whole", Plain(score.Possible))],
            score is { Possible: > 0 } ? score.Score / score.Possible : null,
            score is null ? "" : words["results.outOf", ("part", GradeOf(score.Grade)), ("whole", Plain(score.MaximumGrade))],
            standing.Together is { } together ? GradeOf(together) : ""
        );
    }

    private string StateOf(AttemptLine attempt) =>
        attempt.Away is { } away ? words[$"who.state.{Wording.Value(away)}"]
        : attempt.Handed is { } handed
            ? words[
                attempt.Late > 0 ? "results.handedInAtAndLate" : "results.handedInAt",
                ("time", words.DayAndTime(handed.At)),
                ("count", attempt.Late)
            ]
        : Working(attempt);

    private string GradeOf(decimal grade) => grade.ToString("0.00", words.Language.Culture);

    private string NameOf(AttemptLine attempt) =>
        !HasSeveral ? attempt.Name : words["results.attempt", ("name", attempt.Name), ("number", attempt.Number)];

    private string Working(AttemptLine attempt) =>
        words[
            "results.working",
            ("placed", attempt.Placed),
            ("all", revisions.Activity(attempt.RevisionId).Panes.Sum(pane => pane.Targets.Length))
        ];

    private string Plain(decimal number) => words.Language.Number(Math.Round(number, 2));
}
