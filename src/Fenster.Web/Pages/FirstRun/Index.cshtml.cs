using System.ComponentModel.DataAnnotations;
using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

public sealed class FirstRunModel(Teachers teachers, FirstWords first, Guesses guesses, Sessions sessions, PageLanguage words) : PageModel
{
    [BindProperty]
    public string? Name { get; set; }

    [BindProperty]
    public string? Email { get; set; }

    [BindProperty]
    public string? Password { get; set; }

    /// <summary>The words that the start wrote into its log: only whoever looks after the server reads them.</summary>
    [BindProperty]
    public string? Words { get; set; }
    public string? Problem { get; private set; }

    public IActionResult OnGet() => teachers.Any() ? Redirect("/sign-in") : Page();

    public async Task<IActionResult> OnPostAsync()
    {
        if (teachers.Any())
            return Redirect("/sign-in");
        if (guesses.Wait(HttpContext, "first") is { } wait)
        {
            Problem = SignInModel.TooMany(words, wait);
            return Page();
        }
        if (!first.Are(Words ?? ""))
        {
            guesses.Add(HttpContext, "first");
            Problem = words["firstRun.wrongWords"];
            return Page();
        }
        var (name, email, password) = ((Name ?? "").Trim(), (Email ?? "").Trim(), Password ?? "");
        Problem =
            name.Length is 0 or > 100 ? words["firstRun.noName"]
            : !new EmailAddressAttribute().IsValid(email) || email.Length > 200 ? words["firstRun.noEmail"]
            : NewPasswordModel.Fault(words, password);
        if (Problem is not null)
            return Page();
        if (teachers.AddFirst(email, name, SignInModel.Hasher.HashPassword(null!, password)) is not { } teacher)
            return Redirect("/sign-in");
        await Person.SignIn(HttpContext, teacher, sessions);
        return Redirect("/activities");
    }
}
