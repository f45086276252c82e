using System.Text.Json;
using Fenster.Core.Model;
using Fenster.Core.Revealing;
using Fenster.Formats.Documents;
using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>An activity's spots as a game of teams. Scores and what was opened stay in the browser.</summary>
public sealed class GameModel(Drafts drafts) : PageModel
{
    public long Id { get; private set; }
    public Activity Activity { get; private set; } = null!;
    public string View { get; private set; } = "";

    public IActionResult OnGet(long id)
    {
        if ((drafts.Find(User.TeacherId(), id) ?? drafts.FindShelved(id)) is not { } draft)
            return NotFound();
        (Id, Activity) = (id, ActivityDocument.Read(draft.Document));
        var fit = Activity.Panes.Where(GamePane.Fits).Select(pane => pane.Id).ToHashSet();
        if (fit.Count == 0)
            return RedirectToPage("/Board/Index", new { id });
        // Each pane as the board shows it; what is no card is not played.
        View = JsonSerializer.Serialize(
            BoardView.Of(
                Activity with
                {
                    PaneOrder = PaneOrder.AsListed,
                    Panes = [.. Activity.Panes.Where(pane => fit.Contains(pane.Id))],
                }
            ),
            DocumentJson.Options
        );
        Response.Headers.CacheControl = "no-store";
        return Page();
    }
}
