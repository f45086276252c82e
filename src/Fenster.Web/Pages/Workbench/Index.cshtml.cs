using System.Text.Json;
using Fenster.Core.Model;
using Fenster.Core.Revealing;
using Fenster.Formats.Documents;
using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

public sealed class WorkbenchModel(Drafts drafts) : PageModel
{
    public Draft Draft { get; private set; } = null!;
    public RulesInWords Rules { get; private set; } = null!;
    public string FindingsJson { get; private set; } = "";

    public IActionResult OnGet(long id)
    {
        if (drafts.Find(User.TeacherId(), id) is not { } draft) return NotFound();
        Draft = draft;
        var activity = ActivityDocument.Read(draft.Document);
        Rules = RulesInWords.Of(activity);
        FindingsJson = JsonSerializer.Serialize(Readiness.Obstacles(activity), DocumentJson.Options);
        Response.Headers.CacheControl = "no-store";
        return Page();
    }

    /// <summary>The newest draft, for a window that has an older one.</summary>
    public IActionResult OnGetDraft(long id) => drafts.Find(User.TeacherId(), id) is { } draft
        ? new JsonResult(new { draft.Version, document = JsonSerializer.Deserialize<JsonElement>(draft.Document) })
        : NotFound();

    /// <param name="Version">The version that the document was made from.</param>
    public sealed record Save(long Version, JsonElement Document);

    public IActionResult OnPostSave(long id, [FromBody] Save? save)
    {
        if (save is null) throw new DocumentRefused("", "What was to be saved could not be read.");
        var activity = ActivityDocument.Read(save.Document.GetRawText());
        if (drafts.Save(User.TeacherId(), id, save.Version, activity.Title, ActivityDocument.Write(activity, save.Document.GetRawText())) is not { } outcome)
            return NotFound();
        return outcome.Saved
            ? new JsonResult(new { outcome.Version, rules = RulesInWords.Of(activity), findings = Readiness.Obstacles(activity) })
            : new JsonResult(new { outcome.Version, error = "This activity was changed in another window. Nothing of either is lost: choose which one to go on with." }) { StatusCode = StatusCodes.Status409Conflict };
    }
}

/// <summary>The three groups of rules as sentences.</summary>
public sealed record RulesInWords(string Check, string Reveal, string Score)
{
    public static RulesInWords Of(Activity activity) =>
        new(RuleSentences.Check(activity), RuleSentences.Reveal(activity), RuleSentences.Score(activity));
}
