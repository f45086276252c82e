using System.Diagnostics;
using System.Text.Json;
using Fenster.Testing;

namespace Fenster.Bench;

/// <summary>
/// What Lighthouse says of the student's screens on its phone profile, as medians of five: placing, matching, and a result. It is fetched
/// from the npm registry when this line is first asked for.
/// </summary>
internal static class Lighthouse
{
    private const int Runs = 5;
    private static readonly string Folder = Path.Combine(RunningFenster.Repository, "bench", "lighthouse");
    private static readonly (string Category, double Wanted)[] Categories =
    [
        ("performance", 98),
        ("accessibility", 100),
        ("best-practices", 100),
    ];

    public static async Task<Line[]> Measure()
    {
        if (!Directory.Exists(Path.Combine(Folder, "node_modules")))
            await Run("npm", "ci", "--no-audit", "--no-fund");
        using var fenster = new RunningFenster();
        using var teacher = await new Visitor(fenster.Address).SignIn();
        var lines = new List<Line>();
        foreach (var (screen, activity) in ((string, int)[])[("placing", 1), ("matching", 3), ("result", 1)])
        {
            using var browser = new Browser(fenster.Address, width: 412, height: 823);
            browser.Go(await teacher.JoinPath(activity));
            browser.Enter($"Lighthouse {screen}");
            browser.See("#work[data-ready]");
            if (screen == "result")
            {
                browser.Click("#hand-in");
                browser.Click("#review-go");
                browser.See(".work.done");
            }
            var said = (await Run("node", "run.mjs", browser.DebuggerAddress, $"{Runs}"))
                .Split('\n', StringSplitOptions.RemoveEmptyEntries)
                .Select(line => JsonDocument.Parse(line).RootElement)
                .ToList();
            foreach (var (category, wanted) in Categories)
                lines.Add(
                    Line.AtLeast(
                        $"lighthouse {screen} {category}",
                        Line.Median(said.Select(run => run.GetProperty(category).GetDouble())),
                        wanted,
                        1
                    )
                );
            Console.Error.WriteLine(
                $"{screen}: {string.Join(", ", said[^1].GetProperty("failed").EnumerateArray().Select(id => id.GetString()))}"
            );
        }
        return [.. lines];
    }

    private static async Task<string> Run(string program, params string[] arguments)
    {
        using var process = Process.Start(
            new ProcessStartInfo(program, arguments) { RedirectStandardOutput = true, WorkingDirectory = Folder }
        )!;
        var said = await process.StandardOutput.ReadToEndAsync();
        await process.WaitForExitAsync();
        return process.ExitCode == 0 ? said : throw new InvalidOperationException($"{program} ended with {process.ExitCode}.");
    }
}
