using Fenster.Core.Model;
using Fenster.Formats.Documents;
using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

public sealed class ActivitiesModel(Drafts drafts) : PageModel
{
    public IReadOnlyList<Card> Cards { get; private set; } = [];
    public string? Problem { get; private set; }
    public string? NewTitle { get; private set; }

    public void OnGet() => Cards = [.. drafts.Of(User.TeacherId()).Select(Card.Of)];

    public IActionResult OnPost(string? title)
    {
        NewTitle = title?.Trim() ?? "";
        Problem = NewTitle.Length == 0 ? "Type a title first; it can be changed at any time."
            : NewTitle.Length > Soundness.LongestTitle ? $"That title is too long. It holds up to {Soundness.LongestTitle} characters."
            : null;
        if (Problem is not null)
        {
            OnGet();
            return Page();
        }
        var activity = new Activity { Title = NewTitle, Panes = [new Pane { Id = "pane-1" }] };
        var id = drafts.Add(User.TeacherId(), activity.Title, ActivityDocument.Write(activity));
        return Redirect($"/activities/{id}");
    }

    /// <param name="Name">Names the look in the style sheet.</param>
    public sealed record State(string Name, string Words);

    public sealed record Card(long Id, string Title, Picture? Picture, State State, string Content, bool IsPublished, string Progress)
    {
        public static Card Of(ActivityCard card)
        {
            var activity = ActivityDocument.Read(card.Document);
            var labels = activity.Panes.Sum(pane => pane.Labels.Length);
            return new(
                card.Id,
                card.Title,
                activity.Panes.Select(pane => pane.Picture).FirstOrDefault(picture => picture is not null),
                card.Code is null ? new("draft", "Draft") : card.ClosedAt is null ? new("open", $"Open, code {card.Code}") : new("closed", "Closed"),
                labels == 1 ? "1 label" : $"{labels} labels",
                card.Code is not null,
                $"{card.HandedIn} handed in{(card.Working > 0 ? $", {card.Working} working" : "")}");
        }
    }
}
