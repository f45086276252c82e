using System.Collections.Immutable;
using System.Globalization;
using Fenster.Core.Model;
using Fenster.Formats.Bundles;
using Fenster.Formats.Documents;
using Fenster.Formats.Pictures;
using Fenster.Formats.Sounds;
using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

// For activities that come in as files.
[RequestSizeLimit(MostBundle)]
[RequestFormLimits(MultipartBodyLengthLimit = MostBundle)]
public sealed class ActivitiesModel(Drafts drafts, Starters starters, Bundles bundles) : PageModel
{
    public IReadOnlyList<Card> Cards { get; private set; } = [];
    public string? Problem { get; private set; }
    public string? NewTitle { get; private set; }

    /// <summary>What is searched for; empty for everything.</summary>
    public string Words { get; private set; } = "";

    /// <summary>The subject that is looked at; empty for all.</summary>
    public string Subject { get; private set; } = "";
    public IReadOnlyList<string> Subjects { get; private set; } = [];

    /// <summary>The teacher's own beginnings for others.</summary>
    public IReadOnlyList<Card> OwnStarters { get; private set; } = [];

    public void OnGet(string? words, string? subject)
    {
        (Words, Subject) = (words?.Trim() ?? "", subject?.Trim() ?? "");
        var all = drafts.Of(User.TeacherId()).Select(Card.Of).ToList();
        Subjects = [.. all.SelectMany(card => card.Keywords).Distinct(StringComparer.OrdinalIgnoreCase).Order(StringComparer.OrdinalIgnoreCase)];
        OwnStarters = [.. all.Where(card => card.IsStarter)];
        Cards = [.. all.Where(card => (Subject == "" || card.Keywords.Contains(Subject, StringComparer.OrdinalIgnoreCase)) && Words.Split(' ').All(word => card.Text.Contains(word, StringComparison.OrdinalIgnoreCase)))];
    }

    /// <param name="from">A starter that ships, or the id of one of the teacher's own; empty for an empty activity.</param>
    public async Task<IActionResult> OnPostAsync(string? title, string? from)
    {
        NewTitle = title?.Trim() ?? "";
        Problem = NewTitle.Length == 0 ? "Type a title first; it can be changed at any time."
            : NewTitle.Length > Soundness.LongestTitle ? $"That title is too long. It holds up to {Soundness.LongestTitle} characters."
            : null;
        if (Problem is not null)
        {
            OnGet(null, null);
            return Page();
        }
        var activity = await Task.Run(() => Begun(from ?? "", NewTitle));
        var id = drafts.Add(User.TeacherId(), activity.Title, ActivityDocument.Write(activity));
        return Redirect($"/activities/{id}");
    }

    private Activity Begun(string from, string title) =>
        long.TryParse(from, CultureInfo.InvariantCulture, out var id) && drafts.Find(User.TeacherId(), id) is { } own ? ActivityDocument.Read(own.Document) with { Title = title, IsStarter = false, PrivateName = "" }
        : starters.Make(from, title) ?? new() { Title = title, Panes = [new Pane { Id = "pane-1" }] };

    /// <summary>A copy of one of the teacher's activities.</summary>
    public IActionResult OnPostCopy(long id)
    {
        if (drafts.Find(User.TeacherId(), id) is not { } draft) return NotFound();
        var activity = ActivityDocument.Read(draft.Document);
        var title = $"{activity.Title[..Math.Min(activity.Title.Length, Soundness.LongestTitle - 7)]} (copy)";
        var copy = drafts.Add(User.TeacherId(), title, ActivityDocument.Write(activity with { Title = title }, draft.Document));
        return Redirect($"/activities/{copy}");
    }

    /// <summary>Takes in an activity that was saved as a file.</summary>
    public async Task<IActionResult> OnPostBundleAsync(IFormFile? bundle)
    {
        try
        {
            using var bytes = new MemoryStream();
            if (bundle is null) throw new BundleRefused("Choose the file of an activity first.");
            await bundle.CopyToAsync(bytes);
            var (activity, document) = await Task.Run(() => bundles.Unpack(bytes.ToArray()));
            return Redirect($"/activities/{drafts.Add(User.TeacherId(), activity.Title, document)}");
        }
        catch (Exception exception) when (exception is BundleRefused or DocumentRefused or PictureRefused or SoundRefused)
        {
            Problem = exception.Message;
            OnGet(null, null);
            return Page();
        }
    }

    private const int MostBundle = 300 * 1024 * 1024;

    /// <param name="Name">Names the look in the style sheet.</param>
    public sealed record State(string Name, string Words);

    /// <param name="Text">All that a search looks at.</param>
    public sealed record Card(long Id, string Title, Picture? Picture, State State, string Content, bool IsPublished, string Progress, ImmutableArray<string> Keywords, bool IsStarter, string Text)
    {
        public static Card Of(ActivityCard card)
        {
            var activity = ActivityDocument.Read(card.Document);
            var (panes, targets) = (activity.Panes.Length, activity.Panes.Sum(pane => pane.Targets.Length));
            return new(
                card.Id,
                activity.PrivateName is "" ? card.Title : activity.PrivateName,
                activity.Panes.Select(pane => pane.Picture).FirstOrDefault(picture => picture is not null),
                card.Code is null ? new("draft", "Draft") : card.ClosedAt is null ? new("open", $"Open, code {card.Code}") : new("closed", "Closed"),
                $"{(panes == 1 ? "" : $"{panes} pictures, ")}{targets} {(targets == 1 ? "row" : "rows")}",
                card.Code is not null,
                $"{card.HandedIn} handed in{(card.Working > 0 ? $", {card.Working} working" : "")}",
                activity.Keywords, activity.IsStarter,
                string.Join(' ', activity.Keywords.Concat([activity.Title, activity.PrivateName, activity.Description, .. activity.Panes.SelectMany(pane => pane.Labels).Select(label => label.Text)])));
        }
    }
}
