using Fenster.Core.Model;
using Fenster.Core.Revealing;
using Fenster.Store;
using Fenster.Web.Hosting;
using Fenster.Words;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>
/// The page of every student. A device's script asks for what it may see and brings its secret in a header, so that it works where cookies
/// of other sites are blocked; to a device that comes back by its cookie (<see cref="DeviceCookie"/>) the page brings the open work along.
/// </summary>
public sealed class ShellModel(Codes codes, Revisions revisions, Students students, Attempts attempts, TimeProvider clock) : PageModel
{
    /// <summary>How much of a secret it takes to see that it is the device's own: too little to guess the rest.</summary>
    private const int Beginning = 8;

    public Assignment Assignment { get; private set; } = null!;
    public Activity Activity { get; private set; } = null!;
    public Language Language => Language.In(Activity.Language);
    public bool IsRightToLeft => Activity.Direction == WritingDirection.RightToLeft;

    /// <summary>The work that comes along; null where the script has to ask.</summary>
    public StudentWork? Work { get; private set; }

    /// <summary>The beginning of the secret of the device whose work it is.</summary>
    public string WorksOn { get; private set; } = "";

    public IActionResult OnGet(string code)
    {
        if (codes.Find(HttpContext, JoinCode.Tidy(code), Languages.OfBrowser(Request), out _) is not { } assignment)
            return Redirect($"/join/{Uri.EscapeDataString(code)}");
        Assignment = assignment;
        Activity = revisions.Activity(assignment.RevisionId);
        Response.Headers.CacheControl = "no-store";
        if (!assignment.Terms.Sites.IsEmpty)
            Response.Headers.ContentSecurityPolicy = SecurityHeaders.PolicyFramedBy(assignment.Terms.Sites);
        // To part a page from whoever opened it, a browser starts a new process, which a phone waits for. No cookie comes where another site
        // led here, so that there is nothing to part; and a page that may be framed is opened by whoever frames it.
        Response.Headers["Cross-Origin-Opener-Policy"] = "unsafe-none";
        if (DeviceCookie.Of(Request) is { } secret && students.BySecret(assignment.Id, secret) is { } student)
            (Work, WorksOn) = (UnderWay(student), secret[..Beginning]);
        return Page();
    }

    /// <summary>The work of an attempt that goes on: looking at anything else may begin, end or note something, and is asked for.</summary>
    private StudentWork? UnderWay(Student student)
    {
        var now = clock.GetUtcNow();
        if (
            attempts.OfStudent(student.Id) is not [.., var last]
            || attempts.One(Assignment.Id, last.Id) is not { Handed: null } attempt
            || attempt.EndsAt <= now
        )
            return null;
        var seat = new Seat(revisions.Activity(attempt.RevisionId, attempt.Rules), attempt.Seed);
        return StudentWork.Of(Assignment, attempt, student, seat, Moment.Placed, now);
    }
}
