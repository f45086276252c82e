using Fenster.Core.Giving;
using Fenster.Core.Model;
using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using NodaTime;

namespace Fenster.Web.Pages;

/// <summary>Everybody at one assignment: where they are, and what holds for one of them alone.</summary>
public sealed class WhoModel(
    Drafts drafts,
    Assignments assignments,
    Revisions revisions,
    Classes classes,
    Students students,
    PageLanguage words,
    TimeProvider clock
) : PageModel
{
    public long Id { get; private set; }
    public string Title { get; private set; } = "";
    public Assignment Assignment { get; private set; } = null!;
    public IReadOnlyList<RosterLine> All { get; private set; } = [];

    /// <summary>Lines of a page of the list. Where all fit on one, a guest is made one with another by choosing from them.</summary>
    public const int PageSize = 50;

    /// <summary>What is found of <see cref="All"/>.</summary>
    public IReadOnlyList<RosterLine> Found { get; private set; } = [];

    public IEnumerable<RosterLine> Shown => Found.Skip((Number - 1) * PageSize).Take(PageSize);

    /// <summary>From 1; one that is not there stands for the nearest.</summary>
    public int Number { get; private set; } = 1;

    [BindProperty(SupportsGet = true, Name = "show")]
    public int Asked { get; set; } = 1;

    /// <summary>A part of the names that are looked for; empty for all.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Find { get; set; }

    /// <summary>The list with a page of what is found.</summary>
    public string UrlOf(int number) => $"?show={number}{(string.IsNullOrEmpty(Find) ? "" : $"&find={Uri.EscapeDataString(Find)}")}";

    /// <summary>Back to where the teacher was.</summary>
    private RedirectResult Back() => Redirect(Request.Path + UrlOf(Number));

    public string? Problem { get; private set; }

    /// <summary>False for a colleague who stands in.</summary>
    public bool IsOwner { get; private set; }
    public AssignmentState State => Assignment.StateAt(clock.GetUtcNow());

    /// <summary>How much later it closes by one click.</summary>
    public const int MinutesMore = 10;

    /// <summary>What concerns all: pausing, going on, letting all begin, closing later.</summary>
    public IActionResult OnPostAll(long id, long assignment, string act)
    {
        if (!Load(id, assignment))
            return NotFound();
        _ = act switch
        {
            "pause" => assignments.Pause(assignment),
            "resume" => assignments.Resume(assignment),
            "begin" => assignments.BeginTogether(assignment),
            "extend" => assignments.Extend(assignment, Duration.FromMinutes(MinutesMore)),
            _ => null,
        };
        return Back();
    }

    /// <summary>Who is in the waiting room at this moment.</summary>
    public int Waiting => All.Count(line => line.Begun == 0 && line.SeenAt > clock.GetUtcNow() - StillThere);

    /// <summary>A page that waits asks every five seconds.</summary>
    private static readonly TimeSpan StillThere = TimeSpan.FromSeconds(15);

    public bool IsWaitingRoom => Assignment.Terms.BeginsTogether && Assignment.Course.Begun is null;

    public IActionResult OnGet(long id, long assignment) => Load(id, assignment) ? Page() : NotFound();

    /// <summary>Lets one student go on longer; empty for no longer than the others.</summary>
    /// <param name="at">As it was typed, in the teacher's zone.</param>
    public IActionResult OnPostLater(long id, long assignment, long student, long member, string? at)
    {
        if (!Load(id, assignment) || StudentOf(student, member) is not { } who)
            return NotFound();
        var until = LocalTimes.Closing(at, Zone);
        if (until is null && !string.IsNullOrEmpty(at))
        {
            Problem = words["give.noSuchValue", ("value", at)];
            return Page();
        }
        students.CloseLater(Assignment, who, until?.ToDateTimeOffset());
        return Back();
    }

    public IActionResult OnPostEnd(long id, long assignment, long student, long member, bool back)
    {
        if (!Load(id, assignment) || !IsOwner || StudentOf(student, member) is not { } who)
            return NotFound();
        students.End(Assignment, who, back ? null : clock.GetUtcNow());
        return Back();
    }

    /// <param name="state">Empty for neither.</param>
    public IActionResult OnPostNote(long id, long assignment, long student, long member, StudentState? state)
    {
        if (!Load(id, assignment) || !IsOwner || StudentOf(student, member) is not { } who)
            return NotFound();
        students.Note(Assignment, who, state);
        return Back();
    }

    public IActionResult OnPostWord(long id, long assignment, long student)
    {
        if (!Load(id, assignment) || students.NewWord(assignment, student) is null)
            return NotFound();
        return Back();
    }

    /// <summary>What a guest did becomes the work of a member or of another guest.</summary>
    /// <param name="into">A student's id, or the negative of a member's who has not come yet; 0 where a name was typed.</param>
    public IActionResult OnPostMerge(long id, long assignment, long student, long into, string? name)
    {
        if (!Load(id, assignment) || !IsOwner)
            return NotFound();
        if (into == 0 && !string.IsNullOrWhiteSpace(name))
        {
            var alike = All.Where(line => line.StudentId != student && PersonName.Fold(line.Name) == PersonName.Fold(name)).ToList();
            if (alike is not [var other])
            {
                Problem = words[alike.Count == 0 ? "who.nobodyCalled" : "who.severalCalled", ("name", name.Trim())];
                return Page();
            }
            into = other.StudentId ?? -other.MemberId!.Value;
        }
        if (into < 0)
            into = StudentOf(0, -into) ?? 0;
        if (!students.Merge(Assignment, student, into, User.TeacherId()))
            return NotFound();
        return Back();
    }

    private DateTimeZone Zone => LocalTimes.Zone(Languages.ZoneOf(HttpContext).Id);

    public string Typed(DateTimeOffset at) => LocalTimes.Typed(at.ToInstant(), Zone);

    private long? StudentOf(long student, long member) =>
        student != 0 ? students.One(Assignment.Id, student)?.Id
        : Assignment.ClassId is { } group && classes.Member(group, member) is { } found ? students.Of(Assignment, found)
        : null;

    private bool Load(long id, long assignment)
    {
        if (assignments.One(assignment) is not { } found || found.ActivityId != id)
            return false;
        IsOwner = drafts.TitleOf(User.TeacherId(), id) is not null;
        if (!IsOwner && !assignments.StandsIn(User.TeacherId(), assignment))
            return false;
        (Id, Title, Assignment) = (id, revisions.Activity(found.RevisionId).Title, found);
        var language = found.ClassId is { } group ? classes.LanguageOf(group) : null;
        // The personal words of members open all that the class is given: they are for who teaches it.
        var isTheirs = found.ClassId is { } taught && classes.One(User.TeacherId(), taught) is not null;
        All =
        [
            .. students
                .Roster(found, language ?? words.Language.Tag)
                .Select(line => line.MemberId is null || isTheirs ? line : line with { Word = null }),
        ];
        var sought = PersonName.Fold(Find ?? "");
        Found = sought == "" ? All : [.. All.Where(line => PersonName.Fold(line.Name).Contains(sought, StringComparison.Ordinal))];
        Number = Math.Clamp(Asked, 1, Math.Max(1, (Found.Count + PageSize - 1) / PageSize));
        return true;
    }
}
