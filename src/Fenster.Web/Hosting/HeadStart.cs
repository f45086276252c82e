using Fenster.Store;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Mvc.Razor;

namespace Fenster.Web.Hosting;

/// <summary>What the first page needs, made while the routes are still being mapped.</summary>
internal static class HeadStart
{
    public static void Take(IServiceProvider services)
    {
        services.GetRequiredService<Assets>();
        services.GetRequiredService<Teachers>().Any();
        services.GetRequiredService<IRazorViewEngine>().GetView(null, "/Pages/Shared/_Layout.cshtml", isMainPage: false);
        // The keys are read, and the code that seals with them is loaded.
        using var scope = services.CreateScope();
        services.GetRequiredService<IAntiforgery>().GetTokens(new DefaultHttpContext { RequestServices = scope.ServiceProvider });
    }
}
