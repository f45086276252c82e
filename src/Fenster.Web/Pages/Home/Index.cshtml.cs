using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

public sealed class HomeModel(Teachers teachers, PageLanguage words) : PageModel
{
    public IActionResult OnGet()
    {
        if (User.Identity?.IsAuthenticated == true)
            return Redirect("/activities");
        words.AreForAnybody();
        return teachers.Any() ? Page() : Redirect("/first-run");
    }
}
