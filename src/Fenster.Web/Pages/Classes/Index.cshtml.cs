using Fenster.Core.Model;
using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>A teacher's classes.</summary>
public sealed class ClassesModel(Classes classes, PageLanguage words) : PageModel
{
    public const int LongestName = 80;

    public IReadOnlyList<SchoolClass> All { get; private set; } = [];
    public string? Problem { get; private set; }
    public string Name { get; private set; } = "";

    /// <summary>Of the class that was deleted just now; null when none was.</summary>
    [TempData]
    public string? DeletedName { get; set; }

    public void OnGet() => All = classes.Of(User.TeacherId());

    /// <param name="language">Of its names and words; a BCP 47 tag.</param>
    public IActionResult OnPost(string? name, string? language)
    {
        Name = SoundText.Of(name ?? "").Trim();
        Problem =
            Name.Length == 0 ? words["classes.noName"]
            : Name.Length > LongestName ? words["classes.longName", ("most", LongestName)]
            : null;
        if (Problem is null)
            return Redirect($"/classes/{classes.Make(User.TeacherId(), Name, Fenster.Words.Language.In(language ?? "").Tag)}");
        OnGet();
        return Page();
    }
}
