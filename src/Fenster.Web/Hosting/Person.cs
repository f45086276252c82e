using System.Globalization;
using System.Security.Claims;
using Fenster.Store;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;

namespace Fenster.Web.Hosting;

/// <summary>The signed-in teacher.</summary>
internal static class Person
{
    private const string SecretClaim = "fenster-session";

    /// <summary>Claims that are there where the teacher has chosen.</summary>
    public const string LanguageClaim = "fenster-language",
        TimeZoneClaim = "fenster-time-zone";

    public static bool IsTeacher(this ClaimsPrincipal user) => user.Identity?.IsAuthenticated == true;

    public static bool IsAdministrator(this ClaimsPrincipal user) => user.IsInRole(Teacher.Administrator);

    public static long TeacherId(this ClaimsPrincipal user) =>
        long.Parse(user.FindFirstValue(ClaimTypes.NameIdentifier)!, CultureInfo.InvariantCulture);

    /// <summary>The secret of the session; null for nobody.</summary>
    public static string? Secret(this ClaimsPrincipal user) => user.FindFirstValue(SecretClaim);

    public static Task SignIn(HttpContext context, Teacher teacher, Sessions sessions) =>
        context.SignInAsync(PrincipalOf(teacher, sessions.Begin(teacher.Id)), new AuthenticationProperties { IsPersistent = true });

    private static ClaimsPrincipal PrincipalOf(Teacher teacher, string secret) =>
        new(
            new ClaimsIdentity(
                [
                    new(ClaimTypes.NameIdentifier, teacher.Id.ToString(CultureInfo.InvariantCulture)),
                    new(ClaimTypes.Name, teacher.Name),
                    new(ClaimTypes.Role, teacher.Role),
                    new(SecretClaim, secret),
                    .. teacher.Language is { } language ? (Claim[])[new(LanguageClaim, language)] : [],
                    .. teacher.TimeZone is { } zone ? (Claim[])[new(TimeZoneClaim, zone)] : [],
                ],
                CookieAuthenticationDefaults.AuthenticationScheme
            )
        );

    /// <summary>Asks the server for each request whether the session goes on; name and role are those of this moment.</summary>
    public static Task Validate(CookieValidatePrincipalContext context)
    {
        var secret = context.Principal?.Secret();
        var teacher = secret is null ? null : context.HttpContext.RequestServices.GetRequiredService<Sessions>().TeacherOf(secret);
        if (teacher is null)
            context.RejectPrincipal();
        else
            context.ReplacePrincipal(PrincipalOf(teacher, secret!));
        return Task.CompletedTask;
    }
}
