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
    Classes classes,
    Releases releases,
    TimeProvider clock,
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

    /// <summary>Whether students make pictures of their own at it.</summary>
    public bool HasOwnPictures =>
        Assignment is { } given
        && revisions.Activity(given.RevisionId).Panes.Any(pane => pane.Targets.Any(target => target.Takes == Core.Model.Doing.Making));
    public IReadOnlyList<Line> Lines { get; private set; } = [];
    public AttemptSums Sums { get; private set; } = new();

    /// <summary>How many people there are, and how many of them have handed in.</summary>
    public CardSums People { get; private set; } = CardSums.None;

    /// <summary>Who has not begun, by name; none where nobody is on a list.</summary>
    public IReadOnlyList<string> NotBegun { get; private set; } = [];

    /// <summary>The id of the first work by name in which something waits to be marked; 0 for none.</summary>
    public long FirstWaiting { get; private set; }

    /// <summary>What those who handed in earned, as the end of a sentence; empty when nobody did.</summary>
    public string OnAverage =>
        Sums.Mean is { } mean
            ? words[
                Sums.IsSoFar ? "results.averageSoFar" : "results.average",
                ("mean", Math.Round(mean, 1, MidpointRounding.AwayFromZero)),
                ("possible", Math.Round(Sums.Possible, 2))
            ]
            : "";

    /// <summary>From 1.</summary>
    public int Number { get; private set; } = 1;
    public int Pages => (int)Math.Max(1, (Listed + PageSize - 1) / PageSize);

    /// <summary>How many lines the list has on all its pages.</summary>
    public long Listed => Chosen.Of(Filter);

    /// <summary>What those come to that have the tag; all where none is chosen.</summary>
    public AttemptSums Chosen { get; private set; } = new();

    /// <summary>Of the members of the class.</summary>
    public IReadOnlyList<string> Tags { get; private set; } = [];

    /// <summary>Of those that are shown; null for all.</summary>
    public string? Tag { get; private set; }

    /// <summary>What is shown beside name, state and score.</summary>
    public IReadOnlySet<ResultColumn> Columns { get; private set; } = new HashSet<ResultColumn>();

    /// <summary>Whether something shows by the teacher's word, so that it can be released here.</summary>
    public bool MayRelease { get; private set; }

    /// <summary>To how many it is released, and how many of them have seen it.</summary>
    public (long Released, long Saw) Out { get; private set; }

    /// <summary>What a step came to that could not be done; null for nothing.</summary>
    [TempData]
    public string? Told { get; set; }
    public AttemptOrder Order { get; private set; }
    public AttemptFilter Filter { get; private set; }

    /// <summary>The filters that show something, with how many lines each.</summary>
    public IReadOnlyList<(AttemptFilter Filter, long Count)> Filters { get; private set; } = [];

    /// <summary>The address of this list with something else chosen.</summary>
    public string With(AttemptOrder order, AttemptFilter filter, int number = 1) =>
        $"?of={Assignment!.Id}&sort={Wording.Value(order)}&show={Wording.Value(filter)}&page={number}{TagQuery(Tag)}";

    /// <summary>The address of this list with another tag chosen.</summary>
    public string WithTag(string? tag) => $"?of={Assignment!.Id}&sort={Wording.Value(Order)}&show={Wording.Value(Filter)}{TagQuery(tag)}";

    private static string TagQuery(string? tag) => tag is null ? "" : $"&tag={Uri.EscapeDataString(tag)}";

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
    )
    {
        public string Started { get; init; } = "";
        public string Took { get; init; } = "";
        public string Tags { get; init; } = "";
        public bool IsReleased { get; init; }
        public bool Differs { get; init; }

        /// <summary>The share that was earned at each scored target, with its name; none while it is worked on.</summary>
        public IReadOnlyList<(string Name, double Share)> Targets { get; init; } = [];
    }

    /// <param name="of">An assignment; null for the newest.</param>
    /// <param name="page">From 1; one that is not there stands for the nearest.</param>
    public IActionResult OnGet(
        long id,
        long? of,
        AttemptOrder sort = AttemptOrder.Name,
        AttemptFilter show = AttemptFilter.All,
        [FromQuery(Name = "page")] int page = 1,
        string? tag = null,
        ResultColumn[]? columns = null
    )
    {
        if (!Load(id, of))
            return NotFound();
        if (Assignment is not { } assignment)
            return Page();
        Columns = ColumnsFrom(columns);
        Tags = assignment.ClassId is { } group && classes.One(User.TeacherId(), group) is { } own ? classes.TagsOf(own) : [];
        if (Tags.Count == 0)
            Columns = Columns.Where(column => column != ResultColumn.Tags).ToHashSet();
        Tag = tag is not null && Tags.Contains(tag) ? tag : null;
        Sums = attempts.Sums(assignment.Id);
        People = attempts.SumsOf([assignment.Id])[assignment.Id];
        if (assignment.ClassId is { } taught)
            NotBegun = students.NotBegun(assignment, classes.LanguageOf(taught) ?? words.Language.Tag);
        Chosen = Tag is null ? Sums : attempts.Sums(assignment.Id, Tag);
        MayRelease = revisions.Activity(assignment.RevisionId, assignment.Rules).WaitsFor(Core.Model.Moment.Released) && Sums.HandedIn > 0;
        if (MayRelease)
            Out = releases.Out(assignment);
        // What is no name of a list stands for the usual one.
        (Order, Filter) = (Enum.IsDefined(sort) ? sort : default, Enum.IsDefined(show) ? show : default);
        Filters =
        [
            .. Enum.GetValues<AttemptFilter>()
                .Select(filter => (filter, Chosen.Of(filter)))
                .Where(each => each.Item2 > 0 || each.filter == Filter),
        ];
        if (Sums.Waits > 0)
            FirstWaiting = attempts.Page(assignment.Id, most: 1, filter: AttemptFilter.Waits)[0].Id;
        Number = Math.Clamp(page, 1, Pages);
        var lines = attempts.Page(assignment.Id, (Number - 1) * PageSize, PageSize, Order, Filter, Tag);
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

    private const string ColumnsCookie = "result-columns";

    /// <summary>The columns that were chosen, now or the last time on this device.</summary>
    private HashSet<ResultColumn> ColumnsFrom(ResultColumn[]? chosen)
    {
        if (chosen is { Length: > 0 })
        {
            // The first stands for the choice itself, so that nothing can be chosen too.
            var columns = chosen.Where(Enum.IsDefined).Where(column => column != ResultColumn.None).ToHashSet();
            Response.Cookies.Append(
                ColumnsCookie,
                string.Join('.', columns),
                new()
                {
                    HttpOnly = true,
                    SameSite = SameSiteMode.Strict,
                    Secure = Request.IsHttps,
                    MaxAge = TimeSpan.FromDays(365),
                    Path = "/activities",
                }
            );
            return columns;
        }
        return Request.Cookies[ColumnsCookie] is { } kept
            ? [.. kept.Split('.').Select(name => Enum.TryParse<ResultColumn>(name, out var column) ? column : ResultColumn.None)]
            : [ResultColumn.Targets, ResultColumn.Grade];
    }

    /// <summary>Releases what waits for the teacher's word to all or to those who are chosen, or takes it back.</summary>
    public IActionResult OnPostRelease(long id, long of, string act, long[] chosen, string? word)
    {
        if (!Load(id, of) || Assignment is null || act is not ("releaseAll" or "releaseChosen" or "takeBackAll" or "takeBackChosen"))
            return NotFound();
        var some = act.EndsWith("Chosen", StringComparison.Ordinal);
        var said = (word ?? "").Trim();
        if (some && chosen.Length == 0)
            Told = words["results.noneChosen"];
        else if (said.Length > Releases.LongestWord)
            Told = words["results.longWord", ("most", Releases.LongestWord)];
        else if (act.StartsWith("release", StringComparison.Ordinal))
        {
            if (!releases.Give(of, some ? chosen : null, User.TeacherId()))
                return NotFound();
        }
        else if (releases.TakeBack(of, some ? chosen : null, said, User.TeacherId()) is var taken and not TakenBack.Yes)
        {
            if (taken == TakenBack.NoSuchAttempt)
                return NotFound();
            Told = words["results.needsWord"];
        }
        return Redirect(
            Request.Headers.Referer is [{ } from]
            && Uri.TryCreate(from, UriKind.Absolute, out var page)
            && Url.IsLocalUrl(page.PathAndQuery)
                ? page.PathAndQuery
                : $"?of={of}"
        );
    }

    public IActionResult OnGetCsv(long id, long? of)
    {
        if (!Load(id, of))
            return NotFound();
        var csv = new ResultsTable(
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
            Assignment is { } assignment ? [.. Everybody(assignment)] : []
        ).Csv(words.Language.Culture);
        return File(csv, "text/csv; charset=utf-8", $"results-{id}.csv");
    }

    /// <summary>A line for each attempt, and for everybody who made none.</summary>
    private IEnumerable<IReadOnlyList<object?>> Everybody(Assignment assignment)
    {
        var made = attempts.Page(assignment.Id).ToLookup(attempt => attempt.StudentId);
        var standing = standings.Of(assignment, [.. made.Select(attempts => attempts.Key)]);
        foreach (var student in students.Roster(assignment, words.Language.Tag))
        {
            var state = words[$"who.state.{Wording.Value(student.State)}"];
            var own = student.StudentId is { } id ? made[id] : [];
            foreach (var attempt in own)
                yield return
                [
                    student.Name,
                    IsSoFar(attempt) ? words["results.stateSoFar", ("state", state)] : state,
                    (decimal)attempt.Number,
                    HasSeveral && standing[attempt.StudentId].Counted.Contains(attempt.Id) ? words["results.counts"] : "",
                    words.LocalTime(attempt.StartedAt),
                    attempt.Handed is { At: var at } ? words.LocalTime(at) : null,
                    Score(attempt)?.Score,
                    Score(attempt)?.Possible,
                    IsSoFar(attempt) ? null : Score(attempt)?.Grade,
                    Score(attempt)?.MaximumGrade,
                    standing[attempt.StudentId].Together,
                ];
            if (!own.Any())
                yield return [student.Name, state, null, "", null, null, null, null, null, null, null];
        }
    }

    /// <summary>What an attempt is worth; null while it is worked on, and for who was absent or is excused.</summary>
    private static HandedIn? Score(AttemptLine attempt) => attempt.Away is null ? attempt.Handed : null;

    /// <summary>Whether something of it waits for a person: it has no grade then.</summary>
    private static bool IsSoFar(AttemptLine attempt) => attempt is { Waits: true, Away: null, Handed: not null };

    private Line LineOf(AttemptLine attempt, Standing standing)
    {
        var score = Score(attempt);
        return new(
            attempt.Id,
            NameOf(attempt),
            StateOf(attempt),
            HasSeveral && standing.Counted.Contains(attempt.Id),
            IsSoFar(attempt),
            score is null
                ? ""
                : words[
                    IsSoFar(attempt) ? "results.outOfSoFar" : "results.outOf",
                    ("part", Plain(score.Score)),
                    ("whole", Plain(score.Possible))
                ],
            score is { Possible: > 0 } ? score.Score / score.Possible : null,
            score is null || IsSoFar(attempt)
                ? ""
                : words["results.outOf", ("part", GradeOf(score.Grade)), ("whole", Plain(score.MaximumGrade))],
            standing.Together is { } together ? GradeOf(together) : ""
        )
        {
            Started = words.DayAndTime(attempt.StartedAt),
            Took = attempt.Handed is { At: var at } ? words.Took(at - attempt.StartedAt) : "",
            Tags = words.Language.Listed(attempt.Tags),
            IsReleased = attempt.Handed is not null && (attempt.ReleasedAt is not null || Assignment!.IsReleasedAt(clock.GetUtcNow())),
            Differs = attempt.Differs,
            Targets = score is not null && Columns.Contains(ResultColumn.Targets) ? SharesOf(attempt.Id) : [],
        };
    }

    private IReadOnlyList<(string Name, double Share)> SharesOf(long id)
    {
        if (attempts.Anywhere(id) is not { } attempt)
            return [];
        var activity = revisions.Activity(attempt.RevisionId, attempt.Rules);
        var names = NamesOf(activity);
        return
        [
            .. Core
                .Scoring.Scorer.Score(activity, attempt.Responses, attempt.Marking.Awards)
                .Panes.SelectMany(pane => pane.Targets.Select(target => (pane.Pane, target)))
                .Where(each => each.target.Possible > 0)
                .Select(each =>
                    (
                        words[
                            "list.named",
                            ("name", names[(each.Pane, each.target.Target)]),
                            ("text", words["results.outOf", ("part", Plain(each.target.Points)), ("whole", Plain(each.target.Possible))])
                        ],
                        (double)(each.target.Points / each.target.Possible)
                    )
                ),
        ];
    }

    /// <summary>What targets are called, by pane and target.</summary>
    private Dictionary<(string Pane, string Target), string> NamesOf(Core.Model.Activity activity)
    {
        if (!names.TryGetValue(activity, out var known))
            names[activity] = known = activity
                .Panes.SelectMany(pane => pane.Targets.Select(target => (pane, target)))
                .ToDictionary(
                    each => (each.pane.Id, each.target.Id),
                    each => TargetWords.Of(words.Language, each.pane, each.target, Core.Model.Response.Empty).Name
                );
        return known;
    }

    private readonly Dictionary<Core.Model.Activity, Dictionary<(string Pane, string Target), string>> names = new(
        ReferenceEqualityComparer.Instance
    );

    /// <summary>Of the possible points of an attempt as tall a bar as was earned of each target, as SVG draws it: 5 wide, 16 high.</summary>
    public static string BarOf(int number, double share) =>
        FormattableString.Invariant(
            $"M{number * 7 + 1} 16v{-Math.Max(1, Math.Round(share * 15, 1))}h5v{Math.Max(1, Math.Round(share * 15, 1))}z"
        );

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

/// <summary>What a list of results shows where it is chosen.</summary>
public enum ResultColumn
{
    /// <summary>Stands for nothing.</summary>
    None,
    Targets,
    Grade,
    Started,
    Took,
    Tags,
}
