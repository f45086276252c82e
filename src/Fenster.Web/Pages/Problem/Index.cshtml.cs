using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>What a person sees in place of a page that can't be shown.</summary>
[IgnoreAntiforgeryToken]
public sealed class ProblemModel(PageLanguage words) : PageModel
{
    public string Heading { get; private set; } = "";
    public string Sentence { get; private set; } = "";

    public IActionResult OnGet(int status) => Say(status);

    public IActionResult OnPost(int status) => Say(status);

    private IActionResult Say(int status)
    {
        words.AreForAnybody();
        (Heading, Sentence) = status switch
        {
            400 => (words["problem.oldPage"], words["problem.oldPageSays"]),
            404 => (words["problem.nothing"], words["problem.nothingSays"]),
            413 => (words["problem.muchAtOnce"], words["problem.tooMuch"]),
            _ => (words["problem.wentWrong"], words["problem.wentWrongSays"]),
        };
        Sentence = Problems.Sentence(HttpContext) ?? Sentence;
        return Problems.WantsJson(Request) ? new JsonResult(new { error = Sentence }) : Page();
    }
}
