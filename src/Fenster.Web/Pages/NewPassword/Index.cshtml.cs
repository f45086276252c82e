using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>A new password by the link that an administrator gave.</summary>
public sealed class NewPasswordModel(Teachers teachers, Sessions sessions, PageLanguage words, ILogger<NewPasswordModel> log) : PageModel
{
    public const int Shortest = 10;
    private const int Longest = 200;

    public Teacher? Teacher { get; private set; }
    public string? Problem { get; private set; }

    /// <summary>What keeps a password from being one; null when nothing does.</summary>
    public static string? Fault(PageLanguage words, string? password) =>
        password is not { Length: >= Shortest } ? words["newPassword.short", ("least", Shortest)]
        : password.Length > Longest ? words["newPassword.long", ("most", Longest)]
        : null;

    public void OnGet(string secret)
    {
        Response.Headers.CacheControl = "no-store";
        Teacher = teachers.ByLink(secret);
    }

    public async Task<IActionResult> OnPostAsync(string secret, string? password)
    {
        OnGet(secret);
        if (Teacher is null || (Problem = Fault(words, password)) is not null)
            return Page();
        teachers.ChangePassword(Teacher.Id, SignInModel.Hasher.HashPassword(Teacher, password!));
        sessions.EndAll(Teacher.Id);
        Happenings.PasswordChanged(log, Teacher.Id, Teacher.Id);
        await Person.SignIn(HttpContext, Teacher, sessions);
        return Redirect("/activities");
    }
}
