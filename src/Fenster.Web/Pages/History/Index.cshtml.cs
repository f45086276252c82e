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
    public string? Problem { get; private set; }

    /// <summary>The newest day first, and in it the newest version.</summary>
    public IReadOnlyList<IGrouping<DateOnly, Earlier>> Days { get; private set; } = [];

    public sealed record Earlier(long Slot, DateTimeOffset SavedAt, string Title, string Content, bool CanBeSeen)
    {
        public static Earlier Of(DraftVersionLine version) =>
            new(
                version.Slot,
                version.SavedAt,
                version.Title,
                $"{version.Panes} {(version.Panes == 1 ? "picture" : "pictures")}, "
                    + $"{version.Targets} {(version.Targets == 1 ? "row" : "rows")}",
                version.CanBeSeen
            );
    }

    public IActionResult OnGet(long id)
    {
        if (drafts.Find(User.TeacherId(), id) is not { } draft)
            return NotFound();
        Draft = draft;
        Days =
        [
            .. drafts
                .Versions(User.TeacherId(), id)
                .Select(Earlier.Of)
                .GroupBy(version => DateOnly.FromDateTime(version.SavedAt.UtcDateTime)),
        ];
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
        Problem = "The activity was changed meanwhile, so nothing was gone back to. What it is now is in this list too; choose again.";
        return OnGet(id);
    }
}
