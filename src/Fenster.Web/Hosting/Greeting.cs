using Fenster.Store;
using Fenster.Web.Demo;

namespace Fenster.Web.Hosting;

/// <summary>What the console says once the application answers.</summary>
internal static class Greeting
{
    public static void Print(WebApplication app, bool demo)
    {
        var address = app.Urls.First();
        Console.WriteLine();
        Console.WriteLine($"Fenster is ready: {address}");
        if (demo)
        {
            Console.WriteLine($"Teacher's sign-in: {SailingSchool.Email}   password: {SailingSchool.Password}");
            Console.WriteLine($"Students join with the code that an activity's share page shows.");
        }
        else if (!app.Services.GetRequiredService<Teachers>().Any())
        {
            Console.WriteLine($"Open {address}/first-run to make the first teacher. These words let you, once:");
            Console.WriteLine($"First words: {app.Services.GetRequiredService<FirstWords>().Words}");
        }
        Console.WriteLine("Ctrl-C stops it.");
    }
}
