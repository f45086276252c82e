using Fenster.Core.Giving;
using Fenster.Core.Model;
using Fenster.Core.Revealing;
using Fenster.Formats.Documents;
using Fenster.Store;
using Fenster.Web.Hosting;
using Fenster.Words;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using NodaTime;

namespace Fenster.Web.Pages;

/// <summary>What an activity is given as, and to whom.</summary>
public sealed class ShareModel(
    Drafts drafts,
    Revisions revisions,
    Assignments assignments,
    Classes classes,
    Attempts attempts,
    Teachers teachers,
    Releases releases,
    Deletions deletions,
    Bundles bundles,
    IPost post,
    Invitations invitations,
    PublicAddress address,
    PageLanguage words,
    TimeProvider clock,
    ILogger<ShareModel> log
) : PageModel
{
    public long Id { get; private set; }
    public Activity Activity { get; private set; } = null!;

    /// <summary>All that it was given as, the newest first.</summary>
    public IReadOnlyList<Assignment> All { get; private set; } = [];

    /// <summary>Those of one page of the list.</summary>
    public IReadOnlyList<Card> Cards { get; private set; } = [];

    private const int PageSize = 20;

    /// <summary>The page, from 1.</summary>
    public int Number { get; private set; } = 1;
    public int Pages => Math.Max(1, (All.Count + PageSize - 1) / PageSize);

    [BindProperty(SupportsGet = true, Name = "show")]
    public int Asked { get; set; } = 1;

    /// <summary>Those that can take what has changed.</summary>
    public IEnumerable<Assignment> Open => All.Where(given => given.StateAt(clock.GetUtcNow()) != AssignmentState.Closed);

    public bool AnyIsOld => Latest is { } latest && All.Any(given => given.RevisionId != latest.Id);

    /// <summary>Whether somebody who handed in can have seen the right places.</summary>
    public bool KeyIsOut { get; private set; }

    /// <summary>Those that it can be given to.</summary>
    public IReadOnlyList<SchoolClass> Classes { get; private set; } = [];
    public IReadOnlyList<string> Obstacles { get; private set; } = [];

    /// <summary>The last that was published; null when nothing was.</summary>
    public Revision? Latest { get; private set; }

    /// <summary>Whether the draft differs from it.</summary>
    public bool HasNews { get; private set; }
    public bool NeedsAltText => Activity.Panes.Any(pane => string.IsNullOrWhiteSpace(pane.Picture?.AltText));

    /// <summary>How many of its pictures, sounds and videos are lost.</summary>
    public int MissingFiles => bundles.MissingOf(Document);
    public string Host => new Uri(address.Of(Request)).Authority;

    private string Document { get; set; } = "";

    /// <summary>An assignment as this page shows it.</summary>
    /// <param name="State">Names the look in the style sheet.</param>
    /// <param name="Rules">The three groups of rules.</param>
    /// <param name="KeyIsOut">Whether some of those who handed in can have seen the right places.</param>
    public sealed record Card(
        Assignment Assignment,
        AssignmentState State,
        string StateSaid,
        string Link,
        CardSums Sums,
        IReadOnlyList<Wording> Terms,
        IReadOnlyList<(string Title, IReadOnlyList<Wording> Words)> Rules,
        bool CanBeReleased,
        bool KeyIsOut,
        IReadOnlyList<(string Name, DateTimeOffset Until)> StandIns
    )
    {
        public bool HasOwnRules => Assignment.Terms.Rules != RuleWords.None;
        public long Id => Assignment.Id;
    }

    /// <summary>The assignment whose last change could not be made, and why; null for none.</summary>
    public (long Assignment, string Sentence)? Problem { get; private set; }

    public IActionResult OnGet(long id) => Load(id) ? Page() : NotFound();

    /// <summary>Gives the activity as it is now; to each of several classes at once.</summary>
    /// <param name="to">Ids of classes; 0 for whoever has the code.</param>
    public IActionResult OnPostGive(long id, long[] to)
    {
        if (!Load(id))
            return NotFound();
        if (Obstacles.Count > 0)
            return Page();
        var known = classes.Of(User.TeacherId()).Select(group => group.Id).ToHashSet();
        var groups = to.Distinct().Where(group => group == 0 || known.Contains(group)).ToList();
        if (groups.Count == 0)
            return RedirectToPage();
        assignments.Give(
            id,
            Document,
            [
                .. groups.Select(group =>
                    (group == 0 ? (long?)null : group, new Terms { Joining = group == 0 ? Joining.FreeNames : Joining.MembersByWord })
                ),
            ]
        );
        return RedirectToPage();
    }

    /// <summary>Freezes what the draft is now, for all that is given from now on, and for the assignments that are named.</summary>
    public IActionResult OnPostPublish(long id, long[] take)
    {
        if (!Load(id))
            return NotFound();
        if (Obstacles.Count > 0)
            return Page();
        assignments.Publish(id, Document, take);
        return RedirectToPage();
    }

    /// <summary>Changes one word of the terms.</summary>
    /// <param name="was">What the page showed, so that a colleague's change in between is not lost.</param>
    public IActionResult OnPostSet(long id, long assignment, string? path, string? value, string? was)
    {
        if (!Load(id, assignment) || path is null || Cards.FirstOrDefault(card => card.Id == assignment) is not { } card)
            return NotFound();
        var now = clock.GetUtcNow().ToInstant();
        var before = card
            .Terms.Concat(card.Rules.SelectMany(rule => rule.Words))
            .FirstOrDefault(word => word.Choice?.Path == path.TrimStart('-'));
        var wanted = TermsField.With(card.Assignment.Terms, path, value?.Trim() ?? "", Zone, now);
        var problem =
            before?.Choice is { } choice && was is not null && choice.Value != was ? words["give.changedMeanwhile", ("value", before.Text)]
            : wanted is null || HasFault(card.Assignment, wanted.Rules) ? words["give.noSuchValue", ("value", value ?? "")]
            : wanted.Fault is { } fault ? words[$"give.fault.{Wording.Value(fault)}"]
            : assignments.Change(assignment, card.Assignment.Version, wanted) == true ? null
            : words["give.changedMeanwhile", ("value", before?.Text ?? "")];
        Load(id, assignment);
        Problem = problem is null ? null : (assignment, problem);
        return Page();
    }

    private bool HasFault(Assignment assignment, RuleWords rules) =>
        Soundness.Faults(revisions.Activity(assignment.RevisionId).Under(rules)).Count > 0;

    /// <summary>Does something to an assignment.</summary>
    public IActionResult OnPostDo(long id, long assignment, string act)
    {
        if (!Load(id, assignment) || !Cards.Any(card => card.Id == assignment))
            return NotFound();
        _ = act switch
        {
            "open" => assignments.OpenNow(assignment),
            "close" => assignments.Close(assignment),
            "reopen" => assignments.Reopen(assignment),
            "pause" => assignments.Pause(assignment),
            "resume" => assignments.Resume(assignment),
            "begin" => assignments.BeginTogether(assignment),
            "release" => Released(assignment),
            "delete" => deletions.DeleteAssignment(User.TeacherId(), assignment),
            _ => (bool?)null,
        };
        if (act == "delete")
            Happenings.WasDeleted(log, User.TeacherId(), "assignment", assignment);
        return Back();
    }

    private bool Released(long assignment)
    {
        releases.Give(assignment, null, User.TeacherId());
        return true;
    }

    /// <summary>Lets a colleague stand in until a time.</summary>
    public IActionResult OnPostStandIn(long id, long assignment, string? email, string? until)
    {
        if (!Load(id, assignment) || !Cards.Any(card => card.Id == assignment))
            return NotFound();
        if (teachers.ByEmail(email?.Trim() ?? "") is not { } colleague)
            Problem = (assignment, words["share.nobody"]);
        else if (LocalTimes.Closing(until, Zone) is not { } at || at <= clock.GetUtcNow().ToInstant())
            Problem = (assignment, words["give.noSuchValue", ("value", until ?? "")]);
        else
        {
            assignments.LetStandIn(assignment, colleague.Id, at.ToDateTimeOffset());
            return Back();
        }
        return Page();
    }

    /// <summary>Gives it once more, to those who were away or failed, bound to this one.</summary>
    public IActionResult OnPostAgain(long id, long assignment)
    {
        if (!Load(id, assignment) || Cards.FirstOrDefault(card => card.Id == assignment)?.Assignment is not { } first)
            return NotFound();
        assignments.Give(
            id,
            first.RevisionId,
            first.ClassId,
            first.Terms with
            {
                Opens = null,
                Closes = null,
                Releases = null,
                Resit = Resit.Best,
            },
            follows: first.Id
        );
        return RedirectToPage();
    }

    /// <summary>Whether letters can be sent.</summary>
    public bool HasPost => post.IsOpen;

    /// <summary>Whether they stay in an outbox that can be looked at.</summary>
    public bool HasOutbox => post is Outbox && User.IsAdministrator();

    /// <summary>What became of invitations; null for none.</summary>
    public (long Assignment, string Sentence)? Invited { get; private set; }

    /// <summary>Invites people by mail, each by a letter of their own.</summary>
    /// <param name="addresses">As they were typed: with commas, semicolons or one a line.</param>
    public async Task<IActionResult> OnPostInviteAsync(long id, long assignment, string? addresses)
    {
        if (!Load(id, assignment) || !HasPost || Cards.FirstOrDefault(card => card.Id == assignment) is not { } card)
            return NotFound();
        var typed = (addresses ?? "").Split([',', ';', '\n', '\r'], StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries);
        var wrong = typed.Where(each => !Invitations.IsAddress(each)).ToList();
        var sentence =
            typed.Length == 0 ? words["mail.noAddress"]
            : wrong.Count > 0 ? words["mail.wrongAddress", ("address", wrong[0])]
            : typed.Length > Invitations.MostAtOnce ? words["mail.tooMany", ("most", Invitations.MostAtOnce)]
            : !invitations.MaySend(User.TeacherId(), typed.Length) ? words["mail.tooFast"]
            : null;
        if (sentence is not null)
        {
            Problem = (assignment, sentence);
            return Page();
        }
        var letters = typed
            .Distinct(StringComparer.OrdinalIgnoreCase)
            .Select(to => Letter.Inviting(to, User.Identity!.Name!, Activity, card.Assignment.Code, card.Link))
            .ToList();
        var lost = await post.Send(User.Identity!.Name!, letters, HttpContext.RequestAborted);
        if (lost.Count > 0)
            Problem = (assignment, words["mail.lost", ("count", lost.Count), ("addresses", string.Join(", ", lost.Take(5)))]);
        if (lost.Count < letters.Count)
            Invited = (assignment, words["mail.sent", ("count", letters.Count - lost.Count)]);
        return Page();
    }

    /// <summary>What became of a copy for a colleague; null before one was asked for.</summary>
    public string? Given { get; private set; }

    /// <summary>Gives a colleague on this server a copy of the draft, which is theirs from then on.</summary>
    public IActionResult OnPostGiveCopy(long id, string? email)
    {
        if (!Load(id))
            return NotFound();
        if (teachers.ByEmail(email?.Trim() ?? "") is not { } colleague)
            Given = words["share.nobody"];
        else if (colleague.Id == User.TeacherId())
            Given = words["share.yourself"];
        else
        {
            drafts.Add(colleague.Id, Activity, Document);
            Given = words["share.given", ("name", colleague.Name)];
        }
        return Page();
    }

    /// <summary>Owns the activity together with a colleague from now on.</summary>
    public IActionResult OnPostTogether(long id, string? email)
    {
        if (!Load(id))
            return NotFound();
        if (teachers.ByEmail(email?.Trim() ?? "") is not { } colleague)
            Given = words["share.nobody"];
        else if (colleague.Id != User.TeacherId() && drafts.Share(User.TeacherId(), id, colleague.Id))
            Given = words["share.together", ("name", colleague.Name)];
        Owners = drafts.OwnersOf(id);
        return Page();
    }

    /// <summary>Lays it out on the school's shelf, or takes it back.</summary>
    public IActionResult OnPostShelve(long id, bool isOut)
    {
        if (!Load(id))
            return NotFound();
        if (isOut && Obstacles.Count > 0)
            return Page();
        drafts.Shelve(User.TeacherId(), id, isOut);
        return RedirectToPage();
    }

    public bool IsShelved { get; private set; }

    /// <summary>Names of all who own it.</summary>
    public IReadOnlyList<string> Owners { get; private set; } = [];

    private DateTimeZone Zone => LocalTimes.Zone(Languages.ZoneOf(HttpContext).Id);

    /// <summary>The zone in which times are typed.</summary>
    public string ZoneName => Zone.Id;

    /// <summary>To the page of the list that the teacher was on.</summary>
    private RedirectToPageResult Back() => RedirectToPage(new { show = Number > 1 ? Number : (int?)null });

    /// <param name="about">The assignment that something is done to, which is then on the page; null for none.</param>
    private bool Load(long id, long? about = null)
    {
        if (drafts.Find(User.TeacherId(), id) is not { } draft)
            return false;
        Id = id;
        (Activity, Document) = ActivityDocument.ReadAndWrite(draft.Document);
        Obstacles = [.. Readiness.Obstacles(Activity).Select(obstacle => words.Language.Say(obstacle.Said)).Distinct()];
        Latest = revisions.Latest(id);
        HasNews = Latest is { } latest && revisions.Document(latest.Id) != Document;
        (Owners, IsShelved) = (drafts.OwnersOf(id), drafts.IsShelved(id));
        All = assignments.Of(id);
        var sums = attempts.SumsOf([.. All.Select(assignment => assignment.Id)]);
        var place = All.TakeWhile(assignment => assignment.Id != about).Count();
        Number = Math.Clamp(about is not null && place < All.Count ? place / PageSize + 1 : Asked, 1, Pages);
        Cards =
        [
            .. All.Skip((Number - 1) * PageSize)
                .Take(PageSize)
                .Select(assignment => CardOf(assignment, sums.GetValueOrDefault(assignment.Id, CardSums.None))),
        ];
        KeyIsOut = All.Any(assignment => sums.TryGetValue(assignment.Id, out var sum) && sum.HandedIn > 0 && IsKeyOut(assignment));
        Classes = [.. classes.Of(User.TeacherId()).Where(group => group.ArchivedAt is null)];
        return true;
    }

    private Card CardOf(Assignment assignment, CardSums sums)
    {
        var (terms, course, now) = (assignment.Terms, assignment.Course, clock.GetUtcNow());
        var activity = revisions.Activity(assignment.RevisionId);
        var under = revisions.Activity(assignment.RevisionId, assignment.Rules);
        var (state, isReleased) = (assignment.StateAt(now), Timing.IsReleased(terms, course, now.ToInstant()));
        var sentences = new RuleSentences(words.Language, terms.Rules);
        return new(
            assignment,
            state,
            StateOf(assignment, state),
            $"{address.Of(Request)}/do/{assignment.Code}",
            sums,
            new TermsSentences(words.Language).ForTeacher(terms, assignment.ClassId is not null, under.WaitsFor(Moment.Released), at =>
                LocalTimes.Typed(at, Zone)
            ),
            [
                (words["share.check"], sentences.CheckWords(activity)),
                (words["share.reveal"], sentences.RevealWords(activity)),
                (words["common.score"], sentences.ScoreWords(activity)),
            ],
            under.WaitsFor(Moment.Released) && !isReleased,
            sums.HandedIn > 0 && IsKeyOut(assignment),
            assignments.StandIns(assignment.Id)
        );
    }

    private bool IsKeyOut(Assignment assignment)
    {
        var (under, now) = (revisions.Activity(assignment.RevisionId, assignment.Rules), clock.GetUtcNow());
        var isReleased = Timing.IsReleased(assignment.Terms, assignment.Course, now.ToInstant());
        var ended = new Reach(Moment.HandedIn, assignment.StateAt(now) == AssignmentState.Closed, isReleased);
        return under.Panes.Any(pane => ended.Has(under.RulesOf(pane).Reveal.Key));
    }

    private string StateOf(Assignment assignment, AssignmentState state)
    {
        var (terms, course) = (assignment.Terms, assignment.Course);
        string At(Instant at) => words.DateAndTime(at.ToDateTimeOffset());
        return state switch
        {
            AssignmentState.Planned => words["give.state.planned", ("time", At(terms.Opens!.Value))],
            AssignmentState.Paused => words["give.state.paused"],
            AssignmentState.Closing => words["give.state.closing"],
            AssignmentState.Closed => words["give.state.closed", ("time", At(Timing.EndOf(terms, course)!.Value))],
            _ when terms.BeginsTogether && course.Begun is null => words["give.state.waiting"],
            _ => terms.Closes is { } closes ? words["give.state.openUntil", ("time", At(closes))] : words["give.state.open"],
        };
    }
}
