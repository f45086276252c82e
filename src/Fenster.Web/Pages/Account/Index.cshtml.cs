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
        Problem =
            guesses.Wait(HttpContext, "password", account) is { } wait
                ? $"Too many wrong passwords. Wait {Math.Ceiling(wait.TotalSeconds)} seconds, then try again."
            : SignInModel.Hasher.VerifyHashedPassword(Teacher, Teacher.PasswordHash, old ?? "") == PasswordVerificationResult.Failed
                ? "The password that you have now is another one. Type it again."
            : NewPasswordModel.Fault(password);
        if (Problem is null)
        {
            teachers.ChangePassword(Teacher.Id, SignInModel.Hasher.HashPassword(Teacher, password!));
            sessions.EndAll(Teacher.Id, but: User.Secret());
            Happenings.PasswordChanged(log, Teacher.Id, Teacher.Id);
            Done = "Your password is changed. Everywhere else you are signed out.";
        }
        else if (Problem.StartsWith("The password that", StringComparison.Ordinal))
        {
            guesses.Add(HttpContext, "password", account);
        }
    }
}
