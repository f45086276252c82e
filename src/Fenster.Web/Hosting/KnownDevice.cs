using System.Security.Cryptography;
using Microsoft.AspNetCore.DataProtection;

namespace Fenster.Web.Hosting;

/// <summary>A mark on devices that were let in once, by a right password or code.</summary>
internal static class KnownDevice
{
    private static string CookieOf(string by) => $"fenster-known-{by.Split(' ')[0]}";

    private static IDataProtector Protector(HttpContext context) =>
        context.RequestServices.GetRequiredService<IDataProtectionProvider>().CreateProtector("Fenster.KnownDevice");

    /// <summary>The device's own name; null for one that was not let in by this.</summary>
    /// <param name="by">What let it in: a code, or the password of an account.</param>
    public static string? Of(HttpContext context, string by)
    {
        if (context.Request.Cookies[CookieOf(by)] is not { Length: > 0 and < 1000 } mark)
            return null;
        try
        {
            return Protector(context).Unprotect(mark) is var name && name.StartsWith($"{by}\n", StringComparison.Ordinal) ? name : null;
        }
        catch (CryptographicException)
        {
            return null;
        }
    }

    /// <summary>Marks the device, unless it is marked so already.</summary>
    /// <param name="whose">Who is counted together, on whichever device; null for this device alone.</param>
    public static void Remember(HttpContext context, string by, string? whose = null)
    {
        if (Of(context, by) is { } known && (whose is null || known == $"{by}\n{whose}"))
            return;
        context.Response.Cookies.Append(
            CookieOf(by),
            Protector(context).Protect($"{by}\n{whose ?? $"{Guid.NewGuid():n}"}"),
            new()
            {
                HttpOnly = true,
                IsEssential = true,
                MaxAge = TimeSpan.FromDays(365),
                SameSite = SameSiteMode.Lax,
                Secure = context.Request.IsHttps,
            }
        );
    }
}
