using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

public sealed class SignOutModel(Sessions sessions) : PageModel
{
    public IActionResult OnGet() => Redirect("/");

    public async Task<IActionResult> OnPostAsync()
    {
        if (User.Secret() is { } secret)
            sessions.End(secret);
        await HttpContext.SignOutAsync();
        return Redirect("/sign-in");
    }
}
