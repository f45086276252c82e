using Fenster.Core.Giving;
using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>The way into one assignment, to be projected or printed.</summary>
public class WayInModel(Drafts drafts, Assignments assignments, Classes classes, PublicAddress address, TimeProvider clock) : PageModel
{
    public long Id { get; private set; }
    public string Title { get; private set; } = "";
    public Assignment Assignment { get; private set; } = null!;
    public IReadOnlyList<Member> Members { get; private set; } = [];
    public string Link => $"{address.Of(Request)}/do/{Assignment.Code}";
    public string Host => new Uri(address.Of(Request)).Authority;
    public AssignmentState State => Assignment.StateAt(clock.GetUtcNow());

    public IActionResult OnGet(long id, long assignment)
    {
        if (drafts.TitleOf(User.TeacherId(), id) is not { } title)
            return NotFound();
        if (assignments.One(assignment) is not { } found || found.ActivityId != id)
            return NotFound();
        (Id, Title, Assignment) = (id, title, found);
        if (found.ClassId is { } group && classes.One(User.TeacherId(), group) is { } known)
            Members = classes.Members(known);
        return Page();
    }
}
