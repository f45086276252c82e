using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>What was put right in an assignment, and takes it back.</summary>
public sealed class RegradesModel(OwnAssignments own, Regrades regrades, PageLanguage words) : PageModel
{
    public long Id { get; private set; }
    public string Title { get; private set; } = "";
    public Assignment Assignment { get; private set; } = null!;

    /// <summary>The newest first, each with what it changed.</summary>
    public IReadOnlyList<(Regrade Regrade, IReadOnlyList<RegradeChange> Changes)> All { get; private set; } = [];
    public string? Problem { get; private set; }

    public IActionResult OnGet(long id, long of) => Load(id, of) ? Page() : NotFound();

    private bool Load(long id, long of)
    {
        if (own.Find(User.TeacherId(), id, of) is not var (title, assignment))
            return false;
        (Id, Title, Assignment) = (id, title, assignment);
        All = [.. regrades.Of(of).Select(regrade => (regrade, regrades.Changes(regrade.Id)))];
        return true;
    }

    /// <summary>Whether it is the last that counts, and so can be taken back.</summary>
    public bool CanBeUndone(Regrade regrade) => regrade is { Undoes: null, IsUndone: false } && regrade.ToRevision == Assignment.RevisionId;

    /// <summary>Takes a regrade back.</summary>
    public IActionResult OnPostUndo(long id, long of, long regrade, string? reason)
    {
        if (!Load(id, of) || All.FirstOrDefault(each => each.Regrade.Id == regrade).Regrade is not { } found)
            return NotFound();
        var said = (reason ?? "").Trim();
        Problem =
            said is { Length: 0 or > Regrades.LongestReason } ? words["putRight.needsReason", ("most", Regrades.LongestReason)]
            : !CanBeUndone(found) || regrades.Undo(Assignment, found, said, User.TeacherId()) is null ? words["putRight.meanwhile"]
            : null;
        if (Problem is not null)
            return Page();
        return RedirectToPage(new { of });
    }

    public string Plain(decimal number) => words.Language.Number(Math.Round(number, 2));
}
