// ./fenster mark ACTIVITY.json RESPONSES.json: marks a file of responses and prints one JSON document.
// ./fenster proof ACTIVITY.json: prints what the proof finds.
// ./fenster insight ACTIVITY.json RESPONSES.json [--svg DIR]: prints figures and findings, and draws the layers over each pane.

using System.Globalization;
using System.Text;
using Fenster.Core.Proofing;
using Fenster.Formats.Documents;
using Fenster.Words;

Console.OutputEncoding = new UTF8Encoding(encoderShouldEmitUTF8Identifier: false);
CultureInfo.CurrentCulture = CultureInfo.InvariantCulture;
try
{
    switch (args)
    {
        case ["mark", var keyFile, var responses]:
            // What can't be marked is refused before anything is written.
            var key = ActivityDocument.Read(Text(keyFile));
            Each(responses, each => MarkDocument.Refuse(key, each));
            using (var output = Console.OpenStandardOutput())
            {
                Each(responses, each => MarkDocument.Write(key, each, output, Console.Error.WriteLine));
                output.Write("\n"u8);
            }
            return 0;
        case ["proof", var file]:
            var activity = ActivityDocument.Read(Text(file));
            foreach (var pane in activity.Panes)
            {
                var rules = activity.RulesOf(pane).Score;
                var guess = Guessing.Of(pane, rules);
                var error = guess.ShareError > 0 ? $" ± {100 * guess.ShareError:0.#}" : "";
                Console.WriteLine(
                    $"{pane.Id}: {pane.PossiblePoints:0.####} points; guessing earns "
                        + $"{guess.Points:0.###} of them ({100 * guess.Share:0.#}{error} %)."
                );
                foreach (var finding in Proof.Read(pane, rules))
                    Console.WriteLine(
                        $"  {finding.Weight.ToString().ToLowerInvariant().PadRight(7)} "
                            + $"{(finding.About is { } about ? $"{about}: " : "")}{Language.English.Say(finding.Said)}"
                    );
            }
            return 0;
        case ["insight", var given, var answers, .. var more] when more is [] or ["--svg", _]:
            var (studied, works) = (ActivityDocument.Read(Text(given)), ResponsesDocument.Read(Text(answers)));
            var read = InsightDocument.Read(studied, works);
            if (more is [_, var folder])
                foreach (var (name, drawing) in InsightDocument.Drawings(studied, read))
                    Save(Path.Combine(folder, name), drawing);
            Console.WriteLine(InsightDocument.Write(studied, works, read));
            return 0;
        default:
            Console.Error.WriteLine(
                "Usage: fenster mark ACTIVITY.json RESPONSES.json, fenster proof ACTIVITY.json, or fenster insight ACTIVITY.json RESPONSES.json [--svg DIR]"
            );
            return 2;
    }
}
catch (DocumentRefused refused)
{
    Console.Error.WriteLine(refused.Message);
    return 2;
}

static void Save(string file, string text)
{
    try
    {
        Directory.CreateDirectory(Path.GetDirectoryName(file)!);
        File.WriteAllText(file, text);
    }
    catch (Exception exception) when (IsOfFile(exception))
    {
        throw new DocumentRefused("", $"The file '{file}' can't be written: {exception.Message}");
    }
}

static void Each(string file, Action<IEnumerable<StudentResponses>> use)
{
    try
    {
        // Other encodings that say so at their beginning are read too.
        using var reader = new StreamReader(file);
        _ = reader.Peek();
        using var stream = File.OpenRead(file);
        using var utf8 = Encoding.CreateTranscodingStream(stream, reader.CurrentEncoding, Encoding.UTF8);
        use(ResponsesDocument.ReadEach(utf8));
    }
    catch (Exception exception) when (IsOfFile(exception))
    {
        throw new DocumentRefused("", $"The file '{file}' can't be read: {exception.Message}");
    }
}

static bool IsOfFile(Exception exception) =>
    exception is IOException or UnauthorizedAccessException or ArgumentException or NotSupportedException;

static string Text(string file)
{
    try
    {
        return File.ReadAllText(file);
    }
    catch (Exception exception) when (IsOfFile(exception))
    {
        throw new DocumentRefused("", $"The file '{file}' can't be read: {exception.Message}");
    }
}
