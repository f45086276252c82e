namespace Fenster.Web.Hosting;

/// <summary>
/// The secret of a student's device once more, beside the one that its script keeps: by it the page brings the work along when the device
/// comes back, where the script would have to ask for it. It opens nothing else. It is sent to its own activity alone, never by a page that
/// another site led to or frames, and ends with the browser.
/// </summary>
internal static class DeviceCookie
{
    private const string Name = "fenster-device";

    public static string? Of(HttpRequest request) => request.Cookies[Name] is { Length: > 0 and < 200 } secret ? secret : null;

    /// <summary>Makes it what the script keeps.</summary>
    /// <param name="code">Of the assignment.</param>
    /// <param name="secret">Null for a device that is nobody's, or that has to forget.</param>
    public static void Follow(HttpContext context, string code, string? secret)
    {
        if (Of(context.Request) == secret)
            return;
        var options = new CookieOptions
        {
            HttpOnly = true,
            IsEssential = true,
            Path = $"/do/{code}",
            SameSite = SameSiteMode.Strict,
            Secure = context.Request.IsHttps,
        };
        if (secret is null)
            context.Response.Cookies.Delete(Name, options);
        else
            context.Response.Cookies.Append(Name, secret, options);
    }
}
