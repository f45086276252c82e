using Fenster.Store;
using Fenster.Web.Hosting;
using Fenster.Words;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>A teacher's own account: how its pages read, the password, and where it is signed in.</summary>
public sealed class AccountModel(Teachers teachers, Sessions sessions, Guesses guesses, PageLanguage words, ILogger<AccountModel> log)
    : PageModel
{
    public Teacher Teacher { get; private set; } = null!;
    public string? Problem { get; private set; }
    public string? Done { get; private set; }

    /// <summary>In which teachers' screens can be read, the pseudo-languages only where one is chosen already.</summary>
    public IEnumerable<Language> Offered =>
        Language
            .All.Where(language => language.IsForTeachers)
            .Concat(Teacher.Language is { } own && Language.Find(own) is { } chosen ? [chosen] : [])
            .DistinctBy(language => language.Tag);

    /// <summary>Names of the IANA time zone database.</summary>
    public static IEnumerable<string> TimeZones { get; } =
    [.. TimeZoneInfo.GetSystemTimeZones().Select(zone => zone.Id).Where(id => id.Contains('/')).Order(StringComparer.Ordinal)];

    public void OnGet() => Teacher = teachers.One(User.TeacherId())!;

    /// <param name="language">Empty for the browser's.</param>
    /// <param name="zone">Empty for the browser's.</param>
    public IActionResult OnPostPreferences(string? language, string? zone)
    {
        OnGet();
        if (
            language is { Length: > 0 } && Language.Find(language)?.IsForTeachers != true
            || zone is { Length: > 0 } && !TimeZones.Contains(zone)
        )
        {
            Problem = words["account.unknownPreference"];
            return Page();
        }
        teachers.Prefer(Teacher.Id, language is { Length: > 0 } ? language : null, zone is { Length: > 0 } ? zone : null);
        return RedirectToPage();
    }

    public void OnPost(string? old, string? password)
    {
        OnGet();
        var account = Teacher.Email.ToLowerInvariant();
        if (guesses.Wait(HttpContext, "password", account) is { } wait)
        {
            Problem = SignInModel.TooMany(words, wait);
        }
        else if (SignInModel.Hasher.VerifyHashedPassword(Teacher, Teacher.PasswordHash, old ?? "") == PasswordVerificationResult.Failed)
        {
            guesses.Add(HttpContext, "password", account);
            Problem = words["account.wrong"];
        }
        else if ((Problem = NewPasswordModel.Fault(words, password)) is null)
        {
            teachers.ChangePassword(Teacher.Id, SignInModel.Hasher.HashPassword(Teacher, password!));
            sessions.EndAll(Teacher.Id, but: User.Secret());
            Happenings.PasswordChanged(log, Teacher.Id, Teacher.Id);
            Done = words["account.changed"];
        }
    }
}
