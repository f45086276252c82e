using System.Collections.Immutable;
using System.Globalization;
using Fenster.Core.Giving;
using Fenster.Core.Model;
using Fenster.Formats.Bundles;
using Fenster.Formats.Documents;
using Fenster.Formats.Pictures;
using Fenster.Formats.Sounds;
using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

// For activities that come in as files.
[RequestSizeLimit(MostBundle)]
public sealed class ActivitiesModel(
    Drafts drafts,
    Assignments assignments,
    Revisions revisions,
    Attempts attempts,
    Classes classes,
    Starters starters,
    Bundles bundles,
    Deletions deletions,
    PageLanguage words,
    TimeProvider clock,
    ILogger<ActivitiesModel> log
) : PageModel
{
    public IReadOnlyList<Card> Cards { get; private set; } = [];
    public string? Problem { get; private set; }
    public string? NewTitle { get; private set; }

    /// <summary>What is searched for; empty for everything.</summary>
    public string Words { get; private set; } = "";

    /// <summary>The subject that is looked at; empty for all.</summary>
    public string Subject { get; private set; } = "";
    public IReadOnlyList<string> Subjects { get; private set; } = [];
    public WhichActivities Which { get; private set; }

    /// <summary>The class that is looked at; 0 for all.</summary>
    public long Group { get; private set; }
    public IReadOnlyList<SchoolClass> Classes { get; private set; } = [];
    public bool ByTitle { get; private set; }

    /// <summary>What the teacher stands in for, as links.</summary>
    public IReadOnlyList<GoingOn> StandsIn { get; private set; } = [];

    /// <summary>Whether less than everything is asked for.</summary>
    public bool IsFiltered => Words != "" || Subject != "" || Group != 0 || Which != WhichActivities.All;

    /// <summary>The teacher's own beginnings for others.</summary>
    public IReadOnlyList<(long Id, string Title)> OwnStarters { get; private set; } = [];

    /// <summary>Cards of a page of the list.</summary>
    public const int PageSize = 48;

    private const int MostSubjects = 200;
    private const int MostStarters = 50;
    private const int MostWords = 8;

    /// <summary>From 1.</summary>
    public int Number { get; private set; } = 1;
    public bool HasMore { get; private set; }

    /// <param name="group">A class; 0 for all.</param>
    /// <param name="sort"><c>title</c>; anything else is by when they were changed.</param>
    /// <param name="page">From 1.</param>
    public void OnGet(
        string? words,
        string? subject,
        WhichActivities which,
        [FromQuery(Name = "class")] long group = 0,
        string? sort = null,
        [FromQuery(Name = "page")] int page = 1
    )
    {
        (Words, Subject, Number) = (words?.Trim() ?? "", subject?.Trim() ?? "", Math.Clamp(page, 1, 1_000_000));
        (Which, Group, ByTitle) = (Enum.IsDefined(which) ? which : WhichActivities.All, group, sort == "title");
        var teacher = User.TeacherId();
        Subjects = drafts.Subjects(teacher, MostSubjects);
        Classes = classes.Of(teacher);
        StandsIn =
        [
            .. assignments
                .OfStandIn(teacher)
                .Select(assignment => new GoingOn(
                    Told(revisions.Activity(assignment.RevisionId).Title, assignment),
                    $"/activities/{assignment.ActivityId}/share/{assignment.Id}/students"
                )),
        ];
        OwnStarters =
        [
            .. drafts
                .Page(teacher, Wanted.Everything with { Which = WhichActivities.Starters }, 0, MostStarters)
                .Select(card => (card.Id, NameOf(card))),
        ];
        var asked = Words.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries).Take(MostWords).ToList();
        // One more than is shown tells whether there are more.
        var found = drafts.Page(
            teacher,
            new(asked, Subject == "" ? null : Subject, Which, Group == 0 ? null : Group, ByTitle),
            (Number - 1) * PageSize,
            PageSize + 1
        );
        HasMore = found.Count > PageSize;
        var shown = found.Take(PageSize).ToList();
        var given = assignments.OfAll([.. shown.Select(card => card.Id)]);
        var sums = attempts.SumsOf([.. given.SelectMany(each => each).Select(assignment => assignment.Id)]);
        Cards = [.. shown.Select(card => CardOf(card, [.. given[card.Id]], sums))];
    }

    /// <summary>The address of a page of the list, with what is searched for.</summary>
    public string UrlOf(int page) => UrlOf(Which, page);

    /// <summary>The address of the list with another choice of activities.</summary>
    public string UrlOf(WhichActivities which, int page = 1) =>
        QueryString
            .Create(
                (
                    (KeyValuePair<string, string?>[])
                        [
                            new("words", Words),
                            new("subject", Subject),
                            new("which", which == WhichActivities.All ? "" : which.ToString()),
                            new("class", Group == 0 ? "" : Group.ToString(CultureInfo.InvariantCulture)),
                            new("sort", ByTitle ? "title" : ""),
                            new("page", page == 1 ? "" : page.ToString(CultureInfo.InvariantCulture)),
                        ]
                ).Where(part => part.Value != "")
            )
            .ToString()
            is { Length: > 0 } query
            ? query
            : "/activities";

    /// <param name="from">A starter that ships, or the id of one of the teacher's own; empty for an empty activity.</param>
    public async Task<IActionResult> OnPostAsync(string? title, string? from)
    {
        NewTitle = title?.Trim() ?? "";
        Problem =
            NewTitle.Length == 0 ? words["activities.noTitle"]
            : NewTitle.Length > Soundness.LongestTitle ? words["activities.longTitle", ("most", Soundness.LongestTitle)]
            : null;
        if (Problem is not null)
        {
            OnGet(null, null, WhichActivities.All);
            return Page();
        }
        var activity = await Task.Run(() => Begun(from ?? "", NewTitle));
        var id = drafts.Add(User.TeacherId(), activity, ActivityDocument.Write(activity));
        return Redirect($"/activities/{id}");
    }

    private Activity Begun(string from, string title) =>
        long.TryParse(from, CultureInfo.InvariantCulture, out var id) && drafts.Find(User.TeacherId(), id) is { } own
            ? ActivityDocument.Read(own.Document) with
            {
                Title = title,
                IsStarter = false,
                PrivateName = "",
            }
            : starters.Make(from, title, User.TeacherId(), words.Language)
                ?? new()
                {
                    Title = title,
                    Language = words.Language.Tag,
                    Direction = words.Language.IsRightToLeft ? WritingDirection.RightToLeft : WritingDirection.LeftToRight,
                    Panes = [new Pane { Id = "pane-1" }],
                };

    /// <summary>A copy of one of the teacher's activities.</summary>
    public IActionResult OnPostCopy(long id)
    {
        if (drafts.Find(User.TeacherId(), id) is not { } draft)
            return NotFound();
        var activity = ActivityDocument.Read(draft.Document);
        var most = Soundness.LongestTitle - words["activities.copyOf", ("title", "")].Length;
        var title = words["activities.copyOf", ("title", SoundText.Beginning(activity.Title, most))];
        var named = activity with { Title = title };
        var copy = drafts.Add(User.TeacherId(), named, ActivityDocument.Write(named, draft.Document));
        return Redirect($"/activities/{copy}");
    }

    /// <summary>Title of the activity that was deleted just now; null when none was.</summary>
    [TempData]
    public string? DeletedTitle { get; set; }

    [TempData]
    public string? DeletedId { get; set; }

    /// <summary>Puts an activity away, or takes it out again.</summary>
    public IActionResult OnPostArchive(long id, bool away) => drafts.Archive(User.TeacherId(), id, away) ? RedirectToPage() : NotFound();

    /// <summary>Calls an activity otherwise: what students read stays.</summary>
    public IActionResult OnPostRename(long id, string? name)
    {
        if (drafts.Find(User.TeacherId(), id) is not { } draft)
            return NotFound();
        var wanted = SoundText.Of(name ?? "").Trim();
        if (wanted.Length > Soundness.LongestTitle)
        {
            Problem = words["activities.longTitle", ("most", Soundness.LongestTitle)];
            OnGet(null, null, WhichActivities.All);
            return Page();
        }
        var activity = ActivityDocument.Read(draft.Document) with { PrivateName = wanted };
        drafts.Save(User.TeacherId(), id, draft.Version, activity, ActivityDocument.Write(activity, draft.Document));
        return RedirectToPage();
    }

    /// <summary>Brings back what was deleted just now.</summary>
    public IActionResult OnPostUndo(long id) => deletions.BringBackActivity(User.TeacherId(), id) ? RedirectToPage() : NotFound();

    /// <summary>Deletes an activity with all its work, which can be brought back for a while.</summary>
    public IActionResult OnPostDelete(long id)
    {
        var title = drafts.TitleOf(User.TeacherId(), id);
        if (title is null || !deletions.DeleteActivity(User.TeacherId(), id))
            return NotFound();
        Happenings.WasDeleted(log, User.TeacherId(), "activity", id);
        (DeletedTitle, DeletedId) = (title, id.ToString(CultureInfo.InvariantCulture));
        return RedirectToPage();
    }

    /// <summary>Takes in an activity that was saved as a file.</summary>
    public async Task<IActionResult> OnPostBundleAsync(IFormFile? bundle)
    {
        try
        {
            if (bundle is null)
                throw new BundleRefused(new("bundle.none"));
            // A form's file waits on the disk.
            await using var stream = bundle.OpenReadStream();
            var (activity, document) = await bundles.Unpack(stream, User.TeacherId(), HttpContext.RequestAborted);
            return Redirect($"/activities/{drafts.Add(User.TeacherId(), activity, document)}");
        }
        catch (Exception exception) when (exception is SaidException or DocumentRefused)
        {
            Problem = words.Language.Say(exception);
            OnGet(null, null, WhichActivities.All);
            return Page();
        }
    }

    private const int MostBundle = 300 * 1024 * 1024;

    /// <param name="Name">Names the look in the style sheet.</param>
    public sealed record State(string Name, string Words);

    /// <summary>One thing that goes on with an activity, and where more of it is.</summary>
    public sealed record GoingOn(string Words, string Url);

    /// <param name="Media">Content hash of its picture; null without one.</param>
    public sealed record Card(
        long Id,
        string Title,
        string PrivateName,
        string? Media,
        State State,
        string Content,
        IReadOnlyList<GoingOn> GoingOn,
        bool IsArchived
    );

    private static string NameOf(ActivityCard card) => card.PrivateName is "" ? card.Title : card.PrivateName;

    /// <summary>How many assignments a card tells of.</summary>
    private const int MostTold = 2;

    private Card CardOf(ActivityCard card, IReadOnlyList<Assignment> given, IReadOnlyDictionary<long, CardSums> sums)
    {
        var now = clock.GetUtcNow();
        var running = given.Where(assignment => assignment.StateAt(now) is not AssignmentState.Closed).ToList();
        var content = words.Content(card.Panes, card.Targets);
        var told = running
            .Concat(given.Except(running))
            .Take(MostTold)
            .Select(assignment => Told(card.Id, assignment, sums.GetValueOrDefault(assignment.Id, CardSums.None), now));
        var all = given.Select(assignment => sums.GetValueOrDefault(assignment.Id, CardSums.None)).ToList();
        var (late, waits) = (all.Sum(each => each.Late), all.Sum(each => each.Waits));
        var results = $"/activities/{card.Id}/results";
        return new(
            card.Id,
            NameOf(card),
            card.PrivateName,
            card.Media,
            running.Any(assignment => assignment.StateAt(now) == AssignmentState.Open) ? new("open", words["activities.stateOpen"])
                : running.Count > 0 ? new("planned", words["activities.stateSoon"])
                : given.Count > 0 ? new("closed", words["activities.closed"])
                : card.IsStarter ? new("draft", words["activities.stateStarter"])
                : new("draft", words["activities.draft"]),
            card.IsShared ? words["activities.shared", ("content", content)]
                : card.CameFrom != "" ? words["activities.cameFrom", ("content", content), ("name", card.CameFrom)]
                : content,
            [
                .. told,
                .. late > 0 ? (GoingOn[])[new(words["activities.cameLate", ("count", late)], results)] : [],
                .. waits > 0 ? (GoingOn[])[new(words["activities.waitsForMarks", ("count", waits)], results)] : [],
            ],
            card.IsArchived
        );
    }

    private string Told(string title, Assignment assignment) =>
        words["activities.standsIn", ("title", title), ("name", assignment.ClassName ?? assignment.Code)];

    private GoingOn Told(long activity, Assignment assignment, CardSums sums, DateTimeOffset now)
    {
        var whom = assignment.ClassName ?? assignment.Code;
        var (done, all) = (sums.HandedIn, sums.All);
        return assignment.StateAt(now) switch
        {
            AssignmentState.Planned => new(
                words["activities.opensFor", ("name", whom), ("time", words.DayAndTime(assignment.Terms.Opens!.Value.ToDateTimeOffset()))],
                $"/activities/{activity}/share#assignment-{assignment.Id}"
            ),
            AssignmentState.Open when assignment.Terms.Closes is { } closes => new(
                words[
                    "activities.openUntilFor",
                    ("name", whom),
                    ("time", words.DayAndTime(closes.ToDateTimeOffset())),
                    ("done", done),
                    ("all", all)
                ],
                $"/activities/{activity}/results?of={assignment.Id}"
            ),
            _ => new(
                words["activities.handedInOf", ("name", whom), ("done", done), ("all", all)],
                $"/activities/{activity}/results?of={assignment.Id}"
            ),
        };
    }
}
