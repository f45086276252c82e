using Fenster.Store;
using Fenster.Web.Hosting;
using Fenster.Words;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>A student's way in by a code.</summary>
public sealed class JoinModel(Codes codes) : PageModel
{
    public string? Code { get; private set; }
    public string? Problem { get; private set; }
    public Language Language => Languages.OfBrowser(Request);

    public IActionResult OnGet(string? code)
    {
        Code = JoinCode.Tidy(code);
        if (Code.Length == 0)
            return Page();
        if (codes.Find(HttpContext, Code, Language, out var problem) is { } assignment)
            return Redirect($"/do/{assignment.Code}");
        Problem = problem;
        return Page();
    }
}
