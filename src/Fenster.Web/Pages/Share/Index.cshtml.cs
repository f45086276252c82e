using Fenster.Core.Model;
using Fenster.Core.Revealing;
using Fenster.Formats.Documents;
using Fenster.Store;
using Fenster.Web.Hosting;
using Fenster.Words;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

public sealed class ShareModel(
    Drafts drafts,
    Publications publications,
    Teachers teachers,
    Bundles bundles,
    PublicAddress address,
    PageLanguage words
) : PageModel
{
    public long Id { get; private set; }
    public Activity Activity { get; private set; } = null!;
    public Publication? Publication { get; private set; }
    public IReadOnlyList<string> Obstacles { get; private set; } = [];

    /// <summary>Whether the draft differs from what is published.</summary>
    public bool HasNews { get; private set; }

    public (string Check, string Reveal, string Score) Rules =>
        (Sentences.Check(Activity), Sentences.Reveal(Activity), Sentences.Score(Activity));

    private RuleSentences Sentences => new(words.Language);
    public bool NeedsAltText => Activity.Panes.Any(pane => string.IsNullOrWhiteSpace(pane.Picture?.AltText));

    /// <summary>How many of its pictures, sounds and videos are lost.</summary>
    public int MissingFiles => bundles.MissingOf(Document);
    public string Host => new Uri(address.Of(Request)).Authority;
    public string Link => $"{address.Of(Request)}/join/{Publication?.Code}";

    private string Document { get; set; } = "";

    public IActionResult OnGet(long id) => Load(id) ? Page() : NotFound();

    public IActionResult OnPostPublish(long id)
    {
        if (!Load(id))
            return NotFound();
        if (Obstacles.Count > 0)
            return Page();
        if (HasNews)
            publications.Publish(id, Document);
        return RedirectToPage();
    }

    public IActionResult OnPostClose(long id)
    {
        if (!Load(id))
            return NotFound();
        publications.Close(id);
        return RedirectToPage();
    }

    public IActionResult OnPostReopen(long id)
    {
        if (!Load(id))
            return NotFound();
        publications.Reopen(id);
        return RedirectToPage();
    }

    /// <summary>What became of a copy for a colleague; null before one was asked for.</summary>
    public string? Given { get; private set; }

    /// <summary>Gives a colleague on this server a copy of the draft, which is theirs from then on.</summary>
    public IActionResult OnPostGive(long id, string? email)
    {
        if (!Load(id))
            return NotFound();
        if (teachers.ByEmail(email?.Trim() ?? "") is not { } colleague)
            Given = words["share.nobody"];
        else if (colleague.Id == User.TeacherId())
            Given = words["share.yourself"];
        else
        {
            drafts.Add(colleague.Id, Activity, Document);
            Given = words["share.given", ("name", colleague.Name)];
        }
        return Page();
    }

    private bool Load(long id)
    {
        if (drafts.Find(User.TeacherId(), id) is not { } draft)
            return false;
        Id = id;
        (Activity, Document) = ActivityDocument.ReadAndWrite(draft.Document);
        Publication = publications.OfActivity(id);
        Obstacles = [.. Readiness.Obstacles(Activity).Select(obstacle => words.Language.Say(obstacle.Said)).Distinct()];
        HasNews = Publication is null || publications.Document(Publication.RevisionId) != Document;
        return true;
    }
}
