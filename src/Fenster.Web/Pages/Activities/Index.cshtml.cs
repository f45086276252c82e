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
public sealed class ActivitiesModel(
    Drafts drafts,
    Starters starters,
    Bundles bundles,
    Deletions deletions,
    PageLanguage words,
    ILogger<ActivitiesModel> log
) : PageModel
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

    /// <summary>Cards of a page of the list.</summary>
    public const int PageSize = 48;

    private const int MostSubjects = 200;
    private const int MostStarters = 50;
    private const int MostWords = 8;

    /// <summary>From 1.</summary>
    public int Number { get; private set; } = 1;
    public bool HasMore { get; private set; }

    /// <param name="page">From 1.</param>
    public void OnGet(string? words, string? subject, [FromQuery(Name = "page")] int page = 1)
    {
        (Words, Subject, Number) = (words?.Trim() ?? "", subject?.Trim() ?? "", Math.Clamp(page, 1, 1_000_000));
        Subjects = drafts.Subjects(User.TeacherId(), MostSubjects);
        OwnStarters = [.. drafts.Page(User.TeacherId(), [], null, startersOnly: true, 0, MostStarters).Select(CardOf)];
        var wanted = Words.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries).Take(MostWords).ToList();
        // One more than is shown tells whether there are more.
        var found = drafts.Page(
            User.TeacherId(),
            wanted,
            Subject == "" ? null : Subject,
            startersOnly: false,
            (Number - 1) * PageSize,
            PageSize + 1
        );
        Cards = [.. found.Take(PageSize).Select(CardOf)];
        HasMore = found.Count > PageSize;
    }

    /// <summary>The address of a page of the list, with what is searched for.</summary>
    public string UrlOf(int page) =>
        QueryString
            .Create(
                (KeyValuePair<string, string?>[])
                    [new("words", Words), new("subject", Subject), new("page", page.ToString(CultureInfo.InvariantCulture))]
            )
            .ToString();

    /// <param name="from">A starter that ships, or the id of one of the teacher's own; empty for an empty activity.</param>
    public async Task<IActionResult> OnPostAsync(string? title, string? from)
    {
        NewTitle = title?.Trim() ?? "";
        Problem =
            NewTitle.Length == 0 ? words["activities.noTitle"]
            : NewTitle.Length > Soundness.LongestTitle ? words["activities.longTitle", ("most", Soundness.LongestTitle)]
            : null;
        if (Problem is not null)
        {
            OnGet(null, null, 1);
            return Page();
        }
        var activity = await Task.Run(() => Begun(from ?? "", NewTitle));
        var id = drafts.Add(User.TeacherId(), activity, ActivityDocument.Write(activity));
        return Redirect($"/activities/{id}");
    }

    private Activity Begun(string from, string title) =>
        long.TryParse(from, CultureInfo.InvariantCulture, out var id) && drafts.Find(User.TeacherId(), id) is { } own
            ? ActivityDocument.Read(own.Document) with
            {
                Title = title,
                IsStarter = false,
                PrivateName = "",
            }
            : starters.Make(from, title, User.TeacherId(), words.Language)
                ?? new()
                {
                    Title = title,
                    Language = words.Language.Tag,
                    Direction = words.Language.IsRightToLeft ? WritingDirection.RightToLeft : WritingDirection.LeftToRight,
                    Panes = [new Pane { Id = "pane-1" }],
                };

    /// <summary>A copy of one of the teacher's activities.</summary>
    public IActionResult OnPostCopy(long id)
    {
        if (drafts.Find(User.TeacherId(), id) is not { } draft)
            return NotFound();
        var activity = ActivityDocument.Read(draft.Document);
        var most = Soundness.LongestTitle - words["activities.copyOf", ("title", "")].Length;
        var title = words["activities.copyOf", ("title", activity.Title[..Math.Min(activity.Title.Length, most)])];
        var named = activity with { Title = title };
        var copy = drafts.Add(User.TeacherId(), named, ActivityDocument.Write(named, draft.Document));
        return Redirect($"/activities/{copy}");
    }

    /// <summary>Title of the activity that was deleted just now; null when none was.</summary>
    [TempData]
    public string? DeletedTitle { get; set; }

    /// <summary>Deletes an activity with all its work, which can be brought back for a while.</summary>
    public IActionResult OnPostDelete(long id)
    {
        var title = drafts.TitleOf(User.TeacherId(), id);
        if (title is null || !deletions.DeleteActivity(User.TeacherId(), id))
            return NotFound();
        Happenings.WasDeleted(log, User.TeacherId(), "activity", id);
        DeletedTitle = title;
        return RedirectToPage();
    }

    /// <summary>Takes in an activity that was saved as a file.</summary>
    public async Task<IActionResult> OnPostBundleAsync(IFormFile? bundle)
    {
        try
        {
            if (bundle is null)
                throw new BundleRefused(new("bundle.none"));
            // A form's file waits on the disk.
            await using var stream = bundle.OpenReadStream();
            var (activity, document) = await bundles.Unpack(stream, User.TeacherId(), HttpContext.RequestAborted);
            return Redirect($"/activities/{drafts.Add(User.TeacherId(), activity, document)}");
        }
        catch (Exception exception) when (exception is SaidException or DocumentRefused)
        {
            Problem = words.Language.Say(exception);
            OnGet(null, null, 1);
            return Page();
        }
    }

    private const int MostBundle = 300 * 1024 * 1024;

    /// <param name="Name">Names the look in the style sheet.</param>
    public sealed record State(string Name, string Words);

    /// <param name="Media">Content hash of its picture; null without one.</param>
    public sealed record Card(long Id, string Title, string? Media, State State, string Content, bool IsPublished, string Progress);

    private Card CardOf(ActivityCard card)
    {
        var rows = words["common.rows", ("count", card.Targets)];
        return new(
            card.Id,
            card.PrivateName is "" ? card.Title : card.PrivateName,
            card.Media,
            card.Code is null ? new("draft", words["activities.draft"])
                : card.ClosedAt is null ? new("open", words["activities.open", ("code", card.Code)])
                : new("closed", words["activities.closed"]),
            card.Panes == 1
                ? rows
                : words["history.content", ("pictures", words["common.pictures", ("count", card.Panes)]), ("rows", rows)],
            card.Code is not null,
            card.Working == 0
                ? words["activities.handedIn", ("done", card.HandedIn)]
                : words["activities.handedInAndWorking", ("done", card.HandedIn), ("working", card.Working)]
        );
    }
}
