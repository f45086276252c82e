using Fenster.Formats.Documents;
using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>What an activity was, day by day, with a look and a way back.</summary>
public sealed class HistoryModel(Drafts drafts, PageLanguage words) : PageModel
{
    public Draft Draft { get; private set; } = null!;
    public string? Problem { get; private set; }

    /// <summary>The newest day first, and in it the newest version.</summary>
    public IReadOnlyList<IGrouping<DateTimeOffset, DraftVersionLine>> Days { get; private set; } = [];

    public IActionResult OnGet(long id)
    {
        if (drafts.Find(User.TeacherId(), id) is not { } draft)
            return NotFound();
        Draft = draft;
        Days = [.. drafts.Versions(User.TeacherId(), id).GroupBy(version => words.StartOfDay(version.SavedAt))];
        return Page();
    }

    /// <summary>Makes an earlier version the draft. What the draft was stays among the versions.</summary>
    /// <param name="version">Of the draft that this page showed.</param>
    public IActionResult OnPost(long id, long slot, long version)
    {
        if (
            drafts.Version(User.TeacherId(), id, slot) is not { } earlier
            || drafts.GoBack(User.TeacherId(), id, version, ActivityDocument.Read(earlier.Document), earlier.Document) is not { } outcome
        )
            return NotFound();
        if (outcome.Saved)
            return Redirect($"/activities/{id}");
        Problem = words["history.changed"];
        return OnGet(id);
    }
}
