using System.Globalization;
using System.Text;
using System.Text.Json;
using Fenster.Testing;

namespace Fenster.Bench;

/// <summary>
/// How well printed names are read: thirty diagrams, drawings of the shipped library with eight names printed around each, in six
/// fonts; at three sizes, as JPEG and turned. The figures are written into docs/reading.md.
/// </summary>
internal static class ReadingCorpus
{
    private const int Diagrams = 30;
    private const int NamesOnEach = 8;

    private static readonly string[] Fonts =
    [
        "DejaVu Sans",
        "DejaVu Serif",
        "DejaVu Sans Mono",
        "DejaVu Sans Condensed",
        "Atkinson Hyperlegible Next",
        "Bricolage Grotesque",
    ];

    /// <param name="Gap">From a name to its line, in units of which the picture has 1000; below 0 the line touches the last letter.</param>
    private sealed record Look(string Words, int Width, double Turn, bool IsJpeg, double Gap = 8);

    private static readonly Look[] Looks =
    [
        new("clean, 700 px wide", 700, 0, false),
        new("clean, 1000 px wide", 1000, 0, false),
        new("clean, 1600 px wide", 1600, 0, false),
        new("JPEG of quality 60, 1000 px", 1000, 0, true),
        new("turned by two degrees, 1000 px", 1000, 2, false),
        new("lines that touch the names, 1000 px", 1000, 0, false, -1),
        new("lines that touch the names, JPEG, 1000 px", 1000, 0, true, -1),
        new("lines that begin at the names, 1600 px", 1600, 0, false, 1),
    ];

    private sealed record Drawing(string File, string Title);

    private sealed record Result(int Found, int Right, int Unmarked, int Wrongly, string? Error);

    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web);

    public static async Task<int> Run()
    {
        var library = Path.Combine(RunningFenster.Repository, "src/Fenster.Web/wwwroot/library/library.json");
        var drawings = JsonSerializer.Deserialize<Drawing[]>(await File.ReadAllTextAsync(library), Json)!;
        var script = await File.ReadAllTextAsync(Path.Combine(RunningFenster.Repository, "bench/Fenster.Bench/corpus.js"));
        var names = drawings.Select(drawing => drawing.Title).Concat(Names).ToArray();
        using var fenster = new RunningFenster();
        using var browser = new Browser(fenster.Address);
        browser.Driver.Manage().Timeouts().AsynchronousJavaScript = TimeSpan.FromMinutes(2);
        browser.Go("/sign-in");
        var table = new StringBuilder("| pictures | names | found | read right | wrong and not marked | found where nothing is |\n");
        table.Append("| --- | --- | --- | --- | --- | --- |\n");
        foreach (var look in Looks)
        {
            var (found, right, unmarked, wrongly) = (0, 0, 0, 0);
            for (var i = 0; i < Diagrams; i++)
            {
                var wish = new
                {
                    drawings[i].File,
                    Font = Fonts[i % Fonts.Length],
                    FontSize = 16 + i / Fonts.Length % 3 * 2,
                    look.Width,
                    look.Turn,
                    look.IsJpeg,
                    look.Gap,
                    Names = Enumerable.Range(0, NamesOnEach).Select(n => names[(i * 11 + n * 7) % names.Length]),
                };
                var answer = browser.ScriptAsync(
                    $"const wish = JSON.parse(arguments[0]); const done = arguments[1]; (function () {{ {script} }})(wish, done)",
                    JsonSerializer.Serialize(wish, Json)
                );
                var result = JsonSerializer.Deserialize<Result>(JsonSerializer.Serialize(answer), Json)!;
                if (result.Error is { } error)
                    throw new InvalidOperationException(error);
                (found, right) = (found + result.Found, right + result.Right);
                (unmarked, wrongly) = (unmarked + result.Unmarked, wrongly + result.Wrongly);
            }
            const int all = Diagrams * NamesOnEach;
            string Share(int count) => (100.0 * count / all).ToString("0.0", CultureInfo.InvariantCulture) + " %";
            var line = $"| {look.Words} | {all} | {Share(found)} | {Share(right)} | {Share(unmarked)} | {wrongly} |\n";
            Console.Write(line);
            table.Append(line);
        }
        var page = Path.Combine(RunningFenster.Repository, "docs/reading.md");
        var text = await File.ReadAllTextAsync(page);
        var start = text.IndexOf("| pictures", StringComparison.Ordinal);
        var end = text.IndexOf("\n\n", start, StringComparison.Ordinal) + 1;
        await File.WriteAllTextAsync(page, text[..start] + table + text[end..]);
        return 0;
    }

    private static readonly string[] Names =
    [
        "Cell membrane",
        "Nucleus",
        "Mitochondrion",
        "Endoplasmic reticulum",
        "Golgi apparatus",
        "Vacuole",
        "Left ventricle",
        "Aorta",
        "Pulmonary artery",
        "Cornea",
        "Optic nerve",
        "Retina",
        "Sedimentary rock",
        "Outer core",
        "Mantle",
        "Condenser",
        "Round-bottom flask",
        "Thermometer",
        "Handlebar",
        "Chain ring",
        "Stigma",
        "Filament",
        "Sepal",
        "Dendrite",
        "Axon",
        "Myelin sheath",
    ];
}
