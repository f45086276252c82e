using Fenster.Core.Model;
using Fenster.Formats.Documents;
using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>What an activity was, day by day, with a look and a way back.</summary>
public sealed class HistoryModel(Drafts drafts) : PageModel
{
    public Draft Draft { get; private set; } = null!;

    /// <summary>The newest day first, and in it the newest version.</summary>
    public IReadOnlyList<IGrouping<DateOnly, Earlier>> Days { get; private set; } = [];

    public sealed record Earlier(long Slot, DateTimeOffset SavedAt, string Title, string Content, bool CanBeSeen)
    {
        public static Earlier Of(DraftVersion version)
        {
            var activity = ActivityDocument.Read(version.Document);
            var (panes, rows) = (activity.Panes.Length, activity.Panes.Sum(pane => pane.Targets.Length));
            return new(version.Slot, version.SavedAt, activity.Title, $"{panes} {(panes == 1 ? "picture" : "pictures")}, {rows} {(rows == 1 ? "row" : "rows")}", Readiness.Obstacles(activity).Count == 0);
        }
    }

    public IActionResult OnGet(long id)
    {
        if (drafts.Find(User.TeacherId(), id) is not { } draft) return NotFound();
        Draft = draft;
        Days = [.. drafts.Versions(User.TeacherId(), id).Select(Earlier.Of).GroupBy(version => DateOnly.FromDateTime(version.SavedAt.UtcDateTime))];
        return Page();
    }

    /// <summary>Makes an earlier version the draft. What the draft was stays among the versions.</summary>
    public IActionResult OnPost(long id, long slot)
    {
        if (drafts.Find(User.TeacherId(), id) is not { } draft || drafts.Version(User.TeacherId(), id, slot) is not { } earlier) return NotFound();
        drafts.Save(User.TeacherId(), id, draft.Version, ActivityDocument.Read(earlier.Document).Title, earlier.Document);
        return Redirect($"/activities/{id}");
    }
}
