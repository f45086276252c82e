using System.Globalization;
using System.Security.Claims;
using Fenster.Store;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;

namespace Fenster.Web.Hosting;

/// <summary>The signed-in teacher.</summary>
internal static class Person
{
    public static long TeacherId(this ClaimsPrincipal user) =>
        long.Parse(user.FindFirstValue(ClaimTypes.NameIdentifier)!, CultureInfo.InvariantCulture);

    public static Task SignIn(HttpContext context, Teacher teacher)
    {
        var identity = new ClaimsIdentity(
            [new(ClaimTypes.NameIdentifier, teacher.Id.ToString(CultureInfo.InvariantCulture)), new(ClaimTypes.Name, teacher.Name)],
            CookieAuthenticationDefaults.AuthenticationScheme
        );
        return context.SignInAsync(new ClaimsPrincipal(identity), new AuthenticationProperties { IsPersistent = true });
    }
}
