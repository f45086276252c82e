using Microsoft.AspNetCore.Antiforgery;

namespace Fenster.Web.Hosting;

/// <summary>What the first page needs, made while the routes are still being mapped.</summary>
internal static class HeadStart
{
    public static void Take(IServiceProvider services)
    {
        services.GetRequiredService<Assets>();
        // The keys are read, and the code that seals with them is loaded.
        using var scope = services.CreateScope();
        services.GetRequiredService<IAntiforgery>().GetTokens(new DefaultHttpContext { RequestServices = scope.ServiceProvider });
    }
}
