using Fenster.Core.Model;
using Fenster.Core.Proofing;
using Fenster.Formats.Documents;
using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>The draft on students' screens of several sizes.</summary>
public sealed class TrialModel(Drafts drafts, PageLanguage words) : PageModel
{
    /// <summary>Screens to try it on, in CSS pixels; common practice.</summary>
    public static readonly (string Name, int Width, int Height)[] Screens =
    [
        ("phone", 360, 640),
        ("tablet", 768, 1024),
        ("laptop", 1280, 720),
    ];

    public long Id { get; private set; }

    /// <summary>False for what lies on the school's shelf and is a colleague's.</summary>
    public bool IsOwn { get; private set; }
    public IReadOnlyList<string> Obstacles { get; private set; } = [];

    /// <summary>What blind guessing earns on average, in words.</summary>
    public string Guess { get; private set; } = "";

    /// <summary>What notes are worth, which a person marks.</summary>
    public decimal NotePoints { get; private set; }

    public IActionResult OnGet(long id)
    {
        var own = drafts.Find(User.TeacherId(), id);
        if ((own ?? drafts.FindShelved(id)) is not { } draft)
            return NotFound();
        (Id, IsOwn) = (id, own is not null);
        var activity = ActivityDocument.Read(draft.Document);
        Obstacles = [.. Readiness.Obstacles(activity).Select(obstacle => words.Language.Say(obstacle.Said)).Distinct()];
        if (Obstacles.Count == 0)
            Guess = words.Language.Say(Reading.Of(activity).Guess);
        NotePoints = activity.Panes.Sum(pane => pane.Weight * pane.Targets.OfType<OpenNote>().Sum(note => note.Points));
        Response.Headers.CacheControl = "no-store";
        return Page();
    }
}
