using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>What a person sees in place of a page that can't be shown.</summary>
[IgnoreAntiforgeryToken]
public sealed class ProblemModel : PageModel
{
    public string Heading { get; private set; } = "";
    public string Sentence { get; private set; } = "";

    public IActionResult OnGet(int status) => Say(status);

    public IActionResult OnPost(int status) => Say(status);

    private IActionResult Say(int status)
    {
        (Heading, Sentence) = status switch
        {
            400 => ("That didn't work", "The page you sent this from was too old. Go back, reload it and try again."),
            404 => ("Nothing here", "There is no page at this address. It may have been removed, or it belongs to somebody else."),
            413 => ("Too much at once", "That was more than Fenster takes at once. Nothing was changed."),
            _ => ("Something went wrong", "What was saved before is safe. Go back and try again."),
        };
        Sentence = Problems.Sentence(HttpContext) ?? Sentence;
        return Problems.WantsJson(Request) ? new JsonResult(new { error = Sentence }) : Page();
    }
}
