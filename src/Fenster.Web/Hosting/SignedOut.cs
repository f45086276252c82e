using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;

namespace Fenster.Web.Hosting;

/// <summary>Sends a person to the sign-in page, and tells a script that the session has ended.</summary>
internal static class SignedOut
{
    public static Task Answer(RedirectContext<CookieAuthenticationOptions> context)
    {
        if (!Problems.WantsJson(context.Request))
        {
            // To the page of this very server: whatever host the request names is not taken for it.
            context.Response.Redirect(new Uri(context.RedirectUri).PathAndQuery);
            return Task.CompletedTask;
        }
        context.Response.StatusCode = StatusCodes.Status401Unauthorized;
        return context.Response.WriteAsJsonAsync(new { error = Languages.Of(context.HttpContext).Say("signIn.signedOut") });
    }
}
