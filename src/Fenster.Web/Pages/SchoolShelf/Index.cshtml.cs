using System.Globalization;
using Fenster.Core.Model;
using Fenster.Formats.Documents;
using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>What teachers lay out for all colleagues on this server, to be looked at as a student and taken as a copy.</summary>
public sealed class SchoolShelfModel(Drafts drafts) : PageModel
{
    /// <summary>Kinds of targets that it can be searched for, as documents name them.</summary>
    public static readonly string[] Kinds = [.. KindNameAttribute.KindsOf(typeof(Target)).Select(kind => kind.Name)];

    private const int PageSize = 24;
    private const int MostWords = 8;

    public IReadOnlyList<ShelvedCard> Cards { get; private set; } = [];
    public string Words { get; private set; } = "";
    public string Subject { get; private set; } = "";
    public string Language { get; private set; } = "";
    public string Kind { get; private set; } = "";
    public int Number { get; private set; } = 1;
    public bool HasMore { get; private set; }
    public bool IsFiltered => Words + Subject + Language + Kind != "";

    public void OnGet(string? words, string? subject, string? language, string? kind, [FromQuery(Name = "page")] int page = 1)
    {
        (Words, Subject, Number) = (words?.Trim() ?? "", subject?.Trim() ?? "", Math.Clamp(page, 1, 1_000_000));
        (Language, Kind) = (language ?? "", Kinds.Contains(kind) ? kind! : "");
        var found = drafts.Shelved(
            [.. Words.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries).Take(MostWords)],
            Subject == "" ? null : Subject,
            Language == "" ? null : Language,
            Kind == "" ? null : Kind,
            (Number - 1) * PageSize,
            PageSize + 1
        );
        (Cards, HasMore) = ([.. found.Take(PageSize)], found.Count > PageSize);
    }

    public string UrlOf(int page) =>
        QueryString
            .Create(
                (KeyValuePair<string, string?>[])
                    [
                        new("words", Words),
                        new("subject", Subject),
                        new("language", Language),
                        new("kind", Kind),
                        new("page", page.ToString(CultureInfo.InvariantCulture)),
                    ]
            )
            .ToString();

    /// <summary>Takes a copy, which is the teacher's own from then on and says whose it was.</summary>
    public IActionResult OnPostTake(long id)
    {
        if (drafts.FindShelved(id) is not { } draft)
            return NotFound();
        var activity = ActivityDocument.Read(draft.Document) with { PrivateName = "", IsStarter = false };
        var copy = drafts.Add(
            User.TeacherId(),
            activity,
            ActivityDocument.Write(activity, draft.Document),
            from: drafts.OwnersOf(id) is [var owner, ..] ? owner : ""
        );
        return Redirect($"/activities/{copy}");
    }
}
