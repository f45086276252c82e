using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

public sealed class SignInModel(Teachers teachers, Sessions sessions, Guesses guesses, PageLanguage words, ILogger<SignInModel> log)
    : PageModel
{
    internal static readonly PasswordHasher<Teacher> Hasher = new();

    // Verified when there is no such teacher, so that the answer takes as long.
    private static readonly string NobodysHash = Hasher.HashPassword(null!, Guid.NewGuid().ToString());

    [BindProperty]
    public string? Email { get; set; }

    [BindProperty]
    public string? Password { get; set; }

    [BindProperty(Name = "then", SupportsGet = true)]
    public string? Then { get; set; }
    public string? Problem { get; private set; }

    internal static string TooMany(PageLanguage words, TimeSpan wait) =>
        words["signIn.tooMany", ("count", Math.Ceiling(wait.TotalSeconds))];

    public void OnGet() { }

    public async Task<IActionResult> OnPostAsync()
    {
        var email = (Email ?? "").Trim();
        var account = email.ToLowerInvariant();
        if (guesses.Wait(HttpContext, "password", account) is { } wait)
        {
            Problem = TooMany(words, wait);
            return Page();
        }
        var teacher = teachers.ByEmail(email);
        var verified = Hasher.VerifyHashedPassword(null!, teacher?.PasswordHash ?? NobodysHash, Password ?? "");
        if (teacher is null || verified == PasswordVerificationResult.Failed)
        {
            guesses.Add(HttpContext, "password", account);
            Happenings.SignInFailed(log, teacher?.Id ?? 0);
            Problem = words["signIn.wrong"];
            return Page();
        }
        if (verified == PasswordVerificationResult.SuccessRehashNeeded)
            teachers.ChangePassword(teacher.Id, Hasher.HashPassword(teacher, Password ?? ""));
        KnownDevice.Remember(HttpContext, $"password {account}");
        await Person.SignIn(HttpContext, teacher, sessions);
        Happenings.SignedIn(log, teacher.Id);
        return LocalRedirect(Url.IsLocalUrl(Then) ? Then! : "/activities");
    }
}
