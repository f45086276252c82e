using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>A teacher's own account: the password, and where it is signed in.</summary>
public sealed class AccountModel(Teachers teachers, Sessions sessions, Guesses guesses, ILogger<AccountModel> log) : PageModel
{
    public Teacher Teacher { get; private set; } = null!;
    public string? Problem { get; private set; }
    public string? Done { get; private set; }

    public void OnGet() => Teacher = teachers.One(User.TeacherId())!;

    public void OnPost(string? old, string? password)
    {
        OnGet();
        var account = Teacher.Email.ToLowerInvariant();
        if (guesses.Wait(HttpContext, "password", account) is { } wait)
        {
            Problem = SignInModel.TooMany(wait);
        }
        else if (SignInModel.Hasher.VerifyHashedPassword(Teacher, Teacher.PasswordHash, old ?? "") == PasswordVerificationResult.Failed)
        {
            guesses.Add(HttpContext, "password", account);
            Problem = "The password that you have now is another one. Type it again.";
        }
        else if ((Problem = NewPasswordModel.Fault(password)) is null)
        {
            teachers.ChangePassword(Teacher.Id, SignInModel.Hasher.HashPassword(Teacher, password!));
            sessions.EndAll(Teacher.Id, but: User.Secret());
            Happenings.PasswordChanged(log, Teacher.Id, Teacher.Id);
            Done = "Your password is changed. Everywhere else you are signed out.";
        }
    }
}
