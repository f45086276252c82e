using Fenster.Core.Revealing;
using Fenster.Store;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Fenster.Web.Pages;

/// <summary>A student's own work on an activity, before and after handing in.</summary>
public sealed class StudentModel(Publications publications, Attempts attempts, TimeProvider clock) : PageModel
{
    public StudentWork Work { get; private set; } = null!;

    public IActionResult OnGet(string code)
    {
        if (
            publications.ByCode(JoinCode.Tidy(code)) is not { } publication
            || Request.Cookies[DeviceCookie.Name(publication)] is not { } secret
            || attempts.DeviceOf(publication.Id, secret) is not { } device
            || attempts.Of(device) is not { } attempt
        )
            return Redirect($"/join/{Uri.EscapeDataString(code)}");
        if (publication.IsShut(clock.GetUtcNow()) && attempt.Handed is null)
            return Redirect($"/join/{publication.Code}");
        Work = new(
            StudentView.At(StudentEndpoints.ReachOf(publication, attempt), device.Seat, attempt.Responses),
            attempt.Name,
            $"/do/{publication.Code}/place",
            $"/do/{publication.Code}/hand-in",
            $"attempt-{attempt.Id}"
        );
        Response.Headers.CacheControl = "no-store";
        return Page();
    }
}

/// <summary>The cookie that lets a device come back to its attempt.</summary>
internal static class DeviceCookie
{
    public static string Name(Publication publication) => $"fenster-attempt-{publication.Id}";

    public static void Set(HttpContext context, Publication publication, string secret) =>
        context.Response.Cookies.Append(
            Name(publication),
            secret,
            new()
            {
                HttpOnly = true,
                IsEssential = true,
                MaxAge = TimeSpan.FromDays(90),
                SameSite = SameSiteMode.Lax,
                Secure = context.Request.IsHttps,
            }
        );
}
