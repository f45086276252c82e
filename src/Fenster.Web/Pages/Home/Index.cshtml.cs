using Fenster.Store;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

public sealed class HomeModel(Teachers teachers) : PageModel
{
    public IActionResult OnGet()
    {
        if (User.Identity?.IsAuthenticated == true)
            return Redirect("/activities");
        return teachers.Any() ? Page() : Redirect("/first-run");
    }
}
