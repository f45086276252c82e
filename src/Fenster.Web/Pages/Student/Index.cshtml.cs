using Fenster.Core.Model;
using Fenster.Store;
using Fenster.Web.Hosting;
using Fenster.Words;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>
/// The page of every student: a shell without anybody's work. A device's script brings its secret in a header, so that it works where
/// cookies of other sites are blocked.
/// </summary>
public sealed class ShellModel(Codes codes, Revisions revisions) : PageModel
{
    public Assignment Assignment { get; private set; } = null!;
    public Activity Activity { get; private set; } = null!;
    public Language Language => Language.In(Activity.Language);
    public bool IsRightToLeft => Activity.Direction == WritingDirection.RightToLeft;

    public IActionResult OnGet(string code)
    {
        if (codes.Find(HttpContext, JoinCode.Tidy(code), Languages.OfBrowser(Request), out _) is not { } assignment)
            return Redirect($"/join/{Uri.EscapeDataString(code)}");
        Assignment = assignment;
        Activity = revisions.Activity(assignment.RevisionId);
        Response.Headers.CacheControl = "no-store";
        if (!assignment.Terms.Sites.IsEmpty)
            Response.Headers.ContentSecurityPolicy = SecurityHeaders.PolicyFramedBy(assignment.Terms.Sites);
        // To part a page from whoever opened it, a browser starts a new process, which a phone waits for. This one shows nothing that a
        // cookie opens, and one that may be framed is opened by whoever frames it.
        Response.Headers["Cross-Origin-Opener-Policy"] = "unsafe-none";
        return Page();
    }
}
