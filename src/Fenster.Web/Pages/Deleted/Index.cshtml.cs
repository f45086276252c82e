using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>What a teacher deleted and can still bring back.</summary>
public sealed class DeletedModel(Deletions deletions, PageLanguage words, TimeProvider clock, ILogger<DeletedModel> log) : PageModel
{
    public IReadOnlyList<DeletedThing> All { get; private set; } = [];

    public void OnGet() => All = deletions.Of(User.TeacherId());

    public IActionResult OnPost(string? kind, long id)
    {
        // What is stored is stored by another thread, which knows of no page.
        var language = words.Language;
        var isBack = kind switch
        {
            "activity" => deletions.BringBackActivity(User.TeacherId(), id),
            "class" => deletions.BringBackClass(User.TeacherId(), id),
            "assignment" => deletions.BringBackAssignment(User.TeacherId(), id),
            "work" => deletions.BringBackWork(User.TeacherId(), id, name => language.Say("deleted.backAs", ("name", name))),
            _ => false,
        };
        if (!isBack)
            return NotFound();
        Happenings.BroughtBack(log, User.TeacherId(), kind!, id);
        return RedirectToPage();
    }

    /// <summary>For how many more days it can be brought back.</summary>
    public int DaysLeft(DeletedThing deleted) =>
        Math.Max(0, (int)Math.Ceiling((deleted.DeletedAt + Deletions.Grace - clock.GetUtcNow()).TotalDays));
}
